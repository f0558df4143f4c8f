// The framed part of a picture, made straight: four corners become a rectangle (a homography: Hartley and Zisserman, "Multiple View Geometry",
// 2.3), and the letters' colour becomes ink.
import { even } from "../../evidence/straighten.ts";
import { inkLimit, type Grey } from "../../evidence/raster.ts";
import type { Colours } from "../../evidence/image.ts";

const { ceil, floor, hypot, max, min, round, sqrt } = Math;

export type Corner = readonly [x: number, y: number];
/** Left top, right top, right bottom, left bottom of the line as it is read, in the picture's pixels. */
export type Frame = readonly [Corner, Corner, Corner, Corner];
/** A stroke of the brush: what lies under it is no ink. In the picture's pixels. */
export interface Stroke {
  points: readonly Corner[];
  radius: number;
}
export type Rgb = readonly [red: number, green: number, blue: number];

/** A line is looked at no larger than this, in pixels. */
const MOST_HIGH = 150;
const MOST_WIDE = 3200;
const LEAST_HIGH = 14;

/** Nine numbers that lead from the unit square to a frame. */
export type Homography = readonly number[];
/** Undefined when its corners do not go round. */
export function homographyOf(frame: Frame): Homography | undefined {
  const [[x0, y0], [x1, y1], [x2, y2], [x3, y3]] = frame;
  const turn = (a: Corner, b: Corner, c: Corner) => (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]);
  const turns = frame.map((_, i) => turn(frame[i]!, frame[(i + 1) % 4]!, frame[(i + 2) % 4]!));
  if (!turns.every((one) => one > 4) && !turns.every((one) => one < -4)) return undefined;
  const [dx1, dx2, sx] = [x1 - x2, x3 - x2, x0 - x1 + x2 - x3];
  const [dy1, dy2, sy] = [y1 - y2, y3 - y2, y0 - y1 + y2 - y3];
  const det = dx1 * dy2 - dx2 * dy1;
  const g = (sx * dy2 - dx2 * sy) / det;
  const h = (dx1 * sy - sx * dy1) / det;
  return [x1 - x0 + g * x1, x3 - x0 + h * x3, x0, y1 - y0 + g * y1, y3 - y0 + h * y3, y0, g, h, 1];
}
export function placeIn(m: Homography, u: number, v: number): Corner {
  const w = m[6]! * u + m[7]! * v + m[8]!;
  return [(m[0]! * u + m[1]! * v + m[2]!) / w, (m[3]! * u + m[4]! * v + m[5]!) / w];
}

export interface Framed {
  /** Ink from 0 to 1, of the letters' colour. */
  grey: Grey;
  limit: number;
  /** What the letters and the ground look like. */
  colours: { letters: Rgb; ground: Rgb };
  /** From its own pixels to the picture's. */
  place: (x: number, y: number) => Corner;
}

const rectangleOf = ([a, b, c, d]: Frame): { wide: number; high: number } => ({
  wide: (hypot(b[0] - a[0], b[1] - a[1]) + hypot(c[0] - d[0], c[1] - d[1])) / 2,
  high: (hypot(d[0] - a[0], d[1] - a[1]) + hypot(c[0] - b[0], c[1] - b[1])) / 2,
});

/** Undefined when the frame is no frame, too small, or nothing stands out in it. `letters` is the colour of the letters, where it was chosen. */
export function framedPart(picture: Colours, frame: Frame, strokes: readonly Stroke[] = [], letters?: Rgb): Framed | undefined {
  const m = homographyOf(frame);
  const { wide, high } = rectangleOf(frame);
  if (!m || high < LEAST_HIGH || wide < LEAST_HIGH / 2) return undefined;
  const scale = min(1, MOST_HIGH / high, MOST_WIDE / wide);
  const [width, height] = [max(4, round(wide * scale)), max(4, round(high * scale))];
  // Where the picture is made smaller, each pixel is the mean of several.
  const parts = min(6, ceil(1 / scale));
  const rgb = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = (y * width + x) * 3;
      for (let k = 0; k < parts * parts; k++) {
        const [px, py] = placeIn(m, (x + ((k % parts) + 0.5) / parts) / width, (y + (floor(k / parts) + 0.5) / parts) / height);
        addSample(picture, px - 0.5, py - 0.5, rgb, at, 1 / (parts * parts));
      }
    }
  }
  const found = separated(rgb, width, height, letters);
  if (!found) return undefined;
  const place = (x: number, y: number): Corner => placeIn(m, x / width, y / height);
  const flat = even({ width, height, ink: found.ink });
  brush(flat, strokes, place, m);
  const limit = inkLimit(flat.ink);
  const full = sampleAbove(flat.ink, limit);
  if (full < 0.08) return undefined;
  for (let i = 0; i < flat.ink.length; i++) flat.ink[i] = min(1, flat.ink[i]! / full);
  return { grey: flat, limit: min(0.6, max(0.3, limit / full)), colours: found.colours, place };
}

function addSample({ width, height, data }: Colours, x: number, y: number, out: Float32Array, at: number, weight: number): void {
  const [cx, cy] = [max(0, min(width - 1, x)), max(0, min(height - 1, y))];
  const [u, v] = [min(width - 2, floor(cx)), min(height - 2, floor(cy))];
  const [fx, fy] = [cx - u, cy - v];
  const from = (max(0, v) * width + max(0, u)) * 4;
  const [right, down] = [width > 1 ? 4 : 0, height > 1 ? width * 4 : 0];
  for (let c = 0; c < 3; c++) {
    const i = from + c;
    const top = data[i]! * (1 - fx) + data[i + right]! * fx;
    const bottom = data[i + down]! * (1 - fx) + data[i + right + down]! * fx;
    out[at + c]! += weight * (top * (1 - fy) + bottom * fy);
  }
}

/** From the picture's pixels back to the unit square; undefined where it does not lead back. */
function inverseOf(m: Homography): Homography | undefined {
  const [a, b, c, d, e, f, g, h, i] = m as [number, number, number, number, number, number, number, number, number];
  const [A, B, C] = [e * i - f * h, f * g - d * i, d * h - e * g];
  const det = a * A + b * B + c * C;
  if (Math.abs(det) < 1e-12) return undefined;
  return [A, c * h - b * i, b * f - c * e, B, a * i - c * g, c * d - a * f, C, b * g - a * h, a * e - b * d].map((value) => value / det);
}

/** A stroke is gone along in pieces no longer than so many radiuses: around each only a few pixels are looked at. */
const PIECE = 4;
/** Takes what lies under strokes of the brush out of a line. `place` leads from its pixels to the picture's, `m` from the unit square. */
function brush({ width, height, ink }: Grey, strokes: readonly Stroke[], place: Framed["place"], m: Homography): void {
  const back = strokes.length === 0 ? undefined : inverseOf(m);
  if (!back) return;
  for (const { points, radius } of strokes) {
    for (const [i, to] of points.entries()) {
      const from = points[i - 1] ?? to;
      const pieces = max(1, ceil(hypot(to[0] - from[0], to[1] - from[1]) / max(1, PIECE * radius)));
      for (let k = 0; k < pieces; k++) {
        const at = (part: number): Corner => [from[0] + (to[0] - from[0]) * part, from[1] + (to[1] - from[1]) * part];
        brushPiece(at(k / pieces), at((k + 1) / pieces), radius);
      }
    }
  }

  function brushPiece(from: Corner, to: Corner, radius: number): void {
    const [x0, x1] = [min(from[0], to[0]) - radius, max(from[0], to[0]) + radius];
    const [y0, y1] = [min(from[1], to[1]) - radius, max(from[1], to[1]) + radius];
    // Straight edges stay straight, so that the corners bound what lies between them.
    const corners = [placeIn(back!, x0, y0), placeIn(back!, x1, y0), placeIn(back!, x1, y1), placeIn(back!, x0, y1)];
    if (!corners.every(([u, v]) => Number.isFinite(u) && Number.isFinite(v))) return;
    const across = corners.map(([u]) => u * width);
    const down = corners.map(([, v]) => v * height);
    const [left, right] = [max(0, floor(min(...across)) - 1), min(width, ceil(max(...across)) + 1)];
    const [top, bottom] = [max(0, floor(min(...down)) - 1), min(height, ceil(max(...down)) + 1)];
    for (let y = top; y < bottom; y++) {
      for (let x = left; x < right; x++) {
        const pixel = y * width + x;
        if (ink[pixel] === 0) continue;
        const [px, py] = place(x + 0.5, y + 0.5);
        if (isNear(px, py, from, to, radius)) ink[pixel] = 0;
      }
    }
  }
}
function isNear(x: number, y: number, [ax, ay]: Corner, [bx, by]: Corner, radius: number): boolean {
  const [dx, dy] = [bx - ax, by - ay];
  const square = dx * dx + dy * dy;
  const t = square === 0 ? 0 : max(0, min(1, ((x - ax) * dx + (y - ay) * dy) / square));
  return hypot(x - ax - t * dx, y - ay - t * dy) <= radius;
}

/** Full ink: what few inked pixels have more of. Thin strokes that are blurred reach it hardly anywhere. */
function sampleAbove(ink: Float32Array, limit: number): number {
  const above = ink.filter((value) => value > limit).sort();
  return above[floor(above.length * 0.88)] ?? 0;
}

/** Colours further apart than this, of 255, are told apart. */
const LEAST_APART = 18;
const ROUNDS = 8;
const MOST_SAMPLES = 20_000;
/**
 * How much of the letters' colour each pixel has, 0 to 1. The two colours a frame is made of are found by its pixels (k-means of two,
 * begun along the widest spread); the ground is the one along its border.
 */
function separated(
  rgb: Float32Array,
  width: number,
  height: number,
  letters: Rgb | undefined,
): { ink: Float32Array; colours: Framed["colours"] } | undefined {
  const count = width * height;
  const step = max(1, floor(count / MOST_SAMPLES));
  const at = (i: number): [number, number, number] => [rgb[3 * i]!, rgb[3 * i + 1]!, rgb[3 * i + 2]!];
  const square = (a: Rgb, b: Rgb) => (a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2;
  let [one, other]: [Rgb, Rgb] = ends(rgb, count, step);
  if (letters) {
    // The ground is what is further from the chosen colour than most.
    const sums = [0, 0, 0, 0];
    const far: number[] = [];
    for (let i = 0; i < count; i += step) far.push(square(at(i), letters));
    const limit = far.sort((a, b) => a - b)[floor(far.length / 2)]!;
    for (let i = 0; i < count; i += step) {
      const pixel = at(i);
      if (square(pixel, letters) < limit) continue;
      for (let c = 0; c < 3; c++) sums[c]! += pixel[c]!;
      sums[3]!++;
    }
    [one, other] = [letters, [sums[0]! / sums[3]!, sums[1]! / sums[3]!, sums[2]! / sums[3]!]];
  } else {
    for (let k = 0; k < ROUNDS; k++) {
      const sums = [0, 0, 0, 0, 0, 0, 0, 0];
      for (let i = 0; i < count; i += step) {
        const pixel = at(i);
        const to = square(pixel, one) < square(pixel, other) ? 0 : 4;
        for (let c = 0; c < 3; c++) sums[to + c]! += pixel[c]!;
        sums[to + 3]!++;
      }
      if (sums[3] === 0 || sums[7] === 0) return undefined;
      one = [sums[0]! / sums[3]!, sums[1]! / sums[3]!, sums[2]! / sums[3]!];
      other = [sums[4]! / sums[7]!, sums[5]! / sums[7]!, sums[6]! / sums[7]!];
    }
    if (borderShare(rgb, width, height, (pixel) => square(pixel, one) < square(pixel, other)) > 0.5) [one, other] = [other, one];
  }
  const apart = square(one, other);
  if (apart < LEAST_APART * LEAST_APART) return undefined;
  const ink = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    const pixel = at(i);
    if (letters) {
      // Off the line between the two colours is neither: it counts as ground.
      ink[i] = max(0, 1 - sqrt(square(pixel, letters) / apart) * 1.2);
      continue;
    }
    const along =
      (pixel[0] - other[0]) * (one[0] - other[0]) +
      (pixel[1] - other[1]) * (one[1] - other[1]) +
      (pixel[2] - other[2]) * (one[2] - other[2]);
    ink[i] = max(0, along / apart + 0.2);
  }
  const rounded = (colour: Rgb): Rgb => [round(colour[0]), round(colour[1]), round(colour[2])];
  return { ink, colours: { letters: rounded(one), ground: rounded(other) } };
}
function borderShare(rgb: Float32Array, width: number, height: number, is: (pixel: Rgb) => boolean): number {
  const deep = max(1, round(height * 0.04));
  let [all, held] = [0, 0];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (y >= deep && y < height - deep && x >= deep && x < width - deep) continue;
      const i = 3 * (y * width + x);
      all++;
      if (is([rgb[i]!, rgb[i + 1]!, rgb[i + 2]!])) held++;
    }
  }
  return held / all;
}
/** Two colours at the ends of the widest spread (the first principal axis, by power iteration). */
function ends(rgb: Float32Array, count: number, step: number): [Rgb, Rgb] {
  const mean = [0, 0, 0];
  let n = 0;
  for (let i = 0; i < count; i += step, n++) for (let c = 0; c < 3; c++) mean[c]! += rgb[3 * i + c]!;
  for (let c = 0; c < 3; c++) mean[c]! /= n;
  const spread = new Float64Array(9);
  for (let i = 0; i < count; i += step)
    for (let a = 0; a < 3; a++)
      for (let b = 0; b < 3; b++) spread[3 * a + b]! += (rgb[3 * i + a]! - mean[a]!) * (rgb[3 * i + b]! - mean[b]!);
  let axis = [0.57, 0.6, 0.55];
  for (let k = 0; k < 24; k++) {
    const next = [0, 1, 2].map((a) => spread[3 * a]! * axis[0]! + spread[3 * a + 1]! * axis[1]! + spread[3 * a + 2]! * axis[2]!);
    const long = hypot(...next);
    if (long === 0) break;
    axis = next.map((value) => value / long);
  }
  const along: number[] = [];
  for (let i = 0; i < count; i += step) {
    along.push([0, 1, 2].reduce((sum, c) => sum + (rgb[3 * i + c]! - mean[c]!) * axis[c]!, 0));
  }
  along.sort((a, b) => a - b);
  const colour = (t: number): Rgb => [mean[0]! + axis[0]! * t, mean[1]! + axis[1]! * t, mean[2]! + axis[2]! * t];
  // Thin letters in a wide frame are one pixel in a hundred.
  return [colour(along[floor(along.length * 0.004)]!), colour(along[floor(along.length * 0.996)]!)];
}

/** The part as it would be seen turned by half, or in a mirror. */
export function turnedPart(framed: Framed, how: "half" | "mirror"): Framed {
  const { grey, place } = framed;
  const { width, height } = grey;
  const ink = new Float32Array(grey.ink.length);
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) ink[at] = grey.ink[(how === "half" ? height - 1 - y : y) * width + width - 1 - x]!;
  return {
    ...framed,
    grey: { width, height, ink },
    place: (x, y) => place(width - x, how === "half" ? height - y : y),
  };
}

export const frameAround = (x: number, y: number, width: number, height: number): Frame => [
  [x, y],
  [x + width, y],
  [x + width, y + height],
  [x, y + height],
];
