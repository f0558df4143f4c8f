// The tables every font has, and small ones beside them (OpenType specification, one section a table), read strictly.
import type { Strict } from "./reader.ts";

/** 'maxp': how many glyphs there are. */
export function checkProfile(t: Strict): number {
  const version = t.u32(0) >>> 16;
  const glyphs = t.u16(4);
  if (version > 1) t.fail("its version is unknown");
  if (glyphs === 0) t.fail("there are no glyphs");
  if (version === 1) {
    t.has(6, 26);
    if (t.u16(14) > 3) t.fail("its number of zones is impossible");
  }
  return glyphs;
}

/** 'head': whether offsets to glyphs are long, and the flags that let tables of widths be there. */
export function checkHead(t: Strict): { longOffsets: boolean; fixedWidths: boolean } {
  t.has(0, 54);
  if (t.u32(0) >>> 16 !== 1) t.fail("its version is unknown");
  if (t.u32(12) !== 0x5f0f3cf5) t.fail("its mark is wrong");
  const em = t.u16(18);
  if (em < 16 || em > 16384) t.fail("its em is impossible");
  if (t.i16(36) > t.i16(40) || t.i16(38) > t.i16(42)) t.fail("its box is inside out");
  const long = t.i16(50);
  if (long < 0 || long > 1 || t.i16(52) !== 0) t.fail("it does not say where glyphs lie");
  return { longOffsets: long === 1, fixedWidths: (t.u16(16) & 0x14) !== 0 };
}

/** 'hhea' and 'vhea': how many glyphs have a width, or a height, of their own. */
export function checkMetricsHead(t: Strict, glyphs: number, upright: boolean): number {
  t.has(0, 36);
  const version = t.u32(0);
  if (upright ? version !== 0x10000 && version !== 0x11000 : version >>> 16 !== 1) t.fail("its version is unknown");
  if (t.i16(32) !== 0) t.fail("its measures are of an unknown kind");
  const metrics = t.u16(34);
  if (metrics > glyphs) t.fail("it has more measures than glyphs");
  return metrics;
}
/** 'hmtx' and 'vmtx'. */
export function checkMetrics(t: Strict, metrics: number, glyphs: number): void {
  if (metrics === 0) t.fail("no glyph has a measure");
  t.has(0, 4 * metrics + 2 * (glyphs - metrics));
}

/** 'OS/2'. Tables that are shorter than their version are taken for older ones. */
export function checkOs2(t: Strict): void {
  const version = t.u16(0);
  t.has(0, 78);
  if (version > 5) t.fail("its version is unknown");
  // Where the older versions' fields end as they lie in memory.
  if (version < 1 || t.end < 84) return;
  t.has(78, 8);
  if (version < 2 || t.end < 96) return;
  t.has(86, 10);
  if (version >= 5) t.has(96, 4);
}

/** 'name'. Records that point outside are left out; the lists themselves must be whole and lie before the texts. */
export function checkNames(t: Strict): void {
  const [format, count, storage] = [t.u16(0), t.u16(2), t.u16(4)];
  if (format > 1 || storage > t.end) t.fail("its version is unknown");
  let next = 6 + 12 * count;
  t.has(6, 12 * count);
  if (format === 1) {
    const tags = t.u16(next);
    t.has(next + 2, 4 * tags);
    for (let i = 0; i < tags; i++) {
      const [length, offset] = [t.u16(next + 2 + 4 * i), t.u16(next + 4 + 4 * i)];
      if (storage + offset + length > t.end || length > 200) t.fail("a language's name points to the wrong place");
    }
    next += 2 + 4 * tags;
  }
  if (next > storage) t.fail("its lists and its texts overlap");
}

/** 'post'. */
export function checkPost(t: Strict, glyphs: number): void {
  const version = t.u32(0);
  if (version !== 0x10000 && version !== 0x20000 && version !== 0x30000) t.fail("its version is unknown");
  t.has(0, 32);
  if (version !== 0x20000) return;
  const count = t.u16(32);
  if (count === 0) {
    if (glyphs > 258) t.fail("it names no glyphs");
    return;
  }
  if (count !== glyphs) t.fail("it names another number of glyphs than there are");
  t.has(34, 2 * count);
  let names = 0;
  for (let at = 34 + 2 * count; at < t.end; names++) {
    const length = t.u8(at);
    t.has(at + 1, length);
    if (t.bytes.subarray(at + 1, at + 1 + length).includes(0)) t.fail("a glyph's name is damaged");
    at += 1 + length;
  }
  t.spend(count);
  for (let i = 0; i < count; i++) if (t.u16(34 + 2 * i) >= 258 + names) t.fail("a glyph's name is missing");
}

/** 'cvt ', 'fpgm', 'prep': only their size is looked at. */
export function checkProgram(t: Strict, tag: string): void {
  if (t.end >= 128 * 1024) t.fail("it is too long");
  if (tag === "cvt " && t.end % 2 !== 0) t.fail("it ends in the middle of a number");
}

/** 'gasp'; one that says odd things is left out, one that is cut off is not. */
export function checkGasp(t: Strict): void {
  const count = t.u16(2);
  if (t.u16(0) > 1) return;
  for (let i = 0, last = -1; i < count; i++) {
    t.has(4 + 4 * i, 4);
    const size = t.u16(4 + 4 * i);
    if (size <= last) return;
    last = size;
  }
}

/** 'VDMX', as above. */
export function checkVerticalDeviceMetrics(t: Strict): void {
  const [version, groups, ratios] = [t.u16(0), t.u16(2), t.u16(4)];
  if (version > 1) return;
  for (let i = 0; i < ratios; i++) {
    const at = 6 + 4 * i;
    t.has(at, 4);
    const [set, x, from, to] = [t.u8(at), t.u8(at + 1), t.u8(at + 2), t.u8(at + 3)];
    if (set > 1 || from > to || (i < ratios - 1 && x === 0 && from === 0 && to === 0)) return;
  }
  let at = 6 + 4 * ratios;
  const base = at;
  for (let i = 0; i < ratios; i++, at += 2) if (base + t.u16(at) >= t.end) t.fail("a group of sizes points to the wrong place");
  for (let i = 0; i < groups; i++) {
    const records = t.u16(at);
    t.has(at, 4);
    at += 4;
    t.spend(records);
    for (let k = 0, last = -1; k < records; k++, at += 6) {
      t.has(at, 6);
      if (t.i16(at + 2) < t.i16(at + 4) || t.u16(at) <= last) return;
      last = t.u16(at);
    }
  }
}

/** 'hdmx', as above. */
export function checkHorizontalDeviceMetrics(t: Strict, glyphs: number, fixedWidths: boolean): void {
  if (!fixedWidths) return;
  const [version, records, size] = [t.u16(0), t.i16(2), t.i32(4)];
  if (version !== 0 || records <= 0 || size < glyphs + 2) return;
  if (size - glyphs - 2 > 3) t.fail("its records are of the wrong size");
  for (let i = 0, last = -1; i < records; i++) {
    const at = 8 + size * i;
    t.has(at, 2);
    if (t.u8(at) <= last) return;
    last = t.u8(at);
    t.has(at, size);
  }
}

/** 'LTSH', as above. */
export function checkThresholds(t: Strict, glyphs: number): void {
  const [version, count] = [t.u16(0), t.u16(2)];
  if (version === 0 && count === glyphs) t.has(4, count);
}

/** 'VORG', as above. */
export function checkVerticalOrigins(t: Strict): void {
  t.has(0, 8);
  if (t.u16(0) !== 1 || t.u16(2) !== 0) return;
  const count = t.u16(6);
  for (let i = 0, last = -1; i < count; i++) {
    t.has(8 + 4 * i, 4);
    if (t.u16(8 + 4 * i) <= last) return;
    last = t.u16(8 + 4 * i);
  }
}

/** 'kern', as above: pairs of format 0. */
export function checkKern(t: Strict): void {
  const [version, tables] = [t.u16(0), t.u16(2)];
  if (version > 0) return;
  let at = 4;
  for (let i = 0; i < tables; i++) {
    t.spend(1);
    const [own, length] = [t.u16(at), t.u16(at + 2)];
    if (own > 0) {
      at += 4;
      continue;
    }
    if (at + length > t.end) t.fail("a list of pairs ends before it should");
    const coverage = t.u16(at + 4);
    at += 6;
    if ((coverage & 1) === 0) continue;
    if ((coverage & 0xf0) !== 0) return;
    if (coverage >> 8 !== 0) continue;
    const pairs = t.u16(at);
    t.has(at, 8);
    if (pairs === 0 || pairs > Math.floor(65536 / 6)) return;
    if (t.u16(at + 4) !== Math.floor(Math.log2(pairs))) t.fail("a list of pairs cannot be searched");
    at += 8;
    t.spend(pairs);
    for (let k = 0, last = -1; k < pairs; k++, at += 6) {
      t.has(at, 6);
      const pair = t.u32(at);
      if (pair <= last) return;
      last = pair;
    }
  }
}

/** 'MATH': one that says odd things is left out. */
export function checkMath(t: Strict): void {
  if (t.u32(0) === 0x10000) t.has(4, 6);
}
