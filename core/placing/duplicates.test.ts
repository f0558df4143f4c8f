import { describe, expect, test } from "@jest/globals";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { drawnDifference, drawnWords } from "../family/drawn.ts";
import { openContainer } from "../sfnt/container.ts";
import { Face } from "../sfnt/face.ts";
import { findDuplicates, inTheWay } from "./duplicates.ts";
import { claimOf, type Folder, type PlacedFile } from "./files.ts";
import { compareLooks } from "./rescan.ts";

interface Traits {
  folder?: Folder;
  revision?: number;
  codepoints?: number;
  outlines?: string;
  on?: boolean;
  width?: number;
  since?: string;
}
let made = 0;
function file(
  sha256: string,
  { folder = "me", revision = 1, codepoints = 200, outlines = "TrueType", on = true, width = 500, since = "" }: Traits = {},
): PlacedFile {
  const advances = [1, 2, 3, 4, 5, 6].map((i) => width + i);
  const facts = {
    sha256,
    family: "Furrow",
    style: "Bold",
    outlines,
    container: "sfnt",
    codepoints,
    revision,
    advances,
    drawings: "",
    axes: [],
  };
  return {
    fileName: `${++made}.ttf`,
    folder,
    sha256,
    on,
    since,
    bytes: 10,
    claims: [claimOf({ ...facts, version: `Version ${revision}`, glyphs: 1 })],
  };
}
const target = { programs: [{ name: "Title Desk", reads: ["everyone"] }], prefers: "otf" as const };

describe("duplicates", () => {
  test.each<[string, PlacedFile[], string, number, RegExp]>([
    ["the same file in both folders", [file("a"), file("a", { folder: "everyone" })], "same-file", 1, /More programs/],
    ["two versions", [file("a"), file("b", { revision: 2 })], "versions", 1, /newest: Version 2/],
    ["two formats", [file("a"), file("b", { outlines: "CFF" })], "twins", 1, /\.otf/],
    ["two fonts of one name and other revisions", [file("a"), file("b", { width: 700, revision: 2 })], "names", 1, /newest/],
    ["two fonts of one name", [file("a"), file("b", { width: 700, codepoints: 900 })], "names", 1, /most characters: 900/],
    [
      "one that came with the device",
      [file("a", { folder: "built-in" }), file("b", { revision: 9 })],
      "versions",
      0,
      /cannot be taken off/,
    ],
    ["one that is off", [file("a", { on: false }), file("a")], "same-file", 1, /is on/],
    ["one that was there first", [file("a", { since: "2026-02" }), file("a", { since: "2026-01" })], "same-file", 1, /there first/],
    ["copies alike in everything", [file("a"), file("a")], "same-file", 0, /as good as any/],
  ])("%s: which to keep, and why", (_what, files, how, kept, reason) => {
    const [group, ...others] = findDuplicates(files, target);
    expect(others).toEqual([]);
    expect(group).toMatchObject({ family: "Furrow", style: "Bold", how });
    expect(group!.keep).toBe(files[kept]);
    expect(group!.reason).toMatch(reason);
  });
  test("are none where one is alone, nor among a device's own fonts, nor in a program's store", () => {
    expect(findDuplicates([file("a")], target)).toEqual([]);
    expect(findDuplicates([file("a", { folder: "built-in" }), file("b", { folder: "built-in" })], target)).toEqual([]);
    expect(findDuplicates([file("a"), file("a", { folder: "own" })], target)).toEqual([]);
  });
  test("are in the way while more than one is on", () => {
    const group = (on: boolean) => findDuplicates([file("a"), file("a", { folder: "everyone", on })], target)[0]!;
    expect([inTheWay(group(true)), inTheWay(group(false))]).toEqual([true, false]);
  });
});

describe("what differs when drawn", () => {
  const face = (name: string) =>
    new Face(openContainer(new Uint8Array(readFileSync(join(process.cwd(), "build", "demo", "built-in", name)))), 0);
  const [first, second] = ["AsterPlain-Regular.ttf", "AsterPlain-Bold.ttf"];
  test("nothing between a font and itself; letters between two weights", () => {
    expect(drawnDifference(face(first!), face(first!))).toMatchObject({ differing: [] });
    const between = drawnDifference(face(first!), face(second!))!;
    expect(between.differing.length).toBeGreaterThan(10);
    expect(drawnWords(between)).toMatch(/drawn differently/);
  });
  test("is said in words", () => {
    expect(drawnWords(undefined)).toMatch(/cannot be compared/);
    expect(drawnWords({ compared: 0, differing: [] })).toMatch(/share no letters/);
    expect(drawnWords({ compared: 62, differing: [] })).toMatch(/All 62 .* alike/);
    expect(drawnWords({ compared: 62, differing: ["a", "g"] })).toBe("2 of 62 letters are drawn differently: a g");
  });
});

test("two looks at a device: what appeared, changed, was switched, vanished", () => {
  const look = (fileName: string, sha256 = "1", on = true) => ({ folder: "me", fileName, sha256, on });
  const before = [look("stays"), look("changes"), look("off"), look("on", "1", false), look("goes")];
  const after = [look("stays"), look("changes", "2"), look("off", "1", false), look("on"), look("comes")];
  expect(compareLooks(before, after).map(({ how, file: { fileName } }) => [how, fileName])).toEqual([
    ["changed", "changes"],
    ["switched-off", "off"],
    ["switched-on", "on"],
    ["appeared", "comes"],
    ["vanished", "goes"],
  ]);
  expect(compareLooks(after, after)).toEqual([]);
});
