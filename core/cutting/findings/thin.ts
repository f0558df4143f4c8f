// Parts thinner and gaps narrower than a limit: the largest ball that fits at each place of the outline.
import type { Polygon } from "../outlines/judge.ts";

/** Where something is thinner than the limit, at its thinnest; `lengthMm` along the outline. */
export interface Thin {
  x: number;
  y: number;
  widthMm: number;
  lengthMm: number;
}

/** The ball must touch both sides so far apart, seen from its middle: at corners it touches neighbouring sides. */
const LEAST_ANGLE = Math.cos((150 * Math.PI) / 180);
/** So far along the outline a part must stay below the limit, in limits; gaps longer, since letters have narrow crotches. */
const RUN = { part: 0.5, gap: 2 };
/** Samples a limit along the outline. */
const SAMPLES = 5;
const MOST_SAMPLES = 400_000;

interface Edge {
  ax: number;
  ay: number;
  bx: number;
  by: number;
}

/** Edges by cells of a square grid. */
class Edges {
  private readonly cells = new Map<number, Edge[]>();
  private readonly cell: number;
  constructor(polygons: readonly Polygon[], cell: number) {
    this.cell = cell;
    for (const polygon of polygons)
      for (let i = 0; i < polygon.length; i += 2) {
        const n = polygon.length;
        const edge = { ax: polygon[i]!, ay: polygon[i + 1]!, bx: polygon[(i + 2) % n]!, by: polygon[(i + 3) % n]! };
        const long = Math.hypot(edge.bx - edge.ax, edge.by - edge.ay);
        // A long edge lies in the cells along it, not in all of its box.
        const pieces = Math.max(1, Math.ceil(long / cell));
        const told = new Set<number>();
        for (let k = 0; k < pieces; k++) {
          const at = (t: number) => [edge.ax + (edge.bx - edge.ax) * t, edge.ay + (edge.by - edge.ay) * t] as const;
          const [[px, py], [qx, qy]] = [at(k / pieces), at((k + 1) / pieces)];
          for (let r = this.at(Math.min(py, qy)); r <= this.at(Math.max(py, qy)); r++)
            for (let c = this.at(Math.min(px, qx)); c <= this.at(Math.max(px, qx)); c++) {
              const key = keyOf(c, r);
              if (told.has(key)) continue;
              told.add(key);
              const there = this.cells.get(key);
              if (there) there.push(edge);
              else this.cells.set(key, [edge]);
            }
        }
      }
  }
  private at(value: number): number {
    return Math.floor(value / this.cell);
  }
  /** The place of any edge that lies nearest to a point, if within `radius`. */
  nearest(x: number, y: number, radius: number): [x: number, y: number] | undefined {
    let best = radius * radius;
    let found: [number, number] | undefined;
    for (let r = this.at(y - radius); r <= this.at(y + radius); r++)
      for (let c = this.at(x - radius); c <= this.at(x + radius); c++)
        for (const { ax, ay, bx, by } of this.cells.get(keyOf(c, r)) ?? []) {
          const [dx, dy] = [bx - ax, by - ay];
          const t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
          const [qx, qy] = [ax + t * dx, ay + t * dy];
          const far = (qx - x) ** 2 + (qy - y) ** 2;
          if (far < best) {
            best = far;
            found = [qx, qy];
          }
        }
    return found;
  }
}
const keyOf = (c: number, r: number): number => (c + 33554432) * 67108864 + (r + 33554432);

/** How wide it is at a place of the outline, with the middle of the ball; undefined where it is wider than `limit`, or a corner. */
function widthAt(edges: Edges, px: number, py: number, nx: number, ny: number, limit: number): Thin | undefined {
  let radius = limit / 2;
  let touched: [number, number] | undefined;
  for (let i = 0; i < 12; i++) {
    const [cx, cy] = [px + nx * radius, py + ny * radius];
    const q = edges.nearest(cx, cy, radius - 1e-4);
    if (!q) break;
    const [dx, dy] = [q[0] - px, q[1] - py];
    const along = dx * nx + dy * ny;
    if (along <= 1e-9) break;
    touched = q;
    radius = (dx * dx + dy * dy) / (2 * along);
    if (radius < 1e-4) return undefined;
  }
  if (!touched) return undefined;
  const [cx, cy] = [px + nx * radius, py + ny * radius];
  const cosine = ((px - cx) * (touched[0] - cx) + (py - cy) * (touched[1] - cy)) / (radius * Math.hypot(touched[0] - cx, touched[1] - cy));
  return cosine <= LEAST_ANGLE ? { x: cx, y: cy, widthMm: 2 * radius, lengthMm: 0 } : undefined;
}

/**
 * Places of a joined drawing (outer polygons clockwise as seen on a screen, counters the other way, millimetres) where a part is thinner than the limit, or a gap
 * narrower; the thinnest first, each place once.
 */
export function thinPlaces(polygons: readonly Polygon[], kind: "part" | "gap", limitMm: number): Thin[] {
  const edges = new Edges(polygons, Math.max(limitMm, 0.05));
  let whole = 0;
  for (const polygon of polygons)
    for (let i = 0; i < polygon.length; i += 2)
      whole += Math.hypot(polygon[(i + 2) % polygon.length]! - polygon[i]!, polygon[(i + 3) % polygon.length]! - polygon[i + 1]!);
  const step = Math.max(limitMm / SAMPLES, whole / MOST_SAMPLES);
  const runs: Thin[][] = [];
  const way = kind === "part" ? 1 : -1;
  for (const polygon of polygons) {
    runs.push(...necks(edges, polygon, way, limitMm));
    const samples: (Thin | undefined)[] = [];
    const n = polygon.length;
    let [left, total] = [step / 2, 0];
    for (let i = 0; i < n; i += 2) {
      const [ax, ay, bx, by] = [polygon[i]!, polygon[i + 1]!, polygon[(i + 2) % n]!, polygon[(i + 3) % n]!];
      const long = Math.hypot(bx - ax, by - ay);
      total += long;
      if (long === 0) continue;
      const [nx, ny] = [(-way * (by - ay)) / long, (way * (bx - ax)) / long];
      let at = left;
      for (; at < long; at += step)
        samples.push(widthAt(edges, ax + ((bx - ax) * at) / long, ay + ((by - ay) * at) / long, nx, ny, limitMm));
      left = at - long;
    }
    // Runs that pass the polygon's first point are one.
    const gap = samples.findIndex((one) => one === undefined);
    const turned = gap < 0 ? samples : [...samples.slice(gap), ...samples.slice(0, gap)];
    let run: Thin[] = [];
    const end = () => {
      if (run.length * step >= RUN[kind] * limitMm || (gap < 0 && run.length * step >= total * 0.9 && run.length > 2)) runs.push(run);
      run = [];
    };
    for (const one of turned) {
      if (one) run.push(one);
      else end();
    }
    end();
  }
  return places(runs, limitMm, step);
}

/** A turn away from the material that is a corner, and the directions that are tried there. */
const NOTCH = (20 * Math.PI) / 180;
const FAN = (10 * Math.PI) / 180;
/** Narrow places at corners that reach into the material: they may have no length at all. */
function necks(edges: Edges, polygon: Polygon, way: 1 | -1, limitMm: number): Thin[][] {
  const n = polygon.length;
  const found: Thin[][] = [];
  for (let i = 0; i < n; i += 2) {
    const [ax, ay] = [polygon[(i + n - 2) % n]!, polygon[(i + n - 1) % n]!];
    const [px, py, bx, by] = [polygon[i]!, polygon[i + 1]!, polygon[(i + 2) % n]!, polygon[(i + 3) % n]!];
    const [before, after] = [Math.atan2(py - ay, px - ax), Math.atan2(by - py, bx - px)];
    let turn = after - before;
    if (turn > Math.PI) turn -= 2 * Math.PI;
    if (turn < -Math.PI) turn += 2 * Math.PI;
    if (turn * way > -NOTCH) continue;
    let thinnest: Thin | undefined;
    const steps = Math.ceil(Math.abs(turn) / FAN);
    for (let k = 0; k <= steps; k++) {
      const angle = before + (turn * k) / steps + (way * Math.PI) / 2;
      const one = widthAt(edges, px, py, Math.cos(angle), Math.sin(angle), limitMm);
      if (one && (!thinnest || one.widthMm < thinnest.widthMm)) thinnest = one;
    }
    if (thinnest) found.push([thinnest]);
  }
  return found;
}

/** Both sides of a thin part tell of it: runs whose balls lie within a limit of one another are one place. */
function places(runs: readonly (readonly Thin[])[], limitMm: number, step: number): Thin[] {
  const group = runs.map((_, i) => i);
  const find = (i: number): number => (group[i] === i ? i : (group[i] = find(group[i]!)));
  const seen = new Map<number, number>();
  runs.forEach((run, i) => {
    for (const { x, y } of run) {
      const [c, r] = [Math.floor(x / limitMm), Math.floor(y / limitMm)];
      for (let dr = -1; dr <= 1; dr++)
        for (let dc = -1; dc <= 1; dc++) {
          const other = seen.get(keyOf(c + dc, r + dr));
          if (other !== undefined) group[find(i)] = find(other);
        }
      seen.set(keyOf(c, r), i);
    }
  });
  const found = new Map<number, Thin>();
  runs.forEach((run, i) => {
    const key = find(i);
    const thinnest = run.reduce((least, one) => (one.widthMm < least.widthMm ? one : least));
    const known = found.get(key);
    const lengthMm = Math.max(known?.lengthMm ?? 0, run.length * step);
    found.set(key, { ...(known && known.widthMm <= thinnest.widthMm ? known : thinnest), lengthMm });
  });
  return [...found.values()].sort((a, b) => a.widthMm - b.widthMm);
}
