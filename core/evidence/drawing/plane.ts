// The plane a page draws on: it remembers areas instead of pixels, and which of them hide others.
import { apart, areaOf, corners } from "./geometry.ts";
import type { Area, Box, Matrix, Point } from "./geometry.ts";
import type { Operators, Pixels } from "./operators.ts";
import { freshState, type Rgb, type State } from "./state.ts";
import { opaque, type Painted, type Placed } from "./visibility.ts";

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
/** Carries out one operator. `depth` counts the streams it stands in. */
export type Operator = (plane: Plane, args: readonly unknown[], depth: number) => void;

/** A page with more than this is not followed to its end. */
export const BOUNDS = { operators: 1_500_000, areas: 12_000, points: 1_500_000, letters: 120_000, depth: 24 } as const;
export class PageTooLarge extends Error {}

export class Plane {
  readonly source: PageSource;
  readonly letters: Placed[] = [];
  readonly painted: Painted[] = [];
  shapes = 0;
  pictures = 0;
  /** More was painted than is remembered. */
  overflown = false;
  state: State = freshState();
  /** What is being constructed, painted and clipped to with the next painting operator (8.5). */
  path: Point[][] = [];
  curved = 0;
  points = 0;
  pendingClip: "nonzero" | "evenodd" | undefined;
  /** Marked content that is open, and whether it shows. */
  layers: boolean[] = [];
  private order = 0;
  private operators = 0;
  private stack: State[] = [];
  private readonly carriedOutBy: ReadonlyMap<number, Operator>;

  constructor(source: PageSource, carriedOutBy: ReadonlyMap<number, Operator>) {
    this.source = source;
    this.carriedOutBy = carriedOutBy;
  }

  /** Whether what is drawn now is on layers that are on. */
  get shown(): boolean {
    return this.layers.every(Boolean);
  }
  get view(): Box {
    const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = this.source.view;
    return { x0, y0, x1, y1 };
  }
  nextInOrder(): number {
    return ++this.order;
  }
  save(): void {
    this.stack.push(this.state);
    this.state = { ...this.state, text: { ...this.state.text } };
  }
  restore(): void {
    const before = this.stack.pop();
    if (before) this.state = before;
  }
  clipTo(area: Area): void {
    this.state.clips = [...this.state.clips, area];
  }
  clipToBox(box: Box | undefined, matrix: Matrix): void {
    if (box) this.clipTo(areaOf([corners(matrix, box)], false));
  }

  run({ fnArray, argsArray }: Operators, depth: number): void {
    if (depth > BOUNDS.depth) throw new PageTooLarge();
    const [bottom, layers] = [this.stack.length, this.layers.length];
    for (let i = 0; i < fnArray.length; i++) {
      if (++this.operators > BOUNDS.operators) throw new PageTooLarge();
      this.carriedOutBy.get(fnArray[i]!)?.(this, (argsArray[i] ?? []) as readonly unknown[], depth);
    }
    // What was left open ends with its stream.
    while (this.stack.length > bottom) this.restore();
    this.layers.length = Math.min(this.layers.length, layers);
  }

  /** Remembers an area that was painted. `colour` is undefined where it is not known; with `lets` it may show what lies under it. */
  paint(
    area: Area,
    {
      colour,
      alpha,
      picture,
      lets = false,
    }: { colour: Rgb | undefined; alpha: number; picture?: { pixels: Pixels; back: Matrix }; lets?: boolean },
  ): void {
    const { state } = this;
    if (!this.shown || alpha * state.groupAlpha <= 0 || apart(area.box, this.view)) return;
    if (this.painted.length >= BOUNDS.areas) {
      this.overflown = true;
      return;
    }
    this.painted.push({
      order: this.nextInOrder(),
      area,
      clips: state.clips,
      colour,
      alpha: alpha * state.groupAlpha,
      ...(picture ? { picture } : {}),
      lets: lets || state.blends || state.masked || state.clipUnknown || (picture ? !opaque(picture.pixels) : false),
    });
  }
}
