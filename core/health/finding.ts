// What a check found, and what all findings together say of a face.

/** stop: programs will refuse it. warn: it works, but something will be off. note: worth knowing. */
export type FindingLevel = "stop" | "warn" | "note";
export type Verdict = "sound" | "usable" | "refused";

export interface Finding {
  code: string;
  level: FindingLevel;
  /** What is wrong, as a sentence. */
  message: string;
  /** What it means in a program. */
  meaning: string;
  /** What to do. */
  next: string;
  /** Where the rule stands. */
  standard: string;
}

export function verdictOf(findings: readonly Finding[]): Verdict {
  if (findings.some((finding) => finding.level === "stop")) return "refused";
  return findings.some((finding) => finding.level === "warn") ? "usable" : "sound";
}
