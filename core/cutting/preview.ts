// A first look at a cut while the checked one is still computed: coarse polygons, joined by the first engine, nothing held against anything.
import { boxOf, isEmptyBox, united, NO_BOX, type Box } from "./outlines/curve.ts";
import { lineLetters } from "./cut.ts";
import { type LineToCut } from "./drawing.ts";
import { coveredTwice, Flat, united as unitedPaths } from "./outlines/engines.ts";
import type { CutSettings } from "./settings.ts";

const COARSE_MM = 0.03;

export interface CutPreview {
  emMm: number;
  box: Box;
  /** The lowest layer first: path data in millimetres from the start of the first baseline. */
  layers: { colour: string; path: string; overlaps: number }[];
}

/** Throws a `ProblemError` as the cut itself does. Colours of a font's own and what is made of its letters wait for the checked cut. */
export function preview(line: LineToCut, settings: CutSettings): CutPreview {
  const { emMm, layers } = lineLetters(line, settings);
  let box = NO_BOX;
  const drawn = layers.map(({ layer, letters }) => {
    const outlines = letters.map(({ contours }) => contours).filter((contours) => contours.length > 0);
    const own = boxOf(outlines.flat());
    if (!isEmptyBox(own)) box = united(box, own);
    const flat = new Flat(outlines, isEmptyBox(own) ? 0 : Math.max(own.right - own.left, own.bottom - own.top), COARSE_MM);
    const paths = settings.join === "nothing" ? flat.letters.flatMap((_, i) => flat.paths(i)) : unitedPaths(flat, false);
    const n = (value: number): string => String(Math.round(value * flat.gridMm * 100) / 100);
    const path = paths.map((points) => `${points.map(({ x, y }, i) => `${i === 0 ? "M" : "L"}${n(x)} ${n(y)}`).join("")}Z`).join("");
    return { colour: layer.colour, path, overlaps: coveredTwice(flat).length };
  });
  return { emMm, box, layers: drawn };
}
