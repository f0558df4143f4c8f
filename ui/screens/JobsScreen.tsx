// Jobs: what fonts are wanted for.
import { Link, useRouter } from "expo-router";
import { View } from "react-native";
import type { JobSummary } from "../../contract/job.ts";
import { USE_WORDS } from "../../core/clearance/uses.ts";
import { count } from "../../core/words/words.ts";
import { useJobs } from "../data/hooks.ts";
import { Button } from "../parts/Button.tsx";
import { Plus } from "../parts/icons.ts";
import { Screen } from "../parts/Screen.tsx";
import { Empty, Loaded } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";

export const usesWords = (uses: JobSummary["uses"]): string => uses.map((use) => USE_WORDS[use].toLowerCase()).join(", ");

function JobCard({ job, current }: { job: JobSummary; current: boolean }) {
  return (
    <Link href={`/job/${job.id}`} className="mb-3 w-full" testID="job-card" aria-current={current ? "true" : undefined}>
      <View className={`min-h-[64px] w-full justify-center border bg-drawer px-3 py-3 ${current ? "border-ink" : "border-edge"}`}>
        <Strong lines={1}>{job.name}</Strong>
        <Small>
          {usesWords(job.uses)} · {job.readyFamilies} of {count(job.familyIds.length, "family", "families")} ready
        </Small>
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
      title="Jobs"
      note="What fonts are wanted for: their uses, words and languages."
      back="/families"
      testID="jobs"
      action={
        <Button strong={!answer.data?.length} icon={Plus} label="A new job" onPress={() => router.push("/job/new")} testID="new-job" />
      }
    >
      <Loaded answer={answer} what="Fetching your jobs">
        {(jobs) =>
          jobs.length === 0 ? (
            <Empty title="No job yet.">
              <Body>
                A job says what you want to do: sell it, give it away, do it for a client. Buvano then tells for each family whether its
                licence allows that, whether it draws your words, and where it is placed and seen.
              </Body>
            </Empty>
          ) : (
            jobs.map((job) => <JobCard key={job.id} job={job} current={job.id === currentId} />)
          )
        }
      </Loaded>
    </Screen>
  );
}
