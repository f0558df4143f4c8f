// 'cmap': which characters a font has (OpenType specification, "cmap — Character to Glyph Index Mapping Table").
import { ProblemError } from "../problem.ts";
import type { View } from "./view.ts";

/** Visits runs of code points and the glyph of each. Glyph 0 means "no character here". */
type Walk = (visit: (codePoint: number, glyph: number) => void) => void;
interface Mapping {
  glyph(codePoint: number): number;
  walk: Walk;
}

export interface CmapSubtable {
  platform: number;
  encoding: number;
  offset: number;
  format: number;
}

/** Formats whose code points are characters; 14 holds variation sequences and 8 is not used by any program. */
const readable = new Set([0, 4, 6, 10, 12, 13]);

// Best first (same section, "Encoding records"): full Unicode before the basic plane before symbols before Mac.
const preference: readonly (readonly [platform: number, encoding: number])[] = [
  [3, 10],
  [0, 6],
  [0, 4],
  [3, 1],
  [0, 3],
  [0, 2],
  [0, 1],
  [0, 0],
  [3, 0],
  [1, 0],
];

const macToUnicode: number[] = Array.from({ length: 256 }, (_, byte) =>
  new TextDecoder("macintosh").decode(Uint8Array.of(byte)).codePointAt(0)!,
);

export class Cmap {
  readonly subtables: CmapSubtable[] = [];
  /** The subtable used for characters; undefined when none can be read. */
  readonly chosen: CmapSubtable | undefined;
  private readonly mapping: Mapping;
  private readonly budget: View["budget"];

  constructor(view: View) {
    this.budget = view.budget;
    const count = view.u16(2);
    for (let i = 0; i < count; i++) {
      const at = 4 + 8 * i;
      const offset = view.u32(at + 4);
      if (offset + 2 > view.length) continue;
      this.subtables.push({ platform: view.u16(at), encoding: view.u16(at + 2), offset, format: view.u16(offset) });
    }
    for (const [platform, encoding] of preference) {
      this.chosen = this.subtables.find((s) => s.platform === platform && s.encoding === encoding && readable.has(s.format));
      if (this.chosen) break;
    }
    this.mapping = this.chosen ? readMapping(view.part(this.chosen.offset), this.chosen.format) : { glyph: () => 0, walk: () => {} };
  }

  /** A symbol font: its characters stand at U+F000–F0FF, or it says so with platform 3, encoding 0. */
  get symbol(): boolean {
    return this.chosen?.platform === 3 && this.chosen.encoding === 0;
  }

  /** The glyph for a character, 0 when the font has none. */
  glyph(codePoint: number): number {
    if (this.chosen?.platform === 1) {
      const byte = macToUnicode.indexOf(codePoint);
      return byte < 0 ? 0 : this.mapping.glyph(byte);
    }
    return this.mapping.glyph(codePoint);
  }

  /** Visits every character that has a glyph. Symbol fonts are visited at the code points they are stored at. */
  each(visit: (codePoint: number, glyph: number) => void): void {
    this.pairs ??= this.read();
    for (let i = 0; i < this.pairs.length; i += 2) visit(this.pairs[i]!, this.pairs[i + 1]!);
  }
  /** Character and glyph by turns; several facts and checks look at all of them. */
  private pairs: number[] | undefined;
  private read(): number[] {
    const mac = this.chosen?.platform === 1;
    const pairs: number[] = [];
    this.mapping.walk((codePoint, glyph) => {
      this.budget.spend(1);
      if (glyph !== 0) pairs.push(mac ? macToUnicode[codePoint & 0xff]! : codePoint, glyph);
    });
    return pairs;
  }
}

/** Flat ascending pairs of first and last code point from code points in any order. */
export function rangesOf(points: number[]): number[] {
  // Subtables list characters in order, but for those that were made from Mac bytes.
  if (points.some((point, i) => i > 0 && point < points[i - 1]!)) points.sort((a, b) => a - b);
  const ranges: number[] = [];
  for (const point of points) {
    const last = ranges[ranges.length - 1];
    if (last === point) continue;
    if (last === point - 1) ranges[ranges.length - 1] = point;
    else ranges.push(point, point);
  }
  return ranges;
}

/** How many code points flat ranges hold. */
export function countRanges(ranges: readonly number[]): number {
  let count = 0;
  for (let i = 0; i < ranges.length; i += 2) count += ranges[i + 1]! - ranges[i]! + 1;
  return count;
}

/** Whether flat ascending ranges hold a code point. */
export function inRanges(ranges: readonly number[], codePoint: number): boolean {
  let low = 0;
  let high = ranges.length / 2 - 1;
  while (low <= high) {
    const mid = (low + high) >> 1;
    if (codePoint < ranges[2 * mid]!) high = mid - 1;
    else if (codePoint > ranges[2 * mid + 1]!) low = mid + 1;
    else return true;
  }
  return false;
}

function readMapping(view: View, format: number): Mapping {
  switch (format) {
    case 0:
      return array(view, 0, 256, (i) => view.u8(6 + i));
    case 4:
      return segments(view);
    case 6:
      return array(view, view.u16(6), view.u16(8), (i) => view.u16(10 + 2 * i));
    case 10:
      return array(view, view.u32(12), view.u32(16), (i) => view.u16(20 + 2 * i));
    case 12:
      return groups(view, 1);
    default:
      return groups(view, 0);
  }
}

function array(view: View, first: number, count: number, at: (index: number) => number): Mapping {
  if (count > view.length) throw tooMany();
  return {
    glyph: (codePoint) => (codePoint >= first && codePoint < first + count ? at(codePoint - first) : 0),
    walk: (visit) => {
      for (let i = 0; i < count; i++) visit(first + i, at(i));
    },
  };
}

/** Format 4, "Segment mapping to delta values". */
function segments(view: View): Mapping {
  const count = view.u16(6) >> 1;
  const ends = 14;
  const starts = 16 + 2 * count;
  const deltas = starts + 2 * count;
  const rangeOffsets = deltas + 2 * count;
  // The whole of the arrays is needed; a wrong segCountX2 must not become a slow loop of failing reads.
  view.bytes(0, Math.min(view.length, rangeOffsets + 2 * count));
  if (rangeOffsets + 2 * count > view.length) throw tooMany();
  const glyphIn = (segment: number, codePoint: number): number => {
    const delta = view.u16(deltas + 2 * segment);
    const rangeOffset = view.u16(rangeOffsets + 2 * segment);
    // 0xFFFF stands in real fonts for "nothing here", though only the last segment should need it.
    if (rangeOffset === 0 || rangeOffset === 0xffff) return rangeOffset === 0 ? (codePoint + delta) & 0xffff : 0;
    const at = rangeOffsets + 2 * segment + rangeOffset + 2 * (codePoint - view.u16(starts + 2 * segment));
    if (at + 2 > view.length) return 0;
    const glyph = view.u16(at);
    return glyph === 0 ? 0 : (glyph + delta) & 0xffff;
  };
  return {
    glyph: (codePoint) => {
      if (codePoint > 0xffff) return 0;
      let low = 0;
      let high = count - 1;
      while (low < high) {
        const mid = (low + high) >> 1;
        if (view.u16(ends + 2 * mid) < codePoint) low = mid + 1;
        else high = mid;
      }
      return low < count && view.u16(starts + 2 * low) <= codePoint && codePoint <= view.u16(ends + 2 * low) ? glyphIn(low, codePoint) : 0;
    },
    walk: (visit) => {
      let before = -1;
      for (let segment = 0; segment < count; segment++) {
        // Overlapping segments would make a 64 kB table visit 2^32 characters: each is visited once.
        const start = Math.max(view.u16(starts + 2 * segment), before + 1);
        const end = view.u16(ends + 2 * segment);
        for (let codePoint = start; codePoint <= end && codePoint < 0xffff; codePoint++) visit(codePoint, glyphIn(segment, codePoint));
        before = Math.max(before, end);
      }
    },
  };
}

/** Formats 12 (`step` 1, glyphs run along) and 13 (`step` 0, one glyph for all). */
function groups(view: View, step: 0 | 1): Mapping {
  const count = view.u32(12);
  if (16 + 12 * count > view.length) throw tooMany();
  return {
    glyph: (codePoint) => {
      let low = 0;
      let high = count - 1;
      while (low <= high) {
        const mid = (low + high) >> 1;
        const at = 16 + 12 * mid;
        const start = view.u32(at);
        if (codePoint < start) high = mid - 1;
        else if (codePoint > view.u32(at + 4)) low = mid + 1;
        else return view.u32(at + 8) + step * (codePoint - start);
      }
      return 0;
    },
    walk: (visit) => {
      let before = -1;
      for (let group = 0; group < count; group++) {
        const at = 16 + 12 * group;
        const first = view.u32(at);
        const start = Math.max(first, before + 1);
        const end = Math.min(view.u32(at + 4), 0x10ffff);
        const glyph = view.u32(at + 8);
        for (let codePoint = start; codePoint <= end; codePoint++) visit(codePoint, glyph + step * (codePoint - first));
        before = Math.max(before, end);
      }
    },
  };
}

function tooMany(): ProblemError {
  return new ProblemError(
    "font-cmap",
    "The table of characters promises more entries than it holds.",
    "Download the font again; if it stays like this, ask whoever made it for a mended copy.",
  );
}
