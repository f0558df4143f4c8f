// What evidence says of one style.
import { listWords } from "../words/words.ts";

export const EVIDENCE_STATES = ["seen", "swapped", "faked", "asked-for", "cannot-tell", "not-in-it"] as const;
export type EvidenceState = (typeof EVIDENCE_STATES)[number];

export interface Verdict {
  state: EvidenceState;
  /** What tells: what wrote the file, as it says. Empty when it does not. */
  by: string;
  /** Letters of the wanted style that show. */
  letters: number;
  /** Pages they stand on, from 1. */
  pages: number[];
  /** Fonts drawn, or asked for, in its place. */
  instead: string[];
  /** A sentence. */
  reason: string;
  /** What to do, where something is open. */
  next: string;
}

/** Makes verdicts on one file, which was written by `by`; what is not said of it is nothing. */
export const verdictsBy =
  (by: string) =>
  (state: EvidenceState, reason: string, more: Partial<Verdict> = {}): Verdict => ({
    state,
    by,
    letters: 0,
    pages: [],
    instead: [],
    reason,
    next: "",
    ...more,
  });

/** A few names in a sentence. */
export const listed = (names: readonly string[], most = 4): string => {
  const shown = [...new Set(names)].slice(0, most);
  if (names.length > shown.length && new Set(names).size > most) return `${shown.join(", ")} and others`;
  return listWords(shown);
};
const letterForm = new Intl.PluralRules("en");
export const counted = (count: number, one: string, more: string): string => `${count} ${letterForm.select(count) === "one" ? one : more}`;

/** The letters of known words that can be looked for: no spaces, compatibility forms folded. */
export const lettersOf = (words: string): string[] => [...words.normalize("NFKC").replace(/[\s\p{Cf}]+/gu, "")];
