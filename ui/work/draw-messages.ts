// What the page asks of the drawing worker, and what it answers.
import type { DrawnGlyphs, DrawnLine, LineWanted } from "../../core/bench/drawing.ts";

export type Want =
  | { kind: "line"; line: LineWanted }
  | { kind: "glyphs"; sha256: string; face: number; glyphs: readonly number[] }
  | { kind: "order"; sha256: string; face: number };
export interface Ask {
  id: number;
  want: Want;
}
/** `full`: the worker has opened so many fonts that another should take its place. */
export type Reply = { full?: boolean } & Answer;
export type Answer =
  | { id: number; kind: "line"; drawn: DrawnLine }
  | { id: number; kind: "glyphs"; drawn: DrawnGlyphs }
  /** Flat pairs of code point and glyph. */
  | { id: number; kind: "order"; order: number[] }
  /** The font cannot be had or opened. */
  | { id: number; kind: "gone" };
