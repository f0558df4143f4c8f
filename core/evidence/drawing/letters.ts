// What a page's drawing says of its letters.

/** Why a letter that a page sets cannot be seen, or might not be. */
export const UNSEEN = {
  mode: "set to be invisible",
  size: "too small to be seen",
  outside: "outside the page",
  clipped: "cut away",
  layer: "in a layer that is turned off",
  paper: "in the colour of what lies under it",
  clear: "transparent",
  covered: "painted over",
  blank: "a space",
} as const;
export type Unseen = keyof typeof UNSEEN;

export interface DrawnLetter {
  /** The font's key in the drawing. */
  font: string;
  /** What names the letter's outline in that font. */
  glyph: string;
  /** The characters it stands for, where the document says so. */
  text: string;
  /** From 1. */
  page: number;
  /** Height of the em on the page, in points. */
  size: number;
  /** Where the line it stands on lies, across the way that is written, in points: letters of one line have one. */
  line: number;
  shows: "yes" | "no" | "unsure";
  /** Why not, or why it is not sure. */
  why?: Unseen;
  /** Made bold by stroking or drawing twice, or made slanted by the matrix. */
  faked?: "bold" | "slanted";
}
