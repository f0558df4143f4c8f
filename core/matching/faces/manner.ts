// The manner of a face in a few numbers a person understands, measured on its outlines: how heavy, wide, contrasted, slanted, angular it is, whether
// it has serifs, whether its letters join, how high its small letters are.
import * as hb from "harfbuzzjs";
import { regionsOf } from "../picture/connected.ts";
import { boxOfFlat, rasterOf, type Flat, type FlatBox } from "./coverage-raster.ts";
import { areaOfFlat, outlineOf, type Outline } from "./outlines.ts";

const { abs, atan2, hypot, max, min, PI } = Math;

/** Undefined where the face has no letters it can be measured on. */
export interface Manner {
  /** Thickness of a stroke by the height of small letters: 0.05 hairline to 0.5 very heavy. */
  weight: number | undefined;
  /** Width by height of a usual letter. */
  width: number | undefined;
  /** Thick by thin, from 1 upwards. */
  contrast: number | undefined;
  /** Degrees to the right. */
  slant: number | undefined;
  /** The curved part of all edges, 0 (all straight) to 1. */
  roundness: number | undefined;
  /** How much wider stems are at their foot than in the middle: 1 without serifs. */
  serif: number | undefined;
  /** The part of letters that touch the next one, 0 to 1. */
  joined: number | undefined;
  /** Small letters by capitals. */
  smallHeight: number | undefined;
}

const middle = (values: readonly number[]): number | undefined => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

/** Letters manner is told by, of the first script a face has all or most of. */
const KINDS = [
  { usual: "noeacus", stems: "lihnrm", round: "o", small: "xzvn", capital: "HEIT" },
  { usual: "поеасни", stems: "нпигшт", round: "о", small: "хнп", capital: "НПГ" },
  { usual: "νοεασκμ", stems: "ικηνμ", round: "ο", small: "νκχ", capital: "ΗΕΙΤ" },
  { usual: "NOEACSH", stems: "HIETN", round: "O", small: "", capital: "" },
  { usual: "אבדהמרשת", stems: "ורדנ", round: "ס", small: "", capital: "" },
  { usual: "ابدرسصعم", stems: "ال", round: "ه", small: "", capital: "" },
] as const;

const SIDE = 96;
/** Whether letters touch is looked at in a smaller picture. */
const TOUCH_SIDE = 40;
/** A letter drawn to fill so many pixels of height, with its width in proportion. */
function drawnTall(polygons: Flat, box: FlatBox, side = SIDE): { ink: Float32Array; width: number } {
  const scale = side / (box.y1 - box.y0);
  const width = max(1, Math.ceil((box.x1 - box.x0) * scale));
  return { ink: rasterOf(polygons, width, side, scale, scale, -box.x0 * scale, -box.y0 * scale), width };
}
/** The longest run of ink in a row or column, in pixels. */
function longestRun(count: number, at: (i: number) => number): number {
  let [best, run] = [0, 0];
  for (let i = 0; i < count; i++) {
    const ink = at(i);
    run = ink > 0.5 ? run + 1 : 0;
    best = max(best, run);
  }
  return best;
}
/** The first run of ink in a row, in pixels. */
function firstRun(count: number, at: (i: number) => number): number {
  let run = 0;
  for (let i = 0; i < count; i++) {
    if (at(i) > 0.5) run++;
    else if (run > 0) break;
  }
  return run;
}

const MOST_SLANT = 40;
/** The direction upright strokes take: the one most of the length of steep edges lies near. */
function slantOf(outlines: readonly Outline[]): number | undefined {
  const bins = new Float64Array(2 * MOST_SLANT + 1);
  let all = 0;
  for (const { polygons } of outlines) {
    for (const points of polygons) {
      let [px, py] = [points.at(-2)!, points.at(-1)!];
      for (let i = 0; i < points.length; i += 2) {
        const [x, y] = [points[i]!, points[i + 1]!];
        const [dx, dy] = y < py ? [x - px, py - y] : [px - x, y - py];
        const long = hypot(dx, dy);
        const degrees = (atan2(dx, dy) * 180) / PI;
        all += long;
        if (abs(degrees) <= MOST_SLANT) bins[Math.round(degrees) + MOST_SLANT]! += long;
        [px, py] = [x, y];
      }
    }
  }
  if (all === 0) return undefined;
  let [best, at] = [0, 0];
  for (let i = 1; i < bins.length - 1; i++) {
    const near = bins[i - 1]! + bins[i]! + bins[i + 1]!;
    if (near > best) [best, at] = [near, i - MOST_SLANT + (bins[i + 1]! - bins[i - 1]!) / near];
  }
  return best < all * 0.08 ? undefined : at;
}

/** Whether two letters set beside one another touch. */
function touch(one: Flat, other: Flat): boolean {
  const box = boxOfFlat([...one, ...other]);
  if (!box) return false;
  const { ink, width } = drawnTall([...one, ...other], box, TOUCH_SIDE);
  const first = boxOfFlat(one)!;
  // Ink that hangs together with the first letter's largest part must reach beyond it.
  const largest = [...regionsOf(new Int32Array(ink.length), width, (at) => ink[at]! > 0.5, false)].sort((a, b) => b.area - a.area)[0];
  if (!largest) return false;
  const scale = TOUCH_SIDE / (box.y1 - box.y0);
  return largest.box.x1 - 1 - largest.box.x0 > (first.x1 - first.x0) * scale * 1.25 + 2;
}

export function mannerOf(font: hb.Font, upem: number, has: (code: number) => boolean): Manner {
  const none: Manner = {
    weight: undefined,
    width: undefined,
    contrast: undefined,
    slant: undefined,
    roundness: undefined,
    serif: undefined,
    joined: undefined,
    smallHeight: undefined,
  };
  const kind = KINDS.find(({ usual }) => [...usual].filter((letter) => has(letter.codePointAt(0)!)).length >= usual.length - 2);
  if (!kind) return none;
  const outline = (letter: string): Outline | undefined => {
    const code = letter.codePointAt(0)!;
    const glyph = has(code) ? font.nominalGlyph(code) : undefined;
    return glyph === undefined ? undefined : outlineOf(font, upem, glyph);
  };
  const boxed = (letters: string) =>
    [...letters].flatMap((letter) => {
      const one = outline(letter);
      const box = one && boxOfFlat(one.polygons);
      return one && box ? [{ ...one, box }] : [];
    });
  const usual = boxed(kind.usual);
  if (usual.length === 0) return none;
  const height = middle(usual.map(({ box }) => box.y1 - box.y0))!;
  const lengths = usual.reduce((sum, { curved, straight }) => ({ curved: sum.curved + curved, straight: sum.straight + straight }), {
    curved: 0,
    straight: 0,
  });
  const around = lengths.curved + lengths.straight;
  const stroke = (2 * usual.reduce((sum, { polygons }) => sum + areaOfFlat(polygons), 0)) / around;
  const stems = boxed(kind.stems);
  const [round] = boxed(kind.round);
  const heights = (letters: string) => middle(boxed(letters).map(({ box }) => -box.y0));
  const [small, capital] = [heights(kind.small), heights(kind.capital)];
  return {
    weight: stroke / height,
    width: middle(usual.map(({ box }) => (box.x1 - box.x0) / (box.y1 - box.y0))),
    contrast: round && contrastOf(round.polygons, round.box),
    slant: slantOf([...usual, ...stems]),
    roundness: lengths.curved / around,
    serif: middle(
      stems.flatMap(({ polygons, box }) => {
        const { ink, width } = drawnTall(polygons, box);
        const run = (row: number) => firstRun(width, (x) => ink[row * width + x]!);
        const stem = min(run(Math.round(SIDE * 0.6)), run(Math.round(SIDE * 0.7)));
        return stem === 0 ? [] : [max(run(SIDE - 2), run(SIDE - 4)) / stem];
      }),
    ),
    joined: joinedOf(font, upem, has, kind.usual),
    smallHeight: small !== undefined && capital ? small / capital : undefined,
  };
}

/** Thickness at the sides of a round letter by that at its top; undefined when it has no room inside. */
function contrastOf(polygons: Flat, box: FlatBox): number | undefined {
  const { ink, width } = drawnTall(polygons, box);
  const side = firstRun(width, (x) => ink[(SIDE / 2) * width + x]!);
  const column = Math.floor(width / 2);
  const top = longestRun(SIDE / 2, (y) => ink[y * width + column]!);
  if (side === 0 || top === 0 || side > width * 0.8 || top >= SIDE / 2 - 1) return undefined;
  return max(side, top) / min(side, top);
}

/** Letters of the usual ones that touch the next, each set beside each of two others. */
function joinedOf(font: hb.Font, upem: number, has: (code: number) => boolean, letters: string): number | undefined {
  const present = [...letters].filter((letter) => has(letter.codePointAt(0)!));
  if (present.length < 3) return undefined;
  let touching = 0;
  for (const [i, letter] of present.entries()) {
    const buffer = new hb.Buffer();
    buffer.addText(letter + present[(i + 1) % present.length]!);
    buffer.guessSegmentProperties();
    hb.shape(font, buffer);
    let pen = 0;
    const set = buffer.getGlyphInfosAndPositions().map((info) => {
      const one = outlineOf(font, upem, info.codepoint, pen + (info.xOffset ?? 0), info.yOffset ?? 0).polygons;
      pen += info.xAdvance ?? 0;
      return one;
    });
    if (set.length === 2 && touch(set[0]!, set[1]!)) touching++;
  }
  return touching / present.length;
}
