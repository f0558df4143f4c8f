// How to find a style in one program, and giving evidence that it was drawn there.
import { useRouter } from "expo-router";
import { Download, FileCheck, MonitorUp, Power } from "../../parts/icons.ts";
import { useCallback, useState } from "react";
import { View } from "react-native";
import { EvidenceAnswer, Sighting, type Cell, NameLearnt, NameRequest } from "../../../contract/sightings.ts";
import { ProgramSummary, type ProgramTraits } from "../../../contract/programs.ts";
import { send, upload } from "../../data/api.ts";
import { useCell } from "../../data/hooks.ts";
import { useAction } from "../../data/useAction.ts";
import { count, listWords } from "../../../core/words/words.ts";
import { when } from "../../data/devices.ts";
import { Button } from "../../parts/Button.tsx";
import { CopyButton } from "../../parts/CopyButton.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Field } from "../../parts/Field.tsx";
import { TextField, useContractForm } from "../../parts/form.tsx";
import { ResultMark, StateMark } from "../../parts/Marks.tsx";
import { ActRow, LinkRow } from "../../parts/LinkRow.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, ClearanceWarnings, Loaded, ProblemNote } from "../../parts/Status.tsx";
import { Big, Body, Small } from "../../parts/Text.tsx";
import { Doubt, Result } from "./EvidenceParts.tsx";
import { LookDrawer, ProbeDrawer } from "./LookDrawer.tsx";
import { PictureDrawer } from "./PictureDrawer.tsx";
import { usePlanning } from "../placing/planning.ts";
import { NotThere } from "./NotThere.tsx";
import { DropArea } from "../../web/DropArea.tsx";
import { saveFrom } from "../../web/download.ts";
import { SAY } from "../../sentences/sightings/cell.ts";

const LISTS_WORDS: Record<ProgramTraits["lists"], string> = {
  families: SAY.byFamiliesWithAList,
  "four-style": SAY.byFamiliesWithBoldAnd,
  "full-names": SAY.byFullNames,
  "postscript-names": SAY.byShortNamesWithoutSpaces,
};

/** A name that was found to be another is learnt for this program; and the way it lists, where that explains it. */
function OtherName({ cell }: { cell: Cell }) {
  const [open, setOpen] = useState(false);
  const form = useContractForm(NameRequest, { name: cell.menuName });
  const [suggests, setSuggests] = useState<ProgramTraits["lists"] | null>(null);
  const { styleId, programId, programName } = cell;
  const keep = useAction(
    useCallback(
      async (request: NameRequest) => {
        const { suggests: way } = await send("POST", `/cells/${styleId}/${programId}/name`, NameLearnt, request);
        setSuggests(way);
        setOpen(false);
      },
      [styleId, programId],
    ),
  );
  const learn = useAction(
    useCallback(async () => {
      await send("POST", `/programs/${programId}/learn`, ProgramSummary, { lists: suggests });
      setSuggests(null);
    }, [programId, suggests]),
  );
  const problem = keep.problem ?? learn.problem;
  return (
    <>
      {problem ? <ApiProblemNote problem={problem} /> : null}
      {suggests ? (
        <DrawerRow className="items-start gap-2">
          <Body>{SAY.programNameSeemsToListFonts(programName, LISTS_WORDS[suggests])}</Body>
          <Button label={SAY.rememberThat} busy={learn.busy} onPress={learn.run} testID="learn-lists" />
        </DrawerRow>
      ) : null}
      {cell.nameLearnt ? (
        <DrawerRow className="items-start gap-2">
          <Small>{SAY.thisNameWasCorrectedBy}</Small>
          <Button label={SAY.useItsOwnNamesAgain} busy={keep.busy} onPress={() => keep.run({ name: "" })} testID="forget-name" />
        </DrawerRow>
      ) : null}
      {open ? (
        <DrawerRow>
          <TextField form={form} name="name" label={SAY.itsNameInTheList(programName)} testID="other-name" />
          <Button
            label={SAY.rememberThisName}
            busy={keep.busy}
            disabled={form.watch("name").trim() === ""}
            onPress={() => void form.handleSubmit(keep.run)()}
            testID="keep-name"
          />
        </DrawerRow>
      ) : (
        <ActRow
          label={SAY.listedUnderAnotherName}
          note={SAY.itIsRememberedAndPredicted}
          onPress={() => setOpen(true)}
          testID="to-other-name"
        />
      )}
    </>
  );
}

function Neighbours({ cell }: { cell: Cell }) {
  return (
    <Drawer label={cell.listed ? SAY.inItsList : SAY.whereItWouldStandIn} testID="neighbours">
      {cell.before.map((name, i) => (
        <DrawerRow key={`b${name}`} first={i === 0} className="py-2">
          <Small>{name}</Small>
        </DrawerRow>
      ))}
      <DrawerRow first={cell.before.length === 0} className="border-l-4 border-l-ink py-3">
        <Big testID="menu-name">{cell.menuName}</Big>
        {cell.within ? <Small>{cell.within}</Small> : null}
        <View className="mt-2 items-start">
          <CopyButton text={cell.menuName} label={SAY.copyTheName} testID="copy-name" />
        </View>
      </DrawerRow>
      {cell.after.map((name) => (
        <DrawerRow key={`a${name}`} className="py-2">
          <Small>{name}</Small>
        </DrawerRow>
      ))}
      {cell.practice ? null : <OtherName cell={cell} />}
    </Drawer>
  );
}

function Earlier({ sightings }: { sightings: readonly Sighting[] }) {
  const [taken, setTaken] = useState<number>();
  const takeBack = useAction(
    useCallback(async (id: number, back: boolean) => {
      await send("POST", `/sightings/${id}/take-back`, Sighting, { back });
      setTaken(back ? id : undefined);
    }, []),
  );
  if (sightings.length === 0 && taken === undefined) return null;
  return (
    <Drawer label={SAY.seenBefore} note={count(sightings.length, "sighting")} testID="earlier">
      {takeBack.problem ? <ApiProblemNote problem={takeBack.problem} /> : null}
      {taken === undefined ? null : (
        <DrawerRow first>
          <View role="status">
            <Body>{SAY.theSightingWasTakenBack}</Body>
          </View>
          <View className="mt-2 items-start">
            <Button label={SAY.undo} busy={takeBack.busy} onPress={() => takeBack.run(taken, false)} testID="undo-take-back" />
          </View>
        </DrawerRow>
      )}
      {sightings.map((sighting, i) => (
        <DrawerRow key={sighting.id} first={i === 0 && taken === undefined}>
          <ResultMark result={sighting.result} />
          <Body>{sighting.sentence}</Body>
          <Small>{[when(sighting.at), sighting.fileName, sighting.madeBy].filter(Boolean).join(", ")}</Small>
          <View className="mt-2 flex-row flex-wrap gap-2">
            {sighting.kept ? (
              <Button
                icon={Download}
                label={SAY.openTheFileAgain}
                onPress={() => saveFrom(`/api/sightings/${sighting.id}/file`)}
                testID={`open-file-${sighting.id}`}
              />
            ) : null}
            <Button
              label={SAY.takeItBack}
              busy={takeBack.busy}
              onPress={() => takeBack.run(sighting.id, true)}
              testID={`take-back-${sighting.id}`}
            />
          </View>
        </DrawerRow>
      ))}
    </Drawer>
  );
}

/** What is not there is placed, and what is off turned on, by the plan one tap away. */
function BringHere({ cell }: { cell: Cell | undefined }) {
  const plan = usePlanning();
  if (cell?.state !== "not-here" && cell?.state !== "off") return null;
  const action = cell.state === "off" ? "switch-on" : "place";
  return (
    <>
      {plan.problem ? <ApiProblemNote problem={plan.problem} /> : null}
      <Button
        strong
        icon={action === "place" ? MonitorUp : Power}
        label={action === "place" ? SAY.placeItOnDeviceName(cell.deviceName) : SAY.turnItOnDeviceName(cell.deviceName)}
        busy={plan.busy}
        onPress={() => plan.run({ deviceId: cell.deviceId, action, familyIds: [cell.familyId] })}
        testID="bring-here"
      />
    </>
  );
}

/** States in which another font may be wanted in its place. */
const LIKE_WANTED: ReadonlySet<string> = new Set(["swapped", "lapsed", "not-here"]);

export function CellScreen({ styleId, programId }: { styleId: number; programId: number }) {
  const answer = useCell(styleId, programId);
  const router = useRouter();
  const [result, setResult] = useState<Sighting>();
  const [doubt, setDoubt] = useState<{ answer: EvidenceAnswer; file: File }>();
  const [words, setWords] = useState("");
  const [picture, setPicture] = useState<File>();
  const give = useAction(
    useCallback(
      async (files: File[], sure = false) => {
        const [file] = files;
        if (!file) return;
        setResult(undefined);
        setDoubt(undefined);
        // Pictures are read another way; the words in them are asked for there.
        if (file.type.startsWith("image/") && !file.type.includes("svg")) return setPicture(file);
        const query = new URLSearchParams({ words, sure: sure ? "1" : "0" });
        const answered = await upload(`/cells/${styleId}/${programId}/evidence?${query}`, [{ name: file.name, file }], EvidenceAnswer);
        if (answered.sighting) setResult(answered.sighting);
        else setDoubt({ answer: answered, file });
      },
      [styleId, programId, words],
    ),
  );
  return (
    <DropArea label={SAY.chooseAnExportedFile} multiple={false} onFiles={(files) => give.run(files)}>
      {({ pick }) => (
        <Screen
          title={answer.data ? SAY.styleNameInProgramName(answer.data.styleName, answer.data.programName) : SAY.sighting}
          note={answer.data?.deviceName}
          back="/sightings"
          testID="cell-screen"
          action={
            <>
              <BringHere cell={answer.data} />
              <Button
                strong={answer.data?.state !== "not-here" && answer.data?.state !== "off"}
                icon={FileCheck}
                label={SAY.addExportedFile}
                busy={give.busy}
                onPress={pick}
                testID="give-evidence"
              />
              {answer.data?.practice ? (
                <Button
                  label={SAY.openProgramNameInThePractice(answer.data.programName)}
                  onPress={() => router.push(`/practice/${programId}?style=${styleId}`)}
                  testID="open-program"
                />
              ) : null}
            </>
          }
        >
          {give.problem ? <ApiProblemNote problem={give.problem} /> : null}
          {result ? <Result key={result.id} sighting={result} /> : null}
          {doubt ? (
            <Doubt
              answer={doubt.answer}
              busy={give.busy}
              onSure={() => give.run([doubt.file], true)}
              onAnother={() => {
                setDoubt(undefined);
                pick();
              }}
            />
          ) : null}
          <Loaded answer={answer} what={SAY.workingOutWhereItWill}>
            {(cell) => (
              <>
                <ClearanceWarnings warnings={cell.warnings} />
                {picture ? <PictureDrawer cell={cell} given={picture} onSeen={setResult} /> : null}
                <View className="mb-5 border border-edge bg-drawer p-3" testID="cell-state">
                  <StateMark state={cell.state} />
                  <Body className="mt-2">{cell.reason}</Body>
                </View>
                <Drawer label={SAY.wordsInTheFile} testID="evidence-words">
                  <DrawerRow first>
                    <Field
                      label={SAY.wordsYouSetInThis}
                      hint={SAY.whenTheyAreKnownOnly}
                      value={words}
                      onChange={setWords}
                      testID="known-words"
                    />
                  </DrawerRow>
                </Drawer>
                <Drawer label={SAY.howToFindIt}>
                  {cell.steps.map((step, i) => (
                    <DrawerRow key={step} first={i === 0}>
                      <Body>
                        {i + 1}. {step}
                      </Body>
                    </DrawerRow>
                  ))}
                </Drawer>
                <Neighbours cell={cell} />
                {cell.standsBehind ? (
                  <ProblemNote message={SAY.standsBehindIsReachedThereIn(cell.standsBehind)} next={SAY.bothShareOneEntryAnd} />
                ) : null}
                {cell.clashes.length > 0 ? (
                  <ProblemNote message={SAY.anotherFontStandsUnderThe(listWords(cell.clashes))} next={SAY.programsShowOneOfThem} />
                ) : null}
                {LIKE_WANTED.has(cell.state) ? (
                  <Drawer>
                    <LinkRow
                      first
                      href={`/alike/${cell.familyId}`}
                      label={SAY.useOneThatLooksLike}
                      note={SAY.theNearestInYourLibrary}
                      testID="alike-link"
                    />
                  </Drawer>
                ) : null}
                <NotThere cell={cell} open={result?.result === "not-there"} />
                <LookDrawer cell={cell} onSeen={setResult} />
                {picture ? null : <PictureDrawer cell={cell} given={undefined} onSeen={setResult} />}
                <ProbeDrawer cell={cell} />
                <Earlier sightings={cell.earlier} />
              </>
            )}
          </Loaded>
        </Screen>
      )}
    </DropArea>
  );
}
