// The second step: a face's own drawing of the words laid over the picture, letter by letter, and how much ink the two do not share.
import type { Grey } from "../../evidence/raster.ts";
import { rasterOf, type FlatBox } from "../faces/coverage-raster.ts";
import type { SetLetter } from "../faces/set-line.ts";

const { abs, ceil, exp, floor, max, min, sqrt } = Math;

/** A line as it is compared: brought down to a moderate size. */
export interface Target {
  grey: Grey;
  /** Around the line's ink. */
  box: FlatBox;
  /** For each letter as it is read, where its ink lies; undefined where that is not known. */
  places: readonly (FlatBox | undefined)[];
  /** Places that were cut off: their edges are a guess. */
  rough: readonly boolean[];
}
export interface LetterLaid {
  first: number;
  last: number;
  /** Ink not shared, by ink there. */
  error: number;
  polygons: number[][];
  /** From ems to pixels: x' = x · sx + tx. */
  sx: number;
  sy: number;
  tx: number;
  ty: number;
}
export interface Laid {
  /** Ink not shared by ink there, in squares: 0 is the same drawing. */
  error: number;
  letters: LetterLaid[];
  /** Pixels an em. */
  scale: number;
  stretch: number;
  /** Beyond what the face sets between letters, in ems; and how unevenly. */
  spacing: number;
  unevenness: number;
}

const MOST_SHIFT = 2.5;

const kernels = new Map<number, Float32Array>();
function kernelOf(sigma: number): Float32Array {
  let kernel = kernels.get(sigma);
  if (!kernel) {
    const reach = max(1, ceil(sigma * 2.3));
    kernel = Float32Array.from({ length: 2 * reach + 1 }, (_, i) => exp(-((i - reach) ** 2) / (2 * sigma * sigma)));
    const sum = kernel.reduce((all, one) => all + one, 0);
    for (let i = 0; i < kernel.length; i++) kernel[i]! /= sum;
    kernels.set(sigma, kernel);
  }
  return kernel;
}
/** A picture blurred by a Gaussian of so many pixels, across and then down. */
export function blurred(ink: Float32Array, width: number, height: number, sigma: number): Float32Array {
  if (sigma < 0.2) return ink;
  const kernel = kernelOf(sigma);
  const reach = (kernel.length - 1) / 2;
  // What is drawn lies well inside, so that only rows with ink cost anything.
  const across = new Float32Array(ink.length);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) {
      const value = ink[row + x]!;
      if (value === 0) continue;
      const [from, to] = [max(0, x - reach), min(width - 1, x + reach)];
      for (let at = from, k = from - x + reach; at <= to; at++, k++) across[row + at]! += value * kernel[k]!;
    }
  }
  const out = new Float32Array(ink.length);
  for (let y = 0; y < height; y++) {
    const [first, last] = [max(0, y - reach), min(height - 1, y + reach)];
    for (let from = first; from <= last; from++) {
      const weight = kernel[from - y + reach]!;
      const [to, row] = [y * width, from * width];
      for (let x = 0; x < width; x++) out[to + x]! += weight * across[row + x]!;
    }
  }
  return out;
}

/** Scale, stretch and place that lay letters on where they were seen: least squares, across and down apart. */
function placed(letters: readonly SetLetter[], target: Target): { sx: number; sy: number; tx: number; ty: number } | undefined {
  const down: [number, number][] = [];
  const across: [number, number][] = [];
  for (const { first, last, box } of letters) {
    if (first !== last) continue;
    const place = target.places[first];
    if (!place || target.rough[first]) continue;
    down.push([box.y0, place.y0], [box.y1, place.y1]);
    across.push([box.x1 - box.x0, place.x1 - place.x0]);
  }
  const own = {
    x0: min(...letters.map(({ box }) => box.x0)),
    x1: max(...letters.map(({ box }) => box.x1)),
    y0: min(...letters.map(({ box }) => box.y0)),
    y1: max(...letters.map(({ box }) => box.y1)),
  };
  const { box } = target;
  if (across.length < 2) {
    const [sx, sy] = [(box.x1 - box.x0) / (own.x1 - own.x0), (box.y1 - box.y0) / (own.y1 - own.y0)];
    return { sx, sy, tx: box.x0 - own.x0 * sx, ty: box.y0 - own.y0 * sy };
  }
  const n = down.length;
  const [my, mz] = [down.reduce((sum, [y]) => sum + y / n, 0), down.reduce((sum, [, z]) => sum + z / n, 0)];
  const sy =
    down.reduce((sum, [y, z]) => sum + (y - my) * (z - mz), 0) /
    max(
      1e-9,
      down.reduce((sum, [y]) => sum + (y - my) ** 2, 0),
    );
  const sx = across.reduce((sum, [a, b]) => sum + a * b, 0) / across.reduce((sum, [a]) => sum + a * a, 0);
  if (!(sy > 0 && sx > 0)) return undefined;
  return { sx, sy, tx: box.x0 - own.x0 * sx, ty: mz - sy * my };
}

/** Lays words over a line, both seen through the same blur. `seen` is the target's ink, blurred. Undefined when they are of quite other proportions. */
export function layOver(letters: readonly SetLetter[], target: Target, seen: Float32Array, sigma: number, steps = 2): Laid | undefined {
  const place = placed(letters, target);
  if (!place) return undefined;
  const { sx, sy } = place;
  const stretch = sx / sy;
  if (stretch < 0.6 || stretch > 1.65) return undefined;
  const { width, height } = target.grey;
  const drawn = new Float32Array(width * height);
  const room = ceil(3 * sigma) + 2;
  const laid: LetterLaid[] = [];
  const parts: { x0: number; y0: number; w: number; h: number }[] = [];
  // Where letters run into one another none has a place of its own: each is looked for where the one before it was found to lie.
  let drift = 0;
  for (const letter of letters) {
    const spots = target.places.slice(letter.first, letter.last + 1).filter((one) => one !== undefined);
    const { box } = letter;
    let tx = place.tx + drift;
    const known = spots.length === letter.last + 1 - letter.first;
    if (known) {
      const [x0, x1] = [min(...spots.map((one) => one.x0)), max(...spots.map((one) => one.x1))];
      tx = (x0 + x1) / 2 - ((box.x0 + box.x1) / 2) * sx;
    }
    const [left, right] = [box.x0 * sx + tx, box.x1 * sx + tx];
    const [top, bottom] = [box.y0 * sy + place.ty, box.y1 * sy + place.ty];
    const [x0, y0] = [max(0, floor(left) - room), max(0, floor(top) - room)];
    const [w, h] = [min(width, ceil(right) + room) - x0, min(height, ceil(bottom) + room) - y0];
    if (w <= 0 || h <= 0) return undefined;
    let [dx, dy] = [0, 0];
    let own: Float32Array = seen;
    if (!known && steps >= CLOSELY) {
      const reach = ceil(SOUGHT * sy);
      dx = soughtAlong(
        blurred(rasterOf(letter.polygons, w, h, sx, sy, tx - x0, place.ty - y0), w, h, sigma),
        seen,
        { w, h, x0, y0, width },
        reach,
      );
    }
    const from = dx;
    for (let step = 0; step <= steps; step++) {
      own = blurred(rasterOf(letter.polygons, w, h, sx, sy, tx + dx - x0, place.ty + dy - y0), w, h, sigma);
      if (step === steps) break;
      const [mx, my] = shift(own, seen, w, h, x0, y0, width);
      dx = max(from - MOST_SHIFT, min(from + MOST_SHIFT, dx + mx));
      // Letters stand on one line: up and down only by what rounding does.
      dy = max(-1, min(1, dy + my));
      if (abs(mx) + abs(my) < 0.05) break;
    }
    if (!known) drift += dx;
    for (let y = 0; y < h; y++) {
      for (let x = 0; x < w; x++) {
        const at = (y + y0) * width + x + x0;
        drawn[at] = min(1, drawn[at]! + own[y * w + x]!);
      }
    }
    parts.push({ x0, y0, w, h });
    laid.push({ first: letter.first, last: letter.last, error: 0, polygons: letter.polygons, sx, sy, tx: tx + dx, ty: place.ty + dy });
  }
  // How dark full ink is in the picture may differ a little: the best gain is taken.
  let [product, square, whole] = [0, 0, 0];
  for (let i = 0; i < drawn.length; i++) {
    product += drawn[i]! * seen[i]!;
    square += drawn[i]! * drawn[i]!;
    whole += seen[i]! * seen[i]!;
  }
  const gain = max(0.75, min(1.6, product / max(1e-9, square)));
  let off = 0;
  for (let i = 0; i < drawn.length; i++) off += (gain * drawn[i]! - seen[i]!) ** 2;
  for (const [i, { x0, y0, w, h }] of parts.entries()) {
    let [own, all] = [0, 0];
    for (let y = y0; y < y0 + h; y++) {
      for (let x = x0; x < x0 + w; x++) {
        const at = y * width + x;
        own += (gain * drawn[at]! - seen[at]!) ** 2;
        all += seen[at]! * seen[at]!;
      }
    }
    laid[i]!.error = own / max(1e-6, all);
  }
  return { error: off / max(1e-6, sqrt(whole * square)), letters: laid, scale: sy, stretch, ...spacingOf(laid) };
}

/** Letters that run into one another are looked for so far to either side, in ems: pairs may be set closer than the face's own widths have it. */
const SOUGHT = 0.12;
/** With so many steps it is looked closely. */
const CLOSELY = 2;
/** How many whole pixels along the line a drawing lies best on what is seen; ink of its neighbours beside it does not count. */
function soughtAlong(
  own: Float32Array,
  seen: Float32Array,
  { w, h, x0, y0, width }: { w: number; h: number; x0: number; y0: number; width: number },
  reach: number,
): number {
  let best = { by: 0, off: Infinity };
  for (let k = 0; k <= 2 * reach; k++) {
    // The nearest first: of equals the smallest move is taken.
    const by = k % 2 === 1 ? (k + 1) / 2 : -k / 2;
    let off = 0;
    for (let y = 0; y < h; y++) {
      for (let x = 0; x < w; x++) {
        const value = own[y * w + x]!;
        if (value < 0.05) continue;
        const at = x + x0 + by;
        const there = at < 0 || at >= width ? 0 : seen[(y + y0) * width + at]!;
        off += value * (value - there) ** 2;
      }
    }
    if (off < best.off * 0.98) best = { by, off };
  }
  return best.by;
}

/** How letters stand to where the face would set them: further apart by so much each, and unevenly by so much, in ems. */
function spacingOf(laid: readonly LetterLaid[]): { spacing: number; unevenness: number } {
  const n = laid.length;
  if (n < 2) return { spacing: 0, unevenness: 0 };
  const moved = laid.map(({ tx, sx }) => tx / sx);
  const [mi, mx] = [(n - 1) / 2, moved.reduce((sum, one) => sum + one, 0) / n];
  const spacing = moved.reduce((sum, one, i) => sum + (i - mi) * (one - mx), 0) / moved.reduce((sum, _, i) => sum + (i - mi) ** 2, 0);
  const off = moved.reduce((sum, one, i) => sum + (one - mx - spacing * (i - mi)) ** 2, 0);
  return { spacing, unevenness: sqrt(off / n) };
}

/** By how much a drawing should be moved to lie on what is seen: one step of Lucas and Kanade (1981). */
function shift(own: Float32Array, seen: Float32Array, w: number, h: number, x0: number, y0: number, width: number): [number, number] {
  let [xx, xy, yy, xe, ye] = [0, 0, 0, 0, 0];
  for (let y = 1; y < h - 1; y++) {
    for (let x = 1; x < w - 1; x++) {
      const at = y * w + x;
      const gx = (own[at + 1]! - own[at - 1]!) / 2;
      const gy = (own[at + w]! - own[at - w]!) / 2;
      if (gx === 0 && gy === 0) continue;
      const e = own[at]! - seen[(y + y0) * width + x + x0]!;
      xx += gx * gx;
      xy += gx * gy;
      yy += gy * gy;
      xe += gx * e;
      ye += gy * e;
    }
  }
  const det = xx * yy - xy * xy;
  if (det < 1e-6) return [0, 0];
  const clip = (value: number) => max(-1.5, min(1.5, value));
  return [clip((yy * xe - xy * ye) / det), clip((xx * ye - xy * xe) / det)];
}

/** The blur of a picture, in pixels, that the best of these explain most with. */
export const SIGMAS: readonly number[] = [0.5, 0.8, 1.2, 1.8, 2.6];
/** How much a line is made smaller to be compared at a height, in pixels. */
export const comparedScale = (high: number, wide: number, height: number): number => min(1, height / high, (25 * height) / wide);
