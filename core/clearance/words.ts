// Clearance in words: where something stands, what counts, how a term goes on.
import { dayWords } from "../words/dates.ts";
import { count, listWords } from "../words/words.ts";
import type { Clearance, UseClearance } from "./clearance.ts";
import { baseLicence, type KnownLicence } from "./licences.ts";
import type { TermState } from "./terms.ts";
import { ANSWER_WORDS, USE_WORDS, type Source, type Statement, type Use } from "./uses.ts";

const FIELDS: Record<number, string> = {
  0: "the font's copyright field",
  13: "the font's licence field",
  14: "the font's licence address",
};

export function whereWords(source: Source): string {
  switch (source.kind) {
    case "name-field":
      return FIELDS[source.id] ?? `the font's name field ${source.id}`;
    case "embedding":
      return `the font's embedding bits (fsType ${source.fsType})`;
    case "paper":
      return `${source.path}, line ${source.line}`;
  }
}

/** "3 May 2027". */

export function termWords(state: TermState): string {
  const days = (count: number) => `${count} ${count === 1 ? "day" : "days"}`;
  switch (state.state) {
    case "not-begun":
      return `${days(state.days)} from the day it is placed`;
    case "running":
    case "ending":
      return state.left === 1 ? `Ends today, ${dayWords(state.last)}` : `${days(state.left)} left, until ${dayWords(state.last)}`;
    case "over":
      return `Ended on ${dayWords(state.last)}`;
  }
}

/** Words that begin a line, as they stand inside a sentence. */
export const inSentence = (words: string): string => words.charAt(0).toLowerCase() + words.slice(1);

const named = (statement: Statement): string =>
  statement.licence ? `${statement.licence}: ${statement.sentence}` : `“${statement.sentence}”`;

/** Why a use is answered as it is, as a sentence. */
export function reasonWords(one: UseClearance): string {
  const first = one.evidence[0];
  const read = first ? `${named(first)} (${whereWords(first.source)})` : "";
  if (one.by === "licence") return one.answer === "no" ? "The licence has ended." : "A licence recorded here allows it.";
  if (one.by === "person") return one.correction!.note ? `Your own reading: ${one.correction!.note}` : "Your own reading.";
  if (one.reading) return "Its papers are still being read.";
  if (one.open) return `${named(one.open)} (${whereWords(one.open.source)})`;
  if (one.conflict) return `Its papers contradict one another; the stricter counts: ${read}`;
  return first ? read : "Nothing that came with it says so.";
}

/** Uses as things people make, in a sentence. */
const THINGS: Record<Use, string> = {
  own: "your own things",
  "given-away": "things you give away",
  sold: "things you sell",
  client: "work for clients",
  document: "documents that carry the font",
  video: "films and videos",
  web: "web pages",
};
const things = (uses: readonly Use[], how: "and" | "or"): string =>
  listWords(
    uses.map((use) => THINGS[use]),
    how,
  );

/** What is seen first: what a family may be used for, in a sentence or two a person can act on. */
export function headlineWords(clearance: Clearance): string {
  if (clearance.lapsed) return "Its licence has ended. Renew it before you use it again.";
  const own = allowedWords(clearance);
  return clearance.papersAlone ? `A licence recorded here has ended; its papers go on. ${own}` : own;
}
function allowedWords({ uses, beingRead }: Clearance): string {
  const reading = uses.filter((one) => one.reading);
  if (reading.length === uses.length) return `${beingReadWords(beingRead)}. What they allow counts once they are read.`;
  const disputed = uses.filter((one) => one.conflict && one.by === "papers").map((one) => one.use);
  if (disputed.length > 0)
    return `Its papers contradict one another about ${things(disputed, "and")}. The stricter one counts until you decide.`;
  const by = (answer: string) => uses.filter((one) => one.answer === answer).map((one) => one.use);
  const [yes, credit, no, unsaid] = [by("yes"), by("credit"), by("no"), by("not-stated")];
  if (unsaid.length === uses.length) {
    const open = uses.find((one) => one.open)?.open;
    return open ? open.sentence : "Nothing that came with it says what it may be used for. Ask its maker before you use it for others.";
  }
  const licence = soleLicence(uses);
  if (licence) return licence.meaning;
  if (yes.length === uses.length) return "Free for everything, also things you sell.";
  if (credit.length === uses.length) return "Free for everything, also things you sell, as long as its maker is credited.";
  return [
    yes.length > 0 && `It is free for ${things(yes, "and")}.`,
    credit.length > 0 && `With a credit line it is free for ${things(credit, "and")}.`,
    no.length > 0 && `It may not be used for ${things(no, "or")}.`,
    unsaid.length > 0 && unsaid.length <= 2 && `Nothing is said about ${things(unsaid, "and")}.`,
    unsaid.length > 2 && "Nothing is said about other uses.",
  ]
    .filter(Boolean)
    .join(" ");
}

/** The licence that alone gives every answer; undefined when there are several, or other words. */
function soleLicence(uses: readonly UseClearance[]): KnownLicence | undefined {
  const [first] = uses.flatMap((one) => one.evidence[0] ?? []);
  const known = first?.licence === undefined ? undefined : baseLicence(first.licence);
  if (!known) return undefined;
  const given = uses.every(
    ({ use, answer, by, evidence }) =>
      (by === "papers" || by === "nobody") &&
      answer === (known.answers[use] ?? "not-stated") &&
      (evidence[0]?.licence !== undefined || answer === "not-stated"),
  );
  return given ? known : undefined;
}

const list = (uses: readonly Use[]): string => uses.map((use) => USE_WORDS[use].toLowerCase()).join(", ");

export const beingReadWords = (papers: number): string => `${count(papers, "paper")} still being read`;

/** One line for lists: what is allowed, what is not, what is open. */
export function summaryWords({ uses, lapsed, papersAlone, term, beingRead }: Clearance): string {
  if (lapsed) return term ? `Lapsed: ${inSentence(termWords(term))}` : "Lapsed";
  if (uses.some((one) => one.reading)) return beingReadWords(beingRead);
  const by = (answer: string) => uses.filter((one) => one.answer === answer).map((one) => one.use);
  const ending =
    !term || term.state === "not-begun" ? "" : papersAlone ? `. A licence ${inSentence(termWords(term))}` : `. ${termWords(term)}`;
  if (by("not-stated").length === uses.length) return `Nothing stated${ending}`;
  if (by("yes").length === uses.length) return `Every use${ending}`;
  if (by("yes").length + by("credit").length === uses.length) return `Every use, with credit${ending}`;
  const parts = [
    by("yes").length > 0 && `${ANSWER_WORDS.yes}: ${list(by("yes"))}`,
    by("credit").length > 0 && `with credit: ${list(by("credit"))}`,
    by("no").length > 0 && `not: ${list(by("no"))}`,
    by("not-stated").length > 0 && `not stated: ${list(by("not-stated"))}`,
  ].filter(Boolean);
  return `${parts.join("; ")}${ending}`;
}

/** A line to paste: the one a paper gives in quotes, else the family and whoever a paper or the copyright field names. */
export function creditLine(family: string, statements: readonly Statement[], copyright: string): string {
  const asks = statements.filter((one) => Object.values(one.answers).includes("credit") && !one.licence);
  for (const { sentence } of asks) {
    const quoted = /[“"]([^“”"]{4,160})[”"]/.exec(sentence);
    if (quoted) return quoted[1]!;
    const name =
      /\b(?:credits?|mention|attribute|name)\s+(?:to\s+)?((?:\p{Lu}[\p{L}'’&.-]*)(?:\s+(?:\p{Lu}[\p{L}'’&.-]*|of|the|and))*)/u.exec(
        sentence,
      );
    if (name) return `Font: ${family} by ${name[1]!.replace(/\.$/, "")}`;
  }
  const holder = copyright
    .split("\n")[0]!
    .replace(/copyright|\(c\)|©|all rights reserved\.?/gi, "")
    .replace(/[\d,–-]{4,}/g, "")
    .split(/[.;(<]/)[0]!
    .trim();
  return holder ? `Font: ${family} by ${holder}` : `Font: ${family}`;
}
