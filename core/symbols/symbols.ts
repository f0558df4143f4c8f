// What Unicode and CLDR call signs. The lists are large and are handed in by whoever loads them (`core/symbols/lists.ts`).
import type { Called } from "./search.ts";

/** A named run of code points (Blocks.txt). */
export interface Block {
  name: string;
  first: number;
  last: number;
}

/** Names by code point. */
export interface SignLists {
  /** Ascending. */
  blocks: readonly Block[];
  /** Unicode character names (Unicode Standard, section 4.8). */
  names: ReadonlyMap<number, string>;
  /** Formal aliases: corrections, controls, alternates, figments, abbreviations (NameAliases.txt). */
  aliases: ReadonlyMap<number, readonly string[]>;
  /** CLDR annotations of single characters: the name to be spoken, and keywords; by language. */
  annotations: ReadonlyMap<string, ReadonlyMap<number, { spoken: string; keywords: readonly string[] }>>;
}

/** "U+2708". */
export const codePointText = (codePoint: number): string => `U+${codePoint.toString(16).toUpperCase().padStart(4, "0")}`;

const PRIVATE: readonly [first: number, last: number][] = [
  [0xe000, 0xf8ff],
  [0xf0000, 0xffffd],
  [0x100000, 0x10fffd],
];
/** For private use (Unicode Standard, section 23.5): what it shows is the font's own affair. */
export const isPrivate = (codePoint: number): boolean => PRIVATE.some(([first, last]) => codePoint >= first && codePoint <= last);

const [HANGUL, VOWELS, FINALS] = [0xac00, 21, 28];
/** Short names of the letters syllables are made of (Unicode Standard, table 4-7, "Jamo.txt"). */
const JAMO = {
  first: "G GG N D DD R M B BB S SS  J JJ C K T P H".split(" "),
  vowel: "A AE YA YAE EO E YEO YE O WA WAE OE YO U WEO WE WI YU EU YI I".split(" "),
  last: " G GG GS N NJ NH D L LG LM LB LS LT LP LH M B BS S SS NG J C K T P H".split(" "),
};
/** Rule NR1: syllables by their letters (Unicode Standard, section 3.12 and 4.8). */
function hangulName(codePoint: number): string {
  const index = codePoint - HANGUL;
  const [first, vowel, last] = [Math.floor(index / (VOWELS * FINALS)), Math.floor((index % (VOWELS * FINALS)) / FINALS), index % FINALS];
  return `HANGUL SYLLABLE ${JAMO.first[first]}${JAMO.vowel[vowel]}${JAMO.last[last]}`;
}
/** Rule NR2: ideographs by their number (Unicode Standard, section 4.8). */
const BY_NUMBER: readonly (readonly [label: RegExp, name: string])[] = [
  [/^CJK Ideograph/, "CJK UNIFIED IDEOGRAPH"],
  [/^Tangut Ideograph/, "TANGUT IDEOGRAPH"],
];

/** Unicode's name; "" where it has none: private use and control characters have labels only. */
export function unicodeName(lists: Pick<SignLists, "names">, codePoint: number): string {
  const name = isPrivate(codePoint) ? "" : (lists.names.get(codePoint) ?? "");
  if (/^[A-Z0-9 -]+$/.test(name)) return name;
  if (name.startsWith("Hangul Syllable")) return hangulName(codePoint);
  const numbered = BY_NUMBER.find(([label]) => label.test(name));
  return numbered ? `${numbered[1]}-${codePoint.toString(16).toUpperCase()}` : "";
}

/** Everything a character is called, in these languages. */
export function calledBy(lists: SignLists, codePoint: number, languages: readonly string[]): Called {
  const names = [unicodeName(lists, codePoint), ...(lists.aliases.get(codePoint) ?? [])].filter((name) => name !== "");
  const keywords: string[] = [];
  for (const language of languages) {
    const found = lists.annotations.get(language)?.get(codePoint);
    if (!found) continue;
    if (found.spoken !== "") names.push(found.spoken);
    keywords.push(...found.keywords);
  }
  return { names, keywords };
}

/** The block a code point lies in. */
export const blockOf = (lists: Pick<SignLists, "blocks">, codePoint: number): string =>
  lists.blocks.find(({ first, last }) => first <= codePoint && codePoint <= last)?.name ?? "No block";
