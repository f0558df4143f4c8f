// What a person chooses for a cut. Lengths are millimetres; places in the drawing are thousandths of an em from the start of the first
// baseline, so that they stay where they are when the size changes.
import { MM_PER_INCH } from "../bench/line.ts";

/** What the size measures. */
export const CUT_SIZES = ["capitals", "small", "whole", "width"] as const;
export type CutSizeOf = (typeof CUT_SIZES)[number];
export const CUT_UNITS = { mm: 1, in: MM_PER_INCH } as const;
export type CutUnit = keyof typeof CUT_UNITS;

/** What is joined with what: nothing at all, each letter with itself, the letters of a word, of a line, of the whole layer. */
export const JOINS = ["nothing", "letter", "word", "line", "layer"] as const;
export type Join = (typeof JOINS)[number];

export const BACKINGS = ["none", "contour", "rectangle", "rounded", "ellipse"] as const;
export type BackingShape = (typeof BACKINGS)[number];

interface Place {
  x: number;
  y: number;
}
export interface PlacedBridge extends Place {
  degrees: number;
  /** Thousandths of an em. */
  length: number;
}

export interface CutSettings {
  size: { of: CutSizeOf; value: number; unit: CutUnit };
  join: Join;
  /** Letters moved until they just touch. */
  touch: boolean;
  /** Only a band so wide along the outlines is left; 0 for whole letters. */
  hollowMm: number;
  backing: { shape: BackingShape; mm: number; colour: string };
  /** Layers under the topmost grow by so much, or shrink where it is negative. */
  underMm: number;
  mirror: boolean;
  marks: boolean;
  /** The background is kept and the letters fall out; bridges hold what is inside them. */
  stencil: boolean;
  bridgeMm: number;
  bridges: PlacedBridge[];
  /** Pieces at these places are left out. */
  leftOut: Place[];
  /** Thinner parts and narrower gaps are told. */
  limitMm: number;
  /** Null for a sheet as large as the drawing. */
  sheet: { widthMm: number; heightMm: number } | null;
  copies: number;
  gapMm: number;
  turn: boolean;
}

export const USUAL_CUT: CutSettings = {
  size: { of: "capitals", value: 30, unit: "mm" },
  join: "line",
  touch: false,
  hollowMm: 0,
  backing: { shape: "none", mm: 3, colour: "#f3ead8" },
  underMm: 0,
  mirror: false,
  marks: false,
  stencil: false,
  bridgeMm: 2,
  bridges: [],
  leftOut: [],
  limitMm: 0.5,
  sheet: null,
  copies: 1,
  gapMm: 5,
  turn: true,
};

/** Largest drawing, millimetres: a roll 5 m long. */
export const MOST_MM = 5000;
export const MOST_COPIES = 500;
