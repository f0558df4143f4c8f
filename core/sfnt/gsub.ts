// 'GSUB': which glyphs may stand for others, and when (OpenType specification, "GSUB — Glyph Substitution Table" and "OpenType Layout
// Common Table Formats"). Read as rules; whether a program follows one is for a shaper to say.
import type { View } from "./view.ts";

/** What a rule does at one place of its glyphs: the lookup that is applied there. */
interface Nested {
  at: number;
  lookup: number;
}
/** Glyphs that may stand at one place. */
export type Choices = readonly number[];

export type Rule =
  | { kind: "single" | "multiple" | "alternate"; from: number; to: readonly number[] }
  | { kind: "ligature"; from: readonly number[]; to: number }
  | { kind: "context"; before: readonly Choices[]; input: readonly Choices[]; after: readonly Choices[]; nested: readonly Nested[] }
  | { kind: "reverse"; before: readonly Choices[]; from: number; to: number; after: readonly Choices[] };

export interface Feature {
  tag: string;
  lookups: number[];
  /** OpenType tags of the languages it is for; empty for one that is for every language of its scripts. */
  languages: string[];
  /** Name IDs of a stylistic set or character variant; absent where it has none. */
  nameId?: number;
  /** Of a character variant's choices, the first and how many (FeatureParams, "cv01"–"cv99"). */
  valueNames?: { first: number; count: number };
}

export interface Gsub {
  features: readonly Feature[];
  lookups: number;
  /** The rules of a lookup, in the order they are tried; at most `MOST_RULES`. */
  rules(lookup: number): readonly Rule[];
}

/** More rules than a lookup of a real font holds. */
const MOST_RULES = 70_000;

/** Coverage table: the glyphs in the order of their coverage index; none where the offset to it is NULL (`at` undefined). */
function coverage(view: View, at: number | undefined): number[] {
  if (at === undefined) return [];
  const count = view.u16(at + 2);
  if (view.u16(at) === 1) return Array.from({ length: count }, (_, i) => view.u16(at + 4 + 2 * i));
  const glyphs: number[] = [];
  for (let i = 0; i < count; i++) pushRange(view, glyphs, view.u16(at + 4 + 6 * i), view.u16(at + 6 + 6 * i));
  return glyphs;
}
/** Six bytes may stand for 65,536 glyphs: what they unfold to costs as much as reading it. Ranges ascend; one that does not is left out. */
function pushRange(view: View, into: number[], first: number, last: number): void {
  if (first > last || first <= (into.at(-1) ?? -1)) return;
  view.budget.spend(last - first + 1);
  for (let glyph = first; glyph <= last; glyph++) into.push(glyph);
}

/** A class definition: class 0 is every glyph that stands in no other. */
interface Classes {
  of: ReadonlyMap<number, number>;
  /** Glyphs of each class but 0, ascending. */
  members: ReadonlyMap<number, readonly number[]>;
}
const NO_CLASSES: Classes = { of: new Map(), members: new Map() };

/** Class definition table. Its offset may be NULL (`at` undefined): every glyph is of class 0 then. */
function classes(view: View, at: number | undefined): Classes {
  if (at === undefined) return NO_CLASSES;
  const of = new Map<number, number>();
  const members = new Map<number, number[]>();
  const define = (glyph: number, value: number) => {
    if (value === 0) return;
    of.set(glyph, value);
    const there = members.get(value);
    if (there) there.push(glyph);
    else members.set(value, [glyph]);
  };
  if (view.u16(at) === 1) {
    const [first, count] = [view.u16(at + 2), view.u16(at + 4)];
    for (let i = 0; i < count; i++) define(first + i, view.u16(at + 6 + 2 * i));
  } else {
    const count = view.u16(at + 2);
    let after = 0;
    for (let i = 0; i < count; i++) {
      const [first, last] = [view.u16(at + 4 + 6 * i), view.u16(at + 6 + 6 * i)];
      // Ranges ascend and do not overlap (“Class Definition Table”): one that does is left out, as a sanitizer refuses it.
      if (first > last || first < after) continue;
      view.budget.spend(last - first + 1);
      const value = view.u16(at + 8 + 6 * i);
      for (let glyph = first; glyph <= last; glyph++) define(glyph, value);
      after = last + 1;
    }
  }
  return { of, members };
}

const numbers = (view: View, at: number, count: number): number[] => Array.from({ length: count }, (_, i) => view.u16(at + 2 * i));
const nestedAt = (view: View, at: number, count: number): Nested[] =>
  Array.from({ length: count }, (_, i) => ({ at: view.u16(at + 4 * i), lookup: view.u16(at + 4 * i + 2) }));

/** Where the offset at `field` leads, counted from `from`; undefined for NULL. */
const target = (view: View, from: number, field: number): number | undefined => {
  const offset = view.u16(field);
  return offset === 0 ? undefined : from + offset;
};
/** Offsets from `from`, at `at`, those that lead nowhere left out. */
const parts = (view: View, from: number, at: number, count: number): number[] =>
  numbers(view, at, count).map((offset) => (offset === 0 ? -1 : from + offset));

/** Rules of one lookup, gathered until there are too many. */
class Rules {
  readonly found: Rule[] = [];
  get full(): boolean {
    return this.found.length >= MOST_RULES;
  }
  add(rule: Rule): void {
    if (!this.full) this.found.push(rule);
  }
}

/** Lookup types 1 to 4: what stands in the place of single glyphs or of several. */
function substitutions(view: View, type: number, at: number, into: Rules): void {
  const covered = coverage(view, target(view, at, at + 2));
  if (type === 1) {
    const format = view.u16(at);
    covered.forEach((from, i) => {
      const to = format === 1 ? (from + view.i16(at + 4)) & 0xffff : view.u16(at + 6 + 2 * i);
      into.add({ kind: "single", from, to: [to] });
    });
    return;
  }
  parts(view, at, at + 6, Math.min(view.u16(at + 4), covered.length)).forEach((set, i) => {
    if (set < 0 || into.full) return;
    const count = view.u16(set);
    if (type !== 4) return into.add({ kind: type === 2 ? "multiple" : "alternate", from: covered[i]!, to: numbers(view, set + 2, count) });
    for (const ligature of parts(view, set, set + 2, count)) {
      if (ligature < 0) continue;
      const rest = numbers(view, ligature + 4, Math.max(0, view.u16(ligature + 2) - 1));
      into.add({ kind: "ligature", from: [covered[i]!, ...rest], to: view.u16(ligature) });
    }
  });
}

/** Lookup types 5 and 6, formats 1 (glyphs) and 2 (classes): sets of rules by the first glyph or its class. */
function contextSets(view: View, at: number, chained: boolean, into: Rules): void {
  const byClass = view.u16(at) === 2;
  const covered = coverage(view, target(view, at, at + 2));
  const definitions = byClass ? (chained ? [4, 6, 8] : [4]).map((field) => classes(view, target(view, at, at + field))) : [];
  const [before, input, after] = chained ? definitions : [NO_CLASSES, definitions[0], NO_CLASSES];
  const choices = (definition: Classes | undefined) => (value: number) => (byClass ? (definition?.members.get(value) ?? []) : [value]);
  const firsts = new Map<number, number[]>();
  if (byClass)
    for (const glyph of covered) {
      const own = input?.of.get(glyph) ?? 0;
      const there = firsts.get(own);
      if (there) there.push(glyph);
      else firsts.set(own, [glyph]);
    }
  const setsAt = at + (byClass ? (chained ? 10 : 6) : 4);
  parts(view, at, setsAt + 2, view.u16(setsAt)).forEach((set, i) => {
    if (set < 0) return;
    const first = byClass ? (firsts.get(i) ?? []) : i < covered.length ? [covered[i]!] : [];
    for (const rule of parts(view, set, set + 2, view.u16(set))) {
      if (rule < 0 || into.full) continue;
      if (!chained) {
        const [glyphs, actions] = [view.u16(rule), view.u16(rule + 2)];
        const rest = numbers(view, rule + 4, Math.max(0, glyphs - 1)).map(choices(input));
        const nested = nestedAt(view, rule + 4 + 2 * Math.max(0, glyphs - 1), actions);
        into.add({ kind: "context", before: [], input: [first, ...rest], after: [], nested });
        continue;
      }
      let next = rule;
      const list = (less: number): number[] => {
        const count = Math.max(0, view.u16(next) - less);
        const found = numbers(view, next + 2, count);
        next += 2 + 2 * count;
        return found;
      };
      const behind = list(0).map(choices(before));
      const rest = list(1).map(choices(input));
      const ahead = list(0).map(choices(after));
      // What stands before is stored from the nearest glyph backwards.
      const rules = { before: behind.reverse(), input: [first, ...rest], after: ahead };
      into.add({ kind: "context", ...rules, nested: nestedAt(view, next + 2, view.u16(next)) });
    }
  });
}

/** Lookup types 5 and 6, format 3: one rule whose places are coverage tables. */
function contextPlaces(view: View, at: number, chained: boolean, into: Rules): void {
  if (!chained) {
    const [glyphs, actions] = [view.u16(at + 2), view.u16(at + 4)];
    const input = parts(view, at, at + 6, glyphs).map((part) => (part < 0 ? [] : coverage(view, part)));
    return into.add({ kind: "context", before: [], input, after: [], nested: nestedAt(view, at + 6 + 2 * glyphs, actions) });
  }
  let next = at + 2;
  const list = (): Choices[] => {
    const count = view.u16(next);
    const found = parts(view, at, next + 2, count).map((part) => (part < 0 ? [] : coverage(view, part)));
    next += 2 + 2 * count;
    return found;
  };
  const [before, input, after] = [list(), list(), list()];
  into.add({ kind: "context", before: before.reverse(), input, after, nested: nestedAt(view, next + 2, view.u16(next)) });
}

/** Lookup type 8: single glyphs by what stands around them, from the end backwards. */
function reverse(view: View, at: number, into: Rules): void {
  const covered = coverage(view, target(view, at, at + 2));
  let next = at + 4;
  const list = (): Choices[] => {
    const count = view.u16(next);
    const found = parts(view, at, next + 2, count).map((part) => (part < 0 ? [] : coverage(view, part)));
    next += 2 + 2 * count;
    return found;
  };
  const [before, after] = [list().reverse(), list()];
  const to = numbers(view, next + 2, Math.min(view.u16(next), covered.length));
  to.forEach((glyph, i) => into.add({ kind: "reverse", before, from: covered[i]!, to: glyph, after }));
}

const EXTENSION = 7;
function subtable(view: View, type: number, at: number, into: Rules): void {
  if (type === EXTENSION) {
    const inner = view.u16(at + 2);
    return inner === EXTENSION ? undefined : subtable(view, inner, at + view.u32(at + 4), into);
  }
  if (type >= 1 && type <= 4) return substitutions(view, type, at, into);
  if (type === 5 || type === 6) return (view.u16(at) === 3 ? contextPlaces : contextSets)(view, at, type === 6, into);
  if (type === 8) return reverse(view, at, into);
}

/** Feature parameters: for "ss01" version, then a name ID; for "cv01" format, then name IDs and the choices' own names. */
function parameters(view: View, feature: number, tag: string): Pick<Feature, "nameId" | "valueNames"> {
  const offset = view.u16(feature);
  const at = feature + offset;
  if (offset === 0 || at + 4 > view.length) return {};
  if (/^ss\d\d$/.test(tag)) return { nameId: view.u16(at + 2) };
  if (!/^cv\d\d$/.test(tag) || at + 12 > view.length) return {};
  const [nameId, count, first] = [view.u16(at + 2), view.u16(at + 8), view.u16(at + 10)];
  return { ...(nameId > 0 ? { nameId } : {}), ...(first > 0 && count > 0 ? { valueNames: { first, count } } : {}) };
}

/** Script list: the languages each feature is listed for, by the feature's number; "" stands for a script's default. */
function languagesOf(view: View, scriptList: number): Map<number, Set<string>> {
  const found = new Map<number, Set<string>>();
  const system = (at: number, language: string) => {
    const listed = numbers(view, at + 6, view.u16(at + 4));
    const required = view.u16(at + 2);
    for (const feature of required === 0xffff ? listed : [required, ...listed]) {
      const there = found.get(feature) ?? new Set();
      found.set(feature, there.add(language));
    }
  };
  for (let i = 0; scriptList !== 0 && i < view.u16(scriptList); i++) {
    const script = scriptList + view.u16(scriptList + 6 + 6 * i);
    const standard = view.u16(script);
    if (standard !== 0) system(script + standard, "");
    for (let k = 0; k < view.u16(script + 2); k++) system(script + view.u16(script + 8 + 6 * k), view.tag(script + 4 + 6 * k).trim());
  }
  return found;
}

export function readGsub(view: View): Gsub {
  const languages = languagesOf(view, view.u16(4));
  const [featureList, lookupList] = [view.u16(6), view.u16(8)];
  const features = Array.from({ length: featureList === 0 ? 0 : view.u16(featureList) }, (_, i): Feature => {
    const tag = view.tag(featureList + 2 + 6 * i);
    const at = featureList + view.u16(featureList + 6 + 6 * i);
    const listed = [...(languages.get(i) ?? [])];
    return {
      tag,
      lookups: numbers(view, at + 4, view.u16(at + 2)),
      ...parameters(view, at, tag),
      languages: listed.includes("") ? [] : listed,
    };
  });
  const lookupOffsets = lookupList === 0 ? [] : parts(view, lookupList, lookupList + 2, view.u16(lookupList));
  const kept = new Map<number, readonly Rule[]>();
  const read = (lookup: number): readonly Rule[] => {
    const at = lookupOffsets[lookup];
    if (at === undefined || at < 0) return [];
    const into = new Rules();
    for (const part of parts(view, at, at + 6, view.u16(at + 4))) if (part >= 0 && !into.full) subtable(view, view.u16(at), part, into);
    return into.found;
  };
  const rules = (lookup: number): readonly Rule[] => {
    if (!kept.has(lookup)) kept.set(lookup, read(lookup));
    return kept.get(lookup)!;
  };
  return { features, lookups: lookupOffsets.length, rules };
}
