// Pictures of known words, drawn by other hands' programs (hb-view of HarfBuzz; Chromium): each is told among forty fonts, or honestly not.
// The limits were found on screens of other words (evidence.test.ts); these words, drawn by another program, are new to them.
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import jpeg from "jpeg-js";
import { PNG } from "pngjs";
import { readPicture } from "../../core/evidence/image.ts";
import { canFit, judgePicture, lineRatios, type Candidate } from "../../core/evidence/picture.ts";
import { setWords } from "../../core/evidence/fit.ts";
import { tellingWords } from "../../core/evidence/better-words.ts";
import { loadWebp, type WebpDecoder } from "../../core/evidence/webp.ts";
import { inspectFont } from "../../core/inspect.ts";
import { makeHome, pictureOf } from "./chromium.ts";
import { lot } from "../amount.ts";
import { singleFonts } from "../load/corpus.ts";
import { FORTY } from "./forty.ts";

const dir = mkdtempSync(join(tmpdir(), "buvano-pictures-"));
afterAll(() => rmSync(dir, { recursive: true }));

const candidates: Candidate[] = FORTY.map((path) => ({ id: path, name: path, bytes: new Uint8Array(readFileSync(path)), face: 0 }));

const draw = (font: string, words: string, size: number): Buffer =>
  execFileSync("hb-view", ["--output-format=png", `--font-size=${size}`, "--margin=24", font, words]);
function judge(picture: Uint8Array, words: string, among: readonly Candidate[] = candidates, webp?: WebpDecoder) {
  const read = readPicture(picture, webp);
  if (!read.ok) throw new Error(read.problem.code);
  return judgePicture(read.value.light, read.value.width, read.value.height, words, among);
}

describe.each([
  ["Hamburgefonstiv RQ&g 0369 ?", 64],
  ["Spring opening 14 March", 80],
])("“%s” at %d px", (words, size) => {
  test("is told among forty fonts in at least 95 of 100 cases, and never wrongly", () => {
    expect(candidates.length).toBe(40);
    let [right, wrong] = [0, 0];
    for (const { id } of candidates) {
      const judged = judge(draw(id, words, size), words);
      if (!judged.ok || !judged.value.shown) continue;
      if (judged.value.shown.id === id) right++;
      else wrong++;
    }
    expect([wrong, right >= 38]).toEqual([0, true]);
  }, 120_000);
});

describe("saved by Pillow", () => {
  const font = candidates.find((one) => one.name.includes("Lato-Bold"))!;
  const words = "Wild fennel 4.50";
  beforeAll(() => {
    writeFileSync(join(dir, "saved.png"), draw(font.id, words, 80));
    execFileSync("/usr/bin/python3", [join(process.cwd(), "tests/reference/save_pictures.py"), join(dir, "saved.png"), dir]);
  });
  test("is told however the camera was held", () => {
    const told = [1, 2, 3, 4, 5, 6, 7, 8].map((held) => {
      const judged = judge(readFileSync(join(dir, `held-${held}.jpg`)), words);
      return judged.ok && judged.value.shown?.id;
    });
    expect(told).toEqual(Array.from({ length: 8 }, () => font.id));
  });
  test("as WebP, with and without loss, is told; without its decoder, or cut off, it is refused", async () => {
    const webp = await loadWebp();
    for (const name of ["lossy", "lossless"]) {
      const bytes = new Uint8Array(readFileSync(join(dir, `${name}.webp`)));
      const judged = judge(bytes, words, candidates, webp);
      expect([name, judged.ok && judged.value.shown?.id]).toEqual([name, font.id]);
      const code = (read: ReturnType<typeof readPicture>) => (read.ok ? "none" : read.problem.code);
      expect([code(readPicture(bytes)), code(readPicture(bytes.subarray(0, bytes.length / 3), webp))]).toEqual([
        "picture-kind",
        "picture-damaged",
      ]);
    }
  });
});

test("lines of two directions, set by Pango, are told in at least 8 of 10 cases, and never wrongly", () => {
  const fonts = singleFonts().filter((path) => dirname(path) === "/usr/share/fonts/truetype/culmus");
  const hebrew: Candidate[] = fonts.map((path) => ({ id: path, name: path, bytes: new Uint8Array(readFileSync(path)), face: 0 }));
  let [right, cases] = [0, 0];
  const wrong: string[] = [];
  for (const words of ["שלום Wild 27", "Wild שלום fennel", "גינה 450 קטנה"]) {
    // Where letters are missing, another font draws them.
    const able = hebrew.filter(({ bytes }) => setWords(bytes, 0, words) !== undefined).map(({ id }) => id);
    for (const font of lot(able)) {
      const inspected = inspectFont(readFileSync(font), "font");
      if (!inspected.ok) throw new Error(inspected.problem.message);
      const { family, italic, weight } = inspected.value[0]!;
      const home = makeHome([font], font);
      const style = `${italic ? "Italic " : ""}${weight >= 600 ? "Bold " : weight <= 300 ? "Light " : ""}`;
      const at = join(home.path, "line.png");
      execFileSync("pango-view", ["-q", "--dpi=96", "--margin=20", `--font=${family} ${style}56`, `--text=${words}`, "-o", at], {
        env: home.env,
      });
      const judged = judge(readFileSync(at), words, hebrew);
      home.done();
      cases++;
      if (judged.ok && judged.value.shown?.id === font) right++;
      else if (judged.ok && judged.value.shown) wrong.push(`${font} as ${judged.value.shown.id}`);
    }
  }
  process.stderr.write(`two directions: ${right} of ${cases} told\n`);
  expect([wrong, right / cases >= 0.8]).toEqual([[], true]);
}, 120_000);

test("letters of which ImageMagick draws only the edges are told in at least half of all cases, and never wrongly", () => {
  let [right, cases] = [0, 0];
  const wrong: string[] = [];
  const words = "Garden 27";
  for (const { id } of lot(candidates)) {
    const at = join(dir, "hollow.png");
    const label = ["-font", id, "-pointsize", "110", "-fill", "none", "-stroke", "black", "-strokewidth", "2", `label:${words}`];
    execFileSync("/usr/bin/convert-im6.q16", ["-background", "white", ...label, "-bordercolor", "white", "-border", "30", at], {
      stdio: "ignore",
    });
    const judged = judge(readFileSync(at), words);
    cases++;
    if (judged.ok && judged.value.shown?.id === id) right++;
    else if (judged.ok && judged.value.shown) wrong.push(`${id} as ${judged.value.shown.id}`);
    // Of fonts that are not there nothing is told.
    const absent = judge(
      readFileSync(at),
      words,
      candidates.filter((one, i) => one.id !== id && i % 3 !== 2),
    );
    if (absent.ok && absent.value.shown) wrong.push(`absent ${id} as ${absent.value.shown.id}`);
  }
  process.stderr.write(`edges alone: ${right} of ${cases} told\n`);
  expect([wrong, right / cases >= 0.5]).toEqual([[], true]);
}, 120_000);

test("among hundreds of fonts those that can fit are found by their proportions", () => {
  const font = candidates.find((one) => one.name.includes("Lato-Bold"))!;
  const words = "Wild fennel 4.50";
  const read = readPicture(draw(font.id, words, 72));
  if (!read.ok) throw new Error(read.problem.code);
  const ratios = lineRatios(read.value.light, read.value.width, read.value.height);
  expect(canFit(font, words, ratios)).toBe(true);
  expect(candidates.filter((one) => canFit(one, words, ratios)).length).toBeLessThan(candidates.length);
});

test("words in which two fonts differ most are found", () => {
  const named = (name: string) => candidates.find((one) => one.name.includes(name))!;
  const [bold, other] = [named("Lato-Bold"), named("Cabin-Bold")];
  const words = tellingWords(bold, [other]);
  expect(words.split(" ").length).toBe(2);
  // Each of the two is told by them.
  for (const font of [bold, other]) {
    const judged = judge(draw(font.id, words, 96), words, [bold, other]);
    expect(judged.ok && judged.value.shown?.id).toBe(font.id);
  }
});

test("the words as Chromium draws them, with a real page around, are told too", () => {
  const font = candidates.find((one) => one.name.includes("Cabin-Bold"))!;
  const page = join(dir, "page.html");
  const lines = `<h1 style="font: 20px sans-serif">Opening</h1><p style="font: 72px Probe; margin: 40px">Wild fennel 4.50</p>`;
  writeFileSync(
    page,
    `<!doctype html><meta charset="utf-8"><style>@font-face{font-family:Probe;src:url(file://${font.id})}</style>${lines}`,
  );
  const judged = judge(pictureOf(page, dir, 1000, 400), "Wild fennel 4.50");
  expect(judged.ok && judged.value.shown?.id).toBe(font.id);
  // The frame's first corner lies under the heading.
  if (judged.ok) expect(Number(/^M[\d.]+ ([\d.]+)/.exec(judged.value.frame)?.[1])).toBeGreaterThan(60);
}, 90_000);

describe("a picture", () => {
  const words = "Wild fennel 4.50";
  const font = candidates.find((one) => one.name.includes("Lato-Bold"))!;
  const png = PNG.sync.read(draw(font.id, words, 72));
  const changed = (work: (value: number, i: number) => number): Buffer => {
    const data = Buffer.from(png.data.map((value, i) => (i % 4 === 3 ? 255 : work(value, i))));
    return Buffer.from(jpeg.encode({ width: png.width, height: png.height, data }, 80).data);
  };
  test("as JPEG, light on dark, or faint, is told as well", () => {
    for (const picture of [changed((value) => value), changed((value) => 255 - value), changed((value) => 120 + value / 4)]) {
      const judged = judge(picture, words);
      expect(judged.ok && judged.value.shown?.id).toBe(font.id);
    }
  });
  /** A photo: the words a few degrees askew on paper that is darker at one side, blurred a little, with grain, as JPEG. */
  function photo(degrees: number, seed: number): Buffer {
    const [width, height] = [png.width + 400, png.height + 400];
    const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    const paper = (x: number, y: number): number => {
      const [dx, dy] = [x - width / 2, y - height / 2];
      const [u, v] = [Math.floor(dx * c + dy * s + png.width / 2), Math.floor(dy * c - dx * s + png.height / 2)];
      const inside = u >= 0 && v >= 0 && u < png.width && v < png.height;
      return inside ? png.data[(v * png.width + u) * 4]! : 255;
    };
    let grain = seed;
    const data = Buffer.alloc(width * height * 4, 255);
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        let sum = 0;
        for (const [ox, oy] of [
          [0, 0],
          [1, 0],
          [0, 1],
          [1, 1],
        ] as const)
          sum += paper(x + ox, y + oy) / 4;
        grain = (grain * 1103515245 + 12345) % 2147483648;
        const light = 0.55 + (0.4 * x) / width - (0.15 * y) / height;
        data.fill(Math.max(0, Math.min(255, sum * light + 10 + (grain / 2147483648) * 12)), (y * width + x) * 4, (y * width + x) * 4 + 3);
      }
    }
    return Buffer.from(jpeg.encode({ width, height, data }, 80).data);
  }
  test.each([-7, -3, 1.5, 6])("photographed %d degrees askew in uneven light is told as well, and its frame is as askew", (degrees) => {
    const judged = judge(photo(degrees, 7), words);
    expect(judged.ok ? judged.value.shown?.id : judged.problem.code).toBe(font.id);
    if (!judged.ok) return;
    const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = judged.value.frame.match(/[\d.-]+/g)!.map(Number);
    expect(Math.abs((Math.atan2(y1 - y0, x1 - x0) * 180) / Math.PI - degrees)).toBeLessThan(0.6);
  });
  test("photographed askew, of a font nobody knows, is not told", () => {
    const unlike = candidates.filter((one) => !/Lato/.test(one.name));
    const judged = judge(photo(4, 11), words, unlike);
    expect(judged.ok ? judged.value.shown?.id : judged.problem.code).toBeUndefined();
  });
  test("of other words, turned on its side, or of a font nobody knows, is not told", () => {
    const told = (judged: ReturnType<typeof judge>) => (judged.ok ? judged.value.shown?.id : undefined);
    expect(told(judge(draw(font.id, "Quite other words", 72), words))).toBeUndefined();
    const turned = new PNG({ width: png.height, height: png.width });
    for (let y = 0; y < png.height; y++)
      for (let x = 0; x < png.width; x++)
        for (let k = 0; k < 4; k++) turned.data[(x * png.height + y) * 4 + k] = png.data[(y * png.width + x) * 4 + k]!;
    expect(told(judge(PNG.sync.write(turned), words))).toBeUndefined();
    const unlike = candidates.filter((one) => !/Lato/.test(one.name));
    expect(told(judge(draw(font.id, words, 72), words, unlike))).toBeUndefined();
  });
  test.each<[string, () => Uint8Array, string, string]>([
    ["too small", () => draw(font.id, words, 18), words, "picture-tiny"],
    ["empty", () => PNG.sync.write(new PNG({ width: 50, height: 50, fill: true })), words, "picture-empty"],
    ["without known words", () => draw(font.id, words, 72), "ab", "picture-words"],
    ["of letters no font has", () => draw(font.id, words, 72), "中文字體", "picture-words"],
  ])("%s is answered with a sentence", (_what, picture, said, code) => {
    const judged = judge(picture(), said);
    expect(judged.ok ? "none" : judged.problem.code).toBe(code);
  });
  test("that is none, or is damaged, is refused before it is judged", () => {
    const code = (bytes: Uint8Array) => {
      const read = readPicture(bytes);
      return read.ok ? "none" : read.problem.code;
    };
    expect(code(new Uint8Array([1, 2, 3]))).toBe("picture-kind");
    expect(code(new Uint8Array(draw(font.id, words, 72)).subarray(0, 300))).toBe("picture-damaged");
    const huge = new Uint8Array(draw(font.id, words, 72));
    new DataView(huge.buffer).setUint32(16, 60_000);
    new DataView(huge.buffer).setUint32(20, 60_000);
    expect(code(huge)).toBe("picture-large");
  });
});
