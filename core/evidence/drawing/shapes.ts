// Glyphs as shapes: by way of the shaping library, and from path data.
import type * as hb from "harfbuzzjs";
import { apply, cubicPoints, quadraticPoints, UNMOVED, type Matrix, type Point } from "./geometry.ts";
import { shapeOf, type Shape } from "./same.ts";

/** A glyph's outline as polygons; `place` leads from font units to where they are wanted. */
export function glyphPolygons(font: hb.Font, glyph: number, place: (x: number, y: number) => Point): Point[][] {
  const polygons: Point[][] = [];
  let polygon: Point[] = [];
  for (const { type, values } of font.glyphToJson(glyph)) {
    const at = (i: number): Point => place(values[i]!, values[i + 1]!);
    const last = polygon.at(-1);
    if (type === "M") polygons.push((polygon = [at(0)]));
    else if (!last) continue;
    else if (type === "L") polygon.push(at(0));
    else if (type === "Q") polygon.push(...quadraticPoints(last, at(0), at(2)));
    else if (type === "C") polygon.push(...cubicPoints(last, at(0), at(2), at(4)));
  }
  return polygons;
}

/** A glyph's outline in ems, y upwards; undefined when it has no ink. */
export const glyphShape = (font: hb.Font, upem: number, glyph: number, matrix: Matrix = UNMOVED): Shape | undefined =>
  shapeOf(glyphPolygons(font, glyph, (x, y) => apply(matrix, x / upem, y / upem)));

/** An outline as the parser itself reads it, in ems: SVG path data of absolute commands. */
export function pathShape(path: string): Shape | undefined {
  const polygons: Point[][] = [];
  let polygon: Point[] = [];
  for (const [, command = "", numbers = ""] of path.matchAll(/([MLQCZ])([^MLQCZ]*)/g)) {
    const values = numbers
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    const at = (i: number): Point => [values[i] ?? 0, values[i + 1] ?? 0];
    const last = polygon.at(-1);
    if (command === "M") polygons.push((polygon = [at(0)]));
    else if (!last) continue;
    else if (command === "L") polygon.push(at(0));
    else if (command === "Q") polygon.push(...quadraticPoints(last, at(0), at(2)));
    else if (command === "C") polygon.push(...cubicPoints(last, at(0), at(2), at(4)));
  }
  return shapeOf(polygons);
}
