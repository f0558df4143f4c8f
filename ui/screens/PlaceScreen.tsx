// Choosing where a family goes: device and account. What it would do is shown on the plan that follows.
import { Link, useRouter } from "expo-router";
import { useCallback, useState } from "react";
import { Pressable, View } from "react-native";
import { PlanView, type PlanRequest } from "../../contract/plan.ts";
import { send } from "../data/api.ts";
import { useDevices, useFamily } from "../data/hooks.ts";
import { useAction } from "../data/useAction.ts";
import { Button } from "../parts/Button.tsx";
import { Drawer } from "../parts/Drawer.tsx";
import { Tablet } from "../parts/icons.ts";
import { Screen } from "../parts/Screen.tsx";
import { ApiProblemNote, Loaded } from "../parts/Status.tsx";
import { Small, Strong } from "../parts/Text.tsx";
import { usePalette } from "../theme/theme.ts";

function Choice({
  label,
  note,
  chosen,
  first,
  onPress,
  testID,
}: {
  label: string;
  note?: string;
  chosen: boolean;
  first: boolean;
  onPress: () => void;
  testID?: string;
}) {
  return (
    <Pressable
      role="radio"
      aria-checked={chosen}
      testID={testID}
      onPress={onPress}
      className={`min-h-[52px] w-full flex-row items-center gap-3 px-3 py-2 active:opacity-60 ${first ? "" : "border-t border-edge"}`}
    >
      <View className={`h-5 w-5 items-center justify-center border-2 ${chosen ? "border-ink" : "border-faded"}`}>
        {chosen ? <View className="h-2.5 w-2.5 bg-ink" /> : null}
      </View>
      <View className="min-w-0 flex-1">
        <Strong>{label}</Strong>
        {note ? <Small>{note}</Small> : null}
      </View>
    </Pressable>
  );
}

export function PlaceScreen({ familyId }: { familyId: number }) {
  const devices = useDevices();
  const family = useFamily(familyId, "");
  const router = useRouter();
  const palette = usePalette();
  const [chosen, setChosen] = useState<number>();
  const [account, setAccount] = useState<"me" | "everyone">("me");
  const deviceId = chosen ?? devices.data?.[0]?.id;
  const there = family.data?.placements.filter((placement) => placement.deviceId === deviceId) ?? [];
  const on = there.some((placement) => placement.on);
  const draw = useAction(
    useCallback(
      async (action: PlanRequest["action"]) => {
        if (deviceId === undefined) return;
        const request: PlanRequest = { deviceId, action, account, familyIds: [familyId] };
        const plan = await send("POST", "/plans", PlanView, request);
        router.push(`/plan/${plan.id}`);
      },
      [deviceId, account, familyId, router],
    ),
  );
  return (
    <Screen
      title={`Place ${family.data?.name ?? ""}`}
      note="Nothing changes yet: the next screen shows every step first."
      back={`/family/${familyId}`}
      testID="place-screen"
      action={
        <>
          <Button
            strong
            label="Show the plan"
            busy={draw.busy}
            disabled={deviceId === undefined}
            onPress={() => draw.run("place")}
            testID="draw-plan"
          />
          {there.length > 0 ? (
            <View className="flex-row gap-2">
              <Button
                label={on ? "Plan switching it off" : "Plan switching it on"}
                disabled={draw.busy}
                onPress={() => draw.run(on ? "switch-off" : "switch-on")}
                className="flex-1"
                testID="draw-switch"
              />
              <Button
                label="Plan taking it off"
                disabled={draw.busy}
                onPress={() => draw.run("remove")}
                className="flex-1"
                testID="draw-removal"
              />
            </View>
          ) : null}
        </>
      }
    >
      {draw.problem ? <ApiProblemNote problem={draw.problem} /> : null}
      <Loaded answer={devices} what="Looking at the devices">
        {(list) => (
          <View role="radiogroup" aria-label="Device">
            <Drawer label="On which device">
              {list.map((device, i) => (
                <Choice
                  key={device.id}
                  first={i === 0}
                  label={device.name}
                  note={device.programs.map((program) => program.name).join(", ")}
                  chosen={device.id === deviceId}
                  onPress={() => setChosen(device.id)}
                  testID={`device-${device.name}`}
                />
              ))}
            </Drawer>
          </View>
        )}
      </Loaded>
      <View role="radiogroup" aria-label="Account">
        <Drawer label="For whom">
          <Choice
            first
            label="For me"
            note="Only this account's programs find it."
            chosen={account === "me"}
            onPress={() => setAccount("me")}
          />
          <Choice
            first={false}
            label="For everyone"
            note="Every account's programs find it."
            chosen={account === "everyone"}
            onPress={() => setAccount("everyone")}
            testID="for-everyone"
          />
        </Drawer>
      </View>
      <Link href={`/tablet?family=${familyId}`} className="mb-4 w-full" testID="to-tablet">
        <View className="min-h-[52px] w-full flex-row items-center gap-3 border border-edge bg-drawer px-3">
          <Tablet size={22} color={palette.ink} aria-hidden />
          <View className="min-w-0 flex-1">
            <Strong>On a tablet of your own</Strong>
            <Small>By a profile that the tablet reads itself.</Small>
          </View>
        </View>
      </Link>
    </Screen>
  );
}
