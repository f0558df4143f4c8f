// Puts together what several texts say of certain fonts: each thing once, what speaks of other fonts or files aside.
import { isRead, languageWords } from "./foreign.ts";
import { kindOfPaper, type PaperKind } from "./paper-kinds.ts";
import { stanzasFor } from "./copyright-format.ts";
import type { Place, ReadStatement, TextFacts } from "./read.ts";
import type { ReadTerm } from "./terms.ts";
import { USES, type Source, type Statement } from "./uses.ts";
import { weightOf } from "./weight.ts";

/** What was read for certain fonts, each statement with where it stands. */
export interface Reading {
  statements: Statement[];
  terms: (ReadTerm & { source: Source })[];
  papers: ReadPaper[];
}

interface ReadPaper {
  path: string;
  sha256: string;
  kind: PaperKind;
  /** ISO 639-3. */
  languages: string[];
  /** Why it says less than it might, as a sentence; empty when it was read. */
  unread: string;
}

/** A text that was read, and the paper it is; no paper for a font's own fields, `key` names those. */
export interface ReadText {
  facts: TextFacts;
  paper?: { path: string; sha256: string };
  key?: string;
}

/** The fonts a reading is for. */
export interface Fonts {
  /** What papers may call them. */
  names: readonly string[];
  /** Names of all families that lie beside them, as `plainName` gives them: what names one of those and none of these does not speak of these. */
  beside?: () => ReadonlySet<string>;
  /** Where their files lie. */
  paths?: readonly string[];
  /** Sentences a person left out, by the paper's sha-256 or the key of a font's fields. */
  leftOut?: ReadonlySet<string>;
}

/** How a sentence that was left out is remembered. */
export const leftOutKey = (text: string, sentence: string): string => `${text} ${sentence}`;

/** The words of fonts' names that papers may call them by, in small letters. */
const nameWords = (names: readonly string[]): ReadonlySet<string> =>
  new Set(names.flatMap((name) => name.toLowerCase().split(/[\s-]+/)).filter((word) => word.length > 2));

/** A family's name as it is looked for in a text. */
export const searchedName = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, " ")
    .trim();

/** Shorter names are words of every text. */
const LEAST_NAME = 4;
/** Names have no more words than these. */
const MOST_WORDS = 5;
/** What papers are called, whatever fonts they are about. */
const PAPER_WORDS =
  /\b(licen[cs]es?|copying|copyright|ofl|eula|terms|read ?me|faq|fontlog|changelog|info|about|txt|md|html?|pdf|docx?|rtf)\b/g;

/** Which of some families words name: looked up once for all families that lie together. */
const lookedUp = new WeakMap<ReadonlySet<string>, Map<string, readonly string[]>>();
const MOST_LOOKED_UP = 5000;

function familiesNamed(words: string, families: ReadonlySet<string>): readonly string[] {
  let known = lookedUp.get(families);
  if (!known || known.size > MOST_LOOKED_UP) lookedUp.set(families, (known = new Map()));
  let found = known.get(words);
  if (!found) known.set(words, (found = findFamilies(words, families)));
  return found;
}
function findFamilies(words: string, families: ReadonlySet<string>): string[] {
  const parts = searchedName(words).split(" ");
  const found: string[] = [];
  for (let from = 0; from < parts.length; from++) {
    let name = "";
    for (let to = from; to < Math.min(parts.length, from + MOST_WORDS); to++) {
      name += `${name && " "}${parts[to]!}`;
      if (name.length >= LEAST_NAME && families.has(name)) found.push(name);
    }
  }
  return found;
}

/** Whether words name a family beside these fonts and none of these. */
function namesOthers(words: string, { names, beside }: Fonts): boolean {
  if (!beside || words.length < LEAST_NAME) return false;
  const named = familiesNamed(words, beside());
  if (named.length === 0) return false;
  const text = ` ${searchedName(words)} `;
  return !names.some((name) => text.includes(` ${searchedName(name)} `));
}

/** Puts together what texts say of fonts. What is said twice counts once, and names how often. */
export function gather(texts: readonly ReadText[], fonts: Fonts): Reading {
  const words = nameWords(fonts.names);
  const statements = new Map<string, Statement>();
  const terms = new Map<string, Reading["terms"][number]>();
  const papers: ReadPaper[] = [];
  for (const text of texts) {
    const { facts, paper } = text;
    const kind = paper && kindOfPaper(paper.path, facts.look);
    if (paper) papers.push({ ...paper, kind: kind!, languages: facts.languages, unread: unreadWords(facts, kind!) });
    const sourceOf = (place: Place): Source =>
      place.kind === "paper" ? { ...place, ...paper!, paper: kind! } : { ...place, ...(text.key ? { key: text.key } : {}) };
    /** All of a paper weighs the same. */
    const ofPaper = paper && weightOf(sourceOf({ kind: "paper", line: 1 }));
    const weightAt = (place: Place): number => (place.kind === "paper" ? ofPaper! : weightOf(sourceOf(place)));
    const stanzas = facts.files.length > 0 && fonts.paths ? stanzasFor(facts.files, fonts.paths) : undefined;
    const called =
      paper &&
      searchedName(paper.path.slice(paper.path.lastIndexOf("/") + 1))
        .replace(PAPER_WORDS, "")
        .trim();
    const elsewhere = called !== undefined && called !== "" && namesOthers(called, fonts);
    for (const one of facts.statements) {
      const aside = one.aside ?? asideHere(one, { text, fonts, stanzas, elsewhere });
      const said = one.named?.words.every((word) => words.has(word)) ? one.named.answers : one.answers;
      if (Object.keys(said).length === 0 && !one.open?.length) continue;
      const { sentence, licence, open, around } = one;
      const statement = (): Statement => ({
        answers: said,
        sentence,
        source: sourceOf(one.place),
        ...(licence ? { licence } : {}),
        ...(open?.length ? { open } : {}),
        ...(around ? { around } : {}),
        ...(aside ? { aside } : {}),
      });
      // The same words with the same answer are one thing; it stands where it weighs most.
      const key = `${sentence}\n${licence ?? ""}\n${aside ?? ""}\n${USES.map((use) => said[use] ?? "").join()}`;
      const there = statements.get(key);
      if (!there) statements.set(key, statement());
      else if (weightAt(one.place) > weightOf(there.source)) statements.set(key, { ...statement(), again: (there.again ?? 0) + 1 });
      else there.again = (there.again ?? 0) + 1;
    }
    if (elsewhere) continue;
    for (const { place, ...term } of facts.terms) {
      const key = JSON.stringify(term.term);
      if (!terms.has(key)) terms.set(key, { ...term, source: sourceOf(place) });
    }
  }
  return { statements: [...statements.values()], terms: [...terms.values()], papers };
}

interface Here {
  text: ReadText;
  fonts: Fonts;
  stanzas: ReadonlySet<number> | undefined;
  elsewhere: boolean;
}

/** Why a statement does not speak of these fonts. */
function asideHere({ stanza, sentence, licence }: ReadStatement, { text, fonts, stanzas, elsewhere }: Here): Statement["aside"] {
  const id = text.paper?.sha256 ?? text.key ?? "";
  if (fonts.leftOut?.has(leftOutKey(id, sentence))) return "person";
  if (stanza !== undefined && stanzas && !stanzas.has(stanza)) return "other-files";
  if (elsewhere || (!licence && namesOthers(sentence, fonts))) return "other-fonts";
  return undefined;
}

/** A paper in a language nobody reads here says so; one whose language is read, and in which nothing was understood, too. */
function unreadWords({ languages, statements, look }: TextFacts, kind: PaperKind): string {
  if (look.full) return "It has more sentences than are read closely; its last ones were not.";
  if (kind === "manual" || kind === "log" || look.copyrightFile) return "";
  const unknown = languages.filter((code) => !isRead(code));
  const words = (codes: readonly string[]) => codes.map(languageWords).join(" and ");
  if (unknown.length > 0 && unknown.length === languages.length) return `It is written in ${words(unknown)}, and was not read.`;
  if (unknown.length > 0) return `Parts of it are written in ${words(unknown)}, and were not read.`;
  const foreign = languages.filter((code) => code !== "eng" && code !== "sco");
  if (foreign.length > 0 && statements.every((one) => one.aside))
    return `It is written in ${words(foreign)}; nothing in it about using the fonts was understood.`;
  return "";
}
