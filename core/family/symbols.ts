// Fonts of symbols: their code points, and members of one family that share none.
import { hasLatin } from "../coverage/text.ts";
import { countRanges, inRanges } from "../sfnt/cmap.ts";

/** Private use areas (The Unicode Standard, chapter 23.5) and symbol fonts' own U+F000 to U+F0FF lie here. */
const isPrivate = (code: number): boolean => (code >= 0xe000 && code <= 0xf8ff) || code >= 0xf0000;
const SYMBOL = /\p{S}|\p{Co}/u;

/** Whether a font is for symbols: no Latin alphabet, and most of what it has are symbols or code points of private use. */
export function isSymbolFont(ranges: readonly number[]): boolean {
  if (hasLatin(ranges)) return false;
  let symbols = 0;
  for (let i = 0; i < ranges.length; i += 2) {
    const [first, last] = [ranges[i]!, ranges[i + 1]!];
    if (isPrivate(first) && isPrivate(last)) symbols += last - first + 1;
    // Letters lie in long runs; a run is judged by a few of its characters.
    else {
      const step = Math.max(1, Math.floor((last - first) / 16));
      for (let code = first; code <= last; code += step)
        if (isPrivate(code) || SYMBOL.test(String.fromCodePoint(code))) symbols += Math.min(step, last - code + 1);
    }
  }
  return symbols > 0 && symbols * 2 >= countRanges(ranges);
}

const hex = (code: number): string => `U+${code.toString(16).toUpperCase().padStart(4, "0")}`;

/** Code points in words, spaces and the like left out: "U+E100 to U+E103". At most `most` runs. */
export function codePointWords(ranges: readonly number[], most = 4): string {
  const runs: string[] = [];
  for (let i = 0; i < ranges.length; i += 2) {
    const [first, last] = [ranges[i]!, ranges[i + 1]!];
    if (last <= 0x20 || (first === 0xa0 && last === 0xa0)) continue;
    runs.push(first === last ? hex(first) : `${hex(first)} to ${hex(last)}`);
  }
  return runs.length > most ? `${runs.slice(0, most).join(", ")} and more` : runs.join(", ");
}

export interface SymbolMember {
  family: string;
  style: string;
  ranges: readonly number[];
}

/** Members of one symbol family: named alike but for the last word. */
function namedAlike(a: SymbolMember, b: SymbolMember): boolean {
  const stem = (member: SymbolMember) =>
    member.family
      .trim()
      .toLowerCase()
      .split(/[\s-]+|(?<=\p{L})(?=\p{N})|(?<=\p{N})(?=\p{L})/u)
      .slice(0, -1)
      .join(" ");
  if (a.family.toLowerCase() === b.family.toLowerCase()) return true;
  return stem(a) !== "" && stem(a) === stem(b);
}

/** Whether two symbol fonts belong together and share no symbol, so that a symbol of one is an empty box in the other. */
export function areSymbolSiblings(a: SymbolMember, b: SymbolMember): boolean {
  if (a === b || !namedAlike(a, b) || !isSymbolFont(a.ranges) || !isSymbolFont(b.ranges)) return false;
  for (let i = 0; i < a.ranges.length; i += 2)
    for (let code = Math.max(0x21, a.ranges[i]!); code <= a.ranges[i + 1]!; code++)
      if (code !== 0xa0 && inRanges(b.ranges, code)) return false;
  return true;
}
