// Ink that hangs together: the pieces a line of lettering falls into, and which of them make a letter.
import type { Grey } from "../../evidence/raster.ts";
import { regionsOf } from "./connected.ts";
import type { FlatBox } from "../faces/coverage-raster.ts";

const { ceil, floor, max, min } = Math;

export interface Piece {
  /** In pixels, whole ones. */
  box: FlatBox;
  /** In pixels. */
  area: number;
  labels: number[];
}
export interface Inked {
  grey: Grey;
  /** The piece each pixel belongs to, from 1 upwards; 0 belongs to none. Pixels beside a piece, which are half inked, are its own too. */
  labels: Int32Array;
  pieces: Piece[];
  /** Around all pieces. */
  box: FlatBox;
}

/** Specks are smaller than this part of the square of the line's height. */
const SPECK = 0.0025;
const MOST_PIECES = 1200;

/** Undefined when there is no ink, or far too many pieces of it for a line of letters. */
export function inkedPieces(grey: Grey, limit: number): Inked | undefined {
  const { width, height, ink } = grey;
  const labels = new Int32Array(width * height);
  const found: Piece[] = [];
  for (const { box, area, label } of regionsOf(labels, width, (at) => ink[at]! > limit, true)) {
    found.push({ box, area, labels: [label] });
    if (found.length > 40 * MOST_PIECES) return undefined;
  }
  const pieces = ofTheLine(found, width, height);
  if (pieces.length === 0 || pieces.length > MOST_PIECES) return undefined;
  const kept = new Set(pieces.flatMap((piece) => piece.labels));
  for (let i = 0; i < labels.length; i++) if (labels[i] !== 0 && !kept.has(labels[i]!)) labels[i] = -1;
  widen(labels, ink, width, height);
  return { grey, labels, pieces, box: around(pieces.map(({ box }) => box)) };
}

export const around = (boxes: readonly FlatBox[]): FlatBox => ({
  x0: min(...boxes.map(({ x0 }) => x0)),
  y0: min(...boxes.map(({ y0 }) => y0)),
  x1: max(...boxes.map(({ x1 }) => x1)),
  y1: max(...boxes.map(({ y1 }) => y1)),
});

/** Pieces that can be letters of the line: no specks, nothing that comes in from above or below the frame. */
function ofTheLine(all: readonly Piece[], width: number, height: number): Piece[] {
  const tall = Math.max(0, ...all.map(({ box }) => (box.y1 - box.y0 < height ? box.y1 - box.y0 : 0)));
  const big = all.filter(({ area }) => area >= max(4, SPECK * tall * tall));
  if (big.length === 0) return [];
  // The band most ink lies in.
  const heavy = [...big].sort((a, b) => b.area - a.area).slice(0, ceil(big.length / 2));
  const middles = heavy.map(({ box }) => (box.y0 + box.y1) / 2).sort((a, b) => a - b);
  const middle = middles[floor(middles.length / 2)]!;
  const heights = heavy.map(({ box }) => box.y1 - box.y0).sort((a, b) => a - b);
  const usual = heights[floor(heights.length / 2)]!;
  return big.filter(({ box, area }) => {
    const cut = box.y0 <= 0 || box.y1 >= height;
    const far = Math.abs((box.y0 + box.y1) / 2 - middle) > 0.75 * usual;
    if (cut && far) return false;
    // What runs along the whole frame is its edge or a rule.
    if (box.x1 - box.x0 > 0.9 * width && box.y1 - box.y0 < 0.12 * height && big.length > 2) return false;
    // A piece that fills the frame is the ground.
    return !(box.x0 <= 0 && box.y0 <= 0 && box.x1 >= width && box.y1 >= height && area > 0.5 * width * height);
  });
}

/** Gives the fringe of each piece, two pixels wide, to it. */
function widen(labels: Int32Array, ink: Float32Array, width: number, height: number): void {
  for (let round = 0; round < 2; round++) {
    const before = Int32Array.from(labels);
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const at = y * width + x;
        if (before[at] !== 0 || ink[at] === 0) continue;
        const near =
          (x > 0 && before[at - 1]!) ||
          (x + 1 < width && before[at + 1]!) ||
          (y > 0 && before[at - width]!) ||
          (y + 1 < height && before[at + width]!) ||
          0;
        if (near > 0) labels[at] = near;
      }
    }
  }
}

/** Pieces that stand over one another are one letter: dots and accents, the parts of a percent sign or of a Hebrew he. From left to right. */
export function groupsOf({ pieces }: Inked): Piece[] {
  const groups: Piece[] = [];
  const byWidth = [...pieces].sort((a, b) => b.area - a.area);
  for (const piece of byWidth) {
    const over = groups.find(({ box }) => {
      const shared = min(box.x1, piece.box.x1) - max(box.x0, piece.box.x0);
      const narrow = min(box.x1 - box.x0, piece.box.x1 - piece.box.x0);
      const sharedHeight = min(box.y1, piece.box.y1) - max(box.y0, piece.box.y0);
      const low = min(box.y1 - box.y0, piece.box.y1 - piece.box.y0);
      const part = shared / narrow;
      return part > 0.85 || (part > 0.35 && sharedHeight < 0.25 * low);
    });
    if (over) {
      over.box = around([over.box, piece.box]);
      over.area += piece.area;
      over.labels.push(...piece.labels);
    } else groups.push({ box: { ...piece.box }, area: piece.area, labels: [...piece.labels] });
  }
  return groups.sort((a, b) => a.box.x0 + a.box.x1 - b.box.x0 - b.box.x1);
}

/** A letter's own ink: a part of the line without what its neighbours have there. */
export interface LetterInk {
  ink: Float32Array;
  width: number;
  height: number;
  /** Where the part begins in the line. */
  x: number;
  y: number;
  /** Its edges, in pixels of the line, to parts of one. */
  box: FlatBox;
}
const ROOM = 3;
/** What `labels` hold between two columns; undefined when that is nothing. */
export function letterInk({ grey, labels }: Inked, own: readonly number[], rough: FlatBox): LetterInk | undefined {
  const [x0, x1] = [max(0, floor(rough.x0) - ROOM), min(grey.width, ceil(rough.x1) + ROOM)];
  const [y0, y1] = [max(0, floor(rough.y0) - ROOM), min(grey.height, ceil(rough.y1) + ROOM)];
  const [width, height] = [x1 - x0, y1 - y0];
  if (width <= 0 || height <= 0) return undefined;
  const set = new Set(own);
  const ink = new Float32Array(width * height);
  const [columns, rows] = [new Float32Array(width), new Float32Array(height)];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = (y + y0) * grey.width + x + x0;
      if (!set.has(labels[at]!) || x + x0 < rough.x0 - 1 || x + x0 > rough.x1) continue;
      const value = grey.ink[at]!;
      ink[y * width + x] = value;
      columns[x] = max(columns[x]!, value);
      rows[y] = max(rows[y]!, value);
    }
  }
  const [left, right] = edges(columns);
  const [top, bottom] = edges(rows);
  if (!(left < right && top < bottom)) return undefined;
  return { ink, width, height, x: x0, y: y0, box: { x0: x0 + left, x1: x0 + right, y0: y0 + top, y1: y0 + bottom } };
}
/** Where a profile first and last passes one half, between its pixels. */
function edges(profile: Float32Array): [number, number] {
  const n = profile.length;
  const at = (i: number) => (i < 0 || i >= n ? 0 : profile[i]!);
  let [first, last] = [0, n - 1];
  while (first < n && at(first) < 0.5) first++;
  while (last >= 0 && at(last) < 0.5) last--;
  if (first > last) return [0, 0];
  const before = (0.5 - at(first - 1)) / (at(first) - at(first - 1));
  const after = (0.5 - at(last + 1)) / (at(last) - at(last + 1));
  return [first - 0.5 + before, last + 1.5 - after];
}
