// Puts outlines together. Each engine gives back outer contours that run clockwise as seen on a screen and counters that run the other way.
import { Clipper64, ClipType, FillRule, PathType, Clipper, type Path64, type Paths64 } from "clipper2-ts";
import { areaOf, type Contour } from "./curve.ts";
import { coarseness, flatten, GRID_MM, TOLERANCE_MM, type FlatContour } from "./flat.ts";
import type { Polygon } from "./judge.ts";
import { Restorer } from "./restore.ts";

/** Contours that are filled together, by nonzero winding: a letter, a backing shape. */
export type Filled = readonly Contour[];
type Operation = "union" | "difference";

const CLIP = { union: ClipType.Union, difference: ClipType.Difference };

/** Rounding leaves slivers where outlines touch: nothing a blade could follow, in square millimetres. */
const DUST_MM2 = 1e-4;

const pathOf = ({ xs, ys }: FlatContour): Path64 => Array.from(xs, (x, i) => ({ x, y: ys[i]! }));

/** The letters of a drawing on the grid; outlines that run the wrong way round as a whole are turned, so that they add up with their neighbours. */
export class Flat {
  readonly gridMm: number;
  readonly toleranceMm: number;
  /** By letter. */
  readonly letters: FlatContour[][];
  private kept: Restorer | undefined;

  constructor(letters: readonly Filled[], extentMm: number, toleranceMm = TOLERANCE_MM) {
    const coarse = coarseness(extentMm);
    this.gridMm = GRID_MM * coarse;
    this.toleranceMm = toleranceMm * coarse;
    this.letters = letters.map((contours) => {
      const backwards = contours.reduce((sum, contour) => sum + areaOf(contour), 0) < 0;
      return contours.map((contour) => flatten(contour, this.gridMm, this.toleranceMm, backwards)).filter(({ xs }) => xs.length > 2);
    });
  }
  get points(): number {
    return this.letters.reduce((sum, contours) => sum + contours.reduce((own, { xs }) => own + xs.length, 0), 0);
  }
  paths(letter: number): Paths64 {
    return this.letters[letter]!.map((flat) => (flat.backwards ? pathOf(flat).reverse() : pathOf(flat)));
  }
  polygons(): Polygon[][] {
    return this.letters.map((contours) =>
      contours.map(({ xs, ys }) => Float64Array.from({ length: 2 * xs.length }, (_, i) => (i % 2 === 0 ? xs : ys)[i >> 1]! * this.gridMm)),
    );
  }
  get restorer(): Restorer {
    return (this.kept ??= new Restorer(this.letters.flat(), this.gridMm, this.toleranceMm));
  }
}

export function clip(operation: Operation, subject: Paths64, other: Paths64, rule = FillRule.NonZero): Paths64 {
  const clipper = new Clipper64();
  // Vertices on straight stretches are places where curves begin.
  clipper.preserveCollinear = true;
  clipper.addPaths(subject, PathType.Subject);
  if (other.length > 0) clipper.addPaths(other, PathType.Clip);
  const solution: Paths64 = [];
  clipper.execute(CLIP[operation], rule, solution);
  return solution;
}

/** Drops what is no more than rounding. */
const withoutDust = (paths: Paths64, gridMm: number): Paths64 =>
  paths.filter((path) => Math.abs(Clipper.area(path)) * gridMm * gridMm > DUST_MM2);

/** All letters put together, polygons on the grid. `each`: every letter is put in order by itself first, for outlines that run both ways. */
export function united(flat: Flat, each: boolean): Paths64 {
  const paths = flat.letters.flatMap((_, i) => (each ? clip("union", flat.paths(i), []) : flat.paths(i)));
  return withoutDust(clip("union", paths, []), flat.gridMm);
}
/** The first `subjects` letters with the others taken away. */
export function difference(flat: Flat, subjects: number): Paths64 {
  const together = (from: number, to: number) =>
    clip(
      "union",
      flat.letters.slice(from, to).flatMap((_, i) => clip("union", flat.paths(from + i), [])),
      [],
    );
  return withoutDust(clip("difference", together(0, subjects), together(subjects, flat.letters.length)), flat.gridMm);
}

/** Regions that two or more outlines cover, polygons in millimetres, outer ones only. */
export function coveredTwice(flat: Flat): Polygon[] {
  const paths = flat.letters.flatMap((_, i) => flat.paths(i));
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const path of paths)
    for (const { x, y } of path) {
      left = Math.min(left, x);
      right = Math.max(right, x);
      top = Math.min(top, y);
      bottom = Math.max(bottom, y);
    }
  if (!(right > left)) return [];
  // A frame that runs backwards takes one off everywhere: what is still above zero was covered twice.
  const frame = [
    { x: left - 10, y: top - 10 },
    { x: left - 10, y: bottom + 10 },
    { x: right + 10, y: bottom + 10 },
    { x: right + 10, y: top - 10 },
  ];
  return withoutDust(clip("union", [...paths, frame], [], FillRule.Positive), flat.gridMm)
    .filter((path) => Clipper.area(path) > 0)
    .map((path) =>
      Float64Array.from({ length: 2 * path.length }, (_, i) => (i % 2 === 0 ? path[i >> 1]!.x : path[i >> 1]!.y) * flat.gridMm),
    );
}
