// Judging a picture of known words: the words are found, compared with each candidate's own drawing, and answered with a score, or
// with an honest "cannot tell".
import { basesOf } from "../words/reading-order.ts";
import { fail, ok, type Result } from "../problem.ts";
import { MOST_PIXELS } from "./image.ts";
import type { Point } from "./drawing/geometry.ts";
import { fitWords, patchOf, setWords, withoutUnderline, type Fit, type SetWords } from "./fit.ts";
import { solid } from "./hollow.ts";
import { drawPolygons, findLines, inkLimit, inkOf, likeness, resample, type Grey, type Line } from "./raster.ts";
import { even, skewOf, straightened, turnedPlace } from "./straighten.ts";

export interface Candidate {
  id: string;
  name: string;
  bytes: Uint8Array;
  face: number;
}
interface Scored {
  id: string;
  name: string;
  /** 0 to 1: how near its edges lie to those in the picture. */
  score: number;
}
/** Of a line of known words in a picture. */
export interface PictureJudgement {
  /** The candidate the picture shows; undefined when it cannot be told. */
  shown: Scored | undefined;
  /** Best first. */
  scores: Scored[];
  /** A frame around the words, as SVG path data in the picture's pixels. */
  frame: string;
  /** The likeliest candidate's outlines laid over that place, as SVG path data; empty when there is none. */
  overlay: string;
}

const COMPARED_HEIGHT = 40;
/** Lines lower than this hold too few pixels to tell a font from its siblings. */
const LEAST_HEIGHT = 28;
const MOST_STRETCH = 0.12;
/** What an underline adds to a line's height, at most. */
const MOST_UNDERLINED = 0.4;
const MOST_LINES = 12;
/** So many candidates, those that are likest at a glance, are laid over the words to parts of a pixel. */
const SHORTLIST = 10;
/** A photo's longer side is brought down to so many pixels. */
const PHOTO_SIDE = 1600;
/** What making the light even changes of a pixel on average, where it is a photo's. */
const UNEVEN = 0.02;

/**
 * What the true font leaves unexplained at most: distances of edges in pixels of a screen, in ems of a photo. Found on pictures of
 * every fourth of 119 fonts by four renderers; `tests/reference/relatives.test.ts` holds them against other words, in fonts of which three of
 * forty were among those.
 */
interface Bounds {
  rms: number;
  /** Of a single letter. */
  worst: number;
  /** How much bolder or lighter on the whole. */
  bias: number;
  stretch: number;
  unexplained: number;
}
const SCREEN: Bounds = { rms: 0.25, worst: 0.42, bias: 0.09, stretch: 0.03, unexplained: 0.02 };
const SMALL_SCREEN: Bounds = { rms: 0.23, worst: 0.4, bias: 0.065, stretch: 0.029, unexplained: 0.02 };
/** Below so many pixels an em, a neighbouring weight differs by no more than a rounded edge. */
const SMALL_EM = 60;
const photoBounds = (em: number): Bounds => ({
  rms: Math.max(0.25, 0.0075 * em),
  worst: Math.max(0.42, 0.014 * em),
  bias: Math.max(0.09, 0.0035 * em),
  stretch: 0.04,
  unexplained: 0.05,
});
/** The next font must be so much further off; in times, and in pixels. */
const LEAD_TIMES = 1.22;
const LEAD_PIXELS = 0.02;
/** Fonts that draw the words alike to this, in ems, are twins here. */
const TWIN = 0.0005;

interface Drawn {
  candidate: Candidate;
  words: SetWords;
  polygons: Point[][];
  /** Width by height of its ink. */
  ratio: number;
}
interface Fitted {
  one: Drawn;
  fit: Fit;
}
interface Attempt {
  /** The best line of those that could be the words; undefined when none has their proportions. */
  best: { line: Line; fits: Fitted[] } | undefined;
  /** The largest line. */
  line: Line;
  told: boolean;
}

/** Whether what a fit leaves unexplained is no more than the true font leaves. */
function explains(fit: Fit, photo: boolean): boolean {
  const bounds = photo ? photoBounds(fit.scale) : fit.scale < SMALL_EM ? SMALL_SCREEN : SCREEN;
  const told = fit.letters.filter(({ edges }) => edges >= 10);
  return (
    told.length >= Math.min(4, fit.letters.length) &&
    fit.rms <= bounds.rms &&
    told.every(({ rms }) => rms <= bounds.worst) &&
    Math.abs(fit.bias) <= bounds.bias &&
    Math.abs(fit.stretch - 1) <= bounds.stretch &&
    fit.unexplained <= bounds.unexplained
  );
}

/** Fonts that are likest at a glance, by their drawing brought to one small size. */
function likest(grey: Grey, line: Line, drawn: readonly Drawn[]): Drawn[] {
  const ratio = line.width / line.height;
  const near = drawn.filter((one) => Math.abs(one.ratio / ratio - 1) <= MOST_STRETCH);
  if (near.length <= SHORTLIST) return near;
  const wide = Math.max(8, Math.round(COMPARED_HEIGHT * ratio));
  const seen = resample(grey, line, wide, COMPARED_HEIGHT);
  return near
    .map((one) => ({ one, alike: likeness(seen, drawPolygons(one.polygons, wide, COMPARED_HEIGHT)) - Math.abs(one.ratio / ratio - 1) }))
    .sort((a, b) => b.alike - a.alike)
    .slice(0, SHORTLIST)
    .map(({ one }) => one);
}

/** All that fit a line, the nearest first. */
function fitsOf(grey: Grey, line: Line, drawn: readonly Drawn[], perhapsHollow: boolean): Fitted[] {
  const whole = patchOf(grey, line);
  const patches = [whole, withoutUnderline(whole)].filter((one) => one !== undefined);
  const found: Fitted[] = [];
  const take = (one: Drawn, fit: Fit | undefined) => {
    if (fit) found.push({ one, fit });
  };
  for (const patch of patches) {
    const own = { ...line, height: patch.line.height * patch.shrunk[1] };
    for (const one of likest(grey, own, drawn)) take(one, fitWords(patch, one.words, false));
  }
  // Only their edges may be drawn.
  const full = !perhapsHollow || found.some(({ fit }) => explains(fit, false)) ? undefined : solid(whole);
  if (full) for (const one of likest(full.grey, full.line, drawn)) take(one, fitWords(full, one.words, false));
  // Letters may be set apart, or pairs left where they are.
  if (!found.some(({ fit }) => fit.rms < SPACED_UNLESS)) {
    for (const patch of patches) for (const one of drawn.slice(0, MOST_SPACED)) take(one, fitWords(patch, one.words, true));
  }
  return found
    .sort((a, b) => a.fit.rms - b.fit.rms)
    .filter(({ one }, i, all) => all.findIndex((other) => other.one.candidate === one.candidate) === i);
}
const SPACED_UNLESS = 0.5;
const MOST_SPACED = 8;

/** Whether two fonts draw these words alike. */
function twins(a: Drawn, b: Drawn): boolean {
  if (a.words.letters.length !== b.words.letters.length) return false;
  return a.words.letters.every(({ box }, i) => {
    const other = b.words.letters[i]!;
    const near = (["x0", "y0", "x1", "y1"] as const).every((side) => Math.abs(box[side] - other.box[side]) <= TWIN);
    const areas = [a.words.letters[i]!, other].map(({ polygons }) => Math.abs(polygons.reduce((sum, one) => sum + areaOfPolygon(one), 0)));
    return near && Math.abs(areas[0]! - areas[1]!) <= 4 * TWIN;
  });
}
const areaOfPolygon = (polygon: readonly Point[]): number =>
  polygon.reduce((sum, [x, y], i) => {
    const [px, py] = polygon[i === 0 ? polygon.length - 1 : i - 1]!;
    return sum + (px * y - x * py) / 2;
  }, 0);

/** The proportions of the lines of a picture that could be words, as it is and as a photo: of many fonts only those that can fit are worth a look. */
export function lineRatios(light: Float32Array, width: number, height: number): number[] {
  const found = inkOf(light, width, height);
  if (!found) return [];
  const { straight, limit } = asPhoto(found.grey);
  return [...findLines(found.grey, found.limit), ...findLines(straight, limit)]
    .filter((line) => line.height >= LEAST_HEIGHT && line.width > line.height)
    .map((line) => line.width / line.height);
}
/** Whether words as a font sets them can be one of such lines. */
export function canFit({ bytes, face }: Pick<Candidate, "bytes" | "face">, words: string, ratios: readonly number[]): boolean {
  return basesOf(words.trim()).some((base) => {
    const set = setWords(bytes, face, words.trim(), base);
    if (!set) return false;
    const own = (set.box.x1 - set.box.x0) / (set.box.y1 - set.box.y0);
    // Underlines make a line higher than its words.
    return ratios.some((ratio) => own / ratio > 1 - MOST_STRETCH && own / ratio < 1 + MOST_UNDERLINED);
  });
}

/** Looks for the words among a picture's lines. */
function attempt(grey: Grey, limit: number, drawn: readonly Drawn[], photo: boolean): Result<Attempt> {
  const lines = findLines(grey, limit);
  const tall = lines.filter((line) => line.height >= LEAST_HEIGHT && line.width > line.height);
  if (tall.length === 0) {
    return lines.some((line) => line.width > line.height)
      ? fail("picture-tiny", "The words are too small in this picture.", "Set them at 96 px or larger, then take the picture again.")
      : fail(
          "picture-no-line",
          "No line of text is found in this picture.",
          "Give one in which the words stand upright on one line, with empty space around.",
        );
  }
  let best: Attempt["best"];
  const shown = new Set<string>();
  const largest = tall.sort((a, b) => b.width * b.height - a.width * a.height).slice(0, MOST_LINES);
  for (const line of largest) {
    // The largest of a screen may also be letters of which only the edges are drawn.
    const fits = fitsOf(grey, line, drawn, !photo && line === largest[0]);
    if (!fits[0]) continue;
    if (explains(fits[0].fit, photo)) shown.add(fits[0].one.candidate.id);
    if (!best || fits[0].fit.rms < best.fits[0]!.fit.rms) best = { line, fits };
  }
  const [first, second] = best?.fits ?? [];
  const led =
    second === undefined ||
    (first !== undefined && second.fit.rms >= first.fit.rms * LEAD_TIMES && second.fit.rms - first.fit.rms >= LEAD_PIXELS);
  // Two lines that could be the words, of two fonts, tell nothing.
  const told =
    first !== undefined &&
    explains(first.fit, photo) &&
    led &&
    shown.size === 1 &&
    !best!.fits.slice(1).some(({ one }) => twins(first.one, one));
  return ok({ best, line: tall[0]!, told });
}

/** The picture as a photo of a screen or of paper: made smaller, its light made even, its lines made straight. */
function asPhoto(grey: Grey): { straight: Grey; limit: number; scale: number; degrees: number; uneven: boolean } {
  const scale = Math.max(1, Math.max(grey.width, grey.height) / PHOTO_SIDE);
  const [width, height] = [Math.round(grey.width / scale), Math.round(grey.height / scale)];
  const small = scale === 1 ? grey : resample(grey, { x: 0, y: 0, width: grey.width, height: grey.height }, width, height);
  const flat = even(small);
  const uneven = small.ink.reduce((sum, value, i) => sum + Math.abs(value - flat.ink[i]!), 0) / small.ink.length > UNEVEN;
  const degrees = skewOf(flat, inkLimit(flat.ink));
  const straight = degrees === 0 ? flat : straightened(flat, degrees);
  return { straight, limit: inkLimit(straight.ink), scale, degrees, uneven };
}

/**
 * Judges a picture given as light from 0 to 1, row by row from the top. Problems: "picture-words", "picture-large", "picture-empty",
 * "picture-tiny", "picture-no-line".
 */
export function judgePicture(
  light: Float32Array,
  width: number,
  height: number,
  words: string,
  candidates: readonly Candidate[],
): Result<PictureJudgement> {
  const text = words.trim();
  if ([...text.replace(/\s/gu, "")].length < 4)
    return fail(
      "picture-words",
      "Four letters are the fewest that can tell fonts apart.",
      "Type the words that stand in the picture, one line of them.",
    );
  if (width * height > MOST_PIXELS) return fail("picture-large", "This picture is too large.", "Cut out the part with the words.");
  const found = inkOf(light, width, height);
  if (!found) return fail("picture-empty", "Nothing stands out in this picture.", "Give one in which the words can be read.");
  const bases = basesOf(text);
  const drawn = candidates.flatMap((candidate) =>
    bases.flatMap((base): Drawn[] => {
      const words = setWords(candidate.bytes, candidate.face, text, base);
      if (!words) return [];
      const { box, letters } = words;
      return [{ candidate, words, polygons: letters.flatMap(({ polygons }) => polygons), ratio: (box.x1 - box.x0) / (box.y1 - box.y0) }];
    }),
  );
  if (drawn.length === 0)
    return fail("picture-words", "No font here has all of these letters.", "Type the words exactly as they stand in the picture.");

  const asScreen = attempt(found.grey, found.limit, drawn, false);
  if (asScreen.ok && asScreen.value.told) return ok(judgement(asScreen.value, (x, y) => [x, y]));
  const { straight, limit, scale, degrees, uneven } = asPhoto(found.grey);
  // A picture that is straight and evenly lit as it is has been judged.
  if (degrees === 0 && !uneven && scale === 1) return asScreen.ok ? ok(judgement(asScreen.value, (x, y) => [x, y])) : asScreen;
  const photo = attempt(straight, limit, drawn, degrees !== 0 || uneven);
  const top = (one: Result<Attempt>) => (one.ok ? (one.value.best ? likenessOf(one.value.best.fits[0]!.fit) : 0) : -1);
  if (photo.ok && top(photo) > top(asScreen)) {
    return ok(
      judgement(photo.value, (x, y) => {
        const [px, py] = turnedPlace(x, y, straight.width, straight.height, degrees);
        return [px * scale, py * scale];
      }),
    );
  }
  return asScreen.ok ? ok(judgement(asScreen.value, (x, y) => [x, y])) : asScreen;
}

/** 1 when every edge lies where it should; a hundredth and a half of an em off on the whole makes it one half. */
const likenessOf = ({ rms, scale }: Fit): number => 1 / (1 + (rms / (0.015 * scale)) ** 2);

/** `place` leads from the picture that was judged to the one that was given. */
function judgement({ best, line, told }: Attempt, place: (x: number, y: number) => [number, number]): PictureJudgement {
  const words = best?.line ?? line;
  const path = (points: readonly (readonly [number, number])[]) =>
    `M${points.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join("L")}Z`;
  const [right, bottom] = [words.x + words.width, words.y + words.height];
  const frame = path([place(words.x, words.y), place(right, words.y), place(right, bottom), place(words.x, bottom)]);
  const first = best?.fits[0];
  if (!best || !first) return { shown: undefined, scores: [], frame, overlay: "" };
  const scores = best.fits.map(({ one: { candidate }, fit }): Scored => ({
    id: candidate.id,
    name: candidate.name,
    score: likenessOf(fit),
  }));
  const overlay = first.fit.polygons.map((polygon) => path(polygon.map(([x, y]) => place(x, y))));
  return { shown: told ? scores[0] : undefined, scores, frame, overlay: overlay.join("") };
}
