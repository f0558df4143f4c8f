// Hollow letters: words of which only a line along the edges is drawn, made solid so that they can be compared with a font's own.
import type { Patch } from "./fit.ts";

/** Lines are looked at so many times finer than the picture's pixels. */
const FINER = 3;
/** Ink of which a line is made: thin ones are never full. */
const LINE = 0.5;
/** A line along edges is no wider than this, in parts of the words' height or in pixels; stems are. */
const WIDEST = 0.06;
const WIDEST_PIXELS = 4;
/** Steps of distance to neighbours beside and across a corner (Borgefors, "Distance transformations in digital images", 3-4). */
const [BESIDE, ACROSS] = [3, 4];
const FAR = 1 << 20;

/** How far each pixel lies from the nearest one that is `from`, on a line; elsewhere 0 or far, in thirds of a pixel. */
function distances(from: Uint8Array, line: Uint8Array, width: number, height: number): Int32Array {
  const far = Int32Array.from(from, (is) => (is ? 0 : FAR));
  const near = (at: number, x: number, y: number, dx: number, dy: number) => {
    const [u, v] = [x + dx, y + dy];
    if (u < 0 || v < 0 || u >= width || v >= height) return;
    const through = far[v * width + u]! + (dx !== 0 && dy !== 0 ? ACROSS : BESIDE);
    if (through < far[at]!) far[at] = through;
  };
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) if (line[at]) for (const [dx, dy] of BEFORE) near(at, x, y, dx, dy);
  for (let y = height - 1, at = far.length - 1; y >= 0; y--)
    for (let x = width - 1; x >= 0; x--, at--) if (line[at]) for (const [dx, dy] of BEFORE) near(at, x, y, -dx, -dy);
  return far;
}
const BEFORE = [
  [-1, 0],
  [-1, -1],
  [0, -1],
  [1, -1],
] as const;

/**
 * How many lines lie between each pixel of paper and the outside; -1 on lines. Paper within one line is a letter's inside, within two its
 * counter.
 */
function depths(line: Uint8Array, width: number, height: number): Int16Array {
  const depth = new Int16Array(line.length).fill(-2);
  // Paper next to what was flooded is as deep; a line met from there leads one deeper.
  let rim: number[] = [];
  for (let x = 0; x < width; x++) rim.push(x, (height - 1) * width + x);
  for (let y = 0; y < height; y++) rim.push(y * width, y * width + width - 1);
  rim = rim.filter((at) => !line[at]);
  for (let level = 0; rim.length > 0 && level < 16; level++) {
    const crossed: number[] = [];
    const flood = (starts: readonly number[], onLine: boolean, value: number, beyond: number[]) => {
      const waiting = starts.filter((at) => depth[at] === -2);
      for (const at of waiting) depth[at] = value;
      for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
        const x = at % width;
        for (const next of [x > 0 ? at - 1 : -1, x < width - 1 ? at + 1 : -1, at - width, at + width]) {
          if (next < 0 || next >= depth.length || depth[next] !== -2) continue;
          if (Boolean(line[next]) !== onLine) beyond.push(next);
          else {
            depth[next] = value;
            waiting.push(next);
          }
        }
      }
    };
    flood(rim, false, level, crossed);
    rim = [];
    flood(crossed, true, -1, rim);
  }
  return depth;
}

/** Words made solid, their edges along the middle of the line; undefined where no thin line runs around them. */
export function solid(patch: Patch): Patch | undefined {
  const { grey } = patch;
  const [width, height] = [grey.width * FINER, grey.height * FINER];
  const line = new Uint8Array(width * height);
  let [area, sides] = [0, 0];
  for (let y = 0, at = 0; y < height; y++) {
    const v = Math.min(grey.height - 1.001, Math.max(0, (y + 0.5) / FINER - 0.5));
    const [v0, fy] = [Math.floor(v), v - Math.floor(v)];
    for (let x = 0; x < width; x++, at++) {
      const u = Math.min(grey.width - 1.001, Math.max(0, (x + 0.5) / FINER - 0.5));
      const [u0, fx] = [Math.floor(u), u - Math.floor(u)];
      const from = v0 * grey.width + u0;
      const above = grey.ink[from]! * (1 - fx) + grey.ink[from + 1]! * fx;
      const below = grey.ink[from + grey.width]! * (1 - fx) + grey.ink[from + grey.width + 1]! * fx;
      line[at] = above * (1 - fy) + below * fy > LINE ? 1 : 0;
      area += line[at]!;
      if (x > 0 && line[at] !== line[at - 1]) sides++;
      if (y > 0 && line[at] !== line[at - width]) sides++;
    }
  }
  // Sides of pixels are longer than the edge they follow, by 4/π on average.
  const wide = (2 * area) / ((sides * Math.PI) / 4 || 1) / FINER;
  if (wide > Math.max(WIDEST_PIXELS, WIDEST * patch.line.height)) return undefined;
  const depth = depths(line, width, height);
  let within = 0;
  for (const one of depth) if (one > 0 && one % 2 === 1) within++;
  if (within < area / 4) return undefined;
  const outside = distances(
    Uint8Array.from(depth, (one) => (one >= 0 && one % 2 === 0 ? 1 : 0)),
    line,
    width,
    height,
  );
  const inside = distances(
    Uint8Array.from(depth, (one) => (one > 0 && one % 2 === 1 ? 1 : 0)),
    line,
    width,
    height,
  );
  const ink = new Float32Array(grey.ink.length);
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at++) {
      const nearer = outside[at]! - inside[at]!;
      // What lies right between them is half in.
      if (nearer >= 0) ink[Math.floor(y / FINER) * grey.width + Math.floor(x / FINER)]! += (nearer > 0 ? 1 : 0.5) / FINER ** 2;
    }
  }
  const { x, y, width: w, height: h } = patch.line;
  const half = wide / 2;
  return { ...patch, grey: { ...grey, ink }, line: { ...patch.line, x: x + half, y: y + half, width: w - wide, height: h - wide } };
}
