// What looks like a family, and which of it may be used: for a job, or for oneself.
import { useState } from "react";
import { View } from "react-native";
import { count } from "../../core/words/words.ts";
import { useAlike, useJobs } from "../data/hooks.ts";
import { Choice } from "../parts/Choice.tsx";
import { Drawer, DrawerRow } from "../parts/Drawer.tsx";
import { Screen } from "../parts/Screen.tsx";
import { Loaded } from "../parts/Status.tsx";
import { Body, Small } from "../parts/Text.tsx";
import { AlikeRows, isCleared } from "./match/AlikeRows.tsx";

export function AlikeScreen({ familyId, jobId }: { familyId: number; jobId: number | null }) {
  const [job, setJob] = useState(jobId);
  const answer = useAlike(familyId, job);
  const jobs = useJobs();
  const jobNames = Object.fromEntries((jobs.data ?? []).map((one) => [String(one.id), one.name]));
  return (
    <Screen
      title={answer.data ? `Like ${answer.data.family}` : "Look-alikes"}
      note="Measured on the letters’ shapes, within your library."
      back={`/family/${familyId}`}
      testID="alike-screen"
    >
      {jobs.data && jobs.data.length > 0 ? (
        <View className="mb-4 items-start">
          <Choice
            label="Cleared for"
            none="Cleared for my own use"
            words={jobNames}
            value={job === null ? undefined : String(job)}
            onChange={(next) => setJob(next === undefined ? null : Number(next))}
            testID="alike-job"
          />
        </View>
      ) : null}
      <Loaded answer={answer} what="Comparing letters">
        {(view) => {
          const cleared = view.families.filter(isCleared);
          const others = view.families.filter((one) => !isCleared(one));
          const asked = view.asked === "" ? "your own use" : `“${view.asked}”`;
          return (
            <>
              {view.unmeasured > 0 ? (
                <Small className="mb-3">{`${count(view.unmeasured, "style")} of this family still being measured; look again in a moment.`}</Small>
              ) : null}
              <Drawer label={`Cleared for ${asked}`} note={String(cleared.length)} testID="alike-cleared">
                {cleared.length > 0 ? (
                  <AlikeRows view={view} families={cleared} jobId={job} />
                ) : (
                  <DrawerRow first>
                    <Body>{`Nothing that looks like it is cleared for ${asked}.`}</Body>
                  </DrawerRow>
                )}
              </Drawer>
              {others.length > 0 ? (
                <Drawer label="Not cleared, or nothing stated" note={String(others.length)} testID="alike-others">
                  <AlikeRows view={view} families={others} jobId={job} />
                </Drawer>
              ) : null}
            </>
          );
        }}
      </Loaded>
    </Screen>
  );
}
