// Runs in a worker thread: what a face's glyphs are and how each is reached; makes proofs.
import { readFile } from "node:fs/promises";
import { gzipSync } from "node:zlib";
import { openDrawFace } from "../../core/bench/draw-face.ts";
import { byLikeness, letterShape, shapeOfCharacter } from "../../core/glyphs/likeness.ts";
import { makeProof, type AskedProof } from "../../core/bench/proof-of.ts";
import { factOf, featuresOf, ownWords } from "../../core/glyphs/glyphs.ts";
import { signLists } from "../../core/symbols/lists.ts";
import { SignIndex } from "../../core/symbols/search.ts";
import { calledBy, isPrivate } from "../../core/symbols/symbols.ts";
import { reachOf } from "../../core/glyphs/reach.ts";
import { Face } from "../../core/sfnt/face.ts";
import { openContainer } from "../../core/sfnt/container.ts";
import { breathe } from "./breathe.ts";
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
    const bytes = await bytesOf(path).catch(() => undefined);
    await breathe(bytes?.length ?? 0);
    const face = bytes && openDrawFace(bytes, index);
    shapes.push(face && shapeOfCharacter(face, codePoint));
  }
  return byLikeness(shapes, to);
}

/** Everything Unicode names one by one, made ready to be searched; once a thread. */
let signs: Promise<SignIndex<number>> | undefined;
async function allSigns(): Promise<SignIndex<number>> {
  const lists = await signLists(["en"]);
  const named = [...lists.names.keys()].filter((code) => /^[A-Z0-9 -]+$/.test(lists.names.get(code)!) && !isPrivate(code));
  return new SignIndex(named.sort((a, b) => a - b).map((code) => ({ of: code, called: calledBy(lists, code, ["en"]) })));
}

serve<GlyphTask, GlyphsRead | Uint8Array | number[]>(async (task) => {
  if (task.kind === "alike") return alike(task);
  if (task.kind === "signs") return (await (signs ??= allSigns())).find(task.words, task.most);
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
