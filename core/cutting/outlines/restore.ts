// Gives the polygons of a joined drawing their curves back: every run of edges becomes the exact piece of the curve it was cut from.
import { partOf, pointAt, slopeAt, type Contour, type Segment } from "./curve.ts";
import type { FlatContour } from "./flat.ts";

/** A place on a source: contour, edge, and how far along it from 0 to 1. */
interface Place {
  source: number;
  edge: number;
  at: number;
}
interface Run {
  /** Undefined for a stretch that belongs to no source: kept straight. */
  source: number | undefined;
  /** Places along the polygon of the source, counted in edges; `to` may lie before `from`, or beyond the last edge. */
  from: number;
  to: number;
  /** Where it begins, in steps of the grid. */
  x: number;
  y: number;
}

/** So many steps of the grid an intersection may lie beside the edges it is on: it is rounded, and edges near it are bent by that. */
const NEAR = 3;
/** Within this share of an edge two places are the same one. */
const SAME = 0.02;

export class Restorer {
  private readonly sources: readonly FlatContour[];
  private readonly gridMm: number;
  private readonly toleranceMm: number;
  private readonly vertices = new Map<number, Place[]>();
  /** Edges by the cells of a coarse grid, made when first needed. */
  private cells: Map<number, Place[]> | undefined;
  private cell = 1;

  constructor(sources: readonly FlatContour[], gridMm: number, toleranceMm: number) {
    this.sources = sources;
    this.gridMm = gridMm;
    this.toleranceMm = toleranceMm;
    sources.forEach(({ xs, ys }, source) => {
      for (let edge = 0; edge < xs.length; edge++) {
        const key = keyOf(xs[edge]!, ys[edge]!);
        const there = this.vertices.get(key);
        const place = { source, edge, at: 0 };
        if (there) there.push(place);
        else this.vertices.set(key, [place]);
      }
    });
  }

  /** Edges that pass near a point. */
  private near(x: number, y: number): Place[] {
    if (!this.cells) {
      this.cells = new Map();
      let [long, count] = [0, 0];
      for (const { xs, ys } of this.sources)
        for (let i = 0; i < xs.length; i++) {
          long += Math.hypot(xs[(i + 1) % xs.length]! - xs[i]!, ys[(i + 1) % ys.length]! - ys[i]!);
          count++;
        }
      this.cell = Math.max(16, (2 * long) / Math.max(1, count));
      this.sources.forEach(({ xs, ys }, source) => {
        for (let edge = 0; edge < xs.length; edge++) {
          const next = (edge + 1) % xs.length;
          const column = (value: number) => Math.floor(value / this.cell);
          const [x0, x1] = [Math.min(xs[edge]!, xs[next]!) - NEAR, Math.max(xs[edge]!, xs[next]!) + NEAR].map(column) as [number, number];
          const [y0, y1] = [Math.min(ys[edge]!, ys[next]!) - NEAR, Math.max(ys[edge]!, ys[next]!) + NEAR].map(column) as [number, number];
          for (let r = y0; r <= y1; r++)
            for (let c = x0; c <= x1; c++) {
              const key = keyOf(c, r);
              const there = this.cells!.get(key);
              if (there) there.push({ source, edge, at: 0 });
              else this.cells!.set(key, [{ source, edge, at: 0 }]);
            }
        }
      });
    }
    return this.cells.get(keyOf(Math.floor(x / this.cell), Math.floor(y / this.cell))) ?? [];
  }

  /** How far along an edge a point lies, when it lies on it. */
  private along({ source, edge }: Place, x: number, y: number): number | undefined {
    const { xs, ys } = this.sources[source]!;
    const next = (edge + 1) % xs.length;
    const [dx, dy] = [xs[next]! - xs[edge]!, ys[next]! - ys[edge]!];
    const [px, py] = [x - xs[edge]!, y - ys[edge]!];
    const long = dx * dx + dy * dy;
    if (Math.abs(dx * py - dy * px) > NEAR * Math.sqrt(long)) return undefined;
    const at = (px * dx + py * dy) / long;
    const spare = NEAR / Math.sqrt(long);
    return at < -spare || at > 1 + spare ? undefined : Math.min(1, Math.max(0, at));
  }

  /** The source that an edge of the joined drawing lies on; one that goes on where the run before it ended, where there is one. */
  private sourceOf(x0: number, y0: number, x1: number, y1: number, before: Run | undefined): Run | undefined {
    const candidates: Place[] = [];
    for (const [x, y] of [
      [x0, y0],
      [x1, y1],
    ] as const)
      for (const place of this.vertices.get(keyOf(x, y)) ?? []) {
        const n = this.sources[place.source]!.xs.length;
        candidates.push(place, { ...place, edge: (place.edge + n - 1) % n });
      }
    const pick = (places: readonly Place[]): Run | undefined => {
      let best: Run | undefined;
      for (const place of places) {
        const [from, to] = [this.along(place, x0, y0), this.along(place, x1, y1)];
        if (from === undefined || to === undefined || from === to) continue;
        const run = { source: place.source, from: place.edge + from, to: place.edge + to, x: x0, y: y0 };
        if (before && this.goesOn(before, run)) return run;
        best ??= run;
      }
      return best;
    };
    // An edge between two intersections lies on no vertex.
    return pick(candidates) ?? pick(this.near((x0 + x1) / 2, (y0 + y1) / 2));
  }

  private goesOn(before: Run, run: Run): boolean {
    if (before.source !== run.source || before.source === undefined) return false;
    if (before.to > before.from !== run.to > run.from) return false;
    const n = this.sources[before.source]!.xs.length;
    const apart = (((run.from - before.to) % n) + n) % n;
    return apart < SAME || apart > n - SAME;
  }

  /** A polygon of the joined drawing, in steps of the grid, as a contour of exact pieces. */
  contour(polygon: readonly { x: number; y: number }[]): Contour {
    let runs: Run[] = [];
    polygon.forEach(({ x, y }, i) => {
      const next = polygon[(i + 1) % polygon.length]!;
      const before = runs.at(-1);
      const run = this.sourceOf(x, y, next.x, next.y, before);
      if (run && before && this.goesOn(before, run)) before.to += run.to - run.from;
      else runs.push(run ?? { source: undefined, from: 0, to: 0, x, y });
    });
    const [first, last] = [runs[0], runs.at(-1)];
    if (first && last && first !== last && this.goesOn(last, first)) {
      last.to += first.to - first.from;
      runs = runs.slice(1);
    }
    const pieces = runs.map((run) => this.pieces(run));
    // Where two runs meet, their curves are followed to the very point where they cross.
    const whole = runs.length === 1 && runs[0]!.source !== undefined;
    if (!whole)
      pieces.forEach((piece, i) => {
        const before = pieces[(i + pieces.length - 1) % pieces.length]!;
        const { x, y } = runs[i]!;
        this.meet(before.at(-1), piece[0], x * this.gridMm, y * this.gridMm);
      });
    const segments: Segment[] = [];
    pieces.forEach((piece, i) => {
      const after = runs[(i + 1) % runs.length]!;
      for (const one of piece) segments.push(partOf(one.segment, one.from, one.to));
      if (piece.length === 0)
        segments.push([runs[i]!.x * this.gridMm, runs[i]!.y * this.gridMm, after.x * this.gridMm, after.y * this.gridMm]);
    });
    return closed(segments);
  }

  /** A run as pieces of segments: whole ones but for its ends. */
  private pieces({ source, from, to }: Run): Piece[] {
    if (source === undefined) return [];
    const { xs, segment, part, parts, contour } = this.sources[source]!;
    const n = xs.length;
    const pieces: Piece[] = [];
    const way = to > from ? 1 : -1;
    const whole = Math.abs(to - from) > n - SAME;
    let at = from;
    while (way * (to - at) > 1e-9) {
      // The edge that is entered next, and where it is left.
      const edge = way > 0 ? Math.floor(at + 1e-9) : Math.ceil(at - 1e-9) - 1;
      const end = way > 0 ? Math.min(to, edge + 1) : Math.max(to, edge);
      const i = ((edge % n) + n) % n;
      const [start, stop] = [at - edge, end - edge].map((f) => (part[i]! + f) / parts[i]!) as [number, number];
      const last = pieces.at(-1);
      const own = contour[segment[i]!]!;
      if (last && last.segment === own && Math.abs(last.to - start) < 1e-6 && way * (last.to - last.from) > 0) last.to = stop;
      else pieces.push({ segment: own, from: start, to: stop });
      at = end;
    }
    if (whole && pieces.length > 1) {
      const [one, other] = [pieces[0]!, pieces.at(-1)!];
      if (one.segment === other.segment && Math.abs(other.to - one.from) < 1e-6) {
        one.from = other.from;
        pieces.pop();
      }
    }
    // Whole segments stay what they are, whatever was lost in adding.
    const exact = (t: number) => (Math.abs(t - Math.round(t)) < 1e-9 ? Math.round(t) : t);
    return pieces.map(({ segment: own, from: start, to: stop }) => ({ segment: own, from: exact(start), to: exact(stop) }));
  }

  /** Follows the end of one piece and the start of the next to where their curves cross (Newton's method), if that is near (x, y). */
  private meet(before: Piece | undefined, after: Piece | undefined, x: number, y: number): void {
    if (!before || !after) return;
    let [t, u] = [before.to, after.from];
    for (let i = 0; i < 6; i++) {
      const [[ax, ay], [bx, by]] = [pointAt(before.segment, t), pointAt(after.segment, u)];
      const [[adx, ady], [bdx, bdy]] = [slopeAt(before.segment, t), slopeAt(after.segment, u)];
      const det = adx * -bdy + bdx * ady;
      if (Math.abs(det) < 1e-9) break;
      const [ex, ey] = [bx - ax, by - ay];
      t += (ex * -bdy + bdx * ey) / det;
      u += (adx * ey - ady * ex) / det;
    }
    const [point, other] = [pointAt(before.segment, t), pointAt(after.segment, u)];
    const close = 4 * this.toleranceMm;
    const fits =
      Math.hypot(point[0] - other[0], point[1] - other[1]) < 1e-6 &&
      Math.hypot(point[0] - x, point[1] - y) < close &&
      t >= 0 &&
      t <= 1 &&
      u >= 0 &&
      u <= 1 &&
      (before.to - before.from) * (t - before.from) > 0 &&
      (after.to - after.from) * (after.to - u) > 0;
    if (!fits) return;
    [before.to, after.from] = [t, u];
  }
}

interface Piece {
  segment: Segment;
  from: number;
  to: number;
}

/** One number for a place of the grid: coordinates stay below 2^25 (see `coarseness`). */
const keyOf = (x: number, y: number): number => (x + 33554432) * 67108864 + (y + 33554432);

/** Lets every segment begin where the one before ends: the ends of both are at most a tolerance apart. */
function closed(segments: readonly Segment[]): Contour {
  const kept = segments.filter((s) => s.length > 0 && Math.hypot(s.at(-2)! - s[0]!, s.at(-1)! - s[1]!) + bulge(s) > 1e-5);
  return kept.map((segment, i) => {
    const next = kept[(i + 1) % kept.length]!;
    const [x, y] = [next[0]!, next[1]!];
    return segment.at(-2) === x && segment.at(-1) === y ? segment : [...segment.slice(0, -2), x, y];
  });
}
/** How far the control points lie from the start: a curve may end where it began. */
const bulge = (s: Segment): number => (s.length === 4 ? 0 : Math.hypot(s[2]! - s[0]!, s[3]! - s[1]!));
