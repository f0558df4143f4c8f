// A bench sheet: live lines that follow one another, compared, decided on, proved.
import { useRouter } from "expo-router";
import { useCallback, useState } from "react";
import { View } from "react-native";
import { SheetDetail, type BenchLine, type BenchStyle } from "../../../contract/bench.ts";
import { send, upload, Done } from "../../data/api.ts";
import { copyOf, useSheetEditing, type Editing } from "../../data/bench.ts";
import { cutWords } from "../../data/cut.ts";
import { useJobs } from "../../data/hooks.ts";
import { offerUndo } from "../../data/undo.ts";
import { useRemember } from "../../data/lastUsed.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Field } from "../../parts/Field.tsx";
import { Copy, Download, FolderOpen, Plus, Redo2, Scissors, Trash2, Undo2 } from "../../parts/icons.ts";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Empty, Loaded } from "../../parts/Status.tsx";
import { Body, Small } from "../../parts/Text.tsx";
import { download } from "../../web/download.ts";
import { DropArea } from "../../web/DropArea.tsx";
import { fetchFile } from "../../data/api.ts";
import { Compare } from "./Compare.tsx";
import { ColourField } from "./LayerPanel.tsx";
import { LinePanel } from "./LinePanel.tsx";
import { PX_A_MM, SheetLine } from "./SheetLine.tsx";
import { SAY } from "../../sentences/bench/sheet.ts";

const VIEWS = { lines: SAY.lines, compare: SAY.sideBySide, sizes: SAY.sizes } as const;
type ViewKey = keyof typeof VIEWS;
/** Steps of a waterfall in points. Common practice, no source. */
const WATERFALL = [72, 48, 36, 24, 18, 14, 12, 10, 8];

/** All lines at one scale, so that they compare: as large as they are, or smaller by what the widest needs. */
function useScale(): { scale: number; onLayout: (width: number) => void; onWidth: (id: string, mm: number) => void } {
  const [room, setRoom] = useState(0);
  const [widths, setWidths] = useState<Record<string, number>>({});
  const onWidth = useCallback((id: string, mm: number) => setWidths((known) => (known[id] === mm ? known : { ...known, [id]: mm })), []);
  const widest = Math.max(1, ...Object.values(widths));
  return { scale: room === 0 ? PX_A_MM : Math.min(PX_A_MM, (room - 20) / widest), onLayout: setRoom, onWidth };
}

function Lines({ id, editing }: { id: number; editing: Editing }) {
  const router = useRouter();
  const [open, setOpen] = useState<string>();
  const { scale, onLayout, onWidth } = useScale();
  const { body, facts, edit, editLine, settle } = editing;
  if (!body) return null;
  const move = (index: number, by: number) =>
    edit((one) => {
      const lines = [...one.lines];
      lines.splice(index + by, 0, ...lines.splice(index, 1));
      return { ...one, lines };
    });
  return (
    <View onLayout={(event) => onLayout(event.nativeEvent.layout.width)}>
      {scale < PX_A_MM * 0.99 ? <Small className="mb-2">{SAY.shownAtPxAMmOfIts(scale, PX_A_MM)}</Small> : null}
      {body.lines.map((line, i) => {
        const isOpen = open === line.id;
        return (
          <View key={line.id} className={`mb-3 border bg-drawer ${isOpen ? "border-ink" : "border-edge"}`} testID="line">
            <SheetLine
              line={line}
              ground={body.ground}
              facts={facts}
              scale={scale}
              onWidth={onWidth}
              marks={isOpen}
              press={{
                open: isOpen,
                label: SAY.line(i, line.text),
                toggle: () => setOpen(isOpen ? undefined : line.id),
                testID: `line-${i}`,
              }}
            />
            {(editing.answer.data?.cuts ?? [])
              .filter(({ lineId }) => lineId === line.id)
              .map((made) => (
                <Small key={made.lineId} className="px-2 pb-2" testID="line-cut">
                  {cutWords(made)}
                </Small>
              ))}
            {isOpen ? (
              <>
                <LinePanel
                  ground={body.ground}
                  sheetId={id}
                  line={line}
                  facts={facts}
                  onChange={(change) => editLine(line.id, change)}
                  onLeave={settle}
                />
                <Partners line={line} editing={editing} scale={scale} />
                <View className="flex-row flex-wrap gap-2 border-t border-edge p-3">
                  <Button
                    label={SAY.cut}
                    icon={Scissors}
                    onPress={() => void settle().then(() => router.push(`/bench/cut/${id}?line=${line.id}`))}
                    testID="to-cut"
                  />
                  <Button label={SAY.up} disabled={i === 0} onPress={() => move(i, -1)} testID="line-up" />
                  <Button label={SAY.down} disabled={i === body.lines.length - 1} onPress={() => move(i, 1)} testID="line-down" />
                  <Button
                    label={SAY.copyLine}
                    icon={Copy}
                    onPress={() => edit((one) => ({ ...one, lines: one.lines.toSpliced(i + 1, 0, copyOf(line)) }))}
                    testID="copy-line"
                  />
                  <Button
                    label={SAY.removeLine}
                    icon={Trash2}
                    onPress={() => edit((one) => ({ ...one, lines: one.lines.filter(({ id: other }) => other !== line.id) }))}
                    testID="remove-line"
                  />
                </View>
              </>
            ) : null}
          </View>
        );
      })}
    </View>
  );
}

/** Bold and italic as files of their own, and as a program would fake them. */
function Partners({ line, editing, scale }: { line: BenchLine; editing: Editing; scale: number }) {
  const [shown, setShown] = useState(false);
  const { facts, body } = editing;
  const layer = line.layers.at(-1)!;
  const known = facts(layer.style);
  if (!known?.there || !body) return null;
  const as = (style: BenchStyle): BenchLine => ({
    ...line,
    id: `${line.id}-${style.style}`,
    layers: [{ ...layer, style, features: {}, axes: {} }],
  });
  const fake = { ...line, layers: [layer] };
  const row = (what: "bold" | "italic") => {
    const own = known[what];
    const name = what === "bold" ? SAY.bold : SAY.italic;
    return (
      <View key={what} className="mb-2" testID={`partner-${what}`}>
        <Small className="text-ink">{own ? SAY.nameAsAFileOf(name, own.family, own.style) : SAY.theFamilyHasNoWhat(what)}</Small>
        {own ? <SheetLine line={as(own)} ground={body.ground} facts={() => undefined} scale={scale} quiet /> : null}
        {own ? <Small>{SAY.fakedAsSomeProgramsDo}</Small> : null}
        <View style={what === "italic" ? { transform: [{ skewX: "-12deg" }] } : undefined}>
          <SheetLine
            line={what === "bold" ? { ...fake, layers: [{ ...layer, made: { kind: "contour", mm: line.size.value * 0.006 } }] } : fake}
            ground={body.ground}
            facts={() => undefined}
            scale={scale}
            quiet
          />
        </View>
      </View>
    );
  };
  return (
    <View className="border-t border-edge p-3">
      <Button label={SAY.boldAndItalic} pressed={shown} onPress={() => setShown(!shown)} testID="partners" />
      {shown ? <View className="mt-3">{(["bold", "italic"] as const).map(row)}</View> : null}
    </View>
  );
}

/** The first line in falling sizes. */
function Sizes({ editing }: { editing: Editing }) {
  const { scale, onLayout, onWidth } = useScale();
  const [chosen, setChosen] = useState("0");
  const { body, facts } = editing;
  const line = body?.lines[Number(chosen)] ?? body?.lines[0];
  if (!body || !line) return null;
  const words = Object.fromEntries(
    body.lines.map((one, i) => [String(i), `${i + 1}: ${one.layers.at(-1)!.style.family} ${one.layers.at(-1)!.style.style}`]),
  );
  return (
    <View onLayout={(event) => onLayout(event.nativeEvent.layout.width)} testID="sizes">
      <View className="mb-3 flex-row">
        <Choice label={SAY.line2} words={words} value={chosen} onChange={(next) => setChosen(next ?? "0")} />
      </View>
      {WATERFALL.map((pt) => (
        <View key={pt} className="mb-2">
          <Small>{SAY.ptPt(pt)}</Small>
          <SheetLine
            line={{ ...line, id: `${line.id}-${pt}`, size: { of: "em", value: pt, unit: "pt" } }}
            ground={body.ground}
            facts={facts}
            scale={scale}
            onWidth={onWidth}
            quiet
          />
        </View>
      ))}
    </View>
  );
}

const PROOFS = { "a4.pdf": SAY.pdfA4, "letter.pdf": SAY.pdfLetter, png: SAY.picturePng, html: SAY.oneHtmlFile } as const;
type ProofKey = keyof typeof PROOFS;

export function SheetScreen({ id }: { id: number }) {
  const router = useRouter();
  const editing = useSheetEditing(id);
  useRemember("sheet", id, editing.answer);
  const { answer, body, edit, step, settle, saving, problem } = editing;
  const jobs = useJobs();
  const [view, setView] = useState<ViewKey>("lines");
  const [proof, setProof] = useState<ProofKey>("a4.pdf");
  const { mutate } = answer;
  const decide = useAction(
    useCallback(
      async (line: BenchLine, considered: BenchStyle[]) => {
        await settle();
        const { family, style, sha256, face } = line.layers.at(-1)!.style;
        const detail = await send("POST", `/bench/sheets/${id}/decide`, SheetDetail, {
          lineId: "sheet",
          chosen: { family, style, sha256, face },
          considered,
        });
        await mutate(detail, { revalidate: false });
      },
      [id, settle, mutate],
    ),
  );
  const duplicate = useAction(
    useCallback(async () => {
      await settle();
      const made = await send("POST", "/bench/sheets", SheetDetail, { name: `${body?.name ?? SAY.sheet} copy`.slice(0, 120), copyOf: id });
      router.replace(`/bench/sheet/${made.id}`);
    }, [id, body, settle, router]),
  );
  const remove = useAction(
    useCallback(async () => {
      await settle();
      await send("POST", `/bench/sheets/${id}/remove`, Done, { removed: true });
      offerUndo(SAY.wasRemovedFromTheBench(body?.name), () => send("POST", `/bench/sheets/${id}/remove`, Done, { removed: false }));
      router.replace("/bench");
    }, [id, body, settle, router]),
  );
  const prove = useAction(
    useCallback(async () => {
      await settle();
      const [kind, paper] = proof.endsWith(".pdf") ? (["pdf", proof.replace(".pdf", "")] as const) : ([proof, "a4"] as const);
      download(await fetchFile(`/bench/sheets/${id}/proof`, { kind, paper }), `${body?.name ?? "proof"}.${kind}`);
    }, [id, proof, body, settle]),
  );
  const openCut = useAction(
    useCallback(
      async ([file]: File[]) => {
        await settle();
        if (file)
          await mutate(await upload(`/bench/sheets/${id}/open-cut`, [{ name: file.name, file }], SheetDetail), { revalidate: false });
      },
      [id, settle, mutate],
    ),
  );
  const jobNames = Object.fromEntries((jobs.data ?? []).map((one) => [String(one.id), one.name]));
  const failed = problem ?? decide.problem ?? duplicate.problem ?? remove.problem ?? prove.problem ?? openCut.problem;
  return (
    <Screen
      title={body?.name ?? SAY.sheet}
      note={saving ? SAY.saving : answer.data ? SAY.saved : undefined}
      back="/bench"
      testID="sheet"
      action={
        <Button
          strong={view !== "compare"}
          icon={Plus}
          label={SAY.addLinesInOtherStyles}
          onPress={() => void settle().then(() => router.push(`/bench/pick?sheet=${id}`))}
          testID="add-lines"
        />
      }
    >
      <Loaded answer={answer} what={SAY.fetchingTheSheet}>
        {(detail) =>
          body ? (
            <>
              {failed ? <ApiProblemNote problem={failed} /> : null}
              <View className="mb-3 flex-row flex-wrap gap-2">
                <Button label={SAY.undo} icon={Undo2} disabled={!detail.canUndo && !saving} onPress={() => step(true)} testID="step-back" />
                <Button label={SAY.redo} icon={Redo2} disabled={!detail.canRedo} onPress={() => step(false)} testID="step-forward" />
                {(Object.entries(VIEWS) as [ViewKey, string][]).map(([key, label]) => (
                  <Button key={key} label={label} pressed={view === key} onPress={() => setView(key)} testID={`view-${key}`} />
                ))}
              </View>
              {body.lines.length === 0 ? (
                <Empty title={SAY.noLineYet}>
                  <Body>{SAY.addLinesInTheStyles}</Body>
                </Empty>
              ) : null}
              {view === "lines" ? <Lines id={id} editing={editing} /> : null}
              {view === "compare" ? (
                <Compare
                  lines={body.lines}
                  ground={body.ground}
                  hasJob={body.jobId !== null}
                  facts={editing.facts}
                  decisions={detail.decisions}
                  onDecide={decide.run}
                  deciding={decide.busy}
                />
              ) : null}
              {view === "sizes" ? <Sizes editing={editing} /> : null}
              <View className="mt-4 border border-edge bg-drawer p-3">
                <Field
                  label={SAY.nameOfTheSheet}
                  value={body.name}
                  onChange={(name) => name.trim() !== "" && edit((one) => ({ ...one, name: name.slice(0, 120) }))}
                  testID="sheet-name"
                />
                <View className="mb-3 flex-row flex-wrap gap-2">
                  <Choice
                    label={SAY.forTheJob}
                    none={SAY.forNoJob}
                    words={jobNames}
                    value={body.jobId === null ? undefined : String(body.jobId)}
                    onChange={(job) => edit((one) => ({ ...one, jobId: job === undefined ? null : Number(job) }))}
                    testID="sheet-job"
                  />
                </View>
                <ColourField
                  label={SAY.ground}
                  value={body.ground}
                  onChange={(ground) => edit((one) => ({ ...one, ground }))}
                  testID="ground"
                />
                <View className="flex-row flex-wrap gap-2">
                  <Choice
                    label={SAY.proofAs}
                    words={PROOFS}
                    value={proof}
                    onChange={(next) => next && setProof(next)}
                    testID="proof-kind"
                  />
                  <Button
                    label={SAY.saveAProof}
                    icon={Download}
                    busy={prove.busy}
                    disabled={body.lines.length === 0}
                    onPress={prove.run}
                    testID="proof"
                  />
                  <DropArea label={SAY.chooseACutFileSvg} multiple={false} onFiles={openCut.run}>
                    {({ pick }) => (
                      <Button label={SAY.openACutFileSvg} icon={FolderOpen} busy={openCut.busy} onPress={pick} testID="open-cut" />
                    )}
                  </DropArea>
                  <Button label={SAY.duplicate} icon={Copy} busy={duplicate.busy} onPress={duplicate.run} testID="duplicate" />
                  <Button label={SAY.removeSheet} icon={Trash2} busy={remove.busy} onPress={remove.run} testID="remove-sheet" />
                </View>
              </View>
            </>
          ) : null
        }
      </Loaded>
    </Screen>
  );
}
