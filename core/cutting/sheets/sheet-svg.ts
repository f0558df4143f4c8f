// A cut as SVG in millimetres, one group a sheet; what it was made from travels in its metadata, so that it can be opened again as a live line.
import { walkDrawing } from "../outlines/drawn-markup.ts";
import { escaped } from "../../words/markup.ts";
import { ProblemError } from "../../problem.ts";
import type { Contour } from "../outlines/curve.ts";

/** Names the metadata. */
const OWN = "buvano-cut";
const MOST_METADATA = 4 * 1024 * 1024;

/** What a file says of itself. */
export interface About {
  title: string;
  description: string;
  /** What the cut was computed from: kept as JSON, and given back by `readOwnSvg`. */
  source: unknown;
}
export interface SvgSheet {
  name: string;
  colour: string;
  contours: readonly Contour[];
}

/** Micrometres are finer than any blade. */
const n = (value: number): string => String(Math.round(value * 1e4) / 1e4);

/** Path data in millimetres: curves stay curves. */
export function pathData(contours: readonly Contour[], digits = n): string {
  let d = "";
  for (const contour of contours) {
    contour.forEach((s, i) => {
      if (i === 0) d += `M${digits(s[0]!)} ${digits(s[1]!)}`;
      // The last straight way back is what Z draws.
      if (s.length === 4 && i === contour.length - 1) return;
      d += (s.length === 4 ? "L" : s.length === 6 ? "Q" : "C") + s.slice(2).map(digits).join(" ");
    });
    d += "Z";
  }
  return d;
}

export function sheetSvg(widthMm: number, heightMm: number, sheets: readonly SvgSheet[], about: About): string {
  const groups = sheets.map(
    ({ name, colour, contours }, i) =>
      `<g id="sheet-${i + 1}" fill="${colour}"><title>${escaped(name)}</title><path d="${pathData(contours)}"/></g>`,
  );
  const said = `<title>${escaped(about.title)}</title><desc>${escaped(about.description)}</desc>`;
  const metadata = `<metadata id="${OWN}">${escaped(JSON.stringify(about.source))}</metadata>`;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${n(widthMm)}mm" height="${n(heightMm)}mm" viewBox="0 0 ${n(widthMm)} ${n(heightMm)}">${said}${metadata}\n${groups.join("\n")}\n</svg>\n`;
}

/** What an SVG of a cut was made from. Throws a `ProblemError` when the file is none, or says nothing of it. */
export function readOwnSvg(text: string): unknown {
  let [depth, found, tooLong] = [0, "", false];
  walkDrawing(text, {
    opened: (name, attributes) => {
      if (depth > 0) depth++;
      else if (name === "metadata" && attributes["id"] === OWN) depth = 1;
    },
    text: (piece) => {
      if (depth !== 1) return;
      if (found.length + piece.length > MOST_METADATA) tooLong = true;
      else found += piece;
    },
    closed: () => {
      if (depth > 0) depth--;
    },
  });
  if (found !== "" && !tooLong)
    try {
      return JSON.parse(found) as unknown;
    } catch {
      // Told below.
    }
  throw new ProblemError(
    "not-own-svg",
    "This file does not say which words and font it was made from.",
    "Choose an SVG that was exported from a cut here, and that no other program has saved since.",
  );
}
