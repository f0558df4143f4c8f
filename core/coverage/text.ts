// Whether a font has the characters of a text, and which script it is for.
import { inRanges } from "../sfnt/cmap.ts";

/** Characters no font needs a glyph for: line ends, joiners, direction marks, variation selectors. */
const INVISIBLE = /[\p{Cc}\p{Cf}\u{FE00}-\u{FE0F}\u{E0100}-\u{E01EF}]/u;

/** The characters of a text a font needs glyphs for, each once, in order. White space needs none. */
export function charactersOf(text: string): string[] {
  const wanted = new Set<string>();
  for (const character of text.normalize("NFC")) if (!/\s/u.test(character) && !INVISIBLE.test(character)) wanted.add(character);
  return [...wanted];
}

/** The characters of `text` that `ranges` lacks, each once, in order. */
export const missingFrom = (ranges: readonly number[], text: string): string[] =>
  charactersOf(text).filter((character) => !inRanges(ranges, character.codePointAt(0)!));

/** Whether `ranges` hold all of some code points. */
export function holdsAll(ranges: readonly number[], codePoints: readonly number[]): boolean {
  for (const codePoint of codePoints) if (!inRanges(ranges, codePoint)) return false;
  return true;
}

const between = (ranges: readonly number[], from: number, to: number): number => {
  let count = 0;
  for (let code = from; code <= to; code++) if (inRanges(ranges, code)) count++;
  return count;
};

export const hasLatin = (ranges: readonly number[]): boolean => between(ranges, 0x61, 0x7a) >= 20 || between(ranges, 0x41, 0x5a) >= 20;

/** Hebrew or Arabic letters and no Latin ones: specimens read from the right. */
export const isRightToLeftOnly = (ranges: readonly number[]): boolean =>
  !hasLatin(ranges) && (between(ranges, 0x5d0, 0x5ea) >= 20 || between(ranges, 0x627, 0x64a) >= 20);

/** What a sample is made of, the best kind first: pictures, the font's own signs, letters, other signs; figures only where there is nothing else. */
const SAMPLED = [/\p{Emoji_Presentation}/u, /\p{Co}/u, /\p{L}/u, /\p{S}/u, /\p{N}/u];
const SAMPLE_LENGTH = 10;
/** Of each run of characters so many are looked at: some fonts have tens of thousands. */
const LOOKED_AT = 64;

/**
 * A few of a font's own characters, for one without letters to show anyone's words with; empty otherwise. `blankLetters`: it has Latin letters that
 * draw nothing, as symbol fonts do whose signs are made by writing their names.
 */
export function ownSample(ranges: readonly number[], blankLetters = false): string {
  if (hasLatin(ranges) && !blankLetters) return "";
  const kinds = SAMPLED.map((): string[] => []);
  for (let i = 0; i < ranges.length; i += 2) {
    const [first, last] = [ranges[i]!, ranges[i + 1]!];
    const step = Math.max(1, Math.floor((last - first + 1) / LOOKED_AT));
    for (let code = first; code <= last; code += step) {
      if (blankLetters && code < 0x80) continue;
      const character = String.fromCodePoint(code);
      kinds[SAMPLED.findIndex((kind) => kind.test(character))]?.push(character);
    }
  }
  const best = kinds.find((found) => found.length >= SAMPLE_LENGTH) ?? kinds.flat();
  // Pictures and signs are as good from anywhere; an alphabet begins at its beginning.
  if (best === kinds[2]) return best.slice(0, SAMPLE_LENGTH).join("");
  const step = Math.max(1, Math.floor(best.length / SAMPLE_LENGTH));
  return best
    .filter((_, i) => i % step === 0)
    .slice(0, SAMPLE_LENGTH)
    .join("");
}
