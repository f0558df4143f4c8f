// What `buvano draw` and proofs draw, against HarfBuzz's own hb-view (through cairo): the same ink, in Latin, Hebrew, Arabic, Devanagari, with features and
// on axes; sizes of the SVG in millimetres by rsvg-convert; fonts and words of the PDF by poppler.
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, expect, test } from "@jest/globals";
import { PNG } from "pngjs";
import { openDrawFace } from "../../core/bench/draw-face.ts";
import { pathOf, setText } from "../../core/bench/setting.ts";

const dir = mkdtempSync(join(tmpdir(), "buvano-draw-"));
afterAll(() => rmSync(dir, { recursive: true }));
const FONTS = "/usr/share/fonts";
const SIZE = 100;
const MARGIN = 60;

interface Case {
  font: string;
  text: string;
  features?: Record<string, number>;
}
const CASES: Case[] = [
  { font: `${FONTS}/opentype/cabin/Cabin-Regular.otf`, text: "AVATAR officially" },
  { font: `${FONTS}/truetype/lato/Lato-BlackItalic.ttf`, text: "Type To Wave" },
  { font: `${FONTS}/opentype/ebgaramond/EBGaramond12-Regular.otf`, text: "Small Caps 123", features: { smcp: 1, onum: 1 } },
  { font: `${FONTS}/truetype/culmus/FrankRuehlCLM-Medium.ttf`, text: "שָׁלוֹם עולם" },
  { font: `${FONTS}/opentype/fonts-hosny-amiri/Amiri-Regular.ttf`, text: "السلام عليكم" },
  { font: `${FONTS}/truetype/noto/NotoSansDevanagari-Regular.ttf`, text: "नमस्ते क्षत्रिय" },
  { font: `${FONTS}/truetype/lobster/lobster.ttf`, text: "Wild fennel" },
].filter(({ font }) => {
  try {
    readFileSync(font);
    return true;
  } catch {
    return false;
  }
});

/** Ink of a picture by column and row, the empty edges cut off. */
function ink(png: Buffer): { width: number; height: number; at: (x: number, y: number) => number; sum: number } {
  const { width, height, data } = PNG.sync.read(png);
  const dark = (x: number, y: number): number => {
    const i = (y * width + x) * 4;
    return ((255 - data[i]!) / 255) * (data[i + 3]! / 255);
  };
  let [left, top, right, bottom, sum] = [width, height, -1, -1, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const value = dark(x, y);
      sum += value;
      if (value < 0.3) continue;
      left = Math.min(left, x);
      right = Math.max(right, x);
      top = Math.min(top, y);
      bottom = Math.max(bottom, y);
    }
  return { width: right - left + 1, height: bottom - top + 1, at: (x, y) => dark(x + left, y + top), sum };
}

test("enough cases", () => {
  expect(CASES.length).toBeGreaterThanOrEqual(6);
});

test.each(CASES)("$font: $text", ({ font, text, features = {} }) => {
  const asked = Object.entries(features).map(([tag, value]) => `${tag}=${value}`);
  const judge = execFileSync(
    "hb-view",
    [
      "--output-format=png",
      `--font-size=${SIZE}`,
      `--margin=${MARGIN}`,
      ...(asked.length > 0 ? [`--features=${asked.join()}`] : []),
      font,
      text,
    ],
    { maxBuffer: 1e8 },
  );
  const face = openDrawFace(Uint8Array.from(readFileSync(font)), 0)!;
  const set = setText(text, face, { features });
  const scale = SIZE / face.upem;
  const [wide, high] = [set.width * scale + 2 * MARGIN, 3 * SIZE];
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${wide}" height="${high}"><rect width="100%" height="100%" fill="#fff"/><path transform="translate(${MARGIN} ${1.7 * SIZE}) scale(${scale})" d="${pathOf(set, face)}"/></svg>`;
  writeFileSync(join(dir, "own.svg"), svg);
  const own = ink(execFileSync("rsvg-convert", [join(dir, "own.svg")], { maxBuffer: 1e8 }));
  const theirs = ink(judge);
  expect([Math.abs(own.width - theirs.width) <= 2, Math.abs(own.height - theirs.height) <= 2]).toEqual([true, true]);
  let different = 0;
  for (let y = 0; y < Math.min(own.height, theirs.height); y++)
    for (let x = 0; x < Math.min(own.width, theirs.width); x++) different += Math.abs(own.at(x, y) - theirs.at(x, y));
  // Two rasters disagree along edges, by where a pixel begins; strokes in another place would be far more.
  expect([different / theirs.sum < 0.25, Math.abs(own.sum - theirs.sum) / theirs.sum < 0.02]).toEqual([true, true]);
});

const buvano = (...args: string[]) =>
  execFileSync(process.execPath, ["build/node/cli.mjs", ...args], { encoding: "utf8", stdio: ["ignore", "pipe", "pipe"] });

test("buvano draw: the em of the SVG is as many millimetres as asked", () => {
  const [font, text] = [`${FONTS}/opentype/cabin/Cabin-Regular.otf`, "H"];
  const face = openDrawFace(Uint8Array.from(readFileSync(font)), 0)!;
  for (const mm of [10, 40]) {
    const out = join(dir, `h${mm}.svg`);
    buvano("draw", "--font", font, "--text", text, "--size-mm", String(mm), "--to", out);
    // 254 dots an inch: ten a millimetre.
    const { height } = ink(execFileSync("rsvg-convert", ["-d", "254", "-p", "254", "-b", "white", out], { maxBuffer: 1e8 }));
    expect(Math.abs(height - face.heights.capitals! * mm * 10)).toBeLessThanOrEqual(1.5);
    expect(readFileSync(out, "utf8")).toMatch(/<title>H<\/title><desc>Cabin-Regular, \d+ mm<\/desc>/);
  }
});

test("buvano draw: a PDF holds the font and the words, a PNG the same ink", () => {
  const font = `${FONTS}/truetype/lato/Lato-Regular.ttf`;
  for (const ending of ["pdf", "png"])
    buvano("draw", "--font", font, "--text", "Wild fennel", "--size-mm", "20", "--to", join(dir, `lato.${ending}`));
  const path = join(dir, "lato.pdf");
  expect(execFileSync("pdffonts", [path], { encoding: "utf8" })).toMatch(/\+Lato-Regular\s+CID TrueType\s+Identity-H\s+yes yes yes/);
  expect(execFileSync("pdftotext", [path, "-"], { encoding: "utf8" }).trim()).toBe("Wild fennel");
  execFileSync("pdftoppm", ["-r", "300", "-png", "-singlefile", path, join(dir, "page")]);
  const [page, png] = [ink(readFileSync(join(dir, "page.png"))), ink(readFileSync(join(dir, "lato.png")))];
  expect([
    Math.abs(page.width - png.width) <= 2,
    Math.abs(page.height - png.height) <= 2,
    Math.abs(page.sum - png.sum) / png.sum < 0.03,
  ]).toEqual([true, true, true]);
});

test.each([
  [["--font", "none.ttf", "--text", "a", "--size-mm", "10", "--to", "a.svg"], /cannot be opened/],
  [["--font", `${FONTS}/truetype/lato/Lato-Regular.ttf`, "--text", " ", "--size-mm", "10", "--to", "a.svg"], /no words to draw/],
  [["--font", `${FONTS}/truetype/lato/Lato-Regular.ttf`, "--text", "a", "--size-mm", "0", "--to", "a.svg"], /out of bounds/],
  [["--font", `${FONTS}/truetype/lato/Lato-Regular.ttf`, "--text", "a", "--size-mm", "10", "--to", "a.gif"], /no kind/],
  [
    ["--font", `${FONTS}/truetype/lato/Lato-Regular.ttf`, "--text", "a", "--size-mm", "10", "--features", "smallcaps", "--to", "a.svg"],
    /cannot be read/,
  ],
  [["--font", "package.json", "--text", "a", "--size-mm", "10", "--to", "a.svg"], /package.json|cannot be read|font/],
])("buvano draw refuses in words: %j", (args, said) => {
  expect(() => buvano("draw", ...args)).toThrow(said);
});
