// A cut as DXF in millimetres: a layer a colour, each contour one closed spline, or a polyline within a tolerance.
import { Colors, DxfWriter, LWPolylineFlags, point2d, point3d, SplineFlags, Units } from "@tarikjabiri/dxf";
import { boxOf, cubicOf, type Contour } from "../outlines/curve.ts";
import type { DxfCurves } from "./formats.ts";
import { polygonsOf } from "../outlines/join.ts";
import type { About, SvgSheet } from "./sheet-svg.ts";

const POLYLINE_MM = 0.005;

/** Characters a layer's name may have (DXF reference, "Symbol table entries"). */
const layerName = (name: string, i: number): string => `${i + 1} ${name.replace(/[<>/\\":;?*|=,`]/g, "")}`.slice(0, 250);
/** The nearest of the first seven colours of the format, which stand for themselves. */
const INDEX: readonly [Colors, number, number, number][] = [
  [Colors.Red, 255, 0, 0],
  [Colors.Yellow, 255, 255, 0],
  [Colors.Green, 0, 255, 0],
  [Colors.Cyan, 0, 255, 255],
  [Colors.Blue, 0, 0, 255],
  [Colors.Magenta, 255, 0, 255],
  [Colors.White, 0, 0, 0],
];
function colourIndex(colour: string): Colors {
  const [r, g, b] = [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16)) as [number, number, number];
  const far = ([, x, y, z]: (typeof INDEX)[number]) => (r - x) ** 2 + (g - y) ** 2 + (b - z) ** 2;
  return INDEX.reduce((best, one) => (far(one) < far(best) ? one : best))[0];
}

/** Comments are pairs of code 999 (DXF reference, "Group codes"): one line each, without what is no plain character. */
const comments = ({ title, description }: About): string =>
  `${title}\n${description}`
    .split("\n")
    .map((line) => `999\n${line.replace(/[^ -~\u00a0-\uffff]/gu, " ")}\n`)
    .join("");

/** `heightMm` of the sheet: y runs upwards in this format. */
export function sheetDxf(heightMm: number, sheets: readonly SvgSheet[], about: About, curves: DxfCurves): string {
  const dxf = new DxfWriter();
  dxf.setUnits(Units.Millimeters);
  const box = boxOf(sheets.flatMap(({ contours }) => contours));
  dxf.setVariable("$LASTSAVEDBY", { 1: "Buvano" });
  dxf.setVariable("$MEASUREMENT", { 70: 1 });
  dxf.setVariable("$EXTMIN", { 10: box.left, 20: heightMm - box.bottom, 30: 0 });
  dxf.setVariable("$EXTMAX", { 10: box.right, 20: heightMm - box.top, 30: 0 });
  sheets.forEach(({ name, colour, contours }, i) => {
    const layer = layerName(name, i);
    dxf.addLayer(layer, colourIndex(colour), "Continuous");
    for (const contour of contours) {
      if (curves === "polylines") {
        const [polygon] = polygonsOf([contour], POLYLINE_MM);
        const vertices = Array.from({ length: polygon!.length / 2 }, (_, k) => ({
          point: point2d(polygon![2 * k]!, heightMm - polygon![2 * k + 1]!),
        }));
        dxf.addLWPolyline(vertices, { flags: LWPolylineFlags.Closed, layerName: layer });
      } else dxf.addSpline(splineOf(contour, heightMm), { layerName: layer });
    }
  });
  return comments(about) + dxf.stringify();
}

/** One cubic B-spline: the pieces' Bézier points, with every knot between two of them three times, so that each stays as it is. */
function splineOf(contour: Contour, heightMm: number) {
  const controlPoints = [point3d(contour[0]![0]!, heightMm - contour[0]![1]!, 0)];
  for (const segment of contour) {
    const c = cubicOf(segment);
    for (let i = 2; i < 8; i += 2) controlPoints.push(point3d(c[i]!, heightMm - c[i + 1]!, 0));
  }
  const knots = [0, ...Array.from({ length: contour.length + 1 }, (_, i) => [i, i, i]).flat(), contour.length];
  return { controlPoints, degreeCurve: 3, knots, flags: SplineFlags.Closed | SplineFlags.Planar };
}
