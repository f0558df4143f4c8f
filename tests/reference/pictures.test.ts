// Pictures of known words, drawn by other hands' programs (hb-view of HarfBuzz; Chromium): each is told among forty fonts, or honestly not.
// The limits were found on the first
// words; the second are new to them.
import { execFileSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, describe, expect, test } from "@jest/globals";
import jpeg from "jpeg-js";
import { PNG } from "pngjs";
import { readPicture } from "../../core/evidence/image.ts";
import { judgePicture, type Candidate } from "../../core/evidence/picture.ts";

const dir = mkdtempSync(join(tmpdir(), "buvano-pictures-"));
afterAll(() => rmSync(dir, { recursive: true }));

const named = (folder: string, ...files: string[]) => files.map((file) => join("/usr/share/fonts", folder, file));
const FORTY = [
  ...named("truetype/lato", "Lato-Light.ttf", "Lato-Regular.ttf", "Lato-Bold.ttf", "Lato-Black.ttf", "Lato-Italic.ttf"),
  ...named("opentype/cabin", "Cabin-Regular.otf", "Cabin-Bold.otf", "Cabin-Italic.otf", "Cabin-Medium.otf"),
  ...named("truetype/dejavu", "DejaVuSans.ttf", "DejaVuSerif.ttf", "DejaVuSansMono.ttf", "DejaVuSansCondensed.ttf", "DejaVuSans-Bold.ttf"),
  ...named("truetype/noto", "NotoSans-Regular.ttf", "NotoSans-Bold.ttf", "NotoSans-Italic.ttf", "NotoSansDisplay-Regular.ttf"),
  ...named("truetype/noto", "NotoSerif-Regular.ttf", "NotoSerif-Bold.ttf", "NotoSerif-Italic.ttf", "NotoSerifDisplay-Regular.ttf"),
  ...named(
    "opentype/ebgaramond",
    "EBGaramond08-Regular.otf",
    "EBGaramond08-Italic.otf",
    "EBGaramond12-Regular.otf",
    "EBGaramond12-Italic.otf",
  ),
  ...named(
    "opentype/linux-libertine",
    "LinLibertine_R.otf",
    "LinLibertine_RB.otf",
    "LinLibertine_RI.otf",
    "LinBiolinum_R.otf",
    "LinBiolinum_RB.otf",
  ),
  ...named("opentype/cantarell", "Cantarell-Regular.otf", "Cantarell-Bold.otf", "Cantarell-Light.otf"),
  ...named("opentype/lobster", "lobster.otf"),
  ...named("truetype/comfortaa", "Comfortaa-Regular.ttf", "Comfortaa-Bold.ttf"),
  ...named("opentype/fantasque-sans/Normal/OTF", "FantasqueSansMono-Regular.otf", "FantasqueSansMono-Bold.otf"),
  ...named("opentype/fonts-hosny-amiri", "Amiri-Regular.ttf"),
].filter(existsSync);
const candidates: Candidate[] = FORTY.map((path) => ({ id: path, name: path, bytes: new Uint8Array(readFileSync(path)), face: 0 }));

const draw = (font: string, words: string, size: number): Buffer =>
  execFileSync("hb-view", ["--output-format=png", `--font-size=${size}`, "--margin=24", font, words]);
function judge(picture: Uint8Array, words: string, among: readonly Candidate[] = candidates) {
  const read = readPicture(picture);
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

test("the words as Chromium draws them, with a real page around, are told too", () => {
  const font = candidates.find((one) => one.name.includes("Cabin-Bold"))!;
  const page = join(dir, "page.html");
  const lines = `<h1 style="font: 20px sans-serif">Opening</h1><p style="font: 72px Probe; margin: 40px">Wild fennel 4.50</p>`;
  writeFileSync(
    page,
    `<!doctype html><meta charset="utf-8"><style>@font-face{font-family:Probe;src:url(file://${font.id})}</style>${lines}`,
  );
  const flags = [
    "--headless",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ];
  const shot = join(dir, "page.png");
  const more = ["--allow-file-access-from-files", `--user-data-dir=${dir}/profile`, "--window-size=1000,400", "--virtual-time-budget=3000"];
  execFileSync("/usr/bin/chromium", [...flags, ...more, `--screenshot=${shot}`, `file://${page}`], { stdio: "ignore", timeout: 60_000 });
  const judged = judge(readFileSync(shot), "Wild fennel 4.50");
  expect(judged.ok && judged.value.shown?.id).toBe(font.id);
  if (judged.ok) expect(judged.value.line.y).toBeGreaterThan(60);
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
