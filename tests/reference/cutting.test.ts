// Cuts against judges of other hands: areas, pieces and overlaps by shapely (GEOS) over the nonzero-filled original; contours by its buffer; DXF read back by
// ezdxf; SVG by rsvg-convert; PDF by poppler. Fonts of the installed Debian packages; a third of them were kept apart while the joining was built.
import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { PNG } from "pngjs";
import { openDrawFace } from "../../core/bench/draw-face.ts";
import { areaOf, boxOf, type Contour } from "../../core/cutting/outlines/curve.ts";
import { cut } from "../../core/cutting/cut.ts";
import { cutFiles } from "../../core/cutting/sheets/files.ts";
import { joined } from "../../core/cutting/outlines/join.ts";
import { contoursFromPath } from "../../core/cutting/outlines/machine.ts";
import { offset } from "../../core/cutting/making/offset.ts";
import { USUAL_CUT } from "../../core/cutting/settings.ts";
import { pathKit } from "../../core/cutting/outlines/path-kit.ts";
import { singleFonts } from "../load/corpus.ts";
import { cutCases, type CutCase } from "./cut-cases.ts";

/** Of the installed fonts one in so many; the bench takes all, and those of other packages. */
const EVERY = 9;
const MOST_ERROR = 0.001;

interface Answer {
  area: number;
  made: number;
  difference: number;
  twice: number;
  unsound: number;
  pieces: number;
  piecesMade: number;
}
function ask(questions: readonly object[]): Answer[] {
  const { stdout, stderr } = spawnSync("/usr/bin/python3", ["tests/reference/cut_judge.py"], {
    input: questions.map((one) => JSON.stringify(one)).join("\n"),
    encoding: "utf8",
    maxBuffer: 1e9,
  });
  if (stderr.trim() !== "") throw new Error(stderr.slice(-2000));
  return stdout
    .trim()
    .split("\n")
    .map((line) => JSON.parse(line) as Answer);
}

describe("joined outlines", () => {
  const judged: { one: CutCase; contours: Contour[] | undefined; answer: Answer }[] = [];
  beforeAll(async () => {
    const fonts = singleFonts().filter((_, i) => i % EVERY === 0);
    const made: { one: CutCase; contours: Contour[] | undefined }[] = [];
    for (const one of cutCases(fonts, 1)) made.push({ one, contours: (await joined(one.letters, one.emMm, pathKit)).contours });
    const answers = ask(made.map(({ one, contours }) => ({ letters: one.letters, joined: contours ?? [] })));
    made.forEach((each, i) => judged.push({ ...each, answer: answers[i]! }));
  }, 600_000);

  test("enough cases, of both kinds", () => {
    expect(judged.length).toBeGreaterThanOrEqual(140);
    expect(judged.filter(({ one }) => one.unseen).length).toBeGreaterThanOrEqual(30);
  });
  test.each(["studied", "unseen"])("none is wrong, and nothing is left overlapping (%s)", (which) => {
    const own = judged.filter(({ one, contours }) => contours && one.unseen === (which === "unseen"));
    const wrong = own.filter(
      ({ answer: { difference, area, twice, unsound } }) => difference > area * MOST_ERROR || twice > 1e-3 || unsound > 1e-3,
    );
    expect(wrong.map(({ one, answer }) => [one.font, one.words, one.how, answer])).toEqual([]);
  });
  test("as good as all are joined, and fall into as many pieces", () => {
    const done = judged.filter(({ contours }) => contours);
    const alike = done.filter(({ answer }) => answer.pieces === answer.piecesMade).length;
    process.stderr.write(
      `joined ${done.length} of ${judged.length} words of ${new Set(judged.map(({ one }) => one.font)).size} fonts, ${judged.filter(({ one }) => one.unseen).length} of them unseen; as many pieces in ${alike}\n`,
    );
    expect(done.length / judged.length).toBeGreaterThanOrEqual(0.9995);
    expect(alike / done.length).toBeGreaterThanOrEqual(0.98);
  });
  test("joined twice is joined once", async () => {
    for (const { one, contours } of judged.filter(({ contours: made }, i) => made && i % 3 === 0)) {
      const twice = (await joined([contours!], one.emMm, pathKit)).contours!;
      const whole = (all: readonly Contour[]) => all.reduce((sum, contour) => sum + areaOf(contour), 0);
      expect([one.font, one.how, twice.length, Math.abs(whole(twice) / whole(contours!) - 1) < 1e-4]).toEqual([
        one.font,
        one.how,
        contours!.length,
        true,
      ]);
    }
  });
  test("curves stay curves: hardly more pieces of outline than the fonts have", () => {
    const apart = judged.filter(({ one, contours }) => contours && one.how === "plain" && contours.length === one.letters.flat().length);
    expect(apart.length).toBeGreaterThan(20);
    for (const { one, contours } of apart) {
      const own = one.letters.flat().reduce((sum, contour) => sum + contour.length, 0);
      expect([one.font, contours!.flat().length <= 1.5 * own]).toEqual([one.font, true]);
    }
  });
  test("contours at a distance are those of shapely's buffer", () => {
    const some = judged.filter(({ contours, one }, i) => contours && one.how === "plain" && i % 9 === 0).slice(0, 12);
    const asked = some.flatMap(({ contours }) =>
      [2.5, -0.15].map((mm) => ({ letters: [contours!], joined: offset(contours!, mm), offsetMm: mm })),
    );
    const answers = ask(asked);
    answers.forEach(({ difference, unsound }, i) => {
      // Along all of the outline no further off than 0.012 mm.
      const long = asked[i]!.joined.reduce(
        (sum, contour) => sum + contour.reduce((own, s) => own + Math.hypot(s.at(-2)! - s[0]!, s.at(-1)! - s[1]!), 0),
        0,
      );
      expect(difference).toBeLessThan(0.012 * long + 0.01);
      expect(unsound).toBeLessThan(1e-3);
    });
    expect(answers.length).toBeGreaterThanOrEqual(16);
  }, 120_000);
});

describe("files of the command line", () => {
  interface DxfRead {
    errors: string[];
    units: number;
    kinds: string[];
    layers: string[];
    closed: boolean;
    entities: number;
    ends: number;
    area: number;
    box: number[];
  }
  const dir = mkdtempSync(join(tmpdir(), "buvano-cut-"));
  afterAll(() => rmSync(dir, { recursive: true }));
  const cases = [
    { font: "/usr/share/fonts/truetype/lobster/lobster.ttf", other: "/usr/share/fonts/opentype/lobster/lobster.otf", text: "Wild fennel" },
    { font: "/usr/share/fonts/opentype/fonts-hosny-amiri/Amiri-Bold.ttf", other: "", text: "السلام عليكم" },
  ];
  const HEIGHT = 40;
  const made = cases.map(({ font, other, text }, i) => {
    const path = [font, other].find((one) => {
      try {
        return readFileSync(one).length > 0;
      } catch {
        return false;
      }
    })!;
    const run = (ending: string, ...more: string[]) => {
      const to = join(dir, `${i}.${ending}`);
      const said = execFileSync(
        process.execPath,
        [
          "build/node/cli.mjs",
          "cut",
          "--font",
          path,
          "--text",
          text,
          "--height-mm",
          String(HEIGHT),
          "--join",
          "--contour-mm",
          "2",
          "--to",
          to,
          "--json",
          ...more,
        ],
        { encoding: "utf8" },
      );
      return {
        to,
        said: JSON.parse(said) as {
          widthMm: number;
          heightMm: number;
          areaMm2: number;
          pieces: number;
          closedPaths: number;
          engine: string;
        },
      };
    };
    return { text, svg: run("svg"), dxf: run("dxf"), pdf: run("pdf") };
  });
  const contoursOf = (svg: string): Contour[] => [...svg.matchAll(/ d="([^"]+)"/g)].flatMap(([, d]) => contoursFromPath(d!, 1)!);

  test.each(made)("$text: DXF as ezdxf reads it", ({ svg, dxf }) => {
    const own = contoursOf(readFileSync(svg.to, "utf8"));
    const [line] = execFileSync("/usr/bin/python3", ["tests/reference/cut_files.py", dxf.to], { encoding: "utf8" }).trim().split("\n");
    const read = JSON.parse(line!) as DxfRead;
    // $INSUNITS 4: millimetres (DXF reference, "Header section").
    expect([read.errors, read.units, read.kinds, read.closed, read.entities]).toEqual([[], 4, ["SPLINE"], true, own.length]);
    expect([read.layers.length, read.ends < 1e-6]).toEqual([2, true]);
    const box = boxOf(own);
    expect([read.box[2]! - read.box[0]!, read.box[3]! - read.box[1]!]).toEqual([
      expect.closeTo(box.right - box.left, 2),
      expect.closeTo(box.bottom - box.top, 2),
    ]);
    expect(Math.abs(read.area / dxf.said.areaMm2 - 1)).toBeLessThan(0.001);
  });
  test("DXF of straight pieces, a layer a colour, as ezdxf reads it", async () => {
    const face = openDrawFace(Uint8Array.from(readFileSync("/usr/share/fonts/opentype/cabin/Cabin-Regular.otf")), 0)!;
    const layer = { face, features: {}, colour: "#d9a514", dx: 0, dy: 0, letters: "all", made: { kind: "contour", mm: 1 } } as const;
    const line = { text: "Fennel", letterSpacing: -40, lineSpacing: 1000, direction: "auto" } as const;
    const layers = [layer, { ...layer, colour: "#1d1a16", made: { kind: "none" } as const }];
    const drawing = await cut({ ...line, layers }, USUAL_CUT, pathKit);
    const about = { title: "Fennel", description: "", source: null };
    const [file] = await cutFiles(drawing, USUAL_CUT, about, { format: "dxf", curves: "polylines", apart: false }, "fennel");
    writeFileSync(join(dir, "lines.dxf"), file!.bytes);
    const read = JSON.parse(
      execFileSync("/usr/bin/python3", ["tests/reference/cut_files.py", join(dir, "lines.dxf")], { encoding: "utf8" }),
    ) as DxfRead;
    expect([read.errors, read.kinds, read.closed, read.layers]).toEqual([
      [],
      ["LWPOLYLINE"],
      true,
      ["1 Letters #d9a514", "2 Letters #1d1a16"],
    ]);
    expect(Math.abs(read.area / drawing.sheets.reduce((sum, { totals }) => sum + totals.areaMm2, 0) - 1)).toBeLessThan(0.001);
  });
  test.each(made)("$text: SVG and PDF in true size", ({ svg, pdf }) => {
    const DPI = 254;
    const { widthMm, heightMm } = svg.said;
    const png = execFileSync("rsvg-convert", ["-d", String(DPI), "-p", String(DPI), svg.to], { maxBuffer: 1e8 });
    const { width, height, data } = PNG.sync.read(png);
    expect([Math.abs(width - widthMm * 10), Math.abs(height - heightMm * 10)].every((far) => far <= 1)).toBe(true);
    const [, wide, high] = /Page size:\s+([\d.]+) x ([\d.]+) pts/.exec(execFileSync("pdfinfo", [pdf.to], { encoding: "utf8" }))!;
    expect([(Number(wide) * 25.4) / 72, (Number(high) * 25.4) / 72]).toEqual([expect.closeTo(widthMm, 1), expect.closeTo(heightMm, 1)]);
    execFileSync("pdftocairo", ["-png", "-r", String(DPI), "-singlefile", "-transp", pdf.to, join(dir, "page")]);
    const page = PNG.sync.read(readFileSync(join(dir, "page.png")));
    // The letters' ink in square millimetres: both draw dark letters over a light contour.
    const ink = (pixels: Uint8Array): number => {
      let sum = 0;
      for (let i = 0; i < pixels.length; i += 4) if (pixels[i + 3]! > 127 && pixels[i]! < 128) sum++;
      return sum / 100;
    };
    const text = readFileSync(svg.to, "utf8");
    const letters = contoursFromPath(/fill="#1d1a16"[^>]*><title>[^<]*<\/title><path d="([^"]+)"/.exec(text)![1]!, 1)!;
    const [answer] = ask([{ letters: [letters], joined: letters }]);
    for (const drawn of [ink(data), ink(page.data)]) expect(Math.abs(drawn / answer!.area - 1)).toBeLessThan(0.01);
  });
  test("the file names its font, words and settings", () => {
    const { svg, dxf, pdf } = made[0]!;
    const text = readFileSync(svg.to, "utf8");
    expect(text).toContain("<title>Wild fennel</title>");
    expect(text).toMatch(/<desc>Lobster[^<]*40 mm high, joined<\/desc>/);
    expect(readFileSync(dxf.to, "latin1")).toMatch(/^999\nWild fennel\n999\nLobster/);
    expect(execFileSync("pdfinfo", [pdf.to], { encoding: "utf8" })).toMatch(/Title:\s+Wild fennel\nSubject:\s+Lobster/);
  });
});
