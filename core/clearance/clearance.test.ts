// From statements, corrections and bought licences to one answer a use; embedding bits; terms in calendar days.
import { describe, expect, test } from "@jest/globals";
import { isCleared, weigh, type Clearance, type ClearanceFacts, type RecordedLicence } from "./clearance.ts";
import { readEmbedding } from "./embedding.ts";
import { sentencesOf } from "./sentences.ts";
import { addDays, dayAt, daysBetween, isDay, lastDay, readTerm, termState } from "./terms.ts";
import { forbiddingSentence } from "./unwrapping.ts";
import { USES, type Answer, type Statement, type Use } from "./uses.ts";
import { headlineWords } from "./words.ts";

// OpenType specification, OS/2, fsType: bits 1 to 3 by their table of values; several set, least restrictive counts.
describe("embedding bits", () => {
  test.each<[number, string]>([
    [0x0000, "installable"],
    [0x0002, "restricted"],
    [0x0004, "preview-and-print"],
    [0x0008, "editable"],
    [0x0006, "preview-and-print"],
    [0x000a, "editable"],
    [0x000c, "editable"],
    [0x000e, "editable"],
    [0x0001, "installable"],
    [0x0300, "installable"],
    [0x0302, "restricted"],
  ])("fsType %s", (fsType, level) => {
    for (const version of [0, 1, 2, 3, 4, 5]) expect(readEmbedding(fsType, version).level).toBe(level);
  });
  test("the limits of bits 8 and 9 exist from version 2 on", () => {
    expect(readEmbedding(0x0100, 1)).toMatchObject({ noSubsetting: false, bitmapOnly: false });
    expect(readEmbedding(0x0100, 2)).toMatchObject({ noSubsetting: true, bitmapOnly: false });
    expect(readEmbedding(0x0200, 4)).toMatchObject({ noSubsetting: false, bitmapOnly: true });
  });
});

describe("days", () => {
  test("are counted over month ends, leap days and years", () => {
    expect(addDays("2026-01-31", 1)).toBe("2026-02-01");
    expect(addDays("2028-02-28", 1)).toBe("2028-02-29");
    expect(addDays("2027-02-28", 1)).toBe("2027-03-01");
    expect(addDays("2100-02-28", 1)).toBe("2100-03-01");
    expect(addDays("2026-12-31", 1)).toBe("2027-01-01");
    expect(addDays("2026-03-01", -1)).toBe("2026-02-28");
    expect(daysBetween("2027-12-31", "2028-12-31")).toBe(366);
  });
  test("that do not exist are refused", () => {
    for (const wrong of ["2026-02-30", "2026-13-01", "2027-02-29", "2026-1-1", "soon", ""])
      expect([wrong, isDay(wrong)]).toEqual([wrong, false]);
    expect(isDay("2028-02-29")).toBe(true);
  });
  test("belong to where the person is; clocks going forward or back lose and win none", () => {
    expect(dayAt(new Date("2026-06-30T23:30:00Z"), "Europe/Berlin")).toBe("2026-07-01");
    expect(dayAt(new Date("2026-06-30T23:30:00Z"), "America/New_York")).toBe("2026-06-30");
    // Europe/Berlin: 2026-03-29 has 23 hours, 2026-10-25 has 25 (tz database).
    const hours = (from: string, count: number) =>
      Array.from({ length: count }, (_, i) => dayAt(new Date(Date.parse(from) + i * 3_600_000), "Europe/Berlin"));
    expect(hours("2026-03-28T23:00:00Z", 23).every((day) => day === "2026-03-29")).toBe(true);
    expect(hours("2026-03-28T23:00:00Z", 24).at(-1)).toBe("2026-03-30");
    expect(hours("2026-10-24T22:00:00Z", 25).every((day) => day === "2026-10-25")).toBe(true);
    expect(hours("2026-10-24T22:00:00Z", 26).at(-1)).toBe("2026-10-26");
  });
});

describe("terms", () => {
  // Common practice, no source: a 180-day pack has lapsed on day 181.
  test("a pack of 180 days lasts through day 180 and has lapsed on day 181, over a leap day and both clock changes", () => {
    for (const placed of ["2026-01-01", "2027-10-01", "2028-01-15"]) {
      const day = (number: number) => addDays(placed, number - 1);
      expect(lastDay({ days: 180 }, placed)).toBe(day(180));
      expect(termState({ days: 180 }, placed, day(1))).toMatchObject({ state: "running", left: 180 });
      expect(termState({ days: 180 }, placed, day(166))).toMatchObject({ state: "running", left: 15 });
      expect(termState({ days: 180 }, placed, day(167))).toMatchObject({ state: "ending", left: 14 });
      expect(termState({ days: 180 }, placed, day(180))).toMatchObject({ state: "ending", left: 1 });
      expect(termState({ days: 180 }, placed, day(181))).toEqual({ state: "over", last: day(180), since: 1 });
    }
  });
  test("have not begun before the style is placed; an end date needs no beginning", () => {
    expect(termState({ days: 30 }, undefined, "2026-05-01")).toEqual({ state: "not-begun", days: 30 });
    expect(termState({ until: "2026-05-01" }, undefined, "2026-05-01")).toMatchObject({ state: "ending", left: 1 });
    expect(termState({ until: "2026-05-01" }, undefined, "2026-05-02")).toMatchObject({ state: "over", since: 1 });
  });
  test.each<[string, unknown]>([
    ["Seasonal pack: may be used for 180 days from the day it is placed.", { days: 180 }],
    ["The licence lasts 6 months.", { days: 180 }],
    ["Valid for 1 year after purchase of the pack.", { days: 365 }],
    ["You may use it until 31 December 2026.", { until: "2026-12-31" }],
    ["The licence expires on 2027-02-28.", { until: "2027-02-28" }],
    ["The pack ends on March 1st, 2027.", { until: "2027-03-01" }],
    ["A 30-day trial licence.", { days: 30 }],
    ["Money back within 14 days; the licence lasts.", undefined],
    ["Drawn over 3 years at the seed walk.", undefined],
    ["The licence expires on 31 February 2027.", undefined],
    ["Free for personal use.", undefined],
  ])("%s", (sentence, term) => expect(readTerm(sentence)?.term).toEqual(term));
});

const said = (answers: Statement["answers"], sentence = "It says so."): Statement => ({
  answers,
  sentence,
  source: { kind: "paper", path: "a.txt", sha256: "", line: 1, paper: "note" },
});
const licence = (change: Partial<RecordedLicence>): RecordedLicence => ({
  id: 1,
  kind: "commercial",
  answers: {},
  term: null,
  placedOn: undefined,
  ...change,
});
const answerTo = (use: Use, facts: Partial<ClearanceFacts>): { answer: Answer; by: string; conflict: boolean } => {
  const { answer, by, conflict } = weigh({ statements: [], corrections: [], licences: [], today: "2026-06-01", ...facts }).uses.find(
    (one) => one.use === use,
  )!;
  return { answer, by, conflict };
};

describe("weighing", () => {
  test("silence is never a yes", () => {
    expect(answerTo("sold", {})).toEqual({ answer: "not-stated", by: "nobody", conflict: false });
    expect(answerTo("sold", { statements: [said({ own: "yes" })] }).answer).toBe("not-stated");
  });
  test("contradicting papers stand side by side, and the stricter counts", () => {
    const statements = [said({ sold: "yes" }, "Free for commercial use."), said({ sold: "no" }, "Not for commercial use.")];
    expect(answerTo("sold", { statements })).toEqual({ answer: "no", by: "papers", conflict: true });
    const { evidence } = weigh({ statements, corrections: [], licences: [], today: "2026-06-01" }).uses.find((one) => one.use === "sold")!;
    expect(evidence.map((one) => one.sentence)).toEqual(["Not for commercial use.", "Free for commercial use."]);
    expect(answerTo("sold", { statements: [said({ sold: "yes" }), said({ sold: "credit" })] })).toEqual({
      answer: "credit",
      by: "papers",
      conflict: false,
    });
  });
  test("a person decides, the latest word last", () => {
    const correction = (answer: Answer, at: string) => ({ use: "sold" as const, answer, note: "Asked.", at });
    const statements = [said({ sold: "no" })];
    expect(answerTo("sold", { statements, corrections: [correction("yes", "2026-01-01")] })).toMatchObject({ answer: "yes", by: "person" });
    expect(answerTo("sold", { statements, corrections: [correction("yes", "1"), correction("not-stated", "2")] }).answer).toBe(
      "not-stated",
    );
  });
  test("a bought licence opens what it names and nothing else, beside what the papers say", () => {
    const facts = { statements: [said({ own: "yes", sold: "no", client: "no" })], licences: [licence({ answers: { sold: "yes" } })] };
    expect(answerTo("sold", facts)).toMatchObject({ answer: "yes", by: "licence" });
    expect(answerTo("client", facts)).toMatchObject({ answer: "no", by: "papers" });
    expect(isCleared(weigh({ corrections: [], today: "2026-06-01", ...facts }), "own")).toBe(true);
  });
  const timed = (change: Partial<RecordedLicence> = {}) =>
    licence({ answers: { sold: "yes" }, term: { days: 180 }, placedOn: "2026-01-01", ...change });
  test("what was had for a time goes with its licence, whatever its papers allowed for that time", () => {
    const on = (today: string, ...more: RecordedLicence[]) =>
      weigh({ statements: [said({ own: "yes" })], corrections: [], licences: [timed({ kind: "time-limited" }), ...more], today });
    expect(on("2026-06-29")).toMatchObject({ lapsed: false, term: { state: "ending", left: 1 } });
    const over = on("2026-06-30");
    expect(over).toMatchObject({ lapsed: true, term: { state: "over", since: 1 } });
    expect(over.uses.every((one) => one.answer === "no")).toBe(true);
    // Renewed, or bought for good: nothing lapses.
    expect(on("2026-06-30", licence({ id: 2, answers: { sold: "yes" }, term: { until: "2027-01-01" } })).lapsed).toBe(false);
    expect(on("2026-06-30", licence({ id: 2, answers: { sold: "yes" } }))).toMatchObject({ lapsed: false, term: undefined });
  });
  describe("a licence that has ended stands beside the papers", () => {
    const over = (statements: Statement[], more: Partial<ClearanceFacts> = {}) =>
      weigh({ statements, corrections: [], licences: [timed()], today: "2026-06-30", ...more });
    const answers = (clearance: Clearance) => Object.fromEntries(clearance.uses.map(({ use, answer }) => [use, answer]));
    test("an open licence allows what it allowed, also what was had for a time", () => {
      const open = USES.map((use) => [use, "yes"]);
      const ofl = { ...said(Object.fromEntries(open), "Every use is free."), licence: "OFL-1.1" };
      for (const kind of ["commercial", "time-limited"] as const) {
        const found = over([ofl], { licences: [timed({ kind })] });
        expect([answers(found), found.lapsed, found.papersAlone]).toEqual([Object.fromEntries(open), false, true]);
      }
      expect(headlineWords(over([ofl]))).toMatch(/^A licence recorded here has ended; its papers go on\. /);
    });
    test("what only it allowed is allowed no more, and what the papers say of the rest stands", () => {
      const found = over([said({ own: "yes", client: "no" })]);
      expect(answers(found)).toMatchObject({ own: "yes", sold: "no", client: "no", video: "not-stated" });
      expect(found.uses.find(({ use }) => use === "sold")).toMatchObject({ by: "licence", licenceId: 1 });
      expect(found.uses.find(({ use }) => use === "client")).toMatchObject({ by: "papers" });
    });
    test("with nothing beside it, the family has lapsed; a person's own reading stands", () => {
      expect(over([])).toMatchObject({ lapsed: true, papersAlone: false });
      const correction = { use: "sold" as const, answer: "yes" as const, note: "Asked.", at: "2026-06-30" };
      expect(over([], { corrections: [correction] }).lapsed).toBe(false);
    });
    test("while papers are still being read, nothing is said to have lapsed", () =>
      expect(over([], { beingRead: 1 })).toMatchObject({ lapsed: false }));
  });
});

describe("papers in pieces", () => {
  test("sentences carry the line they start on, over line breaks, lists and headings", () => {
    const text = "FURROW\n\nThank you for\ndownloading it. Free for\npersonal use.\n\n- Not for sale\n- Credit, e.g. in print, is nice\n";
    expect(sentencesOf(text).map(({ text, line }) => [line, text])).toEqual([
      [1, "FURROW"],
      [3, "Thank you for downloading it."],
      [4, "Free for personal use."],
      [7, "- Not for sale"],
      [8, "- Credit, e.g. in print, is nice"],
    ]);
  });
  test("what forbids unwrapping is found where it stands", () => {
    const forbids = (text: string) => forbiddingSentence(sentencesOf(text))?.line;
    expect(forbids("Hello.\nYou may not convert it.")).toBe(2);
    expect(forbids("For web use only.")).toBe(1);
    expect(forbids("For use on web pages only.")).toBe(1);
    expect(forbids("Free for any use, on web pages and anywhere else.")).toBe(undefined);
  });
});
