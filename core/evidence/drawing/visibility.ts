// Which of the letters of a page stand out from what was drawn before and after them (ISO 32000-1, 11 "Transparency").
import { apart, apply, holds } from "./geometry.ts";
import type { Area, Box, Matrix, Point } from "./geometry.ts";
import type { DrawnLetter } from "./letters.ts";
import type { Pixels } from "./operators.ts";
import { BLACK, difference, PAPER, type Rgb } from "./state.ts";

/** Something painted, in the order of painting. */
export interface Painted {
  order: number;
  area: Area;
  clips: readonly Area[];
  /** Undefined when it is not known. */
  colour: Rgb | undefined;
  picture?: { pixels: Pixels; back: Matrix };
  alpha: number;
  /** It may show what lies under it. */
  lets: boolean;
}
/** A letter where it was drawn. */
export interface Placed {
  letter: DrawnLetter;
  order: number;
  points: Point[];
  box: Box;
  origin: Point;
  colour: Rgb | undefined;
  em: number;
}

/** Colours nearer than this are one to an eye; nearer than the other, hard to tell apart. */
const ALIKE = 10;
export const NEARLY_ALIKE = 26;
/** A second letter this near, in ems, makes a letter bolder. */
const TWICE = { least: 0.003, most: 0.08 };
/** How many of the same letter before it a letter is held against. */
const LATELY = 12;

const opacity = new WeakMap<Pixels, boolean>();
/** Whether nothing shows through a picture. */
export function opaque(pixels: Pixels): boolean {
  let known = opacity.get(pixels);
  if (known === undefined) {
    const { kind, data } = pixels;
    known = kind === 1 || kind === 2;
    if (kind === 3 && data) {
      known = true;
      for (let at = 3; known && at < data.length; at += 4) known = data[at]! > 250;
    }
    opacity.set(pixels, known);
  }
  return known;
}

function pixelAt({ pixels, back }: { pixels: Pixels; back: Matrix }, x: number, y: number): { colour: Rgb; alpha: number } | undefined {
  const { width, height, kind, data } = pixels;
  if (!data || !kind) return undefined;
  const [u, v] = apply(back, x, y);
  const [column, row] = [Math.min(width - 1, Math.floor(u * width)), Math.min(height - 1, Math.floor((1 - v) * height))];
  if (kind === 1) {
    const bit = (data[row * ((width + 7) >> 3) + (column >> 3)]! >> (7 - (column & 7))) & 1;
    return { colour: bit ? PAPER : BLACK, alpha: 1 };
  }
  const at = (row * width + column) * (kind === 2 ? 3 : 4);
  return { colour: [data[at]!, data[at + 1]!, data[at + 2]!], alpha: kind === 2 ? 1 : data[at + 3]! / 255 };
}

/** What lies under a letter: paper of its own colour hides it. */
function judgeUnder({ letter, order, points, colour }: Placed, painted: readonly Painted[]): void {
  if (!colour) return;
  const [x, y] = points[Math.floor(points.length / 2)]!;
  let ground: Rgb | undefined = PAPER;
  for (const one of painted) {
    if (one.order > order) break;
    if (!holds(one.area, x, y) || !one.clips.every((clip) => holds(clip, x, y))) continue;
    const over = one.picture ? pixelAt(one.picture, x, y) : one.colour && { colour: one.colour, alpha: 1 };
    const alpha = (over?.alpha ?? 1) * one.alpha;
    if (!over || one.lets) ground = over && ground && difference(over.colour, ground) <= ALIKE ? ground : undefined;
    else
      ground =
        alpha >= 0.99
          ? over.colour
          : ground && (over.colour.map((value, i) => value * alpha + ground![i]! * (1 - alpha)) as unknown as Rgb);
  }
  if (!ground) {
    // Dark letters on a picture show; pale ones may not.
    if (Math.min(...colour) > 200) Object.assign(letter, { shows: "unsure", why: "paper" });
    return;
  }
  const far = difference(colour, ground);
  if (far <= ALIKE) Object.assign(letter, { shows: "no", why: "paper" });
  else if (far <= NEARLY_ALIKE) Object.assign(letter, { shows: "unsure", why: "paper" });
}

/** What was painted over a letter. */
function judgeOver({ letter, order, points, box, colour }: Placed, painted: readonly Painted[]): void {
  const covered = new Array<boolean>(points.length).fill(false);
  const perhaps = new Array<boolean>(points.length).fill(false);
  for (let i = firstAfter(painted, order); i < painted.length; i++) {
    const one = painted[i]!;
    if (apart(one.area.box, box)) continue;
    for (const [k, [x, y]] of points.entries()) {
      if (covered[k] || !holds(one.area, x, y) || !one.clips.every((clip) => holds(clip, x, y))) continue;
      // A wash over dark letters leaves them to be read.
      if (one.alpha < 0.5 && colour) continue;
      if (one.lets || one.alpha < 0.9) perhaps[k] = true;
      else covered[k] = true;
    }
  }
  const part = (list: readonly boolean[]) => list.filter(Boolean).length / list.length;
  if (part(covered) >= 0.9) Object.assign(letter, { shows: "no", why: "covered" });
  else if (part(covered.map((one, k) => one || perhaps[k]!)) > 0.35) Object.assign(letter, { shows: "unsure", why: "covered" });
}

function firstAfter(painted: readonly Painted[], order: number): number {
  let [low, high] = [0, painted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (painted[middle]!.order < order) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** A letter drawn twice, a little apart, is thickened by the program. */
function markDrawnTwice(letters: readonly Placed[]): void {
  const lately = new Map<string, Placed[]>();
  for (const placed of letters) {
    const { letter, origin, em, colour } = placed;
    if (letter.shows === "no" || !colour) continue;
    const key = `${letter.font} ${letter.glyph}`;
    const before = lately.get(key) ?? [];
    for (const other of before) {
      if (!other.colour || difference(colour, other.colour) > ALIKE) continue;
      const far = Math.hypot(origin[0] - other.origin[0], origin[1] - other.origin[1]) / em;
      if (far < TWICE.least || far > TWICE.most) continue;
      other.letter.faked ??= "bold";
      letter.faked ??= "bold";
    }
    lately.set(key, [...before.slice(-LATELY), placed]);
  }
}

/** Says of each letter that showed when it was drawn whether it stands out. `overflown`: more was painted than is remembered. */
export function judgeVisibility(letters: readonly Placed[], painted: readonly Painted[], overflown: boolean): DrawnLetter[] {
  for (const placed of letters) {
    if (placed.letter.shows !== "yes") continue;
    judgeUnder(placed, painted);
    if (placed.letter.shows === "yes") judgeOver(placed, painted);
    if (overflown && placed.letter.shows === "yes") Object.assign(placed.letter, { shows: "unsure", why: "covered" });
  }
  markDrawnTwice(letters);
  return letters.map(({ letter }) => letter);
}
