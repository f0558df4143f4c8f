// A job's form: name, uses, words, languages, families, devices.
import { useRouter } from "expo-router";
import { useCallback, useState, type ReactNode } from "react";
import { JobDetail, JobRequest } from "../../../contract/jobs.ts";
import { USE_WORDS, USES } from "../../../core/clearance/uses.ts";
import { count } from "../../../core/words/words.ts";
import { send } from "../../data/api.ts";
import { useChoosing } from "../../data/choosing.ts";
import { useDevices, useFamilies, useJob, useLanguages } from "../../data/hooks.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Field } from "../../parts/Field.tsx";
import { FieldProblem, TextField, useContractForm, useToggle } from "../../parts/form.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Loaded } from "../../parts/Status.tsx";
import { Small } from "../../parts/Text.tsx";
import { Tick } from "../../parts/Tick.tsx";
import { SAY } from "../../sentences/jobs/job.ts";

const EMPTY: JobRequest = { name: "", uses: ["own"], languages: [], words: "", familyIds: [], deviceIds: [] };

function Languages({ chosen, onChange }: { chosen: readonly string[]; onChange: (tags: string[]) => void }) {
  const languages = useLanguages().data ?? [];
  const names = new Map(languages.map((one) => [one.tag, one.name]));
  const others = Object.fromEntries(languages.filter((one) => !chosen.includes(one.tag)).map((one) => [one.tag, one.name]));
  return (
    <Drawer label={SAY.languages} note={chosen.length > 0 ? count(chosen.length, "language") : undefined}>
      {chosen.map((tag, i) => (
        <Tick key={tag} first={i === 0} label={names.get(tag) ?? tag} on onChange={() => onChange(chosen.filter((one) => one !== tag))} />
      ))}
      <DrawerRow first={chosen.length === 0}>
        <Choice
          label={SAY.addALanguage}
          none={SAY.addALanguage}
          words={others}
          value={undefined}
          onChange={(tag) => tag && onChange([...chosen, tag])}
          testID="add-language"
        />
      </DrawerRow>
    </Drawer>
  );
}

/** Families by name; those chosen stand first, so that a long shelf hides none of them. */
function Families({ chosen, onChange }: { chosen: readonly number[]; onChange: (ids: number[]) => void }) {
  const [search, setSearch] = useState("");
  const answer = useFamilies({ search, limit: 60 });
  const all = useFamilies({ limit: 500 });
  const names = new Map((all.data?.families ?? []).map((family) => [family.id, family.name]));
  const others = (answer.data?.families ?? []).filter((family) => !chosen.includes(family.id));
  return (
    <Drawer label={SAY.familiesWanted} note={chosen.length > 0 ? SAY.chosenChosen(chosen.length) : undefined}>
      {chosen.map((id, i) => (
        <Tick
          key={id}
          first={i === 0}
          label={names.get(id) ?? "…"}
          on
          onChange={() => onChange(chosen.filter((one) => one !== id))}
          testID="chosen-family"
        />
      ))}
      <DrawerRow first={chosen.length === 0}>
        <Field label={SAY.findAFamilyByName} value={search} onChange={setSearch} testID="job-search" />
        {answer.data && answer.data.total > 60 ? <Small>{SAY.theFirst60OfTotal(answer.data.total)}</Small> : null}
      </DrawerRow>
      {others.map((family) => (
        <Tick key={family.id} label={family.name} on={false} onChange={() => onChange([...chosen, family.id])} testID="other-family" />
      ))}
    </Drawer>
  );
}

function Form({ start, id, children }: { start: JobRequest; id: number | undefined; children?: ReactNode }) {
  const form = useContractForm(JobRequest, start);
  const { languages, familyIds } = form.watch();
  const uses = useToggle({ form, name: "uses" });
  const made = useToggle({ form, name: "deviceIds" });
  const router = useRouter();
  const devices = useDevices();
  const save = useAction(
    useCallback(
      async (request: JobRequest) => {
        const saved = await send("POST", id === undefined ? "/jobs" : `/jobs/${id}`, JobDetail, request);
        router.replace(`/job/${saved.id}`);
      },
      [id, router],
    ),
  );
  return (
    <Screen
      title={id === undefined ? SAY.aNewJob : SAY.changeTheJob}
      back={id === undefined ? "/jobs" : `/job/${id}`}
      testID="job-form"
      action={
        <Button
          strong
          label={id === undefined ? SAY.createTheJob : SAY.keepTheChanges}
          busy={save.busy}
          onPress={() => void form.handleSubmit(save.run)()}
          testID="save-job"
        />
      }
    >
      {save.problem ? <ApiProblemNote problem={save.problem} /> : null}
      {children}
      <TextField form={form} name="name" label={SAY.name} placeholder={SAY.plantMarkersForTheShop} testID="job-name" />
      <Drawer label={SAY.whatItIsFor}>
        {USES.map((use, i) => (
          <Tick
            key={use}
            first={i === 0}
            label={USE_WORDS[use]}
            on={uses.has(use)}
            onChange={(on) => uses.put(use, on)}
            testID={`job-use-${use}`}
          />
        ))}
      </Drawer>
      <FieldProblem form={form} name="uses" />
      <TextField form={form} name="words" label={SAY.wordsThatWillBeSet} hint={SAY.everyCharacterOfThemIs} lines={3} testID="job-words" />
      <Languages chosen={languages} onChange={(tags) => form.setValue("languages", tags, { shouldValidate: true })} />
      <FieldProblem form={form} name="languages" />
      <Families chosen={familyIds} onChange={(ids) => form.setValue("familyIds", ids, { shouldValidate: true })} />
      <FieldProblem form={form} name="familyIds" />
      <Drawer label={SAY.madeOn}>
        {(devices.data ?? []).map((device, i) => (
          <Tick
            key={device.id}
            first={i === 0}
            label={device.name}
            on={made.has(device.id)}
            onChange={(on) => made.put(device.id, on)}
            testID={`job-device-${device.name}`}
          />
        ))}
      </Drawer>
    </Screen>
  );
}

/** `withChosen`: a new job begins with the families that are chosen in the list. */
export function JobFormScreen({ id, withChosen = false }: { id?: number; withChosen?: boolean }) {
  const answer = useJob(id);
  const { chosen } = useChoosing("families");
  const familyIds = withChosen ? [...(chosen?.keys ?? [])].map(Number) : [];
  if (id === undefined) return <Form start={{ ...EMPTY, familyIds }} id={undefined} />;
  return (
    <Loaded answer={answer} what={SAY.openingTheJob}>
      {({ name, uses, languages, words, familyIds, deviceIds }) => (
        <Form key={id} start={{ name, uses, languages, words, familyIds, deviceIds }} id={id} />
      )}
    </Loaded>
  );
}
