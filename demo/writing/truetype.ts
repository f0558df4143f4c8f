// Writes drawn glyphs as a TrueType font file, table by table as the OpenType specification lays them out.
import { assembleSfnt } from "../../core/sfnt/assemble.ts";
import { orient } from "../drawing/orient.ts";
import type { DrawnGlyph, Outline } from "../drawing/pen.ts";
import { nameTable, type FontNames } from "./names.ts";

export interface FontDesign {
  names: FontNames;
  /** usWeightClass. */
  weight: number;
  italic?: boolean;
  /** Marked bold for four-style families. */
  bold?: boolean;
  /** OS/2 fsType. */
  embedding?: number;
  glyphs: ReadonlyMap<number, DrawnGlyph>;
  /** Names of glyphs by their characters; of none when it is left out. */
  glyphNames?: ReadonlyMap<number, string>;
  /** Pairs of characters that move together, in units ("kern", format 0). */
  kerning?: readonly (readonly [left: number, right: number, units: number])[];
  /** Characters that are drawn as one glyph when they follow one another ("GSUB", ligature substitution). */
  ligatures?: readonly { of: readonly number[]; glyph: DrawnGlyph }[];
}

const EM = 1000;
const ASCENT = 900;
const DESCENT = 250;
/** 2026-01-01 in seconds since 1904-01-01: the demo's fonts are the same bytes each time they are made. */
const MADE = 3850070400;

class Writer {
  private readonly bytes: number[] = [];
  u8(...values: number[]): this {
    this.bytes.push(...values.map((value) => value & 0xff));
    return this;
  }
  u16(...values: number[]): this {
    for (const value of values) this.bytes.push((value >> 8) & 0xff, value & 0xff);
    return this;
  }
  u32(...values: number[]): this {
    for (const value of values) this.bytes.push((value >>> 24) & 0xff, (value >>> 16) & 0xff, (value >>> 8) & 0xff, value & 0xff);
    return this;
  }
  tag(text: string): this {
    return this.u8(...[...text].map((character) => character.charCodeAt(0)));
  }
  get length(): number {
    return this.bytes.length;
  }
  done(): Uint8Array {
    return Uint8Array.from(this.bytes);
  }
}

interface Box {
  xMin: number;
  yMin: number;
  xMax: number;
  yMax: number;
}
function boxOf(outline: Outline): Box {
  const points = outline.flat();
  const xs = points.map((point) => point.x);
  const ys = points.map((point) => point.y);
  return { xMin: Math.min(...xs), yMin: Math.min(...ys), xMax: Math.max(...xs), yMax: Math.max(...ys) };
}

/** A simple glyph description ("glyf — Glyph Data", "Simple Glyph Description"), every coordinate a word. */
function glyphData(outline: Outline): Uint8Array {
  if (outline.length === 0) return new Uint8Array();
  const { xMin, yMin, xMax, yMax } = boxOf(outline);
  const data = new Writer().u16(outline.length, xMin, yMin, xMax, yMax);
  let last = -1;
  for (const contour of outline) data.u16((last += contour.length));
  data.u16(0);
  const points = outline.flat();
  for (const point of points) data.u8(point.on ? 1 : 0);
  let before = 0;
  for (const point of points) {
    data.u16(point.x - before);
    before = point.x;
  }
  before = 0;
  for (const point of points) {
    data.u16(point.y - before);
    before = point.y;
  }
  while (data.length % 2) data.u8(0);
  return data.done();
}

/** Format 4 for the basic plane ("cmap", "Format 4"), one segment a run of consecutive characters. */
function cmapTable(codes: readonly number[]): Uint8Array {
  const segments: [first: number, last: number, glyph: number][] = [];
  for (const [i, code] of codes.entries()) {
    const run = segments[segments.length - 1];
    if (run && run[1] === code - 1) run[1] = code;
    else segments.push([code, code, i + 1]);
  }
  segments.push([0xffff, 0xffff, 0]);
  const count = segments.length;
  const selector = Math.floor(Math.log2(count));
  const range = 2 * 2 ** selector;
  const sub = new Writer().u16(4, 16 + 8 * count, 0, 2 * count, range, selector, 2 * count - range);
  sub.u16(...segments.map(([, last]) => last), 0, ...segments.map(([first]) => first));
  sub.u16(...segments.map(([first, , glyph]) => (glyph === 0 ? 1 : (glyph - first) & 0xffff)), ...segments.map(() => 0));
  return new Writer()
    .u16(0, 1, 3, 1)
    .u32(12)
    .u8(...sub.done())
    .done();
}

const NOTDEF: DrawnGlyph = {
  advance: 500,
  outline: [
    [
      [50, 0],
      [50, 700],
      [450, 700],
      [450, 0],
    ],
    [
      [100, 50],
      [400, 50],
      [400, 650],
      [100, 650],
    ],
  ].map((contour) => contour.map(([x, y]) => ({ x: x!, y: y!, on: true }))),
};

const fsSelection = ({ bold, italic }: FontDesign): number => (italic ? 1 : 0) | (bold ? 0x20 : 0) | (!bold && !italic ? 0x40 : 0);

function os2Table(design: FontDesign, glyphs: readonly DrawnGlyph[], codes: readonly number[]): Uint8Array {
  const average = Math.round(glyphs.reduce((sum, glyph) => sum + glyph.advance, 0) / glyphs.length);
  const hebrew = codes.some((code) => code >= 0x5d0 && code <= 0x5ea);
  const latin = codes.includes(0x41);
  return new Writer()
    .u16(4, average, design.weight, 5, design.embedding ?? 0, 650, 600, 0, 75, 650, 600, 0, 350, 50, 300, 0)
    .u8(2, 0, 0, 0, 0, 0, 0, 0, 0, 0)
    .u32((latin ? 3 : 0) | (hebrew ? 1 << 11 : 0), 0, 0, 0)
    .tag("FHSW")
    .u16(fsSelection(design), codes[0]!, Math.min(codes[codes.length - 1]!, 0xffff))
    .u16(ASCENT, -DESCENT, 0, ASCENT, DESCENT)
    .u32((latin ? 1 : 0) | (hebrew ? 1 << 5 : 0), 0)
    .u16(480, 700, 0, 32, 1)
    .done();
}

/** With glyph names where the design gives them (OpenType specification, "post", version 2.0), else without. */
function postTable({ italic, glyphNames }: FontDesign, codes: readonly number[]): Uint8Array {
  const post = new Writer()
    .u32(glyphNames ? 0x20000 : 0x30000, italic ? -(12 << 16) : 0)
    .u16(-100, 50)
    .u32(0, 0, 0, 0, 0);
  if (!glyphNames) return post.done();
  const own = codes.filter((code) => glyphNames.has(code));
  // Below 258 stand the standard names: 0 is ".notdef", 3 "space".
  post.u16(codes.length + 1, 0, ...codes.map((code) => (glyphNames.has(code) ? 258 + own.indexOf(code) : 3)));
  for (const code of own) post.u8(glyphNames.get(code)!.length, ...[...glyphNames.get(code)!].map((letter) => letter.charCodeAt(0)));
  return post.done();
}

/** Pairs in order of their glyphs, for a search by halves. */
function kernTable(pairs: NonNullable<FontDesign["kerning"]>, glyphOf: (code: number) => number): Uint8Array {
  const rows = pairs.map(([left, right, units]) => [glyphOf(left), glyphOf(right), units] as const);
  rows.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const selector = Math.floor(Math.log2(rows.length));
  const range = 6 * 2 ** selector;
  return new Writer()
    .u16(0, 1, 0, 14 + 6 * rows.length, 1, rows.length, range, selector, 6 * rows.length - range)
    .u16(...rows.flat())
    .done();
}

/** One lookup of ligatures under the feature "liga", for every script ("GSUB", "LookupType 4"). */
function gsubTable(ligatures: NonNullable<FontDesign["ligatures"]>, glyphOf: (code: number) => number, first: number): Uint8Array {
  const sets = new Map<number, { rest: number[]; glyph: number }[]>();
  for (const [i, { of }] of ligatures.entries()) {
    const [head, ...rest] = of.map(glyphOf);
    sets.set(head!, [...(sets.get(head!) ?? []), { rest, glyph: first + i }]);
  }
  const heads = [...sets.keys()].sort((a, b) => a - b);
  // Longer ones are tried first.
  const bodies = heads.map((head) => {
    const all = sets.get(head)!.sort((a, b) => b.rest.length - a.rest.length);
    const set = new Writer().u16(all.length);
    let offset = 2 + 2 * all.length;
    for (const { rest } of all) {
      set.u16(offset);
      offset += 4 + 2 * rest.length;
    }
    for (const { glyph, rest } of all) set.u16(glyph, rest.length + 1, ...rest);
    return set.done();
  });
  const table = new Writer().u16(1, 6 + 2 * heads.length + bodies.reduce((sum, body) => sum + body.length, 0), heads.length);
  let offset = 6 + 2 * heads.length;
  for (const body of bodies) {
    table.u16(offset);
    offset += body.length;
  }
  for (const body of bodies) table.u8(...body);
  table.u16(1, heads.length, ...heads);
  // Header, script list, feature list, lookup list.
  return new Writer()
    .u16(1, 0, 10, 30, 44)
    .u16(1)
    .tag("DFLT")
    .u16(8, 4, 0, 0, 0xffff, 1, 0)
    .u16(1)
    .tag("liga")
    .u16(8, 0, 1, 0)
    .u16(1, 4, 4, 0, 1, 8)
    .u8(...table.done())
    .done();
}

/** The font file's bytes. */
export function writeTrueType(design: FontDesign): Uint8Array {
  const codes = [...design.glyphs.keys()].sort((a, b) => a - b);
  const ligatures = design.ligatures ?? [];
  const glyphOf = (code: number) => codes.indexOf(code) + 1;
  const glyphs = [NOTDEF, ...codes.map((code) => design.glyphs.get(code)!), ...ligatures.map(({ glyph }) => glyph)].map((glyph) => ({
    ...glyph,
    outline: orient(glyph.outline),
  }));
  const data = glyphs.map((glyph) => glyphData(glyph.outline));
  const drawn = glyphs.filter((glyph) => glyph.outline.length > 0);
  const boxes = drawn.map((glyph) => boxOf(glyph.outline));
  const xMin = Math.min(...boxes.map((box) => box.xMin));
  const yMin = Math.min(...boxes.map((box) => box.yMin));
  const xMax = Math.max(...boxes.map((box) => box.xMax));
  const yMax = Math.max(...boxes.map((box) => box.yMax));
  const left = (glyph: DrawnGlyph) => (glyph.outline.length > 0 ? boxOf(glyph.outline).xMin : 0);
  const right = Math.min(...drawn.map((glyph) => glyph.advance - boxOf(glyph.outline).xMax));
  const loca = new Writer();
  let offset = 0;
  for (const bytes of data) {
    loca.u32(offset);
    offset += bytes.length;
  }
  loca.u32(offset);
  const glyf = new Uint8Array(offset);
  data.reduce((at, bytes) => (glyf.set(bytes, at), at + bytes.length), 0);
  const revision = Math.round(Number(design.names.version) * 65536);
  const tables = new Map<string, Uint8Array>([
    [
      "head",
      new Writer()
        .u16(1, 0)
        .u32(revision, 0, 0x5f0f3cf5)
        .u16(3, EM)
        .u32(0, MADE, 0, MADE)
        .u16(xMin, yMin, xMax, yMax, (design.bold ? 1 : 0) | (design.italic ? 2 : 0), 8, 2, 1, 0)
        .done(),
    ],
    [
      "hhea",
      new Writer()
        .u16(
          1,
          0,
          ASCENT,
          -DESCENT,
          0,
          Math.max(...glyphs.map((glyph) => glyph.advance)),
          Math.min(...drawn.map(left)),
          right,
          xMax,
          1,
          0,
          0,
          0,
          0,
          0,
          0,
          0,
          glyphs.length,
        )
        .done(),
    ],
    [
      "maxp",
      new Writer()
        .u32(0x10000)
        .u16(
          glyphs.length,
          Math.max(...glyphs.map((glyph) => glyph.outline.flat().length)),
          Math.max(...glyphs.map((glyph) => glyph.outline.length)),
          0,
          0,
          2,
          0,
          0,
          0,
          0,
          0,
          0,
          0,
          0,
        )
        .done(),
    ],
    ["OS/2", os2Table(design, glyphs, codes)],
    ["hmtx", glyphs.reduce((writer, glyph) => writer.u16(glyph.advance, left(glyph)), new Writer()).done()],
    ["cmap", cmapTable(codes)],
    ["loca", loca.done()],
    ["glyf", glyf],
    ["name", nameTable(design.names)],
    ["post", postTable(design, codes)],
    ...(design.kerning && design.kerning.length > 0 ? [["kern", kernTable(design.kerning, glyphOf)] as const] : []),
    ...(ligatures.length > 0 ? [["GSUB", gsubTable(ligatures, glyphOf, codes.length + 1)] as const] : []),
  ]);
  return assembleSfnt("\0\x01\0\0", tables);
}
