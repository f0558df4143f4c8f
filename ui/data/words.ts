// The user's own words and the size they are shown at: one text and one size for the whole list.
import { makeStore } from "./store.ts";

const text = makeStore("Wild fennel, 4.50", "buvano.words");
const size = makeStore(34, "buvano.size");

export const SIZES = { least: 14, most: 96 };
export const useWords = (): [string, (words: string) => void] => [text.use(), text.set];
export const useSize = (): [number, (size: number) => void] => [size.use(), size.set];
