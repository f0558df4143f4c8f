// The evidence reader against programs that are really there, with and without each of forty fonts: Chromium's printed pages, and what
// pango-view (Pango) and rsvg-convert (librsvg) write. Names agree with pdffonts (poppler-utils); pictures are told by their letters.
import { execFileSync } from "node:child_process";
import { readFileSync, writeFileSync } from "node:fs";
import { basename, join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { readPicture } from "../../core/evidence/image.ts";
import { WantedFont } from "../../core/evidence/drawing/programs.ts";
import { judgePicture, type Candidate } from "../../core/evidence/picture.ts";
import { judgeEvidence, readEvidence } from "../../core/evidence/read.ts";
import { inspectFont, type Inspection } from "../../core/inspect.ts";
import { FORTY } from "./forty.ts";
import { lot } from "../amount.ts";
import { makeHome, pdffonts, Printer, type Home } from "./chromium.ts";

const WORDS = "Wild fennel 4.50";
interface Font {
  path: string;
  record: Inspection;
}
const fonts: Font[] = FORTY.map((path) => {
  const inspected = inspectFont(readFileSync(path), "font");
  if (!inspected.ok) throw new Error(inspected.problem.message);
  return { path, record: inspected.value[0]! };
});
// A face that none of the forty is.
const STAND_IN = "/usr/share/fonts/truetype/culmus/MiriamMonoCLM-Book.ttf";
const WIDTHS = ["", "ultra-condensed", "extra-condensed", "condensed", "semi-condensed", "normal"];
/** Sizes of one design share a family, weight and slant, so that pages can ask for each by its older family name only. */
const shared = ({ record }: Font): boolean =>
  fonts.some(
    ({ record: other }) =>
      other !== record &&
      other.family === record.family &&
      other.weight === record.weight &&
      other.italic === record.italic &&
      other.width === record.width,
  );
const familyOf = (font: Font): string => (shared(font) ? font.record.legacyFamily : font.record.family);
const css = (font: Font): string => cssOf(familyOf(font), font.record);
const cssOf = (family: string, { weight, italic, width }: Inspection): string =>
  `font: 64px '${family}'; font-weight: ${weight}; font-style: ${italic ? "italic" : "normal"}; font-stretch: ${WIDTHS[width] ?? "normal"}`;

/** Reads a PDF's fonts, which must be those pdffonts finds, and judges them for a style. */
async function judged(home: Home, pdf: Uint8Array, { record, path: font }: Font) {
  const path = join(home.path, "judged.pdf");
  writeFileSync(path, pdf);
  const read = await readEvidence(path, pdf);
  if (!read.ok) throw new Error(read.problem.message);
  const judge = pdffonts(path);
  const named = (list: readonly { name: string; embedded: boolean }[]) =>
    [...new Set(list.map((one) => `${one.name} ${one.embedded}`))].sort();
  // pdffonts gives Type 3 fonts no name, though their descriptors may hold one.
  const plain = read.value.fonts.filter((one) => one.type !== "Type 3");
  expect(named(plain)).toEqual(named(judge.filter((one) => one.name !== "[none]")));
  expect(read.value.fonts.length > plain.length).toBe(judge.some((one) => one.name === "[none]"));
  return (await judgeEvidence(read.value, record, new WantedFont({ bytes: new Uint8Array(readFileSync(font)), face: 0 }), WORDS)).state;
}

// With every other one, siblings of the missing ones are there to stand in for them.
describe.each<[string, (i: number) => boolean]>([
  ["all forty fonts installed", () => true],
  ["none of them installed", () => false],
  ["every other one installed", (i) => i % 2 === 0],
])("Chromium with %s", (_what, installed) => {
  let home: Home;
  let printer: Printer;
  beforeAll(async () => {
    home = makeHome(
      fonts.filter((_, i) => installed(i)).map((font) => font.path),
      STAND_IN,
    );
    printer = await Printer.start(home);
  }, 60_000);
  afterAll(async () => {
    await printer?.quit();
    home?.done();
  });
  test("prints pages that show which were drawn and which were not", async () => {
    expect(fonts.length).toBe(40);
    const found: [name: string, result: string][] = [];
    for (const font of fonts) found.push([font.record.fullName, await judged(home, await printer.print(WORDS, css(font)), font)]);
    expect(found).toEqual(fonts.map((font, i) => [font.record.fullName, installed(i) ? "seen" : "swapped"]));
  }, 180_000);
});

const candidates: Candidate[] = fonts.map(({ path, record }) => ({
  id: path,
  name: record.fullName,
  face: 0,
  bytes: new Uint8Array(readFileSync(path)),
}));
/** The font a picture shows among the forty, or among others; or why it is not told. */
function shownIn(picture: Uint8Array, among: readonly Candidate[] = candidates): string {
  const read = readPicture(picture);
  if (!read.ok) return read.problem.code;
  const answer = judgePicture(read.value.light, read.value.width, read.value.height, WORDS, among);
  return answer.ok ? (answer.value.shown?.id ?? "cannot tell") : answer.problem.code;
}
/** Of pictures that should show each font: how many are told right, and which wrongly. */
function tally(told: readonly { font: Font; shown: string }[]): { right: number; wrong: string[] } {
  const wrong = told.filter(({ font, shown }) => shown.startsWith("/") && shown !== font.path);
  return {
    right: told.filter(({ font, shown }) => shown === font.path).length,
    wrong: wrong.map(({ font, shown }) => `${font.path}: ${shown}`),
  };
}

describe.each([true, false])("pictures of Chromium's screen, the fonts being installed: %s", (installed) => {
  let home: Home;
  let printer: Printer;
  beforeAll(async () => {
    home = makeHome(installed ? fonts.map((font) => font.path) : [], STAND_IN);
    printer = await Printer.start(home);
  }, 60_000);
  afterAll(async () => {
    await printer?.quit();
    home?.done();
  });
  test(
    installed ? "are told in at least 95 of 100 cases, and never wrongly" : "show none of them",
    async () => {
      const told: { font: Font; shown: string }[] = [];
      for (const [i, font] of lot(fonts).entries()) {
        const screen = await printer.shot(WORDS, css(font));
        told.push({ font, shown: shownIn(screen) });
        // Its maker's other fonts left out as well, nothing that is left may be taken for it.
        const others = candidates.filter((one) => basename(one.id).slice(0, 4) !== basename(font.path).slice(0, 4));
        if (installed && i % 3 === 0) expect([font.path, shownIn(screen, others)]).toEqual([font.path, "cannot tell"]);
      }
      const { right, wrong } = tally(told);
      expect(wrong).toEqual([]);
      if (installed) expect(right).toBeGreaterThanOrEqual(0.95 * told.length);
      else expect(right).toBe(0);
    },
    240_000,
  );
});

// Pango asks by a description: family, then the style's words.
const described = ({ record: { family, style } }: Font): string => `${family} ${style.replace("Regular", "")} 64px`;
const pangoFonts = lot(fonts.filter((font) => !shared(font)));

describe.each([true, false])("other programs, the fonts being installed: %s", (installed) => {
  let home: Home;
  beforeAll(() => {
    home = makeHome(installed ? fonts.map((font) => font.path) : [], STAND_IN);
  });
  afterAll(() => home?.done());
  const run = (command: string, args: readonly string[]) =>
    execFileSync(command, [...args], { env: home.env, stdio: ["ignore", "pipe", "ignore"], encoding: "buffer" });
  const expected = installed ? "seen" : "swapped";

  test("pango-view's PDF shows it; its drawing without text is refused with a reason; its picture is told by its letters", async () => {
    const told: { font: Font; shown: string }[] = [];
    for (const font of pangoFonts) {
      const output = (ending: string): Uint8Array => {
        const path = join(home.path, `out.${ending}`);
        run("pango-view", ["--no-display", `--font=${described(font)}`, `--text=${WORDS}`, "--margin=20", `--output=${path}`]);
        return new Uint8Array(readFileSync(path));
      };
      expect([font.record.fullName, await judged(home, output("pdf"), font)]).toEqual([font.record.fullName, expected]);
      // It writes letters as shapes.
      const svg = await readEvidence("out.svg", output("svg"));
      expect(svg.ok ? svg.value.fonts : svg.problem.code).toMatch(/outlines|no-fonts/);
      told.push({ font, shown: shownIn(output("png")) });
    }
    expect(tally(told).wrong).toEqual([]);
    // Not installed, none may be told, its own drawing least of all.
    if (installed) expect(tally(told).right).toBeGreaterThanOrEqual(0.95 * told.length);
    else expect(tally(told).right).toBe(0);
  }, 120_000);

  test("rsvg-convert makes PDFs that show which font a drawing got, and pictures that tell it", async () => {
    const told: { font: Font; shown: string }[] = [];
    for (const font of pangoFonts) {
      const drawing = join(home.path, "in.svg");
      const text = `<text x="20" y="100" style="${css(font).replace(/^font: 64px ('[^']*')/, "font-size: 64px; font-family: $1")}">${WORDS}</text>`;
      writeFileSync(
        drawing,
        `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="160"><rect width="900" height="160" fill="white"/>${text}</svg>`,
      );
      // The drawing itself only names the font, which shows nothing of what was drawn.
      const named = await readEvidence("in.svg", new Uint8Array(readFileSync(drawing)));
      expect(named.ok && named.value.fonts.map((one) => one.embedded)).toEqual([false]);
      const output = (format: string): Uint8Array => new Uint8Array(run("rsvg-convert", ["-f", format, drawing]));
      expect([font.record.fullName, await judged(home, output("pdf"), font)]).toEqual([font.record.fullName, expected]);
      told.push({ font, shown: shownIn(output("png")) });
    }
    expect(tally(told).wrong).toEqual([]);
    // Not installed, none may be told, its own drawing least of all.
    if (installed) expect(tally(told).right).toBeGreaterThanOrEqual(0.95 * told.length);
    else expect(tally(told).right).toBe(0);
  }, 120_000);
});
