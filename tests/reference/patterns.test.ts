// No pattern takes longer than in proportion to the text it is tried on: a published checker, recheck (npm; its "automaton" method follows
// Weideman et al., "Analyzing Matching Time Behavior of Backtracking Regular Expression Matchers", and it fuzzes what that cannot tell), looks at each. Those it names must only ever see
// short texts, and are tried on the checker's own attacks of that length.
import { execFileSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { expect, test } from "@jest/globals";
import ts from "typescript";
import { LONG } from "../amount.ts";
import { effort, within } from "../hostile/effort.ts";

const require = createRequire(import.meta.url);
const { check } = require("recheck") as typeof import("recheck");
const { version: checkerVersion } = require("recheck/package.json") as { version: string };

/** Patterns that may take longer than in proportion, by how they begin, with the most characters they are tried on and where that is seen to. */
const BOUNDED: readonly (readonly [file: string, begins: string, most: number])[] = [
  ["core/clearance/licence-names.ts", String.raw`\b(not|no longer|never|instead of|unlike|except|other than`, 55],
  ["core/clearance/statements.ts", String.raw`\b(?:only|solely|exclusively|strictly|just|purely|limited to|restricted to)\b[^,;]*$`, 54],
];
const FEW_MS = 50;
/** However slow the machine, each comes to its end. */
const LOOKED_AT = { randomSeed: 1, timeout: 240_000 };
const timeOn = (source: string, flags: string, text: string): number => {
  const spent = effort();
  text.replace(new RegExp(source, flags), "");
  return spent();
};
type Checked = Awaited<ReturnType<typeof check>>;
/**
 * What the checker only guesses — its fuzzer counts the steps of a machine of its own until its time is up, so that it guesses something else
 * each run — is tried: its attack, longer and longer. In proportion, a repetition of up to 200 included, the longest takes a tenth of a second.
 */
const LENGTHS = [200, 2000, 20_000, 200_000];
const LONG_MS = 1000;
function onlyGuessed(checked: Checked, source: string, flags: string): boolean {
  if (checked.status !== "vulnerable" || checked.checker !== "fuzz" || checked.complexity.type !== "polynomial") return false;
  const { pumps, suffix } = checked.attack;
  const once = pumps.reduce((sum, { pump }) => sum + pump.length, 0);
  return LENGTHS.every((length) => {
    const attack = pumps.map(({ prefix, pump }) => prefix + pump.repeat(Math.ceil(length / once))).join("") + suffix;
    return within(timeOn(source, flags, attack), LONG_MS);
  });
}

/**
 * Patterns the checker takes long for are looked at by `npm run test:long`, which lists here those it found safe, by what they are and the checker's
 * version. Whatever is new or was changed since is looked at at once.
 */
const KEPT_AT = "tests/reference/patterns-found-safe.txt";
const KEPT_FROM_MS = 250;
const keyOf = (source: string, flags: string): string =>
  createHash("sha256").update(`${checkerVersion}\n${flags}\n${source}`).digest("hex").slice(0, 32);
const KEPT = new Set(existsSync(KEPT_AT) ? readFileSync(KEPT_AT, "utf8").split("\n") : []);

interface Pattern {
  file: string;
  line: number;
  source: string;
  flags: string;
}
const files = execFileSync("git", ["ls-files", "core", "contract", "server", "practice", "cli", "ui"], { encoding: "utf8" })
  .split("\n")
  .filter((file) => /\.tsx?$/.test(file) && !/\.test\.|\.d\.ts$/.test(file));

function patternsIn(file: string): { patterns: Pattern[]; built: string[] } {
  const tree = ts.createSourceFile(file, readFileSync(file, "utf8"), ts.ScriptTarget.Latest, true);
  const patterns: Pattern[] = [];
  const built: string[] = [];
  const walk = (node: ts.Node): void => {
    if (node.kind === ts.SyntaxKind.RegularExpressionLiteral) {
      const text = node.getText();
      const end = text.lastIndexOf("/");
      const line = tree.getLineAndCharacterOfPosition(node.getStart()).line + 1;
      patterns.push({ file, line, source: text.slice(1, end), flags: text.slice(end + 1) });
    }
    if (ts.isNewExpression(node) && node.expression.getText() === "RegExp") built.push(`${file}: ${node.getText()}`);
    ts.forEachChild(node, walk);
  };
  walk(tree);
  return { patterns, built };
}
const found = files.map(patternsIn);

test("patterns stand in the code as they are used: none is put together from parts that were not looked at", () => {
  expect(found.flatMap(({ built }) => built)).toEqual([
    // A class of characters by a script's name; a pattern of its own, looked at below; and a class again.
    'core/bench/setting.ts: new RegExp(`\\\\p{Script=${name}}`, "u")',
    'core/family/kinship.ts: new RegExp(LAYER_WORD, "gi")',
    'practice/engine/layout.ts: new RegExp(`\\\\p{Script=${script}}`, "u")',
  ]);
});

test("every pattern is linear, or is only tried on short texts and is quick on them", async () => {
  const patterns = found.flatMap((one) => one.patterns);
  expect(patterns.length).toBeGreaterThan(300);
  const wrong: string[] = [];
  const slow: string[] = [];
  const slowAndSafe: string[] = [];
  for (const { file, line, source, flags } of patterns) {
    const key = keyOf(source, flags);
    if (!LONG && KEPT.has(key)) continue;
    const began = performance.now();
    const checked = await check(source, flags, LOOKED_AT);
    if (checked.status === "safe" || onlyGuessed(checked, source, flags)) {
      if (performance.now() - began > KEPT_FROM_MS) slowAndSafe.push(key);
      continue;
    }
    const bound = BOUNDED.find(([where, begins]) => where === file && source.startsWith(begins));
    if (!bound || checked.status === "unknown") {
      wrong.push(`${file}:${line} ${checked.status} ${source.slice(0, 80)}`);
      continue;
    }
    const attack = checked.attack.string.slice(0, bound[2]);
    const text = attack + " ".repeat(Math.max(0, bound[2] - attack.length));
    const ms = timeOn(source, flags, text);
    if (!within(ms, FEW_MS)) slow.push(`${file}:${line} ${Math.round(ms)} ms`);
  }
  expect([wrong, slow]).toEqual([[], []]);
  if (LONG) writeFileSync(KEPT_AT, `${slowAndSafe.toSorted().join("\n")}\n`);
  // What is gone needs no exception any more.
  const gone = BOUNDED.filter(([where, begins]) => !patterns.some(({ file, source }) => file === where && source.startsWith(begins)));
  expect(gone).toEqual([]);
}, 1_200_000);
