// The plane a page is drawn on: matrices as of ISO 32000-1, 8.3.3, and areas that paint or clip.

// Taken once: they are asked millions of times for one file.
const { abs, hypot, max, min } = Math;

/** x' = a·x + c·y + e, y' = b·x + d·y + f. */
export type Matrix = readonly [a: number, b: number, c: number, d: number, e: number, f: number];
export type Point = readonly [x: number, y: number];
export interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

export const UNMOVED: Matrix = [1, 0, 0, 1, 0, 0];
/** First `inner`, then `outer`. */
export const times = (outer: Matrix, inner: Matrix): Matrix => [
  outer[0] * inner[0] + outer[2] * inner[1],
  outer[1] * inner[0] + outer[3] * inner[1],
  outer[0] * inner[2] + outer[2] * inner[3],
  outer[1] * inner[2] + outer[3] * inner[3],
  outer[0] * inner[4] + outer[2] * inner[5] + outer[4],
  outer[1] * inner[4] + outer[3] * inner[5] + outer[5],
];
export const apply = (m: Matrix, x: number, y: number): Point => [m[0] * x + m[2] * y + m[4], m[1] * x + m[3] * y + m[5]];
/** The matrix that leads back; undefined when everything falls on a line. */
export function inverse(m: Matrix): Matrix | undefined {
  const area = m[0] * m[3] - m[1] * m[2];
  if (abs(area) < 1e-12) return undefined;
  const [a, b, c, d] = [m[3] / area, -m[1] / area, -m[2] / area, m[0] / area];
  return [a, b, c, d, -(a * m[4] + c * m[5]), -(b * m[4] + d * m[5])];
}

export function boxAround(points: Iterable<Point>): Box {
  const box = { x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity };
  for (const [x, y] of points) {
    if (x < box.x0) box.x0 = x;
    if (x > box.x1) box.x1 = x;
    if (y < box.y0) box.y0 = y;
    if (y > box.y1) box.y1 = y;
  }
  return box;
}
export const corners = (m: Matrix, { x0, y0, x1, y1 }: Box): Point[] => [
  apply(m, x0, y0),
  apply(m, x1, y0),
  apply(m, x1, y1),
  apply(m, x0, y1),
];
export const apart = (a: Box, b: Box): boolean => a.x1 < b.x0 || b.x1 < a.x0 || a.y1 < b.y0 || b.y1 < a.y0;

/** A path's subpaths as polygons, filled by one of the two rules (8.5.3.3), or lines of a width (8.5.3.2). */
export interface Area {
  box: Box;
  polygons: readonly (readonly Point[])[];
  evenOdd: boolean;
  /** Half of a line's width, when the path is stroked. */
  reach?: number;
}

export function areaOf(polygons: readonly (readonly Point[])[], evenOdd: boolean, reach?: number): Area {
  const box = boxAround(polygons.flat());
  const more = reach ?? 0;
  return {
    box: { x0: box.x0 - more, y0: box.y0 - more, x1: box.x1 + more, y1: box.y1 + more },
    polygons,
    evenOdd,
    ...(reach === undefined ? {} : { reach }),
  };
}

function toSegment(x: number, y: number, [ax, ay]: Point, [bx, by]: Point): number {
  const [dx, dy] = [bx - ax, by - ay];
  const square = dx * dx + dy * dy;
  const t = square === 0 ? 0 : max(0, min(1, ((x - ax) * dx + (y - ay) * dy) / square));
  return hypot(x - ax - t * dx, y - ay - t * dy);
}

/** Whether a point lies in an area. */
export function holds({ box, polygons, evenOdd, reach }: Area, x: number, y: number): boolean {
  if (x < box.x0 || x > box.x1 || y < box.y0 || y > box.y1) return false;
  if (reach !== undefined) {
    return polygons.some((polygon) => polygon.some((point, i) => i > 0 && toSegment(x, y, polygon[i - 1]!, point) <= reach));
  }
  let winding = 0;
  for (const polygon of polygons) {
    for (let i = 0, last = polygon.length - 1; i < polygon.length; last = i++) {
      const [ax, ay] = polygon[last]!;
      const [bx, by] = polygon[i]!;
      if (ay > y === by > y) continue;
      if (ax + ((y - ay) / (by - ay)) * (bx - ax) > x) winding += by > ay ? 1 : -1;
    }
  }
  return evenOdd ? winding % 2 !== 0 : winding !== 0;
}

const CURVE_PARTS = 8;
/** Points of a cubic curve after its first. */
export function cubicPoints([ax, ay]: Point, [bx, by]: Point, [cx, cy]: Point, [dx, dy]: Point, parts = CURVE_PARTS): Point[] {
  return Array.from({ length: parts }, (_, i): Point => {
    const t = (i + 1) / parts;
    const [u, v, w, z] = [(1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t * t * (1 - t), t ** 3];
    return [u * ax + v * bx + w * cx + z * dx, u * ay + v * by + w * cy + z * dy];
  });
}
export const quadraticPoints = (a: Point, b: Point, c: Point, parts = CURVE_PARTS): Point[] => {
  const third = (from: Point): Point => [from[0] + (2 / 3) * (b[0] - from[0]), from[1] + (2 / 3) * (b[1] - from[1])];
  return cubicPoints(a, third(a), third(c), c, parts);
};
