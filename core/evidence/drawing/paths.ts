// Operators that construct paths, paint them and clip to them (ISO 32000-1, 8.5, 8.7).
import { apart, apply, areaOf, corners, cubicPoints, UNMOVED } from "./geometry.ts";
import type { Area, Matrix, Point } from "./geometry.ts";
import { OPS, type Operators } from "./operators.ts";
import { BOUNDS, PageTooLarge, type Operator, type Plane } from "./plane.ts";
import { colourOf, freshState, scaleOf } from "./state.ts";

/** What letters turned to outlines have at least, by curves or by points. */
const LETTER_CURVES = 3;
const LETTER_POINTS = 12;
/** Half the width, in points, of the thinnest line. */
const LEAST_HALF_WIDTH = 0.2;

function construct(plane: Plane, operators: ArrayLike<number>, coordinates: ArrayLike<number>): void {
  const { ctm } = plane.state;
  let at = 0;
  let current: Point[] | undefined = plane.path.at(-1);
  const next = (): Point => {
    if (++plane.points > BOUNDS.points) throw new PageTooLarge();
    const point = apply(ctm, Number(coordinates[at]), Number(coordinates[at + 1]));
    at += 2;
    return point;
  };
  const curve = (a: Point, b: Point, c: Point, d: Point) => {
    plane.points += 8;
    plane.curved++;
    current!.push(...cubicPoints(a, b, c, d));
  };
  for (let i = 0; i < operators.length; i++) {
    const operator = operators[i];
    if (operator === OPS.rectangle) {
      const [x, y, w, h] = [0, 1, 2, 3].map((k) => Number(coordinates[at + k])) as [number, number, number, number];
      at += 4;
      plane.points += 4;
      plane.path.push([...corners(ctm, { x0: x, y0: y, x1: x + w, y1: y + h }), apply(ctm, x, y)]);
      current = undefined;
    } else if (operator === OPS.moveTo) plane.path.push((current = [next()]));
    else if (operator === OPS.closePath) {
      if (current?.[0]) {
        current.push(current[0]);
        plane.path.push((current = [current[0]]));
      }
    } else {
      const points = operator === OPS.lineTo ? [next()] : operator === OPS.curveTo ? [next(), next(), next()] : [next(), next()];
      if (!current) plane.path.push((current = [points[0]!]));
      const last = current.at(-1)!;
      if (operator === OPS.lineTo) current.push(points[0]!);
      else if (operator === OPS.curveTo) curve(last, points[0]!, points[1]!, points[2]!);
      else if (operator === OPS.curveTo2) curve(last, last, points[0]!, points[1]!);
      else if (operator === OPS.curveTo3) curve(last, points[0]!, points[1]!, points[1]!);
    }
  }
}

/** A pattern's cell is drawn once; it is repeated wherever the area lies (8.7.3). */
function tile(plane: Plane, area: Area, { tiles, matrix }: { tiles: Operators; matrix: Matrix }, depth: number): void {
  if (apart(area.box, plane.view)) return;
  plane.save();
  plane.state = { ...freshState(), groupAlpha: plane.state.groupAlpha * plane.state.fillAlpha };
  plane.state.ctm = matrix;
  // Where its letters fall is not followed: they show wherever the area does.
  const before = plane.letters.length;
  plane.run(tiles, depth + 1);
  for (const placed of plane.letters.slice(before))
    if (placed.letter.shows === "no" && placed.letter.why === "outside") placed.letter.shows = "unsure";
  plane.restore();
}

/** An operator that ends a path: filled, stroked, clipped to, or only forgotten. */
const painting =
  ({ fills = false, strokes = false, evenOdd = false }): Operator =>
  (plane, _, depth) => {
    const { state } = plane;
    const polygons = plane.path.filter((polygon) => polygon.length > 1);
    const curves = plane.curved;
    plane.path = [];
    plane.curved = 0;
    if (polygons.length > 0) {
      const { fill, stroke } = state;
      if (fills && fill !== "none") {
        const area = areaOf(polygons, evenOdd);
        if (curves >= LETTER_CURVES || polygons.reduce((sum, one) => sum + one.length, 0) >= LETTER_POINTS) plane.shapes++;
        const tiled = typeof fill === "object" && "tiles" in fill ? fill : undefined;
        plane.paint(area, { colour: colourOf(fill), alpha: state.fillAlpha, lets: tiled !== undefined });
        if (tiled) tile(plane, area, tiled, depth);
      }
      if (strokes && stroke !== "none") {
        const halfWidth = Math.max(LEAST_HALF_WIDTH, (state.lineWidth * scaleOf(state.ctm)) / 2);
        plane.paint(areaOf(polygons, false, halfWidth), { colour: colourOf(stroke), alpha: state.strokeAlpha });
      }
      if (plane.pendingClip) plane.clipTo(areaOf(polygons, plane.pendingClip === "evenodd"));
    } else if (plane.pendingClip) plane.clipTo(areaOf([], false));
    plane.pendingClip = undefined;
  };

export const PATH_OPERATORS: readonly (readonly [number, Operator])[] = [
  [OPS.constructPath, (plane, args) => construct(plane, args[0] as ArrayLike<number>, args[1] as ArrayLike<number>)],
  [OPS.clip, (plane) => void (plane.pendingClip = "nonzero")],
  [OPS.eoClip, (plane) => void (plane.pendingClip = "evenodd")],
  [OPS.fill, painting({ fills: true })],
  [OPS.eoFill, painting({ fills: true, evenOdd: true })],
  [OPS.fillStroke, painting({ fills: true, strokes: true })],
  [OPS.closeFillStroke, painting({ fills: true, strokes: true })],
  [OPS.eoFillStroke, painting({ fills: true, strokes: true, evenOdd: true })],
  [OPS.closeEOFillStroke, painting({ fills: true, strokes: true, evenOdd: true })],
  [OPS.stroke, painting({ strokes: true })],
  [OPS.closeStroke, painting({ strokes: true })],
  [OPS.endPath, painting({})],
  [
    // Paints all that the clip leaves.
    OPS.shadingFill,
    (plane) => plane.paint(areaOf([corners(UNMOVED, plane.view)], false), { colour: undefined, alpha: plane.state.fillAlpha }),
  ],
];
