// Runs in a worker thread: what a face's glyphs are and how each is reached; makes proofs.
import { readFile } from "node:fs/promises";
import { gzipSync } from "node:zlib";
import { openDrawFace } from "../../core/bench/draw-face.ts";
import { byLikeness, letterShape, shapeOfCharacter } from "../../core/glyphs/likeness.ts";
import { makeProof, type AskedProof } from "../../core/bench/proof-of.ts";
import { factOf, featuresOf } from "../../core/glyphs/glyphs.ts";
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
  /** The order of styles by how they draw a character, the one at `to` first. */
  | { kind: "letters"; styles: { path: string; face: number }[]; codePoint: number; to: number }
  | { kind: "proof"; proof: AskedProof; sources: ProofSource[] };
/** Texts as the database keeps them. */
export interface GlyphsRead {
  features: string;
  glyphs: Uint8Array;
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

serve<GlyphTask, GlyphsRead | Uint8Array | number[]>(async (task) => {
  if (task.kind === "alike") return alike(task);
  if (task.kind === "letters") return letters(task);
  if (task.kind === "proof") {
    return makeProof(task.proof, (sha256, face) => {
      const source = task.sources.find((one) => one.sha256 === sha256 && one.face === face);
      return source && { ...source, bytes: () => bytesOf(source.path).catch(() => undefined) };
    });
  }
  const bytes = await bytesOf(task.path);
  const face = new Face(openContainer(bytes), task.face);
  const glyphs = reachOf(face, bytes).map(factOf);
  return { features: JSON.stringify(featuresOf(face)), glyphs: gzipSync(JSON.stringify(glyphs), { level: 6 }) };
});
