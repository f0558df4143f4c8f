// What is measured once of a face and kept: the form of each letter of fixed alphabets, how high and wide it stands, and the face's manner.
import type { DrawFace } from "../../bench/draw-face.ts";
import { LETTERS, MEASURED_SCRIPTS, type MeasuredScript } from "./alphabet.ts";
import { FORM_SIZE, formOfOutline } from "./letter-form.ts";
import { mannerOf, type Manner } from "./manner.ts";
import { outlineOf } from "./outlines.ts";

/** Raised when any of it is measured otherwise. */
export const SHAPES_VERSION = 1;

/** Bytes of a letter: its form, then its top, bottom and width. A letter that is not there has width 0. */
export const LETTER_BYTES = FORM_SIZE + 3;
/** Heights run from 0.6 em below the baseline to 1.4 above, in 255 steps; widths to 2 em. */
const BELOW = 0.6;
const SPAN = 2;
const STEPS = 255;

export interface FaceShapes {
  manner: Manner;
  /** A table for each script the face has at least half of the letters of: `LETTER_BYTES` for each letter of its alphabet. */
  tables: Map<MeasuredScript, Int8Array>;
}

const stored = (value: number): number => Math.max(0, Math.min(STEPS, Math.round((value / SPAN) * STEPS))) - 128;
/** Of a stored letter that starts at `at`, in ems: y downwards from the baseline. */
export const topOf = (table: Int8Array, at: number): number => BELOW + -((table[at + FORM_SIZE]! + 128) / STEPS) * SPAN;
export const bottomOf = (table: Int8Array, at: number): number => BELOW + -((table[at + FORM_SIZE + 1]! + 128) / STEPS) * SPAN;
export const widthOf = (table: Int8Array, at: number): number => ((table[at + FORM_SIZE + 2]! + 128) / STEPS) * SPAN;

function tableOf(face: DrawFace, script: MeasuredScript): Int8Array | undefined {
  const letters = LETTERS[script];
  const table = new Int8Array(letters.length * LETTER_BYTES).fill(-128);
  let found = 0;
  for (const [i, code] of letters.entries()) {
    const glyph = face.has(code) ? face.font.nominalGlyph(code) : undefined;
    if (glyph === undefined) continue;
    const at = i * LETTER_BYTES;
    const box = formOfOutline(outlineOf(face.font, face.upem, glyph).polygons, table, at);
    if (!box) continue;
    table[at + FORM_SIZE] = stored(BELOW - box.y0);
    table[at + FORM_SIZE + 1] = stored(BELOW - box.y1);
    table[at + FORM_SIZE + 2] = Math.max(-127, stored(box.x1 - box.x0));
    found++;
  }
  return found * 2 >= letters.length ? table : undefined;
}

/** Measures a face. Takes some milliseconds. */
export function shapesOf(face: DrawFace): FaceShapes {
  const tables = new Map<MeasuredScript, Int8Array>();
  for (const script of MEASURED_SCRIPTS) {
    const table = tableOf(face, script);
    if (table) tables.set(script, table);
  }
  return { manner: mannerOf(face.font, face.upem, (code) => face.has(code)), tables };
}
