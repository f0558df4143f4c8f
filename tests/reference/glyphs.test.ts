// Which glyphs a face has, what they are named and how each is reached, over fonts of Debian's packages: names and what the rules can lead to against
// fontTools, every way told (a part of them, evenly) against hb-shape, Unicode's names and blocks against Debian's unicode-data.
import { execFileSync } from "node:child_process";
import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { beforeAll, describe, expect, test } from "@jest/globals";
import { reachOf, type GlyphReach, type Way } from "../../core/glyphs/reach.ts";
import { signLists } from "../../core/symbols/lists.ts";
import { blockOf, isPrivate, unicodeName, type SignLists } from "../../core/symbols/symbols.ts";
import { Face } from "../../core/sfnt/face.ts";
import { openContainer } from "../../core/sfnt/container.ts";
import { singleFonts } from "../load/corpus.ts";
import { CFF_STRINGS, MAC_GLYPHS } from "../../core/sfnt/standard-names.ts";

interface Judged {
  path: string;
  named: boolean;
  names: string[];
  reached: number[];
}

/** One font of each seven; a third of them kept unseen while this was built. */
const EVERY = 7;
const fonts = singleFonts().filter((_, i) => i % EVERY === 0);
const unseen = (path: string): boolean => createHash("sha256").update(path.split("/").at(-1)!).digest()[0]! % 3 === 0;

const judged = new Map<string, Judged>();
const read = new Map<string, GlyphReach[]>();
/** What a font was refused with. */
const refused = new Map<string, string>();
let lists: SignLists;
beforeAll(async () => {
  lists = await signLists(["en"]);
  const lines = execFileSync("/usr/bin/python3", ["tests/reference/glyph_facts.py", ...fonts], { encoding: "utf8", maxBuffer: 1e9 });
  for (const line of lines.trim().split("\n")) {
    const one = JSON.parse(line) as Judged;
    judged.set(one.path, one);
    const bytes = readFileSync(one.path);
    // One font that cannot be read fails its own row, not the others.
    try {
      read.set(one.path, reachOf(new Face(openContainer(bytes), 0), bytes));
    } catch (error) {
      refused.set(one.path, String(error));
    }
  }
}, 600_000);

test("fonts enough", () => {
  expect(fonts.length).toBeGreaterThanOrEqual(60);
});

/** fontTools numbers names that a font gives twice. */
const NUMBERED = /[#.]\d+$/;
test.each(fonts)("%s: names, and no glyph that cannot be reached", (path) => {
  expect([path, refused.get(path)]).toEqual([path, undefined]);
  const { named, names, reached } = judged.get(path)!;
  const own = read.get(path)!;
  if (named) expect(own.map(({ name }, i) => (NUMBERED.test(names[i]!) ? names[i] : name))).toEqual(names);
  else expect(own.filter(({ name }) => name !== "")).toEqual([]);
  const possible = new Set(reached);
  const told = own.filter(({ codePoints, ways }) => codePoints.length > 0 || ways.length > 0);
  expect(told.filter(({ glyph }) => !possible.has(glyph))).toEqual([]);
});

describe.each<[string, boolean, number]>([
  ["studied", false, 0.95],
  ["unseen", true, 0.93],
])("%s fonts", (what, kept, least) => {
  test("most of what can be reached is told how", () => {
    let [all, found] = [0, 0];
    for (const path of fonts.filter((one) => read.has(one) && unseen(one) === kept)) {
      const own = new Set(
        read
          .get(path)!
          .filter(({ codePoints, ways }) => codePoints.length > 0 || ways.length > 0)
          .map(({ glyph }) => glyph),
      );
      const { reached } = judged.get(path)!;
      all += reached.length;
      found += reached.filter((glyph) => own.has(glyph)).length;
    }
    process.stderr.write(`${what}: ${found} of ${all} glyphs that rules can lead to (${((100 * found) / all).toFixed(2)} %)\n`);
    expect([found, found / all >= least]).toEqual([found, true]);
  });
});

const MOST_OF_A_FONT = 60;
const settingOf = ({ features, value, language }: Way): string => JSON.stringify([features, value, language ?? ""]);

test.each(fonts)("%s: hb-shape finds the glyph each way leads to", (path) => {
  const ways = read.get(path)!.flatMap(({ glyph, ways: all }) => all.map((way) => ({ glyph, way })));
  const step = Math.max(1, Math.floor(ways.length / MOST_OF_A_FONT));
  const groups = new Map<string, { glyph: number; way: Way }[]>();
  for (const one of ways.filter((_, i) => i % step === 0)) groups.set(settingOf(one.way), [...(groups.get(settingOf(one.way)) ?? []), one]);
  for (const members of groups.values()) {
    const { features, value, language } = members[0]!.way;
    const asked = features.map((tag, i) => `${tag}=${i === features.length - 1 ? value : 1}`);
    const options = ["--no-glyph-names", "--no-positions", "--no-clusters", "--output-format=json", `--features=${asked.join()}`];
    const output = execFileSync("hb-shape", [...options, ...(language === undefined ? [] : [`--language=${language}`]), path], {
      encoding: "utf8",
      input: members.map(({ way }) => way.input).join("\n"),
      env: { ...process.env, LC_ALL: "C.UTF-8" },
    });
    const shaped = output
      .trim()
      .split("\n")
      .map((line) => (JSON.parse(line) as { g: number }[]).map(({ g }) => g));
    expect(shaped).toHaveLength(members.length);
    const wrong = members.filter(({ glyph }, i) => !shaped[i]!.includes(glyph));
    expect(wrong).toEqual([]);
  }
});

test("names that fonts give by number are fontTools' lists", () => {
  const script =
    "import json; from fontTools.ttLib.standardGlyphOrder import standardGlyphOrder as m; from fontTools.cffLib import cffStandardStrings as c; print(json.dumps([m, c]))";
  expect([MAC_GLYPHS, CFF_STRINGS]).toEqual(JSON.parse(execFileSync("/usr/bin/python3", ["-c", script], { encoding: "utf8" })));
});

/** Debian's unicode-data: UnicodeData.txt, Blocks.txt. It may be of another version: characters it does not have are left out. */
test("Unicode names and blocks", () => {
  const data = readFileSync("/usr/share/unicode/UnicodeData.txt", "utf8").trim().split("\n");
  let compared = 0;
  const wrong: string[] = [];
  for (const line of data) {
    const [hex, name] = line.split(";") as [string, string];
    const code = parseInt(hex, 16);
    if (name.startsWith("<")) continue;
    compared++;
    if (unicodeName(lists, code) !== name) wrong.push(`${hex} ${name} ${unicodeName(lists, code)}`);
  }
  expect(wrong).toEqual([]);
  expect(compared).toBeGreaterThan(30_000);
  const blocks = readFileSync("/usr/share/unicode/Blocks.txt", "utf8").matchAll(/^([0-9A-F]+)\.\.([0-9A-F]+); (.+)$/gm);
  const plain = (name: string) => name.replace(/[^A-Za-z0-9]/g, "").toLowerCase();
  for (const [, first, last, name] of blocks)
    for (const edge of [first!, last!]) expect([edge, plain(blockOf(lists, parseInt(edge, 16)))]).toEqual([edge, plain(name!)]);
});

/** Rules NR1 and NR2 of the Unicode Standard, section 4.8, with its own examples: U+D4DB, and ideographs by their number. */
test("names by rule", () => {
  expect(unicodeName(lists, 0xd4db)).toBe("HANGUL SYLLABLE PWILH");
  expect(unicodeName(lists, 0x4e00)).toBe("CJK UNIFIED IDEOGRAPH-4E00");
  expect([isPrivate(0xe000), unicodeName(lists, 0xe000)]).toEqual([true, ""]);
});
