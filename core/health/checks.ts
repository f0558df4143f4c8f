// Judges one face by every check there is. None ends the others: a table that cannot be read is a finding.
import { ProblemError } from "../problem.ts";
import type { Face } from "../sfnt/face.ts";
import { behaviourChecks } from "./behaviour.ts";
import type { Finding } from "./finding.ts";
import { structureChecks } from "./structure.ts";
import { UNREADABLE_TABLE } from "./table.ts";

/** Runs all checks on a face, structure first, in the order findings are shown. */
export function examine(face: Face): Finding[] {
  const found: Finding[] = [];
  for (const check of [...structureChecks, ...behaviourChecks]) {
    try {
      found.push(...check(face));
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      const { code, message, next } = error.problem;
      // One cut table makes several checks stumble; it is told once.
      if (!found.some((one) => one.code === "table-outside" || one.message === message)) {
        const { level, meaning, standard } = UNREADABLE_TABLE;
        found.push({ code, level, message, meaning, next, standard: `OpenType specification, ${standard}` });
      }
    }
  }
  return found;
}
