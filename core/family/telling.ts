// A few of a face's drawings, small enough to be kept for every face: by them two files are told to be the same style, a version of it, or
// another font that only goes by its name.
import type { Face } from "../sfnt/face.ts";
import { boxOf, signedAreas } from "../sfnt/outline.ts";

/** Letters that differ from font to font; looked at wherever they are there. */
const LETTERS = [..."AEGMQRSaegnrt25&אבשלםק"].map((letter) => letter.codePointAt(0)!);
/** Characters of its own are added, picked so that two versions with nearly the same characters get nearly the same ones. */
const OWN = 14;
/** A larger character set is not gone through for them. */
const MOST_CHARACTERS = 200_000;
const ROW = 7;

/** Spreads code points evenly; the lowest of a set are a sample that a few more or fewer characters hardly change (min-wise hashing). */
const scattered = (code: number): number => {
  const mixed = Math.imul(code ^ (code >>> 7), 0x9e3779b1);
  return (mixed ^ (mixed >>> 15)) >>> 0;
};

function ownCharacters(ranges: readonly number[]): number[] {
  let lowest: { code: number; at: number }[] = [];
  let looked = 0;
  for (let i = 0; i + 1 < ranges.length; i += 2) {
    for (let code = Math.max(0x21, ranges[i]!); code <= ranges[i + 1]!; code++) {
      if (++looked > MOST_CHARACTERS) break;
      const at = scattered(code);
      if (lowest.length === OWN && at >= lowest.at(-1)!.at) continue;
      lowest = [...lowest, { code, at }].sort((a, b) => a.at - b.at).slice(0, OWN);
    }
  }
  return lowest.map(({ code }) => code);
}

/**
 * Per character its code point, its ink in ten-thousandths of a square em, and its box in thousandths of the em (left, bottom, right, top) after
 * its advance; as base64 of 32-bit numbers. `ranges` are the face's characters. Characters without ink are left out.
 */
export function tellingDrawings(face: Face, ranges: readonly number[]): string {
  const upem = face.head?.unitsPerEm ?? 0;
  if (upem === 0 || !face.cmap) return "";
  const rows: number[] = [];
  for (const code of new Set([...LETTERS, ...ownCharacters(ranges)])) {
    const glyph = face.cmap.glyph(code);
    const outline = glyph === 0 ? undefined : face.outline(glyph);
    const box = outline && boxOf(outline);
    if (!outline || !box) continue;
    const ink = Math.abs(signedAreas(outline).reduce((sum, area) => sum + area, 0));
    const em = (units: number) => Math.round((units * 1000) / upem);
    const advance = face.hmtx?.advanceUnits(glyph) ?? 0;
    rows.push(code, Math.round((ink * 10_000) / upem ** 2), em(advance), em(box.xMin), em(box.yMin), em(box.xMax), em(box.yMax));
  }
  return btoa(String.fromCharCode(...new Uint8Array(Int32Array.from(rows).buffer)));
}

const read = new Map<string, Int32Array>();
/** Read drawings that are kept for the next comparison. */
const MOST_READ = 2000;
function rowsOf(drawings: string): Int32Array {
  let known = read.get(drawings);
  if (!known) {
    const bytes = Uint8Array.from(atob(drawings), (one) => one.charCodeAt(0));
    known = new Int32Array(bytes.buffer, 0, bytes.length >> 2);
    if (read.size >= MOST_READ) read.clear();
    read.set(drawings, known);
  }
  return known;
}

/** By how much the same drawing may differ between quadratic and cubic curves and between ems: ink, and sides of the box. */
const INK = 20;
const SIDE = 4;
/** Fewer shared characters tell nothing. */
const LEAST_SHARED = 3;
/** Of characters that are drawn alike: so many make the same drawing, so many a version of it in which some letters were drawn anew. */
const SAME = 0.9;
const VERSION = 0.4;

/** How two faces' drawings stand to one another; "unknown" where they share too little. */
export type Drawings = "same" | "version" | "other" | "unknown";
export function compareDrawings(a: string, b: string): Drawings {
  const [rowsA, rowsB] = [rowsOf(a), rowsOf(b)];
  const at = new Map<number, number>();
  for (let i = 0; i + ROW <= rowsB.length; i += ROW) at.set(rowsB[i]!, i);
  let [shared, alike] = [0, 0];
  for (let i = 0; i + ROW <= rowsA.length; i += ROW) {
    const j = at.get(rowsA[i]!);
    if (j === undefined) continue;
    shared++;
    // A letter that was given another place on its advance is drawn as before.
    const moved = rowsB[j + 3]! - rowsA[i + 3]!;
    const near = (k: number, by: number, limit: number) => Math.abs(rowsB[j + k]! - rowsA[i + k]! - by) <= limit;
    if (near(1, 0, INK) && near(4, 0, SIDE) && near(5, moved, SIDE) && near(6, 0, SIDE)) alike++;
  }
  if (shared < LEAST_SHARED) return "unknown";
  return alike / shared >= SAME ? "same" : alike / shared >= VERSION ? "version" : "other";
}
