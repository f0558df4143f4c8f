// The drawing worker's work: draws lines and glyphs with fonts of the library.
import { drawGlyphs, drawLine, glyphOrder } from "../../core/bench/drawing.ts";
import type { Answer, Ask, Reply } from "./draw-messages.ts";
import { fileOf, find, isFull } from "./faces.ts";

async function answer({ id, want }: Ask): Promise<Answer> {
  if (want.kind === "line") return { id, kind: "line", drawn: await drawLine(want.line, find) };
  const face = await find({ sha256: want.sha256, face: want.face, axes: {} });
  if (!face) return { id, kind: "gone" };
  if (want.kind === "order") return { id, kind: "order", order: glyphOrder(face) };
  return { id, kind: "glyphs", drawn: drawGlyphs(face, want.glyphs) };
}

// One after another, in the order asked, so that what is looked at now is not overtaken.
let last: Promise<unknown> = Promise.resolve();
export function handle(asked: Ask, tell: (reply: Reply) => void): void {
  // Files are fetched meanwhile, several at once.
  const { want } = asked;
  for (const { sha256 } of want.kind === "line" ? want.line.layers : [want]) void fileOf(sha256);
  last = last.then(async () => {
    try {
      tell({ ...(await answer(asked)), full: isFull() });
    } catch {
      tell({ id: asked.id, kind: "gone" });
    }
  });
}
