// What goes wrong is a value: a code for machines, a sentence for people, and what to do next.

/** A fault a person can be told about. `message` says what is wrong, `next` what to do about it. */
export interface Problem {
  code: string;
  message: string;
  next: string;
}

/** Either a value or the problem that prevented it. */
export type Result<T> = { ok: true; value: T } | { ok: false; problem: Problem };

export const ok = <T>(value: T): Result<T> => ({ ok: true, value });
export const fail = (code: string, message: string, next: string): { ok: false; problem: Problem } => ({
  ok: false,
  problem: { code, message, next },
});

/** Thrown inside a reader and turned into a `Problem` at its public edge. */
export class ProblemError extends Error {
  readonly problem: Problem;
  constructor(code: string, message: string, next: string) {
    super(message);
    this.name = "ProblemError";
    this.problem = { code, message, next };
  }
}

/** Runs a reader and turns what it throws into a problem. `otherwise` serves faults nobody foresaw. */
export function attempt<T>(read: () => T, otherwise: Problem): Result<T> {
  try {
    return ok(read());
  } catch (error) {
    if (error instanceof ProblemError) return { ok: false, problem: error.problem };
    return { ok: false, problem: otherwise };
  }
}
