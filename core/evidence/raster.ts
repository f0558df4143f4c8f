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
/** Parts a curve is cut into; at a few dozen pixels' height more cannot be seen. */
const CURVE_PARTS = 6;
/** Lines drawn within each row of pixels. */
const SUBROWS = 4;

interface Opened {
  font: hb.Font;
  characters: ReadonlySet<number>;
}
/** Fonts opened before, for as long as somebody holds their bytes: opening one copies it whole. */
const opened = new WeakMap<Uint8Array, Map<number, Opened>>();
function open(bytes: Uint8Array, index: number): Opened {
  let faces = opened.get(bytes);
  if (!faces) opened.set(bytes, (faces = new Map()));
  let known = faces.get(index);
  if (!known) {
    const face = new hb.Face(new hb.Blob(bytes), index);
    known = { font: new hb.Font(face), characters: new Set(face.collectUnicodes()) };
    faces.set(index, known);
  }
  return known;
}

/** The outlines of words set in a font as closed polygons, y downwards, in font units. Undefined when the font lacks a character. */
export function wordPolygons(bytes: Uint8Array, index: number, words: string): Point[][] | undefined {
  const { font, characters } = open(bytes, index);
  for (const character of words) if (!/\s/u.test(character) && !characters.has(character.codePointAt(0)!)) return undefined;
  const buffer = new hb.Buffer();
  buffer.addText(words);
  buffer.guessSegmentProperties();
  hb.shape(font, buffer);
  const polygons: Point[][] = [];
  let pen = 0;
  for (const info of buffer.getGlyphInfosAndPositions()) {
    const [left, up] = [pen + (info.xOffset ?? 0), info.yOffset ?? 0];
    pen += info.xAdvance ?? 0;
    let polygon: Point[] = [];
    const at = (values: readonly number[], i: number): Point => [left + values[i]!, -(up + values[i + 1]!)];
    for (const { type, values } of font.glyphToJson(info.codepoint)) {
      const last = polygon.at(-1);
      if (type === "M") polygons.push((polygon = [at(values, 0)]));
      else if (type === "L") polygon.push(at(values, 0));
      else if (type === "Q" && last) {
        const [control, end] = [at(values, 0), at(values, 2)];
        for (let part = 1; part <= CURVE_PARTS; part++) polygon.push(quadratic(last, control, end, part / CURVE_PARTS));
      } else if (type === "C" && last) {
        const [first, second, end] = [at(values, 0), at(values, 2), at(values, 4)];
        for (let part = 1; part <= CURVE_PARTS; part++) polygon.push(cubic(last, first, second, end, part / CURVE_PARTS));
      }
    }
  }
  return polygons.filter((polygon) => polygon.length > 2);
}
const quadratic = (a: Point, b: Point, c: Point, t: number): Point => {
  const [u, v, w] = [(1 - t) ** 2, 2 * t * (1 - t), t ** 2];
  return [u * a[0] + v * b[0] + w * c[0], u * a[1] + v * b[1] + w * c[1]];
};
const cubic = (a: Point, b: Point, c: Point, d: Point, t: number): Point => {
  const [u, v, w, x] = [(1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t ** 2 * (1 - t), t ** 3];
  return [u * a[0] + v * b[0] + w * c[0] + x * d[0], u * a[1] + v * b[1] + w * c[1] + x * d[1]];
};

export function boxOfPolygons(
  polygons: readonly (readonly Point[])[],
): { x: number; y: number; width: number; height: number } | undefined {
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

/** Polygons drawn so that their box fills the whole picture, filled by the nonzero rule. */
export function drawPolygons(polygons: readonly (readonly Point[])[], width: number, height: number): Grey {
  const ink = new Float32Array(width * height);
  const box = boxOfPolygons(polygons);
  if (!box) return { width, height, ink };
  const [sx, sy] = [width / box.width, height / box.height];
  const rows = height * SUBROWS;
  const crossings: { x: number; turn: number }[][] = Array.from({ length: rows }, () => []);
  for (const polygon of polygons) {
    for (const [i, point] of polygon.entries()) {
      const next = polygon[(i + 1) % polygon.length]!;
      let [ax, ay] = [(point[0] - box.x) * sx, (point[1] - box.y) * sy * SUBROWS];
      let [bx, by] = [(next[0] - box.x) * sx, (next[1] - box.y) * sy * SUBROWS];
      if (ay === by) continue;
      const turn = ay < by ? 1 : -1;
      if (turn < 0) [ax, ay, bx, by] = [bx, by, ax, ay];
      // A row is met at its middle.
      for (let row = max(0, ceil(ay - 0.5)); row < rows && row + 0.5 < by; row++)
        crossings[row]!.push({ x: ax + ((row + 0.5 - ay) / (by - ay)) * (bx - ax), turn });
    }
  }
  for (const [row, found] of crossings.entries()) {
    found.sort((a, b) => a.x - b.x);
    let winding = 0;
    for (let i = 0; i + 1 < found.length; i++) {
      winding += found[i]!.turn;
      if (winding !== 0) span(ink, width, floor(row / SUBROWS), found[i]!.x, found[i + 1]!.x);
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

/** A part of a line some letters wide, in pixels; and how far it may be moved to either side, in half-pixels. */
const PART_WIDTH = 32;
const MOST_MOVED = 6;

/**
 * `drawn` with each of its parts moved sideways to where it fits `seen` best: programs round each letter's width to whole pixels, so that
 * letters drift from where they would stand. Both pictures have one size.
 */
export function settle(seen: Grey, drawn: Grey): Grey {
  const { width, height } = drawn;
  const out = new Float32Array(width * height);
  for (let from = 0; from < width; from += PART_WIDTH) {
    const to = min(width, from + PART_WIDTH);
    let best: { part: Float32Array; fit: number } | undefined;
    for (let moved = -MOST_MOVED; moved <= MOST_MOVED; moved++) {
      const part = movedPart(drawn, from, to, moved / 2);
      let off = 0;
      for (let y = 0, i = 0; y < height; y++) for (let x = from; x < to; x++, i++) off += (part[i]! - seen.ink[y * width + x]!) ** 2;
      // Of places that fit alike, the nearest.
      const fit = off * (1 + Math.abs(moved) / 100);
      if (!best || fit < best.fit) best = { part, fit };
    }
    for (let y = 0, i = 0; y < height; y++) for (let x = from; x < to; x++, i++) out[y * width + x] = best!.part[i]!;
  }
  return { width, height, ink: out };
}
function movedPart({ width, height, ink }: Grey, from: number, to: number, by: number): Float32Array {
  const part = new Float32Array((to - from) * height);
  const whole = floor(by);
  const rest = by - whole;
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = from; x < to; x++, i++) {
      const at = x + whole;
      const left = at >= 0 && at < width ? ink[y * width + at]! : 0;
      const right = at + 1 >= 0 && at + 1 < width ? ink[y * width + at + 1]! : 0;
      part[i] = left * (1 - rest) + right * rest;
    }
  }
  return part;
}
