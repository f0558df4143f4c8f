// Naming a program and answering a few plain questions about how it treats fonts; a kind answers most of them.
import { useRouter } from "expo-router";
import { useCallback } from "react";
import { PLAIN_TRAITS, ProgramRequest, ProgramSummary, USUAL_TRAITS, type ProgramTraits } from "../../../contract/programs.ts";
import { Done, send } from "../../data/api.ts";
import { KIND_WORDS } from "../../data/devices.ts";
import { useDevice, useProgram } from "../../data/hooks.ts";
import { offerUndo } from "../../data/undo.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { FieldProblem, TextField, useContractForm } from "../../parts/form.tsx";
import { Trash2 } from "../../parts/icons.ts";
import { RadioRow } from "../../parts/RadioRow.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Loaded } from "../../parts/Status.tsx";
import { Strong } from "../../parts/Text.tsx";
import { Tick } from "../../parts/Tick.tsx";
import { View } from "react-native";
import { SAY } from "../../sentences/sightings/program-form.ts";

const READS: Record<ProgramTraits["reads"][number], string> = {
  me: SAY.fontsPlacedForMe,
  everyone: SAY.fontsPlacedForEveryone,
  profile: SAY.fontsInProfiles,
  own: SAY.fontsLoadedIntoItBy,
};
const WHEN: Record<ProgramTraits["readsWhen"], string> = {
  always: SAY.byItselfWhileItIs,
  document: SAY.whenADocumentIsOpened,
  start: SAY.onlyAfterItWasClosed,
  "by-hand": SAY.onlyWhenAFileIs,
};
const LISTS: Record<ProgramTraits["lists"], [label: string, note: string]> = {
  families: [SAY.familiesWithAListOf, SAY.allTwelveStylesOfA],
  "four-style": [SAY.familiesWithBoldAndItalic, SAY.aLightOrBlackWeight],
  "full-names": [SAY.oneLongListOfFull, SAY.everyStyleByItsWhole],
  "postscript-names": [SAY.oneLongListOfShort, SAY.asFilesAndScriptsName],
};
const SEARCH: Record<ProgramTraits["search"], string> = { beginning: SAY.namesThatBeginWithIt, anywhere: SAY.namesThatHoldItAnywhere };
const VARIABLE: Record<ProgramTraits["variable"], string> = {
  instances: SAY.allItsNamedStyles,
  default: SAY.oneStyleOfIt,
  none: SAY.nothingOfIt,
};
const OTHERS: Record<ProgramTraits["otherScripts"], string> = { among: SAY.amongTheOthersByName, after: SAY.afterAllLatinOnes };
const FORMATS: Record<ProgramTraits["formats"][number], string> = { ttf: SAY.itTakesTtfFiles, otf: SAY.itTakesOtfFiles };
const FLAGS: readonly {
  key: "collections" | "colour" | "symbols" | "strict" | "fakesStyles" | "alternates" | "shapes" | "fallsBack" | "embeds" | "keeps";
  label: string;
  note: string;
}[] = [
  { key: "collections", label: SAY.itTakesCollections, note: SAY.filesThatEndInTtc },
  { key: "colour", label: SAY.itTakesColouredFonts, note: SAY.lettersThatBringTheirOwn },
  { key: "symbols", label: SAY.itListsFontsOfSymbols, note: SAY.fontsWithoutAnAlphabet },
  { key: "strict", label: SAY.itDrawsAsABrowser, note: SAY.itRefusesFontsThatBrowsers },
  { key: "fakesStyles", label: SAY.itFakesBoldAndItalic, note: SAY.itThickensOrSlantsLetters },
  { key: "alternates", label: SAY.itCanTurnOnOther, note: SAY.smallCapitalsSwashesSetsOf },
  { key: "shapes", label: SAY.itSetsRightToLeft, note: SAY.hebrewFromTheRightArabic },
  { key: "fallsBack", label: SAY.itBorrowsLettersAFont, note: SAY.otherwiseTheyAreEmptyBoxes },
  { key: "keeps", label: SAY.itKeepsWhatIsLoaded, note: SAY.otherwiseItIsGoneWhen },
  { key: "embeds", label: SAY.itsExportsHoldTheirFonts, note: SAY.aPdfOrDrawingThat },
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
      offerUndo(SAY.nameWasRemoved(known.name), () => send("POST", `/programs/${known.id}/bring-back`, Done));
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
      title={known ? known.name : SAY.nameAProgram}
      note={device.data ? SAY.onNameWhatYouDo(device.data.name) : undefined}
      back={`/device/${deviceId}`}
      testID="program-form"
      action={
        <>
          <Button strong label={SAY.keepIt} busy={save.busy} onPress={() => void form.handleSubmit(save.run)()} testID="keep-program" />
          {known ? (
            <Button
              label={SAY.itWasUpdated}
              hint={SAY.whatWasSeenInIt}
              busy={updated.busy}
              onPress={updated.run}
              testID="program-updated"
            />
          ) : null}
          {known ? <Button icon={Trash2} label={SAY.remove} busy={remove.busy} onPress={remove.run} testID="remove-program" /> : null}
        </>
      }
    >
      {problem ? <ApiProblemNote problem={problem} /> : null}
      <TextField form={form} name="name" label={SAY.whatYouCallIt} testID="program-name" />
      <Drawer label={SAY.whatKindItIs} note={SAY.answersTheQuestionsBelow}>
        <DrawerRow first>
          <Choice
            label={SAY.kind}
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
      <Drawer label={SAY.whichFontsItFinds}>
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
      <View role="radiogroup" aria-label={SAY.whenItNoticesANew}>
        <Drawer label={SAY.whenItNoticesANew}>
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
      <View role="radiogroup" aria-label={SAY.howItsFontListLooks}>
        <Drawer label={SAY.howItsFontListLooks}>
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
      <Drawer label={SAY.whatElseIsKnown}>
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
        {pick(SEARCH, SAY.itsSearchBoxFinds, traits.search, (search) => change({ search }), "program-search")}
        {pick(
          OTHERS,
          SAY.fontsWithoutLatinLettersStand,
          traits.otherScripts,
          (otherScripts) => change({ otherScripts }),
          "program-other-scripts",
        )}
        {pick(VARIABLE, SAY.ofAVariableFontIt, traits.variable, (variable) => change({ variable }), "program-variable")}
        <DrawerRow>
          <TextField
            form={form}
            name="traits.language"
            label={SAY.languageOfItsFontNames}
            hint={SAY.aLanguageTagSuchAs}
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
    <Loaded answer={answer} what={SAY.openingTheProgram}>
      {(program) => <Form deviceId={program.deviceId} known={program} />}
    </Loaded>
  );
}
