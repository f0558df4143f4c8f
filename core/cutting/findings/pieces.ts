// What a joined drawing is made of: pieces, their counters, and which of them come loose.
import { areaOf, boxOf, contourLength, pointAt, slopeAt, type Box, type Contour } from "../outlines/curve.ts";
import { insideOf } from "../outlines/inside.ts";

/** One piece of material: what comes off in one part. */
export interface Piece {
  outer: Contour;
  counters: Contour[];
  box: Box;
  /** Square millimetres of material, counters taken away. */
  areaMm2: number;
}

/** Groups contours: outer ones run clockwise as seen on a screen, each counter goes with the smallest outer one around it. */
export function piecesOf(contours: readonly Contour[]): Piece[] {
  const outers = contours
    .filter((contour) => areaOf(contour) > 0)
    .map((outer): Piece => ({ outer, counters: [], box: boxOf([outer]), areaMm2: areaOf(outer) }))
    .sort((a, b) => a.areaMm2 - b.areaMm2);
  const whole = new Map(outers.map((piece) => [piece, piece.areaMm2]));
  for (const counter of contours) {
    const area = areaOf(counter);
    if (area > 0) continue;
    const box = boxOf([counter]);
    const [x, y] = pointAt(counter[0]!, 0.5);
    const around = outers.find(
      (piece) =>
        whole.get(piece)! > -area &&
        piece.box.left <= box.left + 1e-6 &&
        piece.box.right >= box.right - 1e-6 &&
        piece.box.top <= box.top + 1e-6 &&
        piece.box.bottom >= box.bottom - 1e-6 &&
        insideOf(piece.outer, x, y),
    );
    if (!around) continue;
    around.counters.push(counter);
    around.areaMm2 += area;
  }
  return outers.sort((a, b) => a.box.left - b.box.left);
}

export interface Totals {
  widthMm: number;
  heightMm: number;
  pieces: number;
  counters: number;
  closedPaths: number;
  cutLengthMm: number;
  /** Of material that stays. */
  areaMm2: number;
}
export function totalsOf(contours: readonly Contour[], pieces: readonly Piece[]): Totals {
  const box = boxOf(contours);
  return {
    widthMm: contours.length === 0 ? 0 : box.right - box.left,
    heightMm: contours.length === 0 ? 0 : box.bottom - box.top,
    pieces: pieces.length,
    counters: pieces.reduce((sum, { counters }) => sum + counters.length, 0),
    closedPaths: contours.length,
    cutLengthMm: contours.reduce((sum, contour) => sum + contourLength(contour), 0),
    areaMm2: pieces.reduce((sum, { areaMm2 }) => sum + areaMm2, 0),
  };
}

/** A corner that sticks out so sharply that its tip tears or lifts, degrees between its sides. Common practice, no source. */
const SHARP_DEGREES = 20;

/** Tips of a joined drawing sharper than that. */
export function sharpPoints(contours: readonly Contour[]): { x: number; y: number; degrees: number }[] {
  const found: { x: number; y: number; degrees: number }[] = [];
  for (const contour of contours)
    contour.forEach((segment, i) => {
      const before = contour[(i + contour.length - 1) % contour.length]!;
      const [[ax, ay], [bx, by]] = [endSlope(before, false), endSlope(segment, true)];
      // Outlines keep their material on the right: a tip turns to the right by nearly a half turn.
      const turn = (Math.atan2(ax * by - ay * bx, ax * bx + ay * by) * 180) / Math.PI;
      if (turn > 180 - SHARP_DEGREES) found.push({ x: segment[0]!, y: segment[1]!, degrees: 180 - turn });
    });
  return found;
}
/** The direction at an end of a segment, also where its control point lies on that end. */
function endSlope(segment: Contour[number], start: boolean): [number, number] {
  const slope = slopeAt(segment, start ? 0 : 1);
  if (Math.hypot(...slope) > 1e-9) return slope;
  return slopeAt(segment, start ? 1e-3 : 1 - 1e-3);
}
