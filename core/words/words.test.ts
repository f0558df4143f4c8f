// Lists and beginnings of sentences.
import { expect, test } from "@jest/globals";
import { begun, listWords } from "./words.ts";

test("several things in a sentence, of which there may be none or one", () => {
  const things = ["a", "b", "c"];
  expect([0, 1, 2, 3].map((n) => listWords(things.slice(0, n)))).toEqual(["", "a", "a and b", "a, b, and c"]);
  expect([2, 3].map((n) => listWords(things.slice(0, n), "or"))).toEqual(["a or b", "a, b, or c"]);
});
test("a line begins with a capital, where its script has any", () => {
  expect(["sold goods", "", "שביל"].map(begun)).toEqual(["Sold goods", "", "שביל"]);
});
