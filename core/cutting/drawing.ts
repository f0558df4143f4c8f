// What is cut, and what a cut is made of: a line, sheets in their colours, the whole drawing.
import type { DrawFace } from "../bench/draw-face.ts";
import type { Direction, Layer } from "../bench/line.ts";
import type { Polygon } from "./outlines/judge.ts";
import type { Box, Contour } from "./outlines/curve.ts";
import type { Letter } from "./making/letters.ts";
import type { Piece, Totals } from "./findings/pieces.ts";
import type { CutFinding } from "./findings/kinds.ts";
import type { Bridge } from "./making/bridges.ts";

/** A layer with its face opened, at its place on the axes. */
export interface CutLayer extends Omit<Layer, "axes"> {
  face: DrawFace;
}
/** A live line: layers from the lowest to the topmost. */
export interface LineToCut {
  text: string;
  letterSpacing: number;
  lineSpacing: number;
  direction: Direction;
  layers: readonly CutLayer[];
}
/** One colour: what is cut from one material. Millimetres from the start of the first baseline, y downwards. */
export interface CutSheet {
  colour: string;
  /** What it is: letters of a layer, or what lies under them. */
  kind: "letters" | "backing";
  contours: Contour[];
  pieces: Piece[];
  totals: Totals;
  /** As the font draws it. */
  raw: Contour[];
  letters: Letter[];
  /** Where outlines covered one another before, and still do; polygons. */
  overlaps: Polygon[];
  overlapsAfter: number;
  engine: string;
  /** Share of the area by which the joined drawing differs from its original, by lines through both. */
  errorShare: number;
  /** False where neither engine joined it right. */
  joined: boolean;
}
export interface CutDrawing {
  emMm: number;
  /** The lowest first. */
  sheets: CutSheet[];
  /** The same on every sheet; empty without register marks. */
  marks: Contour[];
  /** Of everything, marks and all. */
  box: Box;
  findings: CutFinding[];
  /** Proposed for a stencil; those that were placed are cut already. */
  proposed: Bridge[];
  /** Characters that another font would have to draw, and pictures: neither is cut. */
  missing: string[];
  pictures: string[];
}
