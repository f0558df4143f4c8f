// The numbers of a cut.
import { boxOf, isEmptyBox } from "../outlines/curve.ts";
import type { CutDrawing } from "../drawing.ts";
import type { CutSheet } from "../drawing.ts";
import { TOLERANCE_MM } from "../outlines/flat.ts";
import { polygonsOf } from "../outlines/join.ts";
import { thinPlaces } from "./thin.ts";

/** How thick the thinnest part of a cut is, millimetres, whatever the limit; null where outlines lie over one another, and of what is thicker than all of it. */
export function thinnestOf({ sheets }: CutDrawing): number | null {
  let thinnest: number | null = null;
  for (const { contours, joined: isJoined, overlapsAfter } of sheets) {
    if (!isJoined || overlapsAfter > 0) return null;
    const polygons = polygonsOf(contours, TOLERANCE_MM);
    const box = boxOf(contours);
    const long = isEmptyBox(box) ? 0 : Math.max(box.right - box.left, box.bottom - box.top);
    for (let limit = 0.5; limit < long; limit *= 2) {
      const [thin] = thinPlaces(polygons, "part", limit);
      if (!thin) continue;
      thinnest = Math.min(thinnest ?? Infinity, thin.widthMm);
      break;
    }
  }
  return thinnest;
}

/** The numbers of a cut, as the command line and the screens tell them. */
export interface CutSummary {
  widthMm: number;
  heightMm: number;
  pieces: number;
  closedPaths: number;
  cutLengthMm: number;
  areaMm2: number;
  overlapsBefore: number;
  overlapsAfter: number;
  /** The thinnest part below the limit; null where none is. */
  thinnestMm: number | null;
  engine: string;
  areaErrorPct: number;
  joined: boolean;
}
export function summaryOf({ sheets, findings, box }: CutDrawing): CutSummary {
  const sum = (of: (sheet: CutSheet) => number) => sheets.reduce((total, sheet) => total + of(sheet), 0);
  const thin = findings.filter(({ kind }) => kind === "thin").map(({ mm }) => mm!);
  const engines = [...new Set(sheets.map(({ engine }) => engine).filter((engine) => engine !== "none"))];
  return {
    widthMm: box.right - box.left,
    heightMm: box.bottom - box.top,
    pieces: sum(({ totals }) => totals.pieces),
    closedPaths: sum(({ totals }) => totals.closedPaths),
    cutLengthMm: sum(({ totals }) => totals.cutLengthMm),
    areaMm2: sum(({ totals }) => totals.areaMm2),
    overlapsBefore: sum(({ overlaps }) => overlaps.length),
    overlapsAfter: sum(({ overlapsAfter }) => overlapsAfter),
    thinnestMm: thin.length > 0 ? Math.min(...thin) : null,
    engine: engines.join(", ") || "none",
    areaErrorPct: Math.max(0, ...sheets.map(({ errorShare }) => errorShare)) * 100,
    joined: sheets.every((sheet) => sheet.joined),
  };
}
