// The interface's own type: a characterful grotesque for headings, a highly legible sans for text.
import { useFonts } from "expo-font";

/** True once the fonts are there, or cannot be had; text is not held back for longer. */
export function useInterfaceFonts(): boolean {
  const [loaded, failed] = useFonts({
    BuvanoHeading: require("@fontsource/bricolage-grotesque/files/bricolage-grotesque-latin-700-normal.woff2") as number,
    BuvanoText: require("@fontsource/atkinson-hyperlegible/files/atkinson-hyperlegible-latin-400-normal.woff2") as number,
    BuvanoStrong: require("@fontsource/atkinson-hyperlegible/files/atkinson-hyperlegible-latin-700-normal.woff2") as number,
  });
  return loaded || failed !== null;
}
