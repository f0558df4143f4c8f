// Which faces a framed line of lettering may be set in: read, compared, judged and explained.
import type { Colours } from "../../evidence/image.ts";
import { fail, ok, type Result } from "../../problem.ts";
import { differences, type Difference } from "./differs.ts";
import { framedPart, turnedPart, type Frame, type Framed, type Rgb, type Stroke } from "../picture/framed.ts";
import type { FaceIndex } from "../faces/index-of-faces.ts";
import { areaOfFlat } from "../faces/outlines.ts";
import { nearFaces, ranked, type LoadFace, type Ranked } from "./rank.ts";
import { readLine, type LineRead } from "../picture/read-line.ts";
import { tiltOf } from "../picture/tilt.ts";
import { recognised } from "../picture/recognise.ts";
import type { SetLetter } from "../faces/set-line.ts";
import { shortlist } from "./shortlist.ts";
import type { Verdict } from "./said.ts";
import { likenessOf, verdictOf } from "./verdict.ts";

export interface Asked {
  frame: Frame;
  strokes: readonly Stroke[];
  /** The letters' colour, where it was chosen. */
  colour: Rgb | undefined;
  /** The words that stand there; empty when nobody typed them. */
  words: string;
}
export interface SeenLine {
  framed: Framed;
  line: LineRead;
  /** How the line had to be turned to be read. */
  turned: "" | "half" | "mirror";
  /** By how many degrees the frame was turned because its letters stood askew in it. */
  straightened: number;
}
export interface Candidate {
  face: number;
  /** 0 to 1. */
  likeness: number;
  verdict: Verdict;
  error: number;
  /** That of the letter that is furthest off. */
  worst: number;
  differences: Difference[];
  /** Its outlines over the picture, as SVG path data in the picture's pixels. */
  overlay: string;
  /** Draws these words like the candidate at this place of the list; undefined when it is the first to draw them so. */
  asIn: number | undefined;
}

/** A line whose nearest face is nearer than this is as it should be. */
const NEAR_ENOUGH = 0.12;
/** Turned, it must be so much nearer to be taken for turned. */
const TURNED = 0.7;
const MOST_CANDIDATES = 24;

const NO_FRAME = () =>
  fail(
    "match-no-letters",
    "No letters stand out in this frame.",
    "Draw the frame closer around one line, or choose the colour of the letters.",
  );

/** Letters that stand askew by less, in degrees, are read as well as level ones. */
const ASKEW = 0.6;
/** A frame turned about its middle. */
function turnedFrame(frame: Frame, degrees: number): Frame {
  const [mx, my] = [0, 1].map((i) => frame.reduce((sum, corner) => sum + corner[i]!, 0) / 4) as [number, number];
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  return frame.map(([x, y]) => [mx + (x - mx) * c - (y - my) * s, my + (x - mx) * s + (y - my) * c] as const) as unknown as Frame;
}

/** Reads what is framed, straight if its letters stand askew in the frame, and turned if it reads far better so. Problems: as of `readLine`. */
export function seeLine(picture: Colours, asked: Asked, index: FaceIndex): Result<SeenLine> {
  const seen = seeAs(picture, asked, index);
  if (!seen.ok) return seen;
  const boxes = seen.value.line.letters.flatMap(({ box, rough }) => (box && !rough ? [box] : []));
  const heights = boxes.map(({ y0, y1 }) => y1 - y0).sort((a, b) => a - b);
  const high = heights[Math.floor(heights.length / 2)] ?? 0;
  const askew = (tiltOf(boxes, high) * 180) / Math.PI;
  if (Math.abs(askew) < ASKEW || seen.value.turned !== "") return seen;
  const straight = seeAs(picture, { ...asked, frame: turnedFrame(asked.frame, askew) }, index);
  if (!straight.ok || nearest(index, straight.value.line) > nearest(index, seen.value.line)) return seen;
  return ok({ ...straight.value, straightened: askew });
}
const nearest = (index: FaceIndex, line: LineRead): number => shortlist(index, line.seen, 1)[0]?.distance ?? Infinity;

function seeAs(picture: Colours, asked: Asked, index: FaceIndex): Result<SeenLine> {
  const framed = framedPart(picture, asked.frame, asked.strokes, asked.colour);
  if (!framed) return NO_FRAME();
  const as = readLine(framed, index, asked.words);
  if (!as.ok) return as;
  const own: SeenLine = { framed, line: as.value, turned: "", straightened: 0 };
  const before = nearest(index, as.value);
  if (as.value.seen.length === 0 || (before < NEAR_ENOUGH && trusted(as.value))) return ok(own);
  let best = { own, distance: before, trust: trustOf(as.value) };
  for (const turned of ["half", "mirror"] as const) {
    const other = turnedPart(framed, turned);
    const read = readLine(other, index, asked.words);
    if (!read.ok) continue;
    const far = nearest(index, read.value);
    const trust = trustOf(read.value);
    const better = asked.words.trim() === "" ? trust > best.trust + 0.25 : far < best.distance * TURNED;
    if (better) best = { own: { framed: other, line: read.value, turned, straightened: 0 }, distance: far, trust };
  }
  return ok(best.own);
}
const trustOf = ({ letters }: LineRead): number => letters.reduce((sum, { sure }) => sum + sure, 0) / Math.max(1, letters.length);
const trusted = (line: LineRead): boolean => trustOf(line) > 0.6;

/** Letters of which one is easily taken for another. */
const ALIKE = ["il1Ij|!", "oO0QD", "cC", "sS5", "vVyYuU", "wW", "xX", "zZ2", "kK", "pP", "a", "nh", "rt", "ec", "bB8", "gq9", "dD", "tf"];
const surelyOther = (a: string, b: string): boolean =>
  a.toLowerCase() !== b.toLowerCase() && !ALIKE.some((group) => group.includes(a) && group.includes(b));
const LOOKED_AT = 500;
/** What a line seems to read when that is something else than was typed; undefined when the words may stand there. */
function otherWords({ line }: SeenLine, index: FaceIndex): string | undefined {
  const told = line.seen.filter(({ weight }) => weight === 1);
  if (told.length < 3) return undefined;
  const { letters } = recognised(index, line.script, told, LOOKED_AT);
  const sure = letters.filter(({ sure }) => sure >= 0.7);
  const other = letters.filter(({ letter, sure }, i) => sure >= 0.7 && surelyOther(letter, told[i]!.letter));
  return sure.length >= 3 && other.length > 0.6 * told.length ? letters.map(({ letter }) => letter).join("") : undefined;
}

/** Ranks faces for a line that was seen. Problems: "match-words", "match-unlike". */
export async function matchLine(
  seen: SeenLine,
  typed: boolean,
  index: FaceIndex,
  load: LoadFace,
  about: { isJoined: (face: number) => boolean; allowed: (face: number) => boolean },
  onLaid?: (done: number, of: number) => Promise<boolean>,
): Promise<Result<Candidate[]>> {
  const { line, framed } = seen;
  if (typed) {
    const reads = otherWords(seen, index);
    if (reads !== undefined)
      return fail(
        "match-words",
        `These words do not seem to stand in this frame: it reads more like “${reads}”.`,
        "Correct the words, or move the frame.",
      );
  } else if (line.seen.length < 3)
    return fail("match-unread", "Too few of these letters can be recognised for sure.", "Type the words that stand there.");
  const faces = nearFaces(line, index, about.isJoined, about.allowed);
  const { found, target } = await ranked(line, typed, faces, load, onLaid && ((done) => onLaid(done, faces.length)));
  const rivals = found.filter((one, i) => i > 0 && !drawnAlike(one.letters, found[0]!.letters));
  const letters = line.letters.map(({ letter }) => letter);
  return ok(
    found.slice(0, MOST_CANDIDATES).map((one, i): Candidate => {
      const before = found.slice(0, i).findIndex((other) => drawnAlike(one.letters, other.letters));
      const worst = Math.max(...one.laid.letters.map((letter) => letter.error));
      const evidence = { worst, letters: one.laid.letters.length, apart: line.apart, typed, scale: one.laid.scale };
      // Only the first can be it; what is drawn like it is it as well.
      const first = i === 0 || before === 0;
      return {
        face: one.face,
        error: one.error,
        worst,
        likeness: likenessOf(one.error),
        verdict: verdictOf(one, first ? rivals[0]?.error : 0, evidence),
        differences: differences(one.laid.letters, letters, target),
        overlay: overlayOf(one, (x, y) => framed.place(...target.toLine(x, y))),
        asIn: before < 0 ? undefined : before,
      };
    }),
  );
}

/** Whether two faces draw these words alike, whatever size they draw them at; where `spacing` does not count, letters alone do. */
export function drawnAlike(one: readonly SetLetter[], other: readonly SetLetter[], spacing = true): boolean {
  if (one.length !== other.length) return false;
  const tall = (letters: readonly SetLetter[]) =>
    Math.max(...letters.map(({ box }) => box.y1)) - Math.min(...letters.map(({ box }) => box.y0));
  const [a, b] = [tall(one), tall(other)];
  return one.every((letter, i) => {
    const twin = other[i]!;
    const near = (x: number, y: number) => Math.abs(x - y) < 0.012;
    return (
      near((letter.box.x1 - letter.box.x0) / a, (twin.box.x1 - twin.box.x0) / b) &&
      near((letter.box.y1 - letter.box.y0) / a, (twin.box.y1 - twin.box.y0) / b) &&
      (!spacing || near((letter.box.x0 - one[0]!.box.x0) / a, (twin.box.x0 - other[0]!.box.x0) / b)) &&
      near(areaOfFlat(letter.polygons) / a / a, areaOfFlat(twin.polygons) / b / b)
    );
  });
}

function overlayOf({ laid }: Ranked, place: (x: number, y: number) => readonly [number, number]): string {
  let path = "";
  for (const { polygons, sx, sy, tx, ty } of laid.letters) {
    for (const points of polygons) {
      for (let i = 0; i < points.length; i += 2) {
        const [x, y] = place(points[i]! * sx + tx, points[i + 1]! * sy + ty);
        path += `${i === 0 ? "M" : "L"}${x.toFixed(1)} ${y.toFixed(1)}`;
      }
      path += "Z";
    }
  }
  return path;
}
