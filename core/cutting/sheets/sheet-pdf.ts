// A cut as PDF in true size: a page a sheet of material, curves as they are, every colour a group of its own.
import { PDFDocument } from "pdf-lib";
import { MM_PER_INCH } from "../../bench/line.ts";
import { cubicOf, type Contour } from "../outlines/curve.ts";
import type { About, SvgSheet } from "./sheet-svg.ts";

const PT_A_MM = 72 / MM_PER_INCH;
const n = (value: number): string => String(Math.round(value * 1e5) / 1e5);
const rgb = (colour: string): string => [1, 3, 5].map((at) => n(parseInt(colour.slice(at, at + 2), 16) / 255)).join(" ");

/** Path operators (ISO 32000-1, 8.5.2). */
function operators(contours: readonly Contour[]): string {
  const out: string[] = [];
  for (const contour of contours) {
    out.push(`${n(contour[0]![0]!)} ${n(contour[0]![1]!)} m`);
    for (const s of contour) out.push(s.length === 4 ? `${n(s[2]!)} ${n(s[3]!)} l` : `${cubicOf(s).slice(2).map(n).join(" ")} c`);
    out.push("h");
  }
  return out.join("\n");
}

/** `pages`: the sheets on each. */
export async function sheetPdf(
  widthMm: number,
  heightMm: number,
  pages: readonly (readonly SvgSheet[])[],
  about: About,
): Promise<Uint8Array> {
  const document = await PDFDocument.create({ updateMetadata: false });
  document.setProducer("Buvano");
  document.setTitle(about.title);
  document.setSubject(about.description);
  for (const sheets of pages) {
    const page = document.addPage([widthMm * PT_A_MM, heightMm * PT_A_MM]);
    // One millimetre a unit, from the top left downwards.
    const content = [`${PT_A_MM} 0 0 ${-PT_A_MM} 0 ${n(heightMm * PT_A_MM)} cm`];
    for (const { colour, contours } of sheets) if (contours.length > 0) content.push(`q ${rgb(colour)} rg`, operators(contours), "f Q");
    page.node.addContentStream(document.context.register(document.context.flateStream(content.join("\n"))));
  }
  return document.save();
}
