// Which letters these are, when nobody says: the forms of all faces are asked, and heights decide between o and O.
import type { MeasuredScript } from "../faces/alphabet.ts";
import type { FlatBox } from "../faces/coverage-raster.ts";
import type { FaceIndex } from "../faces/index-of-faces.ts";

const { exp, max, min } = Math;

export interface Recognised {
  letter: string;
  /** 0 to 1. */
  sure: number;
}

/** Letters nearest to a form that are weighed against one another. */
const CHOICES = 6;
/** Forms further off than this, as a mean squared difference of ink, are no letter. */
const FAR = 0.075;
const HEIGHT_WEIGHT = 0.6;
const ROUNDS = 6;

/** Recognises letters, from left to right. `trust` says how well the whole reads in this script. */
export function recognised(
  index: FaceIndex,
  script: MeasuredScript,
  seen: readonly ({ form: Int8Array; box: FlatBox } | undefined)[],
  most: number,
): { letters: Recognised[]; trust: number } {
  const choices = seen.map((one) =>
    one === undefined
      ? []
      : index
          .nearestLetters(one.form, script, most)
          .slice(0, CHOICES)
          .flatMap(({ letter, distance }) => {
            const usual = index.usual(letter);
            return usual ? [{ letter, distance, usual }] : [];
          }),
  );
  const known = choices.flatMap((own, i) => (own.length > 0 ? [{ own, box: seen[i]!.box }] : []));
  if (known.length === 0) return { letters: seen.map(() => ({ letter: "", sure: 0 })), trust: 0 };
  // The scale and baseline under which the best choices agree most, begun from each letter's own.
  let best = { cost: Infinity, scale: 1, base: 0 };
  for (const start of known.slice(0, 12)) {
    for (const choice of start.own.slice(0, 4)) {
      const high = choice.usual.bottom - choice.usual.top;
      let scale = (start.box.y1 - start.box.y0) / high;
      let base = start.box.y1 - choice.usual.bottom * scale;
      for (let round = 0; round < ROUNDS; round++) {
        const picked = known.map(({ own, box }) => ({ box, one: chosen(own, box, scale, base) }));
        const points = picked.flatMap(({ box, one }): [number, number][] => [
          [one.usual.top, box.y0],
          [one.usual.bottom, box.y1],
        ]);
        const n = points.length;
        const [my, mz] = [points.reduce((sum, [y]) => sum + y / n, 0), points.reduce((sum, [, z]) => sum + z / n, 0)];
        const slope =
          points.reduce((sum, [y, z]) => sum + (y - my) * (z - mz), 0) /
          max(
            1e-9,
            points.reduce((sum, [y]) => sum + (y - my) ** 2, 0),
          );
        if (!(slope > 0)) break;
        [scale, base] = [slope, mz - slope * my];
      }
      const cost = known.reduce((sum, { own, box }) => sum + min(0.3, chosen(own, box, scale, base).cost), 0);
      if (cost < best.cost) best = { cost, scale, base };
    }
  }
  const letters = choices.map((own, i): Recognised => {
    if (own.length === 0) return { letter: "", sure: 0 };
    const { box } = seen[i]!;
    const costs = own.map((one) => ({ letter: one.letter, distance: one.distance, cost: costOf(one, box, best.scale, best.base) }));
    costs.sort((a, b) => a.cost - b.cost);
    const [first, second] = costs;
    const lead = second ? second.cost / max(1e-4, first!.cost) : 3;
    const near = exp(-max(0, first!.distance - 0.008) / (FAR / 3));
    return { letter: first!.letter, sure: max(0, min(1, near * min(1, 0.35 + (lead - 1) * 0.9))) };
  });
  return { letters, trust: letters.reduce((sum, { sure }) => sum + sure, 0) / seen.length };
}

interface Choice {
  letter: string;
  distance: number;
  usual: { top: number; bottom: number; width: number };
}
function costOf({ distance, usual }: Choice, box: FlatBox, scale: number, base: number): number {
  const [top, bottom] = [(box.y0 - base) / scale, (box.y1 - base) / scale];
  return distance + HEIGHT_WEIGHT * ((top - usual.top) ** 2 + (bottom - usual.bottom) ** 2);
}
function chosen(own: readonly Choice[], box: FlatBox, scale: number, base: number): Choice & { cost: number } {
  let [best, least] = [own[0]!, Infinity];
  for (const one of own) {
    const cost = costOf(one, box, scale, base);
    if (cost < least) [best, least] = [one, cost];
  }
  return { ...best, cost: least };
}
