// Real font packages with all their papers (Debian's, as they come): what the command line clears them for, against what a person read in them.
// Wrong no, wrong yes and not stated are printed use by use; two thirds were looked at while the reader was made, one third never was.
import { execFileSync } from "node:child_process";
import { createHash } from "node:crypto";
import { join } from "node:path";
import { beforeAll, describe, expect, test } from "@jest/globals";
import { USES, type Answer, type Use } from "../../core/clearance/uses.ts";
import { unpackedPackages } from "../load/downloads.ts";
import { namesIn, STUDIED_PACKAGES, UNSEEN_PACKAGES } from "./package-papers.ts";

type Answers = Record<Use, Answer>;
const all = (answer: Answer, ...others: (readonly [Answer, ...Use[]])[]): Answers => {
  const answers = Object.fromEntries(USES.map((use) => [use, answer])) as Answers;
  for (const [other, ...uses] of others) for (const use of uses) answers[use] = other;
  return answers;
};

/** What each licence allows, from its published text; what its makers leave open is not stated. */
function allowed(licence: string): Answers {
  const [plain, forbidding] = licence.split(", and in the licence field ");
  if (forbidding) return { ...allowed(plain!), sold: "no", client: "no" };
  if (/^(public domain|in words: (free, to use as you please|unlimited permission))/.test(licence)) return all("yes");
  const choices = licence.split(" OR ").map((one): Answers => {
    // "SIL Open Font License" FAQ 1.1 to 1.15; the permissive licences and dedications ask for nothing of what is made with the letters.
    if (/^(OFL-|MIT|BSD-|Apache-|CC0|Unlicense|Artistic|Bitstream-Vera)/.test(one)) return all("yes");
    // Creative Commons, "Attribution": credit whenever the work is shared; ShareAlike may reach what carries the font itself.
    if (/^CC-BY-\d/.test(one)) return all("credit");
    if (/^CC-BY-SA/.test(one)) return all("credit", ["not-stated", "document", "web"]);
    // GNU licences FAQ, "Fonts": without the font exception a document that embeds the font may come under the licence.
    if (/^L?GPL-.* WITH Font-exception/.test(one)) return all("yes", ["not-stated", "web"]);
    if (/^L?GPL-/.test(one)) return all("yes", ["not-stated", "document", "web"]);
    throw new Error(`No answers are known for ${one}.`);
  });
  const widest: Answer[] = ["yes", "credit", "not-stated", "no"];
  return Object.fromEntries(USES.map((use) => [use, widest.find((one) => choices.some((choice) => choice[use] === one))!])) as Answers;
}

interface Cleared {
  family: string;
  uses: Record<Use, { answer: Answer; sentence: string | null; paper: string | null; conflict: boolean }>;
  licences: string[];
  papers: { kind: string; read: boolean }[];
}
const cli = join(process.cwd(), "build", "node", "cli.mjs");
/** What is printed of each folder. */
function clear(trees: readonly string[]): Map<string, Cleared[]> {
  const printed = execFileSync(process.execPath, [cli, "clear", "--json", ...trees], { encoding: "utf8", maxBuffer: 256 * 1024 * 1024 });
  const found = new Map<string, Cleared[]>();
  for (const line of printed.trim().split("\n")) {
    const one = JSON.parse(line) as Cleared & { path: string };
    found.set(one.path, [...(found.get(one.path) ?? []), one]);
  }
  return found;
}

/** The same identifier but for "or later" and reserved names, which papers of one package tell differently. */
const bare = (id: string): string => id.replace(/-(only|or-later|RFN|no-RFN)\b/g, "").replace(/-no$/, "");

describe.each([
  ["studied", namesIn(STUDIED_PACKAGES), 150],
  ["unseen", namesIn(UNSEEN_PACKAGES), 60],
])("%s packages", (name, packages, least) => {
  const wrong = { no: new Map<Use, string[]>(), yes: new Map<Use, string[]>(), silent: new Map<Use, string[]>() };
  const unnamed: string[] = [];
  let read = 0;
  beforeAll(() => {
    const trees = unpackedPackages(
      join(process.cwd(), "build", "corpus", "papers"),
      packages.map(([one]) => one),
    );
    const printed = clear([...trees.values()]);
    const note = (kind: keyof typeof wrong, use: Use, words: string) => wrong[kind].set(use, [...(wrong[kind].get(use) ?? []), words]);
    for (const [one, licence] of packages) {
      const tree = trees.get(one);
      if (!tree) continue;
      read++;
      const [usual, ...others] = licence.split("; ").map((part): [string, Answers] => {
        const at = part.indexOf(": ");
        return at < 0 || part.startsWith("in words") ? ["", allowed(part)] : [part.slice(0, at), allowed(part.slice(at + 2))];
      });
      const said = new Map<string, string>();
      const cleared = printed.get(tree) ?? [];
      for (const { family, uses } of cleared) {
        const expected = (others.find(([name]) => name === family) ?? usual!)[1];
        for (const use of USES) {
          const { answer, sentence, paper } = uses[use];
          if (answer === expected[use]) continue;
          const kind = answer === "no" ? "no" : answer === "not-stated" ? "silent" : "yes";
          // Once a package and use.
          if (!said.has(`${kind} ${use}`))
            note(kind, use, `${one}: ${family} for ${use} is ${answer}, not ${expected[use]}: ${sentence} (${paper})`);
          said.set(`${kind} ${use}`, family);
        }
      }
      const ids = licence
        .split(/;|, and/)[0]!
        .split(/ OR | AND /)
        .filter((id) => /^[\w.-]+( WITH [\w.-]+)?$/.test(id));
      const found = new Set(cleared.flatMap((family) => family.licences.map(bare)));
      if (ids.length > 0 && !ids.some((id) => found.has(bare(id)))) unnamed.push(`${one}: ${[...found].join(", ")}, not ${licence}`);
    }
    const counted = (kind: keyof typeof wrong) => USES.map((use) => `${use} ${wrong[kind].get(use)?.length ?? 0}`).join(", ");
    process.stderr.write(
      `${read} ${name} packages. Wrong no: ${counted("no")}. Wrong yes: ${counted("yes")}. Not stated: ${counted("silent")}. Licence not named: ${unnamed.length}.\n`,
    );
    if (process.env.PAPERS === name)
      process.stderr.write(
        `${[...wrong.no.values(), ...wrong.yes.values(), ...wrong.silent.values()].flat().join("\n")}\n${unnamed.join("\n")}\n`,
      );
  }, 600_000);

  test("there are enough of them", () => expect(read).toBeGreaterThanOrEqual(least));
  test("a yes is never wrong", () => expect([...wrong.yes.values()].flat()).toEqual([]));
  test("a no is wrong in one of a hundred at most", () => {
    const named = new Set([...wrong.no.values()].flat().map((words) => words.split(":")[0]));
    expect(named.size).toBeLessThanOrEqual(read / 100);
  });
  test("what is stated is found, but for one in twenty", () => {
    for (const found of wrong.silent.values()) expect(found.length).toBeLessThanOrEqual(read / 20);
  });
  test("the licence is named", () => expect(unnamed.length).toBeLessThanOrEqual(read / 20));
});

test("which third is kept unseen is told by the names alone", () => {
  const kept = (name: string) => parseInt(createHash("sha256").update(name).digest("hex").slice(0, 8), 16) % 3 === 0;
  expect(namesIn(STUDIED_PACKAGES).filter(([name]) => kept(name))).toEqual([]);
  expect(namesIn(UNSEEN_PACKAGES).filter(([name]) => !kept(name))).toEqual([]);
});
