// Finding signs by what a person calls them: by character, code point, or words of their names and keywords, the best first.
import { plainWords } from "./words.ts";

/** What one sign is called. */
export interface Called {
  /** Names of the whole sign, the first the one shown: Unicode's, its aliases, the font's own, the words a ligature needs. */
  names: readonly string[];
  /** Single words that go with it. */
  keywords: readonly string[];
}

/** The same, in plain words, ready to be searched. */
export interface Findable {
  names: readonly (readonly string[])[];
  keywords: readonly string[];
  /** Every word once, to be looked through quickly. */
  all: readonly string[];
}
export function findable({ names, keywords }: Called): Findable {
  const split = { names: names.map(plainWords), keywords: keywords.flatMap(plainWords) };
  return { ...split, all: [...new Set([...split.names.flat(), ...split.keywords])] };
}

export type Asked =
  | { kind: "glyph"; glyph: number; alike: boolean }
  | { kind: "signs"; codePoints: readonly number[] }
  | { kind: "words"; words: readonly string[] }
  | { kind: "nothing" };

const LARGEST = 0x10ffff;
/**
 * What was typed or pasted: "#12" is a glyph by its number, "~12" those that look like it; "U+2708", "0x2708", "&#9992;" or "2708" name a code point; a single character that is no letter or figure, or
 * an emoji sequence, is itself; everything else is words. A letter by itself is the sign, and a word of one letter.
 */
export function asked(text: string): Asked {
  const typed = text.trim();
  if (typed === "") return { kind: "nothing" };
  const [, how, number] = /^([#~])(\d{1,5})$/.exec(typed) ?? [];
  if (number !== undefined) return { kind: "glyph", glyph: Number(number), alike: how === "~" };
  const hex = /^(?:u\+|0x|\\u|\\|&#x)([0-9a-f]{1,6});?$/i.exec(typed)?.[1] ?? /^([0-9a-f]{4,6})$/i.exec(typed)?.[1];
  const decimal = /^&#(\d{1,7});?$/.exec(typed)?.[1];
  const code = hex !== undefined && /\d/.test(hex) ? parseInt(hex, 16) : decimal !== undefined ? Number(decimal) : undefined;
  if (code !== undefined && code <= LARGEST && code > 0) return { kind: "signs", codePoints: [code] };
  const characters = [...typed];
  const bare = characters.filter((character) => !/[\p{M}\p{Cf}\u{FE00}-\u{FE0F}]/u.test(character));
  const isSign = (character: string) => /[^\p{L}\p{N}\s]/u.test(character);
  if (bare.length === 1 || bare.every(isSign))
    return { kind: "signs", codePoints: characters.map((character) => character.codePointAt(0)!) };
  const words = plainWords(typed);
  return words.length > 0 ? { kind: "words", words } : { kind: "nothing" };
}

/** Endings English words take in a search and not in a name; a word of four letters and more may lose one. */
const stems = (word: string): string[] =>
  word.length > 4 && word.endsWith("ies")
    ? [word, `${word.slice(0, -3)}y`]
    : word.length > 3 && /[^s]s$/.test(word)
      ? [word, word.slice(0, -1)]
      : [word];

/** How well a word of the search meets a word of a name: 3 whole, 2 beginning, 1 inside; 0 not at all. */
function meets(asked: string, word: string): number {
  for (const one of stems(asked)) {
    if (one === word || stems(word).includes(one)) return 3;
    if (one.length >= 2 && word.startsWith(one)) return 2;
  }
  return asked.length >= 3 && word.includes(asked) ? 1 : 0;
}

/** How well all words of a search meet the words of one name: 0 when one of them meets nothing. */
function nameScore(words: readonly string[], name: readonly string[]): number {
  let sum = 0;
  for (const word of words) {
    const best = Math.max(0, ...name.map((other) => meets(word, other)));
    if (best === 0) return 0;
    sum += best;
  }
  const joined = words.join("");
  const whole = name.join("");
  // The name and nothing else, before the name with more to it.
  const exact = whole === joined ? 60 : whole.startsWith(joined) ? 8 : 0;
  return 10 * (sum / words.length) + exact + (10 * words.length) / Math.max(words.length, name.length);
}

/** How well a sign answers the words of a search; 0 when it does not. Names count more than keywords. */
export function score(words: readonly string[], { names, keywords, all }: Findable): number {
  if (!words.every((word) => all.some((other) => meets(word, other) > 0))) return 0;
  let best = 0;
  names.forEach((name, i) => {
    const found = nameScore(words, name);
    if (found > 0) best = Math.max(best, 20 + found - Math.min(i, 4));
  });
  const apart = nameScore(words, all);
  const exact = words.every((word) => keywords.includes(word)) ? 12 : 0;
  return Math.max(best, apart - (10 * words.length) / Math.max(words.length, all.length) + exact);
}

/** Many signs, made ready to be searched by word: which of them a word may meet is looked up, and only those are weighed. */
export class SignIndex<T> {
  private readonly signs: readonly { of: T; sign: Findable }[];
  private readonly byWord = new Map<string, number[]>();
  constructor(signs: readonly { of: T; called: Called }[]) {
    this.signs = signs.map(({ of, called }) => ({ of, sign: findable(called) }));
    this.signs.forEach(({ sign }, i) => {
      for (const word of sign.all) {
        const there = this.byWord.get(word);
        if (there) there.push(i);
        else this.byWord.set(word, [i]);
      }
    });
  }

  /** Signs that a word meets. */
  private candidates(word: string): Set<number> {
    const found = new Set<number>();
    for (const [other, signs] of this.byWord) if (meets(word, other) > 0) for (const i of signs) found.add(i);
    return found;
  }
  /** The signs that answer all words, the best first; of equals the earlier. */
  find(words: readonly string[], most: number): T[] {
    const sets = words.map((word) => this.candidates(word)).sort((a, b) => a.size - b.size);
    const [first, ...others] = sets;
    return [...(first ?? [])]
      .filter((i) => others.every((set) => set.has(i)))
      .map((i) => ({ i, points: score(words, this.signs[i]!.sign) }))
      .filter(({ points }) => points > 0)
      .sort((a, b) => b.points - a.points || a.i - b.i)
      .slice(0, most)
      .map(({ i }) => this.signs[i]!.of);
  }
}
