// Statements in other languages than English: their phrases are put into the English words the reader knows, word for word; what stands in no
// glossary stays, and a sentence with such words permits nothing. Which language a paper is in is told by franc.
import { franc } from "franc";
import { GLOSSARIES, ISO_639_3, type GlossaryLanguage } from "./glossaries.ts";

interface Glossary {
  language: GlossaryLanguage;
  phrases: ReadonlyMap<string, string>;
  /** Longest phrase, in words or, where words are not parted, in characters. */
  longest: number;
}

function made(language: GlossaryLanguage): Glossary {
  const phrases = new Map<string, string>();
  let longest = 1;
  for (const row of GLOSSARIES[language].split("\n")) {
    const at = row.indexOf(" = ");
    if (at < 0) continue;
    const meaning = row.slice(at + 3).trim();
    for (const phrase of row.slice(0, at).trim().split("|")) {
      const key = language === "ja" ? phrase.toLowerCase() : wordsOf(phrase).join(" ");
      if (!phrases.has(key)) phrases.set(key, meaning === ";" ? "" : meaning);
      longest = Math.max(longest, language === "ja" ? phrase.length : wordsOf(phrase).length);
    }
  }
  return { language, phrases, longest };
}

/** "l'usage" is two words. */
const wordsOf = (text: string): string[] =>
  [
    ...text
      .toLowerCase()
      .replace(/’/g, "'")
      .matchAll(/[ldn]'(?=\p{L})|[\p{L}\p{N}][\p{L}\p{M}\p{N}"'״׳-]*|[,;:.!]/gu),
  ].map(([word]) => word);

let known: readonly Glossary[] | undefined;
const glossaries = (): readonly Glossary[] => (known ??= (Object.keys(GLOSSARIES) as GlossaryLanguage[]).map(made));

/** Least share of a sentence's words that must stand in a glossary. */
const LEAST_KNOWN = 0.5;
/** Longer sentences are not tried: what papers say in so many words stands in shorter ones. */
const MOST_CHARACTERS = 400;

const hasKana = (text: string): boolean => /[\p{Script=Hiragana}\p{Script=Katakana}]/u.test(text);
const hasJapanese = (text: string): boolean => /[\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Han}]/u.test(text);
const hasHebrew = (text: string): boolean => /\p{Script=Hebrew}/u.test(text);

export interface Translated {
  language: GlossaryLanguage;
  /** English words, and the words that stand in no glossary. */
  english: string;
}

/** A sentence in English words, from whichever glossary knows most of it; undefined when none knows half of its words. */
export function translated(sentence: string): Translated | undefined {
  if (sentence.length > MOST_CHARACTERS) return undefined;
  const fitting = hasJapanese(sentence) ? "ja" : hasHebrew(sentence) ? "he" : undefined;
  const words = fitting === "ja" ? [] : wordsOf(sentence);
  let best: (Translated & { share: number }) | undefined;
  for (const glossary of glossaries()) {
    if (fitting ? glossary.language !== fitting : glossary.language === "ja" || glossary.language === "he") continue;
    const found = fitting === "ja" ? bySigns(sentence, glossary) : byWords(words, glossary);
    if (found.share > (best?.share ?? 0)) best = { language: glossary.language, ...found };
  }
  return best && best.share >= LEAST_KNOWN ? best : undefined;
}

function byWords(words: readonly string[], { phrases, longest }: Glossary): { english: string; share: number } {
  const out: string[] = [];
  let [all, found] = [0, 0];
  for (let i = 0; i < words.length;) {
    if (/^[,;:.!]$/.test(words[i]!)) {
      out.push(words[i++]!);
      continue;
    }
    let taken = 0;
    for (let length = Math.min(longest, words.length - i); length > 0 && taken === 0; length--) {
      const meaning = phrases.get(words.slice(i, i + length).join(" "));
      if (meaning === undefined) continue;
      if (meaning) out.push(meaning);
      taken = length;
    }
    all += Math.max(1, taken);
    found += taken;
    if (taken === 0) out.push(words[i]!);
    i += Math.max(1, taken);
  }
  return { english: joined(out), share: all === 0 ? 0 : found / all };
}

function bySigns(sentence: string, { phrases, longest }: Glossary): { english: string; share: number } {
  const text = sentence.normalize("NFKC").toLowerCase();
  const out: string[] = [];
  let [all, found] = [0, 0];
  for (let i = 0; i < text.length;) {
    let taken = 0;
    for (let length = Math.min(longest, text.length - i); length > 0 && taken === 0; length--) {
      const meaning = phrases.get(text.slice(i, i + length));
      if (meaning === undefined) continue;
      if (meaning) out.push(meaning);
      taken = length;
    }
    if (taken > 0 || /\S/.test(text[i]!)) all += Math.max(1, taken);
    found += taken;
    if (taken === 0) {
      // A run of other signs is one word that is not known.
      const last = out.at(-1);
      if (/[\p{L}\p{N}]/u.test(text[i]!)) {
        if (last !== undefined && last.startsWith("\u2060")) out[out.length - 1] = last + text[i]!;
        else out.push(`\u2060${text[i]!}`);
      } else if (/[,;:.!]/.test(text[i]!)) out.push(text[i]!);
      i++;
    } else i += taken;
  }
  return { english: joined(out.map((word) => word.replace("\u2060", ""))), share: all === 0 ? 0 : found / all };
}

const joined = (words: readonly string[]): string => words.join(" ").replace(/ ([,;:.!])/g, "$1");

/** Languages papers come in; a short text is not held against the two hundred franc knows. */
const LIKELY = (
  "eng deu fra spa por ita nld pol ces slk swe dan nob fin hun tur ron cat hrv slv lit lav est vie ind rus ukr bul srp ell heb arb pes urd hin " +
  "ben tam tel kan mal guj pan mar jpn kor cmn tha khm lao mya kat hye amh bod sin"
).split(" ");
/** Letters of a paragraph that tell a language. */
const LEAST_LETTERS = 60;
/** So many paragraphs are looked at, from the whole length of a paper. */
const MOST_PARAGRAPHS = 16;
const MOST_LOOKED_AT = 500;
/** Where every fifth word is one of these, nothing else need be asked. */
const ENGLISH = /\b(the|of|and|to|is|in|you|for|this|that|not|or|with|be|are|it|by|as|on|may)\b/gi;

const isEnglish = (text: string): boolean => [...text.matchAll(ENGLISH)].length * 5 > text.split(/\s+/).length;
const MOST_FIRST = 4000;

/**
 * The languages a paper is written in, by ISO 639-3, those with more of it first; empty when there is too little to tell. What makes less than an eighth of it is left out.
 */
export function languagesOf(text: string): string[] {
  const letters = new Map<string, number>();
  let all = 0;
  const long = text.split(/\n\s*\n/).filter((one) => one.length >= LEAST_LETTERS / 4);
  const mostly = isEnglish(text.slice(0, MOST_FIRST));
  for (let i = 0; i < Math.min(long.length, MOST_PARAGRAPHS); i++) {
    const paragraph = long[Math.floor((i * long.length) / Math.min(long.length, MOST_PARAGRAPHS))]!.slice(0, MOST_LOOKED_AT);
    // In an English paper what has no other letters is English, or names and signs.
    const plainly = mostly && !/[^\u0000-\u007f]/.test(paragraph);
    const words = paragraph.split(/\s+/);
    const plain = plainly ? paragraph : words.filter((word) => !/^https?:|@/.test(word)).join(" ");
    const count = plain.replace(/[^\p{L}]+/gu, "").length;
    const dense = hasKana(plain) || hasHebrew(plain);
    if (count < (dense ? LEAST_LETTERS / 4 : LEAST_LETTERS)) continue;
    const code = plainly || isEnglish(plain) ? "eng" : hasKana(plain) ? "jpn" : franc(plain, { only: LIKELY, minLength: 10 });
    if (code === "und") continue;
    all += count;
    letters.set(code, (letters.get(code) ?? 0) + count);
  }
  return [...letters]
    .filter(([, count]) => count * 8 >= all)
    .sort(([, a], [, b]) => b - a)
    .map(([code]) => code);
}

/** Whether statements in a language, by ISO 639-3, are read. */
export const isRead = (code: string): boolean => code in ISO_639_3;
/** "German". */
export const languageWords = (code: string): string => new Intl.DisplayNames("en", { type: "language" }).of(code) ?? code;
