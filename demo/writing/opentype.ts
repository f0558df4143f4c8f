// Writes drawn glyphs as an OpenType font with CFF outlines, through opentype.js.
import opentype from "opentype.js";
import type { DrawnGlyph } from "../drawing/pen.ts";
import { orient } from "../drawing/orient.ts";
import { postScriptName, type FontNames } from "./names.ts";
import { renamedTables } from "./rename.ts";

/** The font file's bytes, named as `names` says. Contours run the other way round than TrueType's. */
export function writeOpenType(names: FontNames, glyphs: ReadonlyMap<number, DrawnGlyph>): Uint8Array {
  const drawn = [...glyphs].sort(([a], [b]) => a - b);
  const all = [new opentype.Glyph({ name: ".notdef", advanceWidth: 500, path: new opentype.Path() })];
  for (const [code, glyph] of drawn) {
    const path = new opentype.Path();
    for (const contour of orient(glyph.outline).map((points) => [...points].reverse())) {
      const start = contour.findIndex((point) => point.on);
      const points = [...contour.slice(start), ...contour.slice(0, start), contour[start]!];
      path.moveTo(points[0]!.x, points[0]!.y);
      for (let i = 1; i < points.length; i++) {
        const point = points[i]!;
        if (point.on) path.lineTo(point.x, point.y);
        else {
          const end = points[++i]!;
          path.quadraticCurveTo(point.x, point.y, end.x, end.y);
        }
      }
      path.closePath();
    }
    all.push(new opentype.Glyph({ name: `u${code.toString(16)}`, unicode: code, advanceWidth: glyph.advance, path }));
  }
  const font = new opentype.Font({
    familyName: names.family,
    styleName: names.style,
    postScriptName: postScriptName(names),
    unitsPerEm: 1000,
    ascender: 900,
    descender: -250,
    glyphs: all,
    // A fixed date: the demo's fonts are the same bytes each time they are made.
    createdTimestamp: 1767225600,
  });
  return renamedTables(new Uint8Array(font.toArrayBuffer()), names);
}
