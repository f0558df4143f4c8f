// Loads library fonts into the page, each once, under a name made from its digest: a few at a time, and lets go of those that were not shown
// for long.
import { useEffect, useState } from "react";
import { fontUrl } from "../data/api.ts";

export const familyOf = (sha256: string): string => `specimen-${sha256.slice(0, 16)}`;

/** A file that is just being put in its place cannot be had for a moment; a font the browser refuses stays refused. */
const TRIES = 3;
const TRY_AGAIN_MS = 400;
/** Fonts fetched at once; a browser keeps its other lines for the page itself. */
const AT_ONCE = 4;
/** Fonts kept that nothing on the page shows any more. */
const MOST_UNSHOWN = 80;

type State = "loading" | "ready" | "refused";
interface Held {
  state: State;
  /** How many specimens show it. */
  shown: number;
  face: FontFace | undefined;
  listeners: Set<(state: State) => void>;
}

/** The browser library's own types leave `add` and `delete` out of FontFaceSet under some settings. */
const pageFonts = (): Set<FontFace> => document.fonts as unknown as Set<FontFace>;
const held = new Map<string, Held>();
const waiting: string[] = [];
let fetching = 0;

async function fetchFace(sha256: string, one: Held): Promise<void> {
  for (let tries = 1; ; tries++) {
    try {
      one.face = await new FontFace(familyOf(sha256), `url(${fontUrl(sha256)})`, { display: "block" }).load();
      pageFonts().add(one.face);
      return settle(one, "ready");
    } catch {
      if (tries === TRIES) return settle(one, "refused");
      await new Promise((resolve) => setTimeout(resolve, TRY_AGAIN_MS));
    }
  }
}
function settle(one: Held, state: State): void {
  one.state = state;
  for (const tell of one.listeners) tell(state);
}

function pump(): void {
  while (fetching < AT_ONCE && waiting.length > 0) {
    // The latest first: it is what somebody looks at now.
    const sha256 = waiting.pop()!;
    const one = held.get(sha256);
    if (!one || one.shown === 0) {
      held.delete(sha256);
      continue;
    }
    fetching++;
    void fetchFace(sha256, one).finally(() => {
      fetching--;
      pump();
    });
  }
}

function letGo(): void {
  const unshown = [...held].filter(([, one]) => one.shown === 0 && one.state !== "loading");
  for (const [sha256, one] of unshown.slice(0, Math.max(0, unshown.length - MOST_UNSHOWN))) {
    if (one.face) pageFonts().delete(one.face);
    held.delete(sha256);
  }
}

function show(sha256: string, listener: (state: State) => void): () => void {
  let one = held.get(sha256);
  // What failed is tried anew when it is next shown.
  if (!one || (one.state === "refused" && one.shown === 0)) {
    one = { state: "loading", shown: 0, face: undefined, listeners: new Set() };
    waiting.push(sha256);
  }
  // The one shown last goes last.
  held.delete(sha256);
  held.set(sha256, one);
  one.shown++;
  one.listeners.add(listener);
  if (one.state !== "loading") listener(one.state);
  pump();
  return () => {
    one.shown--;
    one.listeners.delete(listener);
    letGo();
  };
}

/** "loading" until the browser has the font, then "ready"; "refused" when the browser will not take it. Not asked for until `wanted`. */
export function useFontFace(sha256: string, wanted = true): State {
  const [known, setKnown] = useState<{ sha256: string; state: State }>();
  useEffect(() => (wanted ? show(sha256, (state) => setKnown({ sha256, state })) : undefined), [sha256, wanted]);
  return known?.sha256 === sha256 ? known.state : "loading";
}
