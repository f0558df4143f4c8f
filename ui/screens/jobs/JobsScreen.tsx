// Jobs: what fonts are wanted for.
import { Link, useRouter } from "expo-router";
import { View } from "react-native";
import type { JobSummary } from "../../../contract/jobs.ts";
import { USE_WORDS } from "../../../core/clearance/uses.ts";
import { begun, count, listWords } from "../../../core/words/words.ts";
import { useJobs } from "../../data/hooks.ts";
import { Button } from "../../parts/Button.tsx";
import { Plus } from "../../parts/icons.ts";
import { Screen } from "../../parts/Screen.tsx";
import { Empty, Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { SAY } from "../../sentences/jobs/job.ts";

export const usesWords = (uses: JobSummary["uses"]): string => begun(listWords(uses.map((use) => USE_WORDS[use].toLowerCase())));

function JobCard({ job, current }: { job: JobSummary; current: boolean }) {
  return (
    <Link href={`/job/${job.id}`} className="mb-3 w-full" testID="job-card" aria-current={current ? "true" : undefined}>
      <View className={`min-h-[64px] w-full justify-center border bg-drawer px-3 py-3 ${current ? "border-ink" : "border-edge"}`}>
        <Strong lines={1}>{job.name}</Strong>
        <Small>{SAY.whatForAndHowReady(usesWords(job.uses), job.readyFamilies, job.familyIds.length)}</Small>
        {job.warnings > 0 ? <Small className="text-warning">{count(job.warnings, "warning")}</Small> : null}
      </View>
    </Link>
  );
}

export function JobsScreen({ currentId }: { currentId?: number }) {
  const answer = useJobs();
  const router = useRouter();
  return (
    <Screen
      title={SAY.jobs}
      note={SAY.whatFontsAreWantedFor}
      back="/families"
      testID="jobs"
      action={
        <Button strong={!answer.data?.length} icon={Plus} label={SAY.aNewJob} onPress={() => router.push("/job/new")} testID="new-job" />
      }
    >
      <Loaded answer={answer} what={SAY.fetchingYourJobs}>
        {(jobs) =>
          jobs.length === 0 ? (
            <Empty title={SAY.noJobYet}>
              <Body>{SAY.aJobSaysWhatYou}</Body>
            </Empty>
          ) : (
            jobs.map((job) => <JobCard key={job.id} job={job} current={job.id === currentId} />)
          )
        }
      </Loaded>
    </Screen>
  );
}
