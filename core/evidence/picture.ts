// Judging a picture of known words: the words are found, compared with each candidate's own drawing, and answered with a score, or
// with an honest "cannot tell".
import { fail, ok, type Result } from "../problem.ts";
import { boxOfPolygons, drawPolygons, findLines, inkOf, likeness, resample, wordPolygons, type Line } from "./raster.ts";

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
export interface PictureJudgement {
  /** The candidate the picture shows; undefined when it cannot be told. */
  shown: Scored | undefined;
  /** Best first. */
  scores: Scored[];
  /** Where the words stand in the picture, in its pixels. */
  line: Line;
  /** The likeliest candidate's outlines laid over that place, as SVG path data; empty when there is none. */
  overlay: string;
}

const COMPARED_HEIGHT = 40;
/** Lines lower than this hold too few pixels to tell a font from its siblings. */
const LEAST_HEIGHT = 40;
const MOST_PIXELS = 40_000_000;
/** What a match must reach, and by how much it must lead; found on pictures of the fonts of Debian's packages. */
const ENOUGH = 0.955;
const LEAD = 0.02;
/** A difference in proportions of one per cent costs this much. */
const STRETCH_COST = 2;
const MOST_STRETCH = 0.12;

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
  const drawn = candidates.flatMap((candidate) => {
    const polygons = wordPolygons(candidate.bytes, candidate.face, text);
    const box = polygons && boxOfPolygons(polygons);
    return polygons && box ? [{ candidate, polygons, ratio: box.width / box.height }] : [];
  });
  if (drawn.length === 0)
    return fail("picture-words", "No font here has all of these letters.", "Type the words exactly as they stand in the picture.");
  const lines = findLines(found.grey, found.limit);
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
  const overlay = (id: string, line: Line): string => {
    const { polygons } = drawn.find((one) => one.candidate.id === id)!;
    const box = boxOfPolygons(polygons)!;
    const at = ([x, y]: readonly [number, number]) =>
      `${(line.x + ((x - box.x) / box.width) * line.width).toFixed(1)} ${(line.y + ((y - box.y) / box.height) * line.height).toFixed(1)}`;
    return polygons.map((polygon) => `M${polygon.map(at).join("L")}Z`).join("");
  };
  let best: { line: Line; scores: Scored[] } | undefined;
  for (const line of tall.sort((a, b) => b.width * b.height - a.width * a.height).slice(0, 12)) {
    const ratio = line.width / line.height;
    const near = drawn.filter((one) => Math.abs(one.ratio / ratio - 1) <= MOST_STRETCH);
    if (near.length === 0) continue;
    const wide = Math.max(8, Math.round(COMPARED_HEIGHT * ratio));
    const seen = resample(found.grey, line, wide, COMPARED_HEIGHT);
    const scores = near
      .map(({ candidate: { id, name }, polygons, ratio: own }): Scored => {
        // Drawn as coarsely as the picture is, then brought to the same size.
        const coarse = drawPolygons(polygons, line.width, line.height);
        const alike = likeness(seen, resample(coarse, { ...line, x: 0, y: 0 }, wide, COMPARED_HEIGHT));
        // Edges are known to a pixel only.
        const stretch = Math.max(0, Math.abs(own / ratio - 1) - 1 / line.height);
        return { id, name, score: Math.max(0, alike - STRETCH_COST * stretch) };
      })
      .sort((a, b) => b.score - a.score);
    if (!best || scores[0]!.score > best.scores[0]!.score) best = { line, scores };
  }
  if (!best) return ok({ shown: undefined, scores: [], line: tall[0]!, overlay: "" });
  const [first, second] = best.scores;
  const lead = first!.score - (second?.score ?? 0);
  const told = first!.score >= ENOUGH && lead >= LEAD;
  return ok({ shown: told ? first : undefined, scores: best.scores, line: best.line, overlay: overlay(first!.id, best.line) });
}
