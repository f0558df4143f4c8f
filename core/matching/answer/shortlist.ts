// The first step: which of many faces have letters of the forms seen in a picture, at the heights and widths seen.
import { slotOf } from "../faces/alphabet.ts";
import { bottomOf, topOf, widthOf } from "../faces/face-shape.ts";
import type { FaceIndex } from "../faces/index-of-faces.ts";
import { formDistance } from "../faces/letter-form.ts";
import type { FlatBox } from "../faces/coverage-raster.ts";

const { log } = Math;

/** A letter as it was seen. */
export interface SeenLetter {
  letter: string;
  form: Int8Array;
  box: FlatBox;
  /** How far it can be trusted, 0 to 1. */
  weight: number;
}
export interface Near {
  face: number;
  /** From 0, the same, upwards; the root of a mean squared difference of ink. */
  distance: number;
}

const HEIGHTS = 3;
const STRETCH = 0.12;
const WIDTHS = 0.35;
/** A letter that a face lacks counts as so far off. */
const LACKING = 0.12;
/** Letters outside the measured alphabets say nothing here; this many must be inside. */
const LEAST_LETTERS = 1;

/** Faces in the order of their nearness, at most `most` of them. Heights are compared once all of them are laid on one another as well as can be. */
export function shortlist(index: FaceIndex, seen: readonly SeenLetter[], most: number): Near[] {
  const letters = seen.flatMap((one) => {
    const slot = slotOf(one.letter);
    return slot ? [{ ...one, slot }] : [];
  });
  if (letters.length < LEAST_LETTERS) return [];
  const n = letters.length;
  const all = letters.reduce((sum, { weight }) => sum + weight, 0);
  const found: Near[] = [];
  const [ys, zs, ws, vs, weights] = [0, 1, 2, 3, 4].map(() => new Float64Array(2 * n)) as [
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  for (let face = 0; face < index.size; face++) {
    let [forms, count, lacking] = [0, 0, 0];
    for (const { slot, form, box, weight } of letters) {
      const own = index.letter(face, slot.script, slot.at);
      if (!own) {
        forms += weight * LACKING;
        lacking += weight;
        continue;
      }
      forms += weight * formDistance(form, 0, own.table, own.at);
      ys[2 * count] = topOf(own.table, own.at);
      zs[2 * count] = box.y0;
      ys[2 * count + 1] = bottomOf(own.table, own.at);
      zs[2 * count + 1] = box.y1;
      ws[count] = widthOf(own.table, own.at);
      vs[count] = box.x1 - box.x0;
      weights[count++] = weight;
    }
    if (lacking > all / 2) continue;
    // Scale and baseline: the least squares of z = b + s · y.
    let [sw, sy, sz, syy, syz] = [0, 0, 0, 0, 0];
    for (let i = 0; i < 2 * count; i++) {
      const [w, y, z] = [weights[i >> 1]!, ys[i]!, zs[i]!];
      sw += w;
      sy += w * y;
      sz += w * z;
      syy += w * y * y;
      syz += w * y * z;
    }
    const scale = (sw * syz - sy * sz) / (sw * syy - sy * sy);
    if (!(scale > 0)) continue;
    const base = (sz - scale * sy) / sw;
    let [off, high, wide, wideOwn] = [0, 0, 0, 0];
    for (let i = 0; i < 2 * count; i++) off += weights[i >> 1]! * (zs[i]! - base - scale * ys[i]!) ** 2;
    for (let i = 0; i < count; i++) {
      high += weights[i]! * (zs[2 * i + 1]! - zs[2 * i]!);
      wide += weights[i]! * vs[i]!;
      wideOwn += weights[i]! * ws[i]! * scale;
    }
    high /= sw / 2;
    const stretch = wide / wideOwn;
    let offWide = 0;
    for (let i = 0; i < count; i++) offWide += weights[i]! * (vs[i]! - stretch * scale * ws[i]!) ** 2;
    const distance =
      forms / all + (HEIGHTS * off) / sw / (high * high) + (WIDTHS * offWide) / (sw / 2) / (high * high) + STRETCH * log(stretch) ** 2;
    found.push({ face, distance: Math.sqrt(distance) });
  }
  return found.sort((a, b) => a.distance - b.distance).slice(0, most);
}
