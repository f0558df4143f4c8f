// Font programs as outlines: the one a page carries, and the one that is wanted.
import * as hb from "harfbuzzjs";
import { openContainer } from "../../sfnt/container.ts";
import { Face } from "../../sfnt/face.ts";
import { NAME } from "../../sfnt/name.ts";
import { plainly } from "../names.ts";
import { apply, cubicPoints, times, UNMOVED, type Matrix, type Point } from "./geometry.ts";
import { OPS, type Operators } from "./operators.ts";
import { sameBox, sameShape, shapeOf, type Shape } from "./same.ts";
import { glyphShape, pathShape } from "./shapes.ts";

/** Null when what a glyph draws cannot be known: it is a picture, or in colours. */
type Known = Shape | undefined | null;

export interface Program {
  shape: (glyph: string) => Known;
  /** Whether a glyph is the box that stands for what the font lacks (OpenType, "maxp" and "cmap": glyph 0), or drawn as it is. */
  missing: (glyph: string) => boolean;
}

/** The part of a font that the parser hands over: `data` is its program as an OpenType font, with characters of its own for its glyphs. */
export interface ParsedFont {
  name?: string;
  type?: string;
  subtype?: string;
  data?: Uint8Array | null;
  fontMatrix?: readonly number[];
  missingFile?: boolean;
  isType3Font?: boolean;
  composite?: boolean;
  vertical?: boolean;
  defaultVMetrics?: readonly [number, number, number];
  charProcOperatorList?: Readonly<Record<string, Operators>>;
}

/**
 * A program that a page carries; undefined when there is none that can be opened. `path` is the parser's own outline of a glyph: some
 * programs are held together by a reader that forgives more than others.
 */
export function embeddedProgram(font: ParsedFont, path: (glyph: string) => string | undefined): Program | undefined {
  const shapes = new Map<string, Known>();
  const remembered = (read: (glyph: string) => Known, missing: (glyph: string, shape: Known) => boolean): Program => {
    const shape = (glyph: string): Known => {
      if (!shapes.has(glyph)) shapes.set(glyph, read(glyph));
      return shapes.get(glyph);
    };
    return { shape, missing: (glyph) => missing(glyph, shape(glyph)) };
  };
  if (font.isType3Font) {
    const procedures = font.charProcOperatorList ?? {};
    const matrix = (font.fontMatrix ?? [0.001, 0, 0, 0.001, 0, 0]) as unknown as Matrix;
    return remembered(
      (glyph) => {
        const own = procedures[glyph];
        return own ? procedureShape(own, matrix) : undefined;
      },
      (glyph) => glyph === ".notdef",
    );
  }
  if (font.missingFile || !font.data || font.data.length === 0) return undefined;
  try {
    const face = new hb.Face(new hb.Blob(Uint8Array.from(font.data)), 0);
    const opened = new hb.Font(face);
    const upem = face.upem || 1000;
    // A program may lean by itself (Compact Font Format specification, Technical Note 5176, "FontMatrix"); the parser leaves that to whoever draws.
    const [a = 0.001, , c = 0, d = 0.001] = font.fontMatrix ?? [];
    const lean: Matrix = Math.abs(c) > 1e-6 && a !== 0 ? [1, 0, c / d, 1, 0, 0] : UNMOVED;
    // The parser hands glyph 0 over under a number of its own where a page draws it, or under none; what it draws is the same.
    const box = glyphShape(opened, upem, 0, lean);
    return remembered(
      (glyph) => {
        const id = opened.nominalGlyph(glyph.codePointAt(0) ?? 0);
        return id === undefined ? undefined : (glyphShape(opened, upem, id, lean) ?? pathShape(path(glyph) ?? ""));
      },
      (glyph, shape) => (shape ? Boolean(box && sameShape(box, shape)) : (opened.nominalGlyph(glyph.codePointAt(0) ?? 0) ?? 0) === 0),
    );
  } catch {
    return undefined;
  }
}

/** A procedure that draws a glyph (ISO 32000-1, 9.6.5): what it fills; null when it does anything but fill paths. */
function procedureShape({ fnArray, argsArray }: Operators, fontMatrix: Matrix): Known {
  const stack: Matrix[] = [];
  let matrix = fontMatrix;
  let path: Point[][] = [];
  const filled: Point[][] = [];
  for (let i = 0; i < fnArray.length; i++) {
    const operator = fnArray[i]!;
    const args = (argsArray[i] ?? []) as readonly unknown[];
    if (operator === OPS.save) stack.push(matrix);
    else if (operator === OPS.restore) matrix = stack.pop() ?? matrix;
    else if (operator === OPS.transform) matrix = times(matrix, args.map(Number) as unknown as Matrix);
    else if (operator === OPS.constructPath) path.push(...polygonsOf(args[0] as ArrayLike<number>, args[1] as ArrayLike<number>, matrix));
    else if (operator === OPS.fill || operator === OPS.eoFill) {
      filled.push(...path);
      path = [];
    } else if (operator === OPS.endPath) path = [];
    else if (!HARMLESS.has(operator)) return null;
  }
  return shapeOf(filled);
}
const HARMLESS = new Set<number>([
  OPS.dependency,
  OPS.setCharWidth,
  OPS.setCharWidthAndBounds,
  OPS.setLineWidth,
  OPS.setLineCap,
  OPS.setLineJoin,
  OPS.setMiterLimit,
  OPS.clip,
  OPS.eoClip,
  OPS.setGState,
  OPS.setFillRGBColor,
  OPS.beginMarkedContent,
  OPS.beginMarkedContentProps,
  OPS.endMarkedContent,
  OPS.setStrokeRGBColor,
  OPS.setDash,
  OPS.setFlatness,
  OPS.setRenderingIntent,
]);
function polygonsOf(operators: ArrayLike<number>, coordinates: ArrayLike<number>, matrix: Matrix): Point[][] {
  const polygons: Point[][] = [];
  let polygon: Point[] = [];
  let at = 0;
  const next = (): Point => apply(matrix, Number(coordinates[at++]), Number(coordinates[at++]));
  for (let i = 0; i < operators.length; i++) {
    const last = polygon.at(-1);
    const operator = operators[i];
    if (operator === OPS.moveTo) polygons.push((polygon = [next()]));
    else if (operator === OPS.lineTo) polygon.push(next());
    else if (operator === OPS.rectangle) {
      const [x, y, w, h] = [0, 1, 2, 3].map(() => Number(coordinates[at++])) as [number, number, number, number];
      polygons.push([apply(matrix, x, y), apply(matrix, x + w, y), apply(matrix, x + w, y + h), apply(matrix, x, y + h)]);
      polygons.push((polygon = [apply(matrix, x, y)]));
    } else if (operator === OPS.curveTo && last) polygon.push(...cubicPoints(last, next(), next(), next()));
    else if (operator === OPS.curveTo2 && last) polygon.push(...cubicPoints(last, last, next(), next()));
    else if (operator === OPS.curveTo3 && last) {
      const [control, end] = [next(), next()];
      polygon.push(...cubicPoints(last, control, end, end));
    }
  }
  return polygons;
}

/** The file that is wanted. */
export interface WantedFile {
  bytes: Uint8Array;
  face: number;
}
const COLOURED = ["COLR", "CBDT", "sbix", "SVG "];
/** Places in a variable font's space that are tried: its default and its named styles. */
const MOST_PLACES = 40;

/** One drawing of the wanted file: as it is, or at one of a variable font's named styles. */
class WantedDrawing {
  private readonly font: hb.Font;
  private readonly upem: number;
  private readonly glyphs: number;
  private readonly shapes = new Map<number, Shape | undefined>();
  private boxes: Float64Array | undefined;
  constructor(face: hb.Face, glyphs: number, variations: readonly hb.Variation[]) {
    this.font = new hb.Font(face);
    this.upem = face.upem || 1000;
    this.glyphs = glyphs;
    if (variations.length > 0) this.font.setVariations([...variations]);
  }
  glyphOf(character: string): number | undefined {
    return this.font.nominalGlyph(character.codePointAt(0) ?? 0);
  }
  shape(glyph: number): Shape | undefined {
    if (!this.shapes.has(glyph)) this.shapes.set(glyph, glyphShape(this.font, this.upem, glyph));
    return this.shapes.get(glyph);
  }
  /** Whether this is the drawing of its glyph 0. */
  missing(shape: Shape): boolean {
    const own = this.shape(0);
    return own !== undefined && sameShape(own, shape);
  }
  /**
   * Whether any of its glyphs is this drawing; that of the character first, since features and ligatures draw others. Glyph 0 stands for what
   * the font lacks and is nothing of its own.
   */
  draws(shape: Shape, text: string): boolean {
    const first = text === "" ? 0 : (this.glyphOf(text) ?? 0);
    if (first !== 0) {
      const own = this.shape(first);
      if (own && sameShape(own, shape)) return true;
    }
    const boxes = (this.boxes ??= this.measure());
    for (let glyph = 1; glyph < this.glyphs; glyph++) {
      const at = 4 * glyph;
      const box = { x0: boxes[at]!, y0: boxes[at + 1]!, x1: boxes[at + 2]!, y1: boxes[at + 3]! };
      if (glyph === first || !sameBox(box, shape.box)) continue;
      const own = this.shape(glyph);
      if (own && sameShape(own, shape)) return true;
    }
    return false;
  }
  private measure(): Float64Array {
    const boxes = new Float64Array(4 * this.glyphs).fill(NaN);
    for (let glyph = 0; glyph < this.glyphs; glyph++) {
      const extents = this.font.glyphExtents(glyph);
      if (!extents) continue;
      const { xBearing, yBearing, width, height } = extents;
      boxes.set(
        [xBearing, yBearing + height, xBearing + width, yBearing].map((value) => value / this.upem),
        4 * glyph,
      );
    }
    return boxes;
  }
}

/** Names that a file may be called by in what is made with it. */
const CALLED = [
  NAME.family,
  NAME.fullName,
  NAME.postScriptName,
  NAME.typographicFamily,
  NAME.compatibleFull,
  NAME.wwsFamily,
  NAME.postScriptFindFont,
  NAME.variationsPrefix,
] as const;
function namesIn(bytes: Uint8Array, index: number): Set<string> {
  try {
    const face = new Face(openContainer(bytes), index);
    const called = CALLED.flatMap((id) => face.names?.all(id).map(({ text }) => text) ?? []);
    const inside = face.has("CFF ") ? (face.cff?.name ?? "") : "";
    return new Set([...called, inside].map(plainly).filter(Boolean));
  } catch {
    // What is wrong with it was said when it was read; it goes by the names it is kept under.
    return new Set();
  }
}

export class WantedFont {
  /** Its glyphs are drawn in colours or as pictures, so that a page draws them otherwise. */
  readonly coloured: boolean;
  readonly variable: boolean;
  readonly characters: ReadonlySet<number>;
  /** All names its file gives itself, in every language, as `plainly` writes them. */
  readonly names: ReadonlySet<string>;
  private readonly drawings: WantedDrawing[];
  /** `places`: a variable font's named styles, each by its axes. */
  constructor({ bytes, face: index }: WantedFile, places: readonly Readonly<Record<string, number>>[] = []) {
    const face = new hb.Face(new hb.Blob(bytes), index);
    this.coloured = COLOURED.some((table) => (face.referenceTable(table)?.length ?? 0) > 0);
    this.variable = Object.keys(face.getAxisInfos()).length > 0;
    this.characters = new Set(face.collectUnicodes());
    this.names = namesIn(bytes, index);
    const maxp = face.referenceTable("maxp");
    const glyphs = maxp && maxp.length >= 6 ? maxp[4]! * 256 + maxp[5]! : 0;
    const named = this.variable ? places.slice(0, MOST_PLACES) : [];
    this.drawings = [[], ...named.map((place) => Object.entries(place).map(([tag, value]) => new hb.Variation(tag, value)))].map(
      (variations) => new WantedDrawing(face, glyphs, variations),
    );
  }
  /** The default drawing of a character. */
  shapeOf(character: string): Shape | undefined {
    const glyph = this.glyphOf(character);
    return glyph === 0 ? undefined : this.drawings[0]!.shape(glyph);
  }
  glyphOf(character: string): number {
    return this.drawings[0]!.glyphOf(character) ?? 0;
  }
  /** Whether a shape is the box it draws for what it lacks, in any of its styles. */
  missing(shape: Shape): boolean {
    return this.drawings.some((drawing) => drawing.missing(shape));
  }
  /** Of shapes with the characters they stand for: which are its own, in whichever of its styles has most of them. */
  own(shapes: readonly { shape: Shape; text: string }[]): boolean[] {
    let best: boolean[] = shapes.map(() => false);
    const count = (list: readonly boolean[]) => list.filter(Boolean).length;
    for (const drawing of this.drawings) {
      const found = shapes.map(({ shape, text }) => drawing.draws(shape, text));
      if (count(found) > count(best)) best = found;
      if (count(best) === shapes.length) break;
    }
    return best;
  }
}
