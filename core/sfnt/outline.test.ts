// Outlines: areas of curves, TrueType glyphs simple and composite, CFF charstrings operator by operator.
import { describe, expect, test } from "@jest/globals";
import { drawCharString } from "./charstring.ts";
import type { CffIndex } from "./cff.ts";
import { readGlyph } from "./glyf.ts";
import type { Loca } from "./loca.ts";
import { boxOf, signedAreas, type Outline } from "./outline.ts";
import { View } from "./view.ts";

const view = (bytes: readonly number[]): View => new View(Uint8Array.from(bytes), "test");
const none: CffIndex = { count: 0, object: () => view([]), end: 0 };
const index = (...objects: number[][]): CffIndex => ({ count: objects.length, object: (i) => view(objects[i]!), end: 0 });

describe("areas", () => {
  test("of a square, by the way it runs", () => {
    const square: Outline = [
      {
        startX: 0,
        startY: 0,
        segments: [
          [10, 0],
          [10, 10],
          [0, 10],
          [0, 0],
        ],
      },
    ];
    const back: Outline = [
      {
        startX: 0,
        startY: 0,
        segments: [
          [0, 10],
          [10, 10],
          [10, 0],
        ],
      },
    ];
    expect([signedAreas(square), signedAreas(back)]).toEqual([[100], [-100]]);
  });
  test("of a parabola, exactly: two thirds of its box (Archimedes, Quadrature of the Parabola)", () => {
    const parabola: Outline = [
      {
        startX: 0,
        startY: 0,
        segments: [
          [50, 100, 100, 0],
          [0, 0],
        ],
      },
    ];
    expect(Math.abs(signedAreas(parabola)[0]!)).toBeCloseTo((2 / 3) * 100 * 50, 6);
  });
  test("of a circle of four cubic curves, within the known error of that drawing", () => {
    const k = (4 / 3) * Math.tan(Math.PI / 8) * 100;
    const circle: Outline = [
      {
        startX: 100,
        startY: 0,
        segments: [
          [100, k, k, 100, 0, 100],
          [-k, 100, -100, k, -100, 0],
          [-100, -k, -k, -100, 0, -100],
          [k, -100, 100, -k, 100, 0],
        ],
      },
    ];
    expect(signedAreas(circle)[0]! / (Math.PI * 100 * 100)).toBeCloseTo(1, 3);
    expect(boxOf(circle)).toEqual({ xMin: -100, yMin: -100, xMax: 100, yMax: 100 });
  });
  test("of nothing", () => expect([signedAreas([]), boxOf([])]).toEqual([[], undefined]));
});

/** Two's complement bytes of 16-bit numbers. */
const i16 = (...values: number[]): number[] => values.flatMap((value) => [(value >> 8) & 255, value & 255]);

// OpenType specification, "glyf — Glyph Data": header, end points, instructions, flags, coordinates.
const box = [...i16(1, 0, 0, 10, 10), ...i16(3), ...i16(0), 1, 1, 1, 1, ...i16(0, 10, 0, -10), ...i16(0, 0, 10, 0)];
/** Four points off the curve: a round shape whose on-curve points lie half-way between. */
const round = [...i16(1, 0, 0, 10, 10), ...i16(3), ...i16(0), 0, 0, 0, 0, ...i16(0, 10, 0, -10), ...i16(0, 0, 10, 0)];

function glyphs(...bytes: number[][]): { glyf: View; loca: Loca } {
  const starts = [0];
  for (const one of bytes) starts.push(starts.at(-1)! + one.length);
  return { glyf: view(bytes.flat()), loca: { glyphs: bytes.length, start: (i) => starts[i]!, end: (i) => starts[i + 1]! } };
}

describe("TrueType glyphs", () => {
  test("a simple one, point by point", () => {
    const { glyf, loca } = glyphs(box);
    expect(readGlyph(glyf, loca, 0)).toEqual([
      {
        startX: 0,
        startY: 0,
        segments: [
          [10, 0],
          [10, 10],
          [0, 10],
          [0, 0],
        ],
      },
    ]);
  });
  test("one of off-curve points only starts half-way between two of them", () => {
    const { glyf, loca } = glyphs(round);
    const [contour] = readGlyph(glyf, loca, 0);
    expect([contour!.startX, contour!.startY, contour!.segments.length]).toEqual([0, 5, 4]);
    expect(contour!.segments.every((segment) => segment.length === 4)).toBe(true);
  });
  test("flags that repeat and coordinates of one byte", () => {
    // ON_CURVE | X_SHORT | Y_SHORT | X_POSITIVE | Y_POSITIVE, twice more by REPEAT.
    const flag = 0x01 | 0x02 | 0x04 | 0x10 | 0x20;
    const { glyf, loca } = glyphs([...i16(1, 0, 0, 9, 9), ...i16(2), ...i16(0), flag | 0x08, 2, 1, 2, 3, 4, 5, 6]);
    expect(readGlyph(glyf, loca, 0)).toEqual([
      {
        startX: 1,
        startY: 4,
        segments: [
          [3, 9],
          [6, 15],
          [1, 4],
        ],
      },
    ]);
  });
  test("a composite one: moved, scaled, turned", () => {
    const part = (flags: number, ...args: number[]) => [...i16(flags, 0), ...args];
    const composite = [
      ...i16(-1, 0, 0, 0, 0),
      ...part(0x0001 | 0x0002 | 0x0020, ...i16(100, 50)),
      ...part(0x0002 | 0x0008 | 0x0020, 5, 0xfb, ...i16(0x2000)), // half as large, moved by 5 and −5
      ...part(0x0002 | 0x0080, 0, 0, ...i16(0, 0x4000, -0x4000, 0)), // a quarter turn
    ];
    const { glyf, loca } = glyphs(box, composite);
    const boxes = readGlyph(glyf, loca, 1).map((contour) => boxOf([contour]));
    expect(boxes).toEqual([
      { xMin: 100, yMin: 50, xMax: 110, yMax: 60 },
      { xMin: 5, yMin: -5, xMax: 10, yMax: 0 },
      { xMin: -10, yMin: 0, xMax: 0, yMax: 10 },
    ]);
  });
  test("a blank one, one made of itself, one that is not there, one cut off", () => {
    const itself = [...i16(-1, 0, 0, 0, 0), ...i16(0x0002, 1), 0, 0];
    const { glyf, loca } = glyphs([], itself, box.slice(0, 20));
    expect(readGlyph(glyf, loca, 0)).toEqual([]);
    for (const glyph of [1, 2, 3]) expect(() => readGlyph(glyf, loca, glyph)).toThrow();
  });
});

/** Numbers from −107 to 107 in one byte (Technical Note 5177, table 1). */
const n = (...values: number[]): number[] => values.map((value) => value + 139);
const END = 14;
const draw = (...bytes: number[]): Outline => drawCharString(view([...bytes, END]), none, undefined);
const path = (...bytes: number[]) => {
  const [contour] = draw(...n(0), 22, ...bytes); // 0 hmoveto
  return contour!.segments;
};

// Technical Note 5177, section 4.
describe("CFF charstrings", () => {
  test("moves, with a width before them or not", () => {
    expect(draw(...n(50, 1, 2), 21)).toEqual([{ startX: 1, startY: 2, segments: [] }]);
    expect(draw(...n(1, 2), 21, ...n(3), 22, ...n(4), 4).map((one) => [one.startX, one.startY])).toEqual([
      [1, 2],
      [4, 2],
      [4, 6],
    ]);
  });
  test("lines: rlineto, and hlineto and vlineto by turns", () => {
    expect(path(...n(1, 2, 3, 4), 5)).toEqual([
      [1, 2],
      [4, 6],
    ]);
    expect(path(...n(10, 20, 30), 6)).toEqual([
      [10, 0],
      [10, 20],
      [40, 20],
    ]);
    expect(path(...n(10, 20), 7)).toEqual([
      [0, 10],
      [20, 10],
    ]);
  });
  test("curves: rrcurveto, hhcurveto, vvcurveto, hvcurveto, vhcurveto, each with what may stand before or after", () => {
    expect(path(...n(1, 2, 3, 4, 5, 6), 8)).toEqual([[1, 2, 4, 6, 9, 12]]);
    expect(path(...n(1, 2, 3, 4), 27)).toEqual([[1, 0, 3, 3, 7, 3]]);
    expect(path(...n(9, 1, 2, 3, 4), 27)).toEqual([[1, 9, 3, 12, 7, 12]]);
    expect(path(...n(1, 2, 3, 4), 26)).toEqual([[0, 1, 2, 4, 2, 8]]);
    expect(path(...n(1, 2, 3, 4), 31)).toEqual([[1, 0, 3, 3, 3, 7]]);
    expect(path(...n(1, 2, 3, 4, 5), 31)).toEqual([[1, 0, 3, 3, 8, 7]]);
    expect(path(...n(1, 2, 3, 4), 30)).toEqual([[0, 1, 2, 4, 6, 4]]);
  });
  test("a line after curves and a curve after lines", () => {
    expect(path(...n(1, 1, 1, 1, 1, 1, 5, 5), 24)).toEqual([
      [1, 1, 2, 2, 3, 3],
      [8, 8],
    ]);
    expect(path(...n(5, 5, 1, 1, 1, 1, 1, 1), 25)).toEqual([
      [5, 5],
      [6, 6, 7, 7, 8, 8],
    ]);
  });
  test("the four kinds of flex", () => {
    expect(path(...n(1, 2, 3, 4, 5, 6, 7), 12, 34)).toEqual([
      [1, 0, 3, 3, 7, 3],
      [12, 3, 18, 0, 25, 0],
    ]);
    expect(path(...n(1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 50), 12, 35)).toEqual([
      [1, 1, 2, 2, 3, 3],
      [4, 4, 5, 5, 6, 6],
    ]);
    expect(path(...n(1, 2, 3, 4, 5, 6, 7, 8, 9), 12, 36)).toEqual([
      [1, 2, 4, 6, 9, 6],
      [15, 6, 22, 14, 31, 0],
    ]);
    expect(
      path(...n(10, 1, 10, 1, 10, 1, 10, 1, 10, 1, 7), 12, 37)
        .at(-1)!
        .slice(-2),
    ).toEqual([57, 0]);
  });
  test("hints take their numbers, and their mask takes its bytes", () => {
    expect(draw(...n(1, 2, 3, 4), 18, ...n(5, 6), 19, 0xff, ...n(7), 22)).toEqual([{ startX: 7, startY: 0, segments: [] }]);
  });
  test("numbers of two, three and five bytes", () => {
    expect(draw(247, 0, 251, 0, 21)[0]).toMatchObject({ startX: 108, startY: -108 });
    expect(draw(28, 0x03, 0xe8, 255, 0, 1, 0x80, 0, 21)[0]).toMatchObject({ startX: 1000, startY: 1.5 });
  });
  test("subroutines, local and global, counted from their bias", () => {
    const line = [...n(5, 0), 5, 11];
    const withSubrs = (bytes: number[], global: CffIndex, local?: CffIndex) =>
      drawCharString(view([...n(0), 22, ...bytes, END]), global, local)[0]!.segments;
    expect(withSubrs([...n(-107), 10, ...n(-106), 29], index([11], line), index(line))).toEqual([
      [5, 0],
      [10, 0],
    ]);
  });
  test("what is damaged is refused: no such subroutine, endless nesting, a line before any move, unknown operators", () => {
    const itself = [...n(-107), 29];
    for (const [bytes, subrs] of [
      [[...n(0), 10], none],
      [itself, index(itself)],
      [[...n(1, 1), 5], none],
      [[2], none],
      [[12, 99], none],
    ] as const)
      expect(() => drawCharString(view([...bytes, END]), subrs, undefined)).toThrow("damaged");
  });
});
