// Kinds of characters, by their general category (Unicode Standard, section 4.5), and their scripts (UAX #24).

/** What people sort characters by. */
export const GLYPH_KINDS = ["letters", "figures", "punctuation", "signs", "marks"] as const;
export type GlyphKind = (typeof GLYPH_KINDS)[number];
const CATEGORY: Readonly<Record<GlyphKind, RegExp>> = {
  letters: /\p{L}/u,
  figures: /\p{N}/u,
  punctuation: /\p{P}/u,
  signs: /[\p{S}\p{Co}]/u,
  marks: /\p{M}/u,
};
export const isOfKind = (codePoint: number, kind: GlyphKind): boolean => CATEGORY[kind].test(String.fromCodePoint(codePoint));

const SCRIPTS: readonly (readonly [name: string, test: RegExp])[] = [
  ["Latin", /\p{Script=Latin}/u],
  ["Greek", /\p{Script=Greek}/u],
  ["Cyrillic", /\p{Script=Cyrillic}/u],
  ["Hebrew", /\p{Script=Hebrew}/u],
  ["Arabic", /\p{Script=Arabic}/u],
  ["Devanagari", /\p{Script=Devanagari}/u],
  ["Bengali", /\p{Script=Bengali}/u],
  ["Tamil", /\p{Script=Tamil}/u],
  ["Thai", /\p{Script=Thai}/u],
  ["Georgian", /\p{Script=Georgian}/u],
  ["Armenian", /\p{Script=Armenian}/u],
  ["Ethiopic", /\p{Script=Ethiopic}/u],
  ["Khmer", /\p{Script=Khmer}/u],
  ["Korean", /\p{Script=Hangul}/u],
  ["Japanese kana", /[\p{Script=Hiragana}\p{Script=Katakana}]/u],
  ["Chinese characters", /\p{Script=Han}/u],
  ["Common to all", /\p{Script=Common}/u],
];
/** The script of a character, by a name people know; undefined for one without a character, "Other" for rarer scripts. */
export function scriptName(codePoint: number | undefined): string | undefined {
  if (codePoint === undefined) return undefined;
  const character = String.fromCodePoint(codePoint);
  return SCRIPTS.find(([, test]) => test.test(character))?.[0] ?? "Other";
}

/** A language whose words for signs go with a script, beside English. */
export const LANGUAGE_OF: Readonly<Record<string, string>> = {
  greek: "el",
  cyrillic: "ru",
  hebrew: "he",
  arabic: "ar",
  devanagari: "hi",
  armenian: "hy",
  georgian: "ka",
  thai: "th",
  hangul: "ko",
  kana: "ja",
  han: "zh",
};
