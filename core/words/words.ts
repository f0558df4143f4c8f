// Sizes, counts and bounds as people read them, the same on both ends.

/** Binary thousands, rounded to what matters. */
export function sizeWords(bytes: number): string {
  if (bytes >= 1024 ** 3) return `${(bytes / 1024 ** 3).toFixed(1)} GB`;
  if (bytes >= 1024 ** 2) return `${(bytes / 1024 ** 2).toFixed(1)} MB`;
  return bytes >= 1024 ? `${Math.round(bytes / 1024)} kB` : `${bytes} bytes`;
}

const PLURAL = new Intl.PluralRules("en");
const NUMBER = new Intl.NumberFormat("en");
/** A whole number, its thousands apart: 20,000. */
export const numberWords = (n: number): string => NUMBER.format(n);
/** A number with its noun in the right form: "1 family", "20,000 families". */
export const count = (n: number, one: string, many = `${one}s`): string => `${numberWords(n)} ${PLURAL.select(n) === "one" ? one : many}`;
export const characters = (n: number): string => count(n, "character");
const LISTS = {
  and: new Intl.ListFormat("en", { type: "conjunction" }),
  or: new Intl.ListFormat("en", { type: "disjunction" }),
};
/** Several things in a sentence: "a, b, and c". */
export const listWords = (things: readonly string[], how: keyof typeof LISTS = "and"): string => LISTS[how].format(things);
/** Words as a sentence or a line begins. */
export const begun = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);
/** What is said of a text that is too long. */
export const tooLongWords = (most: number): string => `At most ${characters(most)}.`;

/** The bounds of a number in a sentence; empty where there are none. */
export function rangeWords({ least, most }: { least?: number; most?: number }): string {
  if (least !== undefined && most !== undefined) return `From ${numberWords(least)} to ${numberWords(most)}.`;
  if (least !== undefined) return `At least ${numberWords(least)}.`;
  return most === undefined ? "" : `At most ${numberWords(most)}.`;
}
