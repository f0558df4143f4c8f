import { describe, expect, test } from "@jest/globals";
import { likeness, type Grey } from "./raster.ts";
import { even, skewOf, straightened, turnedPlace } from "./straighten.ts";

const [WIDTH, HEIGHT] = [400, 200];
const paint = (ink: (x: number, y: number) => number, width = WIDTH, height = HEIGHT): Grey => ({
  width,
  height,
  ink: Float32Array.from({ length: width * height }, (_, i) => ink(i % width, Math.floor(i / width))),
});
/** Bars like words: three lines of them, each with gaps. */
const bars = (x: number, y: number): number =>
  x > 60 && x < 340 && [70, 100, 130].some((top) => y >= top && y < top + 12) && x % 37 > 6 ? 1 : 0;
/** The bars as a photo taken so many degrees askew shows them. */
const askew = (degrees: number): Grey =>
  paint((x, y) => {
    const [u, v] = turnedPlace(x + 0.5, y + 0.5, WIDTH, HEIGHT, -degrees);
    return bars(Math.floor(u), Math.floor(v));
  });

describe("a photo of lines", () => {
  test.each([-8, -2.5, 0, 1, 6.25])("%d degrees askew is seen to be so, and made straight", (degrees) => {
    const photo = askew(degrees);
    expect(Math.abs(skewOf(photo, 0.5) - degrees)).toBeLessThanOrEqual(0.5);
    expect(likeness(straightened(photo, degrees), paint(bars))).toBeGreaterThan(0.9);
    if (Math.abs(degrees) > 2) expect(likeness(photo, paint(bars))).toBeLessThan(0.7);
  });
  test("a place turned there and back is the same place", () => {
    const [x, y] = turnedPlace(12, 34, WIDTH, HEIGHT, 7);
    const [u, v] = turnedPlace(x, y, WIDTH, HEIGHT, -7);
    expect([u, v].map((value) => Math.round(value * 1e6) / 1e6)).toEqual([12, 34]);
  });
  test("on paper that darkens to one side is as dark on the one as on the other", () => {
    const shaded = paint((x, y) => Math.min(1, 0.5 * (x / WIDTH) + 0.4 * bars(x, y)));
    const flat = even(shaded);
    const mean = (from: number, to: number, inked: boolean): number => {
      let [sum, count] = [0, 0];
      for (let y = 0; y < HEIGHT; y++)
        for (let x = from; x < to; x++) if ((bars(x, y) === 1) === inked) [sum, count] = [sum + flat.ink[y * WIDTH + x]!, count + 1];
      return sum / count;
    };
    for (const [from, to] of [
      [70, 150],
      [250, 330],
    ] as const) {
      expect(mean(from, to, true)).toBeGreaterThan(0.85);
      expect(mean(from, to, false)).toBeLessThan(0.1);
    }
  });
});
