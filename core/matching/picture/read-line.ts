// What a framed line of lettering holds: its letters, each with its own ink, and which letter it is — as typed, or as recognised.
import { resample, type Grey } from "../../evidence/raster.ts";
import { fail, ok, type Result } from "../../problem.ts";
import { JOINED_SCRIPTS, MEASURED_SCRIPTS, scriptOfText, slotOf, type MeasuredScript } from "../faces/alphabet.ts";
import type { FlatBox } from "../faces/coverage-raster.ts";
import type { Framed } from "./framed.ts";
import type { FaceIndex } from "../faces/index-of-faces.ts";
import { formOfPixels } from "../faces/letter-form.ts";
import { inkedPieces, letterInk, type Inked } from "./pieces-of-ink.ts";
import { gapsAfter, partedInto, segmentsAsSeen, type Segment } from "./segments.ts";
import { lettersOf } from "../faces/set-line.ts";
import type { SeenLetter } from "../answer/shortlist.ts";
import { recognised } from "./recognise.ts";

const { max, min } = Math;

/** A letter of the line, as it is read. */
interface LineLetter {
  /** Typed or recognised; empty when it is not known. */
  letter: string;
  /** How surely, 0 to 1; 1 when it was typed. */
  sure: number;
  /** In the line's pixels; undefined when it could not be told apart. */
  box: FlatBox | undefined;
  rough: boolean;
}
export interface LineRead {
  inked: Inked;
  letters: LineLetter[];
  seen: SeenLetter[];
  /** What is set and laid over the line. */
  words: string;
  /** Whether letters are compared one by one, or the line as a whole. */
  apart: boolean;
  script: MeasuredScript;
}

/** More letters than this are a page, not a line. */
const MOST_LETTERS = 80;
const LEAST_HIGH = 12;
/** A line whose parting costs more a letter is not these words. */
const ILL_PARTED = 6;

const NO_LETTERS = () =>
  fail(
    "match-no-letters",
    "No letters stand out in this frame.",
    "Draw the frame closer around one line, or choose the colour of the letters.",
  );
const TINY = () =>
  fail(
    "match-tiny",
    "The letters are too small in this picture.",
    "Take it again from nearer, so that letters are 24 pixels high or more.",
  );
const MANY = () =>
  fail("match-page", "This frame holds more than one line of lettering.", "Draw it around a single line, or a single word.");

/** Reads a line. `words` is empty when nobody typed them. Problems: "match-no-letters", "match-tiny", "match-page", "match-words". */
export function readLine({ grey, limit }: Framed, index: FaceIndex, words: string): Result<LineRead> {
  const inked = inkedPieces(grey, limit);
  if (!inked) return NO_LETTERS();
  if (inked.box.y1 - inked.box.y0 < LEAST_HIGH) return TINY();
  if (linesIn(inked) > 1) return MANY();
  return words.trim() === "" ? readUnknown(inked, index) : readKnown(inked, index, words.trim().replace(/\s+/g, " "));
}

/** Lines of ink parted by rows that are all but empty; what is less than half as high as the highest of them is dots and accents. */
function linesIn({ grey, labels, box }: Inked): number {
  const runs: number[] = [];
  let [run, gap] = [0, 0];
  const high = box.y1 - box.y0;
  for (let y = box.y0; y <= box.y1; y++) {
    let pixels = 0;
    if (y < box.y1)
      for (let x = box.x0; x < box.x1; x++) if (labels[y * grey.width + x]! > 0 && grey.ink[y * grey.width + x]! > 0.4) pixels++;
    if (pixels > 0.008 * (box.x1 - box.x0)) {
      run++;
      gap = 0;
    } else if (++gap >= max(1, 0.015 * high) || y === box.y1) {
      if (run > 0) runs.push(run);
      run = 0;
    }
  }
  const highest = max(0, ...runs);
  return runs.filter((one) => one > highest / 2).length;
}

function seenLetter(inked: Inked, { labels, box, rough }: Segment, letter: string, weight: number): SeenLetter | undefined {
  const own = letterInk(inked, labels, box);
  if (!own) return undefined;
  const { x0, x1, y0, y1 } = own.box;
  const form = formOfPixels(own.ink, own.width, own.height, { x0: x0 - own.x, x1: x1 - own.x, y0: y0 - own.y, y1: y1 - own.y });
  return { letter, form, box: own.box, weight: weight * (rough ? 0.4 : 1) };
}

function readKnown(inked: Inked, index: FaceIndex, words: string): Result<LineRead> {
  const { letters, order } = lettersOf(words);
  const script = scriptOfText(words);
  const whole: LineRead = {
    inked,
    words,
    script,
    apart: false,
    seen: [],
    letters: letters.map((letter) => ({ letter, sure: 1, box: undefined, rough: true })),
  };
  if (letters.length === 0 || letters.length > MOST_LETTERS) return MANY();
  if (JOINED_SCRIPTS.has(script)) return ok(whole);
  const usual = order.map((at) => index.usual(letters[at]!) ?? index.usual("n") ?? { width: 0.5, top: -0.5, bottom: 0 });
  const parted = partedInto(inked, usual);
  if (!parted || parted.cost > ILL_PARTED) return ok(whole);
  for (const [i, at] of order.entries()) {
    const segment = parted.segments[i]!;
    const seen = seenLetter(inked, segment, letters[at]!, 1);
    if (!seen) continue;
    whole.seen.push(seen);
    whole.letters[at] = { letter: letters[at]!, sure: 1, box: seen.box, rough: segment.rough };
  }
  const rough = whole.letters.filter((one) => one.rough).length;
  return ok({ ...whole, apart: rough < whole.letters.length * 0.5 });
}

/** Faces letters are recognised by, spread over the whole index. */
const MOST_LOOKED_AT = 1500;
function readUnknown(inked: Inked, index: FaceIndex): Result<LineRead> {
  const segments = segmentsAsSeen(inked).slice(0, MOST_LETTERS);
  if (segments.length >= MOST_LETTERS) return MANY();
  const forms = segments.map((segment) => seenLetter(inked, segment, "", 1));
  const readings = MEASURED_SCRIPTS.filter((script) => !JOINED_SCRIPTS.has(script)).map((script) => ({
    script,
    ...recognised(
      index,
      script,
      forms.map((one) => one && { form: one.form, box: one.box }),
      MOST_LOOKED_AT,
    ),
  }));
  const best = readings.sort((a, b) => b.trust - a.trust)[0]!;
  const gaps = gapsAfter(segments);
  const letters = segments.map((segment, i): LineLetter => {
    const { letter, sure } = best.letters[i] ?? { letter: "", sure: 0 };
    return { letter, sure, box: forms[i]?.box ?? segment.box, rough: false };
  });
  const seen = forms.flatMap((one, i) => {
    const { letter, sure } = letters[i]!;
    return one && sure >= LEAST_SURE && slotOf(letter) ? [{ ...one, letter, weight: sure }] : [];
  });
  // Hebrew is read from the right.
  const rtl = best.script === "hebrew";
  const ordered = rtl ? [...letters].reverse() : letters;
  const words = letters.map(({ letter }, i) => (letter === "" ? "·" : letter) + (gaps[i] ? " " : ""));
  return ok({
    inked,
    letters: ordered,
    seen: rtl ? seen.reverse() : seen,
    words: (rtl ? words.reverse() : words).join(""),
    apart: true,
    script: best.script,
  });
}
export const LEAST_SURE = 0.45;

/** A line at the size it is compared at, with the places of its letters. */
export interface ComparedLine {
  grey: Grey;
  box: FlatBox;
  places: (FlatBox | undefined)[];
  rough: boolean[];
  /** From its own pixels to those of the line. */
  toLine: (x: number, y: number) => [x: number, y: number];
}
export function comparedLine({ inked, letters }: LineRead, scale: number): ComparedLine {
  const { grey, labels, box } = inked;
  // Only ink of the line's pieces counts.
  const own = Float32Array.from(grey.ink, (value, i) => (labels[i]! > 0 ? value : 0));
  const room = 6 / scale;
  const area = {
    x: max(0, box.x0 - room),
    y: max(0, box.y0 - room),
    width: min(grey.width, box.x1 + room) - max(0, box.x0 - room),
    height: min(grey.height, box.y1 + room) - max(0, box.y0 - room),
  };
  const [w, h] = [max(2, Math.round(area.width * scale)), max(2, Math.round(area.height * scale))];
  const [sx, sy] = [w / area.width, h / area.height];
  const moved = (one: FlatBox): FlatBox => ({
    x0: (one.x0 - area.x) * sx,
    x1: (one.x1 - area.x) * sx,
    y0: (one.y0 - area.y) * sy,
    y1: (one.y1 - area.y) * sy,
  });
  return {
    grey: resample({ width: grey.width, height: grey.height, ink: own }, area, w, h),
    box: moved(box),
    places: letters.map((one) => one.box && moved(one.box)),
    rough: letters.map((one) => one.rough),
    toLine: (x, y) => [area.x + x / sx, area.y + y / sy],
  };
}
