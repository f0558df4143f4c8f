// Runs in a worker thread: what a face's glyphs are and how each is reached; makes proofs.
import { readFile } from "node:fs/promises";
import { gzipSync } from "node:zlib";
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
export type GlyphTask = { kind: "glyphs"; path: string; face: number } | { kind: "proof"; proof: AskedProof; sources: ProofSource[] };
/** Texts as the database keeps them. */
export interface GlyphsRead {
  features: string;
  glyphs: Uint8Array;
}

const bytesOf = async (path: string): Promise<Uint8Array> => Uint8Array.from(await readFile(path));

serve<GlyphTask, GlyphsRead | Uint8Array>(async (task) => {
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
