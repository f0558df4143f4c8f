// Clearance in words, papers and the fonts they speak of, credit lines, licences by identifier.
import { describe, expect, test } from "@jest/globals";
import { weigh, type ClearanceFacts, type RecordedLicence } from "./clearance.ts";
import { mentioned, variantOf } from "./licence-names.ts";
import { baseLicence, knownLicence, textsToKnow } from "./licences.ts";
import { papersFor } from "./papers.ts";
import { USES, type Answer, type Statement } from "./uses.ts";
import { creditLine, reasonWords, summaryWords, termWords, whereWords } from "./words.ts";
import { dayWords } from "../words/dates.ts";

const said = (answers: Statement["answers"], sentence: string, licence?: string): Statement => ({
  answers,
  sentence,
  source: { kind: "paper", path: "a.txt", sha256: "", line: 2, paper: "note" },
  ...(licence ? { licence } : {}),
});
const every = (answer: Exclude<Answer, "not-stated">) => Object.fromEntries(USES.map((use) => [use, answer])) as Statement["answers"];
const weighed = (facts: Partial<ClearanceFacts>) => weigh({ statements: [], corrections: [], licences: [], today: "2026-06-01", ...facts });
const timed = (change: Partial<RecordedLicence>): RecordedLicence => ({
  id: 1,
  kind: "time-limited",
  answers: every("yes"),
  term: { days: 30 },
  placedOn: "2026-05-20",
  ...change,
});

describe("summaries", () => {
  test.each<[string, Partial<ClearanceFacts>]>([
    ["Nothing stated", {}],
    ["Every use", { statements: [said(every("yes"), "Free.")] }],
    ["Every use, with credit", { statements: [said(every("credit"), "Free with credit.")] }],
    [
      "Yes: own use; not: sold goods; not stated: given away, client work, embedded in documents, video, web page",
      { statements: [said({ own: "yes", sold: "no" }, "x")] },
    ],
    ["Every use. 18 days left, until 18 June 2026", { licences: [timed({})] }],
    ["Lapsed: ended on 18 June 2026", { licences: [timed({})], today: "2026-06-19" }],
    [
      "Every use. A licence ended on 18 June 2026",
      { statements: [said(every("yes"), "Free.", "OFL-1.1")], licences: [timed({ kind: "commercial" })], today: "2026-06-19" },
    ],
  ])("%s", (words, facts) => expect(summaryWords(weighed(facts))).toBe(words));
});

test("terms in words", () => {
  expect(termWords({ state: "not-begun", days: 1 })).toBe("1 day from the day it is placed");
  expect(termWords({ state: "running", last: "2026-06-18", left: 18 })).toBe("18 days left, until 18 June 2026");
  expect(termWords({ state: "ending", last: "2026-06-18", left: 1 })).toBe("Ends today, 18 June 2026");
  expect(termWords({ state: "over", last: "2026-06-18", since: 1 })).toBe("Ended on 18 June 2026");
  expect(dayWords("2028-02-29")).toBe("29 February 2028");
});

describe("reasons", () => {
  const reason = (facts: Partial<ClearanceFacts>) => reasonWords(weighed(facts).uses.find((one) => one.use === "sold")!);
  test("quote what was read and where", () => {
    expect(reason({ statements: [said({ sold: "no" }, "Not for sale goods.")] })).toBe("“Not for sale goods.” (a.txt, line 2)");
    expect(reason({ statements: [said({ sold: "yes" }, "Every use is free.", "OFL-1.1")] })).toBe(
      "OFL-1.1: Every use is free. (a.txt, line 2)",
    );
    expect(reason({})).toBe("Nothing that came with it says so.");
  });
  test("say who decided", () => {
    const correction = { use: "sold" as const, answer: "yes" as const, note: "Asked.", at: "2026-05-01" };
    expect(reason({ corrections: [correction] })).toBe("Your own reading: Asked.");
    expect(reason({ corrections: [{ ...correction, note: "" }] })).toBe("Your own reading.");
    expect(reason({ licences: [timed({})] })).toBe("A licence recorded here allows it.");
    expect(reason({ licences: [timed({})], today: "2027-01-01" })).toBe("The licence has ended.");
    expect(reason({ statements: [said({ sold: "no" }, "No."), said({ sold: "yes" }, "Yes.")] })).toMatch(
      /^Its papers contradict one another; the stricter counts: “No\.”/,
    );
  });
  test("tell where a thing stands", () => {
    expect(whereWords({ kind: "name-field", id: 13 })).toBe("the font's licence field");
    expect(whereWords({ kind: "name-field", id: 5 })).toBe("the font's name field 5");
    expect(whereWords({ kind: "embedding", fsType: 2 })).toBe("the font's embedding bits (fsType 2)");
  });
});

describe("credit lines", () => {
  const line = (sentence: string, copyright = "") => creditLine("Furrow", [said({ sold: "credit" }, sentence)], copyright);
  test("are taken as a paper gives them, or from whom it names, or from the copyright field", () => {
    expect(line("Please credit: “Letters by the seed walk”.")).toBe("Letters by the seed walk");
    expect(line("Free if you credit Fernhollow Seed Walk.")).toBe("Font: Furrow by Fernhollow Seed Walk");
    expect(line("Free with credit.", "Copyright (c) 2020-2026, Wren Larch. All rights reserved.")).toBe("Font: Furrow by Wren Larch");
    expect(line("Free with credit.", "© 2026 Fernhollow Seed Walk. Drawn for this demonstration.")).toBe(
      "Font: Furrow by Fernhollow Seed Walk",
    );
    expect(line("Free with credit.")).toBe("Font: Furrow");
  });
});

describe("papers", () => {
  const papers = (...paths: string[]) => paths.map((path) => ({ path }));
  const found = (fonts: string[], ...paths: string[]) => papersFor(fonts, papers(...paths)).map((paper) => paper.path);
  test("speak of the fonts around and below them, the nearest first", () => {
    expect(found(["A/a.ttf"], "readme.txt", "A/licence.txt", "B/licence.txt")).toEqual(["A/licence.txt", "readme.txt"]);
    expect(found(["A/fonts/a.ttf"], "A/licence.txt")).toEqual(["A/licence.txt"]);
    expect(found(["a.ttf"], "docs/licence.txt")).toEqual(["docs/licence.txt"]);
  });
  test("beside them only when none lies nearer", () => {
    expect(found(["OTF/a.otf"], "docs/licence.txt")).toEqual(["docs/licence.txt"]);
  });
  test("inside another archive never speak of fonts outside it", () => {
    expect(found(["A/a.ttf"], "B/inner.zip/licence.txt")).toEqual([]);
    expect(found(["B/inner.zip/x/a.ttf"], "B/inner.zip/licence.txt", "C/other.zip/licence.txt")).toEqual(["B/inner.zip/licence.txt"]);
  });
});

describe("licences by name", () => {
  test.each<[string, string | undefined]>([
    ["Licensed under the SIL Open Font License 1.1", "OFL-1.1"],
    ["Open Font License, version 1.0", "OFL-1.0"],
    ["Apache License, Version 2.0", "Apache-2.0"],
    ["CC BY 4.0", "CC-BY-4.0"],
    ["https://creativecommons.org/licenses/by-nc-nd/4.0/", "CC-BY-NC-ND-4.0"],
    ["GNU General Public License version 3", "GPL-3.0-only"],
    ["GPL version 2 with font exception", "GPL-2.0-only WITH Font-exception-2.0"],
    ["the MIT License", "MIT"],
    ["This is not the Open Font License", undefined],
    ["unlike the MIT License", undefined],
    ["Thank you.", undefined],
  ])("%s", (words, id) => expect(mentioned(words)[0]?.id).toBe(id));
  test("variants lead back to the text they share", () => {
    for (const id of ["OFL-1.1-RFN", "OFL-1.1-no-RFN", "OFL-1.1"]) expect(baseLicence(id)?.id).toBe("OFL-1.1");
    expect(baseLicence("GPL-2.0-or-later")?.answers).toEqual(baseLicence("GPL-2.0-only")?.answers);
    expect([baseLicence("Nonesuch-1.0"), knownLicence("Nonesuch-2.0 OR Nonesuch-1.0")]).toEqual([undefined, undefined]);
    expect(variantOf("MIT", "with Reserved Font Name")).toBe("MIT");
  });
  test("only texts that are known, or must be told apart from them, are recognised", () => {
    const list = { MIT: { licenseText: "a" }, JSON: { licenseText: "b" }, "Nonesuch-1.0": { licenseText: "c" } };
    expect(textsToKnow(list).map((one) => one.id)).toEqual(["MIT", "JSON"]);
  });
  test("none of them says yes to sold work by silence", () => {
    expect(knownLicence("CC-BY-NC-4.0")!.answers).toEqual({ own: "credit", "given-away": "credit", sold: "no", client: "no" });
    expect(knownLicence("GPL-3.0-only")!.answers.document).toBeUndefined();
  });
});
