// Glyph names taken apart into words a person would search by.

/** Words that say how a glyph is built, not what it shows (AGL specification, section 2: suffixes after a full stop). */
const CODES = /^(uni[0-9a-f]{4,}|u[0-9a-f]{4,6}|glyph\d+|gid\d+|cid\d+|index\d+|g\d+|nonmarkingreturn|null|notdef)$/i;
/** Prefixes that style sheets and icon tools put before every name. Common practice, no source. */
const PREFIX = /^(icon|icons|glyph|sym|symbol)$/i;

/**
 * The words of a glyph's name: at hyphens, underlines, full stops and where small letters meet capitals or figures. Empty for names that
 * only number glyphs.
 */
export function wordsOfName(name: string): string[] {
  const stem = name.split(".")[0] ?? "";
  if (stem === "" || CODES.test(stem)) return [];
  const words = stem
    .slice(0, 120)
    .replace(/(\p{Ll})(\p{Lu})/gu, "$1 $2")
    .replace(/(\p{L})(\p{Nd})/gu, "$1 $2")
    .split(/[^\p{L}\p{Nd}]+/u)
    .filter((word) => word !== "")
    .map((word) => word.toLowerCase());
  return words.length > 1 && PREFIX.test(words[0]!) ? words.slice(1) : words;
}

/** A word as it is looked for: small letters, without marks. */
const plainWord = (word: string): string => word.normalize("NFKD").replace(/\p{M}/gu, "").toLowerCase();

/** A name or a search as plain words, in order. */
export const plainWords = (text: string): string[] =>
  plainWord(text.slice(0, 400))
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== "");
