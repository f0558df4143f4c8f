// Draws live lines and glyphs as path data. The same code runs in the browser's worker, on the server and on the command line.
import type { DrawFace } from "./draw-face.ts";
import type { Direction, LettersOf } from "./line.ts";
import { driftOf, type Drift } from "./register.ts";
import { isDrawnBy, movedPath, pathOf, setText, type SetLine, type SetText, type StandIn } from "./setting.ts";

export interface LayerWanted {
  sha256: string;
  face: number;
  features: Readonly<Record<string, number>>;
  axes: Readonly<Record<string, number>>;
  letters: LettersOf;
}
export interface LineWanted {
  text: string;
  letterSpacing: number;
  lineSpacing: number;
  direction: Direction;
  layers: readonly LayerWanted[];
  /** Mark where features change something: each layer is set without them as well. */
  marks?: boolean;
}

interface ColouredPath {
  path: string;
  /** "#rrggbbaa"; undefined for the layer's own colour. */
  colour: string | undefined;
}
export interface DrawnLayer {
  /** Font units, y downwards from the first baseline; empty where `coloured` holds everything. */
  path: string;
  coloured: ColouredPath[];
  pictures: { x: number; y: number; width: number; height: number; png: Uint8Array }[];
  standIns: StandIn[];
  lines: SetLine[];
  missing: string[];
  width: number;
  height: number;
  upem: number;
  ascent: number;
  descent: number;
  heights: DrawFace["heights"];
  /** Against the lowest layer; null for that itself, or where letters cannot be compared. */
  drift: Drift[] | null;
  /** Stretches that the features change, from left to right in font units. */
  changed: { x: number; width: number; baseline: number }[];
}
export interface DrawnLine {
  /** In the order asked for; null where the face cannot be had. */
  layers: (DrawnLayer | null)[];
}
/** Finds a face to draw with; undefined when it cannot be had. */
export type FaceFinder = (wanted: Pick<LayerWanted, "sha256" | "face" | "axes">) => Promise<DrawFace | undefined>;

/** A picture fills the em, from a little below the baseline. Common practice, no source. */
const PICTURE_BELOW = 0.2;

function paint(set: SetText, face: DrawFace, letters: LettersOf): Pick<DrawnLayer, "path" | "coloured" | "pictures"> {
  const result: Pick<DrawnLayer, "path" | "coloured" | "pictures"> = { path: "", coloured: [], pictures: [] };
  const anyColour = set.glyphs.some(({ glyph }) => face.colours(glyph) !== undefined || face.picture(glyph) !== undefined);
  if (!anyColour) return { ...result, path: pathOf(set, face, letters) };
  let drawn = true;
  for (const { glyph, x, y, text } of set.glyphs) {
    if (text !== "") drawn = isDrawnBy(letters, text);
    if (!drawn) continue;
    const png = face.picture(glyph);
    if (png) result.pictures.push({ x, y: y - (1 - PICTURE_BELOW) * set.upem, width: set.upem, height: set.upem, png });
    else
      for (const { glyph: part, colour } of face.colours(glyph) ?? [{ glyph, colour: undefined }])
        result.coloured.push({ path: movedPath(face.outline(part), x, y), colour });
  }
  return result;
}

/** Where the glyphs of two settings differ, letter by letter. */
function changes(withFeatures: SetText, without: SetText): DrawnLayer["changed"] {
  const plain = new Map<string, string>();
  const key = (glyphs: SetText["glyphs"], i: number): string => {
    const ids = [glyphs[i]!.glyph];
    for (let k = i + 1; k < glyphs.length && glyphs[k]!.text === ""; k++) ids.push(glyphs[k]!.glyph);
    return ids.join();
  };
  const seen = new Map<string, number>();
  without.glyphs.forEach(({ text }, i) => {
    if (text === "") return;
    const nth = seen.get(text) ?? 0;
    seen.set(text, nth + 1);
    plain.set(`${text} ${nth}`, key(without.glyphs, i));
  });
  const counted = new Map<string, number>();
  return withFeatures.glyphs.flatMap(({ text, x, y, advance }, i): DrawnLayer["changed"] => {
    if (text.trim() === "") return [];
    const nth = counted.get(text) ?? 0;
    counted.set(text, nth + 1);
    return plain.get(`${text} ${nth}`) === key(withFeatures.glyphs, i) ? [] : [{ x, width: advance, baseline: y }];
  });
}

export async function drawLine(wanted: LineWanted, find: FaceFinder): Promise<DrawnLine> {
  const { text, letterSpacing, lineSpacing, direction } = wanted;
  const faces = await Promise.all(wanted.layers.map((layer) => find(layer)));
  let lowest: SetText | undefined;
  const layers = wanted.layers.map((layer, i): DrawnLayer | null => {
    const face = faces[i];
    if (!face) return null;
    const how = { features: layer.features, letterSpacing, lineSpacing, direction };
    const set = setText(text, face, how);
    const drift = lowest ? (driftOf(lowest, set) ?? null) : null;
    lowest ??= set;
    const marked = wanted.marks && Object.keys(layer.features).length > 0;
    return {
      ...paint(set, face, layer.letters),
      standIns: set.standIns,
      lines: set.lines,
      missing: set.missing,
      width: set.width,
      height: set.height,
      upem: set.upem,
      ascent: face.ascent,
      descent: face.descent,
      heights: face.heights,
      drift,
      changed: marked ? changes(set, setText(text, face, { ...how, features: {} })) : [],
    };
  });
  return { layers };
}

export interface DrawnGlyph {
  glyph: number;
  path: string;
  coloured: ColouredPath[];
  png: Uint8Array | undefined;
  advance: number;
}
export interface DrawnGlyphs {
  upem: number;
  ascent: number;
  descent: number;
  glyphs: DrawnGlyph[];
}
/** Single glyphs, each from its own origin, y downwards. */
export function drawGlyphs(face: DrawFace, glyphs: readonly number[]): DrawnGlyphs {
  return {
    upem: face.upem,
    ascent: face.ascent,
    descent: face.descent,
    glyphs: glyphs.map((glyph) => {
      const colours = face.colours(glyph);
      return {
        glyph,
        path: colours ? "" : movedPath(face.outline(glyph), 0, 0),
        coloured: (colours ?? []).map(({ glyph: part, colour }) => ({ path: movedPath(face.outline(part), 0, 0), colour })),
        png: face.picture(glyph),
        advance: face.font.glyphHAdvance(glyph),
      };
    }),
  };
}

/** Glyphs in the order people expect: by character, then those without one. Flat pairs of code point (-1 for none) and glyph. */
export function glyphOrder(face: DrawFace): number[] {
  const order: number[] = [];
  const told = new Set<number>();
  for (const codePoint of face.characters()) {
    const glyph = face.font.nominalGlyph(codePoint);
    if (glyph === undefined || glyph === 0 || told.has(glyph)) continue;
    told.add(glyph);
    order.push(codePoint, glyph);
  }
  for (let glyph = 1; glyph < face.glyphs; glyph++) if (!told.has(glyph)) order.push(-1, glyph);
  return order;
}
