// Not there? Ranked reasons, each with what it is suspected from, a test that tells, and its fix, at one tap where Buvano can do it.
import { Link, useRouter } from "expo-router";
import { useCallback, useState } from "react";
import { View } from "react-native";
import { Rescan } from "../../../contract/devices.ts";
import { ProgramSummary } from "../../../contract/programs.ts";
import type { Cell, Diagnosis } from "../../../contract/sightings.ts";
import { send } from "../../data/api.ts";
import { useDiagnosis } from "../../data/hooks.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { ApiProblemNote, Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { saveFrom } from "../../web/download.ts";
import { usePlanning } from "../placing/planning.ts";
import { SAY } from "../../sentences/sightings/cell.ts";

type Reason = Diagnosis["reasons"][number];
const ACT_WORDS: Record<NonNullable<Reason["act"]>, string> = {
  place: SAY.planPlacingIt,
  "switch-on": SAY.planTurningItOn,
  "look-again": SAY.lookAtTheDeviceAgain,
  reopen: SAY.iHaveReopenedIt,
  load: SAY.openTheProgram,
  renew: SAY.recordALicence,
  duplicates: SAY.compareTheCopies,
};

export function NotThere({ cell, open: startsOpen }: { cell: Cell; open: boolean }) {
  const [opened, setOpened] = useState(false);
  const open = opened || startsOpen;
  const answer = useDiagnosis(open ? cell : null);
  const router = useRouter();
  const { mutate } = answer;
  const { run: plan, problem: noPlan } = usePlanning();
  const act = useAction(
    useCallback(
      async (what: NonNullable<Reason["act"]>, { deviceId, familyId, account, programId, styleId }: Diagnosis) => {
        if (what === "place" || what === "switch-on") {
          return plan({ deviceId, action: what, account, familyIds: [familyId] });
        }
        if (what === "renew") return router.push(`/licence?family=${familyId}`);
        if (what === "duplicates") return router.push(`/duplicates?device=${deviceId}`);
        // A program that is really there is given the file by its own means.
        if (what === "load" && !cell.practice) return saveFrom(`/api/styles/${styleId}/file`);
        if (what === "look-again") await send("POST", `/devices/${deviceId}/rescan`, Rescan);
        else if (cell.practice) return router.push(`/practice/${programId}?style=${styleId}`);
        else await send("POST", `/programs/${programId}/opened`, ProgramSummary);
        await mutate();
      },
      [cell.practice, router, mutate, plan],
    ),
  );
  if (!open) {
    return (
      <View className="mb-4 items-start">
        <Button label={SAY.notThere} hint={SAY.likelyReasons} onPress={() => setOpened(true)} testID="not-there" />
      </View>
    );
  }
  const words = (what: NonNullable<Reason["act"]>): string => {
    if (what === "load" && !cell.practice) return SAY.saveTheFileToLoad;
    return what === "reopen" && cell.practice ? SAY.openProgramName(cell.programName) : ACT_WORDS[what];
  };
  return (
    <Drawer label={SAY.notThereLikelyReasons} testID="diagnosis">
      {(act.problem ?? noPlan) ? <ApiProblemNote problem={(act.problem ?? noPlan)!} /> : null}
      <Loaded answer={answer} what={SAY.thinkingAboutIt}>
        {(value) =>
          value.reasons.length === 0 ? (
            <DrawerRow first>
              <Body>{SAY.noCauseFoundItIs}</Body>
            </DrawerRow>
          ) : (
            value.reasons.map((reason, i) => (
              <DrawerRow key={reason.code} first={i === 0} testID="reason">
                <Strong>
                  {i + 1}. {reason.reason}
                </Strong>
                <Small>{SAY.suspectedBecauseBecause(reason.because)}</Small>
                <Small>{SAY.toFindOutTest(reason.test)}</Small>
                <Body className="mt-1">{reason.fix}</Body>
                {reason.act ? (
                  <View className="mt-2 items-start">
                    <Button
                      label={words(reason.act)}
                      busy={act.busy}
                      onPress={() => act.run(reason.act!, value)}
                      testID={`act-${reason.act}`}
                    />
                  </View>
                ) : null}
              </DrawerRow>
            ))
          )
        }
      </Loaded>
      <Link href={`/bench/draws?style=${cell.styleId}`} className="w-full border-t border-edge" testID="empty-box">
        <View className="min-h-[48px] w-full justify-center px-3">
          <Strong className="underline">{SAY.anEmptyBoxInsteadOf}</Strong>
        </View>
      </Link>
    </Drawer>
  );
}
