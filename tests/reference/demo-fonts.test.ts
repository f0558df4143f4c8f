// The demo's fonts by outside judges: OpenType Sanitizer takes them, HarfBuzz finds their kerning and ligatures, and drawn by it at 34 pixels no
// family is mistaken for another.
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, expect, test } from "@jest/globals";
import { unzipSync } from "fflate";
import { readPicture } from "../../core/evidence/image.ts";

const downloads = join(process.cwd(), "build", "demo", "downloads");
const dir = mkdtempSync(join(tmpdir(), "buvano-demo-fonts-"));
afterAll(() => rmSync(dir, { recursive: true }));

/** One font of each family whose letters are Latin, as its archive holds it. */
const LATIN: readonly (readonly [family: string, archive: string, entry: RegExp])[] = [
  ["Almanac Field", "Almanac Field (complete).zip", /AlmanacField-Regular\.ttf$/],
  ["Fernhollow Text", "fernhollow-text-family.zip", /FernhollowText-Regular\.ttf$/],
  ["Frostbloom", "winter-pack.zip", /\.(ttf|otf)$/],
  ["Garden Note", "garden-note.zip", /\.ttf$/],
  ["Seedbox Block", "Seedbox-Layered.zip", /Block\.ttf$/],
  ["Seedbox Block Shade", "Seedbox-Layered.zip", /Shade\.ttf$/],
  ["Tendril Script", "tendril_script_free.zip", /\.ttf$/],
  ["Trellis Fair", "trellis-fair.zip", /\.ttf$/],
];
const OTHERS: readonly (readonly [family: string, archive: string, entry: RegExp, words: string])[] = [
  ["Shvil Text", "shvil-hebrew.zip", /Text-Regular\.ttf$/, "שביל הזרעים"],
  ["Shvil Hand", "shvil-hebrew.zip", /Hand-Regular\.ttf$/, "שביל הזרעים"],
  ["Seedmarks One", "seedmarks.zip", /One.*\.ttf$/, "\ue100\ue101\ue102\ue103"],
  ["Seedmarks Two", "seedmarks.zip", /Two.*\.ttf$/, "\ue200\ue201\ue202\ue203"],
];

function fontOf(archive: string, entry: RegExp): string {
  const [name, bytes] = Object.entries(unzipSync(readFileSync(join(downloads, archive)))).find(([path]) => entry.test(path))!;
  const path = join(dir, `${archive}-${name.split("/").at(-1)!}`.replaceAll(" ", "_"));
  writeFileSync(path, bytes);
  return path;
}
const all = [...LATIN.map(([family, archive, entry]) => [family, archive, entry, "Wild fennel, 4.50"] as const), ...OTHERS];
const paths = new Map(all.map(([family, archive, entry]) => [family, fontOf(archive, entry)]));

/** Words as HarfBuzz draws them at 34 pixels, cut to their ink: rows of darkness from 0 to 1. */
function inkOf(font: string, words: string): number[][] {
  const { value } = readPicture(
    execFileSync("hb-view", ["--output-format=png", "--font-size=34", "--margin=4", font, words], { maxBuffer: 1 << 26 }),
  ) as Extract<ReturnType<typeof readPicture>, { ok: true }>;
  const { width, height, light } = value;
  const dark = Array.from({ length: height }, (_, y) => Array.from({ length: width }, (_, x) => 1 - light[y * width + x]!));
  const rows = dark.flatMap((row, y) => (row.some((one) => one > 0.3) ? [y] : []));
  const columns = dark[0]!.flatMap((_, x) => (dark.some((row) => row[x]! > 0.3) ? [x] : []));
  return dark.slice(rows[0], rows.at(-1)! + 1).map((row) => row.slice(columns[0], columns.at(-1)! + 1));
}
/** How much of two drawings' ink lies on the same places, from 0 to 1, their left upper corners together. */
function overlap(a: number[][], b: number[][]): number {
  let [both, either] = [0, 0];
  for (let y = 0; y < Math.max(a.length, b.length); y++)
    for (let x = 0; x < Math.max(a[0]!.length, b[0]!.length); x++) {
      const [p, q] = [a[y]?.[x] ?? 0, b[y]?.[x] ?? 0];
      both += Math.min(p, q);
      either += Math.max(p, q);
    }
  return both / either;
}

test.each([...paths])("the sanitizer takes %s", (_family, path) => {
  // It ends with another code than 0 for a font browsers would refuse.
  execFileSync("ots-sanitize", [path, join(dir, "out.ttf")]);
});

test("pairs that stand apart are kerned, and f joins what follows it", () => {
  const shape = (words: string, features: string): { g: string; ax: number }[] =>
    JSON.parse(
      execFileSync("hb-shape", [
        "--output-format=json",
        "--no-glyph-names",
        `--features=${features}`,
        paths.get("Frostbloom")!,
        words,
      ]).toString(),
    ) as { g: string; ax: number }[];
  const width = (words: string, features: string) => shape(words, features).reduce((sum, glyph) => sum + glyph.ax, 0);
  for (const pair of ["VA", "To", "Ly"]) expect([pair, width(pair, "kern") < width(pair, "-kern")]).toEqual([pair, true]);
  // Two upright stems stand as they were drawn.
  expect(width("HH nn", "kern")).toBe(width("HH nn", "-kern"));
  expect([shape("fi", "liga").length, shape("fl", "liga").length, shape("fi", "-liga").length]).toEqual([1, 1, 2]);
});

test("at 34 pixels no family is mistaken for another", () => {
  const inks = all.map(([family, , , words]) => [family, inkOf(paths.get(family)!, words)] as const);
  expect(inks.length).toBeGreaterThanOrEqual(12);
  const alike: [string, string, number][] = [];
  for (const [i, [a, inkA]] of inks.entries())
    for (const [b, inkB] of inks.slice(i + 1)) {
      const same = overlap(inkA, inkB);
      if (same > MISTAKEN) alike.push([a, b, same]);
    }
  expect(alike).toEqual([]);
  // The measure tells: a family drawn twice is the same, and a weight of it is nearer than any other family.
  const [, own] = inks[0]!;
  expect(overlap(own, inkOf(paths.get("Almanac Field")!, "Wild fennel, 4.50"))).toBe(1);
  const medium = inkOf(fontOf("Almanac Field (complete).zip", /AlmanacField-Medium\.ttf$/), "Wild fennel, 4.50");
  expect(overlap(own, medium)).toBeGreaterThan(Math.max(...inks.slice(1).map(([, ink]) => overlap(own, ink))));
});
/** A share of ink in common above which two drawings look alike: by eye, no source. */
const MISTAKEN = 0.5;
