// A face opened to draw with: HarfBuzz over the file's bytes, at a place on its axes. The same in the browser's worker, on the server and on the command line.
import * as hb from "harfbuzzjs";

export interface DrawFace {
  readonly upem: number;
  readonly font: hb.Font;
  readonly glyphs: number;
  has(codePoint: number): boolean;
  /** Ascending. */
  characters(): readonly number[];
  /** From the baseline upwards and downwards, font units, both positive as a rule. */
  readonly ascent: number;
  readonly descent: number;
  /** Heights of flat letters as drawn, in ems; undefined where there are none. */
  readonly heights: { small: number | undefined; capitals: number | undefined };
  /** A glyph's outline, font units, y upwards. */
  outline(glyph: number): readonly Command[];
  /** Its coloured layers, the lowest first; undefined when it is drawn in the text's own colour. */
  colours(glyph: number): ColourLayer[] | undefined;
  /** A picture of it, where the font holds pictures. */
  picture(glyph: number): Uint8Array | undefined;
}
/** M, L, Q, C or Z of SVG path data, absolute. */
export interface Command {
  type: string;
  values: readonly number[];
}
interface ColourLayer {
  glyph: number;
  /** "#rrggbbaa"; undefined for the text's own colour. */
  colour: string | undefined;
}

/** Flat letters whose height is the script's: Latin, Greek, Cyrillic; Hebrew and Arabic have one height, of letters with a flat top. */
const MEASURED = { small: ["x", "z", "v", "х", "ν"], capitals: ["H", "E", "I", "Н", "Η"], only: ["ה", "ד", "ם"] };
/** Undefined when HarfBuzz finds no glyphs in it. `index` is the face in a collection. */
export function openDrawFace(bytes: Uint8Array, index: number, axes: Readonly<Record<string, number>> = {}): DrawFace | undefined {
  const face = new hb.Face(new hb.Blob(bytes), index);
  const characters = new Set(face.collectUnicodes());
  // "numGlyphs" (OpenType specification, "maxp").
  const maxp = face.referenceTable("maxp");
  const glyphs = maxp && maxp.length >= 6 ? (maxp[4]! << 8) | maxp[5]! : 0;
  if (glyphs === 0 || face.upem <= 0) return undefined;
  const font = new hb.Font(face);
  const wanted = Object.entries(axes);
  if (wanted.length > 0) font.setVariations(wanted.map(([tag, value]) => new hb.Variation(tag, value)));
  const { ascender, descender } = font.hExtents();
  const height = (letters: readonly string[]): number | undefined => {
    for (const letter of letters) {
      const code = letter.codePointAt(0)!;
      const glyph = characters.has(code) ? font.nominalGlyph(code) : undefined;
      const extents = glyph === undefined ? undefined : font.glyphExtents(glyph);
      if (extents && extents.yBearing > 0) return extents.yBearing / face.upem;
    }
    return undefined;
  };
  const only = height(MEASURED.only);
  const outlines = new Map<number, readonly Command[]>();
  const palette = face.hasColorPalettes() ? face.getColorPalettes()[0]?.colors : undefined;
  const layered = face.hasColorLayers();
  const pictured = face.hasColorPng();
  const hex = (value: number) => value.toString(16).padStart(2, "0");
  return {
    upem: face.upem,
    font,
    glyphs,
    ascent: ascender,
    descent: -descender,
    has: (codePoint) => characters.has(codePoint),
    characters: () => [...characters].sort((a, b) => a - b),
    heights: { small: height(MEASURED.small) ?? only, capitals: height(MEASURED.capitals) ?? only },
    outline(glyph) {
      let outline = outlines.get(glyph);
      if (outline === undefined) outlines.set(glyph, (outline = font.glyphToJson(glyph)));
      return outline;
    },
    colours(glyph) {
      const layers = layered ? face.getGlyphColorLayers(glyph) : [];
      if (layers.length === 0) return undefined;
      return layers.map(({ glyph: one, colorIndex }) => {
        // Without a colour of its own a layer has the text's (OpenType specification, "COLR", palette index 0xFFFF).
        const colour = colorIndex === undefined ? undefined : palette?.[colorIndex];
        return { glyph: one, colour: colour && `#${hex(colour.red)}${hex(colour.green)}${hex(colour.blue)}${hex(colour.alpha)}` };
      });
    },
    picture: (glyph) => (pictured ? font.getGlyphColorPng(glyph) : undefined),
  };
}
