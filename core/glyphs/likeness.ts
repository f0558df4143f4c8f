// How alike two drawn letters are: as coarse pictures of the same size, and in their proportions. Coarse, quick and said to be so: it puts a list in
// order, and judges nothing.
import type { Command, DrawFace } from "../bench/draw-face.ts";

/** Cells across and down. */
const GRID = 16;
const CELLS = GRID * GRID;

export interface LetterShape {
  /** Ink of each cell from 0 to 1, from the top left. */
  ink: Float32Array;
  /** Width by height of the ink's box. */
  proportion: number;
}

const STEPS = 6;
/** An outline's points, curves as short lines. */
function contours(outline: readonly Command[]): number[][] {
  const found: number[][] = [];
  let line: number[] = [];
  let [x, y] = [0, 0];
  for (const { type, values: v } of outline) {
    if (type === "M") found.push((line = [v[0]!, v[1]!]));
    else if (type === "L") line.push(v[0]!, v[1]!);
    else if (type === "Q" || type === "C") {
      for (let i = 1; i <= STEPS; i++) {
        const [t, u] = [i / STEPS, 1 - i / STEPS];
        if (type === "Q") line.push(u * u * x + 2 * u * t * v[0]! + t * t * v[2]!, u * u * y + 2 * u * t * v[1]! + t * t * v[3]!);
        else {
          const [a, b, c, d] = [u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t];
          line.push(a * x + b * v[0]! + c * v[2]! + d * v[4]!, a * y + b * v[1]! + c * v[3]! + d * v[5]!);
        }
      }
    }
    if (type !== "Z") [x, y] = [v.at(-2)!, v.at(-1)!];
  }
  return found.filter((points) => points.length >= 6);
}

/** Undefined for a glyph without ink. Filled by the nonzero rule; each row of cells is looked at along three lines. */
export function letterShape(outline: readonly Command[]): LetterShape | undefined {
  const lines = contours(outline);
  let [xMin, yMin, xMax, yMax] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const points of lines)
    for (let i = 0; i < points.length; i += 2) {
      xMin = Math.min(xMin, points[i]!);
      xMax = Math.max(xMax, points[i]!);
      yMin = Math.min(yMin, points[i + 1]!);
      yMax = Math.max(yMax, points[i + 1]!);
    }
  const [wide, high] = [xMax - xMin, yMax - yMin];
  if (!(wide > 0 && high > 0)) return undefined;
  const side = Math.max(wide, high);
  const [left, top] = [(xMin + xMax - side) / 2, (yMin + yMax + side) / 2];
  const ink = new Float32Array(CELLS);
  const rows = 3 * GRID;
  for (let row = 0; row < rows; row++) {
    const y = top - ((row + 0.5) / rows) * side;
    const crossings: { at: number; way: number }[] = [];
    for (const points of lines) {
      for (let i = 0; i < points.length; i += 2) {
        const j = (i + 2) % points.length;
        const [y1, y2] = [points[i + 1]!, points[j + 1]!];
        if (y1 <= y === y2 <= y) continue;
        crossings.push({ at: points[i]! + ((y - y1) / (y2 - y1)) * (points[j]! - points[i]!), way: y2 > y1 ? 1 : -1 });
      }
    }
    crossings.sort((a, b) => a.at - b.at);
    let winding = 0;
    for (let k = 0; k + 1 < crossings.length; k++) {
      winding += crossings[k]!.way;
      if (winding === 0) continue;
      const [from, to] = [((crossings[k]!.at - left) / side) * GRID, ((crossings[k + 1]!.at - left) / side) * GRID];
      for (let cell = Math.max(0, Math.floor(from)); cell < Math.min(GRID, Math.ceil(to)); cell++)
        ink[Math.floor(row / 3) * GRID + cell]! += (Math.min(cell + 1, to) - Math.max(cell, from)) / 3;
    }
  }
  return { ink, proportion: wide / high };
}

/** From 0, the same, upwards. */
export function distance(one: LetterShape, other: LetterShape): number {
  let sum = 0;
  for (let i = 0; i < CELLS; i++) sum += (one.ink[i]! - other.ink[i]!) ** 2;
  return Math.sqrt(sum / CELLS) + 0.2 * Math.abs(Math.log(one.proportion / other.proportion));
}

/** The shape of a character in a face; undefined where it has none. */
export function shapeOfCharacter(face: DrawFace, codePoint: number): LetterShape | undefined {
  const glyph = face.has(codePoint) ? face.font.nominalGlyph(codePoint) : undefined;
  return glyph === undefined ? undefined : letterShape(face.outline(glyph));
}

/** Numbers of a list in the order of their likeness to one of it; those without a shape last, as they were. */
export function byLikeness(shapes: readonly (LetterShape | undefined)[], to: number): number[] {
  const model = shapes[to];
  const far = (i: number): number => {
    const shape = shapes[i];
    return !shape ? Infinity : !model ? 0 : distance(model, shape);
  };
  return shapes.map((_, i) => i).sort((a, b) => (a === to ? -1 : b === to ? 1 : far(a) === far(b) ? a - b : far(a) - far(b)));
}
