// A proof: each candidate under a letter, drawn with its words, its names and permissions below; laid out on pages as a list of what to draw. Nothing overlaps:
// lines that are too wide are made smaller or broken, pages are turned between lines.
import type { DrawFace } from "./draw-face.ts";
import type { Direction, LettersOf, Made } from "./line.ts";
import { isDrawnBy, movedPath, setText, type How, type SetText } from "./setting.ts";

export const PAPERS = { a4: { widthMm: 210, heightMm: 297 }, letter: { widthMm: 215.9, heightMm: 279.4 } } as const;
export type Paper = keyof typeof PAPERS;
const MARGIN_MM = 18;

/** A face, and how it may stand in a document. */
export interface ProofFace {
  key: string;
  draw: DrawFace;
  name: string;
  /** Only outlines of it may: its embedding bits forbid the font itself. */
  outlinesOnly: boolean;
}
export interface ProofLayer {
  /** Undefined when it cannot be had. */
  face: ProofFace | undefined;
  features: Readonly<Record<string, number>>;
  colour: string;
  dx: number;
  dy: number;
  letters: LettersOf;
  made: Made;
}
export interface Candidate {
  text: string;
  emMm: number;
  letterSpacing: number;
  lineSpacing: number;
  direction: Direction;
  layers: readonly ProofLayer[];
  /** Lines of small print: names, clearance, credit line, what is missing. */
  captions: readonly string[];
}

export type Item =
  /** Glyphs at places in millimetres from the page's top left; `text` is what each stands for. */
  | { kind: "glyphs"; face: ProofFace; emMm: number; colour: string; glyphs: { id: number; x: number; y: number; text: string }[] }
  /** SVG path data of absolute M, L, Q, C and Z in font units, y downwards; `unitMm` millimetres a unit, from (x, y) in millimetres. */
  | { kind: "path"; d: string; x: number; y: number; unitMm: number; fill: string; strokeMm: number }
  | { kind: "ground"; x: number; y: number; width: number; height: number; colour: string };
export interface ProofPage {
  widthMm: number;
  heightMm: number;
  items: Item[];
}

const CAPTION_MM = 3.4;
const LETTER_MM = 6;
const GAP_MM = 9;
const SHADOW_STEP_MM = 0.25;
const MOST_COPIES = 40;

/** Breaks a text between words so that its lines fit; a word wider than the room stands alone. */
export function broken(text: string, face: DrawFace, how: How, roomUnits: number): string[] {
  return text.split("\n").flatMap((paragraph) => {
    if (setText(paragraph, face, how).width <= roomUnits) return [paragraph];
    const lines: string[] = [];
    let line = "";
    let width = 0;
    for (const word of paragraph.split(/(?<= )/u)) {
      const wide = setText(word, face, how).width;
      if (line !== "" && width + wide > roomUnits) {
        lines.push(line.trimEnd());
        [line, width] = ["", 0];
      }
      line += word;
      width += wide;
    }
    return [...lines, line];
  });
}

/** Puts one set line of a layer on a page; (x, y) is the start of its baseline in millimetres. */
export function placeLine(set: SetText, layer: ProofLayer, face: ProofFace, emMm: number, x: number, y: number): Item[] {
  const unitMm = emMm / set.upem;
  const [left, base] = [x + (layer.dx * emMm) / 1000, y - (layer.dy * emMm) / 1000];
  const { colour, made } = layer;
  const coloured = set.glyphs.some(({ glyph }) => face.draw.colours(glyph) !== undefined);
  let drawn = true;
  const shown = set.glyphs.filter(({ text }) => {
    if (text !== "") drawn = isDrawnBy(layer.letters, text);
    return drawn;
  });
  if (made.kind === "none" && !coloured && !face.outlinesOnly) {
    return [
      {
        kind: "glyphs",
        face,
        emMm,
        colour,
        glyphs: shown.map((one) => ({ id: one.glyph, x: left + one.x * unitMm, y: base + one.y * unitMm, text: one.text })),
      },
    ];
  }
  const paths: { d: string; fill: string }[] = coloured
    ? shown.flatMap(({ glyph, x: gx, y: gy }) =>
        (face.draw.colours(glyph) ?? [{ glyph, colour: undefined }]).map((part) => ({
          d: movedPath(face.draw.outline(part.glyph), gx, gy),
          fill: part.colour?.slice(0, 7) ?? colour,
        })),
      )
    : [{ d: shown.map(({ glyph, x: gx, y: gy }) => movedPath(face.draw.outline(glyph), gx, gy)).join(""), fill: colour }];
  const copies = made.kind === "shadow" ? Math.max(1, Math.min(MOST_COPIES, Math.ceil(made.mm / SHADOW_STEP_MM))) : 1;
  const angle = made.kind === "shadow" ? (made.degrees * Math.PI) / 180 : 0;
  return Array.from({ length: copies }, (_, i) => {
    const far = made.kind === "shadow" ? ((i + 1) / copies) * made.mm : 0;
    return paths
      .filter(({ d }) => d !== "")
      .map(({ d, fill }): Item => ({
        kind: "path",
        d,
        unitMm,
        fill,
        strokeMm: made.kind === "contour" ? 2 * made.mm : 0,
        x: left + far * Math.cos(angle),
        y: base - far * Math.sin(angle),
      }));
  }).flat();
}

/** Lays candidates out. `print` is the face of small print; `letter` names each, from A on. */
export function layOutProof(candidates: readonly Candidate[], title: string, ground: string, print: ProofFace, paper: Paper): ProofPage[] {
  const { widthMm, heightMm } = PAPERS[paper];
  const room = widthMm - 2 * MARGIN_MM;
  const pages: ProofPage[] = [];
  let y = Infinity;
  const page = (): ProofPage => pages.at(-1)!;
  /** Makes room for so much; a new page where it does not fit. */
  const reserve = (height: number) => {
    if (y + height <= heightMm - MARGIN_MM) return;
    pages.push({ widthMm, heightMm, items: [] });
    y = MARGIN_MM;
  };
  const plain: ProofLayer = { face: print, features: {}, colour: "#1d1a16", dx: 0, dy: 0, letters: "all", made: { kind: "none" } };
  const small = (text: string, emMm: number, colour = "#1d1a16") => {
    for (const line of broken(text, print.draw, {}, (room / emMm) * print.draw.upem)) {
      reserve(emMm * 1.4);
      const set = setText(line, print.draw);
      page().items.push(...placeLine(set, { ...plain, colour }, print, emMm, MARGIN_MM, y + emMm));
      y += emMm * 1.4;
    }
  };
  small(title, LETTER_MM);
  y += GAP_MM / 2;
  candidates.forEach((candidate, i) => {
    const first = candidate.layers.find(({ face }) => face !== undefined)?.face;
    const how = (layer: ProofLayer): How => ({
      features: layer.features,
      letterSpacing: candidate.letterSpacing,
      direction: candidate.direction,
    });
    reserve(LETTER_MM * 1.4 + (first ? candidate.emMm : 0));
    small(String.fromCharCode(65 + (i % 26)), LETTER_MM, "#b4400f");
    if (first) {
      const lead = candidate.layers.find(({ face }) => face !== undefined)!;
      // One word wider than the page makes the whole smaller; everything else is broken between words.
      const words = candidate.text.split(/\s+/u).filter(Boolean);
      const widest = Math.max(1, ...words.map((word) => setText(word, first.draw, how(lead)).width)) / first.draw.upem;
      const emMm = Math.min(candidate.emMm, room / widest, heightMm - 2 * MARGIN_MM - 30);
      const lines = broken(candidate.text, first.draw, how(lead), (room / emMm) * first.draw.upem);
      const { ascent, descent, upem } = first.draw;
      const [above, below] = [(Math.max(ascent, upem * 0.8) / upem) * emMm, (Math.max(descent, upem * 0.2) / upem) * emMm];
      const step = ((above + below) * candidate.lineSpacing) / 1000;
      for (const line of lines) {
        reserve(Math.max(step, above + below));
        if (ground !== "#ffffff")
          page().items.push({ kind: "ground", x: MARGIN_MM, y, width: room, height: Math.max(step, above + below), colour: ground });
        for (const layer of candidate.layers) {
          if (!layer.face) continue;
          const set = setText(line, layer.face.draw, how(layer));
          const wide = (set.width / set.upem) * emMm;
          const start = set.lines[0]?.rightToLeft ? widthMm - MARGIN_MM - wide : MARGIN_MM;
          page().items.push(...placeLine(set, layer, layer.face, emMm, start, y + above));
        }
        y += step;
      }
      y += below * 0.3;
    }
    for (const caption of candidate.captions) small(caption, CAPTION_MM);
    y += GAP_MM;
  });
  return pages;
}
