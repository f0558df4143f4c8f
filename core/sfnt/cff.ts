// 'CFF ': the parts of a Compact Font Format font that say which glyphs there are
// (Technical Note 5176 "The Compact Font Format Specification", sections 4 to 9; charstrings: Technical Note 5177).
import { ProblemError } from "../problem.ts";
import { CFF_CHARSETS, CFF_STRINGS } from "./standard-names.ts";
import type { View } from "./view.ts";

/** An INDEX (section 5): objects by number. */
export interface CffIndex {
  count: number;
  object(i: number): View;
  /** The byte after the INDEX. */
  end: number;
}

function damaged(): ProblemError {
  return new ProblemError(
    "cff-damaged",
    "Its CFF outlines are damaged.",
    "Download it again; if it stays like this, ask whoever made it for a mended copy.",
  );
}

function readIndex(view: View, at: number): CffIndex {
  const count = view.u16(at);
  if (count === 0) return { count, object: () => view.part(at, 0), end: at + 2 };
  const offSize = view.u8(at + 2);
  if (offSize < 1 || offSize > 4) throw damaged();
  const read = (i: number): number => {
    let offset = 0;
    for (let k = 0; k < offSize; k++) offset = offset * 256 + view.u8(at + 3 + i * offSize + k);
    return offset;
  };
  // Offsets count from the byte before the object data.
  const base = at + 2 + (count + 1) * offSize;
  return {
    count,
    object: (i) => {
      const [start, end] = [read(i), read(i + 1)];
      if (start < 1 || end < start) throw damaged();
      return view.part(base + start, end - start);
    },
    end: base + read(count),
  };
}

/** A DICT's operands by operator (section 4); two-byte operators are 1200 + the second byte. Real numbers are skipped as 0. */
function readDict(view: View): Map<number, number[]> {
  const found = new Map<number, number[]>();
  let operands: number[] = [];
  for (let at = 0; at < view.length;) {
    const b0 = view.u8(at++);
    if (b0 <= 21) {
      const operator = b0 === 12 ? 1200 + view.u8(at++) : b0;
      found.set(operator, operands);
      operands = [];
    } else if (b0 === 28) {
      operands.push(view.i16(at));
      at += 2;
    } else if (b0 === 29) {
      operands.push(view.i32(at));
      at += 4;
    } else if (b0 === 30) {
      while (at < view.length && (view.u8(at) & 0x0f) !== 0x0f && view.u8(at) >> 4 !== 0x0f) at++;
      at++;
      operands.push(0);
    } else if (b0 >= 32 && b0 <= 246) operands.push(b0 - 139);
    else if (b0 >= 247 && b0 <= 250) operands.push((b0 - 247) * 256 + view.u8(at++) + 108);
    else if (b0 >= 251 && b0 <= 254) operands.push(-(b0 - 251) * 256 - view.u8(at++) - 108);
    else throw damaged();
  }
  return found;
}

const OP = { charset: 15, charStrings: 17, private: 18, subrs: 19, ros: 1230, fdArray: 1236, fdSelect: 1237 };

export interface Cff {
  /** Number of fonts in the set; OpenType allows one. */
  fonts: number;
  cid: boolean;
  /** What the font is called in it (section 7); empty when it is not said. */
  readonly name: string;
  charStrings: CffIndex;
  globalSubrs: CffIndex;
  /** Each glyph's name; none for a CID-keyed font, whose glyphs have numbers alone. */
  glyphNames(): string[];
  /** The subroutines a glyph may call besides the global ones. */
  localSubrs(glyph: number): CffIndex | undefined;
}

/** Section 15: the Private DICT's own subroutines, whose offset counts from the DICT. */
function privateSubrs(view: View, dict: Map<number, number[]>): CffIndex | undefined {
  const [size, at] = dict.get(OP.private) ?? [];
  if (size === undefined || at === undefined || size === 0) return undefined;
  const subrs = readDict(view.part(at, size)).get(OP.subrs)?.[0];
  return subrs === undefined ? undefined : readIndex(view, at + subrs);
}

/** Section 19: which font DICT each glyph of a CID-keyed font belongs to. */
function readFdSelect(view: View, at: number): (glyph: number) => number {
  if (view.u8(at) === 0) return (glyph) => view.u8(at + 1 + glyph);
  const ranges = view.u16(at + 1);
  return (glyph) => {
    let [low, high] = [0, ranges - 1];
    while (low < high) {
      const mid = (low + high + 1) >> 1;
      if (view.u16(at + 3 + 3 * mid) <= glyph) low = mid;
      else high = mid - 1;
    }
    return view.u8(at + 5 + 3 * low);
  };
}

/** Section 13: the name of each glyph after the first, as SIDs, one by one or in runs. */
function readCharset(view: View, at: number, glyphs: number): number[] {
  const sids = [0];
  const run = (first: number, more: number) => {
    for (let sid = first; sid <= first + more && sids.length < glyphs; sid++) sids.push(sid);
  };
  const predefined = CFF_CHARSETS[at];
  if (predefined) {
    for (let i = 0; i < predefined.length; i += 2) run(predefined[i]!, predefined[i + 1]! - predefined[i]!);
    return sids;
  }
  const format = view.u8(at);
  if (format > 2) throw damaged();
  const step = [2, 3, 4][format]!;
  for (let next = at + 1; sids.length < glyphs; next += step)
    run(view.u16(next), format === 0 ? 0 : format === 1 ? view.u8(next + 2) : view.u16(next + 2));
  return sids;
}

export function readCff(view: View): Cff {
  const names = readIndex(view, view.u8(2));
  const topDicts = readIndex(view, names.end);
  if (topDicts.count === 0) throw damaged();
  const top = readDict(topDicts.object(0));
  const at = top.get(OP.charStrings)?.[0];
  if (at === undefined || at <= 0) throw damaged();
  const strings = readIndex(view, topDicts.end);
  const cid = top.has(OP.ros);
  const localSubrs = (): Cff["localSubrs"] => {
    const [fdArray] = top.get(OP.fdArray) ?? [];
    const [fdSelect] = top.get(OP.fdSelect) ?? [];
    if (!cid || fdArray === undefined || fdSelect === undefined) {
      const only = privateSubrs(view, top);
      return () => only;
    }
    const dicts = readIndex(view, fdArray);
    const select = readFdSelect(view, fdSelect);
    const kept = new Map<number, CffIndex | undefined>();
    return (glyph) => {
      const number = select(glyph);
      if (!kept.has(number)) kept.set(number, privateSubrs(view, readDict(dicts.object(number))));
      return kept.get(number);
    };
  };
  let subrs: Cff["localSubrs"] | undefined;
  const charStrings = readIndex(view, at);
  const latin = new TextDecoder("latin1");
  const nameOf = (sid: number): string => {
    const own = sid - CFF_STRINGS.length;
    if (own < 0) return CFF_STRINGS[sid]!;
    if (own >= strings.count) return "";
    const text = strings.object(own);
    return latin.decode(text.copied(0, text.length));
  };
  return {
    fonts: names.count,
    cid,
    get name() {
      return names.count > 0 ? latin.decode(names.object(0).bytes(0, names.object(0).length)) : "";
    },
    charStrings,
    glyphNames: () => (cid ? [] : readCharset(view, top.get(OP.charset)?.[0] ?? 0, charStrings.count).map(nameOf)),
    globalSubrs: readIndex(view, strings.end),
    localSubrs: (glyph) => (subrs ??= localSubrs())(glyph),
  };
}

const ENDCHAR = 14;
/** Whether a Type 2 charstring draws nothing: it reaches endchar with nothing but numbers before it. */
export function isBlankCharString(view: View): boolean {
  for (let at = 0; at < view.length;) {
    const b0 = view.u8(at);
    if (b0 === ENDCHAR) return true;
    if (b0 === 28) at += 3;
    else if (b0 === 255) at += 5;
    else if (b0 >= 247) at += 2;
    else if (b0 >= 32) at += 1;
    else return false;
  }
  return true;
}
