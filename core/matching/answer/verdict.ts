// What the comparison says, in words: whether this is the font, a relative, one of the same manner, or nothing like it.
import type { Ranked } from "./rank.ts";
import type { Verdict } from "./said.ts";

/**
 * Ink not shared, by ink, up to which each is said. Found on some 240 pictures of faces of the studied two thirds, by three
 * renderers, with the true font among 2,239 and without it; `npm run bench match` prints both, also for the rest.
 */
const IT = { error: 0.0062, worst: 0.02, lead: 1.8, apart: 0.002, letters: 5, scale: 24 };
const RELATIVE = 0.06;
const MANNER = 0.16;

export interface Evidence {
  /** The error of the letter that is furthest off. */
  worst: number;
  /** Letters laid over the picture. */
  letters: number;
  /** Whether they were told apart. */
  apart: boolean;
  typed: boolean;
  /** Pixels an em. */
  scale: number;
}

/** `rival` is the error of the best face that draws the words otherwise; undefined when there is none. */
export function verdictOf(
  { error, laid }: Pick<Ranked, "error" | "laid">,
  rival: number | undefined,
  { worst, letters, apart, typed, scale }: Evidence,
): Verdict {
  const led = rival === undefined || (rival >= error * IT.lead && rival - error >= IT.apart);
  const plain = Math.abs(Math.log(laid.stretch)) < 0.03;
  if (typed && apart && plain && error <= IT.error && worst <= IT.worst && led && letters >= IT.letters && scale >= IT.scale) return "it";
  if (error <= RELATIVE) return "relative";
  // Where letters could not be told apart, what does not fit may be laid wrongly: that denies nothing.
  if (!apart) return "open";
  return error <= MANNER ? "manner" : "unlike";
}
/** 1 for the same drawing; one half where a tenth of the ink is not shared. */
export const likenessOf = (error: number): number => 1 / (1 + Math.max(0, error) / 0.1);
