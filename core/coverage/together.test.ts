// A job's languages and words are met together.
import { expect, test } from "@jest/globals";
import { partOf, whoSets, type Member } from "./together.ts";

const member = (name: string, sets: string[], lacks: string[], signs = false): Member => ({ name, sets, lacks, signs });
const LANGUAGES = ["English", "Hebrew"];
const latin = member("Note", ["English"], ["ש", "ל"]);
const hebrew = member("Shvil", ["Hebrew"], ["W", "i"]);

test("one family for each language is enough, and what another draws is no fault", () => {
  const all = [latin, hebrew];
  expect(whoSets(LANGUAGES, all)).toEqual([
    { language: "English", families: ["Note"] },
    { language: "Hebrew", families: ["Shvil"] },
  ]);
  expect(partOf(latin, all, LANGUAGES)).toEqual({ good: true, words: "Sets English. The other words are set in Shvil" });
  expect(partOf(hebrew, all, LANGUAGES)).toEqual({ good: true, words: "Sets Hebrew. The other words are set in Note" });
});
test("what no family draws is named at each that lacks it", () => {
  expect(partOf(latin, [latin], LANGUAGES)).toEqual({ good: false, words: "Sets English. Lacks ש ל" });
  const other = member("Plain", ["English"], ["ש", "ל"]);
  expect(partOf(latin, [latin, other], LANGUAGES)).toEqual({
    good: false,
    words: "Sets English. Lacks ש ל, and so does every other family of the job",
  });
});
test("a family that sets none of the languages does no part", () => {
  expect(partOf(member("Alef", [], []), [latin, hebrew], LANGUAGES)).toEqual({
    good: false,
    words: "Sets none of the job's languages (English and Hebrew)",
  });
});
test("signs are for no language", () => {
  expect(partOf(member("Marks", [], ["W"], true), [latin], LANGUAGES).good).toBe(true);
  // And they draw no words for others.
  expect(partOf(latin, [latin, member("Marks", [], [], true)], LANGUAGES).good).toBe(false);
});
test("without languages only the words count", () => {
  expect(partOf(member("Note", [], []), [], [])).toEqual({ good: true, words: "Every character and language" });
  expect(partOf(member("Note", [], ["ł"]), [], [])).toEqual({ good: false, words: "Lacks ł" });
});
test("many characters are named by the first of them", () => {
  const lacks = [..."abcdefghijklmnop"];
  expect(partOf(member("Note", [], lacks), [], []).words).toBe("Lacks a b c d e f g h i j k l and 4 more");
});
