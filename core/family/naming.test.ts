// What names say: style words, spellings of one family, and names that differ.
import { describe, expect, test } from "@jest/globals";
import { differingNames } from "./notes.ts";
import { sameFamilyReason, withoutStyleWords } from "./spelling.ts";
import { parseStyleWords } from "./style-words.ts";
import { areSymbolSiblings, codePointWords, isSymbolFont } from "./symbols.ts";

describe("style words", () => {
  // The names of weights and widths as the OpenType specification lists them (OS/2, usWeightClass and usWidthClass).
  test.each<[string, number]>([
    ["Thin", 100],
    ["Extra-light", 200],
    ["Ultra-light", 200],
    ["Light", 300],
    ["Normal", 400],
    ["Regular", 400],
    ["Medium", 500],
    ["Semi-bold", 600],
    ["Demi-bold", 600],
    ["Bold", 700],
    ["Extra-bold", 800],
    ["Ultra-bold", 800],
    ["Black", 900],
    ["Heavy", 900],
  ])("weight %s is %d", (words, weight) => {
    expect(parseStyleWords(words)).toMatchObject({ weight, rest: [] });
    expect(parseStyleWords(words.replace("-", ""))).toMatchObject({ weight, rest: [] });
  });
  test.each<[string, number]>([
    ["Ultra-condensed", 1],
    ["Extra-condensed", 2],
    ["Condensed", 3],
    ["Semi-condensed", 4],
    ["Semi-expanded", 6],
    ["Expanded", 7],
    ["Extra-expanded", 8],
    ["Ultra-expanded", 9],
  ])("width %s is %d", (words, width) => expect(parseStyleWords(words)).toMatchObject({ width, rest: [] }));
  test("in all their combinations, however they are written", () => {
    expect(parseStyleWords("SemiCondensed ExtraBold Italic")).toEqual({ weight: 800, width: 4, slant: "italic", rest: [] });
    expect(parseStyleWords("Demi Oblique")).toEqual({ weight: 600, slant: "oblique", rest: [] });
    expect(parseStyleWords("Display Light")).toEqual({ weight: 300, opticalSize: "display", rest: [] });
    expect(parseStyleWords("Caption")).toEqual({ opticalSize: "caption", rest: [] });
    expect(parseStyleWords("8pt Bold")).toEqual({ weight: 700, opticalSize: "8pt", rest: [] });
    expect(parseStyleWords("Roman")).toEqual({ weight: 400, slant: "upright", rest: [] });
    expect(parseStyleWords("Inline Shadow Bold")).toEqual({ weight: 700, rest: ["inline", "shadow"] });
    expect(parseStyleWords("")).toEqual({ rest: [] });
  });
});

describe("spellings of one family", () => {
  test.each([
    ["Furrow Text", "FurrowText", "they differ only in spaces and signs"],
    ["Furrow-Text", "furrow text", "they differ only in spaces and signs"],
    ["Furrow Text", "Furrow Text Semi Bold", "one carries the name of a style at its end"],
    ["Furrow Text Light", "Furrow Text Black", "one carries the name of a style at its end"],
    ["Furrow Text", "Furrow Text Outline", "one carries the name of a layer at its end"],
    ["Furrow Fill", "Furrow Outlined Bold", "one carries the name of a layer at its end"],
    ["Fernhollow", "Fernholow", "they differ by one letter"],
    ["Fernhollow", "Fernhlolow", "they differ by one letter"],
  ])("%s and %s", (a, b, reason) => {
    expect([sameFamilyReason(a, b), sameFamilyReason(b, a)]).toEqual([reason, reason]);
  });
  test.each([
    ["Furrow", "Furrow"],
    ["Furrow", "Burrow"],
    ["Seedmarks One", "Seedmarks Two"],
    ["Furrow Text", "Furrow Display"],
    ["Fernhollow 1", "Fernhollow 2"],
    ["Light", "Bold"],
    ["Front", "Back"],
    ["Furrow Inline", "Barrow"],
    ["", "Furrow"],
  ])("%s and %s are left alone", (a, b) => expect(sameFamilyReason(a, b)).toBeUndefined());
  test("leave out the words of a style at a name's end", () => {
    expect(withoutStyleWords("Furrow Text Extra Bold Italic")).toBe("Furrow Text");
    expect(withoutStyleWords("Bold")).toBe("Bold");
  });
});

test("names that differ are shown together, names that agree are not", () => {
  expect(differingNames("FurrowText-Bold.ttf", "furrow.zip", "Furrow Text")).toBe("");
  expect(differingNames("xq12.ttf", "free_pack.zip", "Furrow")).toBe(
    "The file is called xq12.ttf, the archive free_pack.zip; programs list it as Furrow.",
  );
});

describe("symbol fonts", () => {
  const marks = (first: number, family = "Marks One") => ({ family, style: "Regular", ranges: [0x20, 0x20, first, first + 3] });
  test("are those whose characters are mostly symbols or of private use", () => {
    expect(isSymbolFont([0xe100, 0xe110])).toBe(true);
    expect(isSymbolFont([0x2190, 0x21ff])).toBe(true);
    expect(isSymbolFont([0x41, 0x5a, 0x61, 0x7a, 0xe000, 0xf000])).toBe(false);
    expect(isSymbolFont([0x5d0, 0x5ea])).toBe(false);
    expect(isSymbolFont([])).toBe(false);
  });
  test("of one family that share no code point are known as such", () => {
    expect(areSymbolSiblings(marks(0xe100), marks(0xe200, "Marks Two"))).toBe(true);
    expect(areSymbolSiblings(marks(0xe100), marks(0xe103, "Marks Two"))).toBe(false);
    expect(areSymbolSiblings(marks(0xe100), marks(0xe200, "Wholly Other"))).toBe(false);
  });
  test("tell their code points in words", () => {
    expect(codePointWords([0x20, 0x20, 0xe100, 0xe103, 0x1f600, 0x1f600])).toBe("U+E100 to U+E103, U+1F600");
    expect(codePointWords([1, 2, 3, 4].flatMap((i) => [0xe000 + 9 * i, 0xe000 + 9 * i]).concat([0xf000, 0xf001]), 2)).toMatch(/ and more$/);
  });
});
