// 'GDEF' (OpenType specification, "GDEF — Glyph Definition Table"), read strictly.
import type { Layout } from "./layout.ts";
import { checkItemStore } from "./variations.ts";

/** Base, ligature, mark, component. */
const GLYPH_CLASSES = 4;

/** Returns how many sets of marks there are. */
export function checkDefinitions(l: Layout): number {
  const { t } = l;
  const [major, minor] = [t.u16(0), t.u16(2)];
  if (major !== 1 || minor === 1) t.fail("its version is unknown");
  t.has(4, 8);
  const head = 12 + (minor >= 2 ? 2 : 0) + (minor >= 3 ? 4 : 0);
  t.has(0, head);
  if (t.u16(4) !== 0) l.classes(t.part(0, 4, head, "the classes of glyphs"), GLYPH_CLASSES);
  if (t.u16(6) !== 0) attachments(l, t.part(0, 6, head, "the points to attach to"));
  if (t.u16(8) !== 0) carets(l, t.part(0, 8, head, "the carets"));
  if (t.u16(10) !== 0) l.classes(t.part(0, 10, head, "the classes of marks"));
  const sets = minor >= 2 && t.u16(12) !== 0 ? markSets(l, t.part(0, 12, head, "the sets of marks")) : 0;
  if (minor >= 3 && t.u32(14) !== 0) checkItemStore(t, t.inside(0, t.u32(14), head, "the store of variations"), l.axes);
  return sets;
}

function listed(l: Layout, at: number, what: string): { count: number; least: number } {
  const { t, glyphs } = l;
  const count = t.u16(at + 2);
  const least = t.reach(2 * count + 4, what);
  const coverage = t.part(at, at, least, what);
  if (count > glyphs) t.fail(`${what} are more than there are glyphs`);
  l.coverage(coverage);
  return { count, least };
}

function attachments(l: Layout, at: number): void {
  const { t } = l;
  const { count, least } = listed(l, at, "the points to attach to");
  l.parts(at, at + 4, count, least, "a point to attach to", (part) => {
    const points = t.u16(part);
    if (points === 0) t.fail("a glyph is listed without a point to attach to");
    t.has(part + 2, 2 * points);
    t.spend(points);
    let last = 0;
    for (let i = 0; i < points; i++) {
      const point = t.u16(part + 2 + 2 * i);
      if (last !== 0 && last >= point) t.fail("points to attach to are out of order");
      last = point;
    }
  });
}

function carets(l: Layout, at: number): void {
  const { t } = l;
  const { count, least } = listed(l, at, "the carets");
  l.parts(at, at + 4, count, least, "a ligature's carets", (glyph) => {
    const values = t.u16(glyph);
    if (values === 0) t.fail("a ligature is listed without a caret");
    t.has(glyph + 2, 2 * values);
    for (let i = 0; i < values; i++) {
      const offset = t.u16(glyph + 2 + 2 * i);
      // Held against the list's end, as all that follows is.
      if (offset < 2 * values + 2 || at + offset >= t.end) t.fail("a caret points to the wrong place");
      const caret = glyph + offset;
      const format = t.u16(caret);
      if (format === 0 || format > 3) t.fail("a caret has an unknown format");
      t.has(caret + 2, 2);
      if (format !== 3) continue;
      const device = t.u16(caret + 4);
      const from = (caret - at + device) & 0xffff;
      if (device === 0 || at + from >= t.end) t.fail("a caret's correction for sizes points to the wrong place");
      l.device(at + from);
    }
  });
}

function markSets(l: Layout, at: number): number {
  const { t } = l;
  if (t.u16(at) !== 1) t.fail("the sets of marks have an unknown format");
  const count = t.u16(at + 2);
  const least = t.reach(2 * count + 4, "the sets of marks");
  for (let i = 0; i < count; i++) l.coverage(t.inside(at, t.u32(at + 4 + 4 * i), least, "a set of marks"));
  return count;
}
