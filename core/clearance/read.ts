// What a paper, or a font's own fields, say of what the fonts may be used for: facts of the text alone, the same wherever it occurs.
import type { StatedLicence } from "../inspect.ts";
import { NAME } from "../sfnt/name.ts";
import { licencesOf, namesOf, readCopyrightFile, type CopyrightFile } from "./copyright-format.ts";
import { readEmbedding } from "./embedding.ts";
import { languagesOf, translated } from "./foreign.ts";
import { mentioned, saidBy as isSaidBy, variantOf } from "./licence-names.ts";
import { baseLicence, currentName } from "./licences.ts";
import type { Look } from "./paper-kinds.ts";
import { aroundOf, passagesOf, type Passage } from "./passages.ts";
import { asStatement } from "./questions.ts";
import type { Sentence } from "./sentences.ts";
import type { LicenceRecogniser } from "./spdx.ts";
import type { Aside } from "./speech.ts";
import { asksForCredit, maySpeak, readSentence, type Answers, type Said } from "./statements.ts";
import { readTerm, type ReadTerm } from "./terms.ts";
import { forbiddingSentence } from "./unwrapping.ts";
import { USES, type Source, type Use } from "./uses.ts";

/** Counts up when the reader learns something, so that what was read before is read anew. */
export const READER_VERSION = 3;

/** Where a statement stands in what was read; which paper that is, whoever asks knows. */
export type Place = Exclude<Source, { kind: "paper" }> | { kind: "paper"; line: number };

export interface ReadStatement {
  answers: Answers;
  sentence: string;
  place: Place;
  /** SPDX identifier, or a choice of several ("MIT OR OFL-1.1"), when it is a known licence's text or name. */
  licence?: string;
  /** Uses that licence leaves open. */
  open?: readonly Use[];
  /** What it says instead where all of `words` are parts of the fonts' names. */
  named?: { words: readonly string[]; answers: Answers };
  /** What stands before and after the sentence in its paragraph. */
  around?: { before: string; after: string };
  /** Index of the list of files it speaks of, in `files` of the text. */
  stanza?: number;
  /** Why it is no statement, though it has words of one: it is shown and never counts. */
  aside?: Aside;
}

/** What one text says. */
export interface TextFacts {
  look: Look;
  /** Languages it is written in, by ISO 639-3. */
  languages: string[];
  statements: ReadStatement[];
  /** Lists of file patterns that statements are limited to (Debian copyright format 1.0, "Files"). */
  files: string[][];
  /** Time limits it speaks of. */
  terms: (ReadTerm & { place: Place })[];
  /** The sentence that forbids taking a web font out of its packing; null when there is none. */
  forbidsUnwrapping: Sentence | null;
}

const PLAIN: Look = { questions: 0, sentences: 0, changes: 0, quoted: 0, licenceShare: 0, copyrightFile: false, full: false };
export const NOTHING_READ: TextFacts = {
  look: PLAIN,
  languages: [],
  statements: [],
  files: [],
  terms: [],
  forbidsUnwrapping: null,
};

/** Sentences that are no statements are kept up to this many a paper; they are only shown. */
const MOST_ASIDES = 40;
/** Statements kept of one paper; whoever says more says it again. */
const MOST_STATEMENTS = 400;
/** Sentences of one paper that are looked at closely, and put into English; no paper people write has more that differ. */
const MOST_READ = 1500;
const MOST_TRANSLATED = 200;
/** Lists of files of one paper, and patterns in one: no package's copyright file has more of fonts. */
const MOST_STANZAS = 300;
const MOST_PATTERNS = 60;

/** How to apply a licence, which follows its terms in some copies, is not said of this font. */
const APPENDIX = /end of terms and conditions|how to apply these terms/i;

function readText(text: string, place: (line: number) => Place, recogniser: LicenceRecogniser): TextFacts {
  const copyrightFile = readCopyrightFile(text);
  const read = new StatementReader(text, place, recogniser);
  return copyrightFile ? read.byStanzas(copyrightFile) : read.plainly();
}

class StatementReader {
  private readonly text: string;
  private readonly lines: string[];
  private readonly place: (line: number) => Place;
  private readonly recogniser: LicenceRecogniser;
  private readonly facts: TextFacts;
  private full = false;
  private asides = 0;
  private translations = 0;
  private readonly seen = new Set<string>();

  constructor(text: string, place: (line: number) => Place, recogniser: LicenceRecogniser) {
    this.text = text;
    this.lines = text.split("\n");
    this.place = place;
    this.recogniser = recogniser;
    this.facts = { ...NOTHING_READ, look: { ...PLAIN }, statements: [], files: [], terms: [] };
  }

  plainly(): TextFacts {
    const licences = this.recogniser.recognise(this.text);
    const covered = new Uint8Array(this.lines.length + 2);
    for (const { line, lastLine } of licences) covered.fill(1, line, lastLine + 1);
    const appendix = licences.length > 0 ? this.lines.findIndex((line) => APPENDIX.test(line)) : -1;
    if (appendix >= 0) covered.fill(1, appendix + 1);
    const rest = this.lines.map((line, i) => (covered[i + 1] ? "" : line)).join("\n");
    for (const { id, line } of licences) this.licence(variantOf(currentName(id), rest), line);
    const passages = passagesOf(rest);
    this.passages(
      passages,
      licences.map(({ id }) => currentName(id)),
    );
    this.finish(passages, rest, covered);
    return this.facts;
  }

  /** A text of a licence stands there; its own sentences are not read again. */
  private licence(id: string, line: number): void {
    const known = baseLicence(id);
    if (known) this.add({ answers: known.answers, sentence: known.meaning, place: this.place(line), licence: id, open: known.open });
  }

  /** `recognised`: licences that are known already; their names beside their texts say nothing new. */
  private passages(passages: readonly Passage[], recognised: readonly string[], stanza?: number): void {
    const scope = stanza === undefined ? {} : { stanza };
    for (const passage of passages) {
      // What a paper repeats it says once.
      const key = `${stanza ?? ""} ${passage.question ?? ""} ${passage.text}`;
      if (this.seen.has(key)) continue;
      if (this.seen.size >= MOST_READ) {
        this.full = true;
        return;
      }
      if (passage.part === "said" || passage.part === "answer") {
        const licences = mentioned(passage.text);
        for (const { id } of licences.filter((one) => !isSaidBy(one.id, recognised))) {
          const known = baseLicence(id);
          const around = aroundOf(passage);
          if (known)
            this.add({
              answers: known.answers,
              sentence: passage.text,
              place: this.place(passage.line),
              licence: id,
              open: known.open,
              around,
              ...scope,
            });
        }
        // Beside a licence the rest of its sentence may take something back; what it permits the licence says.
        if (licences.length > 0) {
          // An exception to a licence gives more than it does.
          if (!/\bexception\b/i.test(passage.text)) this.passage(passage, scope, true);
          continue;
        }
      }
      if (this.passage(passage, scope)) this.seen.add(key);
    }
  }

  /** Whether it was looked at closely. `strictly`: of what it says, only what it forbids counts. */
  private passage(passage: Passage, scope: { stanza?: number }, strictly = false): boolean {
    const { text, part } = passage;
    const foreign = this.translations < MOST_TRANSLATED && hasForeignWords(text) ? translated(text) : undefined;
    if (foreign) this.translations++;
    if (!foreign && !maySpeak(text) && !(passage.question && maySpeak(passage.question))) {
      this.term(passage);
      return false;
    }
    if (part !== "said" && part !== "answer" && this.asides >= MOST_ASIDES) return true;
    const [whole, aside] = saidBy(passage, foreign?.english);
    const said = strictly ? forbidding(whole) : whole;
    const place = this.place(passage.line);
    const sentence = part === "answer" && !aside ? `${passage.question} ${text}` : text;
    if (aside) {
      if (Object.keys(said.answers).length > 0 && this.asides++ < MOST_ASIDES)
        this.add({ answers: said.answers, sentence: text, place, around: aroundOf(passage), aside, ...scope });
      return true;
    }
    this.term(passage);
    const depends = said.unknown.length > 0 && Object.keys(said.named).length > 0;
    if (Object.keys(said.answers).length === 0 && !depends) return true;
    this.add({
      answers: said.answers,
      sentence,
      place,
      around: aroundOf(passage),
      ...(depends ? { named: { words: said.unknown, answers: said.named } } : {}),
      ...scope,
    });
    return true;
  }
  private term({ text, part, line }: Passage): void {
    if (part !== "said" && part !== "answer") return;
    const term = readTerm(text);
    if (term) this.facts.terms.push({ ...term, place: this.place(line) });
  }
  private add(statement: ReadStatement): void {
    if (this.facts.statements.length < MOST_STATEMENTS) this.facts.statements.push(statement);
  }

  /** By the stanzas of a copyright file: each says what its own files are under. */
  byStanzas({ stanzas, texts }: CopyrightFile): TextFacts {
    const recognised = new Map<string, string | undefined>();
    const recognise = (text: string): string | undefined => {
      if (!recognised.has(text)) {
        const [found] = this.recogniser.recognise(text);
        recognised.set(text, found && variantOf(currentName(found.id), text));
      }
      return recognised.get(text);
    };
    const textOf = (short: string): string => {
      const one = texts.get(short.trim().toLowerCase());
      return one ? `${one.comment}\n${one.text}` : "";
    };
    const all: Passage[] = [];
    const said = new Map<string, ReturnType<StatementReader["under"]>>();
    for (const [number, stanza] of stanzas.slice(0, MOST_STANZAS).entries()) {
      this.facts.files.push(stanza.files.slice(0, MOST_PATTERNS));
      // What the packager wrote is never a font of the package.
      if (stanza.files.every((pattern) => pattern.startsWith("debian/"))) continue;
      const ids = licencesOf(stanza.licence, textOf, recognise);
      const place = this.place(stanza.line);
      for (const id of ids) {
        const known = baseLicence(id);
        const sentence = `License: ${stanza.licence}`;
        if (known) this.add({ answers: known.answers, sentence, place, licence: id, open: known.open, stanza: number });
      }
      // A name of its own in the format's list, though no licence ("License specification", short names).
      if (ids.length === 0 && /^public[- ]domain$/i.test(stanza.licence))
        this.add({ answers: everyYes(), sentence: `License: ${stanza.licence}`, place, stanza: number });
      // What stands under the name, here or where the name is explained.
      const under = stanza.text.trim() ? { text: stanza.text, line: stanza.line + 1 } : explained(stanza.licence, texts);
      if (!under) continue;
      const key = `${under.line}`;
      let there = said.get(key);
      if (!there) said.set(key, (there = this.under(under)));
      // Texts of licences that stand there beside those that are named.
      for (const { id, line: at } of there.licences.filter((one) => !isSaidBy(one.id, ids))) {
        const known = baseLicence(id);
        if (known)
          this.add({
            answers: known.answers,
            sentence: known.meaning,
            place: this.place(at),
            licence: id,
            open: known.open,
            stanza: number,
          });
      }
      const { passages } = there;
      all.push(...passages);
      this.passages(
        passages,
        ids.flatMap((id) => id.split(" OR ")),
        number,
      );
    }
    this.finish(all, "", new Uint8Array(0));
    this.facts.look.copyrightFile = true;
    return this.facts;
  }

  /** What stands under a licence's name: texts of licences, and passages beside them. */
  private under({ text, line }: { text: string; line: number }): { licences: { id: string; line: number }[]; passages: Passage[] } {
    const licences = this.recogniser.recognise(text);
    const within = (at: number) => licences.some((one) => at >= one.line && at <= one.lastLine);
    const rest = text.split("\n").map((one, i) => (within(i + 1) ? "" : one));
    return {
      licences: licences.map((one) => ({ id: currentName(one.id), line: one.line + line - 1 })),
      passages: passagesOf(rest.join("\n")).map((one) => ({ ...one, line: one.line + line - 1 })),
    };
  }

  /** "Credit is required.", said by itself: every use that these words permit is permitted with credit. */
  private credit(passages: readonly Passage[]): void {
    if (this.facts.files.length > 0) return;
    const permitted = new Set<Use>();
    for (const { answers, licence, aside } of this.facts.statements)
      for (const [use, answer] of Object.entries(answers) as [Use, string][])
        if (!licence && !aside && answer === "yes") permitted.add(use);
    if (permitted.size === 0) return;
    for (const passage of passages) {
      const { text, part, line } = passage;
      if (part !== "said" || !asksForCredit(text)) continue;
      const answers = Object.fromEntries([...permitted].map((use) => [use, "credit"]));
      return this.add({ answers, sentence: text, place: this.place(line), around: aroundOf(passage) });
    }
  }

  private finish(passages: readonly Passage[], rest: string, covered: Uint8Array): void {
    this.credit(passages);
    const count = (part: Passage["part"]) => passages.filter((one) => one.part === part).length;
    const filled = this.lines.filter((line) => line.trim() !== "").length;
    const inLicence = this.lines.filter((line, i) => line.trim() !== "" && covered[i + 1] === 1).length;
    this.facts.look = {
      questions: count("question"),
      sentences: passages.length,
      changes: count("change"),
      quoted: count("quoted"),
      licenceShare: filled === 0 ? 0 : Math.round((100 * inLicence) / filled) / 100,
      copyrightFile: false,
      full: this.full,
    };
    this.facts.languages = languagesOf(rest);
    this.facts.forbidsUnwrapping = forbiddingSentence(passages.filter((one) => one.part === "said")) ?? null;
  }
}

const everyYes = (): Answers => Object.fromEntries(USES.map((use) => [use, "yes"]));

const explained = (licence: string, texts: CopyrightFile["texts"]): { text: string; line: number } | undefined => {
  const whole = texts.get(licence.toLowerCase());
  if (whole) return { text: whole.text, line: whole.line + 1 };
  for (const part of namesOf(licence)) {
    const one = texts.get(part.trim().toLowerCase());
    if (one) return { text: one.text, line: one.line + 1 };
  }
  return undefined;
};

const forbidding = (said: Said): Said => {
  const answers = Object.fromEntries(Object.entries(said.answers).filter(([, answer]) => answer === "no"));
  return { ...said, answers, unknown: [], named: answers };
};

/** What a passage says, and why it does not count when it does not. */
function saidBy(passage: Passage, english: string | undefined): [said: Said, aside: Aside | undefined] {
  const { text, part, question } = passage;
  const spoken = english ?? text;
  const foreign = english !== undefined;
  if (part === "said" || part === "answer") {
    const statement = part === "answer" ? asStatement(question!, text) : spoken;
    const said = readSentence({ text: statement ?? spoken, foreign });
    return [said, statement === undefined ? "question" : said.aside];
  }
  const aside: Aside = part === "quoted" ? "quoted" : part === "change" ? "change" : part === "question" ? "question" : "other-things";
  return [readSentence({ text: spoken, foreign }), aside];
}

/** Letters beside those of English, or words that English has not: worth a look in the glossaries. */
const hasForeignWords = (text: string): boolean =>
  (/[\u00c0-\u024f\u0590-\u05ff\u3040-\u30ff\u4e00-\u9fff]/.test(text) || FOREIGN.test(text)) &&
  (text.slice(0, 400).match(/\b(the|this|these|you|your|may|not|to|are|be|with|any)\b/gi) ?? []).length < 2;
const FOREIGN =
  /\b(der|die|das|nur|nicht|und|ist|le|la|les|des|pour|est|el|los|para|uso|per|il|solo|niet|het|een|voor|gratis|gratuit|gratuite|gratuito|gratuita|libre|licencia|comercial|commercieel|kommerziell|kommerzielle|privat|private|usage|personnel|personale|pessoal|gebruik|vietato|prohibido|proibido|interdit)\b/i;

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
  const read = fields.flatMap(([id, text]) => (text === "" ? [] : [readText(text, () => ({ kind: "name-field", id }), recogniser)]));
  // The address of a licence named in words already says the same once more.
  const statements = read.flatMap((one) => one.statements);
  const unlike = statements.filter((one, i) => !one.licence || statements.findIndex((other) => other.licence === one.licence) === i);
  return {
    ...NOTHING_READ,
    statements: [...unlike, readBits(stated)],
    terms: read.flatMap((one) => one.terms),
    forbidsUnwrapping: read.find((one) => one.forbidsUnwrapping)?.forbidsUnwrapping ?? null,
  };
}
