// Holds a joined drawing against what it was made from, by lines through both, across and down: independent of every engine.
import { ProblemError } from "../../problem.ts";

/** A closed polygon: x and y of each vertex, millimetres, one after another. */
export type Polygon = ArrayLike<number>;

export interface Judgement {
  /** Square millimetres between the lines' ends that only one of the two fills, by what the original fills. */
  errorShare: number;
  /** Square millimetres the original fills, each letter by its nonzero winding (SVG 2, "fill-rule"). */
  areaMm2: number;
  /** Millimetres along the lines on which the joined drawing covers itself, or runs the wrong way round. */
  coveredTwiceMm: number;
}

/** Lines across, and lines down: a thin strip that lies between the ones is met by the others. */
const LEAST_LINES = 97;
const MOST_LINES = 3000;
const APART_MM = 0.5;
/** Keeps lines away from round coordinates, where outlines have their corners. */
const SHIFT = 0.381966;

/** By lines of one direction: across (0), or down the page (1). */
function judgeAlong(letters: readonly (readonly Polygon[])[], joined: readonly Polygon[], taken: number, down: 0 | 1): Judgement {
  const [along, across] = [down, 1 - down];
  let [top, bottom] = [Infinity, -Infinity];
  for (const polygons of [...letters, joined])
    for (const polygon of polygons)
      for (let i = across; i < polygon.length; i += 2) {
        if (polygon[i]! < top) top = polygon[i]!;
        if (polygon[i]! > bottom) bottom = polygon[i]!;
      }
  const none = { errorShare: 0, areaMm2: 0, coveredTwiceMm: 0 };
  if (!(bottom > top)) return joined.length === 0 ? none : { ...none, errorShare: 1 };
  const lines = Math.min(MOST_LINES, Math.max(LEAST_LINES, Math.ceil((bottom - top) / APART_MM)));
  const step = (bottom - top) / lines;
  // Crossings of every line: where, which letter (−1 for the joined drawing), and which way.
  const at: number[][] = Array.from({ length: lines }, () => []);
  const put = (polygon: Polygon, letter: number) => {
    const n = polygon.length;
    for (let i = 0; i < n; i += 2) {
      const next = i + 2 === n ? 0 : i + 2;
      const [y0, y1] = [polygon[i + across]!, polygon[next + across]!];
      if (y0 === y1) continue;
      const [low, high] = y0 < y1 ? [y0, y1] : [y1, y0];
      for (let k = Math.max(0, Math.ceil((low - top) / step - SHIFT)); k < lines; k++) {
        const y = top + (k + SHIFT) * step;
        if (y >= high) break;
        if (y < low) continue;
        const x0 = polygon[i + along]!;
        at[k]!.push(x0 + ((y - y0) / (y1 - y0)) * (polygon[next + along]! - x0), letter, y1 > y0 === (down === 0) ? 1 : -1);
      }
    }
  };
  letters.forEach((polygons, letter) => polygons.forEach((polygon) => put(polygon, letter)));
  for (const polygon of joined) put(polygon, -1);
  let [filled, wrong, twice] = [0, 0, 0];
  const windings = new Int32Array(letters.length);
  for (const crossings of at) {
    const order = Array.from({ length: crossings.length / 3 }, (_, i) => 3 * i).sort((a, b) => crossings[a]! - crossings[b]!);
    windings.fill(0);
    let [inLetters, inTaken, joinedWinding] = [0, 0, 0];
    for (let i = 0; i + 1 < order.length; i++) {
      const here = order[i]!;
      const [x, letter, way] = [crossings[here]!, crossings[here + 1]!, crossings[here + 2]!];
      if (letter < 0) joinedWinding += way;
      else {
        const was = windings[letter] === 0 ? 0 : 1;
        windings[letter]! += way;
        const change = (windings[letter] === 0 ? 0 : 1) - was;
        if (letter < taken) inLetters += change;
        else inTaken += change;
      }
      const long = crossings[order[i + 1]!]! - x;
      const inside = inLetters > 0 && inTaken === 0;
      if (inside) filled += long;
      if (inside !== (joinedWinding !== 0)) wrong += long;
      // Outer contours run clockwise: their left edges go up, against y.
      if (joinedWinding > 0 || joinedWinding < -1) twice += long;
    }
  }
  return { errorShare: filled === 0 ? (wrong > 0 ? 1 : 0) : wrong / filled, areaMm2: filled * step, coveredTwiceMm: twice };
}

/**
 * `letters`: each letter's polygons, filled by nonzero winding of that letter alone and then put together; those from number `taken` on are taken away from
 * the others. `joined`: outer contours clockwise as seen on a screen, counters the other way. The worse of what both directions say.
 */
export function judge(
  letters: readonly (readonly Polygon[])[],
  joined: readonly Polygon[],
  { taken = letters.length }: { taken?: number } = {},
): Judgement {
  const [one, other] = [judgeAlong(letters, joined, taken, 0), judgeAlong(letters, joined, taken, 1)];
  return {
    errorShare: Math.max(one.errorShare, other.errorShare),
    areaMm2: (one.areaMm2 + other.areaMm2) / 2,
    coveredTwiceMm: Math.max(one.coveredTwiceMm, other.coveredTwiceMm),
  };
}

/** Pairs of edges that are looked at; letters need a thousandth of it. */
const MOST_COMPARED = 80_000_000;
/** Outlines so tangled that looking through them would take minutes. */
class TooTangled extends ProblemError {
  constructor() {
    super(
      "cut-tangled",
      "These outlines cross one another more often than can be looked through.",
      "Cut less of it at a time, or choose another font.",
    );
  }
}

/** Places where edges of polygons properly cross, nearer than `touchMm` counting as touching: [x, y] millimetres each. Throws `TooTangled`. */
export function crossingsOf(polygons: readonly Polygon[], touchMm: number): [x: number, y: number][] {
  const edges: number[] = [];
  const of: number[] = [];
  polygons.forEach((polygon, p) => {
    const n = polygon.length;
    for (let i = 0; i < n; i += 2) {
      edges.push(polygon[i]!, polygon[i + 1]!, polygon[(i + 2) % n]!, polygon[(i + 3) % n]!);
      of.push(p);
    }
  });
  const count = of.length;
  if (count === 0) return [];
  let [left, top, right, bottom, long] = [Infinity, Infinity, -Infinity, -Infinity, 0];
  for (let i = 0; i < edges.length; i += 4) {
    left = Math.min(left, edges[i]!);
    right = Math.max(right, edges[i]!);
    top = Math.min(top, edges[i + 1]!);
    bottom = Math.max(bottom, edges[i + 1]!);
    long += Math.hypot(edges[i + 2]! - edges[i]!, edges[i + 3]! - edges[i + 1]!);
  }
  const cell = Math.max((2 * long) / count, Math.sqrt(((right - left) * (bottom - top)) / (4 * count)), 1e-6);
  const columns = Math.floor((right - left) / cell) + 1;
  const cells = new Map<number, number[]>();
  const found: [number, number][] = [];
  const side = (e: number, x: number, y: number) =>
    (edges[e + 2]! - edges[e]!) * (y - edges[e + 1]!) - (edges[e + 3]! - edges[e + 1]!) * (x - edges[e]!);
  const far = (e: number, x: number, y: number) =>
    Math.abs(side(e, x, y)) > touchMm * Math.hypot(edges[e + 2]! - edges[e]!, edges[e + 3]! - edges[e + 1]!);
  const atEnd = (e: number, x: number, y: number) =>
    Math.hypot(edges[e]! - x, edges[e + 1]! - y) < touchMm || Math.hypot(edges[e + 2]! - x, edges[e + 3]! - y) < touchMm;
  const told = new Set<number>();
  const compare = (a: number, b: number) => {
    const [i, k] = [4 * a, 4 * b];
    const [s0, s1] = [side(i, edges[k]!, edges[k + 1]!), side(i, edges[k + 2]!, edges[k + 3]!)];
    if (s0 * s1 >= 0) return;
    const [r0, r1] = [side(k, edges[i]!, edges[i + 1]!), side(k, edges[i + 2]!, edges[i + 3]!)];
    if (r0 * r1 >= 0) return;
    // One that runs along the other all its length touches it.
    if (!far(i, edges[k]!, edges[k + 1]!) && !far(i, edges[k + 2]!, edges[k + 3]!)) return;
    if (!far(k, edges[i]!, edges[i + 1]!) && !far(k, edges[i + 2]!, edges[i + 3]!)) return;
    const t = s0 / (s0 - s1);
    const [x, y] = [edges[k]! + t * (edges[k + 2]! - edges[k]!), edges[k + 1]! + t * (edges[k + 3]! - edges[k + 1]!)];
    // Two corners that meet touch.
    if (atEnd(i, x, y) && atEnd(k, x, y)) return;
    const key = a < b ? a * count + b : b * count + a;
    if (told.has(key)) return;
    told.add(key);
    found.push([x, y]);
  };
  let compared = 0;
  for (let e = 0; e < count; e++) {
    const [ax, ay, bx, by] = edges.slice(4 * e, 4 * e + 4) as [number, number, number, number];
    const column = (x: number) => Math.floor((x - left) / cell);
    const row = (y: number) => Math.floor((y - top) / cell);
    // A long edge lies in the cells along it, not in all of its box.
    const pieces = Math.max(1, Math.ceil(Math.hypot(bx - ax, by - ay) / cell));
    const own = new Set<number>();
    for (let k = 0; k < pieces; k++) {
      const [x0, x1] = [ax + ((bx - ax) * k) / pieces, ax + ((bx - ax) * (k + 1)) / pieces];
      const [y0, y1] = [ay + ((by - ay) * k) / pieces, ay + ((by - ay) * (k + 1)) / pieces];
      for (let r = row(Math.min(y0, y1)); r <= row(Math.max(y0, y1)); r++)
        for (let c = column(Math.min(x0, x1)); c <= column(Math.max(x0, x1)); c++) own.add(r * columns + c);
    }
    for (const key of own) {
      const there = cells.get(key);
      if (!there) cells.set(key, [e]);
      else {
        compared += there.length;
        if (compared > MOST_COMPARED) throw new TooTangled();
        for (const other of there) compare(e, other);
        there.push(e);
      }
    }
  }
  return found;
}
