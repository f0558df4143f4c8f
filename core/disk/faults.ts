// Faults of the disk: they say nothing about what was read or written, and are never told as damage of it.
import { ProblemError } from "../problem.ts";

const WORDS: Record<string, readonly [code: string, message: string, next: string]> = {
  ENOSPC: ["disk-full", "The disk is full.", "Make room on it, then try again. What was there before is unchanged."],
  EDQUOT: [
    "disk-full",
    "There is no room left for your account on this disk.",
    "Make room, then try again. What was there before is unchanged.",
  ],
  EROFS: ["disk-read-only", "The library's folder cannot be written to: its disk is read-only.", "Make it writable, then try again."],
  EACCES: ["disk-forbidden", "The library's folder may not be written to.", "Allow it for your account, then try again."],
  EPERM: ["disk-forbidden", "The library's folder may not be written to.", "Allow it for your account, then try again."],
  EIO: ["disk-fault", "The disk reports a fault.", "Copy your library to another disk, and have this one looked at."],
  EMFILE: ["files-open", "Too many files are open at once.", "Try again in a moment."],
  ENFILE: ["files-open", "Too many files are open at once.", "Try again in a moment."],
  SQLITE_FULL: ["disk-full", "The disk is full.", "Make room on it, then try again. What was there before is unchanged."],
  SQLITE_READONLY: ["disk-read-only", "The library cannot be written to.", "Make its folder writable, then try again."],
  SQLITE_CANTOPEN: ["disk-forbidden", "The library's file cannot be opened.", "Check that its folder may be written to."],
  SQLITE_BUSY: ["library-busy", "The library is being written to by another program.", "Close that program, or try again in a moment."],
  SQLITE_LOCKED: ["library-busy", "The library is being written to by another program.", "Close that program, or try again in a moment."],
};

const codeOf = (error: unknown): string => {
  const code = (error as { code?: unknown } | null)?.code;
  return typeof code === "string" ? code : "";
};

/** The fault in words; undefined when an error is none of the disk's. SQLite's finer codes (`SQLITE_IOERR_WRITE`) count as their kind. */
export function diskFault(error: unknown): ProblemError | undefined {
  if (error instanceof ProblemError && Object.values(WORDS).some(([known]) => known === error.problem.code)) return error;
  const code = codeOf(error);
  const known = WORDS[code] ?? Object.entries(WORDS).find(([kind]) => kind.startsWith("SQLITE") && code.startsWith(`${kind}_`))?.[1];
  if (known) return new ProblemError(...known);
  return code.startsWith("SQLITE_IOERR") ? new ProblemError(...WORDS["EIO"]!) : undefined;
}
