// What is said of a value that does not fit, in words for people; the same at the field and in the server's refusal.
import { z } from "zod";
import { characters, numberWords, tooLongWords } from "../core/words/words.ts";

interface Limit {
  code: string;
  origin?: string;
  maximum?: number | bigint;
  minimum?: number | bigint;
  expected?: string;
  format?: string;
  input?: unknown;
}

/** A sentence for what is too long, too short, too many or too few, no number or no day; undefined leaves it to whoever reads it. */
export function refusalWords({ code, origin, maximum, minimum, expected, format, input }: Limit): string | undefined {
  if (code === "too_big") {
    if (origin === "string") return tooLongWords(Number(maximum));
    return origin === "array" ? `At most ${numberWords(Number(maximum))} of them.` : `At most ${numberWords(Number(maximum))}.`;
  }
  if (code === "too_small") {
    if (origin === "string") return Number(minimum) <= 1 ? "Write something here." : `At least ${characters(Number(minimum))}.`;
    if (origin === "array") return Number(minimum) <= 1 ? "Choose at least one." : `Choose at least ${numberWords(Number(minimum))}.`;
    return `At least ${numberWords(Number(minimum))}.`;
  }
  if (code === "invalid_type" && typeof input === "number") {
    if (expected === "number") return "Write a number.";
    if (expected === "int") return "Write a whole number.";
  }
  if (code === "invalid_format" && format === "date") return "Give a whole day that is in the calendar.";
  return undefined;
}

/** Set once at each end, before anything is checked. */
export const speakPlainly = (): void => void z.config({ customError: (issue) => refusalWords(issue as unknown as Limit) });
