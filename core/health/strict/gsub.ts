// 'GSUB' (OpenType specification, "GSUB — Glyph Substitution Table"), read strictly.
import type { Layout } from "./layout.ts";

const EXTENSION = 7;
export function checkSubstitutions(layout: Layout): void {
  layout.table(8, EXTENSION, (type, at) => substitution(layout, type, at));
}

function substitution(l: Layout, type: number, at: number): void {
  const { t, glyphs } = l;
  const most = glyphs - 1;
  switch (type) {
    case 1: {
      const format = t.u16(at);
      if (format === 1) {
        if (Math.abs(t.i16(at + 4)) >= glyphs) t.fail("a substitution leads to glyphs that are not there");
        return l.coverage(t.part(at, at + 2, 6, "a substitution's list of glyphs"));
      }
      if (format !== 2) t.fail("a substitution has an unknown format");
      const count = t.u16(at + 4);
      if (count > glyphs) t.fail("a substitution is longer than there are glyphs");
      l.numbers(at + 6, count, most, "a substitution");
      return l.coverage(t.part(at, at + 2, 6 + 2 * count, "a substitution's list of glyphs"));
    }
    case 2: // one by several
    case 3: // one by one of several
    case 4: {
      // several by one
      if (t.u16(at) !== 1) t.fail("a substitution has an unknown format");
      const sets = t.u16(at + 4);
      const least = t.reach(6 + 2 * sets, "a substitution");
      l.parts(at, at + 6, sets, least, "a substitution", (set) => {
        const count = t.u16(set);
        if (type !== 4) {
          if (count > glyphs) t.fail("a substitution is longer than there are glyphs");
          l.numbers(set + 2, count, most, "a substitution");
          return;
        }
        l.parts(set, set + 2, count, t.reach(2 + 2 * count, "a set of ligatures"), "a ligature", (ligature) => {
          if (t.u16(ligature) > most) t.fail("a ligature names a glyph that is not there");
          const components = t.u16(ligature + 2);
          if (components === 0) t.fail("a ligature is made of nothing");
          l.numbers(ligature + 4, components - 1, most, "a ligature");
        });
      });
      return l.coverage(t.part(at, at + 2, least, "a substitution's list of glyphs"));
    }
    case 5:
      return l.context(at);
    case 6:
      return l.chain(at);
    default: {
      // 8, from the end backwards; its format is not looked at
      const before = t.u16(at + 4);
      t.has(at + 6, 2 * before);
      const afterAt = at + 6 + 2 * before;
      const after = t.u16(afterAt);
      t.has(afterAt + 2, 2 * after);
      const countAt = afterAt + 2 + 2 * after;
      const count = t.u16(countAt);
      l.numbers(countAt + 2, count, most, "a substitution");
      const least = t.reach(10 + 2 * (before + after + count), "a substitution");
      l.coverage(t.part(at, at + 2, least, "a substitution's list of glyphs"));
      l.parts(at, at + 6, before, least, "a rule's list of glyphs", (part) => l.coverage(part));
      l.parts(at, afterAt + 2, after, least, "a rule's list of glyphs", (part) => l.coverage(part));
    }
  }
}
