// Cutting a live line: what would be cut, what to know before, what is chosen, files. The line itself stays as it is.
import { useCallback, useMemo, useState } from "react";
import { View } from "react-native";
import type { CutFinding } from "../../../core/cutting/findings/kinds.ts";
import type { Arranged } from "../../../core/cutting/sheets/arrange.ts";
import type { Bridge } from "../../../core/cutting/making/bridges.ts";
import type { CutSummary } from "../../../core/cutting/findings/summary.ts";
import type { CutView } from "../../../core/cutting/view.ts";
import { CUT_UNITS, type CutUnit, type PlacedBridge } from "../../../core/cutting/settings.ts";
import { count } from "../../../core/words/words.ts";
import { missingWords } from "../../../core/bench/compare.ts";
import { styleName } from "../../data/bench.ts";
import { useCutEditing, wantedCut } from "../../data/cut.ts";
import { useSheet } from "../../data/hooks.ts";
import { Choice } from "../../parts/Choice.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Empty, Loaded, ProblemNote, Waiting } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { askBridge, useCut } from "../../web/cut.ts";
import { CutChoices } from "./CutChoices.tsx";
import { CutDrawing, isSolved, type Shown } from "./CutDrawing.tsx";
import { CurrentFinding, CutFindings } from "./CutFindings.tsx";
import { SaveAction, SaveDrawer, useCutSaving } from "./CutSave.tsx";
import { SAY } from "../../sentences/cutting/cut.ts";

const SHOWN: Record<Shown, string> = { joined: SAY.asItIsCut, raw: SAY.asTheFontDrawsIt, both: SAY.bothOneOverTheOther };

function Numbers({ summary, counters, unit, known }: { summary: CutSummary; counters: number; unit: CutUnit; known: boolean }) {
  const a = CUT_UNITS[unit];
  const n = (mm: number, digits = unit === "mm" ? 1 : 2) => (mm / a).toFixed(digits);
  const long = summary.cutLengthMm;
  const overlaps =
    summary.overlapsBefore === 0
      ? SAY.noOutlinesOverlap
      : summary.overlapsAfter === 0
        ? SAY.overlapsJoined(summary.overlapsBefore, summary.areaErrorPct)
        : SAY.overlapsAfterTheBladeWouldCut(summary.overlapsAfter);
  return (
    <View className="my-2" role="status" testID="cut-numbers">
      <Strong>
        {n(summary.widthMm)} × {n(summary.heightMm)} {unit}
      </Strong>
      <Body>
        {[
          count(summary.pieces, "piece"),
          count(counters, "counter"),
          count(summary.closedPaths, "closed path"),
          long >= 10_000 && unit === "mm"
            ? SAY.toFixedMToCut((long / 1000).toFixed(2))
            : SAY.nUnitToCut(n(long, unit === "mm" ? 0 : 1), unit),
          SAY.toFixedOfMaterial((summary.areaMm2 / (unit === "mm" ? 100 : 645.16)).toFixed(1), unit),
        ].join(", ")}
      </Body>
      <Small>{known ? overlaps : SAY.checkingAgain(overlaps)}</Small>
    </View>
  );
}

const MOST_SHEETS_SHOWN = 4;
/** Where the copies lie on their sheets. */
function OnSheets({ view, arranged }: { view: CutView; arranged: Arranged }) {
  const { widthMm, heightMm, sheets, placed } = arranged;
  const [wide, high] = [view.box.right - view.box.left, view.box.bottom - view.box.top];
  const shown = Math.min(sheets, MOST_SHEETS_SHOWN);
  const words = SAY.copiesOnSheets(
    placed.length,
    sheets,
    widthMm.toFixed(0),
    heightMm.toFixed(0),
    placed.some(({ turned }) => turned),
  );
  return (
    <View className="mt-2">
      <Small testID="arranged">{words}</Small>
      <View className="mt-1 flex-row flex-wrap gap-2">
        {Array.from({ length: shown }, (_, on) => (
          <svg
            key={on}
            role="img"
            aria-label={SAY.sheetN(on, placed.filter((one) => one.on === on).length)}
            viewBox={`0 0 ${widthMm} ${heightMm}`}
            style={{ width: 160, height: Math.min(200, (160 * heightMm) / widthMm), background: "#ffffff", border: "1px solid #8a8172" }}
          >
            {placed
              .filter((one) => one.on === on)
              .map(({ x, y, turned }, i) => (
                <rect
                  key={i}
                  x={x}
                  y={y}
                  width={turned ? high : wide}
                  height={turned ? wide : high}
                  fill="#d9a514"
                  fillOpacity={0.35}
                  stroke="#1d1a16"
                  strokeWidth={1}
                  vectorEffect="non-scaling-stroke"
                />
              ))}
          </svg>
        ))}
      </View>
      {sheets > shown ? <Small>{SAY.shownLikeThese(sheets, shown)}</Small> : null}
    </View>
  );
}

/** Colours of the sheets, to be looked at one by one. */
function SheetPick({ view, only, onOnly }: { view: CutView; only: number | undefined; onOnly: (only: number | undefined) => void }) {
  if (view.sheets.length < 2) return null;
  const words = Object.fromEntries(
    view.sheets.map(({ kind, colour, totals }, i) => [
      String(i),
      `${i + 1}: ${kind === "backing" ? "backing" : "letters"} ${colour}, ${count(totals.pieces, "piece")}`,
    ]),
  );
  return (
    <Choice
      label={SAY.sheetShown}
      none={SAY.allSheetsSheetsStacked(view.sheets.length)}
      words={words}
      value={only === undefined ? undefined : String(only)}
      onChange={(next) => onOnly(next === undefined ? undefined : Number(next))}
      testID="sheet-shown"
    />
  );
}

export function CutScreen({ sheetId, lineId }: { sheetId: number; lineId: string }) {
  const sheet = useSheet(sheetId);
  const line = sheet.data?.body.lines.find(({ id }) => id === lineId);
  const { answer, settings, edit, settle, problem } = useCutEditing(sheetId, lineId);
  const [shown, setShown] = useState<Shown>("joined");
  const [only, setOnly] = useState<number>();
  const [current, setCurrent] = useState<CutFinding>();
  const wanted = useMemo(() => (line && settings ? wantedCut(line, settings) : null), [line, settings]);
  const { preview, view, problem: cutProblem, fresh } = useCut(wanted);
  const { mutate } = answer;
  const after = useCallback(() => mutate(), [mutate]);
  /** A place of the drawing as it is kept: in the line's own em, not mirrored. */
  const kept = (at: CutView, x: number, y: number) => ({
    x: ((settings?.mirror ? at.box.left + at.box.right - x : x) * 1000) / at.emMm,
    y: (y * 1000) / at.emMm,
  });
  const placed = (at: CutView, { x, y, degrees, lengthMm }: Bridge): PlacedBridge => ({
    ...kept(at, x, y),
    degrees: settings?.mirror ? (180 - degrees) % 180 : degrees,
    length: (lengthMm * 1000) / at.emMm,
  });
  const tap = async (at: CutView, x: number, y: number, near: number) => {
    const nearest = at.findings
      .filter((one) => (only === undefined || one.sheet === only) && (shown !== "joined" || !isSolved(at, one)))
      .map((one) => ({ one, far: Math.hypot(one.x - x, one.y - y) }))
      .sort((a, b) => a.far - b.far)[0];
    if (nearest && nearest.far < near) setCurrent(nearest.one);
    else if (settings?.stencil) {
      const bridge = await askBridge(x, y);
      if (bridge) edit((one) => ({ ...one, bridges: [...one.bridges, placed(at, bridge)] }));
    }
  };
  const chosen = view && current && view.findings.includes(current) ? current : undefined;
  const go = (finding: CutFinding | undefined) => {
    setCurrent(finding);
    if (finding?.kind === "overlap" && shown === "joined") setShown("both");
  };
  const blocked = cutProblem ? cutProblem.message : view && !view.summary.joined ? SAY.itCouldNotBeJoined : (view?.problem?.message ?? "");
  const names = line ? [...new Set(line.layers.toReversed().map(({ style }) => styleName(style)))].join(" over ") : "";
  const saving = useCutSaving(
    `/bench/sheets/${sheetId}/cuts/${lineId}`,
    `${line?.text.slice(0, 30) ?? SAY.cut} ${names}`.trim().replace(/\s+/g, " "),
    settle,
    after,
  );
  const title = line ? SAY.cutTrim(line.text.split("\n")[0]!.slice(0, 40).trim()) : SAY.cut;
  return (
    <Screen
      title={title}
      note={names === "" ? undefined : names}
      back={`/bench/sheet/${sheetId}`}
      testID="cut"
      action={line && settings && answer.data ? <SaveAction known={answer.data} saving={saving} blocked={blocked} /> : undefined}
    >
      <Loaded answer={sheet} what={SAY.fetchingTheLine}>
        {() =>
          !line ? (
            <Empty title={SAY.thisLineIsNotOn}>
              <Body>{SAY.goBackToTheSheet}</Body>
            </Empty>
          ) : !settings ? (
            <Waiting what={SAY.fetchingWhatWasChosen} />
          ) : (
            <>
              {problem ? <ApiProblemNote problem={problem} /> : null}
              {cutProblem ? <ProblemNote testID="cut-problem" message={cutProblem.message} next={cutProblem.next} /> : null}
              {!view && !cutProblem ? (
                preview ? (
                  <svg
                    role="img"
                    aria-label={SAY.previewOfText(line.text)}
                    viewBox={`${preview.box.left} ${preview.box.top} ${preview.box.right - preview.box.left} ${preview.box.bottom - preview.box.top}`}
                    style={{ width: "100%", maxHeight: 320, background: "#ffffff" }}
                  >
                    {preview.layers.map(({ path, colour }, i) => (
                      <path key={i} d={path} fill={colour} />
                    ))}
                  </svg>
                ) : (
                  <Waiting what={SAY.computingTheCut} />
                )
              ) : null}
              {view && !cutProblem ? (
                <View aria-busy={!fresh}>
                  <CutDrawing
                    view={view}
                    preview={preview}
                    shown={shown}
                    only={only}
                    findings={view.findings}
                    current={chosen}
                    onTap={(x, y, near) => void tap(view, x, y, near)}
                    proposed={settings.stencil && settings.bridges.length === 0}
                    label={SAY.textAsItIsCut(line.text, view.summary.pieces)}
                  />
                  {chosen ? (
                    <CurrentFinding
                      view={view}
                      current={chosen}
                      joining={settings.join !== "nothing"}
                      onGo={go}
                      onLeaveOut={(finding) => {
                        setCurrent(undefined);
                        edit((one) => ({ ...one, leftOut: [...one.leftOut, kept(view, finding.x, finding.y)] }));
                      }}
                      onBridge={() => {
                        setCurrent(undefined);
                        edit((one) => ({ ...one, bridges: [...one.bridges, ...view.proposed.map((bridge) => placed(view, bridge))] }));
                      }}
                    />
                  ) : null}
                  <View className="mt-2 flex-row flex-wrap gap-2">
                    <Choice label={SAY.shown} words={SHOWN} value={shown} onChange={(next) => next && setShown(next)} testID="shown" />
                    <SheetPick view={view} only={only} onOnly={setOnly} />
                  </View>
                  <Numbers
                    summary={view.summary}
                    counters={view.sheets.reduce((sum, { totals }) => sum + totals.counters, 0)}
                    unit={settings.size.unit}
                    known={fresh}
                  />
                  {view.missing.length > 0 ? <Small>{SAY.missingWordsItIsNotCut(missingWords(view.missing))}</Small> : null}
                  {view.pictures.length > 0 ? <Small>{SAY.picturesAPictureWhichA(view.pictures.join(" "))}</Small> : null}
                  {view.problem ? <ProblemNote testID="sheet-problem" message={view.problem.message} next={view.problem.next} /> : null}
                  {view.arranged && (settings.copies > 1 || settings.sheet) ? <OnSheets view={view} arranged={view.arranged} /> : null}
                  <View className="mt-3">
                    <CutFindings view={view} current={chosen} onGo={go} />
                  </View>
                </View>
              ) : null}
              <CutChoices settings={settings} manyLayers={line.layers.length > 1} onChange={edit} />
              {answer.data ? <SaveDrawer known={answer.data} saving={saving} blocked={blocked} /> : null}
            </>
          )
        }
      </Loaded>
    </Screen>
  );
}
