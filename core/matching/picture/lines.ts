// Where lines of lettering may stand in a whole picture: ink darker or lighter than what is around it, in pieces of like height beside one another.
import type { Colours } from "../../evidence/image.ts";
import { regionsOf } from "./connected.ts";
import type { FlatBox } from "../faces/coverage-raster.ts";
import type { Frame } from "./framed.ts";

const { PI, abs, cos, floor, max, min, round, sin, sqrt, tan } = Math;

const LOOKED_AT = 1200;
const MOST_OFFERED = 8;
const MOST_PIECES = 6000;
/** Windows the ground is taken from, as parts of the picture's longer side. */
const WINDOWS = [1 / 40, 1 / 12];

interface Box extends FlatBox {
  area: number;
}
interface Found {
  frame: Frame;
  score: number;
  box: Box;
}

/** Frames around lines of lettering, the likeliest first, in the picture's pixels. Empty when none is found; people draw their own then. */
export function linesOf(picture: Colours): Frame[] {
  const shrunk = max(1, max(picture.width, picture.height) / LOOKED_AT);
  const [width, height] = [max(1, floor(picture.width / shrunk)), max(1, floor(picture.height / shrunk))];
  const light = smaller(picture, width, height, shrunk);
  const found: Found[] = [];
  for (const part of WINDOWS) {
    const reach = max(6, round(max(width, height) * part));
    for (const way of [1, -1] as const) {
      const regions = regionsIn(standsOut(light, width, height, reach, way), width);
      const lines = grouped(pieces(regions, width, height), shrunk);
      const alone = onlyLine(regions, lines, width, height, shrunk);
      found.push(...lines, ...(alone ? [alone] : []));
    }
  }
  found.sort((a, b) => b.score - a.score);
  const kept: Found[] = [];
  for (const one of found) {
    if (kept.length === MOST_OFFERED) break;
    if (!kept.some((other) => shared(one.box, other.box) > 0.35)) kept.push(one);
  }
  return kept.map(({ frame }) => frame);
}

/** So much of a picture's ink must lie in its best line; where less does, and all of it stands in one row, that row is the line. */
const MOSTLY = 0.85;
/** A row is so many times as long as it is high, at least. */
const ROW = 1.4;
/** Specks are so much smaller than the largest piece. */
const SPECK = 0.002;
/** The one row of ink a picture holds, where its letters are in parts, or joined to shapes that are no letters by themselves. */
function onlyLine(regions: readonly Box[], lines: readonly Found[], width: number, height: number, shrunk: number): Found | undefined {
  const largest = max(0, ...regions.map(({ area }) => area));
  const ink = regions.filter(({ area, x0, x1, y0, y1 }) => area > SPECK * largest && (x1 - x0 < 0.97 * width || y1 - y0 < 0.9 * height));
  if (ink.length === 0 || ink.length > MOST_IN_ROW) return undefined;
  const [x0, y0] = [min(...ink.map((one) => one.x0)), min(...ink.map((one) => one.y0))];
  const [x1, y1] = [max(...ink.map((one) => one.x1)), max(...ink.map((one) => one.y1))];
  const [wide, tall] = [x1 - x0, y1 - y0];
  if (tall < 10 || wide < ROW * tall) return undefined;
  const best = [...lines].sort((a, b) => b.score - a.score)[0];
  const all = ink.reduce((sum, { area }) => sum + area, 0);
  const scaled = ({ x0, y0, x1, y1, area }: Box): Box => ({ x0: x0 * shrunk, y0: y0 * shrunk, x1: x1 * shrunk, y1: y1 * shrunk, area });
  const inside = best ? ink.filter((one) => shared(scaled(one), best.box) > 0.9).reduce((sum, { area }) => sum + area, 0) : 0;
  if (inside > MOSTLY * all || parted(ink, y0, y1)) return undefined;
  const heights = ink.map((one) => one.y1 - one.y0).sort((a, b) => b - a);
  const line = along(ink, tiltOf(ink, heights[floor(heights.length / 4)]!), shrunk);
  return { frame: line.frame, box: line.box, score: max(best?.score ?? 0, sqrt(tall) * sqrt(wide)) * 1.01 };
}
/** More pieces are a page. */
const MOST_IN_ROW = 400;
/** Whether an empty row parts the ink into two lines of like height; dots and accents are no line. */
function parted(ink: readonly Box[], top: number, bottom: number): boolean {
  const filled = new Uint8Array(bottom - top);
  for (const { y0, y1 } of ink) filled.fill(1, y0 - top, y1 - top);
  const runs = new TextDecoder()
    .decode(filled.map((one) => (one === 1 ? 35 : 32)))
    .split(/ +/)
    .map((run) => run.length)
    .filter((length) => length > 0);
  return runs.filter((length) => length > max(...runs) / 2).length > 1;
}

function smaller({ width: from, height: rows, data }: Colours, width: number, height: number, shrunk: number): Float32Array {
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
function standsOut(light: Float32Array, width: number, height: number, reach: number, way: 1 | -1): Uint8Array {
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

const regionsIn = (mask: Uint8Array, width: number): Box[] =>
  [...regionsOf(new Int32Array(mask.length), width, (at) => mask[at] === 1, true)].map(({ box, area }) => ({ ...box, area }));

function pieces(regions: readonly Box[], width: number, height: number): Box[] {
  const found = regions.filter(({ x0, x1, y0, y1, area }) => {
    const [w, h] = [x1 - x0, y1 - y0];
    return h >= 8 && h <= 0.75 * height && w <= 0.97 * width && w / h < 14 && h / w < 14 && area / (w * h) > 0.07;
  });
  return found.sort((a, b) => b.area - a.area).slice(0, MOST_PIECES);
}

function grouped(all: readonly Box[], shrunk: number): Found[] {
  const boxes = [...all].sort((a, b) => a.x0 - b.x0);
  const parent = boxes.map((_, i) => i);
  const root = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]!]!;
    return i;
  };
  for (let i = 0; i < boxes.length; i++) {
    const a = boxes[i]!;
    const high = a.y1 - a.y0;
    for (let j = i + 1; j < boxes.length && boxes[j]!.x0 - a.x1 < 2.2 * high; j++) {
      const b = boxes[j]!;
      const other = b.y1 - b.y0;
      const ratio = high / other;
      const overlap = min(a.y1, b.y1) - max(a.y0, b.y0);
      if (ratio < 0.4 || ratio > 2.5 || overlap < 0.45 * min(high, other) || b.x0 - a.x1 > 0.8 * max(high, other)) continue;
      parent[root(j)] = root(i);
    }
  }
  const groups = new Map<number, Box[]>();
  for (const [i, box] of boxes.entries()) groups.set(root(i), [...(groups.get(root(i)) ?? []), box]);
  return [...groups.values(), ...sentencesOf([...groups.values()])].flatMap((group) => {
    const one =
      group.length >= 2
        ? lineOf(group, shrunk)
        : group[0]!.x1 - group[0]!.x0 > 2.5 * (group[0]!.y1 - group[0]!.y0)
          ? lineOf(group, shrunk)
          : undefined;
    return one ?? [];
  });
}

/** Words that stand further apart than letters do, as spaces of one width have it: so far at most, in heights of a letter. */
const WORDS_APART = 2.2;
const LIKE_HIGH = 1.6;
/** Groups that stand beside one another on one line, taken together. */
function sentencesOf(groups: readonly Box[][]): Box[][] {
  const words = groups
    .map((boxes) => {
      const heights = boxes.map(({ y0, y1 }) => y1 - y0).sort((a, b) => a - b);
      const y0 = min(...boxes.map((one) => one.y0));
      const y1 = max(...boxes.map((one) => one.y1));
      return {
        boxes,
        high: heights[floor(heights.length / 2)]!,
        x0: min(...boxes.map((one) => one.x0)),
        x1: max(...boxes.map((one) => one.x1)),
        y0,
        y1,
      };
    })
    .sort((a, b) => a.x0 - b.x0);
  const lines: (typeof words)[] = [];
  for (const word of words) {
    const line = lines.find((one) => {
      const last = one.at(-1)!;
      const tall = max(last.y1 - last.y0, word.y1 - word.y0);
      const overlap = min(last.y1, word.y1) - max(last.y0, word.y0);
      const ratio = (last.y1 - last.y0) / (word.y1 - word.y0);
      return (
        word.x0 - last.x1 <= WORDS_APART * max(last.high, word.high) &&
        word.x0 > last.x0 &&
        ratio < LIKE_HIGH &&
        ratio > 1 / LIKE_HIGH &&
        overlap > 0.55 * tall
      );
    });
    if (line) line.push(word);
    else lines.push([word]);
  }
  return lines.filter((line) => line.length > 1).map((line) => line.flatMap(({ boxes }) => boxes));
}

/** Tilts that are tried, in degrees to either side. */
const MOST_TILT = 16;
const TILT_STEP = 0.5;
/** How far from a line, in heights of a letter, a letter's foot or head may lie and count as standing on it. */
const ON_LINE = 0.05;
/** A line is level unless another tilt puts so many more feet and heads on lines, of all of them, and at least so many. */
const CLEARLY = 0.16;
const LEAST_MORE = 1.4;

/** How many of some heights lie on one line, each counted by how near it lies. */
function onOneLine(heights: readonly number[], within: number): number {
  let most = 0;
  for (const line of heights) {
    let sum = 0;
    for (const at of heights) sum += max(0, 1 - ((at - line) / within) ** 2);
    most = max(most, sum);
  }
  return most;
}

/**
 * The tilt of a line of letters, in radians: at it most of their feet stand on one line and most of their heads reach another, whatever hangs
 * below or stands out above. Level where nothing speaks clearly against it.
 */
export function tiltOf(group: readonly FlatBox[], high: number): number {
  const letters = group.filter(({ y0, y1 }) => y1 - y0 > 0.45 * high).slice(0, MOST_TILTED);
  if (letters.length < 4) return 0;
  const stand = (degrees: number): number => {
    const slope = tan((degrees * PI) / 180);
    const lifted = (y: number, { x0, x1 }: FlatBox) => y - slope * ((x0 + x1) / 2);
    const feet = letters.map((one) => lifted(one.y1, one));
    const heads = letters.map((one) => lifted(one.y0, one));
    return onOneLine(feet, ON_LINE * high) + onOneLine(heads, ON_LINE * high);
  };
  const level = stand(0);
  let best = { degrees: 0, stand: level };
  for (let degrees = -MOST_TILT; degrees <= MOST_TILT; degrees += TILT_STEP) {
    const one = stand(degrees);
    if (one > best.stand) best = { degrees, stand: one };
  }
  if (best.stand < level + max(LEAST_MORE, CLEARLY * 2 * letters.length)) return 0;
  for (let degrees = best.degrees - TILT_STEP; degrees <= best.degrees + TILT_STEP; degrees += TILT_STEP / 5) {
    const one = stand(degrees);
    if (one > best.stand) best = { degrees, stand: one };
  }
  return (best.degrees * PI) / 180;
}
const MOST_TILTED = 120;

/** A frame along a group's tilt, with room around. */
function along(group: readonly Box[], angle: number, shrunk: number): { frame: Frame; box: Box; wide: number; tall: number } {
  const n = group.length;
  const [mx, my] = [
    group.reduce((sum, { x0, x1 }) => sum + (x0 + x1) / 2, 0) / n,
    group.reduce((sum, { y0, y1 }) => sum + (y0 + y1) / 2, 0) / n,
  ];
  const [c, s] = [cos(angle), sin(angle)];
  let [u0, v0, u1, v1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { x0, y0, x1, y1 } of group) {
    // Pieces are about upright: their middles are turned, their sizes kept.
    const [u, v] = [((x0 + x1) / 2 - mx) * c + ((y0 + y1) / 2 - my) * s, -((x0 + x1) / 2 - mx) * s + ((y0 + y1) / 2 - my) * c];
    u0 = min(u0, u - (x1 - x0) / 2);
    u1 = max(u1, u + (x1 - x0) / 2);
    v0 = min(v0, v - (y1 - y0) / 2);
    v1 = max(v1, v + (y1 - y0) / 2);
  }
  const [wide, tall] = [u1 - u0, v1 - v0];
  const room = max(3, 0.14 * tall);
  const at = (u: number, v: number) => [round((mx + u * c - v * s) * shrunk), round((my + u * s + v * c) * shrunk)] as const;
  const frame: Frame = [at(u0 - room, v0 - room), at(u1 + room, v0 - room), at(u1 + room, v1 + room), at(u0 - room, v1 + room)];
  const box = {
    x0: min(...frame.map(([x]) => x)),
    y0: min(...frame.map(([, y]) => y)),
    x1: max(...frame.map(([x]) => x)),
    y1: max(...frame.map(([, y]) => y)),
    area: 0,
  };
  return { frame, box, wide, tall };
}

function lineOf(group: readonly Box[], shrunk: number): Found | undefined {
  const heights = group.map(({ y0, y1 }) => y1 - y0).sort((a, b) => a - b);
  const high = heights[floor(heights.length / 2)]!;
  const n = group.length;
  const { frame, box, wide, tall } = along(group, tiltOf(group, high), shrunk);
  if (wide < 1.2 * high || tall > 3.2 * high) return undefined;
  const even = group.filter(({ y0, y1 }) => y1 - y0 > 0.5 * high && y1 - y0 < 2 * high).length / n;
  return { frame, box, score: even * sqrt(tall) * sqrt(wide) * min(1, n / 4) };
}

function shared(a: Box, b: Box): number {
  const [w, h] = [min(a.x1, b.x1) - max(a.x0, b.x0), min(a.y1, b.y1) - max(a.y0, b.y0)];
  if (w <= 0 || h <= 0) return 0;
  return (w * h) / min((a.x1 - a.x0) * (a.y1 - a.y0), (b.x1 - b.x0) * (b.y1 - b.y0));
}
