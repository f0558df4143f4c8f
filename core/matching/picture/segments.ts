// Parting a line of lettering into the letters of known words: where pieces touch they are cut, where letters are broken they are put together again.
import { around, groupsOf, type Inked, type Piece } from "./pieces-of-ink.ts";
import type { FlatBox } from "../faces/coverage-raster.ts";

const { abs, ceil, floor, max, min } = Math;

/** The ink one letter of the words may have. */
export interface Segment {
  box: FlatBox;
  labels: number[];
  /** It was cut off from, or put together with, something: its edges are a guess. */
  rough: boolean;
}
/** What letters usually measure, in one unit. */
export interface Usual {
  width: number;
  top: number;
  bottom: number;
}

interface Cut {
  x: number;
  /** The group that ends here, if one does. */
  between: boolean;
  cost: number;
}

const GAP = 2.5;
const CUT = 0.35;
const CUT_INK = 3;

/**
 * Segments for letters of these usual sizes, from left to right; undefined when they cannot be parted so. Every letter's cost is how far its
 * width is from what is usual; the cheapest parting is found by dynamic programming.
 */
export function partedInto(inked: Inked, usual: readonly Usual[]): { segments: Segment[]; cost: number } | undefined {
  const groups = groupsOf(inked);
  const n = usual.length;
  if (n === 0) return undefined;
  const exact = groups.length === n;
  const high = inked.box.y1 - inked.box.y0;
  const unit = high / (max(...usual.map(({ top }) => -top)) + max(...usual.map(({ bottom }) => bottom)));
  const wide = groups.reduce((sum, { box }) => sum + box.x1 - box.x0, 0);
  const stretch = max(0.5, min(1.8, wide / (unit * usual.reduce((sum, one) => sum + one.width, 0))));
  const wanted = usual.map(({ width }) => width * unit * stretch);
  const fit = (width: number, i: number) => (abs(width - wanted[i]!) / (0.25 * wanted[i]! + 0.12 * high)) ** 2;
  const whole = (group: Piece): Segment => ({ box: group.box, labels: group.labels, rough: false });
  if (exact && groups.every(({ box }, i) => fit(box.x1 - box.x0, i) < 12)) return { segments: groups.map(whole), cost: 0 };

  const cuts = cutsOf(inked, groups, high);
  const m = cuts.length;
  if (m > 1500 || n > 200) return undefined;
  const best = new Float64Array((n + 1) * m).fill(Infinity);
  const from = new Int32Array((n + 1) * m);
  best[0] = 0;
  for (let i = 1; i <= n; i++) {
    const most = 2.6 * wanted[i - 1]! + 0.5 * high;
    for (let b = 1; b < m; b++) {
      for (let a = b - 1; a >= 0; a--) {
        const before = best[(i - 1) * m + a]!;
        if (cuts[b]!.x - cuts[a]!.x > most) break;
        if (before === Infinity) continue;
        const span = inkSpan(groups, cuts[a]!.x, cuts[b]!.x);
        if (!span) continue;
        const cost = before + fit(span.width, i - 1) + (GAP * span.gap) / high + cuts[b]!.cost;
        if (cost < best[i * m + b]!) {
          best[i * m + b] = cost;
          from[i * m + b] = a;
        }
      }
    }
  }
  const cost = best[n * m + m - 1]!;
  if (cost === Infinity) return undefined;
  const segments: Segment[] = [];
  for (let i = n, b = m - 1; i > 0; i--) {
    const a = from[i * m + b]!;
    const [x0, x1] = [cuts[a]!.x, cuts[b]!.x];
    const held = groups.filter(({ box }) => box.x0 < x1 - 0.5 && box.x1 > x0 + 0.5);
    const inside = held.every(({ box }) => box.x0 >= x0 - 0.5 && box.x1 <= x1 + 0.5) || (cuts[a]!.between && cuts[b]!.between);
    const own = inside ? held.filter(({ box }) => (box.x0 + box.x1) / 2 > x0 && (box.x0 + box.x1) / 2 < x1) : held;
    if (own.length === 0) return undefined;
    const box = around(own.map((one) => one.box));
    segments.unshift({
      box: inside ? box : { ...box, x0: max(box.x0, x0), x1: min(box.x1, x1) },
      labels: own.flatMap(({ labels }) => labels),
      rough: !inside || own.length > 1,
    });
    b = a;
  }
  return { segments, cost: cost / n };
}

/** Where a line may be cut: between groups, and where a group is thinnest. */
function cutsOf({ grey, labels }: Inked, groups: readonly Piece[], high: number): Cut[] {
  const cuts: Cut[] = [];
  for (const [i, group] of groups.entries()) {
    const before = groups[i - 1];
    cuts.push({ x: before ? (before.box.x1 + group.box.x0) / 2 : group.box.x0 - 1, between: true, cost: 0 });
    const { x0, x1, y0, y1 } = group.box;
    const own = new Set(group.labels);
    const profile = new Float32Array(x1 - x0);
    for (let x = x0; x < x1; x++)
      for (let y = y0; y < y1; y++) if (own.has(labels[y * grey.width + x]!)) profile[x - x0]! += grey.ink[y * grey.width + x]!;
    const near = max(1, floor(high * 0.06));
    for (let x = near; x < profile.length - near; x++) {
      let least = true;
      for (let d = 1; d <= near && least; d++) least = profile[x]! <= profile[x - d]! && profile[x]! <= profile[x + d]!;
      if (least && cuts.at(-1)!.x < x0 + x - near)
        cuts.push({ x: x0 + x + 0.5, between: false, cost: CUT + (CUT_INK * profile[x]!) / high });
    }
  }
  cuts.push({ x: groups.at(-1)!.box.x1 + 1, between: true, cost: 0 });
  return cuts.sort((a, b) => a.x - b.x);
}
/** How wide the ink between two columns is, and how much of that is gaps. */
function inkSpan(groups: readonly Piece[], x0: number, x1: number): { width: number; gap: number } | undefined {
  let [left, right, gap] = [Infinity, -Infinity, 0];
  for (const { box } of groups) {
    if (box.x1 <= x0 + 0.5) continue;
    if (box.x0 >= x1 - 0.5) break;
    const [a, b] = [max(box.x0, x0), min(box.x1, x1)];
    if (b <= a) continue;
    if (right > -Infinity) gap += max(0, a - right);
    left = min(left, a);
    right = max(right, b);
  }
  return right > left ? { width: right - left, gap } : undefined;
}

/** Segments as the pieces themselves say, for words nobody knows. */
export const segmentsAsSeen = (inked: Inked): Segment[] => groupsOf(inked).map(({ box, labels }) => ({ box, labels, rough: false }));

/** Where words part: gaps wider than usual. */
export function gapsAfter(segments: readonly Segment[]): boolean[] {
  const gaps = segments.map(({ box }, i) => (segments[i + 1]?.box.x0 ?? box.x1) - box.x1);
  const sorted = gaps.slice(0, -1).sort((a, b) => a - b);
  const usual = sorted[floor(sorted.length / 2)] ?? 0;
  const heights = segments.map(({ box }) => box.y1 - box.y0).sort((a, b) => a - b);
  const high = heights[ceil(heights.length / 2)] ?? heights[0] ?? 1;
  return gaps.map((gap, i) => i < segments.length - 1 && gap > max(usual * 1.9, 0.22 * high));
}
