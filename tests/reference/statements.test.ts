// The reader of plain-word statements against labelled ones: a yes is never wrong, a no is hardly ever, and little is missed. Each is read as a
// licence note of its own, as papers are: cut into sentences, questions with their answers. Precision and recall are printed.
import { createRequire } from "node:module";
import { describe, expect, test } from "@jest/globals";
import { weigh } from "../../core/clearance/clearance.ts";
import { gather } from "../../core/clearance/gather.ts";
import { textsToKnow } from "../../core/clearance/licences.ts";
import { readPaper } from "../../core/clearance/read.ts";
import { LicenceRecogniser } from "../../core/clearance/spdx.ts";
import { USES, type Answer, type Use } from "../../core/clearance/uses.ts";
import { IN_OTHER_LANGUAGES, IN_OTHER_LANGUAGES_UNSEEN, KEPT_BACK, OPENED, STUDIED, UNSEEN } from "./labelled-statements.ts";

const recogniser = new LicenceRecogniser(
  textsToKnow(createRequire(import.meta.url)("spdx-license-list/full") as Parameters<typeof textsToKnow>[0]),
);

const LETTERS: Record<string, Use> = { o: "own", g: "given-away", s: "sold", c: "client", d: "document", v: "video", w: "web" };
const SIGNS = { "+": "yes", $: "credit", "-": "no" } as const;
const labelled = (answers: string): Partial<Record<Use, Answer>> =>
  Object.fromEntries(
    answers
      .split(" ")
      .filter(Boolean)
      .map((one) => [LETTERS[one[0]!], SIGNS[one[1] as keyof typeof SIGNS]]),
  );

/** What a note with these words alone would clear. */
function answersOf(text: string): Partial<Record<Use, Answer>> {
  const { statements } = gather([{ facts: readPaper(text, recogniser), paper: { path: "note.txt", sha256: "" } }], { names: [] });
  const { uses } = weigh({ statements, corrections: [], licences: [], today: "2026-06-01" });
  return Object.fromEntries(uses.filter((one) => one.answer !== "not-stated").map((one) => [one.use, one.answer]));
}

interface Score {
  right: number;
  said: number;
  wanted: number;
  rightNo: number;
  saidNo: number;
  wantedNo: number;
  wrongYes: string[];
  wrong: string[];
}

function score(set: typeof STUDIED): Score {
  const found: Score = { right: 0, said: 0, wanted: 0, rightNo: 0, saidNo: 0, wantedNo: 0, wrongYes: [], wrong: [] };
  for (const [text, answers] of set) {
    const wanted = labelled(answers);
    const said = answersOf(text);
    for (const use of USES) {
      if (wanted[use]) found.wanted++;
      if (said[use]) found.said++;
      if (wanted[use] === "no") found.wantedNo++;
      if (said[use] === "no") found.saidNo++;
      if (said[use] && said[use] === wanted[use]) found.right++;
      if (said[use] === "no" && wanted[use] === "no") found.rightNo++;
      if (said[use] === wanted[use]) continue;
      found.wrong.push(`${text} ${use}: ${said[use] ?? "not stated"}, not ${wanted[use] ?? "not stated"}`);
      // A yes that is not there, and a yes without the credit that is asked for.
      if (said[use] === "yes" || (said[use] === "credit" && wanted[use] !== "yes")) found.wrongYes.push(`${text} ${use}`);
    }
  }
  return found;
}

test("there are enough of them, and a third of them are no statements", () => {
  const all = [...STUDIED, ...OPENED, ...UNSEEN, ...KEPT_BACK];
  expect(all.length).toBeGreaterThanOrEqual(400);
  expect(all.filter(([, answers]) => answers === "").length).toBeGreaterThanOrEqual(all.length / 3);
  expect(KEPT_BACK.length).toBeGreaterThanOrEqual(100);
});

describe.each([
  ["studied", STUDIED, 0.97, 0.9],
  ["unseen", UNSEEN, 0.8, 0.65],
  ["opened", OPENED, 0.97, 0.85],
  ["kept back", KEPT_BACK, 0.97, 0.85],
  ["in other languages", IN_OTHER_LANGUAGES, 0.97, 0.85],
  ["in other languages, unseen", IN_OTHER_LANGUAGES_UNSEEN, 0.97, 0.6],
])("statements %s", (name, set, precision, recall) => {
  const result = score(set);
  test("a yes is never wrong", () => expect(result.wrongYes).toEqual([]));
  test("precision and recall of a no, and of all", () => {
    const [p, r] = [result.right / result.said, result.right / result.wanted];
    const [pNo, rNo] = [result.rightNo / result.saidNo, result.rightNo / result.wantedNo];
    process.stderr.write(
      `${name}: ${set.length} statements, of “no” precision ${pNo.toFixed(3)} and recall ${rNo.toFixed(3)}, of all ${p.toFixed(3)} and ${r.toFixed(3)}\n`,
    );
    if (process.env.STATEMENTS === name) process.stderr.write(`${result.wrong.join("\n")}\n`);
    expect(pNo).toBeGreaterThanOrEqual(precision);
    expect(rNo).toBeGreaterThanOrEqual(recall);
    expect(p).toBeGreaterThanOrEqual(precision);
    expect(r).toBeGreaterThanOrEqual(recall);
  });
});
