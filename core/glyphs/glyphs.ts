// A face's glyphs as people look for them: named, described, found by word, with the way to each.
import { asked, SignIndex, type Called } from "../symbols/search.ts";
import { calledBy, codePointText, isPrivate, unicodeName, type SignLists } from "../symbols/symbols.ts";
import { wordsOfName } from "../symbols/words.ts";
import type { Face } from "../sfnt/face.ts";
import type { GlyphReach, Way } from "./reach.ts";

/** Facts of one glyph, small enough to keep for every face: `[name, code points, ways]`. */
export type GlyphFact = [name: string, codePoints: number[], ways: [features: string, value: number, input: string, language?: string][]];
/** A feature of a face: the font's own name for it, and for each of its alternatives. */
export interface FeatureFact {
  tag: string;
  own: string;
  values: string[];
}
/** A face's features, each once, in the order of their tags. */
export function featuresOf(face: Face): FeatureFact[] {
  const found = new Map<string, FeatureFact>();
  for (const { tag, nameId, valueNames } of face.gsub?.features ?? []) {
    const there = found.get(tag) ?? { tag, own: "", values: [] };
    if (there.own === "" && nameId !== undefined) there.own = (face.names?.get(nameId) ?? "").slice(0, LONGEST_NAME);
    if (there.values.length === 0 && valueNames)
      there.values = Array.from({ length: Math.min(valueNames.count, MOST_VALUES) }, (_, i) =>
        (face.names?.get(valueNames.first + i) ?? "").slice(0, LONGEST_NAME),
      );
    found.set(tag, there);
  }
  return [...found.values()].sort((a, b) => (a.tag < b.tag ? -1 : 1));
}
const LONGEST_NAME = 80;
const MOST_VALUES = 100;

/** Counts up when a face's glyph facts gain something. */
export const GLYPH_FACTS_VERSION = 1;

export const factOf = ({ name, codePoints, ways }: GlyphReach): GlyphFact => [
  name,
  [...codePoints],
  ways.map(({ features, value, input, language }): GlyphFact[2][number] => {
    const way: GlyphFact[2][number] = [features.join("+"), value, input];
    return language === undefined ? way : [way[0], value, input, language];
  }),
];
export const reachFrom = ([name, codePoints, ways]: GlyphFact, glyph: number): GlyphReach => ({
  glyph,
  name,
  codePoints,
  ways: ways.map(([features, value, input, language]) => ({
    features: features === "" ? [] : features.split("+"),
    value,
    input,
    language,
  })),
});

/** A glyph as it is shown and printed. */
export interface GlyphRecord {
  glyph: number;
  name: string;
  /** "U+2708"; null for a glyph without a character. */
  codepoint: string | null;
  character: string | null;
  unicodeName: string | null;
  words: string[];
  reachedBy: { feature: string; value: number; input: string; language?: string }[];
}

const SHORTEST_LIGATURE_NAME = 2;
/** Words a ligature needs are what a symbol font calls its sign: two letters and more that it makes of them. */
const ligatureWords = (ways: readonly Way[]): string[] =>
  ways
    .filter(({ features, input }) => features.length === 0 && input.length >= SHORTEST_LIGATURE_NAME && /^[\p{L}\p{N}_\- ]+$/u.test(input))
    .map(({ input }) => wordsOfName(input).join(" "))
    .filter((words) => words !== "");

/** What a font itself calls a glyph: by its name, or by the words that have to be written for it. */
export const ownWords = (reach: GlyphReach): string =>
  [...new Set([wordsOfName(reach.name).join(" "), ...ligatureWords(reach.ways)])].filter(Boolean).join(" ");

/** What a glyph is called: what its characters are, what the font calls it, and what has to be typed for it. */
function called(reach: GlyphReach, lists: SignLists, languages: readonly string[]): Called {
  const [names, keywords]: [string[], string[]] = [[], []];
  for (const codePoint of reach.codePoints) {
    const sign = calledBy(lists, codePoint, languages);
    names.push(...sign.names);
    keywords.push(...sign.keywords);
  }
  const own = wordsOfName(reach.name).join(" ");
  // A private character is called what the font calls it; a letter's own name in a font is an abbreviation of Unicode's.
  const isOwn = reach.codePoints.length === 0 || reach.codePoints.some(isPrivate);
  const written = ligatureWords(reach.ways);
  if (isOwn) return { names: [...written, ...(own === "" ? [] : [own]), ...names], keywords };
  return { names: [...names, ...written], keywords: own === "" ? keywords : [...keywords, own] };
}

/** The character a glyph is copied as: the first that is no private one, else the first. */
const best = (codePoints: readonly number[]): number | undefined => codePoints.find((one) => !isPrivate(one)) ?? codePoints[0];

export function recordOf(reach: GlyphReach, lists: SignLists, languages: readonly string[]): GlyphRecord {
  const codePoint = best(reach.codePoints);
  const { names, keywords } = called(reach, lists, languages);
  const unicode = codePoint === undefined ? "" : unicodeName(lists, codePoint);
  const spoken = names.filter((name) => name !== unicode).flatMap((name) => name.toLowerCase());
  return {
    glyph: reach.glyph,
    name: reach.name,
    codepoint: codePoint === undefined ? null : codePointText(codePoint),
    character: codePoint === undefined ? null : String.fromCodePoint(codePoint),
    unicodeName: unicode === "" ? null : unicode,
    words: [...new Set([...spoken, ...keywords.map((word) => word.toLowerCase())])],
    reachedBy: reach.ways.map(({ features, value, input, language }) => ({
      feature: features.join("+"),
      value,
      input,
      ...(language === undefined ? {} : { language }),
    })),
  };
}

/** A face's glyphs, made ready once to be searched again and again. */
export class GlyphFinder {
  private readonly glyphs: readonly GlyphReach[];
  private readonly lists: SignLists;
  private readonly languages: readonly string[];
  private ready: SignIndex<GlyphReach> | undefined;
  constructor(glyphs: readonly GlyphReach[], lists: SignLists, languages: readonly string[]) {
    this.glyphs = glyphs;
    this.lists = lists;
    this.languages = languages;
  }

  /** The glyphs that answer a search, best first: by character or code point those that draw it, else by words. All of them for an empty search. */
  find(search: string): GlyphReach[] {
    const what = asked(search);
    if (what.kind === "nothing") return [...this.glyphs];
    if (what.kind === "glyph") return this.glyphs.filter(({ glyph }) => glyph === what.glyph);
    if (what.kind === "signs") return this.drawing(what.codePoints, search.trim());
    this.ready ??= new SignIndex(this.glyphs.map((glyph) => ({ of: glyph, called: called(glyph, this.lists, this.languages) })));
    return this.ready.find(what.words, this.glyphs.length);
  }

  private drawing(codePoints: readonly number[], typed: string): GlyphReach[] {
    const found = this.glyphs.filter((glyph) => codePoints.some((one) => glyph.codePoints.includes(one)));
    // What else a letter becomes stands after it.
    const made =
      [...typed].length === 1 ? this.glyphs.filter((one) => !found.includes(one) && one.ways.some(({ input }) => input === typed)) : [];
    return [...found, ...made];
  }
}
