// Drawing words as grey pixels, and cutting lines of text out of a picture: what comparing the two needs.
import * as hb from "harfbuzzjs";

/** Grey pixels: 0 is no ink, 1 is full ink; rows from the top. */
export interface Grey {
  width: number;
  height: number;
  ink: Float32Array;
}

// Taken once: they are asked millions of times for one picture.
const { ceil, floor, max, min } = Math;

type Point = readonly [x: number, y: number];
/** Lines drawn within each row of pixels. */
const SUBROWS = 4;

interface Opened {
  font: hb.Font;
  upem: number;
  characters: ReadonlySet<number>;
}
/** Fonts opened before, for as long as somebody holds their bytes: opening one copies it whole. */
const opened = new WeakMap<Uint8Array, Map<number, Opened>>();
export function openFont(bytes: Uint8Array, index: number): Opened {
  let faces = opened.get(bytes);
  if (!faces) opened.set(bytes, (faces = new Map()));
  let known = faces.get(index);
  if (!known) {
    const face = new hb.Face(new hb.Blob(bytes), index);
    known = { font: new hb.Font(face), upem: face.upem || 1000, characters: new Set(face.collectUnicodes()) };
    faces.set(index, known);
  }
  return known;
}

function boxOfPolygons(polygons: readonly (readonly Point[])[]): { x: number; y: number; width: number; height: number } | undefined {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const polygon of polygons) {
    for (const [x, y] of polygon) {
      x0 = min(x0, x);
      x1 = max(x1, x);
      y0 = min(y0, y);
      y1 = max(y1, y);
    }
  }
  return x0 < x1 && y0 < y1 ? { x: x0, y: y0, width: x1 - x0, height: y1 - y0 } : undefined;
}

/** Polygons drawn so that their box fills the whole picture. */
export function drawPolygons(polygons: readonly (readonly Point[])[], width: number, height: number): Grey {
  const box = boxOfPolygons(polygons);
  if (!box) return { width, height, ink: new Float32Array(width * height) };
  const [sx, sy] = [width / box.width, height / box.height];
  const scaled = polygons.map((polygon) => polygon.map(([x, y]): Point => [(x - box.x) * sx, (y - box.y) * sy]));
  return fillPolygons(scaled, width, height);
}
/** Polygons in pixels, filled by the nonzero rule. */
export function fillPolygons(polygons: readonly (readonly Point[])[], width: number, height: number): Grey {
  const ink = new Float32Array(width * height);
  const rows = height * SUBROWS;
  // Of each row where edges cross it, from the left, and which way each goes.
  const crossings: number[][] = Array.from({ length: rows }, () => []);
  const turns: number[][] = Array.from({ length: rows }, () => []);
  for (const polygon of polygons) {
    for (let i = 0, last = polygon.length - 1; i < polygon.length; last = i++) {
      let [ax, ay] = [polygon[last]![0], polygon[last]![1] * SUBROWS];
      let [bx, by] = [polygon[i]![0], polygon[i]![1] * SUBROWS];
      if (ay === by) continue;
      const turn = ay < by ? 1 : -1;
      if (turn < 0) [ax, ay, bx, by] = [bx, by, ax, ay];
      const slope = (bx - ax) / (by - ay);
      // A row is met at its middle.
      for (let row = max(0, ceil(ay - 0.5)); row < rows && row + 0.5 < by; row++) {
        const x = ax + (row + 0.5 - ay) * slope;
        const [xs, own] = [crossings[row]!, turns[row]!];
        let at = xs.length;
        while (at > 0 && xs[at - 1]! > x) {
          xs[at] = xs[at - 1]!;
          own[at] = own[at - 1]!;
          at--;
        }
        xs[at] = x;
        own[at] = turn;
      }
    }
  }
  for (let row = 0; row < rows; row++) {
    const xs = crossings[row]!;
    let winding = 0;
    for (let i = 0; i + 1 < xs.length; i++) {
      winding += turns[row]![i]!;
      if (winding !== 0) span(ink, width, floor(row / SUBROWS), xs[i]!, xs[i + 1]!);
    }
  }
  return { width, height, ink };
}
function span(ink: Float32Array, width: number, row: number, from: number, to: number): void {
  const [a, b] = [max(0, from), min(width, to)];
  for (let x = floor(a); x < b; x++) {
    const covered = min(b, x + 1) - max(a, x);
    if (covered > 0) ink[row * width + x]! += covered / SUBROWS;
  }
}

/** The part of light pixels that separates ink from paper best (Otsu's method, between-class variance). */
export function inkLimit(values: Float32Array): number {
  const bins = new Array<number>(256).fill(0);
  for (let i = 0; i < values.length; i++) bins[max(0, min(255, Math.round(values[i]! * 255)))]!++;
  const total = values.length;
  const sum = bins.reduce((all, count, i) => all + i * count, 0);
  let [best, at, below, belowSum] = [-1, 128, 0, 0];
  for (const [i, count] of bins.entries()) {
    below += count;
    belowSum += i * count;
    if (below === 0 || below === total) continue;
    const between = below * (total - below) * (belowSum / below - (sum - belowSum) / (total - below)) ** 2;
    if (between > best) [best, at] = [between, i];
  }
  return (at + 0.5) / 255;
}

export interface Line {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Ink of a picture from its light: dark on light or light on dark, whichever the edges say. Undefined when nothing stands out. */
export function inkOf(light: Float32Array, width: number, height: number): { grey: Grey; limit: number } | undefined {
  let edge = 0;
  for (let x = 0; x < width; x++) edge += light[x]! + light[(height - 1) * width + x]!;
  for (let y = 0; y < height; y++) edge += light[y * width]! + light[y * width + width - 1]!;
  const dark = edge / (2 * (width + height)) > 0.5;
  const ink = new Float32Array(light.length);
  let [least, most] = [Infinity, -Infinity];
  for (let i = 0; i < ink.length; i++) {
    const value = dark ? 1 - light[i]! : light[i]!;
    ink[i] = value;
    least = min(least, value);
    most = max(most, value);
  }
  if (most - least < 0.15) return undefined;
  for (let i = 0; i < ink.length; i++) ink[i] = (ink[i]! - least) / (most - least);
  return { grey: { width, height, ink }, limit: inkLimit(ink) };
}

/** Lines of text as boxes around their ink: rows with ink, parted by rows without; wide gaps part a line into pieces. */
export function findLines({ width, height, ink }: Grey, limit: number): Line[] {
  const inked = (x: number, y: number) => ink[y * width + x]! > limit;
  const found: Line[] = [];
  const rowHas = Array.from({ length: height }, (_, y) => {
    for (let x = 0; x < width; x++) if (inked(x, y)) return true;
    return false;
  });
  for (let y = 0; y < height; y++) {
    if (!rowHas[y]) continue;
    let end = y;
    while (end < height && rowHas[end]) end++;
    const tall = end - y;
    const columns = Array.from({ length: width }, (_, x) => {
      for (let row = y; row < end; row++) if (inked(x, row)) return true;
      return false;
    });
    // A gap of more than twice the line's height is no space between words.
    for (let x = 0; x < width; x++) {
      if (!columns[x]) continue;
      let [last, gap] = [x, 0];
      for (let at = x; at < width && gap <= 2 * tall; at++) {
        if (columns[at]) [last, gap] = [at, 0];
        else gap++;
      }
      found.push(trim({ x, y, width: last + 1 - x, height: tall }, inked));
      x = last + 2 * tall;
    }
    y = end;
  }
  return found;
}
function trim(line: Line, inked: (x: number, y: number) => boolean): Line {
  const rowHas = (y: number) => {
    for (let x = line.x; x < line.x + line.width; x++) if (inked(x, y)) return true;
    return false;
  };
  let [top, bottom] = [line.y, line.y + line.height];
  while (top < bottom && !rowHas(top)) top++;
  while (bottom > top && !rowHas(bottom - 1)) bottom--;
  return { ...line, y: top, height: bottom - top };
}

/** A part of a picture, shrunk or stretched to a size; each pixel the average of what it covers. */
export function resample({ width, ink }: Grey, line: Line, toWidth: number, toHeight: number): Grey {
  const out = new Float32Array(toWidth * toHeight);
  const [sx, sy] = [line.width / toWidth, line.height / toHeight];
  for (let y = 0; y < toHeight; y++) {
    for (let x = 0; x < toWidth; x++) {
      let [sum, weight] = [0, 0];
      const [x0, x1, y0, y1] = [line.x + x * sx, line.x + (x + 1) * sx, line.y + y * sy, line.y + (y + 1) * sy];
      for (let row = floor(y0); row < y1; row++) {
        const high = min(row + 1, y1) - max(row, y0);
        for (let column = floor(x0); column < x1; column++) {
          const part = high * (min(column + 1, x1) - max(column, x0));
          if (part <= 0) continue;
          sum += part * (ink[row * width + column] ?? 0);
          weight += part;
        }
      }
      out[y * toWidth + x] = weight === 0 ? 0 : sum / weight;
    }
  }
  return { width: toWidth, height: toHeight, ink: out };
}

/** How alike two pictures of one size are: their normalised cross-correlation, −1 to 1. */
export function likeness(a: Grey, b: Grey): number {
  const n = a.ink.length;
  let [meanA, meanB] = [0, 0];
  for (let i = 0; i < n; i++) {
    meanA += a.ink[i]! / n;
    meanB += b.ink[i]! / n;
  }
  let [product, squaresA, squaresB] = [0, 0, 0];
  for (let i = 0; i < n; i++) {
    const [x, y] = [a.ink[i]! - meanA, b.ink[i]! - meanB];
    product += x * y;
    squaresA += x * x;
    squaresB += y * y;
  }
  return squaresA === 0 || squaresB === 0 ? 0 : product / Math.sqrt(squaresA * squaresB);
}
