// Writes set text as a PDF with its fonts embedded, positions as shaped.
import { PDFDocument, PDFName, type PDFRef } from "pdf-lib";
import { embedFont, hex4 } from "../../core/bench/pdf-font.ts";
import { othersFirst } from "../../core/turns.ts";
import { FAKE } from "./drawing.ts";
import type { ProgramFont } from "./font.ts";
import type { Layout, Run } from "./layout.ts";

const A4 = { widthPt: 595.28, heightPt: 841.89, marginPt: 48 };

/** The name a font is exported under; a variable font's own style adds its name to the family's. */
function exportName(font: ProgramFont): string {
  const plain = (name: string) => name.replace(/[^!-~]|[[\](){}<>/%]/g, "");
  if (font.instance) return `${plain(font.name(25) || font.name(16) || font.name(1))}-${plain(font.instance)}`;
  return font.name(6) || plain(font.name(4));
}

const embed = (document: PDFDocument, font: ProgramFont, used: Map<number, string>, number: number): Promise<PDFRef> =>
  embedFont(
    document,
    {
      bytes: font.bytes,
      index: 0,
      name: exportName(font),
      variations: font.variations,
      unitsPerEm: font.unitsPerEm,
      ascent: font.ascent,
      descent: font.descent,
      advance: (glyph: number) => font.font.glyphHAdvance(glyph),
    },
    used,
    number,
  );

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
