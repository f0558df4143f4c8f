// The graphics state of a page that is followed (ISO 32000-1, 8.4 "Graphics state", 9.3 "Text state parameters and operators").
import { UNMOVED } from "./geometry.ts";
import type { Area, Box, Matrix } from "./geometry.ts";
import type { Operators } from "./operators.ts";

export type Rgb = readonly [red: number, green: number, blue: number];
/** What areas are filled with; "unknown" where it is not followed. */
export type Paint = { colour: Rgb } | { tiles: Operators; matrix: Matrix } | "unknown" | "none";
interface TextState {
  font: string;
  size: number;
  direction: 1 | -1;
  characterSpacing: number;
  wordSpacing: number;
  stretch: number;
  leading: number;
  rise: number;
  mode: number;
  matrix: Matrix;
  x: number;
  y: number;
  lineX: number;
  lineY: number;
}
export interface State {
  ctm: Matrix;
  clips: readonly Area[];
  /** A clip nobody follows here, such as letters. */
  clipUnknown: boolean;
  fill: Paint;
  stroke: Paint;
  fillAlpha: number;
  strokeAlpha: number;
  groupAlpha: number;
  blends: boolean;
  masked: boolean;
  lineWidth: number;
  text: TextState;
}

export const BLACK: Rgb = [0, 0, 0];
export const PAPER: Rgb = [255, 255, 255];

const freshText = (): TextState => ({
  font: "",
  size: 0,
  direction: 1,
  characterSpacing: 0,
  wordSpacing: 0,
  stretch: 1,
  leading: 0,
  rise: 0,
  mode: 0,
  matrix: UNMOVED,
  x: 0,
  y: 0,
  lineX: 0,
  lineY: 0,
});
/** The state a page begins with (8.4.1, table 52). */
export const freshState = (): State => ({
  ctm: UNMOVED,
  clips: [],
  clipUnknown: false,
  fill: { colour: BLACK },
  stroke: { colour: BLACK },
  fillAlpha: 1,
  strokeAlpha: 1,
  groupAlpha: 1,
  blends: false,
  masked: false,
  lineWidth: 1,
  text: freshText(),
});

export const scaleOf = (m: Matrix): number => Math.sqrt(Math.abs(m[0] * m[3] - m[1] * m[2]));
/** The largest difference of two colours in red, green or blue, 0 to 255. */
export const difference = (a: Rgb, b: Rgb): number => Math.max(...a.map((value, i) => Math.abs(value - b[i]!)));
export const colourOf = (paint: Paint): Rgb | undefined => (typeof paint === "object" && "colour" in paint ? paint.colour : undefined);

/** Operands as they were read: what is missing counts as nothing. */
export const numberIn = (args: readonly unknown[], at: number): number => Number(args[at] ?? 0);
export const matrixIn = (value: unknown): Matrix | undefined =>
  Array.isArray(value) && value.length >= 6 ? (value.slice(0, 6).map(Number) as unknown as Matrix) : undefined;
export const boxIn = (value: unknown): Box | undefined =>
  Array.isArray(value) && value.length >= 4 ? { x0: +value[0], y0: +value[1], x1: +value[2], y1: +value[3] } : undefined;
