// Gives contours the directions font formats ask for: outer ones one way, holes the other, so nonzero filling works.
import type { Outline, Point } from "./pen.ts";

const signedArea = (contour: readonly Point[]): number =>
  contour.reduce((sum, point, i) => {
    const next = contour[(i + 1) % contour.length]!;
    return sum + point.x * next.y - next.x * point.y;
  }, 0) / 2;

/** Even-odd test against the contour's polygon of all its points, which is close enough to tell nesting. */
function inside(point: Point, contour: readonly Point[]): boolean {
  let within = false;
  for (let i = 0, j = contour.length - 1; i < contour.length; j = i++) {
    const a = contour[i]!;
    const b = contour[j]!;
    if (a.y > point.y !== b.y > point.y && point.x < ((b.x - a.x) * (point.y - a.y)) / (b.y - a.y) + a.x) within = !within;
  }
  return within;
}

/** Outer contours clockwise (y upwards), holes counter-clockwise. */
export function orient(outline: Outline): Outline {
  return outline.map((contour) => {
    const depth = outline.filter((other) => other !== contour && inside(contour[0]!, other)).length;
    const clockwise = signedArea(contour) < 0;
    return clockwise === (depth % 2 === 0) ? contour : [...contour].reverse();
  });
}
