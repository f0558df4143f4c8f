// 'loca': where each glyph's outline lies in 'glyf' (OpenType specification, "loca — Index to Location").
import type { View } from "./view.ts";

export interface Loca {
  /** How many glyphs the table has room for. */
  glyphs: number;
  /** First byte of a glyph in 'glyf'. */
  start(glyph: number): number;
  /** Byte after its last; equal to `start` for a blank glyph. */
  end(glyph: number): number;
}

/** `indexToLocFormat` is head's: 0 for halved 16-bit offsets, 1 for 32-bit ones. */
export function readLoca(view: View, indexToLocFormat: number): Loca {
  const at = indexToLocFormat === 0 ? (i: number) => 2 * view.u16(2 * i) : (i: number) => view.u32(4 * i);
  return {
    glyphs: Math.max(0, Math.floor(view.length / (indexToLocFormat === 0 ? 2 : 4)) - 1),
    start: at,
    end: (glyph) => at(glyph + 1),
  };
}
