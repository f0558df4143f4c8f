// The page's side of the cutting worker: one cut at a time; one that takes too long is ended, and said to be.
import { useEffect, useState } from "react";
import type { Bridge } from "../../core/cutting/making/bridges.ts";
import type { CutPreview } from "../../core/cutting/preview.ts";
import type { CutView } from "../../core/cutting/view.ts";
import type { Problem } from "../../core/problem.ts";
import type { CutAsk, CutReply, CutWanted } from "../work/cut-messages.ts";
import { SAY } from "../sentences/parts.ts";

/** So long a cut may take; nothing anybody means to cut comes near it. */
const MOST_MS = 60_000;
/** One that nobody waits for any more and that has taken so long already makes way for the next. */
const PATIENCE_MS = 1500;
const TOO_LONG: Problem = {
  code: "cut-overran",
  message: SAY.thisCutTookLongerThan,
  next: SAY.cutFewerLettersAtOnce,
};

const STOPPED: Problem = {
  code: "cut-stopped",
  message: SAY.theCutStoppedBeforeIt,
  next: SAY.reloadThePageIfIt,
};

let worker: Worker | undefined;
let next = 1;
const waiting = new Map<number, (reply: CutReply) => void>();
function post(asked: CutAsk): void {
  if (!worker) {
    const made = new Worker("/work/cut.js", { type: "module" });
    made.onmessage = ({ data }: MessageEvent<CutReply>) => waiting.get(data.id)?.(data);
    made.onerror = () => end(STOPPED);
    worker = made;
  }
  worker.postMessage(asked);
}
function end(problem: Problem): void {
  worker?.terminate();
  worker = undefined;
  for (const [id, tell] of [...waiting]) tell({ id, kind: "problem", problem });
  waiting.clear();
}

export interface CutAnswer {
  preview: CutPreview | undefined;
  /** The latest checked cut, of these choices where `fresh`. */
  view: CutView | undefined;
  problem: Problem | undefined;
  fresh: boolean;
}
/** What a line is cut as; the one before stays until the next is there. */
export function useCut(wanted: CutWanted | null): CutAnswer {
  const key = wanted && JSON.stringify(wanted);
  const [known, setKnown] = useState<{ key: string; preview?: CutPreview; view?: CutView; problem?: Problem; done: boolean }>();
  useEffect(() => {
    if (key === null || typeof Worker === "undefined") return undefined;
    const id = next++;
    const begun = performance.now();
    const timer = setTimeout(() => end(TOO_LONG), MOST_MS);
    waiting.set(id, (reply) => {
      if (reply.kind === "preview") setKnown((before) => ({ ...before, key, preview: reply.preview, done: false }));
      if (reply.kind === "cut") setKnown({ key, view: reply.view, done: true });
      if (reply.kind === "problem") setKnown({ key, problem: reply.problem, done: true });
      if (reply.kind === "cut" || reply.kind === "problem") {
        clearTimeout(timer);
        waiting.delete(id);
      }
    });
    post({ id, kind: "cut", wanted: JSON.parse(key) as CutWanted });
    return () => {
      clearTimeout(timer);
      if (!waiting.delete(id) || performance.now() - begun < PATIENCE_MS) return;
      worker?.terminate();
      worker = undefined;
    };
  }, [key]);
  const fresh = known?.key === key && known?.done === true;
  return {
    preview: fresh || known?.key !== key ? undefined : known?.preview,
    view: known?.view,
    problem: fresh ? known?.problem : undefined,
    fresh,
  };
}

/** A bridge through what was cut last, nearest to a place in millimetres; null where there is no material. */
export function askBridge(x: number, y: number): Promise<Bridge | null> {
  return new Promise((resolve) => {
    const id = next++;
    waiting.set(id, (reply) => {
      waiting.delete(id);
      resolve(reply.kind === "bridge" ? reply.bridge : null);
    });
    post({ id, kind: "bridge", x, y });
  });
}
