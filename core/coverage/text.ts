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

/** Characters a sample may be made of: letters, figures, symbols and those of private use. */
const SHOWABLE = /[\p{L}\p{N}\p{S}\p{Co}]/u;

/** The first few of a font's own characters when it has no Latin letters to show anyone's words with; empty otherwise. */
export function ownSample(ranges: readonly number[]): string {
  if (hasLatin(ranges)) return "";
  let sample = "";
  for (let i = 0; i < ranges.length; i += 2) {
    for (let code = ranges[i]!; code <= ranges[i + 1]!; code++) {
      const character = String.fromCodePoint(code);
      if (SHOWABLE.test(character)) sample += character;
      if ([...sample].length >= 10) return sample;
    }
  }
  return sample;
}
