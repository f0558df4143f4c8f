// The script of a text.
import { expect, test } from "@jest/globals";
import { scriptOf } from "./script-of.ts";
import { SCRIPTS } from "./script-list.ts";

test.each([
  ["Wild fennel", "latin"],
  ["Άγριο μάραθο", "greek"],
  ["Дикий фенхель", "cyrillic"],
  ["שביל הזרעים", "hebrew"],
  ["الشمر البري", "arabic"],
  ["जंगली सौंफ", "devanagari"],
  ["վայրի սամիթ", "armenian"],
  ["ველური კამა", "georgian"],
  ["ยี่หร่าป่า", "thai"],
  ["야생 회향", "hangul"],
  ["野生のウイキョウ", "kana"],
  ["野茴香", "han"],
  ["AÁ אבגד", "hebrew"],
])("%s is %s", (text, script) => expect(scriptOf(text)).toBe(script));
test("signs alone are of none, and every script of the lists is known", () => {
  expect([scriptOf("4.50 ★"), scriptOf("")]).toEqual([undefined, undefined]);
  expect(SCRIPTS.length).toBe(12);
});
