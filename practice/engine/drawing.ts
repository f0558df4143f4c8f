// Turns set text into SVG path data.
import type { Run } from "./layout.ts";

/** How far a faked italic leans, and how much a faked bold thickens (em): plainly visible, as in real programs. */
export const FAKE = { slant: 0.21, boldEm: 0.03 };

const rounded = (value: number): string => String(Math.round(value * 100) / 100);

/** A run's outlines, y downwards, in points from the block's top left. `lean` slants them (faked italic). */
export function runPath(run: Run, sizePt: number, lean: boolean): string {
  const scale = sizePt / run.font.unitsPerEm;
  let path = "";
  for (const glyph of run.glyphs) {
    for (const { type, values } of run.font.font.glyphToJson(glyph.id)) {
      path += type;
      for (let i = 0; i + 1 < values.length; i += 2) {
        const y = values[i + 1]! * scale + glyph.y;
        const x = values[i]! * scale + glyph.x + run.x + (lean ? y * FAKE.slant : 0);
        path += `${i > 0 ? " " : ""}${rounded(x)} ${rounded(run.baseline - y)}`;
      }
    }
  }
  return path;
}
