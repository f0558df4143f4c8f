// Faults a request ends with: an HTTP status and a problem in words.
import type { Problem } from "../core/problem.ts";

export class Fault extends Error {
  readonly status: number;
  readonly problem: Problem;
  constructor(status: number, problem: Problem) {
    super(problem.message);
    this.name = "Fault";
    this.status = status;
    this.problem = problem;
  }
}

export const notFound = (what: string): Fault =>
  new Fault(404, { code: "not-found", message: `This ${what} is not here any more.`, next: "Go back and look again." });
