// What a paper, or a font's own fields, say of what the fonts may be used for: facts of the text alone, the same wherever it occurs.
import type { StatedLicence } from "../inspect.ts";
import { NAME } from "../sfnt/name.ts";
import { readEmbedding } from "./embedding.ts";
import { baseLicence, mentionedLicence, variantOf } from "./licences.ts";
import { sentencesOf, type Sentence } from "./sentences.ts";
import type { LicenceRecogniser } from "./spdx.ts";
import { readSentence, type Answers } from "./statements.ts";
import { readTerm, type ReadTerm } from "./terms.ts";
import { forbiddingSentence } from "./unwrapping.ts";
import type { Source, Statement } from "./uses.ts";

/** Counts up when the reader learns something, so that what was read before is read anew. */
export const READER_VERSION = 2;

/** Where a statement stands in what was read; which paper that is, whoever asks knows. */
type Place = Exclude<Source, { kind: "paper" }> | { kind: "paper"; line: number };

export interface ReadStatement {
  answers: Answers;
  sentence: string;
  place: Place;
  /** SPDX identifier, when it is a known licence's text or name. */
  licence?: string;
  /** What it says instead where all of `words` are parts of the fonts' names. */
  named?: { words: readonly string[]; answers: Answers };
}

/** What one text says. */
export interface TextFacts {
  statements: ReadStatement[];
  /** Time limits it speaks of. */
  terms: (ReadTerm & { place: Place })[];
  /** The sentence that forbids taking a web font out of its packing; null when there is none. */
  forbidsUnwrapping: Sentence | null;
}

/** What was read for certain fonts, each statement with where it stands. */
export interface Reading {
  statements: Statement[];
  terms: (ReadTerm & { source: Source })[];
}

const NOTHING: TextFacts = { statements: [], terms: [], forbidsUnwrapping: null };

function readText(text: string, place: (line: number) => Place, recogniser: LicenceRecogniser): TextFacts {
  const lines = text.split("\n");
  const licences = recogniser.recognise(text);
  const inside = (line: number) => licences.some((one) => line >= one.line && line <= one.lastLine);
  // How to apply a licence, which follows its terms in some copies, is not said of this font.
  const appendix = licences.length > 0 ? lines.findIndex((line) => /end of terms and conditions|how to apply these terms/i.test(line)) : -1;
  const beside = lines.filter((_, i) => !inside(i + 1) && (appendix < 0 || i < appendix)).join("\n");
  const statements: ReadStatement[] = [];
  for (const { id, line } of licences) {
    const licence = variantOf(id, beside);
    const known = baseLicence(licence);
    if (known) statements.push({ answers: known.answers, sentence: known.meaning, place: place(line), licence });
  }
  // The words around a licence's text belong to it: its name there says nothing new, and its own sentences are not read again.
  const sentences = sentencesOf(lines.map((line, i) => (inside(i + 1) || (appendix >= 0 && i >= appendix) ? "" : line)).join("\n"));
  let named = licences.length > 0;
  const terms: TextFacts["terms"] = [];
  for (const sentence of sentences) {
    const id = named ? undefined : mentionedLicence(sentence.text);
    const licence = id && variantOf(id, beside);
    const known = licence && baseLicence(licence);
    if (known) {
      named = true;
      statements.push({ answers: known.answers, sentence: sentence.text, place: place(sentence.line), licence });
      continue;
    }
    statements.push(...saidBy(sentence, place));
    const term = readTerm(sentence.text);
    if (term) terms.push({ ...term, place: place(sentence.line) });
  }
  return { statements, terms, forbidsUnwrapping: forbiddingSentence(text) ?? null };
}

function saidBy(sentence: Sentence, place: (line: number) => Place): ReadStatement[] {
  const { answers, unknown, named } = readSentence(sentence);
  const says = Object.keys(answers).length > 0;
  const depends = unknown.length > 0 && Object.keys(named).length > 0;
  if (!says && !depends) return [];
  const statement = { answers, sentence: sentence.text, place: place(sentence.line) };
  return [depends ? { ...statement, named: { words: unknown, answers: named } } : statement];
}

/** Reads one paper's text. */
export const readPaper = (text: string, recogniser: LicenceRecogniser): TextFacts =>
  readText(text, (line) => ({ kind: "paper", line }), recogniser);

/** What the embedding bits mean for documents (OpenType specification, OS/2, "fsType"). */
function readBits(stated: StatedLicence): ReadStatement {
  const { level } = readEmbedding(stated.fsType, stated.os2Version);
  const meaning = {
    installable: "The font's embedding bits allow embedding it in documents.",
    editable: "The font's embedding bits allow embedding it in documents that are edited.",
    "preview-and-print": "The font's embedding bits allow embedding it in documents for viewing and printing.",
    restricted: "The font's embedding bits forbid embedding it in documents.",
  }[level];
  return {
    answers: { document: level === "restricted" ? "no" : "yes" },
    sentence: meaning,
    place: { kind: "embedding", fsType: stated.fsType },
  };
}

/** Reads a font's own name fields and embedding bits. */
export function readFont(stated: StatedLicence, recogniser: LicenceRecogniser): TextFacts {
  const fields: [id: number, text: string][] = [
    [NAME.licence, stated.licence],
    [NAME.licenceUrl, stated.licenceUrl],
    [NAME.copyright, stated.copyright],
  ];
  const read = fields.map(([id, text]) => (text === "" ? NOTHING : readText(text, () => ({ kind: "name-field", id }), recogniser)));
  // The address of a licence named in words already says the same once more.
  const statements = read.flatMap((one) => one.statements);
  const unlike = statements.filter((one, i) => !one.licence || statements.findIndex((other) => other.licence === one.licence) === i);
  return {
    statements: [...unlike, readBits(stated)],
    terms: read.flatMap((one) => one.terms),
    forbidsUnwrapping: read.find((one) => one.forbidsUnwrapping)?.forbidsUnwrapping ?? null,
  };
}

/** A text that was read, and the paper it is; no paper for a font's own fields. */
export interface ReadText {
  facts: TextFacts;
  paper?: { path: string; sha256: string };
}

/** The words of fonts' names that papers may call them by, in small letters. */
export const nameWords = (names: readonly string[]): ReadonlySet<string> =>
  new Set(names.flatMap((name) => name.toLowerCase().split(/[\s-]+/)).filter((word) => word.length > 2));

/** Puts together what several texts say of fonts called `names`; what is said twice in the same place counts once. */
export function gather(texts: readonly ReadText[], names: readonly string[]): Reading {
  const words = nameWords(names);
  const statements = new Map<string, Statement>();
  const terms = new Map<string, Reading["terms"][number]>();
  for (const { facts, paper } of texts) {
    const sourceOf = (place: Place): Source => (place.kind === "paper" ? { ...place, ...paper! } : place);
    for (const { named, answers, sentence, place, licence } of facts.statements) {
      const said = named?.words.every((word) => words.has(word)) ? named.answers : answers;
      if (Object.keys(said).length === 0) continue;
      const statement: Statement = { answers: said, sentence, source: sourceOf(place), ...(licence ? { licence } : {}) };
      const key = JSON.stringify([sentence, place.kind, place.kind === "paper" ? `${paper!.path} ${place.line}` : place, said]);
      if (!statements.has(key)) statements.set(key, statement);
    }
    for (const { place, ...term } of facts.terms) {
      const key = JSON.stringify(term.term);
      if (!terms.has(key)) terms.set(key, { ...term, source: sourceOf(place) });
    }
  }
  return { statements: [...statements.values()], terms: [...terms.values()] };
}
