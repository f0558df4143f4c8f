// Lines of lettering found in whole pictures: level where letters hang below the line, along the line where it is tilted, with all its words.
import { describe, expect, test } from "@jest/globals";
import { linesOf } from "./lines.ts";
import { tiltOf } from "./tilt.ts";
import type { FlatBox } from "../faces/coverage-raster.ts";

/** "Honey" as boxes: a capital, three small letters, and one that hangs below. */
const HONEY: FlatBox[] = [
  { x0: 0, x1: 40, y0: 0, y1: 60 },
  { x0: 45, x1: 80, y0: 20, y1: 60 },
  { x0: 85, x1: 120, y0: 20, y1: 60 },
  { x0: 125, x1: 160, y0: 20, y1: 60 },
  { x0: 165, x1: 205, y0: 20, y1: 80 },
];
const tilted = (boxes: readonly FlatBox[], degrees: number): FlatBox[] =>
  boxes.map(({ x0, x1, y0, y1 }) => {
    const by = Math.tan((degrees * Math.PI) / 180) * ((x0 + x1) / 2);
    return { x0, x1, y0: y0 + by, y1: y1 + by };
  });
const degreesOf = (boxes: readonly FlatBox[]) => (tiltOf(boxes, 40) * 180) / Math.PI;

describe("the tilt of a line", () => {
  test("a last letter that hangs below tilts nothing", () => expect(degreesOf(HONEY)).toBe(0));
  test.each([-9, -4, -2, 2, 5, 12])("%d degrees are found, whatever hangs below", (degrees) =>
    expect(Math.abs(degreesOf(tilted(HONEY, degrees)) - degrees)).toBeLessThan(0.4),
  );
  test("letters that dance keep their line level", () =>
    expect(degreesOf(HONEY.map((box, i) => ({ ...box, y0: box.y0 + 4 * (i % 2), y1: box.y1 + 5 * (i % 2) })))).toBe(0));
  test("of three letters nothing is said", () => expect(degreesOf(tilted(HONEY.slice(0, 3), 8))).toBe(0));
});

/** A picture of black boxes on white; light on dark where asked. */
function picture(boxes: readonly FlatBox[], width: number, height: number, light = false) {
  const data = new Uint8ClampedArray(4 * width * height).fill(light ? 30 : 240);
  for (const { x0, x1, y0, y1 } of boxes)
    for (let y = Math.round(y0); y < Math.round(y1); y++)
      for (let x = Math.round(x0); x < Math.round(x1); x++) data.fill(light ? 220 : 20, 4 * (y * width + x), 4 * (y * width + x) + 3);
  return { width, height, data };
}
const moved = (boxes: readonly FlatBox[], x: number, y: number) =>
  boxes.map((box) => ({ x0: box.x0 + x, x1: box.x1 + x, y0: box.y0 + y, y1: box.y1 + y }));
const slopeOf = ([[x0, y0], [x1, y1]]: ReturnType<typeof linesOf>[number]) => (Math.atan2(y1 - y0, x1 - x0) * 180) / Math.PI;

describe("frames", () => {
  test.each([false, true])("stand level around a level word (light letters: %s)", (light) => {
    const [frame] = linesOf(picture(moved(HONEY, 60, 60), 340, 200, light));
    expect(frame).toBeDefined();
    expect(slopeOf(frame!)).toBe(0);
    expect(frame![0][0]).toBeLessThan(60);
    expect(frame![2][0]).toBeGreaterThan(265);
  });
  test("hold words with a wide space between them together", () => {
    const [frame] = linesOf(picture([...moved(HONEY, 60, 60), ...moved(HONEY, 330, 60)], 620, 200));
    expect([frame![0][0] < 60, frame![1][0] > 530]).toEqual([true, true]);
  });
  test("do not join what stands in columns", () => {
    const [frame] = linesOf(picture([...moved(HONEY, 60, 60), ...moved(HONEY, 560, 60)], 860, 200));
    expect(frame![1][0] - frame![0][0]).toBeLessThan(300);
  });
  test("hold letters that are made of parts", () => {
    // Each letter is four strokes that do not touch, as displays show them.
    const strokes = [0, 1, 2, 3, 4].flatMap((i) => [
      { x0: 60 + 50 * i, x1: 92 + 50 * i, y0: 60, y1: 66 },
      { x0: 56 + 50 * i, x1: 62 + 50 * i, y0: 70, y1: 94 },
      { x0: 90 + 50 * i, x1: 96 + 50 * i, y0: 70, y1: 94 },
      { x0: 60 + 50 * i, x1: 92 + 50 * i, y0: 98, y1: 104 },
    ]);
    const [frame] = linesOf(picture(strokes, 380, 170));
    expect([frame![0][0] < 58, frame![2][0] > 294, frame![0][1] < 60, frame![2][1] > 104]).toEqual([true, true, true, true]);
  });
  test("follow a tilted line", () => {
    const [frame] = linesOf(picture(moved(tilted([...HONEY, ...moved(HONEY, 215, 0)], 5), 60, 60), 560, 260));
    expect(Math.abs(slopeOf(frame!) - 5)).toBeLessThan(0.8);
  });
  test("are none in an empty picture", () => expect(linesOf(picture([], 300, 200))).toEqual([]));
});
