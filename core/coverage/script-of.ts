// Which script a text is written in, by its letters (Unicode property Script).
import type { Script } from "./script-list.ts";

/** Han last: Japanese is written with it too. */
const LETTERS: readonly (readonly [Script, RegExp])[] = [
  ["greek", /\p{Script=Greek}/u],
  ["cyrillic", /\p{Script=Cyrillic}/u],
  ["hebrew", /\p{Script=Hebrew}/u],
  ["arabic", /\p{Script=Arabic}/u],
  ["devanagari", /\p{Script=Devanagari}/u],
  ["armenian", /\p{Script=Armenian}/u],
  ["georgian", /\p{Script=Georgian}/u],
  ["thai", /\p{Script=Thai}/u],
  ["hangul", /\p{Script=Hangul}/u],
  ["kana", /\p{Script=Hiragana}|\p{Script=Katakana}/u],
  ["han", /\p{Script=Han}/u],
  ["latin", /\p{Script=Latin}/u],
];
/** The script a text has letters of; of several the one that is not Latin. Undefined for signs alone. */
export const scriptOf = (text: string): Script | undefined => LETTERS.find(([, letters]) => letters.test(text))?.[0];
