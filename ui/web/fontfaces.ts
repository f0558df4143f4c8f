// Loads library fonts into the page, each once, under a name made from its digest.
import { useEffect, useState } from "react";
import { fontUrl } from "../data/api.ts";

const loading = new Map<string, Promise<boolean>>();

export const familyOf = (sha256: string): string => `specimen-${sha256.slice(0, 16)}`;

/** A file that is just being put in its place cannot be had for a moment; a font the browser refuses stays refused. */
const TRIES = 3;
const TRY_AGAIN_MS = 400;

async function fetchFace(sha256: string): Promise<boolean> {
  for (let tries = 1; ; tries++) {
    try {
      const ready = await new FontFace(familyOf(sha256), `url(${fontUrl(sha256)})`, { display: "block" }).load();
      // The browser library's own types leave `add` out of FontFaceSet under some settings.
      (document.fonts as unknown as Set<FontFace>).add(ready);
      return true;
    } catch {
      if (tries === TRIES) return false;
      await new Promise((resolve) => setTimeout(resolve, TRY_AGAIN_MS));
    }
  }
}

function load(sha256: string): Promise<boolean> {
  let face = loading.get(sha256);
  if (!face) {
    face = fetchFace(sha256).then((ready) => {
      // What failed is tried anew when it is next shown.
      if (!ready) loading.delete(sha256);
      return ready;
    });
    loading.set(sha256, face);
  }
  return face;
}

/** "loading" until the browser has the font, then "ready"; "refused" when the browser will not take it. */
export function useFontFace(sha256: string): "loading" | "ready" | "refused" {
  const [state, setState] = useState<{ sha256: string; state: "ready" | "refused" }>();
  useEffect(() => {
    let wanted = true;
    void load(sha256).then((ready) => wanted && setState({ sha256, state: ready ? "ready" : "refused" }));
    return () => {
      wanted = false;
    };
  }, [sha256]);
  return state?.sha256 === sha256 ? state.state : "loading";
}
