// Sets a text in one face: lines, reading order, shaping with features on; what the face lacks keeps its place for a stand-in and is named.
import * as hb from "harfbuzzjs";
import { charactersOf } from "../coverage/text.ts";
import { inReadingOrder, type Piece } from "../words/reading-order.ts";
import type { Command, DrawFace } from "./draw-face.ts";
import type { Direction, LettersOf } from "./line.ts";

interface SetGlyph {
  glyph: number;
  /** Font units from the left of the block and from its first baseline, y downwards. */
  x: number;
  y: number;
  advance: number;
  /** The characters it and the rest of its cluster stand for; empty for all but a cluster's first glyph. */
  text: string;
  /** Which line it is on, from 0. */
  line: number;
}
/** Room kept for characters another font has to draw. */
export interface StandIn {
  x: number;
  y: number;
  advance: number;
  text: string;
}
export interface SetLine {
  text: string;
  rightToLeft: boolean;
  /** Font units. */
  width: number;
  left: number;
  baseline: number;
}
export interface SetText {
  glyphs: SetGlyph[];
  standIns: StandIn[];
  lines: SetLine[];
  /** Characters the face lacks, each once. */
  missing: string[];
  /** Font units: the widest line, and from the first line's top to the last line's bottom. */
  width: number;
  height: number;
  upem: number;
}

export interface How {
  features?: Readonly<Record<string, number>>;
  /** Thousandths of an em after every letter. */
  letterSpacing?: number;
  /** Thousandths of the face's line height. */
  lineSpacing?: number;
  direction?: Direction;
}

/** Scripts whose letters are not shaped together; marks, figures and signs go with the letters before them. */
const SCRIPTS = [
  ..."Latin Greek Cyrillic Hebrew Arabic Syriac Thaana Devanagari Bengali Gurmukhi Gujarati Oriya Tamil Telugu Kannada Malayalam".split(
    " ",
  ),
  ..."Sinhala Thai Lao Tibetan Myanmar Georgian Hangul Ethiopic Cherokee Khmer Mongolian Hiragana Katakana Han Armenian".split(" "),
].map((name) => ({ name, test: new RegExp(`\\p{Script=${name}}`, "u") }));
const scriptOf = (character: string): string | undefined => SCRIPTS.find(({ test }) => test.test(character))?.name;
const GOES_WITH = /[\p{M}\p{Cf}\u{FE00}-\u{FE0F}]/u;
/** In ems: what an unknown letter may need. */
const STAND_IN_EM = 0.6;

interface Run {
  text: string;
  there: boolean;
  script: string | undefined;
}
/** Cuts a piece of one direction where the script changes, and where the face has no letters. */
function runsOf({ text }: Piece, face: DrawFace): Run[] {
  const runs: Run[] = [];
  for (const character of text) {
    const last = runs.at(-1);
    const code = character.codePointAt(0)!;
    const there = face.has(code) || (/\s/u.test(character) && face.has(0x20));
    if (last && GOES_WITH.test(character) && (there || !last.there || charactersOf(character).length === 0)) {
      last.text += character;
      continue;
    }
    const script = scriptOf(character);
    if (last?.there === there && (script === undefined || last.script === undefined || script === last.script)) {
      last.text += character;
      last.script ??= script;
    } else runs.push({ text: character, there, script });
  }
  return runs;
}

interface Placed {
  glyphs: SetGlyph[];
  standIns: StandIn[];
  width: number;
}

function shapeRun(run: Run, rightToLeft: boolean, face: DrawFace, how: How): Placed {
  const spacing = ((how.letterSpacing ?? 0) * face.upem) / 1000;
  if (!run.there) {
    const letters = [...run.text].filter((character) => !GOES_WITH.test(character)).length;
    const advance = Math.max(1, letters) * (STAND_IN_EM * face.upem + spacing);
    return { glyphs: [], standIns: [{ x: 0, y: 0, advance, text: run.text }], width: advance };
  }
  const buffer = new hb.Buffer();
  buffer.addText(run.text);
  buffer.guessSegmentProperties();
  buffer.setDirection(rightToLeft ? hb.Direction.RTL : hb.Direction.LTR);
  const features = Object.entries(how.features ?? {}).map(([tag, value]) => new hb.Feature(tag, value));
  hb.shape(face.font, buffer, features);
  const infos = buffer.getGlyphInfosAndPositions();
  const starts = [...new Set(infos.map(({ cluster }) => cluster))].sort((a, b) => a - b);
  const endOf = new Map(starts.map((start, i) => [start, starts[i + 1] ?? run.text.length]));
  const told = new Set<number>();
  let x = 0;
  const glyphs = infos.map((info, i): SetGlyph => {
    const text = told.has(info.cluster) ? "" : run.text.slice(info.cluster, endOf.get(info.cluster));
    told.add(info.cluster);
    // Once a cluster, after its last glyph.
    const ends = infos[i + 1]?.cluster !== info.cluster;
    const advance = (info.xAdvance ?? 0) + (ends ? spacing : 0);
    const glyph = { glyph: info.codepoint, x: x + (info.xOffset ?? 0), y: -(info.yOffset ?? 0), advance, text, line: 0 };
    x += advance;
    return glyph;
  });
  return { glyphs, standIns: [], width: x };
}

function setOne(line: string, face: DrawFace, how: How): Placed & { rightToLeft: boolean } {
  const whole: Placed = { glyphs: [], standIns: [], width: 0 };
  const pieces = inReadingOrder(line, how.direction ?? "auto");
  for (const piece of pieces) {
    const rightToLeft = piece.level % 2 === 1;
    const runs = runsOf(piece, face);
    for (const run of rightToLeft ? runs.reverse() : runs) {
      const placed = shapeRun(run, rightToLeft, face, how);
      for (const glyph of placed.glyphs) whole.glyphs.push({ ...glyph, x: glyph.x + whole.width });
      for (const one of placed.standIns) whole.standIns.push({ ...one, x: one.x + whole.width });
      whole.width += placed.width;
    }
  }
  return { ...whole, rightToLeft: readsFromRight(line, how.direction ?? "auto") };
}

/** Whether a line as a whole reads from the right: as chosen, or as its first strong letter says (Unicode UAX #9, rules P2 and P3). */
export function readsFromRight(line: string, direction: Direction): boolean {
  if (direction !== "auto") return direction === "rtl";
  const first = /[\p{L}]/u.exec(line)?.[0];
  return first !== undefined && /[\p{Script=Hebrew}\p{Script=Arabic}\p{Script=Syriac}\p{Script=Thaana}\p{Script=Nko}]/u.test(first);
}

/** Sets a text, line by line as it was typed. Lines that read from the right end at the block's right edge. */
export function setText(text: string, face: DrawFace, how: How = {}): SetText {
  const lines = text.split("\n").map((line) => ({ line, ...setOne(line, face, how) }));
  const width = Math.max(0, ...lines.map((line) => line.width));
  const lineHeight = (Math.max(face.ascent + face.descent, face.upem) * (how.lineSpacing ?? 1000)) / 1000;
  const top = Math.max(face.ascent, 0);
  const result: SetText = {
    glyphs: [],
    standIns: [],
    lines: [],
    missing: [],
    width,
    upem: face.upem,
    height: top + Math.max(face.descent, 0) + lineHeight * (lines.length - 1),
  };
  lines.forEach((line, i) => {
    const [left, baseline] = [line.rightToLeft ? width - line.width : 0, lineHeight * i];
    for (const glyph of line.glyphs) result.glyphs.push({ ...glyph, x: glyph.x + left, y: glyph.y + baseline, line: i });
    for (const one of line.standIns) result.standIns.push({ ...one, x: one.x + left, y: baseline });
    result.lines.push({ text: line.line, rightToLeft: line.rightToLeft, width: line.width, left, baseline });
  });
  result.missing = charactersOf(result.standIns.map((one) => one.text).join(""));
  return result;
}

const CAPITAL = /\p{Lu}/u;
/** Whether a layer that draws capitals or small letters only draws a glyph: by the first letter it stands for; what is no letter goes with the small ones. */
export const isDrawnBy = (letters: LettersOf, text: string): boolean =>
  letters === "all" || CAPITAL.test(text) === (letters === "capitals");

const rounded = (value: number): number => Math.round(value * 10) / 10;
/** SVG path data of an outline moved by (x, y) and turned upside down, so that y runs downwards. */
export function movedPath(outline: readonly Command[], x: number, y: number): string {
  let path = "";
  for (const { type, values } of outline) {
    path += type;
    for (let i = 0; i + 1 < values.length; i += 2) path += `${i > 0 ? " " : ""}${rounded(values[i]! + x)} ${rounded(y - values[i + 1]!)}`;
  }
  return path;
}

/** All a set text's letters in one path, font units, y downwards from the first baseline. */
export function pathOf(set: SetText, face: DrawFace, letters: LettersOf = "all"): string {
  let path = "";
  let drawn = true;
  for (const { glyph, x, y, text } of set.glyphs) {
    // A cluster's other glyphs go with its first.
    if (text !== "") drawn = isDrawnBy(letters, text);
    if (drawn) path += movedPath(face.outline(glyph), x, y);
  }
  return path;
}
