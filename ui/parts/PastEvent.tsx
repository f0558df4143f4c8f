// Something that happened, with its way back for as long as there is one.
import { useRouter } from "expo-router";
import { useCallback } from "react";
import { View } from "react-native";
import type { HistoryEvent } from "../../contract/history.ts";
import { Done, send } from "../data/api.ts";
import { when } from "../data/devices.ts";
import { useAction } from "../data/useAction.ts";
import { Button } from "./Button.tsx";
import { DrawerRow } from "./Drawer.tsx";
import { Undo2 } from "./icons.ts";
import { ApiProblemNote } from "./Status.tsx";
import { Body, Small } from "./Text.tsx";
import { SAY } from "../sentences/families/family.ts";

export function PastEvent({ event, first }: { event: HistoryEvent; first: boolean }) {
  const router = useRouter();
  const { id, undo } = event;
  const planId = undo?.planId;
  const back = useAction(
    useCallback(async () => {
      // A plan is taken back where its steps are shown; that may ask for a passcode.
      if (planId !== undefined) router.push(`/plan/${planId}`);
      else await send("POST", `/history/${id}/undo`, Done);
    }, [id, planId, router]),
  );
  return (
    <DrawerRow first={first} testID="past-event">
      {back.problem ? <ApiProblemNote problem={back.problem} /> : null}
      <Body>{event.sentence}</Body>
      <Small>{event.undone ? `${SAY.undone} · ${when(event.at)}` : when(event.at)}</Small>
      {undo ? (
        <View className="mt-2 items-start">
          <Button
            icon={Undo2}
            label={planId === undefined ? SAY.takeItBack : SAY.lookAtItOrTake}
            hint={event.sentence}
            busy={back.busy}
            onPress={back.run}
            testID="undo-past"
          />
        </View>
      ) : null}
    </DrawerRow>
  );
}
