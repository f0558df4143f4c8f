// Naming a program and answering a few plain questions about how it treats fonts; a kind answers most of them.
import { useRouter } from "expo-router";
import { useCallback } from "react";
import { PLAIN_TRAITS, ProgramRequest, ProgramSummary, USUAL_TRAITS, type ProgramTraits } from "../../contract/program.ts";
import { Done, send } from "../data/api.ts";
import { KIND_WORDS } from "../data/devices.ts";
import { useDevice, useProgram } from "../data/hooks.ts";
import { offerUndo } from "../data/undo.ts";
import { useAction } from "../data/useAction.ts";
import { Button } from "../parts/Button.tsx";
import { Choice } from "../parts/Choice.tsx";
import { Drawer, DrawerRow } from "../parts/Drawer.tsx";
import { FieldProblem, TextField, useContractForm } from "../parts/form.tsx";
import { Trash2 } from "../parts/icons.ts";
import { RadioRow } from "../parts/RadioRow.tsx";
import { Screen } from "../parts/Screen.tsx";
import { ApiProblemNote, Loaded } from "../parts/Status.tsx";
import { Strong } from "../parts/Text.tsx";
import { Tick } from "../parts/Tick.tsx";
import { View } from "react-native";

const READS: Record<ProgramTraits["reads"][number], string> = {
  me: "Fonts placed for me",
  everyone: "Fonts placed for everyone",
  profile: "Fonts in profiles",
  own: "Fonts loaded into it by hand",
};
const WHEN: Record<ProgramTraits["readsWhen"], string> = {
  always: "By itself, while it is open",
  document: "When a document is opened",
  start: "Only after it was closed and opened again",
  "by-hand": "Only when a file is loaded into it",
};
const LISTS: Record<ProgramTraits["lists"], [label: string, note: string]> = {
  families: ["Families, with a list of styles", "All twelve styles of a family under one name."],
  "four-style": ["Families with bold and italic buttons", "A light or black weight stands under a name of its own."],
  "full-names": ["One long list of full names", "Every style by its whole name."],
  "postscript-names": ["One long list of short names without spaces", "As files and scripts name fonts."],
};
const SEARCH: Record<ProgramTraits["search"], string> = { beginning: "Names that begin with it", anywhere: "Names that hold it anywhere" };
const VARIABLE: Record<ProgramTraits["variable"], string> = {
  instances: "All its named styles",
  default: "One style of it",
  none: "Nothing of it",
};
const OTHERS: Record<ProgramTraits["otherScripts"], string> = { among: "Among the others, by name", after: "After all Latin ones" };
const FORMATS: Record<ProgramTraits["formats"][number], string> = { ttf: "It takes .ttf files", otf: "It takes .otf files" };
const FLAGS: readonly {
  key: "collections" | "colour" | "symbols" | "strict" | "fakesStyles" | "alternates" | "shapes" | "fallsBack" | "embeds" | "keeps";
  label: string;
  note: string;
}[] = [
  { key: "collections", label: "It takes collections", note: "Files that end in .ttc or .otc." },
  { key: "colour", label: "It takes coloured fonts", note: "Letters that bring their own colours." },
  { key: "symbols", label: "It lists fonts of symbols", note: "Fonts without an alphabet." },
  { key: "strict", label: "It draws as a browser does", note: "It refuses fonts that browsers refuse, over faults others pass over." },
  { key: "fakesStyles", label: "It fakes bold and italic", note: "It thickens or slants letters when a family has no such style." },
  { key: "alternates", label: "It can turn on other letterforms", note: "Small capitals, swashes, sets of alternatives." },
  { key: "shapes", label: "It sets right-to-left and joined scripts", note: "Hebrew from the right, Arabic letters joined." },
  { key: "fallsBack", label: "It borrows letters a font lacks", note: "Otherwise they are empty boxes." },
  { key: "keeps", label: "It keeps what is loaded into it", note: "Otherwise it is gone when the program closes." },
  { key: "embeds", label: "Its exports hold their fonts", note: "A PDF or drawing that looks the same elsewhere." },
];

const pick = <K extends string>(words: Record<K, string>, label: string, value: K, onChange: (value: K) => void, testID: string) => (
  <DrawerRow>
    <Strong className="mb-2">{label}</Strong>
    <Choice label={label} words={words} value={value} onChange={(next) => next && onChange(next)} testID={testID} />
  </DrawerRow>
);

function Form({ deviceId, known }: { deviceId: number; known: ProgramSummary | undefined }) {
  const router = useRouter();
  const device = useDevice(deviceId);
  const form = useContractForm(ProgramRequest, {
    deviceId,
    name: known?.name ?? "",
    kind: known?.kind ?? "design",
    traits: known?.traits ?? USUAL_TRAITS.design,
  });
  const { kind, traits: chosen } = form.watch();
  const traits = { ...PLAIN_TRAITS, ...chosen };
  const change = (part: Partial<ProgramTraits>) => form.setValue("traits", { ...traits, ...part }, { shouldValidate: true });
  const save = useAction(
    useCallback(
      async (request: ProgramRequest) => {
        await send("POST", known ? `/programs/${known.id}` : "/programs", ProgramSummary, request);
        router.replace(`/device/${deviceId}`);
      },
      [deviceId, known, router],
    ),
  );
  const remove = useAction(
    useCallback(async () => {
      if (!known) return;
      await send("POST", `/programs/${known.id}/remove`, Done);
      offerUndo(`${known.name} is off the list.`, () => send("POST", `/programs/${known.id}/bring-back`, Done));
      router.replace(`/device/${deviceId}`);
    }, [known, deviceId, router]),
  );
  const updated = useAction(
    useCallback(async () => {
      if (!known) return;
      await send("POST", `/programs/${known.id}/updated`, ProgramSummary);
      router.replace("/sightings");
    }, [known, router]),
  );
  const problem = save.problem ?? remove.problem ?? updated.problem;
  return (
    <Screen
      title={known ? known.name : "Name a program"}
      note={device.data ? `On ${device.data.name}. What you do not know, leave as it is; looking will tell.` : undefined}
      back={`/device/${deviceId}`}
      testID="program-form"
      action={
        <>
          <Button strong label="Keep it" busy={save.busy} onPress={() => void form.handleSubmit(save.run)()} testID="keep-program" />
          {known ? (
            <Button
              label="It was updated"
              hint="what was seen in it has to be looked for anew"
              busy={updated.busy}
              onPress={updated.run}
              testID="program-updated"
            />
          ) : null}
          {known ? <Button icon={Trash2} label="Remove" busy={remove.busy} onPress={remove.run} testID="remove-program" /> : null}
        </>
      }
    >
      {problem ? <ApiProblemNote problem={problem} /> : null}
      <TextField form={form} name="name" label="What you call it" testID="program-name" />
      <Drawer label="What kind it is" note="Answers the questions below">
        <DrawerRow first>
          <Choice
            label="Kind"
            words={KIND_WORDS}
            value={kind}
            onChange={(next) => {
              if (!next) return;
              form.setValue("kind", next);
              change(USUAL_TRAITS[next]);
            }}
            testID="program-kind"
          />
        </DrawerRow>
      </Drawer>
      <Drawer label="Which fonts it finds">
        {(Object.keys(READS) as (keyof typeof READS)[]).map((folder, i) => (
          <Tick
            key={folder}
            first={i === 0}
            label={READS[folder]}
            on={traits.reads.includes(folder)}
            onChange={(on) => change({ reads: on ? [...traits.reads, folder] : traits.reads.filter((one) => one !== folder) })}
          />
        ))}
      </Drawer>
      <FieldProblem form={form} name="traits.reads" />
      <View role="radiogroup" aria-label="When it notices a new font">
        <Drawer label="When it notices a new font">
          {(Object.keys(WHEN) as (keyof typeof WHEN)[]).map((key, i) => (
            <RadioRow
              key={key}
              first={i === 0}
              label={WHEN[key]}
              chosen={traits.readsWhen === key}
              onPress={() => change({ readsWhen: key })}
              testID={`when-${key}`}
            />
          ))}
        </Drawer>
      </View>
      <View role="radiogroup" aria-label="How its font list looks">
        <Drawer label="How its font list looks">
          {(Object.keys(LISTS) as (keyof typeof LISTS)[]).map((key, i) => (
            <RadioRow
              key={key}
              first={i === 0}
              label={LISTS[key][0]}
              note={LISTS[key][1]}
              chosen={traits.lists === key}
              onPress={() => change({ lists: key })}
              testID={`lists-${key}`}
            />
          ))}
        </Drawer>
      </View>
      <Drawer label="What else is known">
        {(Object.keys(FORMATS) as (keyof typeof FORMATS)[]).map((format, i) => (
          <Tick
            key={format}
            first={i === 0}
            label={FORMATS[format]}
            on={traits.formats.includes(format)}
            onChange={(on) => change({ formats: on ? [...traits.formats, format] : traits.formats.filter((one) => one !== format) })}
          />
        ))}
        <FieldProblem form={form} name="traits.formats" />
        {FLAGS.filter(({ key }) => key !== "keeps" || traits.readsWhen === "by-hand").map(({ key, label, note }) => (
          <Tick key={key} first={false} label={label} note={note} on={traits[key]} onChange={(on) => change({ [key]: on })} />
        ))}
        {pick(SEARCH, "Its search box finds", traits.search, (search) => change({ search }), "program-search")}
        {pick(
          OTHERS,
          "Fonts without Latin letters stand",
          traits.otherScripts,
          (otherScripts) => change({ otherScripts }),
          "program-other-scripts",
        )}
        {pick(VARIABLE, "Of a variable font it lists", traits.variable, (variable) => change({ variable }), "program-variable")}
        <DrawerRow>
          <TextField
            form={form}
            name="traits.language"
            label="Language of its font names"
            hint="A language tag, such as en or he. The list is sorted by its rules."
            shape={(text) => text.trim()}
          />
        </DrawerRow>
      </Drawer>
    </Screen>
  );
}

export function ProgramFormScreen({ deviceId, programId }: { deviceId?: number; programId?: number }) {
  const answer = useProgram(programId);
  if (programId === undefined) return <Form deviceId={deviceId ?? 0} known={undefined} />;
  return (
    <Loaded answer={answer} what="Opening the program">
      {(program) => <Form deviceId={program.deviceId} known={program} />}
    </Loaded>
  );
}
