// In which letters a font differs from what the picture shows, and how: said in a sentence each.
import type { LetterLaid, Target } from "./lay-over.ts";
import { regionsOf } from "../picture/connected.ts";
import { boxOfFlat, rasterOf, type FlatBox } from "../faces/coverage-raster.ts";

const { ceil, floor, max, min } = Math;

export interface Difference {
  letter: string;
  sentence: string;
}

/** Letters that share more of their ink than this are taken for the same. */
const LEAST_ERROR = 0.02;
/** Letters that share less than this are told of, however far off the others are. */
const MUCH = 0.25;
const MOST_TOLD = 4;

type Zone = `${"top" | "middle" | "bottom"} ${"left" | "middle" | "right"}`;
/** What parts of letters are called, by where they lie (common practice, no source). */
const PARTS: Record<string, Partial<Record<Zone, string>>> = {
  R: { "bottom right": "leg", "bottom middle": "leg", "top right": "bowl", "middle right": "bowl" },
  K: { "bottom right": "leg", "bottom middle": "leg", "top right": "arm", "top middle": "arm" },
  k: { "bottom right": "leg", "bottom middle": "leg", "middle right": "arm" },
  Q: { "bottom right": "tail", "bottom middle": "tail" },
  G: { "middle right": "crossbar", "bottom right": "spur", "top right": "upper end" },
  J: { "bottom left": "hook", "bottom middle": "hook" },
  j: { "bottom left": "hook", "bottom middle": "hook", "top middle": "dot", "top right": "dot" },
  i: { "top middle": "dot" },
  a: { "top left": "upper arch", "top middle": "upper arch", "middle left": "bowl", "bottom left": "bowl", "bottom right": "foot" },
  g: {
    "bottom left": "lower bowl",
    "bottom middle": "lower bowl",
    "bottom right": "lower bowl",
    "top right": "ear",
    "middle middle": "link",
  },
  e: { "middle middle": "crossbar", "middle right": "crossbar", "bottom right": "lower end" },
  t: { "top left": "top", "top middle": "top", "bottom right": "foot", "middle right": "crossbar" },
  f: { "top right": "hook", "top middle": "hook", "middle left": "crossbar", "middle right": "crossbar" },
  r: { "top right": "arm", "middle right": "arm" },
  y: { "bottom left": "tail", "bottom middle": "tail" },
  p: { "top left": "start of its stem", "bottom left": "descender" },
  q: { "bottom right": "descender" },
  c: { "top right": "upper end", "bottom right": "lower end" },
  s: { "top right": "upper end", "bottom left": "lower end" },
  C: { "top right": "upper end", "bottom right": "lower end" },
  S: { "top right": "upper end", "bottom left": "lower end" },
  A: { "middle middle": "crossbar", "top middle": "apex" },
  M: { "middle middle": "middle", "bottom middle": "middle" },
  W: { "middle middle": "middle", "top middle": "middle" },
  E: { "middle right": "middle arm", "top right": "upper arm", "bottom right": "lower arm" },
  F: { "middle right": "middle arm", "top right": "upper arm" },
  T: { "top left": "crossbar", "top right": "crossbar" },
  "1": { "top left": "flag", "bottom left": "foot", "bottom right": "foot" },
  "2": { "bottom right": "foot", "top left": "start" },
  "7": { "top left": "bar", "middle middle": "bar" },
  "4": { "top left": "slope", "bottom right": "stem" },
};
const WHERE: Record<Zone, string> = {
  "top left": "upper left",
  "top middle": "top",
  "top right": "upper right",
  "middle left": "left side",
  "middle middle": "middle",
  "middle right": "right side",
  "bottom left": "lower left",
  "bottom middle": "foot",
  "bottom right": "lower right",
};

/** Closed rooms in ink: grounds that do not reach the border. */
function roomsIn(ink: Float32Array, width: number, height: number): number {
  // Thin strokes that are blurred are nowhere full.
  const limit = 0.4 * ([...ink].sort((a, b) => b - a)[floor(ink.length * 0.03)] ?? 1);
  const grounds = [...regionsOf(new Int32Array(ink.length), width, (at) => ink[at]! <= limit, false)];
  return grounds.filter(({ box, area }) => box.x0 > 0 && box.y0 > 0 && box.x1 < width && box.y1 < height && area > LEAST_ROOM * ink.length)
    .length;
}
/** Smaller ones, as parts of the letter's box, are pixels. */
const LEAST_ROOM = 0.006;
const ROOMS = new Intl.PluralRules("en");
const closed = (count: number): string =>
  count === 0 ? "no closed part" : ROOMS.select(count) === "one" ? "1 closed part" : `${count} closed parts`;

/** Where a letter lies as it is drawn. */
function drawnBox({ polygons, sx, sy, tx, ty }: LetterLaid): FlatBox {
  const box = boxOfFlat(polygons)!;
  return { x0: box.x0 * sx + tx, x1: box.x1 * sx + tx, y0: box.y0 * sy + ty, y1: box.y1 * sy + ty };
}
/** How wide and how high letters are drawn by what is seen, on the whole: photos are stretched, and blur widens all of it. */
interface Usual {
  widths: number;
  heights: number;
  error: number;
}
function usualOf(laid: readonly LetterLaid[], { places, rough }: Target): Usual {
  const told = laid.flatMap((one) => {
    const place = places[one.first];
    if (!place || rough[one.first] || one.first !== one.last) return [];
    const own = drawnBox(one);
    return [{ widths: (own.x1 - own.x0) / (place.x1 - place.x0), heights: (own.y1 - own.y0) / (place.y1 - place.y0), error: one.error }];
  });
  const middle = (of: (one: Usual) => number, otherwise: number) => told.map(of).sort((a, b) => a - b)[floor(told.length / 2)] ?? otherwise;
  return { widths: middle((one) => one.widths, 1), heights: middle((one) => one.heights, 1), error: middle((one) => one.error, 0) };
}
/** A letter must be so many times further off than most are. */
const OUTSTANDING = 1.6;

/** How one letter differs; undefined when it does not to speak of. */
function differenceOf(laid: LetterLaid, letter: string, { grey, places, rough }: Target, usual: Usual): Difference | undefined {
  const place = places[laid.first];
  if (!place || rough[laid.first] || laid.first !== laid.last || laid.error < max(LEAST_ERROR, min(OUTSTANDING * usual.error, MUCH)))
    return undefined;
  const own = drawnBox(laid);
  const [x0, y0] = [max(0, floor(min(own.x0, place.x0)) - 1), max(0, floor(min(own.y0, place.y0)) - 1)];
  const [x1, y1] = [min(grey.width, ceil(max(own.x1, place.x1)) + 1), min(grey.height, ceil(max(own.y1, place.y1)) + 1)];
  const [w, h] = [x1 - x0, y1 - y0];
  if (w < 4 || h < 4) return undefined;
  const drawn = rasterOf(laid.polygons, w, h, laid.sx, laid.sy, laid.tx - x0, laid.ty - y0);
  const seen = new Float32Array(w * h);
  for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) seen[y * w + x] = grey.ink[(y + y0) * grey.width + x + x0]!;
  const [drawnRooms, seenRooms] = [roomsIn(drawn, w, h), roomsIn(seen, w, h)];
  const high = place.y1 - place.y0;
  const tell = (sentence: string): Difference => ({ letter, sentence });
  if (drawnRooms !== seenRooms && high >= 20 && laid.error > 0.08)
    return tell(`Its ${letter} has ${closed(drawnRooms)}; the one in the picture has ${closed(seenRooms)}.`);
  const heights = (own.y1 - own.y0) / high / usual.heights;
  if (heights > 1.07) return tell(`Its ${letter} is taller.`);
  if (heights < 0.93) return tell(`Its ${letter} is shorter.`);
  const widths = (own.x1 - own.x0) / (place.x1 - place.x0) / usual.widths;
  if (widths > 1.09) return tell(`Its ${letter} is wider.`);
  if (widths < 0.91) return tell(`Its ${letter} is narrower.`);
  const [inkDrawn, inkSeen] = [drawn.reduce((sum, one) => sum + one, 0), seen.reduce((sum, one) => sum + one, 0)];
  const zones = new Map<Zone, number>();
  let all = 0;
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const off = (drawn[y * w + x]! - seen[y * w + x]!) ** 2;
      const zone: Zone = `${y < h / 3 ? "top" : y < (2 * h) / 3 ? "middle" : "bottom"} ${x < w / 3 ? "left" : x < (2 * w) / 3 ? "middle" : "right"}`;
      zones.set(zone, (zones.get(zone) ?? 0) + off);
      all += off;
    }
  }
  const [zone, most] = [...zones].sort((a, b) => b[1] - a[1])[0]!;
  // Off all over is heavier or lighter; off in one place is that part.
  if (most / all < 0.34) {
    if (inkDrawn > 1.1 * inkSeen) return tell(`Its ${letter} is heavier.`);
    if (inkDrawn < 0.9 * inkSeen) return tell(`Its ${letter} is lighter.`);
  }
  return tell(`Its ${letter} differs most at its ${PARTS[letter]?.[zone] ?? WHERE[zone]}.`);
}

/** What differs most, the worst letters first, each letter once. */
export function differences(laid: readonly LetterLaid[], letters: readonly string[], target: Target): Difference[] {
  const told = new Map<string, Difference>();
  const usual = usualOf(laid, target);
  for (const one of [...laid].sort((a, b) => b.error - a.error)) {
    if (told.size === MOST_TOLD) break;
    const letter = letters[one.first] ?? "";
    if (letter === "" || told.has(letter)) continue;
    const found = differenceOf(one, letter, target, usual);
    if (found) told.set(letter, found);
  }
  return [...told.values()];
}
