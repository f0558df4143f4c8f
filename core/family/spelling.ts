// Family names that are spelled differently and seem to mean one family. Suggestions only: a person decides.
import { familyKey } from "./group.ts";
import { LAYER_WORD, parseStyleWords } from "./style-words.ts";

/** Letters and digits alone. */
const bare = (name: string): string => familyKey(name).replace(/[^\p{L}\p{N}]/gu, "");

/** The name without words of a style, or of a layer, at its end: "Furrow Text Semi Bold" is "Furrow Text" (its optical size stays). */
export function withoutStyleWords(name: string): string {
  const words = wordsOf(name);
  while (words.length > 1) {
    if (isLayer(words.at(-1)!)) {
      words.pop();
      continue;
    }
    const { weight, width, slant, rest } = parseStyleWords(words.at(-1)!);
    const prefix = /^(semi|demi|extra|ultra)$/i.test(words.at(-1)!);
    if (!prefix && (rest.length > 0 || (weight === undefined && width === undefined && slant === undefined))) break;
    words.pop();
  }
  return words.join(" ");
}

const wordsOf = (name: string): string[] => name.trim().split(/[\s_-]+/);
const isLayer = (word: string): boolean => LAYER_WORD.exec(word)?.[0] === word;

/** Whether two words differ by one letter put in, left out, changed, or two neighbours swapped. */
function oneSlip(a: string, b: string): boolean {
  if (Math.abs(a.length - b.length) > 1 || a === b) return false;
  let start = 0;
  while (start < a.length && a[start] === b[start]) start++;
  let end = 0;
  while (end < Math.min(a.length, b.length) - start && a[a.length - 1 - end] === b[b.length - 1 - end]) end++;
  const [restA, restB] = [a.slice(start, a.length - end), b.slice(start, b.length - end)];
  if (restA.length <= 1 && restB.length <= 1) return true;
  return restA.length === 2 && restA === [...restB].reverse().join("");
}

/** A slip in a short name makes another name; in one this long it is most likely a slip. */
const LONG_ENOUGH = 9;

interface Keys {
  key: string;
  bare: string;
  plain: string;
  digits: string;
}
/** A library's names are compared over and over; what is computed of each is kept. */
const kept = new Map<string, Keys>();
const MOST_KEPT = 50_000;

function keysOf(name: string): Keys {
  let keys = kept.get(name);
  if (!keys) {
    const letters = bare(name);
    keys = { key: familyKey(name), bare: letters, plain: bare(withoutStyleWords(name)), digits: letters.replace(/\D/g, "") };
    if (kept.size >= MOST_KEPT) kept.clear();
    kept.set(name, keys);
  }
  return keys;
}

/**
 * Keys by which names that seem to mean one family are found: two such names share at least one of them. Names that differ by one letter
 * share their first or their last four letters, as only long ones count.
 */
export function nameKeys(name: string): { bare: string; plain: string; head: string; tail: string } {
  const letters = bare(name);
  const long = letters.length >= LONG_ENOUGH - 1;
  return {
    bare: letters,
    plain: bare(withoutStyleWords(name)),
    head: long ? letters.slice(0, 4) : "",
    tail: long ? letters.slice(-4) : "",
  };
}

/** Why two family names seem to mean one family, as the middle of a sentence; undefined when they do not, or are the same. */
export function sameFamilyReason(nameA: string, nameB: string): string | undefined {
  const [a, b] = [keysOf(nameA), keysOf(nameB)];
  if (a.key === b.key || a.bare === "" || b.bare === "") return undefined;
  if (a.bare === b.bare) return "they differ only in spaces and signs";
  if (a.plain === b.plain)
    return [nameA, nameB].some((name) => isLayer(wordsOf(name).at(-1)!))
      ? "one carries the name of a layer at its end"
      : "one carries the name of a style at its end";
  if (Math.min(a.bare.length, b.bare.length) >= LONG_ENOUGH && a.digits === b.digits && oneSlip(a.bare, b.bare))
    return "they differ by one letter";
  return undefined;
}
