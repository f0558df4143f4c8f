// The reader of plain-word statements against labelled ones: a yes is never wrong, and little is missed. Precision and recall are printed.
import { describe, expect, test } from "@jest/globals";
import { STUDIED, UNSEEN } from "./labelled-statements.ts";
import { readSentence, type Answers } from "../../core/clearance/statements.ts";
import { USES, type Use } from "../../core/clearance/uses.ts";

const LETTERS: Record<string, Use> = { o: "own", g: "given-away", s: "sold", c: "client", d: "document", v: "video", w: "web" };
const SIGNS = { "+": "yes", $: "credit", "-": "no" } as const;
const labelled = (answers: string): Answers =>
  Object.fromEntries(
    answers
      .split(" ")
      .filter(Boolean)
      .map((one) => [LETTERS[one[0]!], SIGNS[one[1] as keyof typeof SIGNS]]),
  );

interface Score {
  right: number;
  said: number;
  wanted: number;
  wrongYes: string[];
  wrong: string[];
}

function score(set: typeof STUDIED): Score {
  const found: Score = { right: 0, said: 0, wanted: 0, wrongYes: [], wrong: [] };
  for (const [text, answers] of set) {
    const wanted = labelled(answers);
    const said = readSentence({ text, line: 1 }).answers;
    for (const use of USES) {
      if (wanted[use]) found.wanted++;
      if (said[use]) found.said++;
      if (said[use] && said[use] === wanted[use]) found.right++;
      if (said[use] === wanted[use]) continue;
      found.wrong.push(`${text} ${use}: ${said[use] ?? "not stated"}, not ${wanted[use] ?? "not stated"}`);
      // A yes that is not there, and a yes without the credit that is asked for.
      if (said[use] === "yes" || (said[use] === "credit" && wanted[use] !== "yes")) found.wrongYes.push(`${text} ${use}`);
    }
  }
  return found;
}

describe.each([
  ["studied", STUDIED, 0.97, 0.9],
  ["unseen", UNSEEN, 0.8, 0.65],
])("%s statements", (name, set, precision, recall) => {
  const result = score(set);
  test("there are enough of them", () => expect(set.length).toBeGreaterThanOrEqual(name === "studied" ? 120 : 40));
  test("a yes is never wrong", () => expect(result.wrongYes).toEqual([]));
  test("precision and recall", () => {
    const [p, r] = [result.right / result.said, result.right / result.wanted];
    process.stderr.write(`${name}: ${set.length} statements, precision ${p.toFixed(3)}, recall ${r.toFixed(3)}\n`);
    expect(p).toBeGreaterThanOrEqual(precision);
    expect(r).toBeGreaterThanOrEqual(recall);
  });
});
