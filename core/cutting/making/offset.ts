// Contours at a distance, and shadows: polygons on the grid, given their curves back by fitting, each fitted piece checked.
import { FillRule, type Path64, type Paths64 } from "clipper2-ts";
import { createTangent, fitCubic } from "fit-curve";
import { boxOf, isEmptyBox, pointAt, polygonOf, type Contour, type Segment } from "../outlines/curve.ts";
import { clip, Flat, type Filled } from "../outlines/engines.ts";
import { polygonsOf, TOUCH_MM } from "../outlines/join.ts";
import { crossingsOf } from "../outlines/judge.ts";

/** How far rounded corners may lie from their circles, and fitted curves from the points they stand for, millimetres. */
const ARC_MM = 0.005;
const FIT_MM = 0.005;
/** A sharper turn than this between two edges is a corner, which fitting leaves alone; a curve is fitted in pieces that turn no further than that. */
const CORNER = (35 * Math.PI) / 180;
const PIECE = (95 * Math.PI) / 180;

/** Edges that turn less than that belong to one curve, and are followed by one. */
const SMOOTH = (15 * Math.PI) / 180;

type Point = [number, number];

/** One fitted curve lies on its points: every sampled place near one of their edges, so that it neither strays nor loops. */
function liesOn(curve: Segment, points: readonly Point[]): boolean {
  const distance = (x: number, y: number): number => {
    let least = Infinity;
    for (let i = 0; i + 1 < points.length; i++) {
      const [[ax, ay], [bx, by]] = [points[i]!, points[i + 1]!];
      const [dx, dy] = [bx - ax, by - ay];
      const t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
      least = Math.min(least, Math.hypot(x - ax - t * dx, y - ay - t * dy));
    }
    return least;
  };
  for (let k = 1; k < 12; k++) if (distance(...pointAt(curve, k / 12)) > 1.5 * FIT_MM) return false;
  return true;
}

const lines = (points: readonly Point[]): Segment[] => points.slice(1).map(([x, y], i) => [...points[i]!, x, y]);

/** A smooth stretch of points as cubic curves; as straight lines wherever a curve does not pass the check. */
function smooth(points: Point[], start: Point, end: Point): Segment[] {
  if (points.length < 4) return lines(points);
  let from = 0;
  return fitCubic(points, start, end, FIT_MM * FIT_MM).flatMap((fit): Segment[] => {
    const curve = fit.flat();
    const last = fit[3];
    // Curves meet at the points they were made from.
    let to = from + 1;
    while (to < points.length - 1 && (points[to]![0] !== last[0] || points[to]![1] !== last[1])) to++;
    const own = points.slice(from, to + 1);
    from = to;
    return own.length > 2 && curve.every(Number.isFinite) && liesOn(curve, own) ? [curve] : lines(own);
  });
}

/** The direction of the circle through three points, at the one in the middle: the shorter side says more of it. */
function tangent(a: Point, b: Point, c: Point): Point {
  const [before, after] = [Math.hypot(b[0] - a[0], b[1] - a[1]) || 1, Math.hypot(c[0] - b[0], c[1] - b[1]) || 1];
  const [x, y] = [0, 1].map((k) => ((b[k]! - a[k]!) * after) / before + ((c[k]! - b[k]!) * before) / after) as [number, number];
  const size = Math.hypot(x, y) || 1;
  return [x / size, y / size];
}

/** A polygon with curves where it is smooth. */
function fitted(polygon: readonly Point[]): Contour {
  const n = polygon.length;
  if (n < 3) return [];
  const turns = polygon.map(([x, y], i) => {
    const [[ax, ay], [bx, by]] = [polygon[(i + n - 1) % n]!, polygon[(i + 1) % n]!];
    const angle = Math.atan2(by - y, bx - x) - Math.atan2(y - ay, x - ax);
    return angle > Math.PI ? angle - 2 * Math.PI : angle < -Math.PI ? angle + 2 * Math.PI : angle;
  });
  const long = polygon.map(([x, y], i) => Math.hypot(polygon[(i + 1) % n]![0] - x, polygon[(i + 1) % n]![1] - y));
  const middling = long.reduce((sum, one) => sum + one, 0) / n;
  // Corners, and both ends of stretches so long that they were straight.
  const isCorner = turns.map((turn, i) => Math.abs(turn) > CORNER || long[i]! > 4 * middling || long[(i + n - 1) % n]! > 4 * middling);
  const first = Math.max(0, isCorner.indexOf(true));
  // A joint that is no corner goes on as its neighbours on both sides say; a corner as the curve that begins there does.
  const towards = (i: number, ahead: boolean): Point => {
    const at = (k: number): Point => polygon[(i + k + 2 * n) % n]!;
    const way = ahead ? 1 : -1;
    if (!isCorner[i % n]) {
      const [x, y] = tangent(at(-1), at(0), at(1));
      return [way * x, way * y];
    }
    // The circle through it and the next two: its direction mirrored in the chord between the first two.
    const [x, y] = tangent(at(0), at(way), at(2 * way));
    const [cx, cy] = createTangent(at(way), at(0));
    const along = 2 * (x * cx + y * cy);
    return [along * cx - x, along * cy - y];
  };
  const segments: Segment[] = [];
  const put = (from: number, to: number) =>
    segments.push(
      ...smooth(
        Array.from({ length: to - from + 1 }, (_, k): Point => [...polygon[(from + k) % n]!]),
        towards(from, true),
        towards(to, false),
      ),
    );
  // From corner to corner, in pieces that turn equally far.
  for (let from = first; from < first + n;) {
    let to = from + 1;
    let turned = 0;
    while (to < first + n && !isCorner[to % n]) turned += Math.abs(turns[to++ % n]!);
    let pieces = Math.ceil(turned / PIECE);
    const share = turned / pieces;
    let [start, sum] = [from, 0];
    for (let k = from + 1; k < to; k++) {
      sum += Math.abs(turns[k % n]!);
      if (pieces < 2 || sum < share || k === start + 1) continue;
      put(start, k);
      [start, sum] = [k, 0];
      pieces--;
    }
    put(start, to);
    from = to;
  }
  return segments;
}

const pointsOf = (paths: Paths64, gridMm: number): Point[][] =>
  paths.map((path) => path.map(({ x, y }): Point => [x * gridMm, y * gridMm])).filter((path) => path.length > 2);

const flatOf = (shape: Filled, spareMm: number): Flat | undefined => {
  const box = boxOf(shape);
  if (isEmptyBox(box)) return undefined;
  return new Flat([shape], Math.max(box.right - box.left, box.bottom - box.top) + 2 * Math.abs(spareMm), ARC_MM);
};

/** A polygon every point of which lies at a distance from a path, to its left as seen on a screen where that is positive; it may cross itself. */
function rawOffset(path: Path64, distance: number, arcStep: number): Path64 {
  const n = path.length;
  const normals = path.map((p, i) => {
    const q = path[(i + 1) % n]!;
    const long = Math.hypot(q.x - p.x, q.y - p.y) || 1;
    // Material lies on the right of an outline.
    return [(q.y - p.y) / long, -(q.x - p.x) / long] as const;
  });
  const points: Path64 = [];
  const put = (p: { x: number; y: number }, nx: number, ny: number) =>
    points.push({ x: Math.round(p.x + nx * distance), y: Math.round(p.y + ny * distance) });
  for (let i = 0; i < n; i++) {
    const p = path[i]!;
    const [[ax, ay], [bx, by]] = [normals[(i + n - 1) % n]!, normals[i]!];
    const [cosine, sine] = [ax * bx + ay * by, ax * by - ay * bx];
    const turn = Math.atan2(sine, cosine);
    if (Math.abs(turn) < (turn * distance > 0 ? Math.min(arcStep, SMOOTH) : SMOOTH)) {
      const k = 1 / (1 + cosine);
      put(p, (ax + bx) * k, (ay + by) * k);
    } else if (turn * distance > 0) {
      // Around a corner in an arc.
      const steps = Math.max(1, Math.ceil(Math.abs(turn) / arcStep));
      for (let k = 0; k <= steps; k++) {
        const angle = (turn * k) / steps;
        const [c, s] = [Math.cos(angle), Math.sin(angle)];
        put(p, ax * c - ay * s, ax * s + ay * c);
      }
    } else {
      put(p, ax, ay);
      points.push(p);
      put(p, bx, by);
    }
  }
  return points;
}

/** Polygons at a distance from a joined drawing, outwards or (negative) inwards, round at corners; millimetres. */
export function offsetPolygons(shape: Filled, mm: number): Point[][] {
  const flat = flatOf(shape, mm);
  if (!flat) return [];
  const { gridMm } = flat;
  const arcStep = 2 * Math.acos(Math.max(0, 1 - ARC_MM / Math.max(Math.abs(mm), ARC_MM)));
  const raw = flat.paths(0).map((path) => rawOffset(path, mm / gridMm, arcStep));
  return pointsOf(clip("union", raw, [], FillRule.Positive), gridMm);
}
/** With curves where fitting them leaves no crossing; as polygons otherwise. */
function curved(polygons: Point[][]): Contour[] {
  const curves = polygons.map(fitted).filter((contour) => contour.length > 1);
  return crossingsOf(polygonsOf(curves, FIT_MM), TOUCH_MM).length === 0 ? curves : polygons.map(polygonOf);
}
/** The same with curves: outer contours clockwise as seen on a screen, counters the other way. */
export const offset = (shape: Filled, mm: number): Contour[] => (mm === 0 ? [...shape] : curved(offsetPolygons(shape, mm)));

/** What a polygon's outline passes over: one band for every stretch that faces the same way, all running clockwise as seen on a screen. */
function bandsOf(path: Path64, x: number, y: number): Paths64 {
  const n = path.length;
  const faces = path.map((p, i) => Math.sign((path[(i + 1) % n]!.x - p.x) * y - (path[(i + 1) % n]!.y - p.y) * x));
  const first = Math.max(
    0,
    faces.findIndex((face, i) => face !== faces[(i + n - 1) % n]),
  );
  const bands: Paths64 = [];
  let stretch: Path64 = [];
  for (let k = 0; k < n; k++) {
    const i = (first + k) % n;
    const face = faces[i]!;
    stretch.push(path[i]!);
    if (k + 1 < n && faces[(i + 1) % n] === face) continue;
    stretch.push(path[(i + 1) % n]!);
    const band = [...stretch, ...stretch.map((p) => ({ x: p.x + x, y: p.y + y })).reverse()];
    if (face !== 0) bands.push(face < 0 ? band.reverse() : band);
    stretch = [];
  }
  return bands;
}

/** A joined drawing together with everything it passes over when it is moved by (x, y) millimetres. */
export function swept(shape: Filled, x: number, y: number): Contour[] {
  const flat = flatOf(shape, Math.hypot(x, y));
  if (!flat) return [];
  const [gx, gy] = [Math.round(x / flat.gridMm), Math.round(y / flat.gridMm)];
  const paths = flat.paths(0);
  const moved = paths.map((path) => path.map((p) => ({ x: p.x + gx, y: p.y + gy })));
  const whole = clip("union", [...paths.flatMap((path) => bandsOf(path, gx, gy)), ...paths, ...moved], []);
  return curved(pointsOf(whole, flat.gridMm));
}
