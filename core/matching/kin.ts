// How alike two drawings are but for their weight: each letter is brought to the box it was seen in, and made heavier or lighter until it has as
// much ink. Another weight of the same design comes near then, and another design does not.
import { rasterOf } from "./coverage-raster.ts";
import { blurred, type LetterLaid, type Target } from "./lay-over.ts";

const { abs, ceil, floor, log, max, min } = Math;

/** How far strokes are spread to be thickened or thinned, by the height of the letter. */
const SPREAD = 0.045;
const STEEP = 2.2;
const STEPS = 9;
/** How much uneven widths count. */
const WIDTHS = 0.35;

/** Ink with as much of it as wanted: its blurred self, cut off higher or lower. */
function ofWeight(ink: Float32Array, wanted: number): Float32Array {
  const out = new Float32Array(ink.length);
  let [low, high] = [-0.4, 0.9];
  for (let step = 0; step < STEPS; step++) {
    const cut = (low + high) / 2;
    let sum = 0;
    for (let i = 0; i < ink.length; i++) sum += out[i] = max(0, min(1, (ink[i]! - cut) * STEEP));
    if (sum > wanted) low = cut;
    else high = cut;
  }
  return out;
}

/** Ink not shared by ink there, weight and widths left out; undefined where too few letters stand apart. */
export function kinError(laid: readonly LetterLaid[], { grey, places, rough }: Target, seen: Float32Array): number | undefined {
  let [off, all, count] = [0, 0, 0];
  const widths: number[] = [];
  for (const { first, last, polygons, sx } of laid) {
    const place = places[first];
    if (!place || first !== last || rough[first]) continue;
    let [bx0, bx1, by0, by1] = [Infinity, -Infinity, Infinity, -Infinity];
    for (const points of polygons) {
      for (let i = 0; i < points.length; i += 2) {
        bx0 = min(bx0, points[i]!);
        bx1 = max(bx1, points[i]!);
        by0 = min(by0, points[i + 1]!);
        by1 = max(by1, points[i + 1]!);
      }
    }
    const [wide, high] = [place.x1 - place.x0, place.y1 - place.y0];
    const [x0, y0] = [max(0, floor(place.x0) - 3), max(0, floor(place.y0) - 3)];
    const [w, h] = [min(grey.width, ceil(place.x1) + 3) - x0, min(grey.height, ceil(place.y1) + 3) - y0];
    if (w < 4 || h < 4 || bx1 <= bx0 || by1 <= by0) continue;
    const [kx, ky] = [wide / (bx1 - bx0), high / (by1 - by0)];
    const own = rasterOf(polygons, w, h, kx, ky, place.x0 - bx0 * kx - x0, place.y0 - by0 * ky - y0);
    let ink = 0;
    const there = new Float32Array(w * h);
    for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) ink += there[y * w + x] = seen[(y + y0) * grey.width + x + x0]!;
    const weighed = ofWeight(blurred(own, w, h, max(0.8, SPREAD * high)), ink);
    let own2 = 0;
    for (let i = 0; i < weighed.length; i++) {
      off += (weighed[i]! - there[i]!) ** 2;
      own2 += there[i]! ** 2;
    }
    all += own2;
    count++;
    widths.push(log(kx / sx));
  }
  if (count < 3) return undefined;
  const mean = widths.reduce((sum, one) => sum + one, 0) / count;
  const uneven = widths.reduce((sum, one) => sum + abs(one - mean), 0) / count;
  return off / max(1e-6, all) + WIDTHS * uneven * uneven;
}
