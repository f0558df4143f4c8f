// Operators of text (ISO 32000-1, 9 "Text"): where each letter falls, and whether it shows by itself.
import { apply, boxAround, holds, times, UNMOVED } from "./geometry.ts";
import type { Area, Matrix } from "./geometry.ts";
import { setFont } from "./graphics-state.ts";
import type { DrawnLetter, Unseen } from "./letters.ts";
import { OPS, type ShownGlyph } from "./operators.ts";
import { BOUNDS, PageTooLarge, type Operator, type PageFont, type Plane } from "./plane.ts";
import { colourOf, difference, matrixIn, numberIn, scaleOf } from "./state.ts";
import { NEARLY_ALIKE } from "./visibility.ts";

/** Letters lower than this, in points, are nothing to an eye. */
const LEAST_SIZE = 0.5;
const LEAST_INK = 0.02;
/** Parts of a letter's box that are looked at, across and down. */
const SAMPLES = 5;
/**
 * A stroke this wide for its em makes a letter bolder. One much wider than programs thicken letters by (a twenty-fourth to a thirtieth; common
 * practice, no source) is a line that somebody put around them.
 */
const BOLD_STROKE = 0.006;
const LINE_AROUND = 0.09;
/** Sine of the lean that is no accident. */
const LEAN = 0.05;

/** How far the line an em's origin stands on is from the page's own, across the way that is written. */
function lineOf(em: Matrix): number {
  const [x, y] = apply(em, 0, 0);
  return (y * em[0] - x * em[1]) / (Math.hypot(em[0], em[1]) || 1);
}

/** A space sets words apart and shows nothing. */
function gap(plane: Plane, em: Matrix): void {
  const letter: DrawnLetter = {
    font: plane.state.text.font,
    glyph: "",
    text: " ",
    page: plane.source.number,
    size: Math.hypot(em[2], em[3]),
    line: lineOf(em),
    shows: "no",
    why: "blank",
  };
  const origin = apply(em, 0, 0);
  plane.letters.push({ letter, order: plane.nextInOrder(), points: [], box: boxAround([]), origin, colour: undefined, em: 0 });
}

/** `em` leads from the font's em square to the page. */
function placeGlyph(plane: Plane, glyph: ShownGlyph, font: PageFont, em: Matrix): void {
  const { state, view } = plane;
  const { text } = state;
  const known = font.ink(glyph.fontChar, glyph.operatorListId ?? undefined);
  if (known === undefined && glyph.unicode.trim() === "") return gap(plane, em);
  // Ink nobody can measure is looked for where letters mostly are.
  const ink = known ?? { x0: 0.05, y0: 0, x1: Math.max(0.1, glyph.width / 1000 - 0.05), y1: 0.6 };
  if (plane.letters.length >= BOUNDS.letters) throw new PageTooLarge();
  const up = Math.hypot(em[2], em[3]);
  const across = Math.hypot(em[0], em[1]);
  const letter: DrawnLetter = {
    font: text.font,
    glyph: glyph.operatorListId ?? glyph.fontChar,
    text: glyph.unicode,
    page: plane.source.number,
    size: up,
    line: lineOf(em),
    shows: "yes",
  };
  const order = plane.nextInOrder();
  const points = Array.from({ length: SAMPLES * SAMPLES }, (_, i) => {
    const [u, v] = [((i % SAMPLES) + 0.5) / SAMPLES, (Math.floor(i / SAMPLES) + 0.5) / SAMPLES];
    return apply(em, ink.x0 + u * (ink.x1 - ink.x0), ink.y0 + v * (ink.y1 - ink.y0));
  });
  const fills = [0, 2, 4, 6].includes(text.mode) && state.fill !== "none";
  const strokes = [1, 2, 5, 6].includes(text.mode) && state.stroke !== "none";
  const alpha = state.groupAlpha * Math.max(fills ? state.fillAlpha : 0, strokes ? state.strokeAlpha : 0);
  const colour = fills ? colourOf(state.fill) : colourOf(state.stroke);
  const part = (areas: readonly Area[]) => points.filter(([x, y]) => areas.every((area) => holds(area, x, y))).length / points.length;
  const inside = points.filter(([x, y]) => x > view.x0 && x < view.x1 && y > view.y0 && y < view.y1).length / points.length;
  const left = inside === 0 || state.clips.length === 0 ? inside : part(state.clips);
  const hide = (shows: "no" | "unsure", why: Unseen) => Object.assign(letter, { shows, why });
  // A font's own matrix may make the em anything (9.6.5): what counts is the ink.
  const [wide, high] = [across * (ink.x1 - ink.x0), up * (ink.y1 - ink.y0)];
  if (Math.max(up, wide, high) < LEAST_SIZE || wide < LEAST_INK || high < LEAST_INK) hide("no", "size");
  else if (!plane.shown) hide("no", "layer");
  else if (text.mode === 7) hide("unsure", "mode");
  else if (!fills && !strokes) hide("no", "mode");
  else if (alpha < 0.05) hide("no", "clear");
  else if (inside < 0.1) hide("no", "outside");
  else if (left < 0.1) hide("no", "clipped");
  else if (inside < 0.5) hide("unsure", "outside");
  else if (left < 0.5 || state.clipUnknown) hide("unsure", "clipped");
  else if (state.masked || alpha < 0.15) hide("unsure", "clear");
  const lean = Math.abs(em[0] * em[2] + em[1] * em[3]) / (up * across || 1);
  const width = (state.lineWidth * scaleOf(state.ctm)) / (up || 1);
  const [filled, stroked] = [colourOf(state.fill), colourOf(state.stroke)];
  if (lean > LEAN) letter.faked = "slanted";
  else if (
    fills &&
    strokes &&
    width >= BOLD_STROKE &&
    width < LINE_AROUND &&
    filled &&
    stroked &&
    difference(filled, stroked) <= NEARLY_ALIKE
  )
    letter.faked = "bold";
  plane.letters.push({ letter, order, points, box: boxAround(points), origin: apply(em, 0, 0), colour, em: up });
}

function show(plane: Plane, glyphs: readonly (ShownGlyph | number | null)[]): void {
  const { state } = plane;
  const { text } = state;
  const font = plane.source.font(text.font);
  if (!font) return;
  const advance = text.size * (font.matrix[0] ?? 0.001);
  // Along the line, in text space; down the page where the writing is vertical (9.7.4.3).
  let along = 0;
  for (const glyph of glyphs) {
    if (typeof glyph === "number") {
      along += ((font.vertical ? 1 : -1) * glyph * text.size) / 1000;
      continue;
    }
    if (!glyph) continue;
    const spacing = ((glyph.isSpace ? text.wordSpacing : 0) + text.characterSpacing) * text.direction;
    let [x, y] = [along, 0];
    if (font.vertical) {
      const metric = glyph.vmetric ?? font.verticalDefault;
      [x, y] = [-(glyph.vmetric ? metric[1] : glyph.width * 0.5) * advance, -(along + metric[2] * advance)];
      along += -metric[0] * advance - spacing;
    } else along += glyph.width * advance + spacing;
    const across = text.stretch * text.direction;
    const place: Matrix = [text.size * across, 0, 0, text.size * text.direction, text.x + x * across, text.y + y + text.rise];
    placeGlyph(plane, glyph, font, times(times(state.ctm, text.matrix), place));
  }
  if (font.vertical) text.y -= along;
  else text.x += along * text.stretch * text.direction;
  if (text.mode >= 4) state.clipUnknown = true;
}

function moveText({ state: { text } }: Plane, x: number, y: number): void {
  text.x = text.lineX += x;
  text.y = text.lineY += y;
}
const atOrigin = { x: 0, y: 0, lineX: 0, lineY: 0 };

export const TEXT_OPERATORS: readonly (readonly [number, Operator])[] = [
  [OPS.beginText, ({ state }) => void Object.assign(state.text, atOrigin, { matrix: UNMOVED })],
  [OPS.setCharSpacing, ({ state }, args) => void (state.text.characterSpacing = numberIn(args, 0))],
  [OPS.setWordSpacing, ({ state }, args) => void (state.text.wordSpacing = numberIn(args, 0))],
  [OPS.setHScale, ({ state }, args) => void (state.text.stretch = numberIn(args, 0) / 100)],
  [OPS.setLeading, ({ state }, args) => void (state.text.leading = -numberIn(args, 0))],
  [OPS.setFont, (plane, args) => setFont(plane, String(args[0]), numberIn(args, 1))],
  [OPS.setTextRenderingMode, ({ state }, args) => void (state.text.mode = numberIn(args, 0))],
  [OPS.setTextRise, ({ state }, args) => void (state.text.rise = numberIn(args, 0))],
  [OPS.moveText, (plane, args) => moveText(plane, numberIn(args, 0), numberIn(args, 1))],
  [
    OPS.setLeadingMoveText,
    (plane, args) => {
      plane.state.text.leading = numberIn(args, 1);
      moveText(plane, numberIn(args, 0), numberIn(args, 1));
    },
  ],
  [OPS.nextLine, (plane) => moveText(plane, 0, plane.state.text.leading)],
  [
    // Of one array, or of six numbers.
    OPS.setTextMatrix,
    ({ state }, args) => void Object.assign(state.text, atOrigin, { matrix: matrixIn(args) ?? matrixIn(args[0]) ?? UNMOVED }),
  ],
  [OPS.showText, (plane, args) => show(plane, (args[0] ?? []) as readonly (ShownGlyph | number | null)[])],
];
