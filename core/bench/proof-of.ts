// From a proof as it is asked for to the file: opens the fonts, lays the candidates out, writes.
import type { EmbeddedFont } from "./pdf-font.ts";
import { openDrawFace, type DrawFace } from "./draw-face.ts";
import { printFace } from "./interface-face.ts";
import { emMmOf, UNIT_MM, type Size } from "./line.ts";
import { missingWords } from "./compare.ts";
import { svgToPng } from "./picture.ts";
import { layOutProof, PAPERS, type Candidate, type Paper, type ProofFace, type ProofLayer, type ProofPage } from "./proof.ts";
import { proofSvg, writeProofPdf } from "./proof-files.ts";
import { setText } from "./setting.ts";
import { escaped } from "../words/markup.ts";

type ProofKind = "pdf" | "png" | "html";

interface AskedLayer extends Omit<ProofLayer, "face"> {
  sha256: string;
  face: number;
  axes: Readonly<Record<string, number>>;
}
export interface AskedCandidate extends Omit<Candidate, "layers" | "emMm"> {
  size: Size;
  layers: readonly AskedLayer[];
}
/** Where a face's file lies, its PostScript name, and whether its embedding bits forbid the font itself in documents. */
export interface FaceSource {
  bytes: () => Promise<Uint8Array | undefined>;
  name: string;
  outlinesOnly: boolean;
}
export interface AskedProof {
  kind: ProofKind;
  paper: Paper;
  title: string;
  ground: string;
  candidates: readonly AskedCandidate[];
}

/** Picture resolution, dots an inch. */
const DPI = 150;
const MOST_PAGES_IN_PICTURE = 6;

interface Opened {
  face: ProofFace;
  font: EmbeddedFont;
}
const variationsOf = (axes: Readonly<Record<string, number>>) => Object.entries(axes).map(([tag, value]) => ({ tag, value }));
const plainName = (name: string): string => name.replace(/[^!-~]|[[\](){}<>/%]/g, "") || "Font";

export function embeddedFont(
  bytes: Uint8Array,
  index: number,
  axes: Readonly<Record<string, number>>,
  draw: DrawFace,
  name: string,
): EmbeddedFont {
  return {
    bytes,
    index,
    name: plainName(name),
    variations: variationsOf(axes),
    unitsPerEm: draw.upem,
    ascent: draw.ascent,
    descent: draw.descent,
    advance: (glyph) => draw.font.glyphHAdvance(glyph),
  };
}

/** `find` gives what a style's file is; undefined when it cannot be had. Resolves to the file's bytes. */
export async function makeProof(asked: AskedProof, find: (sha256: string, face: number) => FaceSource | undefined): Promise<Uint8Array> {
  const print = await printFace();
  const opened = new Map<string, Opened | undefined>();
  const open = async ({ sha256, face: index, axes }: AskedLayer): Promise<ProofFace | undefined> => {
    const key = `${sha256}#${index}${JSON.stringify(axes)}`;
    if (!opened.has(key)) {
      const source = find(sha256, index);
      const bytes = await source?.bytes();
      const draw = bytes && openDrawFace(bytes, index, axes);
      opened.set(
        key,
        source && bytes && draw
          ? {
              face: { key, draw, name: source.name, outlinesOnly: source.outlinesOnly },
              font: embeddedFont(bytes, index, axes, draw, source.name),
            }
          : undefined,
      );
    }
    return opened.get(key)?.face;
  };
  const candidates: Candidate[] = [];
  for (const { size, ...asking } of asked.candidates) {
    const layers: ProofLayer[] = [];
    for (const layer of asking.layers) layers.push({ ...layer, face: await open(layer) });
    const faces = layers.flatMap(({ face }) => face ?? []);
    const captions = [...asking.captions];
    const missing = new Set(faces.flatMap(({ draw }) => setText(asking.text, draw).missing));
    if (missing.size > 0) captions.push(`${missingWords([...missing])}; it is left out here.`);
    if (asked.kind === "pdf" && faces.some(({ outlinesOnly }) => outlinesOnly))
      captions.push("Drawn as outlines: the font does not allow itself to be put into documents.");
    const emMm = emMmOf(size, faces[0]?.draw.heights ?? { small: undefined, capitals: undefined }) ?? size.value * UNIT_MM[size.unit];
    candidates.push({ ...asking, layers, captions, emMm });
  }
  if (asked.kind === "html") return new TextEncoder().encode(proofHtml(asked, candidates, print.face));
  const pages = layOutProof(candidates, asked.title, asked.ground, print.face, asked.paper);
  if (asked.kind === "png") return svgToPng(stacked(pages, asked.title), DPI);
  const fontOf = (face: ProofFace): EmbeddedFont =>
    face === print.face ? embeddedFont(print.bytes, 0, {}, face.draw, face.name) : opened.get(face.key)!.font;
  const subject = asked.candidates.flatMap(({ captions }) => captions[0] ?? []).join("; ");
  return writeProofPdf(pages, fontOf, { title: asked.title, subject });
}

/** Pages below one another as one picture. */
function stacked(pages: readonly ProofPage[], title: string): string {
  const shown = pages.slice(0, MOST_PAGES_IN_PICTURE);
  const heightMm = shown.reduce((sum, page) => sum + page.heightMm, 0);
  let top = 0;
  const items = shown.flatMap((page) => {
    const moved = page.items.map((item) =>
      item.kind === "glyphs" ? { ...item, glyphs: item.glyphs.map((one) => ({ ...one, y: one.y + top })) } : { ...item, y: item.y + top },
    );
    top += page.heightMm;
    return moved;
  });
  return proofSvg({ widthMm: shown[0]?.widthMm ?? PAPERS.a4.widthMm, heightMm, items }, title);
}

/** One page of HTML that needs nothing else: each candidate a picture in it, its small print as text. */
function proofHtml(asked: AskedProof, candidates: readonly Candidate[], print: ProofFace): string {
  const parts = candidates.map((candidate, i) => {
    const letter = String.fromCharCode(65 + (i % 26));
    // Each alone on a page without small print, cut to what is drawn.
    const pages = layOutProof([{ ...candidate, captions: [] }], "", asked.ground, print, asked.paper);
    const own = pages.map((page) => {
      const items = page.items.filter((item) => item.kind !== "glyphs" || item.face !== print);
      const ys = items.flatMap((item) => (item.kind === "glyphs" ? item.glyphs.map(({ y }) => y) : [item.y]));
      const [top, bottom] = [Math.max(0, Math.min(...ys) - candidate.emMm * 1.3), Math.max(...ys) + candidate.emMm * 0.7];
      const moved = items.map((item) =>
        item.kind === "glyphs" ? { ...item, glyphs: item.glyphs.map((one) => ({ ...one, y: one.y - top })) } : { ...item, y: item.y - top },
      );
      return items.length === 0 ? "" : proofSvg({ ...page, heightMm: Math.max(1, bottom - top), items: moved }, candidate.text);
    });
    const captions = candidate.captions.map((caption) => `<p>${escaped(caption)}</p>`).join("");
    return `<section><h2>${letter}</h2>${own.join("")}${captions}</section>`;
  });
  const style =
    "body{margin:2rem auto;max-width:52rem;padding:0 1rem;font:16px/1.5 sans-serif;color:#1d1a16;background:#fff}svg{max-width:100%;height:auto;display:block}section{margin:0 0 3rem}h2{margin:0;color:#b4400f}p{margin:.2rem 0}";
  return `<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escaped(asked.title)}</title><style>${style}</style></head><body><h1>${escaped(asked.title)}</h1>${parts.join("\n")}</body></html>\n`;
}
