// What is said of a value that does not fit, in words for people; the same at the field and in the server's refusal.
import { z } from "zod";

interface Limit {
  code: string;
  origin?: string;
  maximum?: number | bigint;
  minimum?: number | bigint;
}
const characters = (n: unknown): string => (Number(n) === 1 ? "1 character" : `${String(n)} characters`);

/** A sentence for what is too long, too short, too many or too few; undefined leaves it to whoever reads it. */
export function refusalWords(issue: Limit): string | undefined {
  const { code, origin, maximum, minimum } = issue;
  if (code === "too_big") {
    if (origin === "string") return `At most ${characters(maximum)}.`;
    return origin === "array" ? `At most ${String(maximum)} of them.` : `At most ${String(maximum)}.`;
  }
  if (code === "too_small") {
    if (origin === "string") return Number(minimum) <= 1 ? "Write something here." : `At least ${characters(minimum)}.`;
    if (origin === "array") return Number(minimum) <= 1 ? "Choose at least one." : `Choose at least ${String(minimum)}.`;
    return `At least ${String(minimum)}.`;
  }
  return undefined;
}

/** Set once at each end, before anything is checked. */
export const speakPlainly = (): void => void z.config({ customError: (issue) => refusalWords(issue as unknown as Limit) });
