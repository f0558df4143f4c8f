// Filling outlines as grey pixels by their signed area: one pass over the edges, one over the pixels. Letters that overlap themselves are filled
// as by the nonzero rule as long as their contours turn the same way, which is how fonts are drawn.

const { abs, ceil, floor, max, min } = Math;

/** Polygons as flat lists of coordinates, x and y in turn. */
export type Flat = readonly ArrayLike<number>[];

/**
 * Adds polygons to `field`, `width` by `height` signed areas, by x' = x · sx + tx, y' = y · sy + ty in pixels. What lies outside is cut off
 * above and below, and counts for the edge at the left.
 */
function addEdges(
  field: Float32Array,
  width: number,
  height: number,
  polygons: Flat,
  sx: number,
  sy: number,
  tx: number,
  ty: number,
): void {
  for (const points of polygons) {
    const n = points.length;
    if (n < 6) continue;
    let [px, py] = [points[n - 2]! * sx + tx, points[n - 1]! * sy + ty];
    for (let i = 0; i < n; i += 2) {
      const [qx, qy] = [points[i]! * sx + tx, points[i + 1]! * sy + ty];
      if (py !== qy) edge(field, width, height, px, py, qx, qy);
      [px, py] = [qx, qy];
    }
  }
}
function edge(field: Float32Array, width: number, height: number, ax: number, ay: number, bx: number, by: number): void {
  const way = ay < by ? 1 : -1;
  const [x0, y0, x1, y1] = ay < by ? [ax, ay, bx, by] : [bx, by, ax, ay];
  if (y1 <= 0 || y0 >= height) return;
  const slope = (x1 - x0) / (y1 - y0);
  let x = y0 < 0 ? x0 - y0 * slope : x0;
  for (let row = floor(max(0, y0)); row < height && row < y1; row++) {
    const [from, to] = [max(y0, row), min(y1, row + 1)];
    const high = to - from;
    const next = x + slope * high;
    const area = way * high;
    const [left, right] = x < next ? [x, next] : [next, x];
    x = next;
    const base = row * width;
    if (left >= width) continue;
    const first = floor(left);
    if (right <= 0) {
      field[base]! += area;
      continue;
    }
    if (first >= 0 && right <= first + 1) {
      // Within one pixel: what is right of the edge in it, and all of the next.
      const own = area * (1 - ((left + right) / 2 - first));
      field[base + first]! += own;
      if (first + 1 < width) field[base + first + 1]! += area - own;
      continue;
    }
    // Over several pixels: in each, the part of the edge that crosses it.
    const wide = right - left;
    const each = area / wide;
    const start = max(0, first);
    if (left < 0) field[base]! += each * min(wide, -left);
    const stop = min(width, ceil(right));
    for (let column = start; column < stop; column++) {
      const [l, r] = [max(left, column), min(right, column + 1)];
      const part = each * (r - l);
      const own = part * (1 - ((l + r) / 2 - column));
      field[base + column]! += own;
      if (column + 1 < width) field[base + column + 1]! += part - own;
    }
  }
}

/** Turns signed areas into ink from 0 to 1, in place. */
function filled(field: Float32Array, width: number, height: number): Float32Array {
  for (let row = 0, at = 0; row < height; row++) {
    let sum = 0;
    for (let column = 0; column < width; column++, at++) {
      sum += field[at]!;
      const ink = abs(sum);
      field[at] = ink > 1 ? 1 : ink;
    }
  }
  return field;
}

/** Polygons drawn into a new picture: 0 is no ink, 1 is full. */
export function rasterOf(polygons: Flat, width: number, height: number, sx: number, sy: number, tx: number, ty: number): Float32Array {
  const field = new Float32Array(width * height);
  addEdges(field, width, height, polygons, sx, sy, tx, ty);
  return filled(field, width, height);
}

export interface FlatBox {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}
/** Undefined when there is no ink. */
export function boxOfFlat(polygons: Flat): FlatBox | undefined {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const points of polygons) {
    for (let i = 0; i < points.length; i += 2) {
      const [x, y] = [points[i]!, points[i + 1]!];
      if (x < x0) x0 = x;
      if (x > x1) x1 = x;
      if (y < y0) y0 = y;
      if (y > y1) y1 = y;
    }
  }
  return x0 < x1 && y0 < y1 ? { x0, y0, x1, y1 } : undefined;
}
