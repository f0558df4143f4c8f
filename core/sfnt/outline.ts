// A glyph's outline as closed contours, and what can be measured on it.

/** One piece of a contour from the point before it: a line, a quadratic curve or a cubic one, by its further points in font units. */
export type Segment =
  | readonly [x: number, y: number]
  | readonly [cx: number, cy: number, x: number, y: number]
  | readonly [c1x: number, c1y: number, c2x: number, c2y: number, x: number, y: number];

export interface Contour {
  startX: number;
  startY: number;
  segments: Segment[];
}
export type Outline = Contour[];

/** Twice nothing: the area between a curve and its chord follows from Green's theorem on its Bézier form. */
function signedArea(contour: Contour): number {
  let x = contour.startX;
  let y = contour.startY;
  let twice = 0;
  const cross = (ax: number, ay: number, bx: number, by: number) => ax * by - bx * ay;
  for (const segment of contour.segments) {
    const ex = segment[segment.length - 2]!;
    const ey = segment[segment.length - 1]!;
    twice += cross(x, y, ex, ey);
    if (segment.length === 4) {
      // Between a quadratic curve and its chord lie two thirds of its triangle.
      twice += (2 / 3) * (cross(x, y, segment[0], segment[1]) + cross(segment[0], segment[1], ex, ey) + cross(ex, ey, x, y));
    } else if (segment.length === 6) {
      const [ax, ay, bx, by] = segment;
      const whole =
        6 * cross(x, y, ax, ay) +
        3 * cross(x, y, bx, by) +
        cross(x, y, ex, ey) +
        3 * cross(ax, ay, bx, by) +
        3 * cross(ax, ay, ex, ey) +
        6 * cross(bx, by, ex, ey);
      twice += whole / 10 - cross(x, y, ex, ey);
    }
    x = ex;
    y = ey;
  }
  return (twice + cross(x, y, contour.startX, contour.startY)) / 2;
}

/** The signed area of each contour in square units: contours that run the other way round, as counters do, have the other sign. */
export const signedAreas = (outline: Outline): number[] => outline.map(signedArea);

/** Smallest upright box around all points, control points included; undefined for an empty outline. */
export function boxOf(outline: Outline): { xMin: number; yMin: number; xMax: number; yMax: number } | undefined {
  let [xMin, yMin, xMax, yMax] = [Infinity, Infinity, -Infinity, -Infinity];
  const take = (x: number, y: number) => {
    xMin = Math.min(xMin, x);
    yMin = Math.min(yMin, y);
    xMax = Math.max(xMax, x);
    yMax = Math.max(yMax, y);
  };
  for (const contour of outline) {
    take(contour.startX, contour.startY);
    for (const segment of contour.segments) for (let i = 0; i < segment.length; i += 2) take(segment[i]!, segment[i + 1]!);
  }
  return xMin <= xMax ? { xMin, yMin, xMax, yMax } : undefined;
}
