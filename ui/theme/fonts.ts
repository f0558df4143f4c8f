// The interface's own type: a characterful grotesque for headings, a highly legible sans for text.
import { FontDisplay, useFonts } from "expo-font";
import { useEffect, useState } from "react";

/** So long after it was asked for, a page waits for its letters; then it shows in the system's, and changes once they are there. */
const WAIT_MS = 700;

const letters = (file: number) => ({ uri: file, display: FontDisplay.SWAP });
const FONTS = {
  BuvanoHeading: letters(require("@fontsource/bricolage-grotesque/files/bricolage-grotesque-latin-700-normal.woff2") as number),
  BuvanoText: letters(require("@fontsource/atkinson-hyperlegible/files/atkinson-hyperlegible-latin-400-normal.woff2") as number),
  BuvanoStrong: letters(require("@fontsource/atkinson-hyperlegible/files/atkinson-hyperlegible-latin-700-normal.woff2") as number),
};

/** True once the fonts are there, cannot be had, or take too long. */
export function useInterfaceFonts(): boolean {
  const [loaded, failed] = useFonts(FONTS);
  const [waited, setWaited] = useState(() => performance.now() > WAIT_MS);
  useEffect(() => {
    const timer = setTimeout(() => setWaited(true), WAIT_MS - performance.now());
    return () => clearTimeout(timer);
  }, []);
  return loaded || failed !== null || waited;
}
