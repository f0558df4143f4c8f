// Words as a face sets them, letter by letter: what is laid over a picture.
import * as hb from "harfbuzzjs";
import { openFont } from "../../evidence/raster.ts";
import { inReadingOrder } from "../../words/reading-order.ts";
import { boxOfFlat, type FlatBox } from "./coverage-raster.ts";
import { outlineOf } from "./outlines.ts";

export interface SetLetter {
  /** Which letters of the words it draws, without spaces, from 0. */
  first: number;
  last: number;
  /** In ems, y downwards, where the face sets it. */
  polygons: number[][];
  box: FlatBox;
}

/** The letters of words, in the order they stand from left to right: spaces left out, marks kept with their letter. */
export interface Letters {
  /** As they are read. */
  letters: string[];
  /** For each place from the left, which letter stands there. */
  order: number[];
}
const segmenter = new Intl.Segmenter("en", { granularity: "grapheme" });
export function lettersOf(words: string): Letters {
  const letters: string[] = [];
  const order: number[] = [];
  let read = 0;
  const places = new Map<number, number>();
  for (const { segment, index } of segmenter.segment(words)) {
    if (/^\s/u.test(segment)) continue;
    places.set(index, read++);
    letters.push(segment);
  }
  let at = 0;
  const pieces = inReadingOrder(words, "auto");
  // Pieces come in the order they stand; where each begins in the words is found by looking for them in turn.
  const starts = startsOf(words, pieces);
  for (const [i, { text, level }] of pieces.entries()) {
    const own: number[] = [];
    for (const { segment, index } of segmenter.segment(text)) {
      const place = places.get(starts[i]! + index);
      if (place !== undefined && !/^\s/u.test(segment)) own.push(place);
    }
    order.push(...(level % 2 === 1 ? own.reverse() : own));
    at += text.length;
  }
  return at === words.length && order.length === letters.length ? { letters, order } : { letters, order: letters.map((_, i) => i) };
}
function startsOf(words: string, pieces: readonly { text: string }[]): number[] {
  const taken = new Uint8Array(words.length);
  return pieces.map(({ text }) => {
    let at = words.indexOf(text);
    while (at >= 0 && taken[at]) at = words.indexOf(text, at + 1);
    if (at >= 0) taken.fill(1, at, at + text.length);
    return Math.max(0, at);
  });
}

/** Undefined when the face lacks a letter, or draws nothing. */
export function setLine(bytes: Uint8Array, index: number, words: string): SetLetter[] | undefined {
  const { font, characters, upem } = openFont(bytes, index);
  for (const character of words) if (!/\s/u.test(character) && !characters.has(character.codePointAt(0)!)) return undefined;
  const pieces = inReadingOrder(words, "auto");
  const starts = startsOf(words, pieces);
  // The number of the letter each place of the words belongs to.
  const numbers = new Int32Array(words.length).fill(-1);
  let count = 0;
  for (const { segment, index: from } of segmenter.segment(words)) {
    if (/^\s/u.test(segment)) continue;
    numbers.fill(count++, from, from + segment.length);
  }
  const found: SetLetter[] = [];
  let pen = 0;
  for (const [i, { text, level }] of pieces.entries()) {
    const buffer = new hb.Buffer();
    buffer.addText(text);
    buffer.guessSegmentProperties();
    buffer.setDirection(level % 2 === 1 ? hb.Direction.RTL : hb.Direction.LTR);
    hb.shape(font, buffer);
    const glyphs = buffer.getGlyphInfosAndPositions();
    const clusters = [...new Set(glyphs.map(({ cluster }) => cluster))].sort((a, b) => a - b);
    for (const info of glyphs) {
      const { polygons } = outlineOf(font, upem, info.codepoint, pen + (info.xOffset ?? 0), info.yOffset ?? 0);
      pen += info.xAdvance ?? 0;
      const real = polygons.filter((points) => points.length > 4);
      const box = boxOfFlat(real);
      if (!box) continue;
      const next = clusters[clusters.indexOf(info.cluster) + 1] ?? text.length;
      const own = Array.from(numbers.slice(starts[i]! + info.cluster, starts[i]! + next)).filter((number) => number >= 0);
      if (own.length === 0) continue;
      const [first, last] = [Math.min(...own), Math.max(...own)];
      const same = found.find((one) => one.first === first && one.last === last);
      if (same) {
        same.polygons.push(...real);
        same.box = boxOfFlat(same.polygons)!;
      } else found.push({ first, last, polygons: real, box });
    }
  }
  return found.length > 0 ? found : undefined;
}
