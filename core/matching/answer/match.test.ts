// When two faces draw the same words alike: letters compared by their share of the line's height, so that size does not count.
import { expect, test } from "@jest/globals";
import type { SetLetter } from "../faces/set-line.ts";
import { drawnAlike } from "./match.ts";

/** A line of boxes: each letter's left, width and height, in ems. */
const line = (letters: readonly (readonly [left: number, width: number, height: number])[], size = 1): SetLetter[] =>
  letters.map(([left, width, height], i) => {
    const box = { x0: left * size, y0: -height * size, x1: (left + width) * size, y1: 0 };
    return { first: i, last: i, box, polygons: [[box.x0, box.y0, box.x1, box.y0, box.x1, box.y1, box.x0, box.y1]] };
  });
const HONEY = [
  [0, 0.6, 0.7],
  [0.7, 0.5, 0.5],
] as const;

test("the same letters at another size are drawn alike", () => {
  expect(drawnAlike(line(HONEY), line(HONEY, 3))).toBe(true);
});
test("a letter that is wider, lower or further away is another; where spacing does not count its place is none of it", () => {
  const [first] = HONEY;
  expect(drawnAlike(line(HONEY), line([first, [0.7, 0.53, 0.5]]))).toBe(false);
  expect(drawnAlike(line(HONEY), line([first, [0.7, 0.5, 0.45]]))).toBe(false);
  const further = line([first, [0.8, 0.5, 0.5]]);
  expect([drawnAlike(line(HONEY), further), drawnAlike(line(HONEY), further, false)]).toEqual([false, true]);
});
test("boxes of one size with less ink in them are not alike, nor are lines of more letters", () => {
  const hollow = line(HONEY);
  hollow[0]!.polygons.push([0.1, -0.1, 0.1, -0.6, 0.5, -0.6, 0.5, -0.1]);
  expect(drawnAlike(line(HONEY), hollow)).toBe(false);
  expect(drawnAlike(line(HONEY), line([...HONEY, [1.3, 0.4, 0.7]]))).toBe(false);
});
