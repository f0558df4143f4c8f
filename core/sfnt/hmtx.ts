// 'hmtx': advance widths (OpenType specification, "hmtx — Horizontal Metrics Table").
import type { View } from "./view.ts";

export interface Hmtx {
  /** Advance of a glyph in font units. Glyphs past the last long metric share its advance. */
  advanceUnits(glyph: number): number;
  metrics: number;
}

export function readHmtx(view: View, numberOfHMetrics: number): Hmtx {
  const metrics = Math.min(numberOfHMetrics, Math.floor(view.length / 4));
  return {
    metrics,
    advanceUnits: (glyph) => (metrics === 0 ? 0 : view.u16(4 * Math.min(glyph, metrics - 1))),
  };
}
