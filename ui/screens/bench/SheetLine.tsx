// One live line of a sheet: drawn, named, with what there is to know about it.
import { Link } from "expo-router";
import { useEffect, useMemo } from "react";
import { Pressable, View } from "react-native";
import type { BenchLine, StyleFacts } from "../../../contract/bench.ts";
import { contrastWords } from "../../../core/bench/colour.ts";
import { missingWords } from "../../../core/bench/compare.ts";
import type { DrawnLine, LineWanted } from "../../../core/bench/drawing.ts";
import { emMmOf, UNIT_MM } from "../../../core/bench/line.ts";
import { driftWords } from "../../../core/bench/register.ts";
import { styleName } from "../../data/bench.ts";
import { Small, Strong } from "../../parts/Text.tsx";
import { Waiting } from "../../parts/Status.tsx";
import { useDrawnLine } from "../../web/draw.ts";
import { DrawnSvg, extentMm } from "../../web/DrawnSvg.tsx";
import { SAY } from "../../sentences/bench/bench.ts";

/** CSS pixels a millimetre (CSS Values 4, "Absolute lengths"). */
export const PX_A_MM = 96 / 25.4;

export function wantedOf(line: BenchLine, marks = false): LineWanted {
  const { text, letterSpacing, lineSpacing, direction } = line;
  const layers = line.layers.map(({ style, features, axes, letters }) => ({
    sha256: style.sha256,
    face: style.face,
    features,
    axes,
    letters,
  }));
  return { text, letterSpacing, lineSpacing, direction, layers, ...(marks ? { marks } : {}) };
}

/** A line's em in millimetres as drawn, and whether it is what was asked: a face may have no letters to measure. */
export function emOf(line: BenchLine, drawn: DrawnLine): { emMm: number; asAsked: boolean } {
  const heights = drawn.layers.find((layer) => layer !== null)?.heights ?? { small: undefined, capitals: undefined };
  const emMm = emMmOf(line.size, heights);
  return emMm === undefined ? { emMm: line.size.value * UNIT_MM[line.size.unit], asAsked: false } : { emMm, asAsked: true };
}

interface NotesProps {
  line: BenchLine;
  drawn: DrawnLine;
  ground: string;
  facts: (style: { sha256: string; face: number }) => StyleFacts | undefined;
}

/** What to know of a line: what another font draws, what cannot be read, what does not line up, what is gone. */
function lineNotes({ line, drawn, ground, facts }: NotesProps): string[] {
  const notes: string[] = [];
  const { emMm, asAsked } = emOf(line, drawn);
  const gone = line.layers.filter(({ style }, i) => facts(style)?.there === false || drawn.layers[i] === null);
  for (const { style } of gone) notes.push(SAY.styleNameIsNotInThe(styleName(style)));
  if (!asAsked && gone.length === 0) notes.push("This style has no such letters to measure; its size is that of the em.");
  const missing = new Set(drawn.layers.flatMap((layer) => layer?.missing ?? []));
  if (missing.size > 0) notes.push(`${missingWords([...missing])}.`);
  const top = line.layers.at(-1)!;
  const contrast = contrastWords(top.colour, ground, emMm);
  if (/cannot|hard/.test(contrast)) notes.push(contrast);
  drawn.layers.forEach((layer, i) => {
    if (i === 0 || !layer || line.layers[i]!.style.sha256 === line.layers[0]!.style.sha256) return;
    const words = driftWords(layer.drift ?? undefined);
    notes.push(layer.drift?.length === 0 ? SAY.layerEveryLetterLinesUp(i) : SAY.layerWords(i, words));
  });
  return notes;
}

interface Props extends Omit<NotesProps, "drawn"> {
  /** CSS pixels a millimetre. */
  scale: number;
  marks?: boolean;
  /** Tells how wide the line is in millimetres. */
  onWidth?: (lineId: string, mm: number) => void;
  name?: string;
  quiet?: boolean;
  /** The drawing is a button that opens and closes the line. */
  press?: { open: boolean; label: string; toggle: () => void; testID: string };
}

export function SheetLine({ line, ground, facts, scale, marks = false, onWidth, name, quiet = false, press }: Props) {
  const wanted = useMemo(() => wantedOf(line, marks), [line, marks]);
  const { drawn } = useDrawnLine(wanted);
  const ready = drawn !== undefined && drawn !== "gone" ? drawn : undefined;
  const em = ready && emOf(line, ready);
  const width = ready && em ? extentMm(ready, em.emMm).width : undefined;
  useEffect(() => {
    if (width !== undefined) onWidth?.(line.id, width);
  }, [width, line.id, onWidth]);
  const label = line.text.trim() === "" ? SAY.aLineWithoutWords : line.text;
  const names = [...new Set(line.layers.toReversed().map(({ style }) => styleName(style)))].join(" over ");
  const nothing = ready?.layers.every((layer) => layer === null) ?? drawn === "gone";
  const picture = (
    <View style={{ backgroundColor: ground, overflow: "hidden" }} className="px-2 py-1" testID="drawn-line">
      {drawn === undefined ? <Waiting what={SAY.drawing} /> : null}
      {nothing ? (
        <span
          style={{
            font: `${Math.max(12, line.size.value * UNIT_MM[line.size.unit] * scale)}px BuvanoText, sans-serif`,
            opacity: 0.6,
            color: line.layers[0]!.colour,
            whiteSpace: "pre-wrap",
          }}
        >
          {label}
        </span>
      ) : ready && em ? (
        <DrawnSvg layers={line.layers} drawn={ready} emMm={em.emMm} scale={scale} label={label} marks={marks} />
      ) : null}
    </View>
  );
  return (
    <View testID="sheet-line">
      {press ? (
        <Pressable
          role="button"
          aria-expanded={press.open}
          aria-label={press.label}
          onPress={press.toggle}
          testID={press.testID}
          className="active:opacity-80"
        >
          {picture}
        </Pressable>
      ) : (
        picture
      )}
      {line.text.trim() === "" ? <Small className="px-2">{SAY.noWordsYetTypeSome}</Small> : null}
      {quiet ? null : (
        <View className="gap-0.5 px-2 py-2">
          <Strong>{name ? `${name} · ${names}` : names}</Strong>
          {ready ? lineNotes({ line, drawn: ready, ground, facts }).map((note) => <Small key={note}>{note}</Small>) : null}
        </View>
      )}
    </View>
  );
}

/** A link to a style's characters. */
export const GlyphsLink = ({ facts }: { facts: StyleFacts | undefined }) =>
  facts?.styleId == null ? null : (
    <Link
      href={`/bench/glyphs/${facts.styleId}`}
      className="min-h-[44px] justify-center py-2 font-strong text-base text-ink underline"
      testID="to-glyphs"
    >
      {SAY.charactersOfStyleName(styleName(facts))}
    </Link>
  );
