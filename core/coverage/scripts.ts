// Which scripts a font can set: it has the letters every text of the script needs.
import { inRanges } from "../sfnt/cmap.ts";
import { SCRIPTS, type Script } from "./script-list.ts";

export type { Script };

const run = (from: number, to: number): number[] => Array.from({ length: to - from + 1 }, (_, i) => from + i);

/** Letters of each script's everyday alphabet, by The Unicode Standard's code charts; for Han and Hangul, common ones. */
const LETTERS: Record<Script, number[]> = {
  latin: [...run(0x41, 0x5a), ...run(0x61, 0x7a)],
  greek: [...run(0x391, 0x3a1), ...run(0x3a3, 0x3a9), ...run(0x3b1, 0x3c9)],
  cyrillic: run(0x410, 0x44f),
  hebrew: run(0x5d0, 0x5ea),
  arabic: [...run(0x627, 0x63a), ...run(0x641, 0x64a)],
  devanagari: [...run(0x905, 0x90b), ...run(0x915, 0x928), ...run(0x92a, 0x930), ...run(0x935, 0x939), 0x94d],
  armenian: [...run(0x531, 0x556), ...run(0x561, 0x586)],
  georgian: run(0x10d0, 0x10f0),
  thai: run(0xe01, 0xe2e),
  hangul: [..."가나다라마바사아자차카타파하한국어는이에"].map((letter) => letter.codePointAt(0)!),
  kana: [...run(0x3042, 0x304a), ...run(0x30a2, 0x30aa)],
  han: [..."一人大中日月山水火木上下天地国中年子文字"].map((letter) => letter.codePointAt(0)!),
};

/** One letter in ten may be missing: some faces leave out letters hardly anyone writes. */
const ENOUGH = 0.9;

export function scriptsOf(ranges: readonly number[]): Script[] {
  return SCRIPTS.filter((script) => {
    const letters = LETTERS[script];
    return letters.filter((letter) => inRanges(ranges, letter)).length >= ENOUGH * letters.length;
  });
}
