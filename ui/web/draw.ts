// The page's side of the drawing worker: asks, and waits. What nobody waits for any more is not asked.
import { useEffect, useState } from "react";
import type { DrawnGlyphs, DrawnLine, LineWanted } from "../../core/bench/drawing.ts";
import type { Reply, Want } from "../work/draw-messages.ts";

let worker: Worker | undefined;
let next = 1;
const waiting = new Map<number, (reply: Reply) => void>();
/** Asked for and not yet given to the worker: the latest first, for it is what somebody looks at now. */
const queue: { id: number; want: Want }[] = [];
/** So many are with the worker at once. */
const AT_ONCE = 8;
/** With the worker now. */
const out = new Map<number, Want>();

function pump(): void {
  while (out.size < AT_ONCE && queue.length > 0) {
    const one = queue.pop()!;
    if (!waiting.has(one.id)) continue;
    out.set(one.id, one.want);
    worker ??= begin();
    worker.postMessage(one);
  }
}
function begin(): Worker {
  const made = new Worker("/work/draw.js", { type: "module" });
  made.onmessage = ({ data }: MessageEvent<Reply>) => {
    out.delete(data.id);
    waiting.get(data.id)?.(data);
    waiting.delete(data.id);
    if (data.full && worker === made) {
      // What it has opened stays in its memory; another begins with what this one still had to do.
      made.terminate();
      worker = undefined;
      for (const [id, want] of out) queue.push({ id, want });
      out.clear();
    }
    pump();
  };
  made.onerror = () => {
    // Everybody who waits is told; the next question starts another.
    made.terminate();
    worker = undefined;
    out.clear();
    for (const [id, tell] of waiting) tell({ id, kind: "gone" });
    waiting.clear();
  };
  return made;
}

/** Asks the worker; the way to call it off. */
function ask(want: Want, tell: (reply: Reply) => void): () => void {
  if (typeof Worker === "undefined") return () => {};
  const id = next++;
  waiting.set(id, tell);
  queue.push({ id, want });
  pump();
  return () => waiting.delete(id);
}

/** What the worker answers, the latest answer kept while a new one is waited for; undefined until the first. */
function useAnswer(want: Want | null): { reply: Reply | undefined; fresh: boolean } {
  const key = want && JSON.stringify(want);
  const [known, setKnown] = useState<{ key: string; reply: Reply }>();
  useEffect(() => (key === null ? undefined : ask(JSON.parse(key) as Want, (reply) => setKnown({ key, reply }))), [key]);
  return { reply: known?.reply, fresh: known?.key === key };
}

/** A line drawn; "gone" when it cannot be, undefined while it is waited for the first time. */
export function useDrawnLine(line: LineWanted | null): { drawn: DrawnLine | "gone" | undefined; fresh: boolean } {
  const { reply, fresh } = useAnswer(line && { kind: "line", line });
  return { drawn: reply?.kind === "line" ? reply.drawn : reply?.kind === "gone" ? "gone" : undefined, fresh };
}
export function useDrawnGlyphs(sha256: string, face: number, glyphs: readonly number[]): DrawnGlyphs | "gone" | undefined {
  const { reply, fresh } = useAnswer(glyphs.length === 0 ? null : { kind: "glyphs", sha256, face, glyphs });
  return !fresh ? undefined : reply?.kind === "glyphs" ? reply.drawn : reply?.kind === "gone" ? "gone" : undefined;
}
/** All glyphs of a face in the order people expect, as flat pairs of code point and glyph. */
export function useGlyphOrder(sha256: string, face: number): number[] | "gone" | undefined {
  const { reply, fresh } = useAnswer({ kind: "order", sha256, face });
  return !fresh ? undefined : reply?.kind === "order" ? reply.order : reply?.kind === "gone" ? "gone" : undefined;
}
