// Judging a picture of known words: the words are found, compared with each candidate's own drawing, and answered with a score, or
// with an honest "cannot tell".
import { fail, ok, type Result } from "../problem.ts";
import { MOST_PIXELS } from "./image.ts";
import {
  boxOfPolygons,
  drawPolygons,
  findLines,
  inkLimit,
  inkOf,
  likeness,
  resample,
  settle,
  wordPolygons,
  type Grey,
  type Line,
} from "./raster.ts";
import { even, skewOf, straightened, turnedPlace } from "./straighten.ts";

export interface Candidate {
  id: string;
  name: string;
  bytes: Uint8Array;
  face: number;
}
export interface Scored {
  id: string;
  name: string;
  /** 0 to 1: likeness of the drawing, less what its proportions differ by. */
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
const LEAST_HEIGHT = 40;
/**
 * What a match must reach, and by how much it must lead; found on screens of Chromium with forty fonts of Debian's packages. Fonts of other
 * families reached 0.92 at most where the true one was not among the candidates.
 */
const ENOUGH = 0.94;
const LEAD = 0.02;
/** A difference in proportions of one per cent costs this much. */
const STRETCH_COST = 2;
const MOST_STRETCH = 0.12;
const MOST_LINES = 12;
/** Pixels that are finer than this cannot be told from outlines once lines are compared. */
const FINE_HEIGHT = 200;
/** A photo's longer side is brought down to so many pixels. */
const PHOTO_SIDE = 1600;

interface Drawn {
  candidate: Candidate;
  polygons: ReturnType<typeof wordPolygons> & object;
  /** Width by height of its ink. */
  ratio: number;
}
interface Attempt {
  /** The best line of those that could be the words; undefined when none has their proportions. */
  best: { line: Line; scores: Scored[] } | undefined;
  /** The largest line. */
  line: Line;
  told: boolean;
}

/** Looks for the words among a picture's lines. */
function attempt(grey: Grey, limit: number, drawn: readonly Drawn[]): Result<Attempt> {
  const lines = findLines(grey, limit);
  const tall = lines.filter((line) => line.height >= LEAST_HEIGHT && line.width > line.height);
  if (tall.length === 0) {
    return lines.some((line) => line.width > line.height)
      ? fail("picture-tiny", "The words are too small in this picture.", "Enlarge them in the program, then take the picture again.")
      : fail(
          "picture-no-line",
          "No line of text is found in this picture.",
          "Give one in which the words stand upright on one line, with empty space around.",
        );
  }
  let best: Attempt["best"];
  for (const line of tall.sort((a, b) => b.width * b.height - a.width * a.height).slice(0, MOST_LINES)) {
    const ratio = line.width / line.height;
    const near = drawn.filter((one) => Math.abs(one.ratio / ratio - 1) <= MOST_STRETCH);
    if (near.length === 0) continue;
    const wide = Math.max(8, Math.round(COMPARED_HEIGHT * ratio));
    const seen = resample(grey, line, wide, COMPARED_HEIGHT);
    const fine = Math.min(1, FINE_HEIGHT / line.height);
    const [width, height] = [Math.max(1, Math.round(line.width * fine)), Math.max(1, Math.round(line.height * fine))];
    const scores = near
      .map(({ candidate: { id, name }, polygons, ratio: own }): Scored => {
        // Drawn as coarsely as the picture is, where that is coarse at all, then brought to the same size.
        const coarse = drawPolygons(polygons, width, height);
        const alike = likeness(seen, settle(seen, resample(coarse, { x: 0, y: 0, width, height }, wide, COMPARED_HEIGHT)));
        // Edges are known to a pixel only.
        const stretch = Math.max(0, Math.abs(own / ratio - 1) - 1 / line.height);
        return { id, name, score: Math.max(0, alike - STRETCH_COST * stretch) };
      })
      .sort((a, b) => b.score - a.score);
    if (!best || scores[0]!.score > best.scores[0]!.score) best = { line, scores };
  }
  const [first, second] = best?.scores ?? [];
  const told = first !== undefined && first.score >= ENOUGH && first.score - (second?.score ?? 0) >= LEAD;
  return ok({ best, line: tall[0]!, told });
}

/** The picture as a photo of a screen or of paper: made smaller, its light made even, its lines made straight. */
function asPhoto(grey: Grey): { straight: Grey; limit: number; scale: number; degrees: number } {
  const scale = Math.max(1, Math.max(grey.width, grey.height) / PHOTO_SIDE);
  const [width, height] = [Math.round(grey.width / scale), Math.round(grey.height / scale)];
  const flat = even(scale === 1 ? grey : resample(grey, { x: 0, y: 0, width: grey.width, height: grey.height }, width, height));
  const degrees = skewOf(flat, inkLimit(flat.ink));
  const straight = degrees === 0 ? flat : straightened(flat, degrees);
  return { straight, limit: inkLimit(straight.ink), scale, degrees };
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
  const drawn = candidates.flatMap((candidate): Drawn[] => {
    const polygons = wordPolygons(candidate.bytes, candidate.face, text);
    const box = polygons && boxOfPolygons(polygons);
    return polygons && box ? [{ candidate, polygons, ratio: box.width / box.height }] : [];
  });
  if (drawn.length === 0)
    return fail("picture-words", "No font here has all of these letters.", "Type the words exactly as they stand in the picture.");

  const asScreen = attempt(found.grey, found.limit, drawn);
  if (asScreen.ok && asScreen.value.told) return ok(judgement(asScreen.value, drawn, (x, y) => [x, y]));
  const { straight, limit, scale, degrees } = asPhoto(found.grey);
  const photo = attempt(straight, limit, drawn);
  const top = (one: Result<Attempt>) => (one.ok ? (one.value.best?.scores[0]?.score ?? 0) : -1);
  if (photo.ok && top(photo) > top(asScreen)) {
    return ok(
      judgement(photo.value, drawn, (x, y) => {
        const [px, py] = turnedPlace(x, y, straight.width, straight.height, degrees);
        return [px * scale, py * scale];
      }),
    );
  }
  return asScreen.ok ? ok(judgement(asScreen.value, drawn, (x, y) => [x, y])) : asScreen;
}

/** `place` leads from the picture that was judged to the one that was given. */
function judgement(
  { best, line, told }: Attempt,
  drawn: readonly Drawn[],
  place: (x: number, y: number) => [number, number],
): PictureJudgement {
  const words = best?.line ?? line;
  const path = (points: readonly (readonly [number, number])[]) =>
    `M${points.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join("L")}Z`;
  const [right, bottom] = [words.x + words.width, words.y + words.height];
  const frame = path([place(words.x, words.y), place(right, words.y), place(right, bottom), place(words.x, bottom)]);
  const first = best?.scores[0];
  if (!best || !first) return { shown: undefined, scores: [], frame, overlay: "" };
  const { polygons } = drawn.find((one) => one.candidate.id === first.id)!;
  const box = boxOfPolygons(polygons)!;
  const overlay = polygons.map((polygon) =>
    path(
      polygon.map(([x, y]) =>
        place(words.x + ((x - box.x) / box.width) * words.width, words.y + ((y - box.y) / box.height) * words.height),
      ),
    ),
  );
  return { shown: told ? first : undefined, scores: best.scores, frame, overlay: overlay.join("") };
}
