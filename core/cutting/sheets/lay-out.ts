// A cut on its sheets of material: every copy in its place, all colours alike.
import { arrange, type Arranged } from "./arrange.ts";
import { movedBy, transformed, type Contour } from "../outlines/curve.ts";
import type { CutDrawing } from "../drawing.ts";
import type { CutSheet } from "../drawing.ts";
import type { CutSettings } from "../settings.ts";

/** Every copy of a sheet where it lies on its material, from the top left corner of that. */
export interface LaidOut {
  arranged: Arranged;
  /** By colour, then by sheet of material: contours with register marks, if there are any. */
  sheets: { colour: string; kind: CutSheet["kind"]; on: Contour[][] }[];
}

/** Throws a `ProblemError` where one copy does not fit. All colours lie alike, so that they line up. */
export function layOut({ box, sheets, marks }: CutDrawing, settings: CutSettings): LaidOut {
  const [width, height] = [box.right - box.left, box.bottom - box.top];
  const arranged = arrange(width, height, settings);
  const place = (contours: readonly Contour[], on: number): Contour[] =>
    arranged.placed
      .filter((one) => one.on === on)
      .flatMap(({ x, y, turned }) =>
        contours.map((contour) =>
          turned ? transformed(contour, [0, 1, -1, 0, x + height + box.top, y - box.left]) : movedBy(contour, x - box.left, y - box.top),
        ),
      );
  return {
    arranged,
    sheets: sheets.map(({ colour, kind, contours }) => ({
      colour,
      kind,
      on: Array.from({ length: arranged.sheets }, (_, i) => place([...contours, ...marks], i)),
    })),
  };
}
