// A cut as screens show it: path data and numbers, nothing that has to be computed again.
import type { Layer } from "../bench/line.ts";
import { ProblemError, type Problem } from "../problem.ts";
import type { Arranged } from "./sheets/arrange.ts";
import { stripOf, type Bridge } from "./making/bridges.ts";
import type { CutDrawing } from "./drawing.ts";
import type { CutSheet } from "./drawing.ts";
import type { Box } from "./outlines/curve.ts";
import { MOST_LISTED, type CutFinding, type FindingKind } from "./findings/kinds.ts";
import type { Polygon } from "./outlines/judge.ts";
import type { Totals } from "./findings/pieces.ts";
import { layOut } from "./sheets/lay-out.ts";
import type { CutSettings } from "./settings.ts";
import { summaryOf, type CutSummary } from "./findings/summary.ts";
import { pathData } from "./sheets/sheet-svg.ts";

/** Hundredths of a millimetre are finer than any screen. */
const coarse = (value: number): string => String(Math.round(value * 100) / 100);

interface SheetView {
  colour: string;
  kind: CutSheet["kind"];
  /** What is cut, as the font draws it, and where outlines cover one another; millimetres from the start of the first baseline. */
  path: string;
  raw: string;
  overlaps: string;
  totals: Totals;
  overlapsBefore: number;
  overlapsAfter: number;
  engine: string;
  errorPct: number;
  joined: boolean;
}
export interface CutView {
  emMm: number;
  box: Box;
  sheets: SheetView[];
  marks: string;
  summary: CutSummary;
  findings: CutFinding[];
  /** How many there are of each kind; not all of them are listed. */
  counts: Partial<Record<FindingKind, number>>;
  /** Proposed for a stencil; `path` of each as a strip. */
  proposed: (Bridge & { path: string })[];
  missing: string[];
  pictures: string[];
  /** Copies on their sheet, or why they do not fit. */
  arranged: Arranged | null;
  problem: Problem | null;
}

const polygonPath = (polygon: Polygon): string => {
  let d = "";
  for (let i = 0; i < polygon.length; i += 2) d += `${i === 0 ? "M" : "L"}${coarse(polygon[i]!)} ${coarse(polygon[i + 1]!)}`;
  return `${d}Z`;
};

export function viewOf(drawing: CutDrawing, settings: CutSettings): CutView {
  const counts: Partial<Record<FindingKind, number>> = {};
  const findings = drawing.findings.filter(({ kind }) => (counts[kind] = (counts[kind] ?? 0) + 1) <= MOST_LISTED);
  let [arranged, problem]: [Arranged | null, Problem | null] = [null, null];
  try {
    ({ arranged } = layOut(drawing, settings));
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
    problem = error.problem;
  }
  const { emMm, box, missing, pictures, marks } = drawing;
  return {
    emMm,
    box,
    missing,
    pictures,
    findings,
    counts,
    arranged,
    problem,
    marks: pathData(marks, coarse),
    summary: summaryOf(drawing),
    sheets: drawing.sheets.map((sheet) => ({
      colour: sheet.colour,
      kind: sheet.kind,
      totals: sheet.totals,
      joined: sheet.joined,
      engine: sheet.engine,
      path: pathData(sheet.contours, coarse),
      raw: pathData(sheet.raw, coarse),
      overlaps: sheet.overlaps.map(polygonPath).join(""),
      overlapsBefore: sheet.overlaps.length,
      overlapsAfter: sheet.overlapsAfter,
      errorPct: sheet.errorShare * 100,
    })),
    proposed: drawing.proposed.map((bridge) => ({ ...bridge, path: pathData([stripOf(bridge, settings.bridgeMm)], coarse) })),
  };
}

/** A layer to be cut, by the file its face is in. */
export interface CutLayerWanted extends Layer {
  sha256: string;
  face: number;
}
