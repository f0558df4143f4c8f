// Every font of the Debian font packages, field by field against fontconfig's fc-scan, fontTools and ots-sanitize.
import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { basename, extname, join } from "node:path";
import { afterAll, describe, expect, test } from "@jest/globals";
import { readEmbedding } from "../../core/clearance/embedding.ts";
import { inspectFont, type Inspection } from "../../core/inspect.ts";
import { openContainer } from "../../core/sfnt/container.ts";
import { Face } from "../../core/sfnt/face.ts";
import { unwrapWebFont } from "../../core/sfnt/unwrap.ts";
import { loadWoff2 } from "../../core/sfnt/woff2.ts";
import { corpusFonts } from "../load/corpus.ts";
import { charsetRanges, fcScan, fontconfigWeight, widthPercent, type Scanned } from "./fc-scan.ts";

const dir = mkdtempSync(join(tmpdir(), "buvano-inspect-"));
afterAll(() => rmSync(dir, { recursive: true }));
const paths = corpusFonts();
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
  expect(pairs.length).toBeGreaterThan(400);
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
  test("family names in other languages", () => {
    const languages = judge.familylang.split(",");
    const families = judge.family.split(",");
    // fc-scan writes Chinese by place and Norwegian by form; the same languages are meant.
    const plain = (language: string) => language.toLowerCase().split("-")[0]!;
    for (const { language, family } of found.otherNames) {
      const said = families.filter((_, i) => plain(languages[i]!) === plain(language));
      expect([language, said]).toEqual([language, expect.arrayContaining([family])]);
    }
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

interface Dumped {
  path: string;
  weight: number;
  width: number;
  fsType: number;
  glyphs: number;
  unitsPerEm: number;
  tables: string[];
  axes: [string, number, number, number][];
  family: string | null;
  style: string | null;
  legacyFamily: string | null;
  legacyStyle: string | null;
  postScriptName: string | null;
  version: string | null;
  names: [platform: number, encoding: number, language: number, id: number, text: string][];
  instances: [nameId: number, ...values: number[]][];
  stat: [tag: string, value: number][];
}

/** What fontTools reads from the same files. */
function fontTools(of: readonly string[] = paths): Map<string, Dumped> {
  const script = `
import json, sys
from fontTools.ttLib import TTFont
for path in sys.stdin.read().split("\\n"):
    f = TTFont(path, lazy=True, fontNumber=0)
    name = lambda i: (lambda r: str(r).strip() if r else None)(f["name"].getName(i, 3, 1, 0x409) or f["name"].getDebugName(i))
    axes = [(a.axisTag, a.minValue, a.defaultValue, a.maxValue) for a in f["fvar"].axes] if "fvar" in f else []
    o = f["OS/2"]
    names = []
    for r in f["name"].names:
        try: names.append((r.platformID, r.platEncID, r.langID, r.nameID, r.toUnicode()))
        except UnicodeDecodeError: pass
    instances = [(i.subfamilyNameID, *i.coordinates.values()) for i in f["fvar"].instances] if "fvar" in f else []
    stat = []
    if "STAT" in f and f["STAT"].table.AxisValueArray:
        tags = [a.AxisTag for a in f["STAT"].table.DesignAxisRecord.Axis]
        for v in f["STAT"].table.AxisValueArray.AxisValue:
            if v.Format == 4: stat += [(tags[r.AxisIndex], r.Value) for r in v.AxisValueRecord]
            else: stat.append((tags[v.AxisIndex], v.NominalValue if v.Format == 2 else v.Value))
    print(json.dumps(dict(path=path, names=names, instances=instances, stat=stat, weight=o.usWeightClass, width=o.usWidthClass, fsType=o.fsType, glyphs=f["maxp"].numGlyphs, unitsPerEm=f["head"].unitsPerEm, axes=axes,
      tables=sorted(f.reader.keys()), family=name(16), style=name(17), legacyFamily=name(1), legacyStyle=name(2), postScriptName=name(6), version=name(5))))
`;
  const text = execFileSync("/usr/bin/python3", ["-c", script], {
    input: of.join("\n"),
    encoding: "utf8",
    maxBuffer: 1 << 28,
    stdio: ["pipe", "pipe", "ignore"],
  });
  return new Map(
    text
      .trim()
      .split("\n")
      .map((line) => JSON.parse(line) as Dumped)
      .map((one) => [one.path, one]),
  );
}

test("fontTools reads the same numbers and names", () => {
  const dumped = fontTools();
  expect(dumped.size).toBe(paths.length);
  for (const [path, judge] of dumped) {
    const found = inspected.get(path)![0]!;
    const { weight, width, glyphs, unitsPerEm, legacyFamily, legacyStyle, postScriptName, version } = found;
    const mine = { weight, width, glyphs, unitsPerEm, legacyFamily, legacyStyle, postScriptName, version };
    expect({ path, ...mine, embedding: found.embedding }).toEqual({
      path,
      weight: judge.weight < 10 ? judge.weight * 100 : judge.weight,
      width: judge.width,
      glyphs: judge.glyphs,
      unitsPerEm: judge.unitsPerEm,
      legacyFamily: judge.legacyFamily,
      legacyStyle: judge.legacyStyle,
      postScriptName: judge.postScriptName,
      version: judge.version,
      embedding: readEmbedding(judge.fsType).level,
    });
    expect([found.family, found.style]).toEqual([judge.family ?? judge.legacyFamily, judge.style ?? judge.legacyStyle]);
    expect(found.axes.map((axis) => [axis.tag, axis.min, axis.default, axis.max])).toEqual(judge.axes);
  }
});

test("fontTools reads the same names in every language, named styles and points on axes", async () => {
  let [compared, named, points] = [0, 0, 0];
  // A name is shown in one line, whatever line ends its maker left in it: how a text breaks is not compared.
  const tidy = (text: string | undefined) =>
    text
      ?.replace(/\0/g, "")
      .replace(/[\s\p{Cc}]+/gu, " ")
      .trim();
  // None of the Debian fonts is variable; one that is comes with a package, unwrapped from its web font.
  const variable = join(dir, "variable.ttf");
  const packed = join(process.cwd(), "node_modules", "@fontsource-variable", "petrona", "files", "petrona-latin-wght-normal.woff2");
  writeFileSync(variable, unwrapWebFont(readFileSync(packed), await loadWoff2()).bytes);
  for (const [path, judge] of fontTools([...paths, variable])) {
    const face = new Face(openContainer(readFileSync(path)), 0);
    const mine = new Map(face.names!.records.map((one) => [[one.platform, one.encoding, one.language, one.id].join(), one.text]));
    for (const [platform, encoding, language, id, text] of judge.names) {
      expect([path, id, tidy(mine.get([platform, encoding, language, id].join()))]).toEqual([path, id, tidy(text)]);
      compared++;
    }
    const instances = (face.fvar?.instances ?? []).map((one) => [one.nameId, ...one.coordinates]);
    expect([path, instances]).toEqual([path, judge.instances]);
    const stat = (face.stat?.values ?? []).map((one) => [one.tag, one.value]);
    expect([path, stat]).toEqual([path, judge.stat]);
    named += instances.length;
    points += stat.length;
  }
  expect(compared).toBeGreaterThan(5000);
  expect(named + points).toBeGreaterThan(0);
}, 120_000);

test("ots-sanitize passes what is not refused here, and nothing else", () => {
  for (const path of paths) {
    const { status } = spawnSync("ots-sanitize", [path, "/dev/null"], { stdio: "ignore" });
    expect([path, inspected.get(path)!.some((face) => face.verdict === "refused")]).toEqual([path, status !== 0]);
  }
}, 60_000);
