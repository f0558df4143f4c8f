// What a style's name says, word by word: weight, width, slant, optical size.

export interface StyleWords {
  /** On the scale of usWeightClass, 1 to 1000. */
  weight?: number;
  /** On the scale of usWidthClass, 1 to 9. */
  width?: number;
  slant?: "upright" | "italic" | "oblique";
  /** The size it is drawn for, as its name says it. */
  opticalSize?: string;
  /** Words that say none of these. */
  rest: string[];
}

/**
 * Names of weights: OpenType specification, OS/2, usWeightClass, with the synonyms given there. "Book" and "Retina" are
 * common practice, no source.
 */
const WEIGHTS: readonly (readonly [words: RegExp, weight: number])[] = [
  [/^(thin|hairline|hair)$/, 100],
  [/^(extra|ultra) ?light$/, 200],
  [/^light$/, 300],
  [/^(semi|demi) ?light$/, 350],
  [/^(book|retina)$/, 400],
  [/^(regular|normal|roman|plain|standard)$/, 400],
  [/^medium$/, 500],
  [/^((semi|demi) ?bold|demi)$/, 600],
  [/^bold$/, 700],
  [/^((extra|ultra) ?bold)$/, 800],
  [/^(black|heavy)$/, 900],
  [/^((extra|ultra) ?(black|heavy)|fat)$/, 950],
];

/** OpenType specification, OS/2, usWidthClass. "Compressed", "narrow", "wide" are common practice, no source. */
const WIDTHS: readonly (readonly [words: RegExp, width: number])[] = [
  [/^ultra ?(condensed|compressed|narrow)$/, 1],
  [/^(extra ?(condensed|compressed|narrow)|compressed)$/, 2],
  [/^(condensed|cond|narrow|cn)$/, 3],
  [/^(semi|demi) ?(condensed|narrow)$/, 4],
  [/^(semi|demi) ?(expanded|extended|wide)$/, 6],
  [/^(expanded|extended|wide|ext)$/, 7],
  [/^extra ?(expanded|extended|wide)$/, 8],
  [/^ultra ?(expanded|extended|wide)$/, 9],
];

const ITALIC = /^(italic|italics|ital|it|kursiv|kursive|cursiva|cursive|corsivo|italique)$/;
const OBLIQUE = /^(oblique|obl|slanted|inclined|backslanted)$/;
const UPRIGHT = /^(upright|roman)$/;

/** Sizes a style is drawn for, small to large; common practice, no source. */
const OPTICAL = /^(micro|caption|sm ?text|small|text|deck|subhead|display|headline|titling|poster|banner|\d+ ?pt)$/;

const PREFIXES = /^(semi|demi|extra|ultra)$/;
/** Words a prefix belongs to; before others it stands for itself. */
const PREFIXED = /^(light|bold|black|heavy|condensed|compressed|narrow|expanded|extended|wide)$/;

/** Splits a style's name into words: at spaces, hyphens, and where a small letter meets a capital. */
function wordsOf(style: string): string[] {
  const spaced = style
    .normalize("NFKC")
    .replace(/(\p{Ll})(\p{Lu})/gu, "$1 $2")
    .replace(/[\s_-]+/gu, " ");
  const words = spaced.toLowerCase().trim().split(" ").filter(Boolean);
  const joined: string[] = [];
  for (const word of words) {
    if (joined.length > 0 && PREFIXES.test(joined.at(-1)!) && PREFIXED.test(word)) joined.push(`${joined.pop()!} ${word}`);
    else joined.push(word);
  }
  return joined;
}

/** Reads a style's name. A value the name does not speak of is left out; a later word of the same kind is kept in `rest`. */
export function parseStyleWords(style: string): StyleWords {
  const found: StyleWords = { rest: [] };
  const named = (table: readonly (readonly [RegExp, number])[], word: string) => table.find(([words]) => words.test(word))?.[1];
  for (const word of wordsOf(style)) {
    const weight = named(WEIGHTS, word);
    const width = named(WIDTHS, word);
    if (ITALIC.test(word) && found.slant === undefined) found.slant = "italic";
    else if (OBLIQUE.test(word) && found.slant === undefined) found.slant = "oblique";
    else if (weight !== undefined && found.weight === undefined) {
      found.weight = weight;
      if (UPRIGHT.test(word)) found.slant ??= "upright";
    } else if (width !== undefined && found.width === undefined) found.width = width;
    else if (UPRIGHT.test(word)) found.slant ??= "upright";
    else if (OPTICAL.test(word) && found.opticalSize === undefined) found.opticalSize = word;
    else found.rest.push(word);
  }
  return found;
}

/** Words that name the part of a layered face. Common practice, no source. */
export const LAYER_WORD =
  /\b(shade|shadow|inline|outline|outlined|fill|filled|base|extrude|highlight|inset|line|back|front|under|over|drop)\b/i;
