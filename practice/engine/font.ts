// A font as a simulated program sees it: opened and named by HarfBuzz from the file's bytes, apart from core's own reader.
import * as hb from "harfbuzzjs";
import { browserRefusal } from "../../core/health/strict/strict.ts";
import { openContainer } from "../../core/sfnt/container.ts";
import { Face } from "../../core/sfnt/face.ts";

export interface ProgramFont {
  bytes: Uint8Array;
  unitsPerEm: number;
  font: hb.Font;
  characters: Set<number>;
  /** Name table text by ID, in a language where the font has it, else English. */
  name(id: number, language?: string): string;
  /** A variable font's own style, when this stands for one. */
  instance: string;
  /** Where on its axes it lies; empty for its default. */
  variations: readonly { tag: string; value: number }[];
  variable: boolean;
  format: "ttf" | "otf";
  coloured: boolean;
  /** By its characters: the Latin alphabet; or symbols, mostly. */
  latin: boolean;
  readonly symbols: boolean;
  /** In font units. */
  ascent: number;
  descent: number;
}

/** The faces a file holds (OpenType specification, "Font Collections": 'ttcf', then numFonts at offset 8). */
function faceCount(bytes: Uint8Array): number {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 12 || new TextDecoder("latin1").decode(bytes.subarray(0, 4)) !== "ttcf") return 1;
  return Math.min(view.getUint32(8), 256);
}

interface Instance {
  nameId: number;
  variations: { tag: string; value: number }[];
}
/** A variable font's named instances, from its own 'fvar' table (OpenType specification): fixed-point values, one for each axis. */
function instancesOf(face: hb.Face): Instance[] {
  const table = face.referenceTable("fvar");
  if (!table || table.length < 16) return [];
  const view = new DataView(table.buffer, table.byteOffset, table.byteLength);
  const [axesAt, axes, axisSize, count, size] = [4, 8, 10, 12, 14].map((at) => view.getUint16(at)) as [
    number,
    number,
    number,
    number,
    number,
  ];
  const tags = Array.from({ length: axes }, (_, i) =>
    new TextDecoder("latin1").decode(table.subarray(axesAt + i * axisSize, axesAt + i * axisSize + 4)),
  );
  const first = axesAt + axes * axisSize;
  return Array.from({ length: count }, (_, i) => {
    const at = first + i * size;
    return { nameId: view.getUint16(at), variations: tags.map((tag, k) => ({ tag, value: view.getInt32(at + 4 + 4 * k) / 65536 })) };
  });
}

/** Opens the first face of a font file. Returns undefined when HarfBuzz finds no glyphs or no family name in it. */
export const openProgramFont = (bytes: Uint8Array): ProgramFont | undefined => openFace(bytes, 0, undefined);

const COLOURED = ["COLR", "SVG ", "CBDT", "sbix"];
interface Takes {
  collections: boolean;
  variable: "instances" | "default" | "none";
  formats: readonly ("ttf" | "otf")[];
  colour: boolean;
  symbols: boolean;
  /** It hands fonts to a sanitizer first, as browsers do. */
  strict: boolean;
}
/** The sanitizer is core's, which is held against the one browsers ship; there is none among packages. */
function sanitized(bytes: Uint8Array, index: number): boolean {
  try {
    return browserRefusal(new Face(openContainer(bytes), index)) === undefined;
  } catch {
    return false;
  }
}
const takes = (font: ProgramFont, traits: Takes): boolean =>
  traits.formats.includes(font.format) &&
  (traits.variable !== "none" || !font.variable) &&
  (traits.colour || !font.coloured) &&
  (traits.symbols || !font.symbols);

/** Opens everything in a font file that a program of such traits lists. */
export function openProgramFonts(bytes: Uint8Array, traits: Takes): ProgramFont[] {
  const count = faceCount(bytes);
  const collection = new TextDecoder("latin1").decode(bytes.subarray(0, 4)) === "ttcf";
  if (collection && !traits.collections) return [];
  const found: ProgramFont[] = [];
  for (let index = 0; index < count; index++) {
    const font = openFace(bytes, index, undefined);
    if (!font || !takes(font, traits) || (traits.strict && !sanitized(bytes, index))) continue;
    const instances = font.variable && traits.variable === "instances" ? instancesOf(new hb.Face(new hb.Blob(bytes), index)) : [];
    if (instances.length === 0) found.push(font);
    for (const instance of instances) {
      const own = openFace(bytes, index, instance);
      if (own) found.push(own);
    }
  }
  return found;
}

function openFace(bytes: Uint8Array, index: number, instance: Instance | undefined): ProgramFont | undefined {
  const face = new hb.Face(new hb.Blob(bytes), index);
  const characters = new Set(face.collectUnicodes());
  const languages = new Map<number, string[]>();
  for (const { nameId, language } of face.listNames()) languages.set(nameId, [...(languages.get(nameId) ?? []), language]);
  const name = (id: number, wanted = "en"): string => {
    const there = languages.get(id);
    if (!there) return "";
    const own = there.find((language) => language === wanted) ?? there.find((language) => language.split("-")[0] === wanted.split("-")[0]);
    return face.getName(id, own ?? there.find((language) => language.startsWith("en")) ?? there[0]!).trim();
  };
  if (characters.size === 0 || (!name(1) && !name(16))) return undefined;
  const font = new hb.Font(face);
  if (instance) font.setVariations(instance.variations.map(({ tag, value }) => new hb.Variation(tag, value)));
  const { ascender, descender } = font.hExtents();
  const letters = (first: number) => Array.from({ length: 26 }, (_, i) => first + i).filter((code) => characters.has(code)).length;
  const latin = letters(0x61) >= 20 || letters(0x41) >= 20;
  const has = (tag: string) => (face.referenceTable(tag)?.length ?? 0) > 0;
  return {
    bytes,
    latin,
    format: has("CFF ") || has("CFF2") ? "otf" : "ttf",
    coloured: COLOURED.some(has),
    variable: has("fvar"),
    // Looked for only by programs that leave such fonts out: some fonts have tens of thousands of characters.
    get symbols() {
      const symbols = [...characters].filter((code) => /[\p{S}\p{Co}]/u.test(String.fromCodePoint(code)));
      return !latin && symbols.length * 2 >= characters.size;
    },
    unitsPerEm: face.upem,
    font,
    characters,
    name,
    ascent: ascender,
    descent: -descender,
    instance: instance ? name(instance.nameId) : "",
    variations: instance?.variations ?? [],
  };
}
