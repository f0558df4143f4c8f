// Fonts of three Debian packages against fontconfig's fc-scan, field by field.
import { readFileSync } from "node:fs";
import { basename, extname } from "node:path";
import { describe, expect, test } from "@jest/globals";
import { inspectFont, type Inspection } from "../../core/inspect.ts";
import { charsetRanges, debianFonts, fcScan, fontconfigWeight, widthPercent, type Scanned } from "./fc-scan.ts";

const PACKAGES = ["fonts-cabin", "culmus", "fonts-lato"];
const paths = debianFonts(PACKAGES);
const scanned = fcScan(paths);
const inspected = new Map(
  paths.map((path) => {
    const result = inspectFont(readFileSync(path), basename(path, extname(path)));
    if (!result.ok) throw new Error(`${path}: ${result.problem.message}`);
    return [path, result.value];
  }),
);
const pairs = scanned.map((judge): [string, Scanned, Inspection] => [
  judge.file,
  judge,
  inspected.get(judge.file)![Number(judge.index) & 0xffff]!,
]);

test("there are fonts to look at", () => {
  expect(pairs.length).toBe(paths.length);
  expect(pairs.length).toBeGreaterThan(60);
});

describe.each(pairs)("%s", (_path, judge, found) => {
  /** fc-scan lists names in all languages; Buvano shows the English one. */
  const english = (names: string, languages: string): string[] => names.split(",").filter((_, i) => languages.split(",")[i] === "en");
  test("names", () => {
    expect(english(judge.family, judge.familylang)[0]).toBe(found.family);
    expect(english(judge.style, judge.stylelang)[0]).toBe(found.style);
    expect(english(judge.fullname, judge.fullnamelang)[0]).toBe(found.fullName);
    expect(judge.postscriptname).toBe(found.postScriptName);
  });
  test("weight, width, slant, spacing", () => {
    expect(Number(judge.weight)).toBeCloseTo(fontconfigWeight(found.weight), 0);
    expect(Number(judge.width)).toBe(widthPercent[found.width]);
    expect(judge.slant !== "" && judge.slant !== "0").toBe(found.italic);
    expect(["90", "100"].includes(judge.spacing)).toBe(found.monospaced);
  });
  test("version, format, characters", () => {
    expect(Number(judge.fontversion)).toBe(Math.round(found.revision * 65536));
    expect(judge.fontformat).toBe(found.outlines);
    expect(charsetRanges(judge.charset)).toEqual(found.ranges);
  });
});
