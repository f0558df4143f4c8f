// Sets text as programs do: characters to fonts, right-to-left order (Unicode UAX #9), shaping by HarfBuzz, lines.
import bidiFactory from "bidi-js";
import * as hb from "harfbuzzjs";
import { visualOrder } from "../../core/words/reading-order.ts";
import type { ProgramFont } from "./font.ts";

type How = "asked" | "fallback" | "box";

interface Glyph {
  id: number;
  /** Points from the run's start; y upwards. */
  x: number;
  y: number;
  /** Points. */
  advance: number;
  /** The characters it stands for; empty for all but the first glyph of a cluster. */
  text: string;
}

export interface Run {
  font: ProgramFont;
  how: How;
  text: string;
  /** Points from the left of the text block. */
  x: number;
  /** Baseline in points from the top of the text block, downwards. */
  baseline: number;
  width: number;
  glyphs: Glyph[];
}

export interface Layout {
  runs: Run[];
  widthPt: number;
  heightPt: number;
}

interface Piece {
  font: ProgramFont;
  how: How;
  level: number;
  text: string;
}

const bidi = bidiFactory();

// Scripts whose letters must not be shaped together with another's; the rest count as one.
const SCRIPTS = [
  "Latin",
  "Hebrew",
  "Arabic",
  "Greek",
  "Cyrillic",
  "Devanagari",
  "Bengali",
  "Tamil",
  "Thai",
  "Han",
  "Hiragana",
  "Katakana",
  "Hangul",
  "Armenian",
  "Georgian",
].map((script) => ({ script, test: new RegExp(`\\p{Script=${script}}`, "u") }));
const scriptOf = (character: string): string | undefined => SCRIPTS.find(({ test }) => test.test(character))?.script;

const ATTACHES = /^[\p{M}\p{Cf}\u{FE00}-\u{FE0F}]/u;

/** Gives each character its font: the asked one, else the first fallback that has it, else a box in the asked one. */
function choose(character: string, asked: ProgramFont | undefined, fallbacks: readonly ProgramFont[]): { font: ProgramFont; how: How } {
  const code = character.codePointAt(0)!;
  if (asked && (asked.characters.has(code) || (/\s/u.test(character) && asked.characters.has(0x20)))) return { font: asked, how: "asked" };
  const fallback = fallbacks.find((font) => font.characters.has(code));
  if (fallback) return { font: fallback, how: "fallback" };
  const boxed = asked ?? fallbacks[0];
  if (!boxed) throw new Error("A program needs at least one font to draw with.");
  return { font: boxed, how: "box" };
}

/** Cuts one line into pieces of one font, one direction and one script, in reading order. */
function pieces(line: string, levels: Uint8Array, asked: ProgramFont | undefined, fallbacks: readonly ProgramFont[]): Piece[] {
  const found: (Piece & { script: string | undefined })[] = [];
  let at = 0;
  for (const character of line) {
    const level = levels[at] ?? 0;
    at += character.length;
    const last = found[found.length - 1];
    if (last && ATTACHES.test(character) && last.font.characters.has(character.codePointAt(0)!)) {
      last.text += character;
      continue;
    }
    const choice = choose(character, asked, fallbacks);
    const script = scriptOf(character);
    const same = last && last.font === choice.font && last.how === choice.how && last.level === level;
    if (same && (script === undefined || last.script === undefined || last.script === script)) {
      last.text += character;
      last.script ??= script;
    } else found.push({ ...choice, level, text: character, script });
  }
  return found;
}

function shapePiece(piece: Piece, sizePt: number): { glyphs: Glyph[]; width: number } {
  const buffer = new hb.Buffer();
  buffer.addText(piece.text);
  buffer.guessSegmentProperties();
  buffer.setDirection(piece.level % 2 === 1 ? hb.Direction.RTL : hb.Direction.LTR);
  hb.shape(piece.font.font, buffer);
  const scale = sizePt / piece.font.unitsPerEm;
  const infos = buffer.getGlyphInfosAndPositions();
  const starts = [...new Set(infos.map((info) => info.cluster))].sort((a, b) => a - b);
  const told = new Set<number>();
  let x = 0;
  const glyphs = infos.map((info): Glyph => {
    const end = starts[starts.indexOf(info.cluster) + 1] ?? piece.text.length;
    const text = told.has(info.cluster) ? "" : piece.text.slice(info.cluster, end);
    told.add(info.cluster);
    const advance = (info.xAdvance ?? 0) * scale;
    const glyph = { id: info.codepoint, x: x + (info.xOffset ?? 0) * scale, y: (info.yOffset ?? 0) * scale, advance, text };
    x += advance;
    return glyph;
  });
  return { glyphs, width: x };
}

interface SetLine {
  pieces: { piece: Piece; glyphs: Glyph[]; width: number }[];
  width: number;
  rightToLeft: boolean;
}

function setLine(
  line: string,
  asked: ProgramFont | undefined,
  fallbacks: readonly ProgramFont[],
  sizePt: number,
  shapes: boolean,
): SetLine {
  // A program that does not order text sets everything from left to right.
  const { levels, paragraphs } = shapes ? bidi.getEmbeddingLevels(line, "auto") : { levels: new Uint8Array(line.length), paragraphs: [] };
  const shaped = visualOrder(pieces(line, levels, asked, fallbacks)).map((piece) => ({ piece, ...shapePiece(piece, sizePt) }));
  return { pieces: shaped, width: shaped.reduce((sum, one) => sum + one.width, 0), rightToLeft: (paragraphs[0]?.level ?? 0) % 2 === 1 };
}

/** Breaks a paragraph between words so that each line fits; a word wider than the block stands alone. */
function breakLines(paragraph: string, widthPt: number, measure: (line: string) => number): string[] {
  const lines: string[] = [];
  let line = "";
  for (const word of paragraph.split(/(?<= )/u)) {
    if (line !== "" && measure((line + word).trimEnd()) > widthPt) {
      lines.push(line.trimEnd());
      line = word;
    } else line += word;
  }
  return [...lines, line];
}

/**
 * Sets `text` in a block `widthPt` wide. `asked` is the chosen font, undefined when the program does not have it;
 * `fallbacks` stand in for it in order and must not be empty when it is. Without `shapes` nothing is put into reading order.
 */
export function layOut(
  text: string,
  asked: ProgramFont | undefined,
  fallbacks: readonly ProgramFont[],
  sizePt: number,
  widthPt: number,
  shapes = true,
): Layout {
  const main = asked ?? fallbacks[0]!;
  const ascent = Math.max((main.ascent / main.unitsPerEm) * sizePt, sizePt * 0.8);
  const lineHeight = Math.max(((main.ascent + main.descent) / main.unitsPerEm) * sizePt, sizePt) * 1.1;
  const runs: Run[] = [];
  let top = 0;
  let widest = 0;
  for (const paragraph of text.split("\n")) {
    const set = (line: string) => setLine(line, asked, fallbacks, sizePt, shapes);
    for (const line of breakLines(paragraph, widthPt, (words) => set(words).width)) {
      const { pieces: placed, width, rightToLeft } = set(line);
      let x = rightToLeft ? Math.max(0, widthPt - width) : 0;
      for (const { piece, glyphs, width: pieceWidth } of placed) {
        runs.push({ font: piece.font, how: piece.how, text: piece.text, x, baseline: top + ascent, width: pieceWidth, glyphs });
        x += pieceWidth;
      }
      widest = Math.max(widest, x);
      top += lineHeight;
    }
  }
  return { runs, widthPt: Math.max(widest, widthPt), heightPt: top };
}
