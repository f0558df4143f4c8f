// Whether a font can set a language: it has every letter of the language's everyday alphabet (Unicode CLDR, exemplar characters).
import { inRanges } from "../sfnt/cmap.ts";

/**
 * The characters of a CLDR exemplar set, written as a UnicodeSet ("[a-c {ch} \u0301]"; UTS #35, "Unicode Sets"). Strings in braces count by their
 * characters. Escapes \u and \U and single escaped signs are read; nested sets are not used there.
 */
export function exemplarCharacters(set: string): number[] {
  const found = new Set<number>();
  const inner = set.trim().replace(/^\[/, "").replace(/\]$/, "");
  const token = /\\u\{([0-9a-f]+)\}|\\u([0-9a-f]{4})|\\U([0-9a-f]{8})|\\(.)|\{([^}]*)\}|([^\s])/giu;
  let last: number | undefined;
  let range = false;
  for (const [, braced, four, eight, escaped, string, plain] of inner.matchAll(token)) {
    if (string !== undefined) {
      for (const character of string.replace(/\\/g, "")) found.add(character.codePointAt(0)!);
      last = undefined;
      continue;
    }
    if (plain === "-" && last !== undefined) {
      range = true;
      continue;
    }
    const hex = braced ?? four ?? eight;
    const code = hex !== undefined ? parseInt(hex, 16) : (escaped ?? plain)!.codePointAt(0)!;
    if (range && last !== undefined) for (let between = last; between <= code; between++) found.add(between);
    range = false;
    found.add(code);
    last = code;
  }
  return [...found].sort((a, b) => a - b);
}

/** Marks that only join to letters may be missing as such when the joined letters are there. */
const isMark = (code: number): boolean => /\p{M}/u.test(String.fromCodePoint(code));

/** The characters a font must have for a language: small letters, and their capitals. */
export const neededLetters = (exemplars: readonly number[]): number[] => [
  ...new Set(
    exemplars
      .filter((code) => !isMark(code))
      .flatMap((code) => {
        const upper = String.fromCodePoint(code).toUpperCase();
        return [...upper].length === 1 ? [code, upper.codePointAt(0)!] : [code];
      }),
  ),
];

/** Whether `ranges` hold all letters of a language. */
export const setsLanguage = (ranges: readonly number[], exemplars: readonly number[]): boolean =>
  neededLetters(exemplars).every((code) => inRanges(ranges, code));
