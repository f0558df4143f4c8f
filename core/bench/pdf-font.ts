// Puts a font into a PDF (ISO 32000-1, 9.7 "Composite fonts"): glyph numbers as codes, and a table back to characters so that text can be
// searched and copied.
import { PDFHexString, PDFName, PDFString, type PDFDocument, type PDFRef } from "pdf-lib";
import { subsetFont } from "./subset.ts";

/** A font as it is to stand in a document; measures in font units. */
export interface EmbeddedFont {
  bytes: Uint8Array;
  /** Its face in a collection. */
  index: number;
  /** PostScript name. */
  name: string;
  variations: readonly { tag: string; value: number }[];
  unitsPerEm: number;
  ascent: number;
  descent: number;
  advance(glyph: number): number;
}

/** The registry the predefined encoding Identity-H belongs to (9.7.5.2), in hexadecimal as PDF allows. */
const REGISTRY = PDFHexString.of("41646F6265");

export const hex4 = (value: number): string => value.toString(16).padStart(4, "0").toUpperCase();

/** Six capitals in front of a subset's name (9.6.4), from its number in the document. */
const subsetTag = (number: number): string => "BUVAN" + String.fromCharCode(65 + (number % 26));

function toUnicode(used: Map<number, string>): string {
  const rows = [...used]
    .filter(([, text]) => text !== "")
    .map(([glyph, text]) => `<${hex4(glyph)}> <${[...Array(text.length).keys()].map((i) => hex4(text.charCodeAt(i))).join("")}>`);
  const blocks: string[] = [];
  for (let i = 0; i < rows.length; i += 100)
    blocks.push(`${Math.min(100, rows.length - i)} beginbfchar\n${rows.slice(i, i + 100).join("\n")}\nendbfchar`);
  return `/CIDInit /ProcSet findresource begin\n12 dict begin\nbegincmap\n/CIDSystemInfo << /Registry (Buvano) /Ordering (UCS) /Supplement 0 >> def\n/CMapName /Buvano-Identity-UCS def\n/CMapType 2 def\n1 begincodespacerange\n<0000> <FFFF>\nendcodespacerange\n${blocks.join("\n")}\nendcmap\nCMapName currentdict /CMap defineresource pop\nend\nend`;
}

/** `used`: the glyphs that stand in the document, each with the characters it stands for. Throws when the font cannot be cut down. */
export async function embedFont(document: PDFDocument, font: EmbeddedFont, used: Map<number, string>, number: number): Promise<PDFRef> {
  const { context } = document;
  const baseName = `${subsetTag(number)}+${font.name}`;
  const program = await subsetFont(font.bytes, used.keys(), font.variations, font.index);
  const cff = new TextDecoder("latin1").decode(program.subarray(0, 4)) === "OTTO";
  const file = context.register(context.flateStream(program, cff ? { Subtype: "OpenType" } : { Length1: program.length }));
  const thousandth = (units: number) => Math.round((units * 1000) / font.unitsPerEm);
  const descriptor = context.register(
    context.obj({
      Type: "FontDescriptor",
      FontName: PDFName.of(baseName),
      Flags: 4,
      FontBBox: [0, -thousandth(font.descent), 1000, thousandth(font.ascent)],
      ItalicAngle: 0,
      Ascent: thousandth(font.ascent),
      Descent: -thousandth(font.descent),
      CapHeight: thousandth(font.ascent),
      StemV: 80,
      [cff ? "FontFile3" : "FontFile2"]: file,
    }),
  );
  const widths = [...used.keys()].sort((a, b) => a - b).flatMap((glyph) => [glyph, [thousandth(font.advance(glyph))]]);
  const descendant = context.register(
    context.obj({
      Type: "Font",
      Subtype: cff ? "CIDFontType0" : "CIDFontType2",
      BaseFont: PDFName.of(baseName),
      CIDSystemInfo: { Registry: REGISTRY, Ordering: PDFString.of("Identity"), Supplement: 0 },
      FontDescriptor: descriptor,
      DW: 1000,
      W: widths,
      ...(cff ? {} : { CIDToGIDMap: "Identity" }),
    }),
  );
  return context.register(
    context.obj({
      Type: "Font",
      Subtype: "Type0",
      BaseFont: PDFName.of(baseName),
      Encoding: "Identity-H",
      DescendantFonts: [descendant],
      ToUnicode: context.register(context.flateStream(toUnicode(used))),
    }),
  );
}
