// Cells of glyphs as elements of the page itself: thousands of them pass by under a thumb.
import type { DrawnGlyphs } from "../../core/bench/drawing.ts";
import { codePointText } from "../../core/symbols/symbols.ts";
import { usePalette } from "../theme/theme.ts";
import { GlyphSvg } from "./DrawnSvg.tsx";
import { SAY } from "../sentences/parts.ts";

interface Props {
  /** Flat pairs of code point (-1 for none) and glyph. */
  pairs: readonly number[];
  columns: number;
  /** Height of a cell, and the most it is wide, in pixels. */
  size: number;
  drawn: DrawnGlyphs | undefined;
  chosen: number | undefined;
  onChoose: (glyph: number, codePoint: number) => void;
}

export function GlyphCells({ pairs, columns, size, drawn, chosen, onChoose }: Props) {
  const palette = usePalette();
  const cells = [];
  for (let i = 0; i + 1 < pairs.length; i += 2) {
    const [codePoint, glyph] = [pairs[i]!, pairs[i + 1]!];
    const one = drawn?.glyphs[i / 2];
    const isChosen = chosen === glyph;
    cells.push(
      <button
        key={glyph}
        type="button"
        aria-label={codePoint >= 0 ? `${String.fromCodePoint(codePoint)} ${codePointText(codePoint)}` : SAY.glyphGlyph(glyph)}
        aria-pressed={isChosen}
        data-testid={`glyph-${glyph}`}
        onClick={() => onChoose(glyph, codePoint)}
        style={{
          width: `${100 / columns}%`,
          height: size,
          padding: 0,
          margin: 0,
          display: "flex",
          alignItems: "center",
          justifyContent: "center",
          border: `1px solid ${isChosen ? palette.ink : palette.edge}`,
          background: isChosen ? palette.tab : palette.drawer,
          cursor: "pointer",
        }}
      >
        {drawn && one ? <GlyphSvg font={drawn} glyph={one} size={size - 20} colour={palette.ink} /> : null}
      </button>,
    );
  }
  return <div style={{ display: "flex", height: size }}>{cells}</div>;
}
