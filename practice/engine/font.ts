// A font as a simulated program sees it: opened and named by HarfBuzz from the file's bytes, apart from core's own reader.
import * as hb from "harfbuzzjs";

export interface ProgramFont {
  bytes: Uint8Array;
  unitsPerEm: number;
  font: hb.Font;
  characters: Set<number>;
  /** Name table text by ID, English preferred. */
  name(id: number): string;
  /** In font units. */
  ascent: number;
  descent: number;
}

/** Opens the first face of a font file. Returns undefined when HarfBuzz finds no glyphs or no family name in it. */
export function openProgramFont(bytes: Uint8Array): ProgramFont | undefined {
  const face = new hb.Face(new hb.Blob(bytes), 0);
  const characters = new Set(face.collectUnicodes());
  const languages = new Map<number, string[]>();
  for (const { nameId, language } of face.listNames()) languages.set(nameId, [...(languages.get(nameId) ?? []), language]);
  const name = (id: number): string => {
    const there = languages.get(id);
    if (!there) return "";
    return face.getName(id, there.find((language) => language.startsWith("en")) ?? there[0]!).trim();
  };
  if (characters.size === 0 || (!name(1) && !name(16))) return undefined;
  const font = new hb.Font(face);
  const { ascender, descender } = font.hExtents();
  return { bytes, unitsPerEm: face.upem, font, characters, name, ascent: ascender, descent: -descender };
}
