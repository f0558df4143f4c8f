// One job: for every family wanted whether it is cleared, draws the words, is placed and was seen; and what to hand to the client.
import { Link, useRouter } from "expo-router";
import { useCallback } from "react";
import { View } from "react-native";
import { JobDetail as JobDetailSchema, RoleRequest, type JobDetail, type JobFamily } from "../../../contract/jobs.ts";
import { count, listWords } from "../../../core/words/words.ts";
import { Done, send } from "../../data/api.ts";
import { useJob } from "../../data/hooks.ts";
import { offerUndo } from "../../data/undo.ts";
import { useRemember } from "../../data/lastUsed.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { CopyButton } from "../../parts/CopyButton.tsx";
import { AnswerMark } from "../../parts/Clearance.tsx";
import { TextField, useKeptForm } from "../../parts/form.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Download, Trash2 } from "../../parts/icons.ts";
import { LinkRow } from "../../parts/LinkRow.tsx";
import { SeedMark } from "../../parts/Marks.tsx";
import { InRow, Screen } from "../../parts/Screen.tsx";
import { Specimen } from "../../parts/Specimen.tsx";
import { ApiProblemNote, Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { JobDevices } from "./JobDevices.tsx";
import { saveFrom } from "../../web/download.ts";
import { usesWords } from "./JobsScreen.tsx";
import { SAY } from "../../sentences/jobs/job.ts";

function Point({ label, words, good, mark }: { label: string; words: string; good: boolean; mark?: React.ReactNode }) {
  return (
    <View className="flex-row items-center gap-2 py-1">
      <View className="w-6 items-center">{mark ?? <SeedMark state={good ? "seen" : "due"} size={20} />}</View>
      <Small className="w-16 text-ink">{label}</Small>
      <Small className={`min-w-0 flex-1 ${good ? "" : "text-ink"}`}>{words}</Small>
    </View>
  );
}

/** What the family is for in the job: kept when the field is left. */
function Role({ family, jobId }: { family: JobFamily; jobId: number }) {
  const form = useKeptForm(RoleRequest, { familyId: family.id, role: family.role });
  const keep = useAction(
    useCallback(
      async (request: RoleRequest) => {
        if (request.role !== family.role) await send("POST", `/jobs/${jobId}/role`, JobDetailSchema, request);
      },
      [family.role, jobId],
    ),
  );
  const done = () => void form.handleSubmit(keep.run)();
  return (
    <>
      {keep.problem ? <ApiProblemNote problem={keep.problem} /> : null}
      <TextField
        form={form}
        name="role"
        label={SAY.whatItIsFor}
        onLeave={done}
        onDone={done}
        placeholder={SAY.headlineHebrewText}
        testID="job-role"
      />
    </>
  );
}

/** Which family sets which language. */
function Languages({ job }: { job: JobDetail }) {
  if (job.whoSets.length === 0) return null;
  return (
    <Drawer label={SAY.languages} testID="job-languages">
      {job.whoSets.map(({ language, families }, i) =>
        families.length > 0 ? (
          <DrawerRow key={language} first={i === 0}>
            <Strong>{language}</Strong>
            <Small>{listWords(families)}</Small>
          </DrawerRow>
        ) : (
          <LinkRow
            key={language}
            first={i === 0}
            label={SAY.languageNoFamilyYet(language)}
            note={SAY.findOneInYourLibrary}
            href={`/families?search=${encodeURIComponent(language)}`}
            testID="find-language"
          />
        ),
      )}
    </Drawer>
  );
}

function Family({ family, words, first, jobId }: { family: JobFamily; words: string; first: boolean; jobId: number }) {
  const missingOn = family.placed.filter((one) => !one.placed).map((one) => one.name);
  return (
    <DrawerRow first={first} testID="job-family">
      {/* The name is read before the specimen and stands below it. */}
      <View className="flex-col-reverse">
        <Link href={`/family/${family.id}`} className="w-full">
          <View className="min-h-[44px] w-full justify-center">
            <Strong lines={1} className="underline">
              {family.name}
            </Strong>
          </View>
        </Link>
        <Specimen specimen={family.specimen} words={words} size={30} covered={family.coversText} lines={1} />
      </View>
      <Role family={family} jobId={jobId} />
      <Point
        label={SAY.cleared}
        words={family.clearedWords + (family.term && family.term.state !== "not-begun" ? `. ${family.term.words}` : "")}
        good={family.cleared === "yes" || family.cleared === "credit"}
        mark={<AnswerMark answer={family.cleared} />}
      />
      <Point label={SAY.draws} words={family.draws.words} good={family.draws.good} />
      <Point
        label={SAY.placed}
        words={
          family.placed.length === 0
            ? SAY.noDeviceChosen
            : missingOn.length === 0
              ? SAY.onEveryDevice
              : SAY.notOnMissingOn(listWords(missingOn, "or"))
        }
        good={family.placed.length > 0 && missingOn.length === 0}
      />
      <Point label={SAY.seen} words={family.seenWords} good={family.seen} />
      {family.warnings.map((warning) => (
        <Small key={warning} className="mt-1 border-l-2 border-warning pl-3 text-warning" testID="job-warning">
          {warning}
        </Small>
      ))}
      {family.cleared === "no" || family.cleared === "not-stated" ? (
        <Link href={`/alike/${family.id}?job=${jobId}`} className="w-full" testID="alike-cleared-link">
          <View className="min-h-[44px] w-full justify-center">
            <Body className="underline">{SAY.lookAlikesThatAreCleared}</Body>
          </View>
        </Link>
      ) : null}
    </DrawerRow>
  );
}

function Choices({ job }: { job: JobDetail }) {
  if (job.choices.length === 0) return null;
  const named = (chosen: boolean) => job.choices.filter((one) => one.chosen === chosen).map(({ family, style }) => `${family} ${style}`);
  const considered = named(false);
  return (
    <Drawer label={SAY.decidedAtTheBench} testID="choices">
      <DrawerRow first>
        <Strong>{SAY.chosenJoin(named(true).join(", "))}</Strong>
        {considered.length > 0 ? <Small>{SAY.consideredConsidered(considered.join(", "))}</Small> : null}
      </DrawerRow>
      {[...new Set(job.choices.map(({ sheetId }) => sheetId))].map((sheetId) => (
        <LinkRow key={sheetId} href={`/bench/sheet/${sheetId}`} label={SAY.theSheetItWasDecided} />
      ))}
    </Drawer>
  );
}

function CreditLines({ job }: { job: JobDetail }) {
  if (job.creditLines.length === 0) return null;
  const text = job.creditLines.join("\n");
  return (
    <Drawer label={SAY.creditLines}>
      <DrawerRow first>
        {job.creditLines.map((line) => (
          <Body key={line} testID="credit-line">
            {line}
          </Body>
        ))}
        <View className="mt-2 flex-row">
          <CopyButton text={text} label={SAY.copyThem} testID="copy-credit" />
        </View>
      </DrawerRow>
    </Drawer>
  );
}

export function JobScreen({ id }: { id: number }) {
  const answer = useJob(id);
  useRemember("job", id, answer);
  const router = useRouter();
  const remove = useAction(
    useCallback(async () => {
      await send("POST", `/jobs/${id}/remove`, Done);
      offerUndo(SAY.theJobWasRemoved, () => send("POST", `/jobs/${id}/bring-back`, Done));
      router.replace("/jobs");
    }, [id, router]),
  );
  const job = answer.data;
  return (
    <Screen
      title={job?.name ?? SAY.job}
      note={job ? SAY.whatForAndHowReady(usesWords(job.uses), job.readyFamilies, job.families.length) : undefined}
      back="/jobs"
      testID="job"
      action={
        job && job.families.length > 0 ? (
          <InRow>
            <Button
              strong
              icon={Download}
              label={SAY.permissionSheet}
              onPress={() => saveFrom(`/api/jobs/${id}/sheet.html`)}
              className="flex-1"
              testID="sheet-html"
            />
            <Button label={SAY.asATable} hint={SAY.csv} onPress={() => saveFrom(`/api/jobs/${id}/sheet.csv`)} testID="sheet-csv" />
          </InRow>
        ) : job ? (
          <Button strong label={SAY.chooseFamilies} onPress={() => router.push(`/job/edit/${id}`)} testID="edit-job" />
        ) : undefined
      }
    >
      {remove.problem ? <ApiProblemNote problem={remove.problem} /> : null}
      <Loaded answer={answer} what={SAY.openingTheJob}>
        {(value) => (
          <>
            <Drawer label={SAY.families} note={count(value.families.length, "family", "families")}>
              {value.families.length === 0 ? (
                <DrawerRow first>
                  <Body>{SAY.noFamilyIsChosenFor}</Body>
                </DrawerRow>
              ) : (
                value.families.map((family, i) => (
                  <Family key={family.id} family={family} words={value.words || value.name} first={i === 0} jobId={value.id} />
                ))
              )}
            </Drawer>
            <Languages job={value} />
            <JobDevices job={value} />
            <Choices job={value} />
            <CreditLines job={value} />
            <View className="flex-row flex-wrap gap-2">
              {value.families.length > 0 ? (
                <Button label={SAY.changeTheJob} onPress={() => router.push(`/job/edit/${id}`)} testID="edit-job" />
              ) : null}
              <Button icon={Trash2} label={SAY.remove} busy={remove.busy} onPress={remove.run} testID="remove-job" />
            </View>
          </>
        )}
      </Loaded>
    </Screen>
  );
}
