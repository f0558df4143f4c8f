// What GSUB, GPOS and GDEF share (OpenType specification, "OpenType Layout Common Table Formats"), read strictly.
import { Strict } from "./reader.ts";

/** Tables nested in one layout table share their parts; each is looked at once. */
const KINDS = 16;
const COVERAGE = 0;
const CLASSES = 1;
const DEVICE = 2;
const RULES = 3;
/** Lookups of type 1 to 8 follow. */
const SUBTABLES = 6;

export class Layout {
  readonly t: Strict;
  readonly glyphs: number;
  /** Lookups the table has; known once their list was begun. */
  lookups = 0;
  /** Sets of marks GDEF defines; undefined when the font has no GDEF. */
  readonly markSets: number | undefined;
  /** Axes of a variable font; undefined when it is none. */
  readonly axes: number | undefined;
  private readonly seen = new Set<number>();

  constructor(t: Strict, glyphs: number, more: { markSets?: number | undefined; axes?: number | undefined } = {}) {
    this.t = t;
    this.glyphs = glyphs;
    this.markSets = more.markSets;
    this.axes = more.axes;
  }
  /** Whether a part was looked at before as what it is taken for now. */
  again(at: number, kind: number): boolean {
    const key = at * KINDS + kind;
    if (this.seen.has(key)) return true;
    this.seen.add(key);
    return false;
  }

  /** "Coverage Table"; `expected` is how many glyphs it must cover, 0 when any number will do. */
  coverage(at: number, expected = 0): void {
    const { t, glyphs } = this;
    if (expected === 0 && this.again(at, COVERAGE)) return;
    const format = t.u16(at);
    if (format !== 1 && format !== 2) t.fail("a list of glyphs has an unknown format");
    const count = t.u16(at + 2);
    if (count > glyphs) t.fail("a list of glyphs is longer than there are glyphs");
    t.has(at + 4, count * (format === 1 ? 2 : 6));
    t.spend(count);
    let covered = 0;
    if (format === 1) {
      for (let i = 0; i < count; i++) if (t.u16(at + 4 + 2 * i) > glyphs) t.fail("a list names glyphs that are not there");
      covered = count;
    } else {
      let last = 0;
      for (let i = 0; i < count; i++) {
        const [start, end] = [t.u16(at + 4 + 6 * i), t.u16(at + 6 + 6 * i)];
        if (start > end || (last !== 0 && start < last)) t.fail("ranges of glyphs overlap");
        if (t.u16(at + 8 + 6 * i) !== covered) t.fail("ranges of glyphs are numbered wrongly");
        last = end;
        covered = (covered + end - start + 1) & 0xffff;
      }
    }
    if (expected !== 0 && covered !== expected) t.fail("a list of glyphs has another length than what belongs to it");
  }

  /** "Class Definition Table". */
  classes(at: number, most = 0xffff): void {
    const { t, glyphs } = this;
    if (most === 0xffff && this.again(at, CLASSES)) return;
    const format = t.u16(at);
    if (format === 1) {
      if (t.u16(at + 2) > glyphs) t.fail("classes begin at a glyph that is not there");
      const count = t.u16(at + 4);
      if (count > glyphs) t.fail("there are more classes than glyphs");
      t.has(at + 6, 2 * count);
      t.spend(count);
      for (let i = 0; i < count; i++) if (t.u16(at + 6 + 2 * i) > most) t.fail("a glyph has an unknown class");
      return;
    }
    if (format !== 2) t.fail("classes of glyphs have an unknown format");
    const count = t.u16(at + 2);
    if (count > glyphs) t.fail("there are more ranges of classes than glyphs");
    t.has(at + 4, 6 * count);
    t.spend(count);
    let last = 0;
    for (let i = 0; i < count; i++) {
      const [start, end] = [t.u16(at + 4 + 6 * i), t.u16(at + 6 + 6 * i)];
      if (start > end) t.fail("a range of glyph classes ends before it begins");
      if (last !== 0 && start <= last) t.fail("ranges of glyph classes overlap");
      if (t.u16(at + 8 + 6 * i) > most) t.fail("a glyph has an unknown class");
      last = end;
    }
  }

  /** "Device and VariationIndex Tables". */
  device(at: number): void {
    const { t } = this;
    if (this.again(at, DEVICE)) return;
    const [start, end, format] = [t.u16(at), t.u16(at + 2), t.u16(at + 4)];
    if (format === 0x8000) return;
    if (start > end) t.fail("a correction for sizes ends before it begins");
    if (format === 0 || format > 3) t.fail("a correction for sizes has an unknown format");
    t.has(at + 6, 2 * (Math.floor((end - start) / (1 << (4 - format))) + 1));
  }

  /** Glyph numbers one after another, none above `most`. */
  numbers(at: number, count: number, most: number, what: string): number {
    const { t } = this;
    t.has(at, 2 * count);
    t.spend(count);
    for (let i = 0; i < count; i++) if (t.u16(at + 2 * i) > most) t.fail(`${what} names a glyph that is not there`);
    return at + 2 * count;
  }

  /** Offsets one after another, each from `base` to a part of its own. */
  parts(base: number, at: number, count: number, least: number, what: string, read: (at: number) => void, mayLack = false): void {
    const { t } = this;
    t.has(at, 2 * count);
    t.spend(count);
    for (let i = 0; i < count; i++) {
      const offset = t.u16(at + 2 * i);
      if (offset !== 0 || !mayLack) read(t.inside(base, offset, least, what));
    }
  }

  /** "SequenceLookupRecord". */
  private lookupRecords(at: number, count: number): void {
    const { t } = this;
    t.has(at, 4 * count);
    t.spend(count);
    for (let i = 0; i < count; i++) {
      if (t.u16(at + 4 * i) >= this.glyphs) t.fail("a rule acts on a place that is not there");
      if (t.u16(at + 4 * i + 2) >= this.lookups) t.fail("a rule calls a lookup that is not there");
    }
  }

  /** "Sequence Context", all three formats. */
  context(at: number): void {
    const { t } = this;
    const format = t.u16(at);
    if (format === 1 || format === 2) {
      const head = format === 1 ? 6 : 8;
      const sets = t.u16(at + head - 2);
      const least = t.reach(2 * sets + head, "a list of rules");
      this.coverage(t.part(at, at + 2, least, "a rule's list of glyphs"));
      if (format === 2) this.classes(t.part(at, at + 4, least, "a rule's classes"));
      this.parts(at, at + head, sets, least, "a set of rules", (set) => this.ruleSet(set, format === 1, false), format === 2);
      return;
    }
    if (format !== 3) t.fail("a rule has an unknown format");
    const [inputs, records] = [t.u16(at + 2), t.u16(at + 4)];
    if (inputs >= this.glyphs) t.fail("a rule is longer than there are glyphs");
    const least = t.reach(2 * inputs + 4 * records + 6, "a rule");
    this.parts(at, at + 6, inputs, least, "a rule's list of glyphs", (part) => this.coverage(part));
    this.lookupRecords(at + 6 + 2 * inputs, records);
  }

  /** "Chained Sequence Context", all three formats. */
  chain(at: number): void {
    const { t } = this;
    const format = t.u16(at);
    if (format === 1 || format === 2) {
      const head = format === 1 ? 6 : 12;
      const sets = t.u16(at + head - 2);
      const least = t.reach(2 * sets + head, "a list of rules");
      this.coverage(t.part(at, at + 2, least, "a rule's list of glyphs"));
      if (format === 2) {
        for (const where of [at + 4, at + 6, at + 8]) {
          // What comes before and after may be left to no class at all; what is acted on may not.
          if (t.u16(where) !== 0 || where === at + 6) this.classes(t.part(at, where, least, "a rule's classes"));
        }
      }
      this.parts(at, at + head, sets, least, "a set of rules", (set) => this.ruleSet(set, format === 1, true), format === 2);
      return;
    }
    if (format !== 3) t.fail("a rule has an unknown format");
    const lists: { at: number; count: number }[] = [];
    let next = at + 2;
    for (let i = 0; i < 3; i++) {
      const count = t.u16(next);
      if (count >= this.glyphs) t.fail("a rule is longer than there are glyphs");
      lists.push({ at: next + 2, count });
      next += 2 + 2 * count;
    }
    const records = t.u16(next);
    this.lookupRecords(next + 2, records);
    const least = t.reach(
      lists.reduce((sum, list) => sum + 2 * list.count, 4 * records + 10),
      "a rule",
    );
    for (const list of lists) this.parts(at, list.at, list.count, least, "a rule's list of glyphs", (part) => this.coverage(part));
  }

  /** Rules by glyphs, whose numbers are checked, or by classes, which may be any number. */
  private ruleSet(at: number, byGlyph: boolean, chained: boolean): void {
    if (this.again(at, RULES + (byGlyph ? 1 : 0) + (chained ? 2 : 0))) return;
    const { t } = this;
    const rules = t.u16(at);
    const least = t.reach(2 * rules + 2, "a set of rules");
    this.parts(at, at + 2, rules, least, "a rule", (rule) => (chained ? this.chainedRule(rule, byGlyph) : this.rule(rule, byGlyph)));
  }
  private rule(at: number, byGlyph: boolean): void {
    const { t } = this;
    const [inputs, records] = [t.u16(at), t.u16(at + 2)];
    if (inputs === 0 || inputs >= this.glyphs) t.fail("a rule has a wrong length");
    if (byGlyph) this.numbers(at + 4, inputs - 1, this.glyphs, "a rule");
    this.lookupRecords(at + 4 + 2 * (inputs - 1), records);
  }
  private chainedRule(at: number, byGlyph: boolean): void {
    const { t } = this;
    let next = at;
    for (const part of ["before", "input", "after"]) {
      const count = t.u16(next);
      if (count >= this.glyphs || (part === "input" && count === 0)) t.fail("a rule has a wrong length");
      const listed = part === "input" ? count - 1 : count;
      if (byGlyph) this.numbers(next + 2, listed, this.glyphs, "a rule");
      else t.has(next + 2, 2 * listed);
      next += 2 + 2 * listed;
    }
    this.lookupRecords(next + 2, t.u16(next));
  }

  /** The whole of a GSUB or GPOS table. `subtable` reads one of a type from 1 to `types`; `extension` is the type that points to others. */
  table(types: number, extension: number, subtable: (type: number, at: number) => void): void {
    const { t } = this;
    const [major, minor, scripts, features, lookups] = [t.u16(0), t.u16(2), t.u16(4), t.u16(6), t.u16(8)];
    if (major !== 1 || minor > 1) t.fail("its version is unknown");
    const variations = minor > 0 ? t.u32(10) : 0;
    const head = minor > 0 ? 14 : 10;
    const read = (type: number, at: number): void => {
      if (type !== extension) {
        if (!this.again(at, SUBTABLES + type)) subtable(type, at);
        return;
      }
      if (t.u16(at) !== 1) t.fail("an extended lookup has an unknown format");
      const inner = t.u16(at + 2);
      if (inner < 1 || inner > types || inner === extension) t.fail("a lookup's type is unknown");
      read(inner, t.inside(at, t.u32(at + 4), 8, "an extended lookup"));
    };
    if (lookups !== 0) this.lookupList(t.inside(0, lookups, head, "the list of lookups"), types, read);
    let known = 0;
    if (features !== 0) known = this.featureList(t.inside(0, features, head, "the list of features"));
    if (scripts !== 0) this.scriptList(t.inside(0, scripts, head, "the list of scripts"), known);
    if (variations !== 0) this.featureVariations(t.inside(0, variations, head, "the variations of features"));
  }

  private lookupList(at: number, types: number, read: (type: number, at: number) => void): void {
    const { t } = this;
    this.lookups = t.u16(at);
    const least = t.reach(2 * this.lookups + 2, "the list of lookups");
    this.parts(at, at + 2, this.lookups, least, "a lookup", (lookup) => {
      const [type, flags, count] = [t.u16(lookup), t.u16(lookup + 2), t.u16(lookup + 4)];
      if (type === 0 || type > types) t.fail("a lookup's type is unknown");
      const filtered = (flags & 0x10) !== 0;
      const begin = t.reach(2 * count + (filtered ? 8 : 6), "a lookup");
      if (filtered) {
        const set = t.u16(lookup + 6 + 2 * count);
        if (this.markSets !== undefined && set >= this.markSets) t.fail("a lookup goes by a set of marks that is not there");
      }
      this.parts(lookup, lookup + 6, count, begin, "a part of a lookup", (part) => read(type, part));
    });
  }

  private feature(at: number): void {
    const { t } = this;
    const [params, count] = [t.u16(at), t.u16(at + 2)];
    const least = t.reach(2 * count + 4, "a feature");
    if (params !== 0) t.inside(at, params, least, "a feature's settings");
    t.has(at + 4, 2 * count);
    t.spend(count);
    for (let i = 0; i < count; i++) if (t.u16(at + 4 + 2 * i) >= this.lookups) t.fail("a feature calls a lookup that is not there");
  }
  private featureList(at: number): number {
    const { t } = this;
    const count = t.u16(at);
    const least = t.reach(6 * count + 2, "the list of features");
    t.has(at + 2, 6 * count);
    for (let i = 0; i < count; i++) this.feature(t.part(at, at + 6 + 6 * i, least, "a feature"));
    return count;
  }

  private scriptList(at: number, features: number): void {
    const { t } = this;
    const count = t.u16(at);
    const least = t.reach(6 * count + 2, "the list of scripts");
    t.has(at + 2, 6 * count);
    for (let i = 0; i < count; i++) {
      const script = t.part(at, at + 6 + 6 * i, least, "a script");
      this.script(script, t.tag(at + 2 + 6 * i), features);
    }
  }
  private script(at: number, tag: string, features: number): void {
    const { t } = this;
    const [usual, count] = [t.u16(at), t.u16(at + 2)];
    if (tag === "DFLT" && usual === 0) t.fail("the script for everything else has no default language");
    const least = t.reach(6 * count + 4, "a script");
    let last = 0;
    for (let i = 0; i < count; i++) {
      const language = t.u32(at + 4 + 6 * i);
      if (last !== 0 && last > language) t.fail("languages are out of order");
      last = language;
      const system = t.part(at, at + 8 + 6 * i, least, "a language");
      const [reserved, required, listed] = [t.u16(system), t.u16(system + 2), t.u16(system + 4)];
      if (reserved !== 0 || (required !== 0xffff && required >= features) || listed > features) t.fail("a language has unknown features");
      t.spend(listed);
      for (let k = 0; k < listed; k++) if (t.u16(system + 6 + 2 * k) >= features) t.fail("a language calls a feature that is not there");
    }
  }

  private featureVariations(at: number): void {
    const { t, axes } = this;
    const count = t.u32(at + 4);
    if (axes === undefined) return t.fail("it varies features of a font that does not vary");
    const least = 8 + 8 * count;
    for (let i = 0; i < count; i++) {
      const [conditions, substitution] = [t.u32(at + 8 + 8 * i), t.u32(at + 12 + 8 * i)];
      t.spend(1);
      if (conditions !== 0) this.conditions(t.inside(at, conditions, least, "a condition"), axes);
      if (substitution !== 0) {
        const table = t.inside(at, substitution, least, "a feature's substitute");
        const substitutes = t.u16(table + 4);
        for (let k = 0; k < substitutes; k++)
          this.feature(t.inside(table, t.u32(table + 8 + 6 * k), 6 + 6 * substitutes, "a feature's substitute"));
      }
    }
  }
  private conditions(at: number, axes: number): void {
    const { t } = this;
    const count = t.u16(at);
    for (let i = 0; i < count; i++) {
      const condition = t.inside(at, t.u32(at + 2 + 4 * i), 6 + 4 * i, "a condition");
      if (t.u16(condition) !== 1) continue;
      const [axis, from, to] = [t.u16(condition + 2), t.i16(condition + 4), t.i16(condition + 6)];
      if (axis >= axes || from < -0x4000 || to > 0x4000 || from > to) t.fail("a condition cannot be met");
    }
  }
}
