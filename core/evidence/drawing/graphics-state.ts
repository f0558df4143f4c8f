// Operators of the graphics state and of colour (ISO 32000-1, 8.4.4, 8.6.8).
import { times, UNMOVED } from "./geometry.ts";
import { OPS, type Operators } from "./operators.ts";
import type { Operator, Plane } from "./plane.ts";
import { matrixIn, numberIn, type Paint, type Rgb } from "./state.ts";

export function setFont({ state }: Plane, font: string, size: number): void {
  Object.assign(state.text, { font, size: Math.abs(size), direction: size < 0 ? -1 : 1 });
}
/** Entries of an ExtGState dictionary (8.4.5). */
function setEntries(plane: Plane, entries: readonly (readonly [string, unknown])[]): void {
  const { state } = plane;
  for (const [key, value] of entries) {
    if (key === "ca") state.fillAlpha = Number(value);
    else if (key === "CA") state.strokeAlpha = Number(value);
    else if (key === "LW") state.lineWidth = Math.abs(Number(value));
    else if (key === "BM") state.blends = value !== "source-over" && value !== "Normal";
    else if (key === "SMask") state.masked = value !== false && value !== null;
    else if (key === "Font" && Array.isArray(value)) setFont(plane, String(value[0]), Number(value[1]));
  }
}
const colourIn = (args: readonly unknown[]): { colour: Rgb } => ({ colour: [numberIn(args, 0), numberIn(args, 1), numberIn(args, 2)] });
function patternIn(args: readonly unknown[]): Paint {
  if (args[0] !== "TilingPattern") return "unknown";
  return { tiles: args[2] as Operators, matrix: matrixIn(args[3]) ?? UNMOVED };
}

export const STATE_OPERATORS: readonly (readonly [number, Operator])[] = [
  [OPS.save, (plane) => plane.save()],
  [OPS.restore, (plane) => plane.restore()],
  [
    OPS.transform,
    ({ state }, args) => {
      const matrix = matrixIn(args);
      if (matrix) state.ctm = times(state.ctm, matrix);
    },
  ],
  [OPS.setLineWidth, ({ state }, args) => void (state.lineWidth = Math.abs(numberIn(args, 0)))],
  [OPS.setGState, (plane, args) => setEntries(plane, (args[0] ?? []) as readonly (readonly [string, unknown])[])],
  [OPS.setFillRGBColor, ({ state }, args) => void (state.fill = colourIn(args))],
  [OPS.setStrokeRGBColor, ({ state }, args) => void (state.stroke = colourIn(args))],
  [OPS.setFillColorN, ({ state }, args) => void (state.fill = patternIn(args))],
  [OPS.setStrokeColorN, ({ state }) => void (state.stroke = "unknown")],
  [OPS.setFillTransparent, ({ state }) => void (state.fill = "none")],
  [OPS.setStrokeTransparent, ({ state }) => void (state.stroke = "none")],
];
