// Joining, its check, contours, thin parts, pieces, stencils and layout, on drawings whose truth is known by geometry.
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, test } from "@jest/globals";
import { openDrawFace } from "../bench/draw-face.ts";
import type { Made } from "../bench/line.ts";
import { ProblemError } from "../problem.ts";
import { arrange } from "./sheets/arrange.ts";
import { bridgeAt, proposeBridges, stripOf } from "./making/bridges.ts";
import { cut } from "./cut.ts";
import { type LineToCut } from "./drawing.ts";
import { type CutLayer } from "./drawing.ts";
import { layOut } from "./sheets/lay-out.ts";
import { summaryOf, thinnestOf } from "./findings/summary.ts";
import {
  areaOf,
  boxOf,
  contourLength,
  contoursOf,
  cubicOf,
  movedBy,
  partOf,
  pointAt,
  polygonOf,
  transformed,
  turnedContour,
  type Contour,
} from "./outlines/curve.ts";
import { cutFiles } from "./sheets/files.ts";
import { joined, polygonsOf, takenAway } from "./outlines/join.ts";
import { crossingsOf, judge } from "./outlines/judge.ts";
import { contoursFromPath, machineLines } from "./outlines/machine.ts";
import { offset, swept } from "./making/offset.ts";
import { pathKit } from "./outlines/path-kit.ts";
import { piecesOf, sharpPoints, totalsOf } from "./findings/pieces.ts";
import { preview } from "./preview.ts";
import { unitedBySecond } from "./outlines/second-engine.ts";
import { USUAL_CUT, type CutSettings } from "./settings.ts";
import { pathData, readOwnSvg, sheetSvg } from "./sheets/sheet-svg.ts";
import { thinPlaces } from "./findings/thin.ts";
import { HOLD_MM, untilTheyTouch } from "./making/touching.ts";

/** Handles of a quarter circle as a cubic curve; its radius is off by at most 0.03 % (exact at both ends and in the middle). */
const K = (4 / 3) * (Math.SQRT2 - 1);
/** A circle, clockwise as seen on a screen. */
const circle = (x: number, y: number, r: number): Contour => [
  [x + r, y, x + r, y + K * r, x + K * r, y + r, x, y + r],
  [x, y + r, x - K * r, y + r, x - r, y + K * r, x - r, y],
  [x - r, y, x - r, y - K * r, x - K * r, y - r, x, y - r],
  [x, y - r, x + K * r, y - r, x + r, y - K * r, x + r, y],
];
const box = (x0: number, y0: number, x1: number, y1: number): Contour =>
  polygonOf([
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ]);
const whole = (contours: readonly Contour[]): number => contours.reduce((sum, contour) => sum + areaOf(contour), 0);
const together = async (...letters: Contour[][]): Promise<Contour[]> => {
  const one = await joined(letters, 30, pathKit);
  if (!one.contours) throw new Error("Not joined.");
  return one.contours;
};

describe("curves", () => {
  test("area, length and box of a circle; a half turned round; a part of a curve lies on it", () => {
    const one = circle(3, 4, 10);
    expect(areaOf(one) / (Math.PI * 100)).toBeCloseTo(1, 3);
    expect(areaOf(turnedContour(one))).toBeCloseTo(-areaOf(one), 9);
    expect(contourLength(one) / (20 * Math.PI)).toBeCloseTo(1, 3);
    expect(boxOf([one])).toEqual({ left: -7, top: -6, right: 13, bottom: 14 });
    const [x, y] = pointAt(partOf(one[0]!, 0.25, 0.75), 0.5);
    expect([x, y]).toEqual(pointAt(one[0]!, 0.5).map((value) => expect.closeTo(value, 9)));
    expect(partOf(one[0]!, 0.75, 0.25).slice(0, 2)).toEqual(pointAt(one[0]!, 0.75).map((value) => expect.closeTo(value, 9)));
  });
  test("a quadratic curve raised to a cubic one has the same area; mirrored contours keep the way they run", () => {
    const leaf: Contour = [
      [0, 0, 5, -8, 10, 0],
      [10, 0, 5, 8, 0, 0],
    ];
    expect(areaOf(leaf.map(cubicOf))).toBeCloseTo(areaOf(leaf), 9);
    expect(areaOf(leaf)).toBeCloseTo((2 * 2 * 10 * 4) / 3, 9);
    expect(areaOf(transformed(leaf, [-1, 0, 0, 1, 0, 0]))).toBeCloseTo(areaOf(leaf), 9);
  });
  test("open outlines are closed, empty ones left out", () => {
    const open = [
      { type: "M", values: [0, 0] },
      { type: "L", values: [10, 0] },
      { type: "L", values: [10, 10] },
      { type: "M", values: [50, 50] },
      { type: "Z", values: [] },
    ];
    const [one, ...rest] = contoursOf(open, 0.1, 0, 0);
    expect([one!.length, rest.length, Math.abs(areaOf(one!))]).toEqual([3, 0, 0.5]);
  });
});

describe("joining", () => {
  test("two circles become one outline of four exact arcs and what is left of them; area as by the lens between them", async () => {
    const contours = await together([circle(0, 0, 10)], [circle(12, 0, 10)]);
    const lens = 2 * 100 * Math.acos(0.6) - 6 * 2 * 8;
    expect(contours).toHaveLength(1);
    expect(Math.abs(whole(contours) - (200 * Math.PI - lens)) / whole(contours)).toBeLessThan(5e-4);
    // Three whole quarters of one, three of the other, the last of each cut in two.
    expect(contours[0]!.map(({ length }) => length)).toEqual(Array.from({ length: contours[0]!.length }, () => 8));
    expect(contours[0]!.length).toBeLessThanOrEqual(8);
    // They meet where the circles cross: at (6, ±8).
    const joints = contours[0]!.filter(([x, y]) => Math.abs(x! - 6) < 1e-3 && Math.abs(Math.abs(y!) - 8) < 1e-3);
    expect(joints).toHaveLength(2);
  });
  test("what does not overlap stays as it was, point for point", async () => {
    const letters = [[circle(0, 0, 5), turnedContour(circle(0, 0, 3))], [box(10, 0, 15, 5)]];
    const contours = await together(...letters);
    const sorted = (all: readonly Contour[]) => all.flat().map(String).sort();
    expect(sorted(contours)).toEqual(sorted(letters.flat()));
  });
  test("joined twice is joined once", async () => {
    const once = await together([circle(0, 0, 10)], [circle(12, 0, 10)], [box(-3, -3, 20, 3)]);
    const twice = await together(once);
    expect([twice.length, twice.flat().length]).toEqual([once.length, once.flat().length]);
    expect(whole(twice)).toBeCloseTo(whole(once), 6);
  });
  test("letters that run the other way round, and letters of which one part does, are filled all the same", async () => {
    const backwards = await together([turnedContour(circle(0, 0, 10))], [circle(12, 0, 10)]);
    expect(whole(backwards)).toBeCloseTo(whole(await together([circle(0, 0, 10)], [circle(12, 0, 10)])), 3);
    // A dot that runs backwards lies over the next letter: taken letter by letter.
    const dotted = [box(0, 0, 10, 40), turnedContour(box(0, 50, 10, 60))];
    const one = await joined([dotted, [box(5, 45, 30, 55)]], 30, pathKit);
    expect([one.contours && whole(one.contours), "engine" in one && one.engine]).toEqual([
      expect.closeTo(400 + 100 + 250 - 25, 6),
      "letter by letter",
    ]);
  });
  test("the check tells a hole that should be filled, a part that is missing, and what covers itself", () => {
    const [square, hole] = [box(0, 0, 40, 40), turnedContour(box(10, 10, 12, 30))];
    const polygons = (...contours: Contour[]) => polygonsOf(contours, 0.01);
    const letter = [polygons(square)];
    expect(judge(letter, polygons(square)).errorShare).toBe(0);
    expect(judge(letter, polygons(square, hole)).errorShare).toBeGreaterThan(0.02);
    expect(judge(letter, polygons(box(0, 0, 40, 39.8))).errorShare).toBeGreaterThan(0.002);
    expect(judge(letter, polygons(square, box(5, 5, 9, 9))).coveredTwiceMm).toBeGreaterThan(0);
    expect(judge(letter, polygons(turnedContour(square))).coveredTwiceMm).toBeGreaterThan(0);
    expect(crossingsOf(polygons(box(0, 0, 10, 10), box(5, 5, 15, 15)), 0.01)).toHaveLength(2);
    expect(crossingsOf(polygons(box(0, 0, 10, 10), box(10, 0, 20, 10)), 0.01)).toEqual([]);
  });
  test("the second engine agrees; where it is not right either, nothing is called joined", async () => {
    const kit = await pathKit();
    const letters = [[circle(0, 0, 10), turnedContour(circle(0, 0, 4))], [circle(12, 0, 10)]];
    expect(whole(unitedBySecond(kit, letters, 30)!)).toBeCloseTo(whole(await together(...letters)), 2);
    // Smaller than what counts as dust: the first engine leaves nothing of it, which its check tells; the second one keeps it.
    const speck = [[box(0, 0, 0.005, 0.005)]];
    const told = await joined(speck, 30, async () => undefined);
    expect([told.contours, told.judgement.errorShare]).toEqual([undefined, 1]);
    const kept = await joined(speck, 30, pathKit);
    expect([kept.contours?.length, "engine" in kept && kept.engine]).toEqual([1, "second"]);
  });
  test("taking away", () => {
    const left = takenAway([circle(0, 0, 10)], [box(-20, -1, 20, 1)])!;
    expect(left).toHaveLength(2);
    // The strip's share of the disc.
    const strip = 2 * (Math.sqrt(99) + 100 * Math.asin(0.1));
    expect(whole(left)).toBeCloseTo(100 * Math.PI - strip, 0);
  });
});

describe("contours at a distance", () => {
  test("outwards round at corners, inwards sharp; as curves; area as by Steiner's formula", () => {
    const out = offset([box(0, 0, 20, 10)], 3);
    // A convex shape grown by d: area + perimeter · d + π d² (Steiner).
    expect(Math.abs(whole(out) - (200 + 60 * 3 + Math.PI * 9))).toBeLessThan(60 * 0.005);
    expect(out[0]!.some(({ length }) => length === 8)).toBe(true);
    expect(boxOf(out)).toEqual({ left: -3, top: -3, right: 23, bottom: 13 });
    expect(whole(offset([box(0, 0, 20, 10)], -3))).toBeCloseTo(14 * 4, 2);
    expect(offset([box(0, 0, 20, 10)], -6)).toEqual([]);
  });
  test("every point of a circle's contour lies at the distance", () => {
    for (const mm of [0.5, 4, -3]) {
      const [one] = offset([circle(0, 0, 10)], mm);
      for (const segment of one!)
        for (const t of [0, 0.3, 0.6]) expect(Math.abs(Math.hypot(...pointAt(segment, t)) - 10 - mm)).toBeLessThan(0.012);
    }
  });
  test("a shadow covers everything between a shape and where it is moved to", () => {
    expect(whole(swept([box(0, 0, 10, 10)], 4, 3))).toBeCloseTo(100 + 10 * 4 + 10 * 3, 3);
    const ring = swept([circle(0, 0, 10), turnedContour(circle(0, 0, 8))], 1, 0);
    expect(piecesOf(ring).map(({ counters }) => counters.length)).toEqual([1]);
  });
});

describe("thin parts and gaps", () => {
  const thin = (contours: Contour[], kind: "part" | "gap", limit: number) => thinPlaces(polygonsOf(contours, 0.0025), kind, limit);
  test.each([0.2, 0.35, 0.45])("a bar of %d mm is found with its width, and none wider than the limit", (width) => {
    const bar = [box(0, 0, 30, width)];
    expect(thin(bar, "part", 0.5)).toEqual([expect.objectContaining({ widthMm: expect.closeTo(width, 2) })]);
    expect(thin(bar, "part", width / 1.1)).toEqual([]);
    expect(thin(bar, "gap", 0.5)).toEqual([]);
  });
  test.each([0.2, 0.35, 0.45])("a ring of %d mm, a gap of it between two boxes, and a slanted bar", (width) => {
    const ring = [circle(0, 0, 6), turnedContour(circle(0, 0, 6 - width))];
    expect(thin(ring, "part", 0.5)[0]!.widthMm).toBeCloseTo(width, 1);
    expect(thin(ring, "part", width / 1.1)).toEqual([]);
    const two = [box(0, 0, 10, 10), box(10 + width, 0, 20, 10)];
    expect(thin(two, "gap", 0.5)).toEqual([expect.objectContaining({ widthMm: expect.closeTo(width, 2), y: expect.any(Number) })]);
    expect(thin(two, "part", 0.5)).toEqual([]);
    const slanted = [transformed(box(0, 0, 30, width), [Math.cos(0.7), Math.sin(0.7), -Math.sin(0.7), Math.cos(0.7), 0, 0])];
    expect(thin(slanted, "part", 0.5)[0]!.widthMm).toBeCloseTo(width, 2);
  });
  test("a neck between two discs is one place; corners and a blunt wedge are none; a sharp wedge is thin at its tip alone", async () => {
    const discs = await together([circle(0, 0, 5)], [circle(10, 0, 5)], [box(0, -0.2, 10, 0.2)]);
    const found = thin(discs, "part", 0.5);
    expect(found).toHaveLength(1);
    expect([found[0]!.x, found[0]!.widthMm]).toEqual([expect.closeTo(5, 0), expect.closeTo(0.4, 1)]);
    expect(thin([box(0, 0, 10, 10)], "part", 0.5)).toEqual([]);
    const notched = await together([box(0, 0, 10, 10)], [box(20, 0, 30, 10)], [box(9, 4, 21, 6)]);
    const cut = takenAway(notched, [
      polygonOf([
        [15, 5.6],
        [16, 8],
        [14, 8],
      ]),
    ])!;
    expect(thin(cut, "part", 0.5)).toEqual([]);
    expect(
      thin(
        takenAway(notched, [
          polygonOf([
            [15, 4.3],
            [16, 8],
            [14, 8],
          ]),
        ])!,
        "part",
        0.5,
      ),
    ).toEqual([expect.objectContaining({ x: expect.closeTo(15, 1), widthMm: expect.closeTo(0.3, 2) })]);
    const wedge = (half: number) => [
      polygonOf([
        [0, 0],
        [40, 40 * Math.tan(half)],
        [40, -40 * Math.tan(half)],
      ]).map((segment) => [...segment]),
    ];
    const right = (contours: number[][][]) => contours.map((contour) => (areaOf(contour) > 0 ? contour : turnedContour(contour)));
    expect(thin(right(wedge(Math.PI / 6)), "part", 0.5)).toEqual([]);
    const [tip, ...rest] = thin(right(wedge((5 * Math.PI) / 180)), "part", 0.5);
    expect([rest.length, tip!.x < 0.5 / (2 * Math.tan((5 * Math.PI) / 180))]).toEqual([0, true]);
    expect(sharpPoints(right(wedge((5 * Math.PI) / 180)))).toEqual([expect.objectContaining({ x: 0, degrees: expect.closeTo(10, 6) })]);
  });
});

describe("pieces", () => {
  test("counters go with the piece around them, also a piece within a counter", () => {
    const pieces = piecesOf([
      circle(0, 0, 10),
      turnedContour(circle(0, 0, 8)),
      circle(0, 0, 6),
      turnedContour(circle(0, 0, 4)),
      box(30, 0, 40, 10),
    ]);
    expect(pieces.map(({ counters }) => counters.length)).toEqual([1, 1, 0]);
    expect(pieces.map(({ areaMm2 }) => areaMm2)).toEqual([expect.closeTo(36 * Math.PI, 0), expect.closeTo(20 * Math.PI, 0), 100]);
    const totals = totalsOf(
      pieces.flatMap(({ outer, counters }) => [outer, ...counters]),
      pieces,
    );
    expect([totals.closedPaths, totals.pieces, totals.counters]).toEqual([5, 3, 2]);
    expect(totals.cutLengthMm).toBeCloseTo(2 * Math.PI * 28 + 40, 0);
  });
  test("two bridges hold what is inside a ring; with them cut nothing is inside any more", () => {
    const ring = [circle(0, 0, 10), turnedContour(circle(0, 0, 6))];
    const bridges = proposeBridges(piecesOf(ring));
    expect(bridges.map(({ lengthMm, degrees }) => [lengthMm, degrees])).toEqual([
      [expect.closeTo(4, 1), 90],
      [expect.closeTo(4, 1), 90],
    ]);
    const left = takenAway(
      ring,
      bridges.map((bridge) => stripOf(bridge, 2)),
    )!;
    expect(piecesOf(left).map(({ counters }) => counters.length)).toEqual([0, 0]);
    expect(bridgeAt(ring, 8, 0)).toEqual({ x: expect.closeTo(8, 1), y: expect.closeTo(0, 6), degrees: 0, lengthMm: expect.closeTo(4, 1) });
    expect(bridgeAt(ring, 0, 0)).toBeUndefined();
  });
  test("letters move until they touch; a space begins anew", () => {
    const moves = untilTheyTouch([[box(0, 0, 10, 10)], [circle(20, 5, 5)], [], [box(40, 0, 50, 10)]]);
    expect(moves).toEqual([0, expect.closeTo(-5 - HOLD_MM, 2), expect.closeTo(-5 - HOLD_MM, 2), expect.closeTo(-5 - HOLD_MM, 2)]);
  });
});

describe("copies on a sheet", () => {
  const sheet = { widthMm: 100, heightMm: 60 };
  test("lie apart and within it, turned where that is the only way, on more sheets where one is full", () => {
    const { placed, sheets } = arrange(30, 20, { sheet, copies: 20, gapMm: 5, turn: true });
    expect(placed).toHaveLength(20);
    expect(sheets).toBeGreaterThan(1);
    const boxes = placed.map(({ on, x, y, turned }) => ({ on, x, y, w: turned ? 20 : 30, h: turned ? 30 : 20 }));
    for (const [i, a] of boxes.entries()) {
      expect([a.x >= 0, a.y >= 0, a.x + a.w <= 100.02, a.y + a.h <= 60.02]).toEqual([true, true, true, true]);
      for (const b of boxes.slice(i + 1))
        expect(
          a.on !== b.on || a.x + a.w + 4.98 <= b.x || b.x + b.w + 4.98 <= a.x || a.y + a.h + 4.98 <= b.y || b.y + b.h + 4.98 <= a.y,
        ).toBe(true);
    }
    expect(arrange(50, 90, { sheet, copies: 1, gapMm: 5, turn: true }).placed).toEqual([{ on: 0, x: 0, y: 0, turned: true }]);
  });
  test("a drawing larger than the sheet is told with both sizes", () => {
    const words = (turn: boolean, w: number) => {
      try {
        arrange(w, 90, { sheet, copies: 1, gapMm: 5, turn });
        return "fits";
      } catch (error) {
        return error instanceof ProblemError ? `${error.problem.message} ${error.problem.next}` : "other";
      }
    };
    expect(words(false, 50)).toBe("The drawing is 50 by 90 mm; the sheet is 100 by 60 mm. Let it be turned, or type a larger sheet.");
    expect(words(true, 150)).toBe(
      "The drawing is 150 by 90 mm; the sheet is 100 by 60 mm. Make the words smaller, or type a larger sheet.",
    );
  });
});

describe("a live line", () => {
  const FONTS = join(process.cwd(), "build", "demo", "built-in");
  const face = openDrawFace(Uint8Array.from(readFileSync(join(FONTS, "AsterPlain-Regular.ttf"))), 0)!;
  const layer = (more: Partial<CutLayer> = {}): CutLayer => ({
    face,
    features: {},
    colour: "#1d1a16",
    dx: 0,
    dy: 0,
    letters: "all",
    made: { kind: "none" } as Made,
    ...more,
  });
  const line = (text: string, layers = [layer()], letterSpacing = 0): LineToCut => ({
    text,
    letterSpacing,
    lineSpacing: 1000,
    direction: "auto",
    layers,
  });
  const make = (text: string, more: Partial<CutSettings> = {}, layers?: CutLayer[], spacing?: number) =>
    cut(line(text, layers, spacing), { ...USUAL_CUT, ...more }, pathKit);
  const problemOf = (text: string, more: Partial<CutSettings> = {}, layers?: CutLayer[]) =>
    make(text, more, layers).then(
      () => "none",
      (error: unknown) => (error instanceof ProblemError ? error.problem.code : String(error)),
    );

  test("is as high or wide as asked for", async () => {
    const { box: own } = await make("HE", { size: { of: "capitals", value: 2, unit: "in" } });
    // From the baseline up: this face's round pen reaches a little below it.
    expect(-own.top).toBeCloseTo(50.8, 1);
    const wide = await make("fennel", { size: { of: "width", value: 120, unit: "mm" } });
    expect(wide.box.right - wide.box.left).toBeCloseTo(120, 6);
    const high = await make("fly", { size: { of: "whole", value: 45, unit: "mm" } });
    expect(high.box.bottom - high.box.top).toBeCloseTo(45, 6);
    // What is made of the letters counts.
    for (const made of [
      { kind: "contour", mm: 2 },
      { kind: "shadow", mm: 5, degrees: 315 },
    ] as const) {
      const { box: all } = await make("fly", { size: { of: "width", value: 80, unit: "mm" } }, [
        layer({ colour: "#d9a514", made }),
        layer(),
      ]);
      expect(all.right - all.left).toBeCloseTo(80, 1);
    }
  });
  test("overlaps are counted with the letters they are of, and gone once joined", async () => {
    const raw = await make("fennel", { join: "nothing" }, undefined, -150);
    const over = raw.findings.filter(({ kind }) => kind === "overlap");
    expect(over.length).toBeGreaterThanOrEqual(4);
    expect(over.map(({ words }) => words)).toContain("“f” and “e” overlap.");
    expect(over[0]!.next).toContain("join them");
    const one = summaryOf(await make("fennel", { join: "line" }, undefined, -150));
    expect([one.overlapsBefore, one.overlapsAfter, one.joined]).toEqual([over.length, 0, true]);
    expect(one.areaErrorPct).toBeLessThan(0.05);
    // Word by word, the words stay apart.
    expect(summaryOf(await make("fe fe", { join: "word" }, undefined, -150)).pieces).toBe(2);
    expect(summaryOf(await make("fe fe", { join: "letter" }, undefined, -150)).pieces).toBe(4);
  });
  test("an i's dot is loose, the inside of an o falls out of a stencil until bridges hold it", async () => {
    const { findings } = await make("i");
    expect(findings.filter(({ kind }) => kind === "loose" || kind === "tiny")).toHaveLength(1);
    const stencil = await make("o", { stencil: true });
    expect(stencil.findings.filter(({ kind }) => kind === "falls-out").map(({ words }) => words)).toEqual([
      "The inside of “o” falls out when the background is cut.",
    ]);
    const at = (mm: number) => (mm * 1000) / stencil.emMm;
    const bridges = stencil.proposed.map(({ x, y, degrees, lengthMm }) => ({ x: at(x), y: at(y), degrees, length: at(lengthMm) }));
    // At twice the size they are where they were.
    const held = await make("o", { stencil: true, bridges, size: { of: "capitals", value: 60, unit: "mm" } });
    expect(held.findings.filter(({ kind }) => kind === "falls-out")).toEqual([]);
    expect(held.sheets[0]!.totals.counters).toBe(0);
  });
  test("a piece that is left out is gone, whatever the size", async () => {
    const whole = await make("i");
    const dot = whole.findings.find(({ kind }) => kind === "loose" || kind === "tiny")!;
    const leftOut = [{ x: (dot.x * 1000) / whole.emMm, y: (dot.y * 1000) / whole.emMm }];
    const less = await make("i", { leftOut, size: { of: "small", value: 11, unit: "mm" } });
    expect([whole.sheets[0]!.totals.pieces, less.sheets[0]!.totals.pieces]).toEqual([2, 1]);
  });
  test("touching letters are one piece, hollow ones are bands, mirrored ones lie the other way round", async () => {
    expect((await make("HEL", { touch: true })).sheets[0]!.totals.pieces).toBe(1);
    const [full, hollow] = [await make("H"), await make("H", { hollowMm: 0.5 })];
    expect(hollow.sheets[0]!.totals.counters).toBe(1);
    // A narrow band is about as long as the outline and as wide as it was asked to be.
    expect(hollow.sheets[0]!.totals.areaMm2 / full.sheets[0]!.totals.cutLengthMm).toBeCloseTo(0.5, 1);
    const [plain, over] = [await make("FL"), await make("FL", { mirror: true })];
    expect(over.sheets[0]!.totals.areaMm2).toBeCloseTo(plain.sheets[0]!.totals.areaMm2, 6);
    const middle = (d: typeof plain) => d.sheets[0]!.pieces.map(({ box: b }) => (b.left + b.right) / 2).sort((a, b) => a - b);
    const sum = plain.box.left + plain.box.right;
    expect(middle(over)).toEqual(
      middle(plain)
        .map((x) => expect.closeTo(sum - x, 6))
        .reverse(),
    );
  });
  test("face and shade become two sheets in register, marked alike; the one below can grow", async () => {
    const layers = [layer({ colour: "#d9a514", made: { kind: "shadow", mm: 2, degrees: 315 } }), layer()];
    const drawing = await make("HEL", { marks: true }, layers);
    expect(drawing.sheets.map(({ colour }) => colour)).toEqual(["#d9a514", "#1d1a16"]);
    const { sheets } = layOut(drawing, USUAL_CUT);
    const marks = sheets.map(({ on }) => on[0]!.slice(-3).map((contour) => boxOf([contour])));
    expect(marks[0]).toEqual(marks[1]);
    // The shade begins where the face does: both left upper corners.
    const [shade, top] = sheets.map(({ on }) => boxOf(on[0]!.slice(0, -3))) as [ReturnType<typeof boxOf>, ReturnType<typeof boxOf>];
    expect(Math.abs(shade.left - top.left)).toBeLessThan(0.01);
    expect(Math.abs(shade.top - top.top)).toBeLessThan(0.01);
    const grown = await make("HEL", { underMm: 0.4 }, layers);
    expect(boxOf(grown.sheets[0]!.contours).left).toBeCloseTo(boxOf(drawing.sheets[0]!.contours).left - 0.4, 2);
    expect(boxOf(grown.sheets[1]!.contours)).toEqual(boxOf(drawing.sheets[1]!.contours));
  });
  test("the thinnest part is measured, also where it is thicker than the limit", async () => {
    // This face is drawn with a round pen of one width: half the weight is half the part.
    const thinnest = thinnestOf(await make("HL"))!;
    const twice = thinnestOf(await make("HL", { size: { of: "capitals", value: 60, unit: "mm" } }))!;
    expect([thinnest > 1, twice / thinnest]).toEqual([true, expect.closeTo(2, 1)]);
    expect(thinnestOf(await make("fennel", { join: "nothing" }, undefined, -150))).toBeNull();
  });
  test("a font's own colours are sheets of their own; of a picture there is nothing to cut, and that is said", async () => {
    const [stem, bowl] = ["I", "o"].map((letter) => face.font.nominalGlyph(letter.codePointAt(0)!)!) as [number, number];
    const colours = (glyph: number) =>
      glyph === stem
        ? [
            { glyph: stem, colour: "#1b6a5dff" },
            { glyph: bowl, colour: undefined },
          ]
        : undefined;
    const coloured = await make("I", {}, [layer({ face: { ...face, colours } })]);
    expect(coloured.sheets.map(({ colour, totals }) => [colour, totals.pieces])).toEqual([
      ["#1b6a5d", 1],
      ["#1d1a16", 1],
    ]);
    const pictured = {
      ...face,
      outline: (glyph: number) => (glyph === stem ? [] : face.outline(glyph)),
      picture: (glyph: number) => (glyph === stem ? new Uint8Array(1) : undefined),
    };
    const { pictures, sheets } = await make("Io", {}, [layer({ face: pictured })]);
    expect([pictures, sheets[0]!.totals.pieces]).toEqual([["I"], 1]);
  });
  test("copies lie on their sheet as they were packed, turned by a quarter to the right where that is the only way", async () => {
    const drawing = await make("HEL", { size: { of: "width", value: 80, unit: "mm" } });
    const settings = { ...USUAL_CUT, sheet: { widthMm: 60, heightMm: 200 }, copies: 3, gapMm: 4 };
    const { arranged, sheets } = layOut(drawing, settings);
    const copies = sheets[0]!.on.flatMap((contours, on) =>
      contours.map((contour) => ({ on, box: boxOf([contour]), area: areaOf(contour) })),
    );
    expect(arranged.placed.every(({ turned }) => turned)).toBe(true);
    expect(copies).toHaveLength(9);
    for (const { box: own } of copies)
      expect([own.left >= -0.01, own.top >= -0.01, own.right <= 60.01, own.bottom <= 200.01]).toEqual([true, true, true, true]);
    expect(copies.reduce((sum, { area }) => sum + area, 0)).toBeCloseTo(3 * drawing.sheets[0]!.totals.areaMm2, 6);
    // To the right in the line is down on the sheet; up in the line is to the right on it.
    const { x, y } = arranged.placed[0]!;
    const [from, to] = [drawing.sheets[0]!.contours[0]![0]!, sheets[0]!.on[0]![0]![0]!];
    const high = drawing.box.bottom - drawing.box.top;
    expect([to[0]! - x, to[1]! - y]).toEqual([
      expect.closeTo(high - (from[1]! - drawing.box.top), 6),
      expect.closeTo(from[0]! - drawing.box.left, 6),
    ]);
  });
  test("backings lie around everything", async () => {
    const letters = boxOf((await make("fennel")).sheets[0]!.contours);
    for (const shape of ["contour", "rectangle", "rounded", "ellipse"] as const) {
      const { sheets } = await make("fennel", { backing: { shape, mm: 4, colour: "#ffffff" } });
      expect(sheets.map(({ kind }) => kind)).toEqual(["backing", "letters"]);
      const own = boxOf(sheets[0]!.contours);
      if (shape === "ellipse") expect(own.left).toBeLessThan(letters.left - 4);
      else expect([letters.left - own.left, own.bottom - letters.bottom]).toEqual([expect.closeTo(4, 1), expect.closeTo(4, 1)]);
    }
  });
  test("several lines, right to left, and capitals alone", async () => {
    expect((await make("HE\nLO", { join: "layer" })).sheets[0]!.letters.map(({ line: on }) => on)).toEqual([0, 0, 1, 1]);
    expect((await make("He", {}, [layer({ letters: "capitals" })])).sheets[0]!.totals.pieces).toBe(1);
  });
  test("what cannot be cut says why", async () => {
    expect(await problemOf("  ")).toBe("no-words");
    expect(await problemOf("अ")).toBe("nothing-to-cut");
    expect(await problemOf("H", { size: { of: "capitals", value: 20_000, unit: "mm" } })).toBe("cut-size");
    expect(await problemOf("H", { size: { of: "capitals", value: 0, unit: "mm" } })).toBe("cut-size");
    expect(await problemOf("fennel ".repeat(800))).toBe("cut-long");
    expect(await problemOf("fennel ".repeat(400), { size: { of: "capitals", value: 4000, unit: "mm" } })).toBe("cut-large");
    expect(await problemOf("H", {}, [layer({ face: { ...face, outline: () => [], picture: () => new Uint8Array(1) } })])).toBe(
      "cut-pictures",
    );
    expect((await make("Hअ")).missing).toEqual(["अ"]);
  });
  test("a first look is there at once and shows the same", async () => {
    const look = preview(line("fennel", undefined, -150), USUAL_CUT);
    const checked = await make("fennel", {}, undefined, -150);
    expect(look.emMm).toBe(checked.emMm);
    const contours = contoursFromPath(look.layers[0]!.path, 1)!;
    expect(contours.length).toBe(checked.sheets[0]!.contours.length);
    expect(Math.abs(whole(contours) / whole(checked.sheets[0]!.contours) - 1)).toBeLessThan(0.01);
  });
  test("files of one cut hold the same outlines; an SVG gives back what it was made from", async () => {
    const drawing = await make("fennel", {}, [layer({ colour: "#d9a514", made: { kind: "contour", mm: 1 } }), layer()], -150);
    const about = {
      title: "fennel & <co>",
      description: "Aster Plain",
      source: { line: { text: "fennel" }, settings: { a: "</metadata>" } },
    };
    const files = (format: "svg" | "dxf" | "pdf", apart: boolean) =>
      cutFiles(drawing, USUAL_CUT, about, { format, curves: "splines", apart }, "fennel");
    const [svg] = await files("svg", false);
    const text = new TextDecoder().decode(svg!.bytes);
    expect(readOwnSvg(text)).toEqual(about.source);
    expect([text.match(/<g /g)!.length, text.includes("<title>fennel &amp; &lt;co&gt;</title>")]).toEqual([2, true]);
    const read = machineLines({ svg: text });
    expect([read.crossed > 0, read.outlines]).toEqual([false, drawing.sheets.reduce((sum, { contours }) => sum + contours.length, 0)]);
    expect([read.widthMm, read.lengthMm]).toEqual([
      expect.closeTo(drawing.box.right - drawing.box.left, 2),
      expect.closeTo(summaryOf(drawing).cutLengthMm, 0),
    ]);
    expect((await files("dxf", true)).map(({ name }) => name)).toEqual(["fennel Letters-d9a514.dxf", "fennel Letters-1d1a16.dxf"]);
    expect(new TextDecoder().decode((await files("pdf", false))[0]!.bytes.subarray(0, 5))).toBe("%PDF-");
  });
  test("other files say that they are none of ours", () => {
    const other = sheetSvg(10, 10, [{ name: "x", colour: "#000000", contours: [box(0, 0, 5, 5)] }], {
      title: "",
      description: "",
      source: 1,
    });
    expect(readOwnSvg(other)).toBe(1);
    for (const text of ["", "<svg/>", other.replace("buvano-cut", "else"), "<svg><metadata id='buvano-cut'>{</metadata></svg>"])
      expect(() => readOwnSvg(text)).toThrow(ProblemError);
    expect(() => machineLines({ svg: "<svg><path d='M0 0h5v5z'/></svg>" })).toThrow("not understood");
    expect(() => machineLines({ svg: "<svg/>" })).toThrow(ProblemError);
    const many = `<svg>${"<path d='M0 0L1 1Z'/>".repeat(100_001)}</svg>`;
    expect(() => machineLines({ svg: many })).toThrow("limit “pieces of outline”");
    for (const deep of [`<svg>${"<g>".repeat(100_000)}`, `<svg>${"<a><b>".repeat(50_000)}${"</a>".repeat(50_000)}`])
      for (const read of [() => readOwnSvg(deep), () => machineLines({ svg: deep })]) expect(read).toThrow("limit “groups within groups”");
    const raw = machineLines({ paths: [pathData([box(0, 0, 10, 10), box(5, 5, 15, 15)])] });
    expect([raw.crossed, raw.lengthMm]).toEqual([2, 80]);
    expect(movedBy(box(0, 0, 1, 1), 2, 3)[0]).toEqual([2, 3, 3, 3]);
  });
});
