// Words as they are looked for: folded, parted, and found though misspelt.
import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { folded, isNear, isNearText, slipsAllowed, trigramsOf, wordsOf } from "./words.ts";

test("marks on letters and case make no difference", () => {
  expect(wordsOf("  Éclair-Noir, İstanbul №5 ")).toEqual(["eclair", "noir", "istanbul", "no5"]);
  expect(folded("Ångström")).toBe("angstrom");
  expect(wordsOf("שָׁלוֹם עולם")).toEqual(["שלום", "עולם"]);
  expect(wordsOf("…—!")).toEqual([]);
});

test("trigrams are every three characters, by character and not by code unit", () => {
  expect(trigramsOf("abcab")).toEqual(["abc", "bca", "cab"]);
  expect(trigramsOf("ab")).toEqual([]);
  expect(trigramsOf("𝒜𝒷𝒸")).toEqual(["𝒜𝒷𝒸"]);
});

test("one slip is a letter wrong, missing, too many, or two swapped; a word may go on", () => {
  for (const typed of ["furow", "furrrow", "furraw", "fruurow".slice(0, 3) + "row", "frurow"])
    expect([typed, isNear(typed, "furrow", 1)]).toEqual([typed, true]);
  expect(isNear("furr", "furrowtext", 0)).toBe(true);
  expect(isNear("meadow", "furrow", 2)).toBe(false);
  expect(isNear("hebrw", "hebrew", 1)).toBe(true);
  // Short words are taken as they are: one slip in three letters may be any word.
  expect([slipsAllowed("sun"), slipsAllowed("furrow"), slipsAllowed("blackletter")]).toEqual([0, 1, 2]);
});

test("all words typed must be found", () => {
  expect(isNearText(["meadw", "bold"], "meadow sans bold italic")).toBe(true);
  expect(isNearText(["meadw", "thin"], "meadow sans bold italic")).toBe(false);
});

/** By the definition, without the shortcuts: the fewest edits (https://en.wikipedia.org/wiki/Damerau–Levenshtein_distance, optimal string alignment). */
function plainDistance(a: string, b: string): number {
  const far = (i: number, j: number): number => {
    if (Math.min(i, j) === 0) return Math.max(i, j);
    const least = Math.min(far(i - 1, j) + 1, far(i, j - 1) + 1, far(i - 1, j - 1) + Number(a[i - 1] !== b[j - 1]));
    return i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1] ? Math.min(least, far(i - 2, j - 2) + 1) : least;
  };
  return far(a.length, b.length);
}

test("it is near exactly when some beginning of the word is", () => {
  const word = fc.string({ unit: fc.constantFrom("a", "b", "c"), minLength: 1, maxLength: 5 });
  fc.assert(
    fc.property(word, word, fc.nat(2), (a, b, most) => {
      const least = Math.min(...Array.from({ length: b.length + 1 }, (_, n) => plainDistance(a, b.slice(0, n))));
      expect(isNear(a, b, most)).toBe(least <= most);
    }),
    { numRuns: 400 },
  );
});
