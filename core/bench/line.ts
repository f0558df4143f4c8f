// The live line: text with the styles it is drawn in. Sizes are people's (millimetres, points, pixels); everything else is in thousandths
// of an em, so that it grows with the line.

export const MM_PER_INCH = 25.4;
/** Typographic point and CSS pixel (CSS Values 4, "Absolute lengths"). */
export const UNIT_MM = { mm: 1, pt: MM_PER_INCH / 72, px: MM_PER_INCH / 96 } as const;
export type Unit = keyof typeof UNIT_MM;

/** What a size measures: the em as programs do, or what the eye compares. */
export const SIZE_OF = ["em", "small", "capitals"] as const;
export type SizeOf = (typeof SIZE_OF)[number];
export interface Size {
  of: SizeOf;
  value: number;
  unit: Unit;
}

export const DIRECTIONS = ["auto", "ltr", "rtl"] as const;
export type Direction = (typeof DIRECTIONS)[number];

/** Which letters a layer draws: faces with hollow capitals and filled small letters are switched by case. */
export const LETTERS_OF = ["all", "capitals", "small"] as const;
export type LettersOf = (typeof LETTERS_OF)[number];

/** What a layer draws instead of the letters themselves. */
export type Made = { kind: "none" } | { kind: "contour"; mm: number } | { kind: "shadow"; mm: number; degrees: number };

export interface Layer {
  /** OpenType features by tag: 0 off, 1 on, or which of several. */
  features: Readonly<Record<string, number>>;
  /** Places on a variable font's axes by tag. */
  axes: Readonly<Record<string, number>>;
  /** "#rrggbb". */
  colour: string;
  /** To the right and upwards, thousandths of an em. */
  dx: number;
  dy: number;
  letters: LettersOf;
  made: Made;
}

/** Longer texts are cut where they are typed; a whole page of text is 3,000 characters. */
export const MOST_TEXT = 10_000;

/** What a line's em is in millimetres, given the face's heights in ems; undefined where the face has no such letters to measure. */
export function emMmOf(size: Size, heights: { small: number | undefined; capitals: number | undefined }): number | undefined {
  const mm = size.value * UNIT_MM[size.unit];
  if (size.of === "em") return mm;
  const height = heights[size.of];
  return height === undefined || height <= 0 ? undefined : mm / height;
}
