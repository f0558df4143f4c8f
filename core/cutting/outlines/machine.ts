// What a cutting machine would follow in a drawing, as it stands: every outline, whether it crosses another or not.
import { ProblemError } from "../../problem.ts";
import { boxOf, contourLength, isEmptyBox, movedBy, transformed, type Contour, type Matrix, type Segment } from "./curve.ts";
import { crossingsOf } from "./judge.ts";
import { walkDrawing } from "./drawn-markup.ts";
import { polygonsOf, TOUCH_MM } from "./join.ts";
import { pathData } from "../sheets/sheet-svg.ts";

export interface MachineLines {
  /** Path data in millimetres, from the top left of all of it. */
  path: string;
  widthMm: number;
  heightMm: number;
  lengthMm: number;
  outlines: number;
  /** Where the blade would cross a line it cut before; the first of them. */
  crossings: { x: number; y: number }[];
  crossed: number;
}

const MM_PER_PX = 25.4 / 96;
const FINE_MM = 0.01;
const MOST_TOLD = 200;
const MOST_SEGMENTS = 200_000;
/** Coordinates beyond that are of no drawing: a hundred metres. */
const MOST_MM = 100_000;

/** Absolute path data of M, L, Q, C and Z, as this program writes it and programs here draw it; undefined for any other. */
export function contoursFromPath(d: string, unitMm: number): Contour[] | undefined {
  const contours: Contour[] = [];
  let segments: Segment[] = [];
  let [x, y, startX, startY] = [0, 0, 0, 0];
  const close = () => {
    if (segments.length > 0) {
      if (x !== startX || y !== startY) segments.push([x, y, startX, startY]);
      contours.push(segments);
    }
    segments = [];
    [x, y] = [startX, startY];
  };
  const POINTS: Record<string, number> = { M: 2, L: 2, Q: 4, C: 6 };
  for (const [, command = "", text = ""] of d.matchAll(/([A-Za-z])([^A-Za-z]*)/g)) {
    if (command === "Z" || command === "z") {
      close();
      continue;
    }
    const many = POINTS[command];
    const values = (text.match(/-?\d*\.?\d+(?:e-?\d+)?/g) ?? []).map((value) => Number(value) * unitMm);
    if (many === undefined || values.length === 0 || values.length % many !== 0) return undefined;
    if (!values.every((value) => Math.abs(value) <= MOST_MM)) return undefined;
    for (let i = 0; i < values.length; i += many) {
      const points = values.slice(i, i + many);
      if (command === "M" && i === 0) {
        close();
        [startX, startY] = [points[0]!, points[1]!];
      } else segments.push([x, y, ...points]);
      [x, y] = [points.at(-2)!, points.at(-1)!];
    }
  }
  close();
  return contours;
}

const tooMuch = () =>
  new ProblemError(
    "cut-long",
    "This is more outline than can be looked through at once (limit “pieces of outline”).",
    "Cut less of it at a time.",
  );

/**
 * Paths of an SVG in millimetres, colour by colour: each is a pass of its own. Sizes in mm with a view box, or pixels. Throws a
 * `ProblemError` for what holds no such paths, or more than is followed.
 */
function passesOfSvg(svg: string): Contour[][] {
  let unit = MM_PER_PX;
  let origin: Matrix = [1, 0, 0, 1, 0, 0];
  const found = new Map<string, Contour[]>();
  const fills: string[] = [];
  let [strange, seen, segments] = [false, false, 0];
  walkDrawing(svg, {
    opened: (name, attributes) => {
      if (name === "svg" && !seen) {
        seen = true;
        const [left = 0, top = 0, wide = 0] = (attributes["viewBox"] ?? "").split(/[\s,]+/).map(Number);
        const [, size = "", kind = ""] = /^([\d.]+)(mm|pt|px|in|cm)?$/.exec(attributes["width"] ?? "") ?? [];
        const mm = Number(size) * ({ mm: 1, cm: 10, in: 25.4, pt: 25.4 / 72 }[kind] ?? MM_PER_PX);
        if (wide > 0 && mm > 0 && Number.isFinite(mm / wide)) unit = mm / wide;
        if (Math.abs(left * unit) < MOST_MM && Math.abs(top * unit) < MOST_MM) origin = [1, 0, 0, 1, -left * unit, -top * unit];
      }
      fills.push(attributes["fill"] ?? fills.at(-1) ?? "");
      if (attributes["transform"] !== undefined) strange = true;
      if (name !== "path") return;
      const contours = contoursFromPath(attributes["d"] ?? "", unit);
      if (!contours) {
        strange = true;
        return;
      }
      const fill = fills.at(-1)!;
      const pass = found.get(fill) ?? [];
      found.set(fill, pass);
      for (const contour of contours) {
        segments += contour.length;
        if (segments > MOST_SEGMENTS) throw tooMuch();
        pass.push(transformed(contour, origin));
      }
    },
    closed: () => void fills.pop(),
  });
  if (found.size === 0 || strange)
    throw new ProblemError(
      "no-paths",
      strange
        ? "This drawing has paths of a kind that is not understood here."
        : "There is no outline in this file that a blade could follow.",
      "Give an SVG that was exported from a cut.",
    );
  return [...found.values()];
}

/** Throws a `ProblemError` when there is nothing to follow, or more than can be looked through. */
export function machineLines({ svg, paths = [], unitMm = 1 }: { svg?: string; paths?: readonly string[]; unitMm?: number }): MachineLines {
  const passes = svg === undefined ? [paths.flatMap((d) => contoursFromPath(d, unitMm) ?? [])] : passesOfSvg(svg);
  const contours = passes.flat();
  const box = boxOf(contours);
  if (isEmptyBox(box)) throw new ProblemError("nothing-to-cut", "There is no outline to follow.", "Type some words first.");
  if (contours.reduce((sum, contour) => sum + contour.length, 0) > MOST_SEGMENTS) throw tooMuch();
  const moving = (pass: readonly Contour[]) => pass.map((contour) => movedBy(contour, -box.left, -box.top));
  const moved = moving(contours);
  const crossings = passes.flatMap((pass) => crossingsOf(polygonsOf(moving(pass), FINE_MM), TOUCH_MM));
  return {
    path: pathData(moved),
    widthMm: box.right - box.left,
    heightMm: box.bottom - box.top,
    lengthMm: moved.reduce((sum, contour) => sum + contourLength(contour), 0),
    outlines: moved.length,
    crossings: crossings.slice(0, MOST_TOLD).map(([x, y]) => ({ x, y })),
    crossed: crossings.length,
  };
}
