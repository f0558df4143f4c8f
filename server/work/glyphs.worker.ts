// Runs in a worker thread: what a face's glyphs are and how each is reached; makes proofs.
import { readFile } from "node:fs/promises";
import { gzipSync } from "node:zlib";
import { openDrawFace } from "../../core/bench/draw-face.ts";
import { byLikeness, letterShape, shapeOfCharacter } from "../../core/glyphs/likeness.ts";
import { makeProof, type AskedProof } from "../../core/bench/proof-of.ts";
import { factOf, featuresOf, ownWords } from "../../core/glyphs/glyphs.ts";
import { signLists } from "../../core/names/lists.ts";
import { findable, score, type Findable } from "../../core/names/search.ts";
import { calledBy, isPrivate } from "../../core/names/signs.ts";
import { reachOf } from "../../core/glyphs/reach.ts";
import { Face } from "../../core/sfnt/face.ts";
import { openContainer } from "../../core/sfnt/container.ts";
import { serve } from "./serve.ts";

/** A style's file by its digest and face. */
export interface ProofSource {
  sha256: string;
  face: number;
  path: string;
  name: string;
  outlinesOnly: boolean;
}
export type GlyphTask =
  | { kind: "glyphs"; path: string; face: number }
  /** Which glyphs of a face look like one of them, the likest first. */
  | { kind: "alike"; path: string; face: number; glyph: number; most: number }
  /** Signs of Unicode that answer these words, the best first. */
  | { kind: "signs"; words: readonly string[]; most: number }
  /** The order of styles by how they draw a character, the one at `to` first. */
  | { kind: "letters"; styles: { path: string; face: number }[]; codePoint: number; to: number }
  | { kind: "proof"; proof: AskedProof; sources: ProofSource[] };
/** Texts as the database keeps them. */
export interface GlyphsRead {
  features: string;
  glyphs: Uint8Array;
  /** What the font itself calls its private signs. */
  named: { code: number; words: string }[];
}

const bytesOf = async (path: string): Promise<Uint8Array> => Uint8Array.from(await readFile(path));

async function alike({ path, face: index, glyph, most }: Extract<GlyphTask, { kind: "alike" }>): Promise<number[]> {
  const face = openDrawFace(await bytesOf(path), index);
  if (!face) return [];
  const shapes = Array.from({ length: face.glyphs }, (_, one) => letterShape(face.outline(one)));
  return byLikeness(shapes, glyph)
    .filter((one) => shapes[one] !== undefined)
    .slice(0, most);
}
async function letters({ styles, codePoint, to }: Extract<GlyphTask, { kind: "letters" }>): Promise<number[]> {
  const shapes = [];
  for (const { path, face: index } of styles) {
    const face = await bytesOf(path).then(
      (bytes) => openDrawFace(bytes, index),
      () => undefined,
    );
    shapes.push(face && shapeOfCharacter(face, codePoint));
  }
  return byLikeness(shapes, to);
}

/** Everything Unicode names one by one, made ready to be searched; once a thread. */
let signs: Promise<{ code: number; sign: Findable }[]> | undefined;
async function allSigns(): Promise<{ code: number; sign: Findable }[]> {
  const lists = await signLists(["en"]);
  const named = [...lists.names.keys()].filter((code) => /^[A-Z0-9 -]+$/.test(lists.names.get(code)!) && !isPrivate(code));
  return named.map((code) => ({ code, sign: findable(calledBy(lists, code, ["en"])) }));
}
async function findSigns({ words, most }: Extract<GlyphTask, { kind: "signs" }>): Promise<number[]> {
  return (await (signs ??= allSigns()))
    .map(({ code, sign }) => ({ code, points: score(words, sign) }))
    .filter(({ points }) => points > 0)
    .sort((a, b) => b.points - a.points || a.code - b.code)
    .slice(0, most)
    .map(({ code }) => code);
}

serve<GlyphTask, GlyphsRead | Uint8Array | number[]>(async (task) => {
  if (task.kind === "alike") return alike(task);
  if (task.kind === "signs") return findSigns(task);
  if (task.kind === "letters") return letters(task);
  if (task.kind === "proof") {
    return makeProof(task.proof, (sha256, face) => {
      const source = task.sources.find((one) => one.sha256 === sha256 && one.face === face);
      return source && { ...source, bytes: () => bytesOf(source.path).catch(() => undefined) };
    });
  }
  const bytes = await bytesOf(task.path);
  const face = new Face(openContainer(bytes), task.face);
  const reach = reachOf(face, bytes);
  const glyphs = reach.map(factOf);
  const named = reach.flatMap((glyph) => {
    const code = glyph.codePoints.find(isPrivate);
    const words = code === undefined ? "" : ownWords(glyph);
    return words === "" ? [] : [{ code: code!, words }];
  });
  return { named, features: JSON.stringify(featuresOf(face)), glyphs: gzipSync(JSON.stringify(glyphs), { level: 6 }) };
});
