// Variable fonts (OpenType specification, "OpenType Font Variations Common Table Formats"), read strictly. A browser that cannot read how a
// font varies draws it unvaried; only where other tables lean on the variations is the font refused.
import { Refusal, type Strict } from "./reader.ts";

/** "Item Variation Store" at `at`. `axes` is undefined where the font does not vary. Returns the number of regions of each of its parts. */
export function checkItemStore(t: Strict, at: number, axes: number | undefined): number[] {
  if (t.u16(at) !== 1) t.fail("a store of variations has an unknown format");
  const regionsAt = t.u32(at + 2);
  const parts = t.u16(at + 6);
  if (regionsAt < 8 + 4 * parts || at + regionsAt > t.end) t.fail("a store of variations points to the wrong place");
  const regions = checkRegions(t, at + regionsAt, axes);
  const counts: number[] = [];
  for (let i = 0; i < parts; i++) {
    const offset = t.u32(at + 8 + 4 * i);
    if (at + offset >= t.end) t.fail("a store of variations points to the wrong place");
    const part = at + offset;
    const [items, words, used] = [t.u16(part), t.u16(part + 2), t.u16(part + 4)];
    t.spend(1 + used);
    for (let k = 0; k < used; k++) if (t.u16(part + 6 + 2 * k) >= regions) t.fail("a variation names a region that is not there");
    t.has(part + 6 + 2 * used, items * (words + used));
    counts.push(used);
  }
  return counts;
}

function checkRegions(t: Strict, at: number, axes: number | undefined): number {
  const [own, regions] = [t.u16(at), t.u16(at + 2)];
  if (regions === 0) return 0;
  if (axes === undefined || own !== axes) t.fail("it varies by other axes than the font has");
  t.has(at + 4, 6 * regions * own);
  t.spend(regions * own);
  for (let i = 0; i < regions * own; i++) {
    const [start, peak, end] = [t.i16(at + 4 + 6 * i), t.i16(at + 6 + 6 * i), t.i16(at + 8 + 6 * i)];
    if (start > peak || peak > end || start < -0x4000 || end > 0x4000) t.fail("a region of variation is out of order");
    if ((peak < 0 && end > 0) || (peak > 0 && start < 0)) t.fail("a region of variation reaches across its middle");
  }
  return regions;
}

/** 'fvar': how many axes there are. */
function checkAxes(t: Strict): number {
  const [major, axesAt, axes, axisSize, instances, instanceSize] = [t.u16(0), t.u16(4), t.u16(8), t.u16(10), t.u16(12), t.u16(14)];
  if (major !== 1 || axesAt > t.end || axesAt < 16 || axes === 0 || axisSize !== 20) t.fail("its axes cannot be read");
  if (instanceSize !== 4 * axes + 6 && instanceSize !== 4 * axes + 4) t.fail("its named styles cannot be read");
  for (let i = 0; i < axes; i++) {
    const axis = axesAt + 20 * i;
    if (!/^[\x20-\x7e]{4}$/.test(t.tag(axis))) t.fail("an axis has no name");
    const [least, usual, most] = [t.i32(axis + 4), t.i32(axis + 8), t.i32(axis + 12)];
    t.has(axis + 16, 4);
    if (least > usual || usual > most) t.fail("an axis is out of order");
  }
  t.has(axesAt + 20 * axes, instances * instanceSize);
  return axes;
}

/** "Tuple Variation Store", as far as its headers. */
function checkTuples(t: Strict, at: number, axes: number, shared: number): void {
  const tuples = t.u16(at) & 0x0fff;
  if (at + t.u16(at + 2) > t.end) t.fail("a variation points to the wrong place");
  let next = at + 4;
  const coordinates = (): number[] => {
    t.has(next, 2 * axes);
    t.spend(axes);
    const found = Array.from({ length: axes }, (_, i) => t.i16(next + 2 * i));
    if (found.some((one) => one < -0x4000 || one > 0x4000)) t.fail("a variation lies outside its axis");
    next += 2 * axes;
    return found;
  };
  for (let i = 0; i < tuples; i++) {
    t.has(next, 4);
    t.spend(1);
    const index = t.u16(next + 2);
    next += 4;
    if ((index & 0x8000) !== 0) coordinates();
    else if ((index & 0x0fff) >= shared) t.fail("a variation names a place that is not there");
    if ((index & 0x4000) !== 0) {
      coordinates();
      coordinates();
    }
  }
}

/** 'gvar': how outlines vary. */
function checkGlyphVariations(t: Strict, axes: number, glyphs: number): void {
  const [major, own, shared, sharedAt, count, flags, dataAt] = [t.u16(0), t.u16(4), t.u16(6), t.u32(8), t.u16(12), t.u16(14), t.u32(16)];
  if (major !== 1 || own !== axes || count !== glyphs) t.fail("it does not fit the font's axes and glyphs");
  if (shared > 0) {
    if (sharedAt < 20 || sharedAt > t.end) t.fail("its shared places point to the wrong place");
    t.has(sharedAt, 2 * shared * axes);
  }
  if (dataAt === 0) return;
  if (dataAt > t.end) t.fail("its variations point to the wrong place");
  let before = 0;
  for (let i = 0; i <= glyphs; i++) {
    const offset = (flags & 1) !== 0 ? t.u32(20 + 4 * i) : 2 * t.u16(20 + 2 * i);
    if (i > 0 && offset > before) {
      if (dataAt + before > t.end) t.fail("a variation points to the wrong place");
      checkTuples(t, dataAt + before, axes, shared);
    }
    before = offset;
  }
}

/** 'HVAR' and 'VVAR': how widths and heights vary. `maps` is how many maps follow the store. */
function checkMetricVariations(t: Strict, maps: number, axes: number): void {
  if (t.u16(0) !== 1) t.fail("its version is unknown");
  const offsets = Array.from({ length: 1 + maps }, (_, i) => t.u32(4 + 4 * i));
  if (offsets.some((offset) => offset > t.end)) t.fail("it points to the wrong place");
  checkItemStore(t, offsets[0]!, axes);
  for (const at of offsets.slice(1)) {
    if (at === 0) continue;
    t.has(at + 4, (((t.u16(at) & 0x30) >> 4) + 1) * t.u16(at + 2));
  }
}

/** 'MVAR': how the font's own measures vary. */
function checkMeasureVariations(t: Strict, axes: number): void {
  const [major, size, count, store] = [t.u16(0), t.u16(6), t.u16(8), t.u16(10)];
  if (major !== 1 || (size < 8 && count !== 0)) t.fail("its version is unknown");
  if (count > 0) {
    if (store < 12 || store > t.end) t.fail("it points to the wrong place");
    checkItemStore(t, store, axes);
  }
  let last = 0;
  for (let i = 0; i < count; i++) {
    const at = 12 + size * i;
    t.has(at, 8);
    if (t.u32(at) <= last) t.fail("its measures are out of order");
    last = t.u32(at);
  }
}

/** How many axes a font varies by; undefined when it does not vary, or a browser would draw it unvaried. */
export function checkVariations(table: (tag: string) => Strict | undefined, glyphs: number): number | undefined {
  try {
    const fvar = table("fvar");
    const axes = fvar && checkAxes(fvar);
    const varied = ["avar", "cvar", "gvar", "HVAR", "MVAR", "VVAR"].some((tag) => table(tag) !== undefined);
    if (axes === undefined) return undefined;
    if (!varied) return axes;
    const [gvar, hvar, mvar, vvar] = [table("gvar"), table("HVAR"), table("MVAR"), table("VVAR")];
    if (gvar) checkGlyphVariations(gvar, axes, glyphs);
    if (hvar) checkMetricVariations(hvar, 3, axes);
    if (mvar) checkMeasureVariations(mvar, axes);
    if (vvar) checkMetricVariations(vvar, 4, axes);
    return axes;
  } catch (error) {
    if (error instanceof Refusal) return undefined;
    throw error;
  }
}
