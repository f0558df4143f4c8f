// What a page draws: its operators are carried out on a plane that remembers areas instead of pixels, so that for each letter it can be said
// whether it shows (ISO 32000-1, 8 "Graphics", 9 "Text", 11 "Transparency").
import { apart, apply, areaOf, boxAround, corners, cubicPoints, holds, inverse, times, UNMOVED } from "./geometry.ts";
import type { Area, Box, Matrix, Point } from "./geometry.ts";
import type { DrawnLetter, Unseen } from "./letters.ts";
import { OPS, type Operators, type Pixels, type ShownGlyph } from "./operators.ts";

/** What a page asks of the fonts it shows. */
export interface PageFont {
  /** From glyph space to text space (9.2.4). */
  matrix: readonly number[];
  vertical: boolean;
  verticalDefault: readonly [number, number, number];
  /** The ink of a glyph in text space; undefined when it has none, null when that is not known. */
  ink: (glyph: string, id: string | undefined) => Box | undefined | null;
}
export interface PageSource {
  number: number;
  /** The part that is shown (14.11.2, "CropBox"). */
  view: readonly number[];
  operators: Operators;
  font: (key: string) => PageFont | undefined;
  layerShows: (group: unknown) => boolean;
  pixels: (id: string) => Pixels | undefined;
}
export interface DrawnPage {
  letters: DrawnLetter[];
  /** Filled paths of more than a few straight edges: letters turned into outlines look like this. */
  shapes: number;
  pictures: number;
}

type Rgb = readonly [red: number, green: number, blue: number];
type Paint = { colour: Rgb } | { tiles: Operators; matrix: Matrix } | "unknown" | "none";
interface TextState {
  font: string;
  size: number;
  direction: 1 | -1;
  characterSpacing: number;
  wordSpacing: number;
  stretch: number;
  leading: number;
  rise: number;
  mode: number;
  matrix: Matrix;
  x: number;
  y: number;
  lineX: number;
  lineY: number;
}
interface State {
  ctm: Matrix;
  clips: readonly Area[];
  /** A clip nobody follows here, such as letters. */
  clipUnknown: boolean;
  fill: Paint;
  stroke: Paint;
  fillAlpha: number;
  strokeAlpha: number;
  groupAlpha: number;
  blends: boolean;
  masked: boolean;
  lineWidth: number;
  text: TextState;
}
/** Something painted, in the order of painting. */
interface Painted {
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
interface Placed {
  letter: DrawnLetter;
  order: number;
  points: Point[];
  box: Box;
  origin: Point;
  colour: Rgb | undefined;
  em: number;
}

const BLACK: Rgb = [0, 0, 0];
const PAPER: Rgb = [255, 255, 255];
/** Letters lower than this, in points, are nothing to an eye. */
const LEAST_SIZE = 0.5;
const LEAST_INK = 0.02;
/** Parts of a letter's box that are looked at, across and down. */
const SAMPLES = 5;
const ALIKE = 10;
const NEARLY_ALIKE = 26;
/** A stroke this wide for its em, or a second letter this near, makes a letter bolder. */
const BOLD_STROKE = 0.006;
const TWICE = { least: 0.003, most: 0.08 };
/** How many of the same letter before it a letter is held against. */
const LATELY = 12;
/** Sine of the lean that is no accident. */
const LEAN = 0.05;
/** What letters turned to outlines have at least, by curves or by points. */
const LETTER_CURVES = 3;
const LETTER_POINTS = 12;
/** A page with more than this is not followed to its end. */
const BOUNDS = { operators: 1_500_000, areas: 12_000, points: 1_500_000, letters: 120_000, depth: 24 } as const;
export class PageTooLarge extends Error {}

const freshText = (): TextState => ({
  ...{ font: "", size: 0, direction: 1, characterSpacing: 0, wordSpacing: 0, stretch: 1, leading: 0, rise: 0, mode: 0 },
  ...{ matrix: UNMOVED, x: 0, y: 0, lineX: 0, lineY: 0 },
});
const fresh = (): State => ({
  ...{ ctm: UNMOVED, clips: [], clipUnknown: false, fill: { colour: BLACK }, stroke: { colour: BLACK } },
  ...{ fillAlpha: 1, strokeAlpha: 1, groupAlpha: 1, blends: false, masked: false, lineWidth: 1, text: freshText() },
});
const scaleOf = (m: Matrix): number => Math.sqrt(Math.abs(m[0] * m[3] - m[1] * m[2]));
const difference = (a: Rgb, b: Rgb): number => Math.max(...a.map((value, i) => Math.abs(value - b[i]!)));
const colourOf = (paint: Paint): Rgb | undefined => (typeof paint === "object" && "colour" in paint ? paint.colour : undefined);
const matrixIn = (value: unknown): Matrix | undefined =>
  Array.isArray(value) && value.length >= 6 ? (value.slice(0, 6).map(Number) as unknown as Matrix) : undefined;
const boxIn = (value: unknown): Box | undefined =>
  Array.isArray(value) && value.length >= 4 ? { x0: +value[0], y0: +value[1], x1: +value[2], y1: +value[3] } : undefined;

class Plane {
  readonly letters: Placed[] = [];
  readonly painted: Painted[] = [];
  shapes = 0;
  pictures = 0;
  /** More was painted than is remembered. */
  overflown = false;
  private state = fresh();
  private stack: State[] = [];
  private path: Point[][] = [];
  private curved = 0;
  private pendingClip: "nonzero" | "evenodd" | undefined;
  private layers: boolean[] = [];
  private order = 0;
  private operators = 0;
  private points = 0;
  private readonly source: PageSource;

  constructor(source: PageSource) {
    this.source = source;
  }

  private get shown(): boolean {
    return this.layers.every(Boolean);
  }
  private save(): void {
    this.stack.push(this.state);
    this.state = { ...this.state, text: { ...this.state.text } };
  }
  private restore(): void {
    const before = this.stack.pop();
    if (before) this.state = before;
  }
  private clipTo(area: Area): void {
    this.state.clips = [...this.state.clips, area];
  }
  private clipToBox(box: Box | undefined, matrix: Matrix): void {
    if (box) this.clipTo(areaOf([corners(matrix, box)], false));
  }

  run({ fnArray, argsArray }: Operators, depth: number): void {
    if (depth > BOUNDS.depth) throw new PageTooLarge();
    const [bottom, layers] = [this.stack.length, this.layers.length];
    for (let i = 0; i < fnArray.length; i++) {
      if (++this.operators > BOUNDS.operators) throw new PageTooLarge();
      this.step(fnArray[i]!, (argsArray[i] ?? []) as readonly unknown[], depth);
    }
    // What was left open ends with its stream.
    while (this.stack.length > bottom) this.restore();
    this.layers.length = Math.min(this.layers.length, layers);
  }

  private step(operator: number, args: readonly unknown[], depth: number): void {
    const { state } = this;
    const { text } = state;
    const number = (at: number): number => Number(args[at] ?? 0);
    switch (operator) {
      case OPS.save:
        return this.save();
      case OPS.restore:
        return this.restore();
      case OPS.transform: {
        const matrix = matrixIn(args);
        if (matrix) state.ctm = times(state.ctm, matrix);
        return;
      }
      case OPS.setLineWidth:
        state.lineWidth = Math.abs(number(0));
        return;
      case OPS.setGState:
        return this.graphicsState((args[0] ?? []) as readonly (readonly [string, unknown])[]);
      case OPS.setFillRGBColor:
        state.fill = { colour: [number(0), number(1), number(2)] };
        return;
      case OPS.setStrokeRGBColor:
        state.stroke = { colour: [number(0), number(1), number(2)] };
        return;
      case OPS.setFillColorN:
        state.fill = this.pattern(args);
        return;
      case OPS.setStrokeColorN:
        state.stroke = "unknown";
        return;
      case OPS.setFillTransparent:
        state.fill = "none";
        return;
      case OPS.setStrokeTransparent:
        state.stroke = "none";
        return;
      case OPS.constructPath:
        return this.construct(args[0] as ArrayLike<number>, args[1] as ArrayLike<number>);
      case OPS.clip:
        this.pendingClip = "nonzero";
        return;
      case OPS.eoClip:
        this.pendingClip = "evenodd";
        return;
      case OPS.fill:
      case OPS.eoFill:
        return this.paintPath(operator === OPS.eoFill, true, false, depth);
      case OPS.fillStroke:
      case OPS.closeFillStroke:
        return this.paintPath(false, true, true, depth);
      case OPS.eoFillStroke:
      case OPS.closeEOFillStroke:
        return this.paintPath(true, true, true, depth);
      case OPS.stroke:
      case OPS.closeStroke:
        return this.paintPath(false, false, true, depth);
      case OPS.endPath:
        return this.paintPath(false, false, false, depth);
      case OPS.shadingFill:
        // Paints all that the clip leaves.
        return this.paint(areaOf([corners(UNMOVED, this.view)], false), undefined, state.fillAlpha, undefined);
      case OPS.beginMarkedContent:
        this.layers.push(true);
        return;
      case OPS.beginMarkedContentProps:
        this.layers.push(args[0] !== "OC" || args[1] == null || this.source.layerShows(args[1]));
        return;
      case OPS.endMarkedContent:
        this.layers.pop();
        return;
      case OPS.paintFormXObjectBegin: {
        this.save();
        const matrix = matrixIn(args[0]);
        if (matrix) this.state.ctm = times(this.state.ctm, matrix);
        return this.clipToBox(boxIn(args[1]), this.state.ctm);
      }
      case OPS.paintFormXObjectEnd:
        return this.restore();
      case OPS.beginGroup: {
        const group = (args[0] ?? {}) as { matrix?: unknown; bbox?: unknown };
        this.save();
        this.clipToBox(boxIn(group.bbox), times(this.state.ctm, matrixIn(group.matrix) ?? UNMOVED));
        this.state.groupAlpha *= this.state.fillAlpha;
        Object.assign(this.state, { fillAlpha: 1, strokeAlpha: 1 });
        return;
      }
      case OPS.endGroup:
        return this.restore();
      case OPS.beginAnnotation: {
        this.save();
        this.state = { ...fresh(), text: freshText() };
        const own = times(matrixIn(args[2]) ?? UNMOVED, matrixIn(args[3]) ?? UNMOVED);
        this.clipToBox(boxIn(args[1]), UNMOVED);
        this.state.ctm = own;
        return;
      }
      case OPS.endAnnotation:
        return this.restore();
      case OPS.paintImageXObject:
      case OPS.paintInlineImageXObject:
      case OPS.paintImageMaskXObject:
      case OPS.paintSolidColorImageMask:
        return this.image(operator, args[0]);
      case OPS.paintImageXObjectRepeat:
      case OPS.paintImageMaskXObjectRepeat:
      case OPS.paintInlineImageXObjectGroup:
      case OPS.paintImageMaskXObjectGroup:
        this.pictures++;
        this.overflown = true;
        return;
      case OPS.beginText:
        Object.assign(text, { matrix: UNMOVED, x: 0, y: 0, lineX: 0, lineY: 0 });
        return;
      case OPS.setCharSpacing:
        text.characterSpacing = number(0);
        return;
      case OPS.setWordSpacing:
        text.wordSpacing = number(0);
        return;
      case OPS.setHScale:
        text.stretch = number(0) / 100;
        return;
      case OPS.setLeading:
        text.leading = -number(0);
        return;
      case OPS.setFont:
        return this.setFont(String(args[0]), number(1));
      case OPS.setTextRenderingMode:
        text.mode = number(0);
        return;
      case OPS.setTextRise:
        text.rise = number(0);
        return;
      case OPS.moveText:
        return this.moveText(number(0), number(1));
      case OPS.setLeadingMoveText:
        text.leading = number(1);
        return this.moveText(number(0), number(1));
      case OPS.nextLine:
        return this.moveText(0, text.leading);
      case OPS.setTextMatrix: {
        // Of one array, or of six numbers.
        text.matrix = matrixIn(args) ?? matrixIn(args[0]) ?? UNMOVED;
        Object.assign(text, { x: 0, y: 0, lineX: 0, lineY: 0 });
        return;
      }
      case OPS.showText:
        return this.show((args[0] ?? []) as readonly (ShownGlyph | number | null)[]);
    }
  }

  private get view(): Box {
    const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = this.source.view;
    return { x0, y0, x1, y1 };
  }
  private moveText(x: number, y: number): void {
    const { text } = this.state;
    text.x = text.lineX += x;
    text.y = text.lineY += y;
  }
  private setFont(font: string, size: number): void {
    Object.assign(this.state.text, { font, size: Math.abs(size), direction: size < 0 ? -1 : 1 });
  }
  private graphicsState(entries: readonly (readonly [string, unknown])[]): void {
    const { state } = this;
    for (const [key, value] of entries) {
      if (key === "ca") state.fillAlpha = Number(value);
      else if (key === "CA") state.strokeAlpha = Number(value);
      else if (key === "LW") state.lineWidth = Math.abs(Number(value));
      else if (key === "BM") state.blends = value !== "source-over" && value !== "Normal";
      else if (key === "SMask") state.masked = value !== false && value !== null;
      else if (key === "Font" && Array.isArray(value)) this.setFont(String(value[0]), Number(value[1]));
    }
  }
  private pattern(args: readonly unknown[]): Paint {
    if (args[0] !== "TilingPattern") return "unknown";
    return { tiles: args[2] as Operators, matrix: matrixIn(args[3]) ?? UNMOVED };
  }

  private construct(operators: ArrayLike<number>, coordinates: ArrayLike<number>): void {
    const { ctm } = this.state;
    let at = 0;
    let current: Point[] | undefined = this.path.at(-1);
    const next = (): Point => {
      if (++this.points > BOUNDS.points) throw new PageTooLarge();
      const point = apply(ctm, Number(coordinates[at]), Number(coordinates[at + 1]));
      at += 2;
      return point;
    };
    const curve = (a: Point, b: Point, c: Point, d: Point) => {
      this.points += 8;
      this.curved++;
      current!.push(...cubicPoints(a, b, c, d));
    };
    for (let i = 0; i < operators.length; i++) {
      const operator = operators[i];
      if (operator === OPS.rectangle) {
        const [x, y, w, h] = [0, 1, 2, 3].map((k) => Number(coordinates[at + k])) as [number, number, number, number];
        at += 4;
        this.points += 4;
        this.path.push([...corners(ctm, { x0: x, y0: y, x1: x + w, y1: y + h }), apply(ctm, x, y)]);
        current = undefined;
      } else if (operator === OPS.moveTo) this.path.push((current = [next()]));
      else if (operator === OPS.closePath) {
        if (current?.[0]) {
          current.push(current[0]);
          this.path.push((current = [current[0]]));
        }
      } else {
        const points = operator === OPS.lineTo ? [next()] : operator === OPS.curveTo ? [next(), next(), next()] : [next(), next()];
        if (!current) this.path.push((current = [points[0]!]));
        const last = current.at(-1)!;
        if (operator === OPS.lineTo) current.push(points[0]!);
        else if (operator === OPS.curveTo) curve(last, points[0]!, points[1]!, points[2]!);
        else if (operator === OPS.curveTo2) curve(last, last, points[0]!, points[1]!);
        else if (operator === OPS.curveTo3) curve(last, points[0]!, points[1]!, points[1]!);
      }
    }
  }

  private paintPath(evenOdd: boolean, fills: boolean, strokes: boolean, depth: number): void {
    const { state } = this;
    const polygons = this.path.filter((polygon) => polygon.length > 1);
    const curves = this.curved;
    this.path = [];
    this.curved = 0;
    if (polygons.length > 0) {
      if (fills && state.fill !== "none") {
        const area = areaOf(polygons, evenOdd);
        if (curves >= LETTER_CURVES || polygons.reduce((sum, one) => sum + one.length, 0) >= LETTER_POINTS) this.shapes++;
        const { fill } = state;
        this.paint(area, colourOf(fill), state.fillAlpha, undefined, typeof fill === "object" && "tiles" in fill);
        if (typeof fill === "object" && "tiles" in fill) this.tile(area, fill.tiles, fill.matrix, depth);
      }
      if (strokes && state.stroke !== "none")
        this.paint(
          areaOf(polygons, false, Math.max(0.2, (state.lineWidth * scaleOf(state.ctm)) / 2)),
          colourOf(state.stroke),
          state.strokeAlpha,
          undefined,
        );
      if (this.pendingClip) this.clipTo(areaOf(polygons, this.pendingClip === "evenodd"));
    } else if (this.pendingClip) this.clipTo(areaOf([], false));
    this.pendingClip = undefined;
  }
  /** A pattern's cell is drawn once; it is repeated wherever the area lies (8.7.3). */
  private tile(area: Area, tiles: Operators, matrix: Matrix, depth: number): void {
    if (apart(area.box, this.view)) return;
    this.save();
    this.state = { ...fresh(), clips: [], groupAlpha: this.state.groupAlpha * this.state.fillAlpha, text: freshText() };
    this.state.ctm = matrix;
    // Where its letters fall is not followed: they show wherever the area does.
    const before = this.letters.length;
    this.run(tiles, depth + 1);
    for (const placed of this.letters.slice(before))
      if (placed.letter.shows === "no" && placed.letter.why === "outside") placed.letter.shows = "unsure";
    this.restore();
  }
  private image(operator: number, given: unknown): void {
    this.pictures++;
    const { state } = this;
    const mask = operator === OPS.paintImageMaskXObject || operator === OPS.paintSolidColorImageMask;
    // A picture fills the unit square (8.9.4).
    const area = areaOf([corners(state.ctm, { x0: 0, y0: 0, x1: 1, y1: 1 })], false);
    const pixels = typeof given === "string" ? this.source.pixels(given) : (given as Pixels | undefined);
    const back = inverse(state.ctm);
    this.paint(
      area,
      mask ? colourOf(state.fill) : undefined,
      state.fillAlpha,
      !mask && pixels && back ? { pixels, back } : undefined,
      mask,
    );
  }

  private paint(area: Area, colour: Rgb | undefined, alpha: number, picture: Painted["picture"], lets = false): void {
    const { state } = this;
    if (!this.shown || alpha * state.groupAlpha <= 0 || apart(area.box, this.view)) return;
    if (this.painted.length >= BOUNDS.areas) {
      this.overflown = true;
      return;
    }
    this.painted.push({
      ...{ order: ++this.order, area, clips: state.clips, colour, alpha: alpha * state.groupAlpha },
      ...(picture ? { picture } : {}),
      lets: lets || state.blends || state.masked || state.clipUnknown || (picture ? !opaque(picture.pixels) : false),
    });
  }

  private show(glyphs: readonly (ShownGlyph | number | null)[]): void {
    const { state } = this;
    const { text } = state;
    const font = this.source.font(text.font);
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
      this.place(glyph, font, times(times(state.ctm, text.matrix), place));
    }
    if (font.vertical) text.y -= along;
    else text.x += along * text.stretch * text.direction;
    if (text.mode >= 4) state.clipUnknown = true;
  }

  /** `em` leads from the font's em square to the page. */
  private place(glyph: ShownGlyph, font: PageFont, em: Matrix): void {
    const { state } = this;
    const { text } = state;
    const known = font.ink(glyph.fontChar, glyph.operatorListId ?? undefined);
    if (known === undefined && glyph.unicode.trim() === "") return this.gap(glyph, em);
    // Ink nobody can measure is looked for where letters mostly are.
    const ink = known ?? { x0: 0.05, y0: 0, x1: Math.max(0.1, glyph.width / 1000 - 0.05), y1: 0.6 };
    if (this.letters.length >= BOUNDS.letters) throw new PageTooLarge();
    const up = Math.hypot(em[2], em[3]);
    const across = Math.hypot(em[0], em[1]);
    const letter: DrawnLetter = {
      ...{ font: text.font, glyph: glyph.operatorListId ?? glyph.fontChar, text: glyph.unicode, page: this.source.number },
      ...{ size: up, shows: "yes" },
    };
    const order = ++this.order;
    const points = Array.from({ length: SAMPLES * SAMPLES }, (_, i) => {
      const [u, v] = [((i % SAMPLES) + 0.5) / SAMPLES, (Math.floor(i / SAMPLES) + 0.5) / SAMPLES];
      return apply(em, ink.x0 + u * (ink.x1 - ink.x0), ink.y0 + v * (ink.y1 - ink.y0));
    });
    const fills = [0, 2, 4, 6].includes(text.mode) && state.fill !== "none";
    const strokes = [1, 2, 5, 6].includes(text.mode) && state.stroke !== "none";
    const alpha = state.groupAlpha * Math.max(fills ? state.fillAlpha : 0, strokes ? state.strokeAlpha : 0);
    const colour = fills ? colourOf(state.fill) : colourOf(state.stroke);
    const part = (areas: readonly Area[]) => points.filter(([x, y]) => areas.every((area) => holds(area, x, y))).length / points.length;
    const view = this.view;
    const inside = points.filter(([x, y]) => x > view.x0 && x < view.x1 && y > view.y0 && y < view.y1).length / points.length;
    const left = inside === 0 || state.clips.length === 0 ? inside : part(state.clips);
    const hide = (shows: "no" | "unsure", why: Unseen) => Object.assign(letter, { shows, why });
    // A font's own matrix may make the em anything (9.6.5): what counts is the ink.
    const [wide, high] = [across * (ink.x1 - ink.x0), up * (ink.y1 - ink.y0)];
    if (Math.max(up, wide, high) < LEAST_SIZE || wide < LEAST_INK || high < LEAST_INK) hide("no", "size");
    else if (!this.shown) hide("no", "layer");
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
    else if (fills && strokes && width >= BOLD_STROKE && filled && stroked && difference(filled, stroked) <= NEARLY_ALIKE)
      letter.faked = "bold";
    this.letters.push({ letter, order, points, box: boxAround(points), origin: apply(em, 0, 0), colour, em: up });
  }

  /** A space sets words apart and shows nothing. */
  private gap(glyph: ShownGlyph, em: Matrix): void {
    const letter: DrawnLetter = {
      ...{ font: this.state.text.font, glyph: "", text: " ", page: this.source.number, size: Math.hypot(em[2], em[3]) },
      ...{ shows: "no", why: "blank" },
    };
    this.letters.push({ letter, order: ++this.order, points: [], box: boxAround([]), origin: apply(em, 0, 0), colour: undefined, em: 0 });
  }

  /** What was drawn before and after each letter says whether it stands out. */
  finish(): DrawnLetter[] {
    for (const placed of this.letters) {
      if (placed.letter.shows !== "yes") continue;
      this.under(placed);
      if (placed.letter.shows === "yes") this.over(placed);
      if (this.overflown && placed.letter.shows === "yes") Object.assign(placed.letter, { shows: "unsure", why: "covered" });
    }
    this.drawnTwice();
    return this.letters.map(({ letter }) => letter);
  }
  private under({ letter, order, points, colour }: Placed): void {
    if (!colour) return;
    const [x, y] = points[Math.floor(points.length / 2)]!;
    let ground: Rgb | undefined = PAPER;
    for (const one of this.painted) {
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
  private over({ letter, order, points, box, colour }: Placed): void {
    const covered = new Array<boolean>(points.length).fill(false);
    const perhaps = new Array<boolean>(points.length).fill(false);
    for (let i = this.firstAfter(order); i < this.painted.length; i++) {
      const one = this.painted[i]!;
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
  private firstAfter(order: number): number {
    let [low, high] = [0, this.painted.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.painted[middle]!.order < order) low = middle + 1;
      else high = middle;
    }
    return low;
  }
  private drawnTwice(): void {
    const lately = new Map<string, Placed[]>();
    for (const placed of this.letters) {
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
}

const opacity = new WeakMap<Pixels, boolean>();
/** Whether nothing shows through a picture. */
function opaque(pixels: Pixels): boolean {
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

/** Follows a page's drawing. Throws `PageTooLarge` when it is larger than is followed (`BOUNDS`). */
export function drawPage(source: PageSource): DrawnPage {
  const plane = new Plane(source);
  plane.run(source.operators, 0);
  const letters = plane.finish();
  return { letters, shapes: plane.shapes, pictures: plane.pictures };
}
