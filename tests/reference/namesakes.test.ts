// Files that go by one name, of packages nobody here made: which are versions of one style, and which are other drawings under its name.
import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { basename } from "node:path";
import { describe, expect, test } from "@jest/globals";
import { slimClaim } from "../../core/family/brief.ts";
import { compareNamesakes } from "../../core/family/kinship.ts";
import { inspectFont } from "../../core/inspect.ts";
import type { Claim, WantedStyle } from "../../core/placing/files.ts";
import { planPlacing } from "../../core/placing/plan.ts";
import { loadWoff2 } from "../../core/sfnt/woff2.ts";

const filesOf = (debian: string): string[] =>
  execFileSync("dpkg", ["-L", debian], { encoding: "utf8" })
    .split("\n")
    .filter((path) => /\.(otf|ttf)$/.test(path))
    .sort();
async function claimOf(path: string): Promise<Claim> {
  const read = inspectFont(new Uint8Array(readFileSync(path)), basename(path), await loadWoff2());
  if (!read.ok) throw new Error(`${path}: ${read.problem.message}`);
  return slimClaim(read.value[0]!, path);
}

describe("four styles that all name themselves Regular (fonts-courier-prime, Debian)", () => {
  const four = filesOf("fonts-courier-prime").filter((path) => /Prime( Bold)?( Italic)?\.otf$/.test(path));
  test("are four drawings, all offered for placing, told by their files' names", async () => {
    expect(four.map((path) => basename(path))).toEqual([
      "Courier Prime Bold Italic.otf",
      "Courier Prime Bold.otf",
      "Courier Prime Italic.otf",
      "Courier Prime.otf",
    ]);
    const claims = await Promise.all(four.map(claimOf));
    // fc-scan calls all of them by one family and style.
    const names = four.map((path) => execFileSync("fc-scan", ["-f", "%{family}/%{style}", path], { encoding: "utf8" }));
    expect(new Set(names).size).toBe(1);
    expect(new Set(claims.map(({ key }) => key)).size).toBe(1);
    const wanted = claims.map((claim, i): WantedStyle => ({
      styleId: i,
      name: "Courier Prime",
      postScriptName: "",
      sha256: claim.sha256,
      original: basename(four[i]!),
      family: "Courier Prime",
      ending: ".otf",
      bytes: 1,
      refused: false,
      claim,
    }));
    const items = planPlacing(wanted, [], { slot: "me", takes: ["sfnt"], prefers: "otf", freeBytes: null, programs: [] });
    expect(items.map(({ situation, chosen }) => [situation, chosen])).toEqual(four.map(() => ["names-clash", "place"]));
    expect(items.map(({ steps }) => steps[0]!.original)).toEqual(four.map((path) => basename(path)));
    expect(items[0]!.steps[0]!.reason).toMatch(/^3 other files, drawn differently, name themselves “Courier Prime”, too/);
  });
});

describe("versions of one style from two distributors", () => {
  const npm = (family: string) => `node_modules/@fontsource/${family}/files/${family}-latin-400-normal.woff2`;
  test.each([
    ["ebgaramond/EBGaramond12-Regular.otf", "eb-garamond", "older"],
    ["lobster/lobster.otf", "lobster", "older"],
    ["fonts-hosny-amiri/Amiri-Regular.ttf", "amiri", "older"],
    // Drawn anew for its third version, letter by letter.
    ["cabin/Cabin-Regular.otf", "cabin", "other"],
  ])("%s", async (debian, family, known) => {
    const [own, other] = [await claimOf(`/usr/share/fonts/opentype/${debian}`), await claimOf(npm(family))];
    expect(compareNamesakes(own, other)).toBe(known);
  });
});

test("no two styles of a family are taken for one another's versions", async () => {
  const confused: string[] = [];
  for (const debian of ["fonts-lato", "fonts-cabin", "fonts-cantarell", "fonts-dejavu-core", "fonts-dejavu-extra", "culmus"]) {
    const claims = await Promise.all(filesOf(debian).map(claimOf));
    for (const [i, one] of claims.entries())
      for (const other of claims.slice(i + 1))
        if (one.family === other.family && one.key !== other.key && ["newer", "older", "alike"].includes(compareNamesakes(one, other)))
          confused.push(`${basename(one.sha256)} and ${basename(other.sha256)}`);
  }
  expect(confused).toEqual([]);
});
