// Writes laid-out pages as PDF and SVG. In PDF fonts stand as fonts, so that the words can be read and copied; in SVG everything is outlines.
import { PDFDocument, PDFName, type PDFRef } from "pdf-lib";
import { escaped } from "../words/markup.ts";
import { embedFont, hex4, type EmbeddedFont } from "./pdf-font.ts";
import type { Item, ProofFace, ProofPage } from "./proof.ts";
import { movedPath } from "./setting.ts";

const PT_A_MM = 72 / 25.4;
const n = (value: number): string => String(Math.round(value * 1000) / 1000);
const rgb = (colour: string): string => [1, 3, 5].map((at) => n(parseInt(colour.slice(at, at + 2), 16) / 255)).join(" ");

/** Path data as PDF operators (ISO 32000-1, 8.5.2); quadratic curves are raised to cubic ones, exactly. */
function pathOperators(d: string): string {
  const out: string[] = [];
  let [x, y] = [0, 0];
  for (const [, command = "", numbers = ""] of d.matchAll(/([MLQCZ])([^MLQCZ]*)/g)) {
    const v = numbers.trim().split(/\s+/).map(Number);
    if (command === "Z") out.push("h");
    else if (command === "M" || command === "L") out.push(`${n(v[0]!)} ${n(v[1]!)} ${command === "M" ? "m" : "l"}`);
    else if (command === "Q") {
      const [cx, cy, ex, ey] = v as [number, number, number, number];
      const c = [x + (2 / 3) * (cx - x), y + (2 / 3) * (cy - y), ex + (2 / 3) * (cx - ex), ey + (2 / 3) * (cy - ey), ex, ey];
      out.push(`${c.map(n).join(" ")} c`);
    } else out.push(`${v.map(n).join(" ")} c`);
    if (command !== "Z") [x, y] = [v.at(-2)!, v.at(-1)!];
  }
  return out.join("\n");
}

function operators(item: Item, page: ProofPage, fontName: (face: ProofFace) => string): string {
  if (item.kind === "ground") return `q ${rgb(item.colour)} rg ${n(item.x)} ${n(item.y)} ${n(item.width)} ${n(item.height)} re f Q`;
  if (item.kind === "path") {
    const { unitMm, x, y, fill, strokeMm } = item;
    const stroke = strokeMm > 0 ? `${rgb(fill)} RG ${n(strokeMm / unitMm)} w 1 j ` : "";
    return `q ${unitMm} 0 0 ${unitMm} ${n(x)} ${n(y)} cm ${rgb(fill)} rg ${stroke}\n${pathOperators(item.d)}\n${strokeMm > 0 ? "B" : "f"} Q`;
  }
  const lines = [`BT ${rgb(item.colour)} rg ${fontName(item.face)} ${n(item.emMm)} Tf 0 Tr`];
  // The page is upside down in millimetres; letters are turned back.
  for (const { id, x, y } of item.glyphs) lines.push(`1 0 0 -1 ${n(x)} ${n(y)} Tm <${hex4(id)}> Tj`);
  return [...lines, "ET"].join("\n");
}

/** What a face needs to stand in a document as itself. */
export type Embeddable = (face: ProofFace) => EmbeddedFont;

/** `told` names the document and what is in it. Throws when a font cannot be cut down. */
export async function writeProofPdf(
  pages: readonly ProofPage[],
  embeddable: Embeddable,
  told: { title: string; subject: string },
): Promise<Uint8Array> {
  const document = await PDFDocument.create({ updateMetadata: false });
  document.setProducer("Buvano");
  document.setTitle(told.title);
  document.setSubject(told.subject);
  const used = new Map<ProofFace, Map<number, string>>();
  for (const { items } of pages)
    for (const item of items) {
      if (item.kind !== "glyphs") continue;
      const glyphs = used.get(item.face) ?? new Map<number, string>([[0, ""]]);
      for (const { id, text } of item.glyphs) glyphs.set(id, glyphs.get(id) || text);
      used.set(item.face, glyphs);
    }
  const faces = [...used.keys()];
  const refs: PDFRef[] = [];
  for (const [i, face] of faces.entries()) refs.push(await embedFont(document, embeddable(face), used.get(face)!, i));
  for (const page of pages) {
    const sheet = document.addPage([page.widthMm * PT_A_MM, page.heightMm * PT_A_MM]);
    const there = new Set(page.items.flatMap((item) => (item.kind === "glyphs" ? [item.face] : [])));
    for (const face of there) sheet.node.setFontDictionary(PDFName.of(`F${faces.indexOf(face)}`), refs[faces.indexOf(face)]!);
    const name = (face: ProofFace) => `/F${faces.indexOf(face)}`;
    const content = page.items.map((item) => operators(item, page, name));
    // One millimetre a unit, from the top left downwards.
    const matrix = `${n(PT_A_MM)} 0 0 ${n(-PT_A_MM)} 0 ${n(page.heightMm * PT_A_MM)} cm`;
    sheet.node.addContentStream(document.context.register(document.context.flateStream([matrix, ...content].join("\n"))));
  }
  return document.save();
}

function element(item: Item): string {
  if (item.kind === "ground")
    return `<rect x="${n(item.x)}" y="${n(item.y)}" width="${n(item.width)}" height="${n(item.height)}" fill="${item.colour}"/>`;
  if (item.kind === "path") {
    const stroke =
      item.strokeMm > 0 ? ` stroke="${item.fill}" stroke-width="${n(item.strokeMm / item.unitMm)}" stroke-linejoin="round"` : "";
    return `<path transform="translate(${n(item.x)} ${n(item.y)}) scale(${item.unitMm})" d="${item.d}" fill="${item.fill}"${stroke}/>`;
  }
  const { draw } = item.face;
  const unitMm = item.emMm / draw.upem;
  const d = item.glyphs.map(({ id, x, y }) => movedPath(draw.outline(id), x / unitMm, y / unitMm)).join("");
  return d === "" ? "" : `<path transform="scale(${unitMm})" d="${d}" fill="${item.colour}"/>`;
}

/** One page as SVG in millimetres. */
export function proofSvg(page: ProofPage, title: string, description = ""): string {
  const body = page.items.map(element).filter(Boolean).join("\n");
  const said = `<title>${escaped(title)}</title>${description === "" ? "" : `<desc>${escaped(description)}</desc>`}`;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${n(page.widthMm)}mm" height="${n(page.heightMm)}mm" viewBox="0 0 ${n(page.widthMm)} ${n(page.heightMm)}">${said}\n${body}\n</svg>\n`;
}
