// Writes set text as a PDF with its fonts embedded (ISO 32000-1, 9.7 "Composite fonts"): glyph numbers as codes,
// positions as shaped, and a table back to characters so that text can be searched.
import { PDFDocument, PDFHexString, PDFName, PDFString, type PDFRef } from "pdf-lib";
import { othersFirst } from "../../core/turns.ts";
import { FAKE } from "./drawing.ts";
import type { ProgramFont } from "./font.ts";
import type { Layout, Run } from "./layout.ts";
import { subsetFont } from "./subset.ts";

const A4 = { widthPt: 595.28, heightPt: 841.89, marginPt: 48 };

/** The registry the predefined encoding Identity-H belongs to (9.7.5.2), in hexadecimal as PDF allows. */
const REGISTRY = PDFHexString.of("41646F6265");

const hex4 = (value: number): string => value.toString(16).padStart(4, "0").toUpperCase();

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

/** The name a font is exported under; a variable font's own style adds its name to the family's. */
function exportName(font: ProgramFont): string {
  const plain = (name: string) => name.replace(/[^!-~]|[[\](){}<>/%]/g, "");
  if (font.instance) return `${plain(font.name(25) || font.name(16) || font.name(1))}-${plain(font.instance)}`;
  return font.name(6) || plain(font.name(4));
}

async function embed(document: PDFDocument, font: ProgramFont, used: Map<number, string>, number: number): Promise<PDFRef> {
  const { context } = document;
  const cff = new TextDecoder("latin1").decode(font.bytes.subarray(0, 4)) === "OTTO";
  const baseName = `${subsetTag(number)}+${exportName(font)}`;
  const program = await subsetFont(font.bytes, used.keys(), font.variations);
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
  const widths = [...used.keys()].sort((a, b) => a - b).flatMap((glyph) => [glyph, [thousandth(font.font.glyphHAdvance(glyph))]]);
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

const n = (value: number): string => String(Math.round(value * 1000) / 1000);

function runOperators(run: Run, fontName: string, sizePt: number, faked: readonly string[], pageTop: number): string {
  const lean = faked.includes("italic") && run.how === "asked" ? FAKE.slant : 0;
  const bold = faked.includes("bold") && run.how === "asked";
  const lines = [`BT ${fontName} ${n(sizePt)} Tf ${bold ? `2 Tr ${n(sizePt * FAKE.boldEm)} w` : "0 Tr"}`];
  for (const glyph of run.glyphs) {
    const x = A4.marginPt + run.x + glyph.x;
    const y = pageTop - run.baseline + glyph.y;
    lines.push(`1 0 ${n(lean)} 1 ${n(x)} ${n(y)} Tm <${hex4(glyph.id)}> Tj`);
  }
  return [...lines, "ET"].join("\n");
}

/** Text that was set, and how. */
export interface SetText {
  layout: Layout;
  sizePt: number;
  faked: readonly string[];
}

/** One document of pieces one below the other, as many A4 pages as they need. Resolves to the file's bytes. */
export async function writePdf(pieces: readonly SetText[], program: string): Promise<Uint8Array> {
  const document = await PDFDocument.create({ updateMetadata: false });
  document.setProducer(program);
  let heightPt = 0;
  const placed = pieces.flatMap(({ layout, sizePt, faked }) => {
    const top = heightPt;
    heightPt += layout.heightPt;
    return layout.runs.map((run) => ({ run: { ...run, baseline: top + run.baseline }, sizePt, faked }));
  });
  const fonts = [...new Set(placed.map(({ run }) => run.font))];
  const refs = new Map<ProgramFont, PDFRef>();
  for (const [number, font] of fonts.entries()) {
    await othersFirst();
    const used = new Map<number, string>([[0, ""]]);
    for (const { run } of placed)
      if (run.font === font) for (const glyph of run.glyphs) used.set(glyph.id, used.get(glyph.id) || glyph.text);
    refs.set(font, await embed(document, font, used, number));
  }
  const usable = A4.heightPt - 2 * A4.marginPt;
  const pages = Math.max(1, Math.ceil(heightPt / usable));
  for (let number = 0; number < pages; number++) {
    const page = document.addPage([A4.widthPt, A4.heightPt]);
    const onPage = placed.filter(({ run }) => Math.floor(run.baseline / usable) === number);
    const pageTop = A4.heightPt - A4.marginPt + number * usable;
    const used = [...new Set(onPage.map(({ run }) => run.font))];
    for (const font of used) page.node.setFontDictionary(PDFName.of(`F${fonts.indexOf(font)}`), refs.get(font)!);
    const content = onPage.map(({ run, sizePt, faked }) => runOperators(run, `/F${fonts.indexOf(run.font)}`, sizePt, faked, pageTop));
    page.node.addContentStream(document.context.register(document.context.flateStream(content.join("\n"))));
  }
  return document.save();
}
