// 'loca' and 'glyf' (OpenType specification, "loca — Index to Location", "glyf — Glyph Data"), read strictly.
import type { Strict } from "./reader.ts";

/** Where each glyph begins, and where the last one ends. */
export function checkLocations(t: Strict, glyphs: number, long: boolean): number[] {
  t.has(0, (glyphs + 1) * (long ? 4 : 2));
  t.spend(glyphs);
  const places: number[] = [];
  let last = 0;
  for (let i = 0; i <= glyphs; i++) {
    const place = long ? t.u32(4 * i) : 2 * t.u16(2 * i);
    if (place < last) t.fail("glyphs are out of order");
    places.push((last = place));
  }
  return places;
}

/** One glyph, and how many contours it says it has; undefined when it is empty. */
function opened(t: Strict, places: readonly number[], glyph: number): { own: Strict; from: number; contours: number } | undefined {
  const [from, to] = [places[glyph]!, places[glyph + 1]!];
  if (to === from) return undefined;
  if (to > t.end) t.fail("a glyph lies outside the table");
  const own = t.upTo(to);
  own.has(from, 10);
  const contours = own.i16(from);
  if (contours <= -2) t.fail("a glyph is of an unknown kind");
  return { own, from, contours };
}

/** Points of one glyph put together from others. */
const MOST_POINTS = 0xffff;

export function checkGlyphs(t: Strict, places: readonly number[]): void {
  const glyphs = places.length - 1;
  for (let glyph = 0; glyph < glyphs; glyph++) {
    const found = opened(t, places, glyph);
    if (!found) continue;
    const { own, from, contours } = found;
    const [xMin, yMin, xMax, yMax] = [own.i16(from + 2), own.i16(from + 4), own.i16(from + 6), own.i16(from + 8)];
    const noBox = xMin === 32767 && xMax === -32767 && yMin === 32767 && yMax === -32767;
    if (!noBox && (xMin > xMax || yMin > yMax)) t.fail("a glyph's box is inside out");
    if (contours > 0) checkSimple(own, from, contours);
    else if (contours < 0) checkPoints(t, places, checkComposite(own, from, glyphs));
  }
}

/** Flags of points: 0x02 and 0x04 short numbers, 0x10 and 0x20 the same place, 0x08 repeated; 0x40 and 0x80 mean nothing after the first. */
function checkSimple(t: Strict, from: number, contours: number): void {
  let points = 0;
  let at = from + 10;
  t.has(at, 2 * contours + 2);
  for (let i = 0; i < contours; i++, at += 2) {
    const last = t.u16(at);
    if (last === 0xffff || (i > 0 && last + 1 <= points)) t.fail("a contour has an impossible number of points");
    points = last + 1;
  }
  const program = t.u16(at);
  t.has(at + 2, program);
  at += 2 + program;
  t.spend(points >> 1);
  let coordinates = 0;
  const { bytes, end } = t;
  for (let i = 0; i < points; i++) {
    if (at >= end) t.fail("a glyph ends before it should");
    const flag = bytes[at++]!;
    let size = (flag & 0x02) !== 0 ? 1 : (flag & 0x10) !== 0 ? 0 : 2;
    size += (flag & 0x04) !== 0 ? 1 : (flag & 0x20) !== 0 ? 0 : 2;
    if ((flag & 0x40) !== 0 && i !== 0) t.fail("a point has an unknown mark");
    if ((flag & 0x08) !== 0) {
      if (i + 1 >= points || at >= end) t.fail("points are repeated beyond the last");
      const repeat = bytes[at++]!;
      if (repeat === 0 || i + repeat >= points) t.fail("points are repeated beyond the last");
      size += size * repeat;
      i += repeat;
    }
    if ((flag & 0x80) !== 0) t.fail("a point has an unknown mark");
    coordinates += size;
    if (end - from < coordinates) t.fail("a glyph ends before it should");
  }
  t.has(at, coordinates);
}

/** The glyphs it is put together from. */
function checkComposite(t: Strict, from: number, glyphs: number): number[] {
  const found: number[] = [];
  let at = from + 10;
  let flags: number;
  do {
    flags = t.u16(at);
    const glyph = t.u16(at + 2);
    if (glyph >= glyphs) t.fail("a glyph is put together from one that is not there");
    found.push(glyph);
    at += 4 + ((flags & 1) !== 0 ? 4 : 2) + ((flags & 0x08) !== 0 ? 2 : (flags & 0x40) !== 0 ? 4 : (flags & 0x80) !== 0 ? 8 : 0);
    t.has(at, 0);
  } while ((flags & 0x20) !== 0);
  if ((flags & 0x100) !== 0) t.has(at + 2, t.u16(at));
  return found;
}

/** Points through all depths. A glyph that holds itself has endlessly many, or none: how often glyphs are gone through is bounded too. */
function checkPoints(t: Strict, places: readonly number[], parts: readonly number[]): void {
  const glyphs = places.length - 1;
  const stack = parts.map((glyph) => ({ glyph, depth: 1 }));
  let points = 0;
  while (stack.length > 0) {
    const { glyph, depth } = stack.pop()!;
    t.spend(10);
    const found = opened(t, places, glyph);
    if (!found) continue;
    const { own, from, contours } = found;
    if (contours > 0) points += own.u16(from + 8 + 2 * contours) + 1;
    if (contours < 0) {
      if (depth > 0xffff) t.fail("a glyph is put together from itself");
      for (const inner of checkComposite(own, from, glyphs)) stack.push({ glyph: inner, depth: depth + 1 });
    }
    if (points > MOST_POINTS) t.fail("a glyph is put together from too many points");
  }
}
