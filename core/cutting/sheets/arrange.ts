// Copies of a drawing laid on sheets, turned where they fit better that way.
import { MaxRectsPacker } from "maxrects-packer/dist/maxrects-packer.mjs";
import { ProblemError } from "../../problem.ts";

interface Placed {
  /** Which sheet of material, from 0. */
  on: number;
  /** Where the drawing's top left corner comes to lie, millimetres; turned by a quarter to the right, its bottom left corner does. */
  x: number;
  y: number;
  turned: boolean;
}
export interface Arranged {
  /** One sheet of material. */
  widthMm: number;
  heightMm: number;
  sheets: number;
  placed: Placed[];
}

/** Packing works on whole hundredths of a millimetre. */
const STEP_MM = 0.01;
const size = (value: number): string => (Math.round(value * 10) / 10).toString();

/** Throws a `ProblemError` when one copy is larger than the sheet. Without a sheet, copies lie in rows as nearly square as can be. */
export function arrange(
  widthMm: number,
  heightMm: number,
  { sheet, copies, gapMm, turn }: { sheet: { widthMm: number; heightMm: number } | null; copies: number; gapMm: number; turn: boolean },
): Arranged {
  if (sheet === null) {
    const columns = Math.max(1, Math.min(copies, Math.round(Math.sqrt((copies * heightMm) / Math.max(1e-6, widthMm)))));
    const rows = Math.ceil(copies / columns);
    return {
      widthMm: columns * widthMm + (columns - 1) * gapMm,
      heightMm: rows * heightMm + (rows - 1) * gapMm,
      sheets: 1,
      placed: Array.from({ length: copies }, (_, i) => ({
        on: 0,
        turned: false,
        x: (i % columns) * (widthMm + gapMm),
        y: Math.floor(i / columns) * (heightMm + gapMm),
      })),
    };
  }
  const fits = (w: number, h: number) => w <= sheet.widthMm + STEP_MM && h <= sheet.heightMm + STEP_MM;
  const upright = fits(widthMm, heightMm);
  if (!upright && !(turn && fits(heightMm, widthMm)))
    throw new ProblemError(
      "sheet-small",
      `The drawing is ${size(widthMm)} by ${size(heightMm)} mm; the sheet is ${size(sheet.widthMm)} by ${size(sheet.heightMm)} mm.`,
      fits(heightMm, widthMm) ? "Let it be turned, or type a larger sheet." : "Make the words smaller, or type a larger sheet.",
    );
  const whole = (value: number) => Math.ceil(value / STEP_MM - 1e-6);
  // What only fits turned is turned before it is packed.
  const [w, h] = upright ? [widthMm, heightMm] : [heightMm, widthMm];
  const packer = new MaxRectsPacker(Math.floor(sheet.widthMm / STEP_MM) + 1, Math.floor(sheet.heightMm / STEP_MM) + 1, whole(gapMm), {
    smart: false,
    pot: false,
    square: false,
    allowRotation: turn,
    tag: false,
    border: 0,
  });
  packer.addArray(Array.from({ length: copies }, () => ({ x: 0, y: 0, width: whole(w), height: whole(h) })));
  const placed = packer.bins.flatMap((bin, on) =>
    bin.rects.map(({ x, y, rot }): Placed => ({ on, x: x * STEP_MM, y: y * STEP_MM, turned: (rot ?? false) === upright })),
  );
  return { ...sheet, sheets: packer.bins.length, placed };
}
