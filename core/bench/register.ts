// Whether faces laid over one another line up, letter by letter.
import type { SetText } from "./setting.ts";

export interface Drift {
  /** The letters at the place. */
  text: string;
  /** How far the upper face stands to the right of the lower one, in thousandths of an em, and in the upper face's font units. */
  thousandths: number;
  units: number;
}

/** Where each letter begins, in ems from the start of its line, in the order they are written in. */
function places(set: SetText): { text: string; at: number }[] {
  return set.glyphs.filter(({ text }) => text.trim() !== "").map(({ text, x }) => ({ text, at: x / set.upem }));
}

/** Rounding of advances to whole units is no drift: half a unit a letter may add up over a line. */
const NO_DRIFT_THOUSANDTHS = 2;

/**
 * Compares two faces that set the same text at the same size. Undefined when they do not set the same letters (a ligature in one only): then
 * nothing can be said letter by letter. Otherwise the places that drift, in reading order; none when they line up.
 */
export function driftOf(lower: SetText, upper: SetText): Drift[] | undefined {
  const [below, above] = [places(lower), places(upper)];
  if (below.length !== above.length || below.some(({ text }, i) => text !== above[i]!.text)) return undefined;
  return above.flatMap(({ text, at }, i): Drift[] => {
    const thousandths = Math.round((at - below[i]!.at) * 1000);
    return Math.abs(thousandths) <= NO_DRIFT_THOUSANDTHS
      ? []
      : [{ text, thousandths, units: Math.round((at - below[i]!.at) * upper.upem) }];
  });
}

/** What to say of it. */
export function driftWords(drift: readonly Drift[] | undefined): string {
  if (drift === undefined) return "These faces join letters differently, so they cannot be compared letter by letter.";
  const worst = drift.reduce<Drift | undefined>(
    (most, one) => (!most || Math.abs(one.units) > Math.abs(most.units) ? one : most),
    undefined,
  );
  if (!worst) return "Every letter lines up.";
  const where = worst.units > 0 ? "right" : "left";
  return `“${worst.text}” stands ${Math.abs(worst.units)} units too far to the ${where}; ${drift.length === 1 ? "one letter does" : `${drift.length} letters do`} not line up.`;
}
