// Letters drawn in an unusual way: small letters that are capitals, capitals in outline beside filled small letters.
import type { Face } from "../sfnt/face.ts";
import { boxOf, signedAreas, type Outline } from "../sfnt/outline.ts";

/** filled: ordinary. capitals-only: small letters look like capitals. small-capitals: the same, smaller. outlined: all letters in outline. outlined-capitals: capitals in outline, small letters filled. none: no Latin letters, or outlines that are not read. */
export type CapitalsKind = "filled" | "capitals-only" | "small-capitals" | "outlined" | "outlined-capitals" | "none";

/** Letters without a counter: drawn solid, they have no hole. */
const SOLID_CAPITALS = "HTLCEFIKMNUVXZ";
const SOLID_SMALL = "hltcfkmnruvxz";
/** Letters whose small form differs from the capital by more than its size. */
const TELLING_PAIRS = "AERBDGHNQT";
/** Most fonts are ordinary: when none of the first few letters is unusual, the rest are not looked at. */
const FIRST = 3;

/** A hole this large, as a part of what its letter encloses, is the inside of an outlined letter. */
const HOLLOW = 0.25;

function outlineOf(face: Face, letter: string): Outline | undefined {
  const glyph = face.cmap?.glyph(letter.codePointAt(0)!) ?? 0;
  return glyph === 0 ? undefined : face.outline(glyph);
}

/** How much of what the outermost contours enclose is taken out again by contours running the other way. */
function holePart(outline: Outline): number {
  const areas = signedAreas(outline);
  const largest = areas.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0);
  let [inked, holes] = [0, 0];
  for (const area of areas) {
    if (area * largest > 0) inked += Math.abs(area);
    else holes += Math.abs(area);
  }
  return inked === 0 ? 0 : holes / inked;
}

/** The part of `letters` that is hollow; undefined when fewer than three of them are drawn. */
function hollowPart(face: Face, letters: string): number | undefined {
  let [drawn, hollow] = [0, 0];
  for (const letter of letters) {
    const outline = outlineOf(face, letter);
    if (!outline || outline.length === 0) continue;
    drawn++;
    if (holePart(outline) > HOLLOW) hollow++;
    if (drawn === FIRST && hollow === 0) return 0;
  }
  return drawn < FIRST ? undefined : hollow / drawn;
}

/** Contours, pieces and proportions: two outlines that agree in these are one drawing at two sizes. */
function sameDrawing(a: Outline, b: Outline): boolean {
  if (a.length !== b.length) return false;
  const pieces = (outline: Outline) => outline.map((contour) => contour.segments.length).sort((x, y) => x - y);
  const [piecesA, piecesB] = [pieces(a), pieces(b)];
  if (piecesA.some((count, i) => count !== piecesB[i])) return false;
  const [boxA, boxB] = [boxOf(a), boxOf(b)];
  if (!boxA || !boxB) return false;
  const shape = (box: typeof boxA) => (box.xMax - box.xMin) / Math.max(1, box.yMax - box.yMin);
  return Math.abs(shape(boxA) - shape(boxB)) <= 0.2 * Math.max(shape(boxA), shape(boxB));
}

/** Which part of small letters repeats the capital, and at which height beside it. */
function repeatedCapitals(face: Face): { part: number; height: number } | undefined {
  let [pairs, same, heights] = [0, 0, 0];
  for (const capital of TELLING_PAIRS) {
    const [large, small] = [outlineOf(face, capital), outlineOf(face, capital.toLowerCase())];
    if (!large || !small || large.length === 0 || small.length === 0) continue;
    pairs++;
    if (pairs > FIRST && same === 0) break;
    if (!sameDrawing(large, small)) continue;
    same++;
    const height = (outline: Outline) => {
      const box = boxOf(outline)!;
      return Math.max(1, box.yMax - box.yMin);
    };
    heights += height(small) / height(large);
  }
  return pairs < FIRST ? undefined : { part: same / pairs, height: same === 0 ? 0 : heights / same };
}

/** Looks at the letters' outlines. Throws a `ProblemError` when they are damaged. */
export function capitalsKind(face: Face): CapitalsKind {
  const capitals = hollowPart(face, SOLID_CAPITALS);
  if (capitals === undefined) return "none";
  const repeated = repeatedCapitals(face);
  const small = hollowPart(face, SOLID_SMALL);
  if (capitals >= 0.8) return small !== undefined && small <= 0.2 ? "outlined-capitals" : "outlined";
  if (repeated && repeated.part >= 0.75) return repeated.height > 0.95 ? "capitals-only" : "small-capitals";
  return "filled";
}

export const CAPITALS_WORDS: Record<CapitalsKind, string> = {
  filled: "",
  none: "",
  "capitals-only": "Capitals only: small letters give capitals too.",
  "small-capitals": "Small letters give small capitals.",
  outlined: "Letters are drawn in outline.",
  "outlined-capitals": "Capitals are outlines, small letters are filled.",
};
