// What a family is cleared for: everything read, corrected and bought, weighed into one answer a use.
import { termState, type Day, type Term, type TermState } from "./terms.ts";
import { stricter, USES, type Answer, type Statement, type Use } from "./uses.ts";
import { AS_LICENCE, DECIDES, weightOf } from "./weight.ts";

/** A person's own reading of one use. */
export interface Correction {
  use: Use;
  answer: Answer;
  note: string;
  /** ISO 8601. */
  at: string;
}

/** A licence somebody recorded: bought, or one whose term is to be watched. */
export interface RecordedLicence {
  id: number;
  kind: "personal" | "commercial" | "time-limited" | "other";
  /** What it allows; a use that is missing is left to the papers. */
  answers: Partial<Record<Use, Exclude<Answer, "not-stated">>>;
  term: Term | null;
  /** The day a style was first placed under it; a term in days counts from there. */
  placedOn: Day | undefined;
}

export interface UseClearance {
  use: Use;
  answer: Answer;
  /** Who has the last word. */
  by: "papers" | "person" | "licence" | "nobody";
  /** Statements that decide on this use, those that give the answer first. */
  evidence: Statement[];
  /** What else speaks of this use and does not count, with the reason. */
  also: Statement[];
  /** A licence that is recognised speaks of this use without deciding it. */
  open: Statement | undefined;
  /** Papers contradict one another; the stricter one counts until a person decides. */
  conflict: boolean;
  correction: Correction | undefined;
  /** The recorded licence that gives the answer. */
  licenceId: number | undefined;
  /** Papers are still being read that may say more; until then nothing they allow counts. */
  reading: boolean;
}

export interface Clearance {
  uses: UseClearance[];
  /** How the term that matters stands: the one that runs longest. Undefined when nothing ends. */
  term: TermState | undefined;
  /** Every licence recorded for it has ended, and nothing else allows any use. */
  lapsed: boolean;
  /** Every licence recorded for it has ended; what its papers allow by themselves goes on. */
  papersAlone: boolean;
  /** So many papers are still being read. */
  beingRead: number;
}

export interface ClearanceFacts {
  statements: readonly Statement[];
  corrections: readonly Correction[];
  licences: readonly RecordedLicence[];
  today: Day;
  /** So many papers are still being read. */
  beingRead?: number;
}

const ended = (licence: RecordedLicence, today: Day): boolean =>
  licence.term !== null && termState(licence.term, licence.placedOn, today).state === "over";

/**
 * Statements of the papers on one use, weighed. A licence that is recognised decides together with what stands in places of the same kind (a
 * licence, a note of it, the licence field), where the stricter holds; a readme, a manual or embedding bits never decide against it.
 */
function read(use: Use, statements: readonly Statement[]): Pick<UseClearance, "answer" | "evidence" | "also" | "open" | "conflict"> {
  const speaking = statements.filter((one) => one.answers[use] !== undefined);
  const counting = speaking.filter((one) => !one.aside);
  const licences = statements.filter((one) => one.licence !== undefined && !one.aside);
  const speak = licences.filter((one) => one.answers[use] !== undefined || one.open?.includes(use));
  const top = Math.max(0, ...speak.map((one) => weightOf(one.source)));
  const answered = licences.some((one) => one.answers[use] !== undefined && (top < AS_LICENCE || weightOf(one.source) >= AS_LICENCE));
  const decides = (one: Statement): boolean => {
    const weight = weightOf(one.source);
    if (speak.length === 0) return weight >= DECIDES || one.source.kind === "embedding";
    if (top >= AS_LICENCE && answered) return weight >= AS_LICENCE;
    return one.licence !== undefined || weight >= DECIDES;
  };
  let evidence = counting.filter(decides);
  // Where nothing that decides speaks, what explains is better than silence, unless a licence leaves it open.
  if (evidence.length === 0 && speak.length === 0) evidence = counting.filter((one) => weightOf(one.source) > 0);
  let answer: Answer = "not-stated";
  for (const one of evidence) answer = stricter(answer, one.answers[use]!);
  const said = new Set(evidence.map((one) => one.answers[use]));
  // "Yes" beside "yes, with credit" is no contradiction: one of them says more.
  const conflict = said.has("no") && said.size > 1;
  const rank = (one: Statement): number =>
    Number(one.answers[use] === answer) * 10 + weightOf(one.source) + Number(one.licence !== undefined);
  return {
    answer,
    evidence: [...evidence].sort((a, b) => rank(b) - rank(a)),
    also: speaking
      .filter((one) => !evidence.includes(one))
      .map((one) => (one.aside ? one : { ...one, aside: "outranked" as const }))
      .sort((a, b) => Number(a.aside !== "outranked") - Number(b.aside !== "outranked")),
    open: answer === "not-stated" ? speak.find((one) => one.open?.includes(use)) : undefined,
    conflict,
  };
}

const allows = (answer: Answer): boolean => answer === "yes" || answer === "credit";

/**
 * Weighs everything. A licence in force comes before a person's reading, and that before what was read; none makes a yes of silence. A licence
 * that has ended gives nothing any more and takes nothing away that the papers allow by themselves: only what was had for a time, as a whole, goes
 * with it, unless an open licence stands in its papers.
 */
export function weigh({ statements, corrections, licences, today, beingRead = 0 }: ClearanceFacts): Clearance {
  const inForce = licences.filter((licence) => !ended(licence, today));
  const timed = licences.filter((licence) => licence.term !== null);
  const allOver = licences.length > 0 && inForce.length === 0;
  const hadForATime = allOver && licences.some(({ kind }) => kind === "time-limited");
  const uses = USES.map((use): UseClearance => {
    const found = read(use, statements);
    const reading = beingRead > 0 && found.answer !== "no";
    const papers = { ...found, reading };
    const correction = corrections.filter((one) => one.use === use).at(-1);
    const giving = inForce.filter((licence) => allows(licence.answers[use] ?? "not-stated"));
    const licence = giving.find((one) => one.answers[use] === "yes") ?? giving[0];
    if (licence) return { use, ...papers, answer: licence.answers[use]!, by: "licence", correction, licenceId: licence.id, reading: false };
    const own: UseClearance = correction
      ? { use, ...papers, answer: correction.answer, by: "person", correction, licenceId: undefined, reading: false }
      : reading
        ? { use, ...papers, answer: "not-stated", by: "nobody", correction, licenceId: undefined }
        : { use, ...papers, by: papers.answer === "not-stated" ? "nobody" : "papers", correction, licenceId: undefined };
    if (!allOver) return own;
    const open = found.evidence[0]?.licence !== undefined;
    if (own.reading || (allows(own.answer) && (open || !hadForATime))) return own;
    const gave = licences.find((one) => allows(one.answers[use] ?? "not-stated")) ?? (hadForATime ? licences.at(-1) : undefined);
    return gave ? { ...own, answer: "no", by: "licence", licenceId: gave.id, reading: false } : own;
  });
  const states = timed.map((licence) => termState(licence.term!, licence.placedOn, today));
  const endless = inForce.some((licence) => licence.term === null && Object.keys(licence.answers).length > 0);
  const lapsed = allOver && !uses.some((one) => allows(one.answer) || one.reading);
  return { uses, term: endless ? undefined : longest(states), lapsed, papersAlone: allOver && !lapsed, beingRead };
}

function longest(states: readonly TermState[]): TermState | undefined {
  const rank = (state: TermState) => (state.state === "not-begun" ? Infinity : state.state === "over" ? -state.since : state.left);
  return [...states].sort((a, b) => rank(b) - rank(a))[0];
}

export const isCleared = (clearance: Clearance, use: Use): boolean => allows(clearance.uses.find((one) => one.use === use)!.answer);
