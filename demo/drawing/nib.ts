// Draws skeletons with nibs that are not round: a broad pen, a pointed pen that swells on the way down, a brush that lifts at its ends; with
// serifs where a stem ends, and the bridges of a stencil. What the nib covers is united, and its edge becomes quadratic curves.
import { Clipper64, ClipType, FillRule, PathType, type Path64, type Paths64 } from "clipper2-ts";
import type { PathKit } from "pathkit-wasm";
import { pathKit } from "../../core/cutting/outlines/path-kit.ts";
import { advanceOf, trace, type DrawnGlyph, type Outline, type Pen, type Point } from "./pen.ts";
import type { Skeleton } from "./skeletons.ts";

export interface Nib extends Omit<Pen, "square"> {
  /** broad: a flat edge held at an angle. pointed: `width` on the way down, `thin` across and up. brush: `thin` where a stroke begins and ends. */
  kind: "broad" | "pointed" | "brush";
  thin: number;
  /** Of a broad pen's edge, in degrees above the horizontal. */
  angle?: number;
  /** Bars where upright stems end: how long, and how thick. */
  serif?: { long: number; thick: number };
  /** Width of the bridges of a stencil. */
  bridge?: number;
}

/** A point of a stroke: where it is, and how far along its stroke from 0 to 1. */
interface Spot {
  x: number;
  y: number;
  along: number;
}
interface Stroke {
  spots: Spot[];
  closed: boolean;
}
/** Dots are pressed, not drawn: a brush does not lift within them. */
const DOT = 40;

/** Clipper counts in whole numbers: so many of them are a unit. */
const FINE = 16;
/** Curves are cut into pieces of about this length. */
const PIECE = 14;
/** An edge may stray this far from what the nib covered. */
const STRAY = 1.4;
/** A turn of more than this many degrees is a corner. */
const CORNER = 32;
const ROUND = 20;

/** A skeleton's strokes as many short steps. */
function strokesOf(kit: PathKit, skeleton: Skeleton, nib: Nib): Stroke[] {
  const stretch = nib.stretch ?? 1;
  const path = kit.NewPath();
  trace(skeleton[1], path, { x: (x, y) => x * stretch + y * (nib.slant ?? 0) + (nib.spacing ?? 0) / 2 });
  const strokes: Stroke[] = [];
  let points: [number, number][] = [];
  const finish = (closed: boolean) => {
    if (points.length > 1) strokes.push({ closed, spots: alongOf(points) });
    points = [];
  };
  const line = (x: number, y: number) => {
    const [px, py] = points.at(-1)!;
    const steps = Math.max(1, Math.ceil(Math.hypot(x - px, y - py) / PIECE));
    for (let i = 1; i <= steps; i++) points.push([px + ((x - px) * i) / steps, py + ((y - py) * i) / steps]);
  };
  for (const [verb, ...values] of path.toCmds()) {
    const v = values as number[];
    if (verb === kit.MOVE_VERB) {
      finish(false);
      points.push([v[0]!, v[1]!]);
    } else if (verb === kit.LINE_VERB) line(v[0]!, v[1]!);
    else if (verb === kit.QUAD_VERB) {
      const [px, py] = points.at(-1)!;
      const steps = Math.max(2, Math.ceil(Math.hypot(v[2]! - px, v[3]! - py) / PIECE) + 2);
      for (let i = 1; i <= steps; i++) {
        const t = i / steps;
        const at = (a: number, b: number, c: number) => (1 - t) * (1 - t) * a + 2 * t * (1 - t) * b + t * t * c;
        points.push([at(px, v[0]!, v[2]!), at(py, v[1]!, v[3]!)]);
      }
    } else if (verb === kit.CLOSE_VERB) {
      const [first] = points;
      if (first) line(first[0], first[1]);
      finish(true);
    }
  }
  finish(false);
  path.delete();
  return strokes;
}
function alongOf(points: readonly [number, number][]): Spot[] {
  let length = 0;
  const far = points.map(([x, y], i) => (i === 0 ? 0 : (length += Math.hypot(x - points[i - 1]![0], y - points[i - 1]![1]))));
  return points.map(([x, y], i) => ({ x, y, along: length === 0 ? 0 : far[i]! / length }));
}

/** A round dot, a little heavier than the stems. */
const dotNib = (nib: Nib): Nib => ({ ...nib, kind: "brush", width: nib.width * 1.1 });
const isDot = (spots: readonly Spot[]): boolean => {
  const [first, last] = [spots[0]!, spots.at(-1)!];
  return spots.length < 4 && Math.hypot(last.x - first.x, last.y - first.y) < DOT;
};

/** The nib's outline around its middle, for a step in a direction. */
function nibAt(nib: Nib, dx: number, dy: number, along: number): [number, number][] {
  const circle = (radius: number): [number, number][] =>
    Array.from({ length: ROUND }, (_, i) => [radius * Math.cos((2 * Math.PI * i) / ROUND), radius * Math.sin((2 * Math.PI * i) / ROUND)]);
  if (nib.kind === "broad") {
    const turn = ((nib.angle ?? 30) * Math.PI) / 180;
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    const [half, edge] = [nib.width / 2, nib.thin / 2];
    return (
      [
        [half, edge],
        [-half, edge],
        [-half, -edge],
        [half, -edge],
      ] as const
    ).map(([x, y]) => [x * c - y * s, x * s + y * c]);
  }
  const length = Math.hypot(dx, dy) || 1;
  if (nib.kind === "pointed") {
    // Pressed on the way down and up alike, as type is drawn: by how upright the step is.
    const upright = Math.abs(dy) / length;
    return circle((nib.thin + (nib.width - nib.thin) * upright ** 3) / 2);
  }
  const lifted = Math.min(1, Math.min(along, 1 - along) * 5);
  return circle((nib.thin + (nib.width - nib.thin) * Math.sin((lifted * Math.PI) / 2)) / 2);
}

/** The convex hull of points (Andrew's monotone chain), counter-clockwise. */
function hull(points: readonly [number, number][]): [number, number][] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const half = (order: readonly [number, number][]) => {
    const chain: [number, number][] = [];
    for (const p of order) {
      for (;;) {
        const [a, b] = [chain.at(-2), chain.at(-1)];
        if (!a || !b || (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]) > 0) break;
        chain.pop();
      }
      chain.push(p);
    }
    return chain.slice(0, -1);
  };
  return [...half(sorted), ...half(sorted.toReversed())];
}

const toPath = (points: readonly [number, number][]): Path64 =>
  points.map(([x, y]) => ({ x: Math.round(x * FINE), y: Math.round(y * FINE) }));
function clip(kind: ClipType, subjects: Paths64, clips: Paths64 = []): Paths64 {
  const clipper = new Clipper64();
  clipper.addPaths(subjects, PathType.Subject, false);
  if (clips.length > 0) clipper.addPaths(clips, PathType.Clip, false);
  const out: Paths64 = [];
  clipper.execute(kind, FillRule.NonZero, out);
  return out;
}

/** Bars across the ends of upright stems. */
function serifs(stroke: Stroke, { serif, thin, slant = 0 }: Nib): [number, number][][] {
  if (!serif || stroke.closed) return [];
  const { spots } = stroke;
  const [top, bottom] = [Math.max(...spots.map(({ y }) => y)), Math.min(...spots.map(({ y }) => y))];
  if (top - bottom < SHORT_STROKE) return [];
  const ends = [
    [spots[0]!, spots[1]!],
    [spots.at(-1)!, spots.at(-2)!],
  ] as const;
  return ends.flatMap(([end, next]) => {
    const [dx, dy] = [next.x - end.x - (next.y - end.y) * slant, next.y - end.y];
    const on = (heights: readonly number[]) => heights.some((height) => Math.abs(height - end.y) < 4);
    if (Math.abs(dx) > 0.5 * Math.abs(dy) || !(on(LINES.feet) || on(LINES.heads))) return [];
    const [half, thick] = [serif.long / 2, serif.thick];
    // Small letters' stems begin with a flag to the left; capitals' and feet go both ways.
    const right = on([480, 740]) ? serif.thick / 2 : half;
    // The bar begins where the nib ends, and lies on the stem's side.
    const foot = end.y - (Math.sign(dy) * thin) / 2;
    const inner = Math.sign(dy) * thick;
    return [
      [
        [end.x - half, foot],
        [end.x + right, foot],
        [end.x + right + inner * slant, foot + inner],
        [end.x - half + inner * slant, foot + inner],
      ] as [number, number][],
    ];
  });
}

const areaOf = (path: Path64): number =>
  path.reduce((sum, { x, y }, i) => {
    const next = path[(i + 1) % path.length]!;
    return sum + Number(x) * Number(next.y) - Number(next.x) * Number(y);
  }, 0);

/** Leaves out points that stand almost on the line between their neighbours (Ramer–Douglas–Peucker), in a ring. */
function thinned(ring: readonly [number, number][]): [number, number][] {
  const keep = (from: number, to: number, kept: Set<number>): void => {
    const [a, b] = [ring[from % ring.length]!, ring[to % ring.length]!];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    let [far, at] = [0, -1];
    for (let i = from + 1; i < to; i++) {
      const p = ring[i % ring.length]!;
      const away = Math.abs((b[0] - a[0]) * (a[1] - p[1]) - (a[0] - p[0]) * (b[1] - a[1])) / length;
      const back = length === 1 ? Math.hypot(p[0] - a[0], p[1] - a[1]) : away;
      if (back > far) [far, at] = [back, i];
    }
    if (far <= STRAY) return;
    kept.add(at % ring.length);
    keep(from, at, kept);
    keep(at, to, kept);
  };
  // From one end of the ring to the point farthest from it, and back.
  const [first] = ring;
  const farthest = ring.reduce(
    (best, p, i) => (Math.hypot(p[0] - first![0], p[1] - first![1]) > best[0] ? [Math.hypot(p[0] - first![0], p[1] - first![1]), i] : best),
    [0, 0] as [number, number],
  )[1];
  const kept = new Set([0, farthest]);
  keep(0, farthest, kept);
  keep(farthest, ring.length, kept);
  return [...kept].sort((a, b) => a - b).map((i) => ring[i]!);
}

/** A ring of lines as a contour of quadratic curves: where it turns softly its points become control points, with points on the edge between them. */
function smoothed(ring: readonly [number, number][]): Point[] {
  const points = ring.map(([x, y], i): Point => {
    const before = ring[(i + ring.length - 1) % ring.length]!;
    const after = ring[(i + 1) % ring.length]!;
    const [inX, inY, outX, outY] = [x - before[0], y - before[1], after[0] - x, after[1] - y];
    const turn = Math.abs((Math.atan2(inX * outY - inY * outX, inX * outX + inY * outY) * 180) / Math.PI);
    // Beside a long straight piece the curve would leave it.
    const straight = Math.max(Math.hypot(inX, inY), Math.hypot(outX, outY)) > 120;
    return { x: Math.round(x), y: Math.round(y), on: turn > CORNER || straight };
  });
  return points.flatMap((point, i) => {
    const next = points[(i + 1) % points.length]!;
    const between = { x: Math.round((point.x + next.x) / 2), y: Math.round((point.y + next.y) / 2), on: true };
    return point.on || next.on ? [point] : [point, between];
  });
}
/** Heights where stems end: tails, baseline, small letters, capitals, tall letters. */
const LINES = { feet: [-200, 0], heads: [480, 700, 740] };
const SHORT_STROKE = 200;

export async function drawWithNib(skeleton: Skeleton, nib: Nib): Promise<DrawnGlyph> {
  const kit = await pathKit();
  const pieces: [number, number][][] = [];
  for (const stroke of strokesOf(kit, skeleton, nib)) {
    const { spots } = stroke;
    for (const [i, b] of spots.entries()) {
      const a = spots[i - 1];
      if (!a) continue;
      const dot = isDot(spots);
      const nibHere = dot ? dotNib(nib) : nib;
      const shapeAt = (spot: Spot) =>
        nibAt(nibHere, b.x - a.x, b.y - a.y, stroke.closed || dot ? 0.5 : spot.along).map(([x, y]): [number, number] => [
          spot.x + x,
          spot.y + y,
        ]);
      pieces.push(hull([...shapeAt(a), ...shapeAt(b)]));
    }
    pieces.push(...serifs(stroke, nib));
  }
  let covered = clip(ClipType.Union, pieces.map(toPath));
  if (nib.bridge !== undefined) {
    // A bridge through the middle of whatever encloses something.
    const middle = advanceOf(skeleton, nib) / 2;
    const holes = covered.some((path) => areaOf(path) < 0);
    const strip = toPath([
      [middle - nib.bridge / 2, -400],
      [middle + nib.bridge / 2, -400],
      [middle + nib.bridge / 2, 1000],
      [middle - nib.bridge / 2, 1000],
    ]);
    if (holes) covered = clip(ClipType.Difference, covered, [strip]);
  }
  const outline: Outline = covered
    .map((path) => smoothed(thinned(path.map(({ x, y }): [number, number] => [Number(x) / FINE, Number(y) / FINE]))))
    .filter((contour) => contour.length > 2);
  return { advance: advanceOf(skeleton, nib), outline };
}
