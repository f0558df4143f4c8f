// A sheet of the bench made from styles at hand.
import { useRouter } from "expo-router";
import { useCallback } from "react";
import { SheetDetail, type BenchStyle } from "../../../contract/bench.ts";
import { send } from "../../data/api.ts";
import { newLine } from "../../data/bench.ts";
import { useAction } from "../../data/useAction.ts";
import { useWords } from "../../data/words.ts";

/** A sheet made at one tap has at most so many lines: more are not compared at a glance. */
export const MOST_COMPARED = 12;

/** Makes a sheet with a line for each of the first styles, in the user's own words, and leads to it. */
export function useNewSheet() {
  const router = useRouter();
  const [words] = useWords();
  return useAction(
    useCallback(
      async (name: string, styles: readonly BenchStyle[]) => {
        const lines = styles.slice(0, MOST_COMPARED).map((style) => newLine(words || style.family, style));
        const body = { name: name.slice(0, 120), jobId: null, ground: "#ffffff", lines };
        const sheet = await send("POST", "/bench/sheets", SheetDetail, { name: body.name, body });
        router.push(`/bench/sheet/${sheet.id}`);
      },
      [router, words],
    ),
  );
}
