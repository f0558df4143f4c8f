// What a check is, and words that many of them share.
import type { Face } from "../sfnt/face.ts";
import type { Finding, FindingLevel } from "./finding.ts";

/** Looks at one matter of a face. It may throw a `ProblemError` when a table cannot be read. */
export type Check = (face: Face) => Finding[];

export const AGAIN = "Download it again; if it stays like this, ask whoever made it for a mended copy.";
export const REFUSED = "Programs will refuse it or show boxes.";

/** `standard` names the section of the OpenType specification. */
export const finding = (code: string, level: FindingLevel, message: string, meaning: string, next: string, standard: string): Finding => ({
  code,
  level,
  message,
  meaning,
  next,
  standard: `OpenType specification, ${standard}`,
});
