// What a device found out about its own fonts, as it is reported.
import type { MyAnswers } from "../../contract/pairing.ts";

export type Probed = "there" | "other" | "unknown" | "cannot-tell";

/**
 * Some browsers keep installed fonts from pages, to protect their people: what is not known is "not there" only on a browser that has let a page
 * see an installed font before, and cannot be told on any other. `seenBefore`: it has.
 */
export function answersOf(found: readonly { sha256: string; probed: Probed }[], seenBefore: boolean): MyAnswers["answers"] {
  const sees = seenBefore || found.some(({ probed }) => probed === "there" || probed === "other");
  return found.map(({ sha256, probed }) => ({
    sha256,
    answer: probed === "other" || (probed === "unknown" && sees) ? "not-there" : probed === "unknown" ? "cannot-tell" : probed,
  }));
}

/** So many answers are sent at once. */
const MOST_AT_ONCE = 400;
export const inPortions = <T>(all: readonly T[], most = MOST_AT_ONCE): T[][] =>
  Array.from({ length: Math.ceil(all.length / most) }, (_, i) => all.slice(i * most, (i + 1) * most));
