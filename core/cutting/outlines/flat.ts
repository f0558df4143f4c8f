// Outlines as polygons on a grid of whole numbers, each edge knowing which part of which curve it stands for.
import { pointAt, type Contour, type Segment } from "./curve.ts";

/** Millimetres a step of the grid, and how far a chord may lie from its curve; both grow with drawings larger than a metre. */
export const GRID_MM = 0.0001;
export const TOLERANCE_MM = 0.0025;
const USUAL_MM = 1000;
/** Larger drawings are computed on a coarser grid, so that products of coordinates stay exact in a double. */
export const coarseness = (extentMm: number): number => Math.max(1, extentMm / USUAL_MM);

/** How many chords of equal parameter keep within the tolerance (chord error h²/8 · max |f″|). */
export function chordsOf(s: Segment, toleranceMm: number): number {
  if (s.length === 4) return 1;
  const bend = (i: number) => Math.hypot(s[i]! - 2 * s[i + 2]! + s[i + 4]!, s[i + 1]! - 2 * s[i + 3]! + s[i + 5]!);
  const most = s.length === 6 ? bend(0) / 4 : (Math.max(bend(0), bend(2)) * 6) / 8;
  return Math.max(1, Math.ceil(Math.sqrt(most / toleranceMm)));
}

/** A contour as a polygon in steps of the grid. */
export interface FlatContour {
  contour: Contour;
  /** Vertices; edge `i` runs from vertex i to the next, the last to the first. */
  xs: Float64Array;
  ys: Float64Array;
  /** Of edge i: its segment, and which of so many equal parts of it. */
  segment: Int32Array;
  part: Int32Array;
  parts: Int32Array;
  /** Its letter runs the wrong way round as a whole. */
  backwards: boolean;
}

/** Points that fall on the same place of the grid as the one before are left out. */
export function flatten(contour: Contour, gridMm: number, toleranceMm: number, backwards = false): FlatContour {
  const [xs, ys, segments, part, parts]: number[][] = [[], [], [], [], []];
  contour.forEach((segment, s) => {
    const n = chordsOf(segment, toleranceMm);
    for (let k = 0; k < n; k++) {
      const [x, y] = k === 0 ? [segment[0]!, segment[1]!] : pointAt(segment, k / n);
      const [gx, gy] = [Math.round(x / gridMm), Math.round(y / gridMm)];
      if (xs!.length > 0 && gx === xs!.at(-1) && gy === ys!.at(-1)) {
        // An edge of no length: the next one begins in its place.
        [segments!, part!, parts!].forEach((list, i) => (list[list.length - 1] = [s, k, n][i]!));
        continue;
      }
      xs!.push(gx);
      ys!.push(gy);
      segments!.push(s);
      part!.push(k);
      parts!.push(n);
    }
  });
  while (xs!.length > 1 && xs![0] === xs!.at(-1) && ys![0] === ys!.at(-1)) for (const list of [xs, ys, segments, part, parts]) list!.pop();
  return {
    contour,
    xs: Float64Array.from(xs!),
    ys: Float64Array.from(ys!),
    segment: Int32Array.from(segments!),
    part: Int32Array.from(part!),
    parts: Int32Array.from(parts!),
    backwards,
  };
}
