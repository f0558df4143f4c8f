// A practice program: its font list, a page drawn from the placed files' bytes, closing and reopening, export.
import { useCallback, useEffect, useMemo, useState } from "react";
import { Download, FileCheck, Power } from "../../parts/icons.ts";
import { Pressable, ScrollView, TextInput, View } from "react-native";
import Svg, { Path } from "react-native-svg";
import { listWords } from "../../../core/words/words.ts";
import { PracticeProgram, type PracticeText } from "../../../contract/practice.ts";
import { EvidenceAnswer } from "../../../contract/sightings.ts";
import { fetchFile, send, upload } from "../../data/api.ts";
import { KIND_WORDS, READS_WORDS } from "../../data/devices.ts";
import { useCell, usePracticeProgram } from "../../data/hooks.ts";
import { useAction } from "../../data/useAction.ts";
import { usePracticeDrawing, type Drawn } from "../../data/usePracticeDrawing.ts";
import { useWords } from "../../data/words.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer } from "../../parts/Drawer.tsx";
import { ResultMark, StateMark } from "../../parts/Marks.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, ClearanceWarnings, Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { light, type Palette } from "../../theme/palette";
import { usePalette } from "../../theme/theme.ts";
import { download } from "../../web/download.ts";
import { LoadByHand } from "./LoadByHand.tsx";
import { PracticeMachine } from "./PracticeMachine.tsx";
import { SAY } from "../../sentences/practice/practice.ts";

const PAGE_PT = 460;

/** The page is paper by day and by night, as pages are. */
const RUN_COLOUR: Record<Drawn["runs"][number]["how"], keyof Palette> = { asked: "ink", fallback: "warning", box: "warning" };

function Page({ drawing, label }: { drawing: Drawn | undefined; label: string }) {
  const height = Math.max(drawing?.heightPt ?? 0, 90);
  return (
    <View className="border border-edge p-3" style={{ backgroundColor: "#ffffff" }}>
      <View style={{ width: "100%", aspectRatio: PAGE_PT / height }}>
        {drawing ? (
          <Svg
            width="100%"
            height="100%"
            viewBox={`0 0 ${Math.max(PAGE_PT, drawing.widthPt)} ${height}`}
            role="img"
            aria-label={label}
            testID="page"
          >
            {drawing.runs.map((run, i) => {
              const colour = light[RUN_COLOUR[run.how]];
              return <Path key={i} d={run.path} fill={colour} stroke={run.strokePt > 0 ? colour : "none"} strokeWidth={run.strokePt} />;
            })}
          </Svg>
        ) : null}
      </View>
    </View>
  );
}

function DrawnWith({ drawing, font }: { drawing: Drawn; font: string }) {
  const asked = [...new Set(drawing.runs.filter((run) => run.how === "asked").map((run) => run.drawnWith))];
  const others = [...new Set(drawing.runs.filter((run) => run.how === "fallback" && run.text.trim() !== "").map((run) => run.drawnWith))];
  const boxes = drawing.runs.filter((run) => run.how === "box").map((run) => run.text);
  return (
    <View className="mt-2 gap-1" testID="drawn-with" role="status">
      {!drawing.fontFound && font ? <Strong className="text-warning">{SAY.fontIsNotAmongThis(font)}</Strong> : null}
      {asked.length > 0 ? <Small>{SAY.drawnWithAsked(listWords(asked))}</Small> : null}
      {others.length > 0 ? <Small className="text-warning">{SAY.othersStandInForWhat(listWords(others), others.length)}</Small> : null}
      {boxes.length > 0 ? <Small className="text-warning">{SAY.noFontHereHasBoxes(boxes.join(" "))}</Small> : null}
      {drawing.faked.length > 0 ? <Small className="text-warning">{SAY.theFamilyHasNoSuch(listWords(drawing.faked))}</Small> : null}
    </View>
  );
}

function FontList({ program, font, onChoose }: { program: PracticeProgram; font: string; onChoose: (font: string) => void }) {
  const [typed, setTyped] = useState(font);
  const palette = usePalette();
  useEffect(() => setTyped(font), [font]);
  const searching = typed !== font && typed !== "";
  const shown = searching ? program.menu.filter((entry) => entry.label.toLowerCase().startsWith(typed.toLowerCase())) : program.menu;
  return (
    <Drawer label={SAY.font} note={SAY.menuInTheList(program.menu.length)}>
      <TextInput
        aria-label={SAY.fontBox}
        testID="font-box"
        value={typed}
        onChangeText={setTyped}
        onSubmitEditing={() => onChoose(searching && shown.length === 1 ? shown[0]!.label : typed)}
        placeholder={SAY.typeTheFirstLetters}
        placeholderTextColor={palette.faded}
        className="min-h-[48px] px-3 font-text text-base text-ink"
      />
      <ScrollView className="max-h-[220px] border-t border-edge" tabIndex={0} aria-label={SAY.fontList} testID="font-list">
        {shown.map((entry) => (
          <Pressable
            key={entry.label}
            role="button"
            aria-pressed={entry.label === font}
            testID="font-entry"
            onPress={() => onChoose(entry.label)}
            className={`min-h-[44px] justify-center px-3 active:opacity-60 ${entry.label === font ? "bg-tab" : ""}`}
          >
            {entry.label === font ? <Strong>{entry.label}</Strong> : <Body>{entry.label}</Body>}
          </Pressable>
        ))}
        {searching && shown.length === 0 ? (
          <Pressable role="button" testID="use-anyway" onPress={() => onChoose(typed)} className="min-h-[44px] justify-center px-3">
            <Small>{SAY.noFontBeginsWithTyped(typed)}</Small>
          </Pressable>
        ) : null}
      </ScrollView>
    </Drawer>
  );
}

/** What the person sets on the page. */
function useTyped(program: PracticeProgram, preset: string | undefined) {
  const [words] = useWords();
  const [text, setText] = useState(words);
  const [chosen, setFont] = useState<string>();
  const [style, setStyle] = useState("");
  const [bold, setBold] = useState(false);
  const [italic, setItalic] = useState(false);
  const font = chosen ?? preset ?? program.menu[0]?.label ?? "";
  const typed: PracticeText = useMemo(
    () => ({ font, style, bold, italic, text, sizePt: 32, widthPt: PAGE_PT }),
    [font, style, bold, italic, text],
  );
  return { typed, setText, setFont, setStyle, setBold, setItalic };
}

function OpenWindow({ program, styleId, preset }: { program: PracticeProgram; styleId: number | undefined; preset: string | undefined }) {
  const id = program.program.id;
  const { typed, setText, setFont, setStyle, setBold, setItalic } = useTyped(program, preset);
  const { drawing, problem } = usePracticeDrawing(id, typed, `${program.openedAt}/${program.menu.length}`);
  const [answer, setAnswer] = useState<EvidenceAnswer>();
  const fileName = `${program.program.name} ${typed.font}.pdf`.replace(/ /g, "-");
  const save = useAction(useCallback(async () => download(await fetchFile(`/practice/${id}/pdf`, typed), fileName), [id, typed, fileName]));
  const give = useAction(
    useCallback(async () => {
      const file = await fetchFile(`/practice/${id}/pdf`, typed);
      const query = new URLSearchParams({ words: typed.text });
      setAnswer(await upload(`/cells/${styleId}/${id}/evidence?${query}`, [{ name: fileName, file }], EvidenceAnswer));
    }, [id, typed, fileName, styleId]),
  );
  const styles = program.menu.find((entry) => entry.label === typed.font)?.styles ?? [];
  const trouble = problem ?? save.problem ?? give.problem;
  return (
    <>
      {trouble ? <ApiProblemNote problem={trouble} /> : null}
      <Page drawing={drawing} label={SAY.thePageTextSetIn(typed.text, typed.font)} />
      {drawing ? <DrawnWith drawing={drawing} font={typed.font} /> : null}
      <TextInput
        aria-label={SAY.textOnThePage}
        testID="page-text"
        multiline
        value={typed.text}
        onChangeText={setText}
        className="mb-4 mt-3 min-h-[64px] border border-edge bg-drawer p-3 font-text text-base text-ink"
      />
      {program.program.traits.lists === "four-style" ? (
        <View className="mb-4 flex-row gap-2">
          <Button label={SAY.bold} pressed={typed.bold ?? false} onPress={() => setBold(!typed.bold)} testID="bold" />
          <Button label={SAY.italic} pressed={typed.italic ?? false} onPress={() => setItalic(!typed.italic)} testID="italic" />
        </View>
      ) : null}
      {styles.length > 1 ? (
        <View className="mb-4 flex-row flex-wrap gap-2" role="group" aria-label={SAY.style}>
          {styles.map((style) => (
            <Button key={style} label={style} pressed={typed.style === style} onPress={() => setStyle(style)} />
          ))}
        </View>
      ) : null}
      <View className="mb-4 gap-2">
        <Button
          strong={styleId === undefined}
          icon={Download}
          label={SAY.exportAPdf}
          busy={save.busy}
          onPress={save.run}
          testID="export-pdf"
        />
        {styleId !== undefined ? (
          <Button
            strong
            icon={FileCheck}
            label={SAY.exportAndGiveAsEvidence}
            busy={give.busy}
            onPress={give.run}
            testID="export-evidence"
          />
        ) : null}
      </View>
      {answer ? (
        <View className="mb-4 border border-edge bg-drawer p-3" testID="evidence-result" role="status">
          {answer.sighting ? <ResultMark result={answer.sighting.result} /> : <StateMark state="due" words={SAY.cannotTell} />}
          <Body className="mt-2">{[answer.reason, answer.next].filter(Boolean).join(" ")}</Body>
        </View>
      ) : null}
      {program.program.kind === "cutting" ? <PracticeMachine programId={id} typed={typed} /> : null}
      {program.program.traits.readsWhen === "by-hand" ? <LoadByHand programId={program.program.id} styleId={styleId} /> : null}
      <FontList program={program} font={typed.font} onChoose={setFont} />
    </>
  );
}

/** The name the program should list the wanted style under. */
function Preset({
  styleId,
  program,
  children,
}: {
  styleId: number;
  program: PracticeProgram;
  children: (preset: string | undefined) => React.ReactNode;
}) {
  const cell = useCell(styleId, program.program.id);
  return (
    <>
      {cell.data ? <ClearanceWarnings warnings={cell.data.warnings} /> : null}
      {cell.data ? (
        <View className="mb-4 border border-edge bg-drawer p-3" testID="expected">
          <Small>{cell.data.listed ? SAY.expectedInTheListAs : SAY.wouldBeListedAs}</Small>
          <Strong>{cell.data.menuName}</Strong>
        </View>
      ) : null}
      {children(cell.data?.menuName)}
    </>
  );
}

export function PracticeScreen({ id, styleId }: { id: number; styleId?: number }) {
  const answer = usePracticeProgram(id);
  const { mutate } = answer;
  const change = useAction(
    useCallback(
      async (what: "open" | "close") => {
        await mutate(await send("POST", `/practice/${id}/${what}`, PracticeProgram), { revalidate: false });
      },
      [id, mutate],
    ),
  );
  const program = answer.data;
  return (
    <Screen
      title={program?.program.name ?? SAY.practiceProgram}
      note={
        program
          ? SAY.aSimulatedProgram(KIND_WORDS[program.program.kind], program.deviceName, READS_WORDS[program.program.traits.readsWhen])
          : undefined
      }
      back={program ? `/device/${program.program.deviceId}` : "/devices"}
      testID="practice"
      action={
        program ? (
          program.open ? (
            <Button
              icon={Power}
              label={SAY.closeNameCompletely(program.program.name)}
              busy={change.busy}
              onPress={() => change.run("close")}
              testID="close-program"
            />
          ) : (
            <Button
              strong
              icon={Power}
              label={SAY.openName(program.program.name)}
              busy={change.busy}
              onPress={() => change.run("open")}
              testID="start-program"
            />
          )
        ) : undefined
      }
    >
      {change.problem ? <ApiProblemNote problem={change.problem} /> : null}
      <Loaded answer={answer} what={SAY.findingTheProgram}>
        {(value) => {
          if (!value.open) {
            return (
              <View className="border border-dashed border-edge p-6" testID="program-closed">
                <Strong>{SAY.nameIsClosed(value.program.name)}</Strong>
                <Body className="mt-2">{SAY.whenItOpensItReads(value.deviceName)}</Body>
              </View>
            );
          }
          if (styleId === undefined) return <OpenWindow program={value} styleId={undefined} preset={undefined} />;
          return (
            <Preset styleId={styleId} program={value}>
              {(preset) => <OpenWindow program={value} styleId={styleId} preset={preset} />}
            </Preset>
          );
        }}
      </Loaded>
    </Screen>
  );
}
