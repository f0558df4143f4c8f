// Ink of a whole picture: pixels darker or lighter than what is around them, in pieces that hang together.
import type { Colours } from "../../evidence/image.ts";
import type { FlatBox } from "../faces/coverage-raster.ts";
import { regionsOf } from "./connected.ts";

const { floor, max, min, sqrt } = Math;

export interface Box extends FlatBox {
  area: number;
}
/** A piece of ink; `light` is how light it is on the whole. */
export interface Piece extends Box {
  light: number;
}
/** What pieces were found on. `way`: they are darker than it (1) or lighter (−1). */
export interface Paper {
  light: Float32Array;
  width: number;
  height: number;
  /** How much the picture was made smaller. */
  shrunk: number;
  way: 1 | -1;
}
export function smaller({ width: from, height: rows, data }: Colours, width: number, height: number, shrunk: number): Float32Array {
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const [y0, y1] = [floor(y * shrunk), max(floor(y * shrunk) + 1, min(rows, floor((y + 1) * shrunk)))];
    for (let x = 0; x < width; x++) {
      const [x0, x1] = [floor(x * shrunk), max(floor(x * shrunk) + 1, min(from, floor((x + 1) * shrunk)))];
      let sum = 0;
      for (let v = y0; v < y1; v++) {
        for (let u = x0; u < x1; u++) {
          const at = 4 * (v * from + u);
          sum += 0.299 * data[at]! + 0.587 * data[at + 1]! + 0.114 * data[at + 2]!;
        }
      }
      out[y * width + x] = sum / ((y1 - y0) * (x1 - x0) * 255);
    }
  }
  return out;
}

/** Which pixels are darker (1) or lighter (−1) than the mean around them, by more than its spread would have it (after Sauvola, 2000). */
export function standsOut(light: Float32Array, width: number, height: number, reach: number, way: 1 | -1): Uint8Array {
  const wide = width + 1;
  const [sums, squares] = [new Float64Array(wide * (height + 1)), new Float64Array(wide * (height + 1))];
  for (let y = 0; y < height; y++) {
    let [sum, square] = [0, 0];
    for (let x = 0; x < width; x++) {
      const value = light[y * width + x]!;
      sum += value;
      square += value * value;
      sums[(y + 1) * wide + x + 1] = sums[y * wide + x + 1]! + sum;
      squares[(y + 1) * wide + x + 1] = squares[y * wide + x + 1]! + square;
    }
  }
  const out = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    const [y0, y1] = [max(0, y - reach), min(height, y + reach + 1)];
    for (let x = 0; x < width; x++) {
      const [x0, x1] = [max(0, x - reach), min(width, x + reach + 1)];
      const n = (x1 - x0) * (y1 - y0);
      const of = (all: Float64Array) => (all[y1 * wide + x1]! - all[y0 * wide + x1]! - all[y1 * wide + x0]! + all[y0 * wide + x0]!) / n;
      const mean = of(sums);
      const spread = sqrt(max(0, of(squares) - mean * mean));
      if (way * (mean - light[y * width + x]!) > 0.035 + 0.45 * spread) out[y * width + x] = 1;
    }
  }
  return out;
}

export function regionsIn(mask: Uint8Array, { light, width }: Paper): Piece[] {
  const labels = new Int32Array(mask.length);
  const regions = [...regionsOf(labels, width, (at) => mask[at] === 1, true)];
  const sums = new Float64Array(regions.length + 1);
  for (let at = 0; at < labels.length; at++) sums[labels[at]!]! += light[at]!;
  return regions.map(({ label, box, area }) => ({ ...box, area, light: sums[label]! / area }));
}
