// Loads library fonts into the page, each once, under a name made from its digest.
import { useEffect, useState } from "react";
import { fontUrl } from "../data/api.ts";

const loading = new Map<string, Promise<boolean>>();

export const familyOf = (sha256: string): string => `specimen-${sha256.slice(0, 16)}`;

function load(sha256: string): Promise<boolean> {
  let face = loading.get(sha256);
  if (!face) {
    face = new FontFace(familyOf(sha256), `url(${fontUrl(sha256)})`, { display: "block" }).load().then(
      (ready) => {
        // The browser library's own types leave `add` out of FontFaceSet under some settings.
        (document.fonts as unknown as Set<FontFace>).add(ready);
        return true;
      },
      () => false,
    );
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
