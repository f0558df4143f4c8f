// 'GPOS' (OpenType specification, "GPOS — Glyph Positioning Table"), read strictly.
import type { Layout } from "./layout.ts";

const EXTENSION = 9;
export function checkPositions(layout: Layout): void {
  layout.table(9, EXTENSION, (type, at) => position(layout, type, at));
}

const bits = (format: number): number => {
  let count = 0;
  for (let i = 0; i < 8; i++) if ((format >> i) & 1) count++;
  return count;
};

/** "ValueRecord": its corrections for sizes lie at offsets from `base`. Returns the byte after it. */
function value(l: Layout, base: number, at: number, format: number): number {
  const { t } = l;
  const end = at + 2 * bits(format);
  t.has(at, end - at);
  if ((format & 0xf0) === 0) return end;
  let next = at + 2 * bits(format & 0x0f);
  for (let i = 4; i < 8; i++) {
    if (((format >> i) & 1) === 0) continue;
    const offset = t.u16(next);
    if (offset !== 0) l.device(t.inside(base, offset, 0, "a correction for sizes"));
    next += 2;
  }
  return end;
}
/** Many records after another. */
function values(l: Layout, base: number, at: number, count: number, formats: readonly number[]): void {
  const { t } = l;
  if (formats.every((format) => (format & 0xf0) === 0)) {
    t.has(at, count * formats.reduce((sum, format) => sum + 2 * bits(format), 0));
    return;
  }
  t.spend(count);
  for (let i = 0; i < count; i++) for (const format of formats) at = value(l, base, at, format);
}

const ANCHOR = 15;
/** "Anchor Tables". */
function anchor(l: Layout, at: number): void {
  if (l.again(at, ANCHOR)) return;
  const { t } = l;
  const format = t.u16(at);
  t.has(at + 2, 4);
  if (format === 0 || format > 3) t.fail("an anchor has an unknown format");
  if (format === 2) t.u16(at + 6);
  if (format !== 3) return;
  for (const where of [at + 6, at + 8]) if (t.u16(where) !== 0) l.device(t.part(at, where, 10, "an anchor's correction for sizes"));
}

/** Anchors of some glyphs, one a class of marks. */
function anchors(l: Layout, at: number, classes: number): void {
  const { t } = l;
  const records = t.u16(at);
  const least = t.reach(2 * records * classes + 2, "a list of anchors");
  l.parts(at, at + 2, records * classes, least, "an anchor", (part) => anchor(l, part), true);
}

/** Marks on letters, on ligatures, on marks. */
function marks(l: Layout, type: number, at: number): void {
  const { t } = l;
  if (t.u16(at) !== 1) t.fail("the placing of marks has an unknown format");
  const classes = t.u16(at + 6);
  l.coverage(t.part(at, at + 2, 12, "a list of marks"));
  l.coverage(t.part(at, at + 4, 12, "a list of letters"));
  const array = t.part(at, at + 8, 12, "the marks");
  const count = t.u16(array);
  const least = t.reach(4 * count + 2, "the marks");
  t.has(array + 2, 4 * count);
  for (let i = 0; i < count; i++) anchor(l, t.part(array, array + 4 + 4 * i, least, "a mark's anchor"));
  const bases = t.part(at, at + 10, 12, "the letters");
  if (type !== 5) return anchors(l, bases, classes);
  const ligatures = t.u16(bases);
  l.parts(bases, bases + 2, ligatures, 2, "a ligature's anchors", (part) => anchors(l, part, classes));
}

function position(l: Layout, type: number, at: number): void {
  const { t, glyphs } = l;
  switch (type) {
    case 1: {
      const [format, kind] = [t.u16(at), t.u16(at + 4)];
      if (format !== 1 && format !== 2) t.fail("a position has an unknown format");
      const count = format === 1 ? 1 : t.u16(at + 6);
      const from = format === 1 ? 6 : 8;
      values(l, at, at + from, count, [kind]);
      return l.coverage(t.part(at, at + 2, from + 2 * count * bits(kind), "a position's list of glyphs"));
    }
    case 2: {
      pairs(l, at);
      return l.coverage(t.part(at, at + 2, 8, "a kerning's list of glyphs"));
    }
    case 3: {
      if (t.u16(at) !== 1) t.fail("joined letters have an unknown format");
      const records = t.u16(at + 4);
      // Two offsets a record; the list is held to end after one, as the sanitizer does.
      const least = t.reach(2 * records + 6, "joined letters");
      l.parts(at, at + 6, 2 * records, least, "a joining point", (part) => anchor(l, part), true);
      return l.coverage(t.part(at, at + 2, 6 + 4 * records, "joined letters' list of glyphs"));
    }
    case 4:
    case 5:
    case 6:
      return marks(l, type, at);
    case 7:
      return l.context(at);
    default:
      return l.chain(at);
  }

  function pairs(l: Layout, at: number): void {
    const format = t.u16(at);
    const [first, second] = [t.u16(at + 4), t.u16(at + 6)];
    if (format === 1) {
      const sets = t.u16(at + 8);
      const least = t.reach(2 * sets + 10, "a kerning");
      const size = 2 + 2 * bits(first) + 2 * bits(second);
      return l.parts(at, at + 10, sets, least, "a kerning", (set) => {
        const count = t.u16(set);
        t.has(set + 2, size * count);
        t.spend(count);
        for (let i = 0; i < count; i++) {
          const record = set + 2 + size * i;
          if (t.u16(record) >= glyphs) t.fail("a kerning names a glyph that is not there");
          value(l, set, value(l, set, record + 2, first), second);
        }
      });
    }
    if (format !== 2) t.fail("a kerning has an unknown format");
    const [rows, columns] = [t.u16(at + 12), t.u16(at + 14)];
    const size = 2 * bits(first) + 2 * bits(second);
    const least = 16 + rows * columns * size;
    const classes = [t.part(at, at + 8, least, "a kerning's classes"), t.part(at, at + 10, least, "a kerning's classes")];
    // Values of first letters alone are not looked into.
    if (bits(second) > 0) values(l, at, at + 16, rows * columns, [first, second]);
    for (const part of classes) l.classes(part);
  }
}
