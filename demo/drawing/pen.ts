// Draws skeletons with a round pen: strokes become clean outlines of lines and quadratic curves.
import type { PathKit, PathKitPath } from "pathkit-wasm";
import { pathKit } from "../../core/cutting/outlines/path-kit.ts";
import type { Skeleton } from "./skeletons.ts";

export type Point = { x: number; y: number; on: boolean };
/** Closed contours; off-curve points are quadratic control points. */
export type Outline = Point[][];
export interface DrawnGlyph {
  advance: number;
  outline: Outline;
}

export interface Pen {
  /** Width of the stroke in units. */
  width: number;
  /** Horizontal stretch of the skeleton. */
  stretch?: number;
  /** Lean: units to the right per unit of height. */
  slant?: number;
  /** Room added to each advance. */
  spacing?: number;
  square?: boolean;
}

interface Move {
  x(value: number, y: number): number;
}

/** Replays a skeleton's strokes onto a path. Arcs become quadratic curves of at most 30 degrees. */
export function trace(strokes: string, path: PathKitPath, move: Move): void {
  const tokens = strokes.match(/[MLQEZ]|-?\d+(\.\d+)?/g) ?? [];
  let at = 0;
  let open = false;
  const number = () => Number(tokens[at++]);
  const to = (kind: "moveTo" | "lineTo", x: number, y: number) => path[kind](move.x(x, y), y);
  while (at < tokens.length) {
    const command = tokens[at++];
    if (command === "M" || command === "L") {
      const [x, y] = [number(), number()];
      to(command === "M" ? "moveTo" : "lineTo", x, y);
      open = true;
    } else if (command === "Q") {
      const [cx, cy, x, y] = [number(), number(), number(), number()];
      path.quadTo(move.x(cx, cy), cy, move.x(x, y), y);
    } else if (command === "E") {
      const [cx, cy, rx, ry, from, until] = [number(), number(), number(), number(), number(), number()];
      const steps = Math.max(1, Math.ceil(Math.abs(until - from) / 30));
      const angle = (i: number) => ((from + ((until - from) * i) / steps) * Math.PI) / 180;
      to(open ? "lineTo" : "moveTo", cx + rx * Math.cos(angle(0)), cy + ry * Math.sin(angle(0)));
      for (let i = 0; i < steps; i++) {
        const middle = (angle(i) + angle(i + 1)) / 2;
        const reach = 1 / Math.cos((angle(i + 1) - angle(i)) / 2);
        const control = { x: cx + rx * reach * Math.cos(middle), y: cy + ry * reach * Math.sin(middle) };
        const end = { x: cx + rx * Math.cos(angle(i + 1)), y: cy + ry * Math.sin(angle(i + 1)) };
        path.quadTo(move.x(control.x, control.y), control.y, move.x(end.x, end.y), end.y);
      }
      open = true;
    } else {
      path.close();
      open = false;
    }
  }
}

/** The outline of a path, points on whole units. Curves of other kinds than quadratic do not occur in stroked skeletons. */
function outlineOf(kit: PathKit, path: PathKitPath): Outline {
  const outline: Outline = [];
  let contour: Point[] = [];
  const finish = () => {
    const first = contour[0];
    const last = contour[contour.length - 1];
    if (first && last && contour.length > 1 && first.x === last.x && first.y === last.y) contour.pop();
    if (contour.length > 2) outline.push(contour);
    contour = [];
  };
  const add = (x: number, y: number, on: boolean) => contour.push({ x: Math.round(x), y: Math.round(y), on });
  for (const [verb, ...values] of path.toCmds()) {
    const v = values as number[];
    if (verb === kit.MOVE_VERB) {
      finish();
      add(v[0]!, v[1]!, true);
    } else if (verb === kit.LINE_VERB) add(v[0]!, v[1]!, true);
    else if (verb === kit.QUAD_VERB || verb === kit.CONIC_VERB) {
      add(v[0]!, v[1]!, false);
      add(v[2]!, v[3]!, true);
    } else if (verb === kit.CLOSE_VERB) finish();
    else throw new Error("A cubic curve in a stroked skeleton.");
  }
  finish();
  return outline;
}

/** Strokes a skeleton into a closed path. The caller deletes it. */
function strokePath(kit: PathKit, [, strokes]: Skeleton, pen: Pen): PathKitPath {
  const stretch = pen.stretch ?? 1;
  const path = kit.NewPath();
  trace(strokes, path, { x: (x, y) => x * stretch + y * (pen.slant ?? 0) + (pen.spacing ?? 0) / 2 });
  const [cap, join] = pen.square ? [kit.StrokeCap.SQUARE, kit.StrokeJoin.MITER] : [kit.StrokeCap.ROUND, kit.StrokeJoin.ROUND];
  path.stroke({ width: pen.width, cap, join, miter_limit: 3 });
  path.simplify();
  return path;
}

export const advanceOf = ([advance]: Skeleton, pen: Pen): number => Math.round(advance * (pen.stretch ?? 1) + (pen.spacing ?? 0));

export async function drawGlyph(skeleton: Skeleton, pen: Pen): Promise<DrawnGlyph> {
  const kit = await pathKit();
  const path = strokePath(kit, skeleton, pen);
  const outline = outlineOf(kit, path);
  path.delete();
  return { advance: advanceOf(skeleton, pen), outline };
}

/** A letter drawn with a hollow stroke: the wide pen's shape less a narrower one's. */
export async function drawHollow(skeleton: Skeleton, pen: Pen, wall: number): Promise<DrawnGlyph> {
  const kit = await pathKit();
  const outer = strokePath(kit, skeleton, pen);
  const inner = strokePath(kit, skeleton, { ...pen, width: pen.width - 2 * wall });
  outer.op(inner, kit.PathOp.DIFFERENCE);
  const outline = outlineOf(kit, outer);
  outer.delete();
  inner.delete();
  return { advance: advanceOf(skeleton, pen), outline };
}

/** The shade of a letter: its shape pushed down and to the right, less the letter itself. */
export async function drawShade(skeleton: Skeleton, pen: Pen, depth: number, gap: number): Promise<DrawnGlyph> {
  const kit = await pathKit();
  const shade = kit.NewPath();
  for (let step = 0; step <= depth; step += 8) {
    const copy = strokePath(kit, skeleton, pen);
    copy.transform(1, 0, step, 0, 1, -step, 0, 0, 1);
    shade.op(copy, kit.PathOp.UNION);
    copy.delete();
  }
  const face = strokePath(kit, skeleton, { ...pen, width: pen.width + 2 * gap });
  shade.op(face, kit.PathOp.DIFFERENCE);
  const outline = outlineOf(kit, shade);
  shade.delete();
  face.delete();
  return { advance: advanceOf(skeleton, pen), outline };
}
