// What a clearance means for a job, and for placing: whether it is cleared, what to warn of, why to hold.
import type { Clearance } from "./clearance.ts";
import { listWords } from "../words/words.ts";
import { inSentence, termWords } from "./words.ts";
import { FOR_USE, stricter, type Answer, type Use } from "./uses.ts";

/** What is kept of a family's clearance: each use's answer, and why, as a sentence. */
export interface Cleared extends Pick<Clearance, "lapsed" | "term"> {
  uses: readonly { use: Use; answer: Answer; reason: string }[];
}

export interface JobUses {
  name: string;
  uses: readonly Use[];
}

/** What a clearance says to all uses of a job together: the strictest of its answers, silence counting before a yes. */
export function clearedFor(clearance: { uses: readonly { use: Use; answer: Answer }[] }, uses: readonly Use[]): Answer {
  const answers = clearance.uses.filter((one) => uses.includes(one.use)).map((one) => one.answer);
  if (answers.includes("no")) return "no";
  if (answers.includes("not-stated")) return "not-stated";
  return answers.reduce(stricter, "yes");
}

/** The jobs among `jobs` a family is not cleared for, by name. */
export const conflictsOf = (clearance: { uses: readonly { use: Use; answer: Answer }[] }, jobs: readonly JobUses[]): string[] =>
  jobs.flatMap((job) => {
    const cleared = clearedFor(clearance, job.uses);
    return cleared === "no" || cleared === "not-stated" ? [job.name] : [];
  });

/** How a job's clearance is said, from its uses' answers. */
export function clearedWords(cleared: Answer, uses: readonly { use: Use; answer: Answer }[]): string {
  const named = (answer: Answer) => uses.filter((one) => one.answer === answer).map((one) => FOR_USE[one.use]);
  switch (cleared) {
    case "yes":
      return "Cleared for this job";
    case "credit":
      return "Cleared, with a credit line";
    case "no":
      return `Not cleared for ${listWords(named("no"), "or")}`;
    case "not-stated":
      return `Nothing stated for ${listWords(named("not-stated"), "or")}`;
  }
}

/** What to know before a family is used for a job. */
export function jobWarnings(family: string, clearance: Cleared, uses: readonly Use[]): string[] {
  const found: string[] = [];
  if (clearance.lapsed) found.push(`The licence of ${family} has ended; it may not be used for this job.`);
  else {
    for (const one of clearance.uses.filter((use) => uses.includes(use.use))) {
      if (one.answer !== "no" && one.answer !== "not-stated") continue;
      const said = one.answer === "no" ? "is not cleared" : "says nothing about clearance";
      found.push(`${family} ${said} for ${FOR_USE[one.use]}. ${one.reason}`);
    }
  }
  if (clearance.term?.state === "ending") found.push(`The licence of ${family}: ${inSentence(termWords(clearance.term))}.`);
  return found;
}

/** Why a family should not be placed without a thought: its licence has ended, or not even one's own use is allowed. */
export function holdOf(clearance: Cleared): { why: "lapsed" | "uncleared"; sentence: string } | undefined {
  if (clearance.lapsed) return { why: "lapsed", sentence: "Its licence has ended. Renew it before you use it." };
  const own = clearance.uses.find((one) => one.use === "own");
  if (own?.answer !== "no") return undefined;
  return { why: "uncleared", sentence: `It is not cleared even for your own use. ${own.reason}` };
}
