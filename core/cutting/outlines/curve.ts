// Exact outlines: closed contours of straight, quadratic and cubic segments, in millimetres, y downwards.
import type { Command } from "../../bench/draw-face.ts";

/** A segment's points one after another: 4 numbers for a line, 6 for a quadratic, 8 for a cubic curve; from its start to its end. */
export type Segment = readonly number[];
/** Closed: each segment begins where the one before ends, the first where the last does. */
export type Contour = readonly Segment[];

export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}
export const NO_BOX: Box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
export const isEmptyBox = ({ left, right }: Box): boolean => left > right;
export const united = (a: Box, b: Box): Box => ({
  left: Math.min(a.left, b.left),
  top: Math.min(a.top, b.top),
  right: Math.max(a.right, b.right),
  bottom: Math.max(a.bottom, b.bottom),
});

/** The point at `t` from 0 to 1. */
export function pointAt(segment: Segment, t: number): [x: number, y: number] {
  const u = 1 - t;
  if (segment.length === 4) return [u * segment[0]! + t * segment[2]!, u * segment[1]! + t * segment[3]!];
  if (segment.length === 6) {
    const [a, b, c] = [u * u, 2 * u * t, t * t];
    return [a * segment[0]! + b * segment[2]! + c * segment[4]!, a * segment[1]! + b * segment[3]! + c * segment[5]!];
  }
  const [a, b, c, d] = [u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t];
  return [
    a * segment[0]! + b * segment[2]! + c * segment[4]! + d * segment[6]!,
    a * segment[1]! + b * segment[3]! + c * segment[5]! + d * segment[7]!,
  ];
}
/** The derivative at `t`, millimetres for the whole of t. */
export function slopeAt(segment: Segment, t: number): [x: number, y: number] {
  const u = 1 - t;
  const of = (k: 0 | 1): number => {
    const p = (i: number) => segment[2 * i + k]!;
    if (segment.length === 4) return p(1) - p(0);
    if (segment.length === 6) return 2 * (u * (p(1) - p(0)) + t * (p(2) - p(1)));
    return 3 * (u * u * (p(1) - p(0)) + 2 * u * t * (p(2) - p(1)) + t * t * (p(3) - p(2)));
  };
  return [of(0), of(1)];
}

const mix = (a: Segment, b: Segment, t: number): number[] => a.map((value, i) => value + (b[i]! - value) * t);
/** Both halves of a segment cut at `t` (de Casteljau). */
function cutAt(segment: Segment, t: number): [Segment, Segment] {
  let points = Array.from({ length: segment.length / 2 }, (_, i) => [segment[2 * i]!, segment[2 * i + 1]!]);
  const [first, second]: [number[], number[]] = [[...points[0]!], [...points.at(-1)!]];
  while (points.length > 1) {
    points = points.slice(1).map((point, i) => mix(points[i]!, point, t));
    first.push(...points[0]!);
    second.unshift(...points.at(-1)!);
  }
  return [first, second];
}
function turned(segment: Segment): Segment {
  const back: number[] = [];
  for (let i = segment.length - 2; i >= 0; i -= 2) back.push(segment[i]!, segment[i + 1]!);
  return back;
}
export const turnedContour = (contour: Contour): Contour => contour.map(turned).reverse();
/** The part of a segment from `from` to `to`, turned round where `to` is the lesser. */
export function partOf(segment: Segment, from: number, to: number): Segment {
  if (from > to) return turned(partOf(segment, to, from));
  if (from <= 0 && to >= 1) return segment;
  const rest = from <= 0 ? segment : cutAt(segment, from)[1];
  return to >= 1 ? rest : cutAt(rest, from <= 0 ? to : (to - from) / (1 - from))[0];
}

/** Twice what the segment adds to the area of its contour: positive where the contour runs clockwise as seen on a screen (Green's theorem, exact). */
function doubleArea(s: Segment): number {
  const cross = (i: number, k: number) => s[2 * i]! * s[2 * k + 1]! - s[2 * k]! * s[2 * i + 1]!;
  if (s.length === 4) return cross(0, 1);
  if (s.length === 6) return (2 * cross(0, 1) + cross(0, 2) + 2 * cross(1, 2)) / 3;
  return (6 * cross(0, 1) + 3 * cross(0, 2) + cross(0, 3) + 3 * cross(1, 2) + 3 * cross(1, 3) + 6 * cross(2, 3)) / 10;
}
/** Square millimetres with a sign: positive for a clockwise contour as seen on a screen. */
export const areaOf = (contour: Contour): number => contour.reduce((sum, segment) => sum + doubleArea(segment), 0) / 2;

/** Abscissae and weights of Gauss–Legendre quadrature with 8 points on [−1, 1] (Abramowitz and Stegun, Handbook of Mathematical Functions, table 25.4). */
const GAUSS = [
  [0.1834346424956498, 0.362683783378362],
  [0.525532409916329, 0.3137066458778873],
  [0.7966664774136267, 0.2223810344533745],
  [0.9602898564975363, 0.1012285362903763],
] as const;
/** Millimetres along a segment. */
function lengthOf(segment: Segment): number {
  if (segment.length === 4) return Math.hypot(segment[2]! - segment[0]!, segment[3]! - segment[1]!);
  let sum = 0;
  for (const [at, weight] of GAUSS)
    sum += weight * (Math.hypot(...slopeAt(segment, (1 + at) / 2)) + Math.hypot(...slopeAt(segment, (1 - at) / 2)));
  return sum / 2;
}
export const contourLength = (contour: Contour): number => contour.reduce((sum, segment) => sum + lengthOf(segment), 0);

/** Where one coordinate of a curve turns back, between 0 and 1. */
function turningPoints(s: Segment, k: 0 | 1): number[] {
  const p = (i: number) => s[2 * i + k]!;
  if (s.length === 4) return [];
  if (s.length === 6) {
    const t = (p(0) - p(1)) / (p(0) - 2 * p(1) + p(2));
    return t > 0 && t < 1 ? [t] : [];
  }
  const [d0, d1, d2] = [p(1) - p(0), p(2) - p(1), p(3) - p(2)];
  const [a, b, c] = [d0 - 2 * d1 + d2, 2 * (d1 - d0), d0];
  const inside = (t: number) => t > 0 && t < 1;
  if (Math.abs(a) < 1e-12) return [-c / b].filter(inside);
  const root = b * b - 4 * a * c;
  return root < 0 ? [] : [(-b + Math.sqrt(root)) / (2 * a), (-b - Math.sqrt(root)) / (2 * a)].filter(inside);
}
/** The exact extent of contours. */
export function boxOf(contours: readonly Contour[]): Box {
  const box = { ...NO_BOX };
  const put = (x: number, y: number) => {
    if (x < box.left) box.left = x;
    if (x > box.right) box.right = x;
    if (y < box.top) box.top = y;
    if (y > box.bottom) box.bottom = y;
  };
  for (const contour of contours)
    for (const segment of contour) {
      put(segment[0]!, segment[1]!);
      for (const k of [0, 1] as const) for (const t of turningPoints(segment, k)) put(...pointAt(segment, t));
    }
  return box;
}

/** (a b c d e f) as in SVG: x' = a x + c y + e, y' = b x + d y + f. */
export type Matrix = readonly [number, number, number, number, number, number];
export const transformed = (contour: Contour, [a, b, c, d, e, f]: Matrix): Contour => {
  const moved = contour.map((segment) =>
    segment.map((value, i) => (i % 2 === 0 ? a * value + c * segment[i + 1]! + e : b * segment[i - 1]! + d * value + f)),
  );
  // A mirrored contour keeps the way it runs.
  return a * d - b * c < 0 ? turnedContour(moved) : moved;
};
export const movedBy = (contour: Contour, x: number, y: number): Contour =>
  contour.map((segment) => segment.map((value, i) => value + (i % 2 === 0 ? x : y)));

/** An outline of a face as contours: `unitMm` millimetres a font unit, moved by (x, y) millimetres, turned so that y runs downwards. */
export function contoursOf(outline: readonly Command[], unitMm: number, x: number, y: number): Contour[] {
  const contours: Contour[] = [];
  let segments: Segment[] = [];
  let [startX, startY, atX, atY] = [0, 0, 0, 0];
  const close = () => {
    if (segments.length > 0) {
      if (atX !== startX || atY !== startY) segments.push([atX, atY, startX, startY]);
      contours.push(segments);
    }
    segments = [];
  };
  for (const { type, values } of outline) {
    if (type === "Z") {
      close();
      continue;
    }
    const points = values.map((value, i) => (i % 2 === 0 ? x + value * unitMm : y - value * unitMm));
    if (type === "M") {
      close();
      [startX, startY] = [points[0]!, points[1]!];
    } else {
      const segment = [atX, atY, ...points];
      if (segment.some((value, i) => value !== segment[i % 2])) segments.push(segment);
    }
    [atX, atY] = [points.at(-2)!, points.at(-1)!];
  }
  close();
  return contours;
}

/** The same curve as a cubic one, exactly. */
export function cubicOf(s: Segment): Segment {
  if (s.length === 8) return s;
  const third = (a: number, b: number) => a + (b - a) / 3;
  if (s.length === 4) {
    const [x0, y0, x1, y1] = s as [number, number, number, number];
    return [x0, y0, third(x0, x1), third(y0, y1), third(x1, x0), third(y1, y0), x1, y1];
  }
  const [x0, y0, cx, cy, x1, y1] = s as [number, number, number, number, number, number];
  return [x0, y0, third(cx, x0), third(cy, y0), third(cx, x1), third(cy, y1), x1, y1];
}

/** A closed polygon as a contour of lines. */
export function polygonOf(points: readonly (readonly [number, number])[]): Contour {
  return points.map(([x, y], i) => [x, y, ...points[(i + 1) % points.length]!]);
}
