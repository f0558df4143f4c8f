// Photos stand askew and are lit unevenly: what makes them as straight and as even as a screen before their words are looked for.
import type { Grey } from "./raster.ts";

const { abs, cos, floor, max, min, round, sin } = Math;

/** A photo further askew than this is not one of a line of words. */
const MOST_ASKEW_DEGREES = 10;
const STEP_DEGREES = 0.25;
/** Skew is looked for in a smaller picture. */
const SKEW_WIDTH = 400;
/** Blocks the light is measured in, across the picture's longer side. */
const BLOCKS = 12;

/** Grey with its paper made even: in each part of the picture the lightest fifth counts as paper. */
export function even({ width, height, ink }: Grey): Grey {
  const size = max(8, Math.ceil(max(width, height) / BLOCKS));
  const [across, down] = [Math.ceil(width / size), Math.ceil(height / size)];
  const paper = new Float32Array(across * down);
  const darkest = new Float32Array(across * down);
  for (let by = 0; by < down; by++) {
    for (let bx = 0; bx < across; bx++) {
      const values: number[] = [];
      // Every third pixel of every third row says enough.
      for (let y = by * size; y < min(height, (by + 1) * size); y += 3)
        for (let x = bx * size; x < min(width, (bx + 1) * size); x += 3) values.push(ink[y * width + x]!);
      values.sort((a, b) => a - b);
      paper[by * across + bx] = values[floor(values.length / 5)] ?? 0;
      darkest[by * across + bx] = values[floor(values.length * 0.98)] ?? 0;
    }
  }
  const most = darkest.reduce((all, value, i) => max(all, value - paper[i]!), 0);
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const v = max(0, min(down - 1, (y + 0.5) / size - 0.5));
    const [v0, v1] = [floor(v), min(down - 1, floor(v) + 1)];
    for (let x = 0; x < width; x++) {
      const u = max(0, min(across - 1, (x + 0.5) / size - 0.5));
      const [u0, u1] = [floor(u), min(across - 1, floor(u) + 1)];
      const top = paper[v0 * across + u0]! * (1 - (u - u0)) + paper[v0 * across + u1]! * (u - u0);
      const bottom = paper[v1 * across + u0]! * (1 - (u - u0)) + paper[v1 * across + u1]! * (u - u0);
      const ground = top * (1 - (v - v0)) + bottom * (v - v0);
      out[y * width + x] = most === 0 ? 0 : max(0, min(1, (ink[y * width + x]! - ground) / most));
    }
  }
  return { width, height, ink: out };
}

/** How far lines of text are askew, in degrees, clockwise: where the rows between lines are emptiest. */
export function skewOf({ width, height, ink }: Grey, limit: number): number {
  const step = max(1, floor(width / SKEW_WIDTH));
  const points: [x: number, y: number][] = [];
  for (let y = 0; y < height; y += step) for (let x = 0; x < width; x += step) if (ink[y * width + x]! > limit) points.push([x, y]);
  let best = { angle: 0, sharp: -1 };
  for (let angle = -MOST_ASKEW_DEGREES; angle <= MOST_ASKEW_DEGREES; angle += STEP_DEGREES) {
    const [c, s] = [cos((angle * Math.PI) / 180), sin((angle * Math.PI) / 180)];
    const rows = new Map<number, number>();
    for (const [x, y] of points) {
      const row = round((y * c - x * s) / step);
      rows.set(row, (rows.get(row) ?? 0) + 1);
    }
    let sharp = 0;
    for (const count of rows.values()) sharp += count * count;
    if (sharp > best.sharp || (sharp === best.sharp && abs(angle) < abs(best.angle))) best = { angle, sharp };
  }
  return best.angle;
}

/** A place of the straightened picture in the one it was made from: both turn about their middles. */
export function turnedPlace(x: number, y: number, width: number, height: number, degrees: number): [x: number, y: number] {
  const [c, s] = [cos((degrees * Math.PI) / 180), sin((degrees * Math.PI) / 180)];
  const [dx, dy] = [x - width / 2, y - height / 2];
  return [width / 2 + dx * c - dy * s, height / 2 + dx * s + dy * c];
}

/** The picture turned back by so many degrees, at the same size; what lies outside has no ink. */
export function straightened({ width, height, ink }: Grey, degrees: number): Grey {
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [px, py] = turnedPlace(x + 0.5, y + 0.5, width, height, degrees);
      const [u, v] = [px - 0.5, py - 0.5];
      const [u0, v0] = [floor(u), floor(v)];
      if (u0 < 0 || v0 < 0 || u0 + 1 >= width || v0 + 1 >= height) continue;
      const at = v0 * width + u0;
      const [fx, fy] = [u - u0, v - v0];
      out[y * width + x] =
        (ink[at]! * (1 - fx) + ink[at + 1]! * fx) * (1 - fy) + (ink[at + width]! * (1 - fx) + ink[at + width + 1]! * fx) * fy;
    }
  }
  return { width, height, ink: out };
}
