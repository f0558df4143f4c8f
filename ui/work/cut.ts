// The cutting worker's work: a first look at once, then the checked cut.
import PathKitInit, { type PathKit } from "pathkit-wasm";
import { bridgeAt, type Bridge } from "../../core/cutting/making/bridges.ts";
import { cut } from "../../core/cutting/cut.ts";
import { type CutDrawing } from "../../core/cutting/drawing.ts";
import { type CutLayer } from "../../core/cutting/drawing.ts";
import { preview } from "../../core/cutting/preview.ts";
import { viewOf } from "../../core/cutting/view.ts";
import { ProblemError, type Problem } from "../../core/problem.ts";
import type { CutAsk, CutReply, CutWanted } from "./cut-messages.ts";
import { find } from "./faces.ts";

let loading: Promise<PathKit> | undefined;
const second = (): Promise<PathKit> =>
  (loading ??= fetch("/work/pathkit.wasm")
    .then((response) => response.arrayBuffer())
    .then((bytes) => PathKitInit({ wasmBinary: new Uint8Array(bytes) })));

const GONE: Problem = {
  code: "style-gone",
  message: "A font of this line is not in the library, so it cannot be cut.",
  next: "Add it again from its download, or choose another style.",
};
const UNFORESEEN: Problem = {
  code: "cut-failed",
  message: "The cut stopped because of a fault in Buvano.",
  next: "Change the words or the style a little, and report this.",
};

let last: CutDrawing | undefined;

async function facesOf({ layers }: CutWanted): Promise<CutLayer[]> {
  return Promise.all(
    layers.map(async ({ sha256, face: index, axes, ...layer }) => {
      const face = await find({ sha256, face: index, axes });
      if (!face) throw new ProblemError(GONE.code, GONE.message, GONE.next);
      return { ...layer, face };
    }),
  );
}

export async function handle(asked: CutAsk, tell: (reply: CutReply) => void): Promise<void> {
  const { id } = asked;
  if (asked.kind === "bridge") {
    // On the topmost sheet that has material there.
    const sheets = last?.sheets.filter(({ kind }) => kind === "letters").toReversed() ?? [];
    let bridge: Bridge | undefined;
    for (const { contours } of sheets) bridge ??= bridgeAt(contours, asked.x, asked.y);
    tell({ id, kind: "bridge", bridge: bridge ?? null });
    return;
  }
  const { settings, ...line } = asked.wanted;
  try {
    const layers = await facesOf(asked.wanted);
    tell({ id, kind: "preview", preview: preview({ ...line, layers }, settings) });
    last = await cut({ ...line, layers }, settings, second);
    tell({ id, kind: "cut", view: viewOf(last, settings) });
  } catch (error) {
    last = undefined;
    tell({ id, kind: "problem", problem: error instanceof ProblemError ? error.problem : UNFORESEEN });
  }
}
