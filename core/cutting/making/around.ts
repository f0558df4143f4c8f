// What is drawn around letters: contours and shadows made of them, backings behind them, register marks beside them.
import type { Made } from "../../bench/line.ts";
import { boxOf, isEmptyBox, polygonOf, type Box, type Contour } from "../outlines/curve.ts";
import { joined } from "../outlines/join.ts";
import { offset, swept } from "./offset.ts";
import { piecesOf } from "../findings/pieces.ts";
import type { SecondEngine } from "../outlines/second-engine.ts";
import type { CutSettings } from "../settings.ts";

const MARK_MM = 4;
const MARK_GAP_MM = 6;

/** How far what is made of letters reaches beyond them, millimetres on each side. */
export function addedBy(made: Made, growMm: number): Box {
  const grow = Math.max(0, growMm);
  if (made.kind === "contour") return { left: made.mm + grow, top: made.mm + grow, right: made.mm + grow, bottom: made.mm + grow };
  if (made.kind === "none") return { left: grow, top: grow, right: grow, bottom: grow };
  const [x, y] = [made.mm * Math.cos((made.degrees * Math.PI) / 180), -made.mm * Math.sin((made.degrees * Math.PI) / 180)];
  return { left: grow + Math.max(0, -x), top: grow + Math.max(0, -y), right: grow + Math.max(0, x), bottom: grow + Math.max(0, y) };
}

/** Contours that grew may meet their neighbours: they are joined anew; undefined where that does not pass its check. */
export async function makeOf(contours: Contour[], made: Made, emMm: number, second: SecondEngine): Promise<Contour[] | undefined> {
  if (made.kind === "none") return contours;
  const angle = made.kind === "shadow" ? (made.degrees * Math.PI) / 180 : 0;
  const grown =
    made.kind === "contour" ? offset(contours, made.mm) : swept(contours, made.mm * Math.cos(angle), -made.mm * Math.sin(angle));
  const one = await joined([grown], emMm, second);
  return one.contours;
}

/** A shape behind everything, by so much larger; empty without one. */
export function backingOf({ shape, mm }: CutSettings["backing"], contours: readonly Contour[]): Contour[] {
  const box = boxOf(contours);
  if (shape === "none" || isEmptyBox(box)) return [];
  if (shape === "contour") return offset(contours, mm).filter((contour) => piecesOf([contour]).length > 0);
  const [x0, y0, x1, y1] = [box.left - mm, box.top - mm, box.right + mm, box.bottom + mm];
  if (shape === "rectangle")
    return [
      polygonOf([
        [x0, y0],
        [x1, y0],
        [x1, y1],
        [x0, y1],
      ]),
    ];
  // Handles of a quarter circle as a cubic curve: 4/3 (√2 − 1).
  const k = (4 / 3) * (Math.SQRT2 - 1);
  const [rx, ry] =
    shape === "ellipse"
      ? // Around the corners of what lies in it.
        [((box.right - box.left) / 2) * Math.SQRT2 + mm, ((box.bottom - box.top) / 2) * Math.SQRT2 + mm]
      : [Math.min(mm * 1.5, (x1 - x0) / 2), Math.min(mm * 1.5, (y1 - y0) / 2)];
  const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
  const [l, t, r, b] = shape === "ellipse" ? [cx - rx, cy - ry, cx + rx, cy + ry] : [x0, y0, x1, y1];
  const line = (ax: number, ay: number, bx: number, by: number): number[][] =>
    Math.hypot(bx - ax, by - ay) < 1e-6 ? [] : [[ax, ay, bx, by]];
  return [
    [
      ...line(l + rx, t, r - rx, t),
      [r - rx, t, r - rx + k * rx, t, r, t + ry - k * ry, r, t + ry],
      ...line(r, t + ry, r, b - ry),
      [r, b - ry, r, b - ry + k * ry, r - rx + k * rx, b, r - rx, b],
      ...line(r - rx, b, l + rx, b),
      [l + rx, b, l + rx - k * rx, b, l, b - ry + k * ry, l, b - ry],
      ...line(l, b - ry, l, t + ry),
      [l, t + ry, l, t + ry - k * ry, l + rx - k * rx, t, l + rx, t],
    ],
  ];
}

/** Three kites around the drawing; the corner without one tells which way up a sheet belongs. */
export function marksAround(box: Box): Contour[] {
  const kite = (x: number, y: number): Contour =>
    polygonOf([
      [x, y - MARK_MM / 2],
      [x + MARK_MM / 3, y],
      [x, y + MARK_MM / 2],
      [x - MARK_MM / 3, y],
    ]);
  const [l, t, r, b] = [box.left - MARK_GAP_MM, box.top - MARK_GAP_MM, box.right + MARK_GAP_MM, box.bottom + MARK_GAP_MM];
  return [kite(l, t), kite(r, t), kite(l, b)];
}
