// PDFs written object by object after ISO 32000-1, for cases no producer makes on purpose. Fonts are real files of Debian's packages.
import { readFileSync } from "node:fs";
import * as hb from "harfbuzzjs";

export type Body = string | { dict: string; stream: Uint8Array | string };
const latin1 = (text: string): Uint8Array => Uint8Array.from(Buffer.from(text, "latin1"));

export interface FontOptions {
  /** BaseFont and FontName. */
  name: string;
  /** What is embedded: the file itself unless told otherwise; null for nothing. */
  program?: Uint8Array | null;
  /** The Type 0 font's name where it is to differ from its descendant's. */
  outer?: string;
  withoutUnicode?: boolean;
}

export class CraftedPdf {
  private readonly objects: Body[] = [];
  private readonly pages: number[] = [];
  private readonly pagesId: number;
  catalog = "";
  info = "";
  constructor() {
    this.add("<</Type/Catalog>>");
    this.pagesId = this.add("");
  }
  /** Adds an object; its number. */
  add(body: Body): number {
    return this.objects.push(body);
  }
  /** A font file as a composite font with glyph numbers for codes (9.7); `show` gives a string of it. */
  font(path: string, { name, program, outer, withoutUnicode }: FontOptions): { id: number; show: (text: string) => string } {
    const file = new Uint8Array(readFileSync(path));
    const own = new hb.Font(new hb.Face(new hb.Blob(file), 0));
    const { upem } = own.face;
    const glyphs = (text: string) => [...text].map((one) => own.nominalGlyph(one.codePointAt(0)!) ?? 0);
    const hex = (value: number) => value.toString(16).padStart(4, "0");
    const all = [..."ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789 .,-"];
    const bytes = program === undefined ? file : program;
    const cff = new TextDecoder("latin1").decode(file.subarray(0, 4)) === "OTTO";
    const held = bytes ? this.add({ dict: cff ? "/Subtype/OpenType" : `/Length1 ${bytes.length}`, stream: bytes }) : undefined;
    const descriptor = this.add(
      `<</Type/FontDescriptor/FontName/${name}/Flags 32/FontBBox[-500 -300 1500 1000]/ItalicAngle 0/Ascent 900/Descent -250/CapHeight 700/StemV 80${held ? `/FontFile${cff ? 3 : 2} ${held} 0 R` : ""}>>`,
    );
    const widths = all.map((one) => `${glyphs(one)[0]} [${Math.round((own.glyphHAdvance(glyphs(one)[0]!) * 1000) / upem)}]`).join(" ");
    const kind = cff ? "/CIDFontType0" : "/CIDFontType2/CIDToGIDMap/Identity";
    const descendant = this.add(
      `<</Type/Font/Subtype${kind}/BaseFont/${name}/CIDSystemInfo<</Registry(Own)/Ordering(Identity)/Supplement 0>>/FontDescriptor ${descriptor} 0 R/DW 600/W[${widths}]>>`,
    );
    const lines = all.map((one) => `<${hex(glyphs(one)[0]!)}> <${hex(one.codePointAt(0)!)}>`);
    const cmap = `/CIDInit /ProcSet findresource begin 12 dict begin begincmap /CMapName /A def /CMapType 2 def 1 begincodespacerange <0000> <ffff> endcodespacerange ${lines.length} beginbfchar ${lines.join("\n")} endbfchar endcmap CMapName currentdict /CMap defineresource pop end end`;
    const unicode = withoutUnicode ? "" : `/ToUnicode ${this.add({ dict: "", stream: cmap })} 0 R`;
    const id = this.add(
      `<</Type/Font/Subtype/Type0/BaseFont/${outer ?? name}/Encoding/Identity-H/DescendantFonts[${descendant} 0 R]${unicode}>>`,
    );
    return { id, show: (text) => `<${glyphs(text).map(hex).join("")}>` };
  }
  /** One of the fonts every reader is to have, not embedded (9.6.2.2). */
  base(name = "Times-Roman"): { id: number; show: (text: string) => string } {
    const id = this.add(`<</Type/Font/Subtype/Type1/BaseFont/${name}/Encoding/WinAnsiEncoding>>`);
    return { id, show: (text) => `(${text})` };
  }
  page(content: string, resources: string, more = ""): number {
    const contents = this.add({ dict: "", stream: content });
    const box = more.includes("/MediaBox") ? "" : "/MediaBox[0 0 400 300]";
    const id = this.add(`<</Type/Page/Parent ${this.pagesId} 0 R${box}/Contents ${contents} 0 R/Resources<<${resources}>>${more}>>`);
    this.pages.push(id);
    return id;
  }
  form(content: string, resources: string, more = ""): number {
    return this.add({ dict: `/Type/XObject/Subtype/Form/BBox[0 0 400 300]/Resources<<${resources}>>${more}`, stream: content });
  }
  /** The file. Afterwards `update` may add to it. */
  bytes(): Uint8Array {
    this.objects[0] = `<</Type/Catalog/Pages ${this.pagesId} 0 R${this.catalog}>>`;
    this.objects[this.pagesId - 1] = `<</Type/Pages/Count ${this.pages.length}/Kids[${this.pages.map((id) => `${id} 0 R`).join(" ")}]>>`;
    return written(
      [],
      0,
      this.objects.map((body, i) => [i + 1, body]),
      this.info,
      undefined,
    );
  }
  /** The file with an object replaced by an incremental update (7.5.6): what was there before stays in it. */
  updated(id: number, body: Body): Uint8Array {
    const before = this.bytes();
    return written([before], this.objects.length, [[id, body]], this.info, before);
  }
}

function written(
  parts: Uint8Array[],
  count: number,
  objects: readonly (readonly [number, Body])[],
  info: string,
  before: Uint8Array | undefined,
): Uint8Array {
  let length = parts.reduce((sum, part) => sum + part.length, 0);
  const put = (part: Uint8Array | string) => {
    const bytes = typeof part === "string" ? latin1(part) : part;
    parts.push(bytes);
    length += bytes.length;
  };
  if (!before) put("%PDF-1.7\n%\xe2\xe3\xcf\xd3\n");
  const offsets = new Map<number, number>();
  for (const [id, body] of objects) {
    offsets.set(id, length);
    put(`${id} 0 obj\n`);
    if (typeof body === "string") put(body);
    else {
      const stream = typeof body.stream === "string" ? latin1(body.stream) : body.stream;
      put(`<<${body.dict}/Length ${stream.length}>>\nstream\n`);
      put(stream);
      put("\nendstream");
    }
    put("\nendobj\n");
  }
  const start = length;
  const line = (offset: number) => `${String(offset).padStart(10, "0")} 00000 n \n`;
  const sections = before
    ? objects.map(([id]) => `${id} 1\n${line(offsets.get(id)!)}`).join("")
    : `0 ${objects.length + 1}\n0000000000 65535 f \n${objects.map(([id]) => line(offsets.get(id)!)).join("")}`;
  const previous = before ? `/Prev ${/startxref\s+(\d+)\s+%%EOF\s*$/.exec(Buffer.from(before).toString("latin1"))![1]}` : "";
  put(
    `xref\n${sections}trailer\n<</Size ${Math.max(count, objects.length) + 1}/Root 1 0 R${info ? `/Info<<${info}>>` : ""}${previous}>>\nstartxref\n${start}\n%%EOF\n`,
  );
  return Buffer.concat(parts);
}
