// What a check is, and how it says what it found.
import type { Face } from "../sfnt/face.ts";
import type { Finding } from "./finding.ts";
import { CHECKS, type CheckCode } from "./table.ts";

/** Looks at one matter of a face. It may throw a `ProblemError` when a table cannot be read. */
export type Check = (face: Face) => Finding[];

/** A finding of the table's kind `code`; `message` says what is wrong with this font in particular. */
export function finding(code: CheckCode, message: string): Finding {
  const { level, meaning, next, standard } = CHECKS[code];
  return { code, level, message, meaning, next, standard: `OpenType specification, ${standard}` };
}
