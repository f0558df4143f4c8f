// Why a database cannot be opened, in words.
import { ProblemError } from "../../core/problem.ts";

/** What opening a database failed by, as SQLite or the system names it; undefined where it is something else. */
export function openingProblem(error: unknown, path: string): ProblemError | undefined {
  const code = (error as { code?: string }).code ?? "";
  if (/^SQLITE_NOTADB/.test(code))
    return new ProblemError(
      "library-foreign",
      `${path} is no library of Buvano's.`,
      "Move it away, or choose another data folder with BUVANO_DATA.",
    );
  if (/^SQLITE_CORRUPT/.test(code))
    return new ProblemError(
      "library-damaged",
      `The library in ${path} is damaged.`,
      "Restore a backup into a new folder, or ask SQLite's own tool for what can be saved (`sqlite3 library.db .recover`).",
    );
  if (/^SQLITE_(CANTOPEN|READONLY|PERM)|^(EACCES|EROFS|EPERM|ENOTDIR|EEXIST)$/.test(code))
    return new ProblemError(
      "library-read-only",
      `The library in ${path} cannot be written to.`,
      "Give your account the right to write there, or choose another data folder with BUVANO_DATA.",
    );
  return undefined;
}
