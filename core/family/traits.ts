// Weight, width, slant and spacing of a face, from its tables.
import type { Face } from "../sfnt/face.ts";
import { FS_SELECTION } from "../sfnt/os2.ts";
import type { FaceNames } from "./names.ts";

const SLANT_WORD = /\b(italic|oblique|kursiv|cursiva|corsivo|italique|slanted)\b/i;

/** Whether the face is slanted: its style says so, else OS/2 fsSelection bits 0 and 9, else head macStyle bit 1. */
export function isItalic(face: Face, names: Pick<FaceNames, "style" | "legacyStyle">): boolean {
  if (SLANT_WORD.test(names.style) || SLANT_WORD.test(names.legacyStyle)) return true;
  const os2 = face.os2;
  if (os2) return (os2.fsSelection & (FS_SELECTION.italic | FS_SELECTION.oblique)) !== 0;
  return ((face.head?.macStyle ?? 0) & 2) !== 0;
}

/** Whether the face is marked bold for four-style families: fsSelection bit 5, else macStyle bit 0. */
export function isBold(face: Face): boolean {
  const os2 = face.os2;
  return os2 ? (os2.fsSelection & FS_SELECTION.bold) !== 0 : ((face.head?.macStyle ?? 0) & 1) !== 0;
}

/** usWeightClass 1–1000. Some old fonts hold 1–9, meaning hundreds (fontconfig and others read them so; from memory). */
export function weightClass(face: Face): number {
  const weight = face.os2?.usWeightClass;
  if (weight === undefined || weight === 0) return isBold(face) ? 700 : 400;
  return weight < 10 ? weight * 100 : weight;
}

/** usWidthClass 1–9, 5 is normal. */
export function widthClass(face: Face): number {
  const width = face.os2?.usWidthClass ?? 5;
  return width >= 1 && width <= 9 ? width : 5;
}

/** Advances that differ by less than 3 % count as one, as fontconfig counts them (from memory). */
const near = (a: number, b: number): boolean => Math.abs(a - b) * 33 <= Math.max(a, b);

/** All characters take one advance, or one and its double (as East Asian fonts do). Zero advances do not count. */
export function isMonospaced(face: Face): boolean {
  const { cmap, hmtx } = face;
  if (!cmap || !hmtx || hmtx.metrics === 0) return face.post?.isFixedPitch ? true : false;
  const seen: number[] = [];
  let many = false;
  const glyphs = new Set<number>();
  cmap.each((_, glyph) => glyphs.add(glyph));
  for (const glyph of glyphs) {
    const advance = hmtx.advanceUnits(glyph);
    if (advance === 0 || seen.some((other) => near(other, advance))) continue;
    seen.push(advance);
    if (seen.length > 2) {
      many = true;
      break;
    }
  }
  if (many || seen.length === 0) return false;
  if (seen.length === 1) return true;
  return near(2 * Math.min(...seen), Math.max(...seen));
}
