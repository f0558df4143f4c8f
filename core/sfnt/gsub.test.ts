// 'GSUB' tables made by hand (OpenType specification, "OpenType Layout Common Table Formats", "GSUB").
import { expect, test } from "@jest/globals";
import { readGsub } from "./gsub.ts";
import { ReadingBudget, View } from "./view.ts";

const u16 = (...values: number[]): number[] => values.flatMap((value) => [(value >> 8) & 0xff, value & 0xff]);

/** A table of one lookup with one subtable, and no features. */
function tableOf(type: number, subtable: readonly number[]): View {
  const header = [...u16(1, 0), ...u16(0, 0, 10)];
  const lookups = [...u16(1, 4), ...u16(type, 0, 1, 8)];
  return new View(Uint8Array.from([...header, ...lookups, ...subtable]), '"GSUB" table', new ReadingBudget(1_000_000));
}

/** A chained context by classes: one rule for the class `set` of the first glyph, with one class before and one after. */
function chainedByClasses({ set, definitions }: { set: number; definitions: readonly (readonly number[] | undefined)[] }): number[] {
  const sets = set + 1;
  const covered = u16(1, 3, 5, 6, 7);
  const rule = u16(1, 1, 1, 1, 2, 1, 0, 0);
  const ruleSet = [...u16(1, 4), ...rule];
  const head = 12 + 2 * sets;
  let at = head + covered.length + ruleSet.length;
  const offsets = definitions.map((one) => {
    const own = one ? at : 0;
    at += one?.length ?? 0;
    return own;
  });
  const setOffsets = Array.from({ length: sets }, (_, i) => (i === set ? head + covered.length : 0));
  return [...u16(2, head, ...offsets, sets, ...setOffsets), ...covered, ...ruleSet, ...definitions.flatMap((one) => one ?? [])];
}

test("the class definitions of a chained context may be NULL: every glyph is of class 0 then", () => {
  const { rules } = readGsub(tableOf(6, chainedByClasses({ set: 0, definitions: [undefined, undefined, undefined] })));
  expect(rules(0)).toEqual([{ kind: "context", before: [[]], input: [[5, 6, 7]], after: [[]], nested: [{ at: 0, lookup: 0 }] }]);
});

test("a first glyph belongs to the rules of its own class", () => {
  const input = u16(2, 1, 6, 7, 1);
  const { rules } = readGsub(tableOf(6, chainedByClasses({ set: 1, definitions: [u16(1, 20, 2, 1, 0), input, u16(2, 1, 30, 31, 2)] })));
  expect(rules(0)).toEqual([{ kind: "context", before: [[20]], input: [[6, 7]], after: [[30, 31]], nested: [{ at: 0, lookup: 0 }] }]);
  const others = readGsub(tableOf(6, chainedByClasses({ set: 0, definitions: [undefined, input, undefined] })));
  expect(others.rules(0)).toMatchObject([{ input: [[5]] }]);
});

test("class ranges that overlap a thousand times do not grow", () => {
  const overlapping = [...u16(2, 10_000), ...Array.from({ length: 10_000 }, () => u16(0, 0xffff, 1)).flat()];
  const { rules } = readGsub(tableOf(5, [...u16(2, 0, 8, 0), ...overlapping]));
  expect(rules(0)).toEqual([]);
});

test("coverages that each unfold to every glyph are stopped by the limit of work", () => {
  const places = 1000;
  const coverageOfAll = u16(2, 1, 0, 0xffff, 0);
  const offset = 10 + 2 * places;
  const { rules } = readGsub(
    tableOf(5, [...u16(3, places, 0), ...u16(...Array.from({ length: places }, () => offset)), ...u16(0, 0), ...coverageOfAll]),
  );
  expect(() => rules(0)).toThrow("“Reading work”");
});
