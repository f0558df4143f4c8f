// 'cmap' (OpenType specification, "cmap — Character to Glyph Index Mapping Table"), read strictly: every part a browser uses must be whole,
// in order, and lead to glyphs that are there.
import { overlap } from "../spans.ts";
import type { Strict } from "./reader.ts";

interface Part {
  platform: number;
  encoding: number;
  at: number;
  format: number;
  length: number;
}

const MOST_UNICODE = 0x10ffff;

export function checkCharacters(t: Strict, glyphs: number): void {
  const [version, count] = [t.u16(0), t.u16(2)];
  if (version !== 0) t.fail("its version is unknown");
  if (count === 0) t.fail("it lists no characters");
  t.has(4, 8 * count);
  const parts = Array.from({ length: count }, (_, i) => readPart(t, 4 + 8 * i, 4 + 8 * count));
  if (entangled(parts)) t.fail("two lists of characters overlap");
  const used = new Set<string>();
  for (const part of parts) {
    const kind = `${part.platform} ${part.encoding} ${part.format}`;
    const own = t.upTo(part.at + part.length);
    switch (kind) {
      case "0 0 4":
      case "0 1 4":
      case "0 3 4":
      case "3 0 4":
      case "3 1 4":
        checkSegments(own, part.at, part.length, glyphs);
        used.add(kind);
        break;
      case "0 3 12":
      case "0 4 12":
      case "3 10 12":
        checkGroups(own, part.at, glyphs, true);
        used.add(kind);
        break;
      case "3 10 13":
        checkGroups(own, part.at, glyphs, false);
        used.add(kind);
        break;
      case "0 5 14":
        checkSelectors(own, part.at, part.length);
        break;
      case "1 0 0":
        own.has(part.at, 262);
    }
  }
  if (used.size === 0) t.fail("it lists characters only in ways that browsers do not read");
}

function readPart(t: Strict, record: number, least: number): Part {
  const offset = t.u32(record + 4);
  if (offset > 2 ** 30 || offset < least || offset >= t.end) t.fail("a list of characters points to the wrong place");
  const format = t.u16(offset);
  let length = 0;
  if (format === 0 || format === 4) {
    length = t.u16(offset + 2);
    t.has(offset, 6);
  } else if (format === 12 || format === 13) {
    length = t.u32(offset + 4);
    t.has(offset, 12);
  } else if (format === 14) length = t.u32(offset + 2);
  if (length > 2 ** 30 || (length !== 0 && offset + length > t.end)) t.fail("a list of characters ends before it should");
  return { platform: t.u16(record), encoding: t.u16(record + 2), at: offset, format, length };
}

/** Parts may be the same bytes, not some of the same. */
const entangled = (parts: readonly Part[]): boolean =>
  overlap([...new Map(parts.map((part) => [`${part.at} ${part.length}`, part])).values()]);

/** Format 4. */
function checkSegments(t: Strict, at: number, length: number, glyphs: number): void {
  if (t.u16(at + 4) !== 0) t.fail("a list of characters is for one language only");
  const [twice, range, selector, shift] = [t.u16(at + 6), t.u16(at + 8), t.u16(at + 10), t.u16(at + 12)];
  if ((twice & 1) !== 0 || (range & 1) !== 0 || twice === 0) t.fail("a list of characters has an impossible length");
  const count = twice >> 1;
  const log = Math.floor(Math.log2(count));
  if (range !== 2 << log || selector !== log || shift !== twice - range)
    t.fail("the search values of its characters do not fit their number");
  const [ends, starts, deltas, offsets] = [14, 16 + twice, 16 + 2 * twice, 16 + 3 * twice].map((from) => at + from) as [
    number,
    number,
    number,
    number,
  ];
  t.has(at, 16 + 4 * twice);
  if (t.u16(ends + twice) !== 0) t.fail("a list of characters is padded wrongly");
  const start = (i: number) => t.u16(starts + 2 * i);
  const end = (i: number) => t.u16(ends + 2 * i);
  for (let i = 0; i < count; i++) {
    if ((t.u16(offsets + 2 * i) & 1) !== 0 && i !== count - 1) t.fail("a run of characters points to the wrong place");
    if (i === 0) continue;
    const lastTwice = i === count - 1 && [start(i - 1), end(i - 1), start(i), end(i)].every((one) => one === 0xffff);
    if (!lastTwice && (end(i) <= end(i - 1) || start(i) <= end(i - 1))) t.fail("runs of characters are out of order");
  }
  if (start(count - 1) !== 0xffff || end(count - 1) !== 0xffff) t.fail("a list of characters has no proper end");
  for (let i = 0; i < count; i++) {
    const [from, to] = [start(i), end(i)];
    const stored = t.u16(offsets + 2 * i);
    const offset = (stored & 1) !== 0 ? 0 : stored;
    if (to >= from) t.spend(to - from + 1);
    if (offset === 0) {
      const delta = t.i16(deltas + 2 * i);
      for (let code = from; code <= to; code++)
        if (((code + delta) & 0xffff) >= glyphs) t.fail("a character leads to a glyph that is not there");
      continue;
    }
    const place = offsets + 2 * i + offset;
    if (to >= from && place - at + 2 * (to - from) + 1 >= length) t.fail("a run of characters points to the wrong place");
    for (let code = from; code <= to; code++)
      if (t.u16(place + 2 * (code - from)) >= glyphs) t.fail("a character leads to a glyph that is not there");
  }
}

/** Formats 12, where glyphs run along with characters, and 13, where all of a group share one. */
function checkGroups(t: Strict, at: number, glyphs: number, along: boolean): void {
  if (t.u32(at + 8) !== 0) t.fail("a list of characters is for one language only");
  const count = t.u32(at + 12);
  if (count === 0) t.fail("a list of characters is empty");
  t.has(at + 16, 12 * count);
  t.spend(count);
  let [lastStart, lastEnd] = [-1, -1];
  for (let i = 0; i < count; i++) {
    const [start, end, glyph] = [t.u32(at + 16 + 12 * i), t.u32(at + 20 + 12 * i), t.u32(at + 24 + 12 * i)];
    if (start > MOST_UNICODE || end > MOST_UNICODE || glyph > 0xffff) t.fail("a group holds characters that do not exist");
    if (along && end < start) t.fail("a group of characters ends before it begins");
    if (along ? end - start + glyph > glyphs : glyph >= glyphs) t.fail("a character leads to a glyph that is not there");
    if (i > 0 && (start <= lastStart || start <= lastEnd)) t.fail("groups of characters are out of order");
    [lastStart, lastEnd] = [start, end];
  }
}

/** Characters that choose a variant of the one before (Unicode, "Variation Selectors"). */
const isSelector = (code: number): boolean =>
  (code >= 0x180b && code <= 0x180d) || (code >= 0xfe00 && code <= 0xfe0f) || (code >= 0xe0100 && code <= 0xe01ef);

/** Format 14. */
function checkSelectors(t: Strict, at: number, length: number): void {
  const count = t.u32(at + 6);
  if (count === 0 || count > 259) t.fail("a list of variants has an impossible length");
  t.has(at + 10, 11 * count);
  const records = Array.from({ length: count }, (_, i) => {
    const record = at + 10 + 11 * i;
    return { selector: t.u24(record), usual: t.u32(record + 3), other: t.u32(record + 7) };
  });
  for (const [i, { selector, usual, other }] of records.entries()) {
    if (!isSelector(selector) || (i > 0 && selector <= records[i - 1]!.selector)) t.fail("variants of characters are out of order");
    if ((usual === 0 && other === 0) || usual >= length || other >= length) t.fail("a list of variants points to the wrong place");
  }
  // Where the last list read ends; that must be the end of it all.
  let done = at + 10 + 11 * count;
  for (const { usual, other } of records) {
    if (usual !== 0) done = checkUsual(t, at + usual);
    if (other !== 0) done = checkOthers(t, at + other);
  }
  if (done !== at + length) t.fail("a list of variants has another length than it says");
}
function checkUsual(t: Strict, at: number): number {
  const count = t.u32(at);
  if (count === 0) t.fail("a list of variants is empty");
  t.has(at + 4, 4 * count);
  t.spend(count);
  let last = 0;
  for (let i = 0; i < count; i++) {
    const code = t.u24(at + 4 + 4 * i);
    if (code === 0 || code > MOST_UNICODE || (last !== 0 && code <= last)) t.fail("variants of characters are out of order");
    last = code + t.u8(at + 7 + 4 * i);
  }
  return at + 4 + 4 * count;
}
function checkOthers(t: Strict, at: number): number {
  const count = t.u32(at);
  if (count === 0) t.fail("a list of variants is empty");
  t.has(at + 4, 5 * count);
  t.spend(count);
  let last = 0;
  for (let i = 0; i < count; i++) {
    const code = t.u24(at + 4 + 5 * i);
    if (code === 0 || t.u16(at + 7 + 5 * i) === 0 || code > MOST_UNICODE || (last !== 0 && code <= last))
      t.fail("variants of characters are out of order");
    last = code;
  }
  return at + 4 + 5 * count;
}
