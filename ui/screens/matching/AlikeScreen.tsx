// What looks like a family, and which of it may be used: for a job, or for oneself.
import { useState } from "react";
import { View } from "react-native";
import { useAlike, useJobs } from "../../data/hooks.ts";
import { Choice } from "../../parts/Choice.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { LinkRow } from "../../parts/LinkRow.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { Loaded } from "../../parts/Status.tsx";
import { Body, Small } from "../../parts/Text.tsx";
import { AlikeRows, isCleared } from "./AlikeRows.tsx";
import { SAY } from "../../sentences/matching/alike.ts";

export function AlikeScreen({ familyId, jobId }: { familyId: number; jobId: number | null }) {
  const [job, setJob] = useState(jobId);
  const answer = useAlike(familyId, job);
  const jobs = useJobs();
  const jobNames = Object.fromEntries((jobs.data ?? []).map((one) => [String(one.id), one.name]));
  return (
    <Screen
      title={answer.data ? SAY.likeFamily(answer.data.family) : SAY.lookAlikes}
      note={SAY.measuredOnTheLettersShapes}
      back={`/family/${familyId}`}
      testID="alike-screen"
    >
      {jobs.data && jobs.data.length > 0 ? (
        <View className="mb-4 items-start">
          <Choice
            label={SAY.clearedFor}
            none={SAY.clearedForMyOwnUse}
            words={jobNames}
            value={job === null ? undefined : String(job)}
            onChange={(next) => setJob(next === undefined ? null : Number(next))}
            testID="alike-job"
          />
        </View>
      ) : null}
      <Loaded answer={answer} what={SAY.comparingLetters}>
        {(view) => {
          const cleared = view.families.filter(isCleared);
          const others = view.families.filter((one) => !isCleared(one));
          const asked = view.asked === "" ? SAY.yourOwnUse : `“${view.asked}”`;
          return (
            <>
              {view.unmeasured > 0 ? <Small className="mb-3">{SAY.unmeasuredOfThisFamilyStill(view.unmeasured)}</Small> : null}
              <Drawer label={SAY.clearedForAsked(asked)} note={String(cleared.length)} testID="alike-cleared">
                {cleared.length > 0 ? (
                  <AlikeRows view={view} families={cleared} jobId={job} />
                ) : (
                  <DrawerRow first>
                    <Body>{SAY.nothingThatLooksLikeIt(asked)}</Body>
                  </DrawerRow>
                )}
              </Drawer>
              {others.length > 0 ? (
                <Drawer label={SAY.notClearedOrNothingStated} note={String(others.length)} testID="alike-others">
                  <AlikeRows view={view} families={others} jobId={job} />
                </Drawer>
              ) : null}
              <Drawer label={SAY.theWholeLibrary}>
                <LinkRow
                  first
                  href={`/families?sort=likeness&like=${familyId}`}
                  label={SAY.allFamiliesInThisOrder}
                  note={SAY.theNearestFirstWhateverThey}
                  testID="families-by-likeness"
                />
              </Drawer>
            </>
          );
        }}
      </Loaded>
    </Screen>
  );
}
