// Joins what overlaps, and checks the result every time: by a second engine where the first does not pass, and not at all where neither does.
import { boxOf, isEmptyBox, pointAt, type Contour } from "./curve.ts";
import { difference, Flat, united, type Filled } from "./engines.ts";
import { chordsOf } from "./flat.ts";
import { crossingsOf, judge, type Judgement, type Polygon } from "./judge.ts";
import { unitedBySecond, type SecondEngine } from "./second-engine.ts";

/** A result may differ from its original by this share of its area. */
const MOST_ERROR = 0.0005;
/** Nearer than this, outlines count as touching, millimetres: a blade is wider. */
export const TOUCH_MM = 0.01;

export interface Joined {
  /** Outer contours clockwise as seen on a screen, counters the other way; empty where nothing is left. */
  contours: Contour[];
  /** Which computation passed the check. */
  engine: "first" | "letter by letter" | "second";
  judgement: Judgement;
}
export interface NotJoined {
  contours: undefined;
  /** What the best attempt came to. */
  judgement: Judgement;
}

export function polygonsOf(contours: readonly Contour[], toleranceMm: number): Polygon[] {
  return contours.map((contour) => {
    const points: number[] = [];
    for (const s of contour) {
      const n = chordsOf(s, toleranceMm);
      points.push(s[0]!, s[1]!);
      for (let k = 1; k < n; k++) points.push(...pointAt(s, k / n));
    }
    return points;
  });
}

const passes = ({ errorShare, coveredTwiceMm, areaMm2 }: Judgement): boolean =>
  errorShare <= MOST_ERROR && coveredTwiceMm <= MOST_ERROR * Math.sqrt(Math.max(1, areaMm2));

/** Holds a result against its letters; crossings that are left fail it. */
function checked(flat: Flat, contours: readonly Contour[], original = flat.polygons()): { judgement: Judgement; ok: boolean } {
  const polygons = polygonsOf(contours, flat.toleranceMm);
  const judgement = judge(original, polygons);
  return { judgement, ok: passes(judgement) && crossingsOf(polygons, TOUCH_MM).length === 0 };
}

/**
 * Puts letters together. `emMm` is their em in millimetres; the second engine is loaded when it is needed. What cannot be joined right is not
 * given back at all.
 */
export async function joined(letters: readonly Filled[], emMm: number, second: SecondEngine): Promise<Joined | NotJoined> {
  const box = boxOf(letters.flat());
  const extent = isEmptyBox(box) ? 0 : Math.max(box.right - box.left, box.bottom - box.top);
  const flat = new Flat(letters, extent);
  const original = flat.polygons();
  let best: Judgement | undefined;
  const better = (judgement: Judgement) => {
    if (!best || judgement.errorShare < best.errorShare) best = judgement;
  };
  for (const each of [false, true]) {
    const contours = united(flat, each)
      .map((path) => flat.restorer.contour(path))
      .filter((contour) => contour.length > 1);
    const { judgement, ok } = checked(flat, contours, original);
    if (ok) return { contours, engine: each ? "letter by letter" : "first", judgement };
    better(judgement);
  }
  const kit = await second().catch(() => undefined);
  const contours = kit && unitedBySecond(kit, letters, emMm);
  if (contours) {
    const { judgement, ok } = checked(flat, contours, original);
    if (ok) return { contours, engine: "second", judgement };
    better(judgement);
  }
  return { contours: undefined, judgement: best! };
}

/** What is left of a drawing when another is taken away from it; undefined where the result does not pass its check. */
export function takenAway(subject: Filled, other: Filled): Contour[] | undefined {
  const box = boxOf([...subject, ...other]);
  if (isEmptyBox(box)) return [];
  const flat = new Flat([subject, other], Math.max(box.right - box.left, box.bottom - box.top));
  const contours = difference(flat, 1)
    .map((path) => flat.restorer.contour(path))
    .filter((contour) => contour.length > 1);
  const polygons = polygonsOf(contours, flat.toleranceMm);
  return passes(judge(flat.polygons(), polygons, { taken: 1 })) && crossingsOf(polygons, TOUCH_MM).length === 0 ? contours : undefined;
}
