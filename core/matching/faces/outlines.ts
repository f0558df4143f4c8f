// Outlines of letters as flat polygons, in ems, y downwards: what measuring and drawing are both done with.
import type * as hb from "harfbuzzjs";
import type { Flat } from "./coverage-raster.ts";

const CURVE_PARTS = 6;

export interface Outline {
  polygons: number[][];
  /** How long its curved and its straight parts are, in ems. */
  curved: number;
  straight: number;
}

/** A glyph's outline, moved by (dx, dy) font units. */
export function outlineOf(font: hb.Font, upem: number, glyph: number, dx = 0, dy = 0): Outline {
  const found: Outline = { polygons: [], curved: 0, straight: 0 };
  let points: number[] = [];
  let [x, y, startX, startY] = [0, 0, 0, 0];
  const to = (nx: number, ny: number): number => {
    points.push(nx, ny);
    const long = Math.hypot(nx - x, ny - y);
    [x, y] = [nx, ny];
    return long;
  };
  const em = (value: number, moved: number) => (value + moved) / upem;
  for (const { type, values: v } of font.glyphToJson(glyph)) {
    if (type === "M") {
      points = [];
      found.polygons.push(points);
      [startX, startY] = [em(v[0]!, dx), -em(v[1]!, dy)];
      [x, y] = [startX, startY];
      points.push(x, y);
    } else if (type === "L") found.straight += to(em(v[0]!, dx), -em(v[1]!, dy));
    else if (type === "Q" || type === "C") {
      const [ax, ay] = [x, y];
      const at = (i: number) => [em(v[i]!, dx), -em(v[i + 1]!, dy)] as const;
      const [bx, by] = at(0);
      const [cx, cy] = at(2);
      const [ex, ey] = type === "C" ? at(4) : [0, 0];
      for (let i = 1; i <= CURVE_PARTS; i++) {
        const [t, u] = [i / CURVE_PARTS, 1 - i / CURVE_PARTS];
        found.curved +=
          type === "Q"
            ? to(u * u * ax + 2 * u * t * bx + t * t * cx, u * u * ay + 2 * u * t * by + t * t * cy)
            : to(
                u * u * u * ax + 3 * u * u * t * bx + 3 * u * t * t * cx + t * t * t * ex,
                u * u * u * ay + 3 * u * u * t * by + 3 * u * t * t * cy + t * t * t * ey,
              );
      }
    } else if (type === "Z") found.straight += Math.hypot(startX - x, startY - y);
  }
  return found;
}

/** The area of polygons that turn one way, less that of those that turn the other; in the square of their unit. */
export function areaOfFlat(polygons: Flat): number {
  let sum = 0;
  for (const points of polygons) {
    let [px, py] = [points[points.length - 2]!, points[points.length - 1]!];
    for (let i = 0; i < points.length; i += 2) {
      const [x, y] = [points[i]!, points[i + 1]!];
      sum += (px * y - x * py) / 2;
      [px, py] = [x, y];
    }
  }
  return Math.abs(sum);
}
