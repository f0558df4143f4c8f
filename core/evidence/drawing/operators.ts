// Drawing operators of ISO 32000-1, annex A, numbered as the parser numbers them, and the parts of its lists that are looked at.
export { OPS } from "pdfjs-dist/legacy/build/pdf.mjs";

export interface Operators {
  fnArray: ArrayLike<number>;
  argsArray: ArrayLike<unknown>;
}
/** One glyph to show. */
export interface ShownGlyph {
  fontChar: string;
  unicode: string;
  /** In thousandths of the text's unit. */
  width: number;
  isSpace: boolean;
  vmetric?: readonly [number, number, number] | null;
  operatorListId?: string | null;
}
/** What is decoded of a picture; kind 1 is a bit a pixel, 2 three bytes, 3 four with its opacity. */
export interface Pixels {
  width: number;
  height: number;
  kind?: number;
  data?: Uint8Array | Uint8ClampedArray;
}
