// The user's own words and the size they are shown at: one text and one size for the whole list.
import type { Script } from "../../contract/families.ts";
import { makeStore } from "./store.ts";

const text = makeStore("Wild fennel, 4.50", "buvano.words");
const size = makeStore(34, "buvano.size");

/** Words of other scripts, set once: shown where a font does not draw the words above, by the script it draws. */
const byScript = makeStore<Partial<Record<Script, string>>>({}, "buvano.words-by-script");
export const useScriptWords = (): [Partial<Record<Script, string>>, (script: Script, words: string) => void] => [
  byScript.use(),
  (script, words) => byScript.set({ ...byScript.get(), [script]: words === "" ? undefined : words }),
];

export const SIZES = { least: 14, most: 96 };
export const useWords = (): [string, (words: string) => void] => [text.use(), text.set];
export const useSize = (): [number, (size: number) => void] => [size.use(), size.set];
