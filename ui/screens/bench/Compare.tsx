// Two to four candidates: side by side when wide, swiped on a phone; two laid over one another; what differs, in words; the decision.
import { useMemo, useState } from "react";
import { ScrollView, View, useWindowDimensions } from "react-native";
import type { BenchLine, BenchStyle, Decision, StyleFacts } from "../../../contract/bench.ts";
import { differences, type Measured } from "../../../core/bench/compare.ts";
import { bare, styleKey, styleName } from "../../data/bench.ts";
import { Button } from "../../parts/Button.tsx";
import { Check } from "../../parts/icons.ts";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { useWide } from "../../parts/useWide.ts";
import { useDrawnLine } from "../../web/draw.ts";
import { DrawnSvg, extentMm } from "../../web/DrawnSvg.tsx";
import { RangeInput } from "../../web/RangeInput.tsx";
import { emOf, PX_A_MM, wantedOf } from "./SheetLine.tsx";
import { SAY } from "../../sentences/bench/bench.ts";

const MOST_CANDIDATES = 4;
const LETTERS = ["A", "B", "C", "D"];
/** Candidates compare fairly at the same height of small letters. */
const FAIR = { of: "small", value: 9, unit: "mm" } as const;

interface Props {
  lines: readonly BenchLine[];
  ground: string;
  hasJob: boolean;
  facts: (style: { sha256: string; face: number }) => StyleFacts | undefined;
  decisions: readonly Decision[];
  onDecide: (line: BenchLine, considered: BenchStyle[]) => void;
  deciding: boolean;
}

/** A candidate as it is shown here: fair size, its drawing, and what is measured of it. */
function useCandidate(line: BenchLine | undefined, facts: Props["facts"], fair: boolean) {
  const shown = useMemo(() => (line && fair ? { ...line, size: FAIR } : line), [line, fair]);
  const wanted = useMemo(() => (shown ? wantedOf(shown) : null), [shown]);
  const { drawn } = useDrawnLine(wanted);
  if (!line || !shown || drawn === undefined || drawn === "gone") return undefined;
  const top = line.layers.at(-1)!;
  const known = facts(top.style);
  const { emMm } = emOf(shown, drawn);
  const layer = drawn.layers.at(-1);
  const measured: Measured = {
    widthMm: layer ? (layer.width / layer.upem) * emMm : 0,
    weight: known?.weight ?? 400,
    missing: [...new Set(drawn.layers.flatMap((one) => one?.missing ?? []))],
    clearance: known?.clearance ?? "",
    price: known?.price ?? "",
  };
  return { line: shown, drawn, emMm, measured, extent: extentMm(drawn, emMm) };
}

export function Compare({ lines, ground, hasJob, facts, decisions, onDecide, deciding }: Props) {
  const wide = useWide();
  const { width: windowWidth } = useWindowDimensions();
  const [fair, setFair] = useState(true);
  const [over, setOver] = useState(false);
  const [mix, setMix] = useState(50);
  const [boxWidth, setBoxWidth] = useState(0);
  const shown = lines.slice(0, MOST_CANDIDATES);
  const candidates = [
    useCandidate(shown[0], facts, fair),
    useCandidate(shown[1], facts, fair),
    useCandidate(shown[2], facts, fair),
    useCandidate(shown[3], facts, fair),
  ].slice(0, shown.length);
  const widest = Math.max(1, ...candidates.map((one) => one?.extent.width ?? 0));
  const room = wide ? boxWidth / shown.length - 28 : Math.min(windowWidth, 760) - 72;
  const scaleFor = (px: number) => Math.min(PX_A_MM, Math.max(0.2, px / widest));
  const [scale, overScale] = [scaleFor(room), scaleFor(boxWidth - 24)];
  const first = candidates[0];
  const considered = shown.map((line) => bare(line.layers.at(-1)!.style));

  const card = (line: BenchLine, i: number) => {
    const one = candidates[i];
    const top = line.layers.at(-1)!.style;
    const decision = decisions.find((other) => styleKey(other.style) === styleKey(top));
    const said = i > 0 && one && first ? differences(one.measured, first.measured) : [];
    return (
      <View
        key={line.id}
        testID="candidate"
        style={wide ? { flex: 1, minWidth: 0 } : { width: Math.min(windowWidth, 760) - 56 }}
        className="border border-edge bg-drawer"
      >
        <View style={{ backgroundColor: ground, overflow: "hidden" }} className="p-2">
          {one ? (
            <DrawnSvg layers={one.line.layers} drawn={one.drawn} emMm={one.emMm} scale={scale} label={line.text} />
          ) : (
            <Small>{SAY.drawing2}</Small>
          )}
        </View>
        <View className="gap-1 p-3">
          <Strong>
            {LETTERS[i]} · {styleName(top)}
          </Strong>
          {i === 0 && one?.measured.clearance ? <Small>{one.measured.clearance}</Small> : null}
          {i > 0 ? <Small>{SAY.againstA(said.join(" "))}</Small> : null}
          {decision ? <Small testID="decision">{decision.chosen ? SAY.chosenForTheJob : SAY.considered}</Small> : null}
          <Button
            label={decision?.chosen ? SAY.chosen : SAY.chooseThis}
            icon={Check}
            pressed={decision?.chosen ?? false}
            disabled={!hasJob || decision?.chosen}
            busy={deciding}
            hint={`${LETTERS[i]}, ${styleName(top)}`}
            onPress={() => onDecide(line, considered)}
            testID={`choose-${LETTERS[i]}`}
          />
        </View>
      </View>
    );
  };

  return (
    <View onLayout={(event) => setBoxWidth(event.nativeEvent.layout.width)} testID="compare">
      <View className="mb-3 flex-row flex-wrap gap-2">
        <Button label={SAY.sameHeightOfSmallLetters} pressed={fair} onPress={() => setFair(!fair)} testID="fair" />
        <Button label={SAY.aOverB} pressed={over} disabled={shown.length < 2} onPress={() => setOver(!over)} testID="overlay" />
      </View>
      {!hasJob ? <Body className="mb-3">{SAY.chooseAJobForThis}</Body> : null}
      {shown.length < 2 ? <Body>{SAY.addAnotherLineCandidatesAre}</Body> : null}
      {over && candidates[0] && candidates[1] ? (
        <View className="mb-3 border border-edge bg-drawer p-2" testID="overlay-view">
          <View
            style={{
              backgroundColor: ground,
              height: Math.max(candidates[0].extent.height, candidates[1].extent.height) * overScale,
              position: "relative",
              overflow: "hidden",
            }}
          >
            {[candidates[0], candidates[1]].map((one, i) => (
              <View
                key={i}
                style={{
                  position: "absolute",
                  left: 0,
                  top: (Math.max(candidates[0]!.extent.top, candidates[1]!.extent.top) - one.extent.top) * overScale,
                  opacity: i === 0 ? 1 - mix / 100 : mix / 100,
                }}
              >
                <DrawnSvg
                  layers={one.line.layers}
                  drawn={one.drawn}
                  emMm={one.emMm}
                  scale={overScale}
                  label={`${LETTERS[i]}: ${one.line.text}`}
                />
              </View>
            ))}
          </View>
          <View className="flex-row items-center gap-3">
            <Small>{SAY.a}</Small>
            <View className="min-w-0 flex-1">
              <RangeInput label={SAY.fromAToB} value={mix} least={0} most={100} unit="%" onChange={setMix} />
            </View>
            <Small>{SAY.b}</Small>
          </View>
        </View>
      ) : null}
      {wide ? (
        <View className="flex-row gap-3">{shown.map(card)}</View>
      ) : (
        <ScrollView horizontal contentContainerClassName="gap-3 pb-2" showsHorizontalScrollIndicator aria-label={SAY.candidatesSideBySide}>
          {shown.map(card)}
        </ScrollView>
      )}
      {lines.length > MOST_CANDIDATES ? <Small className="mt-2">{SAY.theFirstFourLinesAre}</Small> : null}
    </View>
  );
}
