// Laying a font's own outlines over words in a picture, to parts of a pixel: how far each letter's edges lie from where the font has them.
import * as hb from "harfbuzzjs";
import { inReadingOrder, type Base } from "../words/reading-order.ts";
import { boxAround, type Box, type Point } from "./drawing/geometry.ts";
import { glyphPolygons } from "./drawing/shapes.ts";
import { fillPolygons, openFont, resample, type Grey, type Line } from "./raster.ts";

// Taken once: they are asked millions of times for one file.
const { abs, ceil, floor, hypot, max, min, round, sqrt } = Math;

/** One letter, or what letters were joined to: outlines in ems, y downwards, where the font sets it. */
interface Letter {
  polygons: Point[][];
  box: Box;
}
export interface SetWords {
  letters: Letter[];
  box: Box;
}
interface LetterFit {
  /** Root of the mean squared distance of its edges from where they should be, in pixels. */
  rms: number;
  /** How much further out its edges lie on the whole: positive where it is bolder. */
  bias: number;
  edges: number;
}
export interface Fit {
  /** Over all letters. */
  rms: number;
  bias: number;
  letters: LetterFit[];
  /** The part of the ink that no letter explains, and of the letters where there is none. */
  unexplained: number;
  /** Pixels an em. */
  scale: number;
  /** Width by height as it is drawn, by that of the font. */
  stretch: number;
  /** Between letters, beyond what the font sets, in ems. */
  spacing: number;
  /** Outlines as they lie in the picture. */
  polygons: Point[][];
}

/** The words asked for last, by font: one picture is looked at several times. */
const known = new WeakMap<Uint8Array, { key: string; words: SetWords | undefined }>();
/** Words as a font sets them; undefined when it lacks a character. */
export function setWords(bytes: Uint8Array, index: number, words: string, base: Base = "auto"): SetWords | undefined {
  const key = `${index} ${base} ${words}`;
  const before = known.get(bytes);
  if (before?.key === key) return before.words;
  const set = newlySet(bytes, index, words, base);
  known.set(bytes, { key, words: set });
  return set;
}
function newlySet(bytes: Uint8Array, index: number, words: string, base: Base): SetWords | undefined {
  const { font, characters, upem } = openFont(bytes, index);
  for (const character of words) if (!/\s/u.test(character) && !characters.has(character.codePointAt(0)!)) return undefined;
  const letters: Letter[] = [];
  let pen = 0;
  for (const { text, level } of inReadingOrder(words, base)) {
    const buffer = new hb.Buffer();
    buffer.addText(text);
    buffer.guessSegmentProperties();
    buffer.setDirection(level % 2 === 1 ? hb.Direction.RTL : hb.Direction.LTR);
    hb.shape(font, buffer);
    for (const info of buffer.getGlyphInfosAndPositions()) {
      const [left, up] = [pen + (info.xOffset ?? 0), info.yOffset ?? 0];
      pen += info.xAdvance ?? 0;
      const polygons = glyphPolygons(font, info.codepoint, (x, y) => [(left + x) / upem, -(up + y) / upem]);
      const real = polygons.filter((one) => one.length > 2);
      if (real.length > 0) letters.push({ polygons: real, box: boxAround(real.flat()) });
    }
  }
  if (letters.length === 0) return undefined;
  return {
    letters,
    box: boxAround(
      letters.flatMap(({ box }): Point[] => [
        [box.x0, box.y0],
        [box.x1, box.y1],
      ]),
    ),
  };
}

/** Around the line, so that edges have room. */
const MARGIN = 4;
/** Half of the way across an edge that is looked at, in pixels, and its steps. */
const REACH = 1.75;
const STEP = 0.5;
const ROUNDS = 3;
/** Edges that lie further off on the whole, once the words are laid over, are another font's. */
const HOPELESS = 1.4;
/** Letters stand where a program rounds them to. */
const MOST_MOVED = 1.6;
const MOST_SPACING = 0.35;

interface Edge {
  x: number;
  y: number;
  nx: number;
  ny: number;
  letter: number;
}
interface Place {
  x: number;
  y: number;
  scale: number;
  stretch: number;
  spacing: number;
  moved: { x: number; y: number }[];
}

/** The part of a picture a line lies in, its ink from 0 to 1. */
export interface Patch {
  grey: Grey;
  /** Where it lies in the picture. */
  x: number;
  y: number;
  /** Pixels of the picture for one of its own, across and down. */
  shrunk: readonly [number, number];
  /** The line in it, in its own pixels. */
  line: Line;
  /** Rows that are not looked at: an underline runs there. */
  masked: readonly boolean[];
}

/** A line is looked at no larger than this, in pixels: beyond it every pixel costs and tells nothing. */
const MOST_HIGH = 220;
const MOST_WIDE = 2400;

/** Cuts a line out, made smaller where it is large, with even ink: what paper is around it counts as none, the darkest as full. */
export function patchOf(picture: Grey, line: Line): Patch {
  const shrunk = max(1, line.height / MOST_HIGH, line.width / MOST_WIDE);
  const margin = MARGIN * shrunk;
  const [x0, y0] = [max(0, floor(line.x - margin)), max(0, floor(line.y - margin))];
  const [x1, y1] = [min(picture.width, ceil(line.x + line.width + margin)), min(picture.height, ceil(line.y + line.height + margin))];
  const [w, h] = [max(1, round((x1 - x0) / shrunk)), max(1, round((y1 - y0) / shrunk))];
  const [sx, sy] = [(x1 - x0) / w, (y1 - y0) / h];
  const own = resample(picture, { x: x0, y: y0, width: x1 - x0, height: y1 - y0 }, w, h).ink;
  const sorted = Float32Array.from(own).sort();
  const paper = sorted[floor(sorted.length * 0.2)]!;
  const inked = sorted.filter((value) => value > (paper + sorted[sorted.length - 1]!) / 2);
  const full = inked[floor(inked.length * 0.6)] ?? 1;
  const range = max(0.05, full - paper);
  for (let i = 0; i < own.length; i++) own[i] = max(0, min(1, (own[i]! - paper) / range));
  const grey = { width: w, height: h, ink: own };
  const inner = { x: (line.x - x0) / sx, y: (line.y - y0) / sy, width: line.width / sx, height: line.height / sy };
  return { grey, x: x0, y: y0, shrunk: [sx, sy], line: inner, masked: new Array<boolean>(h).fill(false) };
}

/** An underline is a run of ink as long as the words, low and thin: its rows are masked, and the line ends above it. */
export function withoutUnderline(patch: Patch): Patch | undefined {
  const { grey, line } = patch;
  const [left, right, top] = [floor(line.x), floor(line.x + line.width), floor(line.y)];
  const rowRun = (y: number): number => {
    let [best, run] = [0, 0];
    for (let x = left; x < right; x++) {
      run = grey.ink[y * grey.width + x]! > 0.4 ? run + 1 : 0;
      best = max(best, run);
    }
    return best / line.width;
  };
  const rows = Array.from({ length: floor(line.height) }, (_, i) => top + i).filter((y) => rowRun(y) > 0.93);
  if (rows.length === 0 || rows.length > line.height * 0.15 || rows[0]! < line.y + line.height * 0.55) return undefined;
  const masked = patch.masked.map((_, y) => y >= rows[0]! - 2 && y <= rows.at(-1)! + 2);
  const inked = (y: number) => {
    for (let x = left; x < right; x++) if (grey.ink[y * grey.width + x]! > 0.5) return true;
    return false;
  };
  let bottom = floor(line.y + line.height) - 1;
  while (bottom > top && (masked[bottom]! || !inked(bottom))) bottom--;
  return { ...patch, masked, line: { ...line, height: bottom + 1 - line.y } };
}

const bilinear = ({ width, height, ink }: Grey, x: number, y: number): number => {
  const [u, v] = [x - 0.5, y - 0.5];
  const [u0, v0] = [floor(u), floor(v)];
  if (u0 < 0 || v0 < 0 || u0 + 1 >= width || v0 + 1 >= height) return 0;
  const [fx, fy] = [u - u0, v - v0];
  const at = v0 * width + u0;
  return (ink[at]! * (1 - fx) + ink[at + 1]! * fx) * (1 - fy) + (ink[at + width]! * (1 - fx) + ink[at + width + 1]! * fx) * fy;
};

const placed = (words: SetWords, place: Place): Point[][][] =>
  words.letters.map(({ polygons }, i) => {
    const { x: mx, y: my } = place.moved[i]!;
    const left = place.x + mx + i * place.spacing * place.scale;
    return polygons.map((polygon) =>
      polygon.map(([x, y]): Point => [left + x * place.scale * place.stretch, place.y + my + y * place.scale]),
    );
  });

/** Points along the edges, a pixel apart, with the way outwards; those too near another edge say nothing. */
function edgesOf(letters: readonly Point[][][], drawn: Grey): Edge[] {
  const edges: Edge[] = [];
  for (const [letter, polygons] of letters.entries()) {
    for (const polygon of polygons) {
      let carried = 0;
      for (const [i, [bx, by]] of polygon.entries()) {
        const [ax, ay] = polygon[i === 0 ? polygon.length - 1 : i - 1]!;
        const long = hypot(bx - ax, by - ay);
        if (long === 0) continue;
        const [nx, ny] = [(by - ay) / long, -(bx - ax) / long];
        let at = 1 - carried;
        for (; at <= long; at += 1) {
          const [x, y] = [ax + ((bx - ax) * at) / long, ay + ((by - ay) * at) / long];
          const [one, other] = [bilinear(drawn, x + nx * REACH, y + ny * REACH), bilinear(drawn, x - nx * REACH, y - ny * REACH)];
          if (one < 0.2 && other > 0.8) edges.push({ x, y, nx, ny, letter });
          else if (other < 0.2 && one > 0.8) edges.push({ x, y, nx: -nx, ny: -ny, letter });
        }
        carried = (carried + long) % 1;
      }
    }
  }
  return edges;
}
/** How far out an edge lies: what ink is `more` than was drawn, across it. */
function offsetOf(more: Grey, { x, y, nx, ny }: Edge): number {
  let sum = 0;
  for (let t = -REACH; t <= REACH; t += STEP) sum += bilinear(more, x + nx * t, y + ny * t);
  return sum * STEP;
}

/** Least squares: the vector that makes `rows · v` nearest to `values`; undefined when they do not say. */
function solved(rows: readonly (readonly number[])[], values: readonly number[]): number[] | undefined {
  const n = rows[0]?.length ?? 0;
  const matrix = Array.from({ length: n }, () => new Array<number>(n + 1).fill(0));
  for (const [k, row] of rows.entries()) {
    for (let i = 0; i < n; i++) {
      for (let j = 0; j < n; j++) matrix[i]![j]! += row[i]! * row[j]!;
      matrix[i]![n]! += row[i]! * values[k]!;
    }
  }
  for (let i = 0; i < n; i++) matrix[i]![i]! += 1e-6;
  for (let i = 0; i < n; i++) {
    let pivot = i;
    for (let j = i + 1; j < n; j++) if (abs(matrix[j]![i]!) > abs(matrix[pivot]![i]!)) pivot = j;
    if (abs(matrix[pivot]![i]!) < 1e-9) return undefined;
    [matrix[i], matrix[pivot]] = [matrix[pivot]!, matrix[i]!];
    for (let j = 0; j < n; j++) {
      if (j === i) continue;
      const factor = matrix[j]![i]! / matrix[i]![i]!;
      for (let k = i; k <= n; k++) matrix[j]![k]! -= factor * matrix[i]![k]!;
    }
  }
  return matrix.map((row, i) => row[n]! / row[i]!);
}

const clipped = (value: number, most: number): number => max(-most, min(most, value));

/** Lays words over a line, as the font sets them or spaced out. Undefined when they are of other proportions. */
export function fitWords(patch: Patch, words: SetWords, spaced: boolean): Fit | undefined {
  const { grey, line, masked } = patch;
  const [wide, high] = [words.box.x1 - words.box.x0, words.box.y1 - words.box.y0];
  const count = words.letters.length;
  const scale = spaced ? line.height / high : line.width / wide;
  const spacing = spaced ? (line.width / scale - wide) / max(1, count - 1) : 0;
  if (abs(spacing) > MOST_SPACING || (spaced && abs(spacing) * scale * (count - 1) < 2)) return undefined;
  if (abs(scale * high - line.height) > max(3, line.height * 0.05)) return undefined;
  const place: Place = {
    x: line.x - words.box.x0 * scale,
    y: line.y - words.box.y0 * scale + (line.height - scale * high) / 2,
    scale,
    stretch: 1,
    spacing,
    moved: words.letters.map(() => ({ x: 0, y: 0 })),
  };
  const centre = { x: line.x + line.width / 2, y: line.y + line.height / 2 };
  let letters: Point[][][] = [];
  let drawn: Grey = grey;
  let edges: Edge[] = [];
  let offsets: number[] = [];
  const draw = () => {
    letters = placed(words, place);
    drawn = fillPolygons(letters.flat(), grey.width, grey.height);
    edges = edgesOf(letters, drawn).filter(({ y }) => !masked[floor(y)]);
    const more = { ...grey, ink: grey.ink.map((value, i) => value - drawn.ink[i]!) };
    offsets = edges.map((edge) => offsetOf(more, edge));
  };
  for (let round = 0; round < ROUNDS; round++) {
    draw();
    if (edges.length < 12 * count) return undefined;
    if (round === ROUNDS - 1 && sqrt(offsets.reduce((sum, value) => sum + value * value, 0) / offsets.length) > HOPELESS) return undefined;
    // Where the whole stands, how large and how wide it is, and how far apart its letters are.
    const rows = edges.map(({ x, y, nx, ny, letter }) => [
      nx,
      ny,
      nx * (x - centre.x) + ny * (y - centre.y),
      nx * (x - centre.x),
      ...(spaced ? [nx * (letter - (count - 1) / 2)] : []),
      1,
    ]);
    const found = solved(rows, offsets);
    if (!found) return undefined;
    const [tx = 0, ty = 0, larger = 0, wider = 0] = found;
    const apart = spaced ? found[4]! : 0;
    const grown = 1 + clipped(larger, 0.03);
    const stretched = 1 + clipped(wider, 0.03);
    place.x = centre.x + (place.x - centre.x) * grown * stretched + clipped(tx, 3) - (spaced ? (apart * (count - 1)) / 2 : 0);
    place.y = centre.y + (place.y - centre.y) * grown + clipped(ty, 3);
    place.scale *= grown;
    place.stretch *= stretched;
    if (spaced) place.spacing = place.spacing * grown * stretched + apart / place.scale;
  }
  // Each letter stands where its program rounded it to.
  draw();
  for (let i = 0; i < count; i++) {
    const own = edges.flatMap((edge, k) => (edge.letter === i ? [{ edge, offset: offsets[k]! }] : []));
    if (own.length < 8) continue;
    const found = solved(
      own.map(({ edge: { nx, ny } }) => [nx, ny, 1]),
      own.map(({ offset }) => offset),
    );
    if (!found) continue;
    place.moved[i] = {
      x: clipped(place.moved[i]!.x + found[0]!, MOST_MOVED),
      y: clipped(place.moved[i]!.y + found[1]!, MOST_MOVED / 2),
    };
  }
  draw();
  const fits = words.letters.map((_, i): LetterFit => {
    const own = offsets.filter((_value, k) => edges[k]!.letter === i);
    const mean = own.reduce((sum, value) => sum + value, 0) / max(1, own.length);
    return { rms: sqrt(own.reduce((sum, value) => sum + value * value, 0) / max(1, own.length)), bias: mean, edges: own.length };
  });
  let [inked, off] = [0, 0];
  for (let y = 0; y < grey.height; y++) {
    if (masked[y]) continue;
    for (let x = 0; x < grey.width; x++) {
      const at = y * grey.width + x;
      inked += drawn.ink[at]!;
      if (abs(grey.ink[at]! - drawn.ink[at]!) > 0.6) off++;
    }
  }
  return {
    rms: sqrt(offsets.reduce((sum, value) => sum + value * value, 0) / offsets.length),
    bias: offsets.reduce((sum, value) => sum + value, 0) / offsets.length,
    letters: fits,
    unexplained: off / max(1, inked),
    scale: place.scale,
    stretch: place.stretch,
    spacing: place.spacing,
    polygons: letters
      .flat()
      .map((polygon) => polygon.map(([x, y]): Point => [patch.x + x * patch.shrunk[0], patch.y + y * patch.shrunk[1]])),
  };
}
