// 'post': italic angle, underline, the fixed-pitch note and glyph names (OpenType specification, "post — PostScript Table").
import { layoutBytes, readLayout } from "./layout.ts";
import { MAC_GLYPHS } from "./standard-names.ts";
import type { View } from "./view.ts";

const layout = [
  ["version", "u32"],
  ["italicAngle", "fixed"],
  ["underlinePosition", "i16"],
  ["underlineThickness", "i16"],
  ["isFixedPitch", "u32"],
] as const;
/** Four numbers on memory follow, which nobody needs. */
const HEADER_BYTES = layoutBytes(layout) + 16;

export const readPost = (view: View) => readLayout(view, layout);

const VERSION_1 = 0x00010000;
const VERSION_2 = 0x00020000;
/** "numGlyphs", then an index a glyph: below 258 a standard name, above it one of the Pascal strings that follow. */
export function readGlyphNames(view: View): string[] {
  const version = view.u32(0);
  if (version === VERSION_1) return [...MAC_GLYPHS];
  if (version !== VERSION_2) return [];
  const start = HEADER_BYTES;
  const count = view.u16(start);
  const strings: string[] = [];
  const latin = new TextDecoder("latin1");
  for (let at = start + 2 + 2 * count; at < view.length;) {
    const length = view.u8(at);
    if (at + 1 + length > view.length) break;
    strings.push(latin.decode(view.copied(at + 1, length)));
    at += 1 + length;
  }
  return Array.from({ length: count }, (_, glyph) => {
    const index = view.u16(start + 2 + 2 * glyph);
    return MAC_GLYPHS[index] ?? strings[index - MAC_GLYPHS.length] ?? "";
  });
}
