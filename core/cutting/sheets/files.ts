// The files of a cut, in true size: everything in one, or one for every sheet.
import { svgToPng } from "../../bench/picture.ts";
import { fileStem } from "../../words/file-names.ts";
import type { CutDrawing } from "../drawing.ts";
import { movedBy } from "../outlines/curve.ts";
import { layOut } from "./lay-out.ts";
import type { CutSettings } from "../settings.ts";
import type { CutFormat, DxfCurves } from "./formats.ts";
import { sheetDxf } from "./sheet-dxf.ts";
import { sheetPdf } from "./sheet-pdf.ts";
import { sheetSvg, type About, type SvgSheet } from "./sheet-svg.ts";

export interface FilesWanted {
  format: CutFormat;
  curves: DxfCurves;
  /** A file for every colour and sheet of material, instead of one for all. */
  apart: boolean;
}
export interface CutFile {
  name: string;
  bytes: Uint8Array;
}

/** Of previews, dots an inch. */
const DPI = 200;

/** Throws a `ProblemError` when one copy does not fit its sheet. `stem` names the files. */
export async function cutFiles(
  drawing: CutDrawing,
  settings: CutSettings,
  about: About,
  wanted: FilesWanted,
  stem: string,
): Promise<CutFile[]> {
  const { arranged, sheets } = layOut(drawing, settings);
  const { widthMm, heightMm } = arranged;
  const nameOf = (i: number, on: number) =>
    `${sheets[i]!.kind === "backing" ? "Backing" : "Letters"} ${sheets[i]!.colour}${arranged.sheets > 1 ? `, sheet ${on + 1}` : ""}`;
  const one = (i: number, on: number): SvgSheet => ({ name: nameOf(i, on), colour: sheets[i]!.colour, contours: sheets[i]!.on[on]! });
  const write = async (pages: readonly (readonly SvgSheet[])[]): Promise<Uint8Array> => {
    if (wanted.format === "pdf") return sheetPdf(widthMm, heightMm, pages, about);
    // Sheets of material below one another.
    const below = pages.flatMap((page, on) =>
      page.map((sheet) => ({ ...sheet, contours: sheet.contours.map((contour) => movedBy(contour, 0, on * (heightMm + settings.gapMm))) })),
    );
    const high = pages.length * heightMm + (pages.length - 1) * settings.gapMm;
    if (wanted.format === "dxf") return new TextEncoder().encode(sheetDxf(high, below, about, wanted.curves));
    const svg = sheetSvg(widthMm, high, below, about);
    return wanted.format === "png" ? svgToPng(svg, DPI) : new TextEncoder().encode(svg);
  };
  if (!wanted.apart) {
    const pages = Array.from({ length: arranged.sheets }, (_, on) => sheets.map((_sheet, i) => one(i, on)));
    return [{ name: `${stem}.${wanted.format}`, bytes: await write(pages) }];
  }
  const files: CutFile[] = [];
  for (let on = 0; on < arranged.sheets; on++)
    for (const i of sheets.keys())
      files.push({ name: `${stem} ${fileStem(nameOf(i, on), `${i + 1}`)}.${wanted.format}`, bytes: await write([[one(i, on)]]) });
  return files;
}
