// Kinds of findings, apart from the code that finds them: screens need no more.

export const FINDINGS = ["overlap", "unjoined", "thin", "gap", "sharp", "tiny", "loose", "falls-out", "touches"] as const;
export type FindingKind = (typeof FINDINGS)[number];
export interface CutFinding {
  kind: FindingKind;
  /** Which sheet, from the lowest. */
  sheet: number;
  /** Millimetres from the start of the first baseline, y downwards. */
  x: number;
  y: number;
  /** What is there. */
  words: string;
  /** What to do. */
  next: string;
  /** Width of a part or gap, or the longer side of a piece, where that is what it is about. */
  mm: number | null;
}

/** Findings of one kind that are listed; all are counted. */
export const MOST_LISTED = 200;
