// The form of one letter, free of its size: what its ink is like within its own box, as the low waves of a picture of 24 by 24. From an outline
// and from a picture alike.
import { boxOfFlat, rasterOf, type Flat, type FlatBox } from "./coverage-raster.ts";

const { max, round } = Math;

const SIDE = 24;
/** Waves across and down; those with more than seven between them are left out. */
const WAVES = 8;
export const FORM_SIZE = (WAVES * (WAVES + 1)) / 2;
/** One step of a stored wave, in units of ink · pixels: of the waves of 450 faces two in a million were larger than fits. */
const STEP = 0.09;
/** A letter of less than a third of its height in width is given room at its sides: an l is no block. */
const SLIMMEST = 3;

/** The cosine transform's base (DCT-II, orthonormal: Ahmed, Natarajan, Rao 1974). */
const BASE = Array.from({ length: WAVES }, (_, k) =>
  Float32Array.from({ length: SIDE }, (_, i) => Math.sqrt((k === 0 ? 1 : 2) / SIDE) * Math.cos((Math.PI * (2 * i + 1) * k) / (2 * SIDE))),
);
const half = new Float32Array(WAVES * SIDE);
/** Waves of ink, 24 by 24, into `out` from `at`: −128 to 127 each. The mean is stored about one half. */
function putWaves(ink: Float32Array, out: Int8Array, at: number): void {
  for (let row = 0; row < SIDE; row++) {
    for (let k = 0; k < WAVES; k++) {
      const base = BASE[k]!;
      let sum = 0;
      for (let i = 0, from = row * SIDE; i < SIDE; i++, from++) sum += base[i]! * ink[from]!;
      half[k * SIDE + row] = sum;
    }
  }
  let to = at;
  for (let k = 0; k < WAVES; k++) {
    for (let l = 0; l < WAVES - k; l++) {
      const base = BASE[l]!;
      let sum = 0;
      for (let i = 0, from = k * SIDE; i < SIDE; i++, from++) sum += base[i]! * half[from]!;
      if (k === 0 && l === 0) sum -= SIDE / 2;
      out[to++] = max(-128, Math.min(127, round(sum / STEP)));
    }
  }
}
/** The mean squared difference of ink, 0 to 1, between two stored forms. */
export function formDistance(one: Int8Array, at: number, other: Int8Array, to: number): number {
  let sum = 0;
  for (let i = 0; i < FORM_SIZE; i++) {
    const difference = one[at + i]! - other[to + i]!;
    sum += difference * difference;
  }
  return (sum * STEP * STEP) / (SIDE * SIDE);
}

/** A box widened or heightened to what a form is taken from. */
function frameOf({ x0, y0, x1, y1 }: FlatBox): FlatBox {
  const [wide, high] = [x1 - x0, y1 - y0];
  const [w, h] = [max(wide, high / SLIMMEST), max(high, wide / SLIMMEST)];
  const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
  return { x0: cx - w / 2, x1: cx + w / 2, y0: cy - h / 2, y1: cy + h / 2 };
}

/** The form of an outline, y downwards; undefined without ink. */
export function formOfOutline(polygons: Flat, out: Int8Array, at: number): FlatBox | undefined {
  const box = boxOfFlat(polygons);
  if (!box) return undefined;
  const frame = frameOf(box);
  const [sx, sy] = [SIDE / (frame.x1 - frame.x0), SIDE / (frame.y1 - frame.y0)];
  putWaves(rasterOf(polygons, SIDE, SIDE, sx, sy, -frame.x0 * sx, -frame.y0 * sy), out, at);
  return box;
}

/** The form of what a picture holds in a box, in its pixels. `ink` are its pixels, row by row. */
export function formOfPixels(ink: Float32Array, width: number, height: number, box: FlatBox): Int8Array {
  const frame = frameOf(box);
  const small = new Float32Array(SIDE * SIDE);
  const [sx, sy] = [(frame.x1 - frame.x0) / SIDE, (frame.y1 - frame.y0) / SIDE];
  // Each cell is the mean of nine places in it.
  for (let row = 0; row < SIDE; row++) {
    for (let column = 0; column < SIDE; column++) {
      let sum = 0;
      for (let k = 0; k < 9; k++) {
        const x = frame.x0 + (column + ((k % 3) + 0.5) / 3) * sx - 0.5;
        const y = frame.y0 + (row + (Math.floor(k / 3) + 0.5) / 3) * sy - 0.5;
        if (x < box.x0 - 1.5 || x > box.x1 + 0.5 || y < box.y0 - 1.5 || y > box.y1 + 0.5) continue;
        const [u, v] = [Math.floor(x), Math.floor(y)];
        const [fx, fy] = [x - u, y - v];
        const at = (px: number, py: number) => (px < 0 || py < 0 || px >= width || py >= height ? 0 : ink[py * width + px]!);
        sum += (at(u, v) * (1 - fx) + at(u + 1, v) * fx) * (1 - fy) + (at(u, v + 1) * (1 - fx) + at(u + 1, v + 1) * fx) * fy;
      }
      small[row * SIDE + column] = sum / 9;
    }
  }
  const out = new Int8Array(FORM_SIZE);
  putWaves(small, out, 0);
  return out;
}
