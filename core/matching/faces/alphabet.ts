// Which letters a face is measured by: a fixed set for each script, so that any two faces can be compared.
import type { Script } from "../../coverage/script-list.ts";

/** The scripts whose letters are measured. Latin's table holds the figures too. */
export const MEASURED_SCRIPTS = ["latin", "cyrillic", "greek", "hebrew", "arabic"] as const satisfies readonly Script[];
export type MeasuredScript = (typeof MEASURED_SCRIPTS)[number];

const range = (from: string, to: string): string =>
  String.fromCodePoint(...Array.from({ length: to.codePointAt(0)! - from.codePointAt(0)! + 1 }, (_, i) => from.codePointAt(0)! + i));

/** Letters in the order of a face's table. */
export const ALPHABETS: Record<MeasuredScript, string> = {
  latin: range("a", "z") + range("A", "Z") + range("0", "9"),
  cyrillic: range("а", "я") + range("А", "Я"),
  greek: range("α", "ω") + range("Α", "Ρ") + range("Σ", "Ω"),
  hebrew: range("א", "ת"),
  arabic: range("ا", "غ") + range("ف", "ي"),
};
export const LETTERS: Record<MeasuredScript, readonly number[]> = Object.fromEntries(
  MEASURED_SCRIPTS.map((script) => [script, [...ALPHABETS[script]].map((letter) => letter.codePointAt(0)!)]),
) as unknown as Record<MeasuredScript, readonly number[]>;

/** Scripts whose letters are joined when they are set, so that words are compared as wholes. */
export const JOINED_SCRIPTS: ReadonlySet<MeasuredScript> = new Set(["arabic"]);

interface Slot {
  script: MeasuredScript;
  at: number;
}
const SLOTS = new Map<number, Slot>(
  MEASURED_SCRIPTS.flatMap((script) => LETTERS[script].map((code, at): [number, Slot] => [code, { script, at }])),
);
/** Where a letter stands in the tables; undefined for what is not measured. */
export const slotOf = (letter: string): Slot | undefined => SLOTS.get(letter.codePointAt(0) ?? 0);

/** The script most of the letters of a text belong to; Latin when none does. */
export function scriptOfText(text: string): MeasuredScript {
  const counts = new Map<MeasuredScript, number>();
  for (const letter of text) {
    const slot = slotOf(letter);
    if (slot && !/\d/.test(letter)) counts.set(slot.script, (counts.get(slot.script) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? "latin";
}
