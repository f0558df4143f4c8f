// Runs in a worker thread: what a face's glyphs are and how each is reached; draws proofs.
import { readFile } from "node:fs/promises";
import { gzipSync } from "node:zlib";
import { factOf, featuresOf } from "../../core/glyphs/glyphs.ts";
import { reachOf } from "../../core/glyphs/reach.ts";
import { Face } from "../../core/sfnt/face.ts";
import { openContainer } from "../../core/sfnt/container.ts";
import { serve } from "./serve.ts";

export type GlyphTask = { kind: "glyphs"; path: string; face: number };
/** Texts as the database keeps them. */
export interface GlyphsRead {
  features: string;
  glyphs: Uint8Array;
}

serve<GlyphTask, GlyphsRead>(async ({ path, face: index }) => {
  const bytes = Uint8Array.from(await readFile(path));
  const face = new Face(openContainer(bytes), index);
  const glyphs = reachOf(face, bytes).map(factOf);
  return { features: JSON.stringify(featuresOf(face)), glyphs: gzipSync(JSON.stringify(glyphs), { level: 6 }) };
});
