// What a PDF's letters say of a style: programs made here from a file's own outlines, changed as producers change them.
import { readFileSync } from "node:fs";
import { describe, expect, test } from "@jest/globals";
import { inspectFont } from "../inspect.ts";
import type { DrawnFont, PdfDrawing } from "./drawing/document.ts";
import type { DrawnLetter } from "./drawing/letters.ts";
import { WantedFont } from "./drawing/programs.ts";
import { scaledShape, type Shape } from "./drawing/same.ts";
import { judgePdf } from "./judge-pdf.ts";

const open = (file: string) => {
  const bytes = new Uint8Array(readFileSync(`build/demo/built-in/${file}.ttf`));
  const inspected = inspectFont(bytes, file);
  if (!inspected.ok) throw new Error(inspected.problem.message);
  return { style: inspected.value[0]!, wanted: new WantedFont({ bytes, face: 0 }) };
};
const aster = open("AsterPlain-Regular");
const other = open("BrambleWide-Regular");

interface Page {
  words: string;
  name?: string;
  /** What the program draws of a character. */
  draws?: (character: string) => Shape | undefined;
  pages?: [read: number, all: number];
}
const own = (character: string) => aster.wanted.shapeOf(character);
function drawing({ words, name = aster.style.postScriptName, draws = own, pages = [1, 1] }: Page): PdfDrawing {
  const font: DrawnFont = {
    key: "f1",
    name,
    embedded: true,
    subset: true,
    type: "TrueType",
    program: { shape: (glyph) => draws(glyph), missing: () => false },
  };
  const letters = [...words].map((text): DrawnLetter => ({
    font: "f1",
    glyph: text,
    text,
    page: 1,
    size: 24,
    line: 100,
    ...(text === " " ? { shows: "no", why: "blank" } : { shows: "yes" }),
  }));
  return {
    pages: pages[1],
    read: pages[0],
    fonts: [font],
    letters,
    shapes: 0,
    pictures: 0,
    origin: { producer: "", creator: "", at: "" },
  };
}
const judged = (page: Page, words = "") => judgePdf(drawing(page), aster.style, aster.wanted, words);

describe("the name a PDF gives the letters' font", () => {
  test.each([
    aster.style.postScriptName,
    "ABCDEF+AsterPlain-Regular",
    "CairoFont-0-0",
    "F12",
    "T3Font_0",
    "MSTT31c2a8",
    "wanted",
    "Harrow-17",
    "",
    "Aster Plain",
  ])("“%s” raises no doubt", (name) => expect(judged({ words: "Wild fennel", name })).toMatchObject({ state: "seen", letters: 10 }));
  test("another font's name does: the two may draw these letters alike", () => {
    expect(judged({ words: "Wild fennel", name: "ABCDEF+Harrow-Regular" })).toMatchObject({
      state: "cannot-tell",
      reason: expect.stringContaining("the PDF calls their font ABCDEF+Harrow-Regular"),
    });
  });
});

describe("letters that a producer changed", () => {
  test("all of them drawn at another scale are the file's", () => {
    for (const by of [2, 0.5, 2.048])
      expect(judged({ words: "Wild fennel", draws: (text) => scaledShape(own(text)!, by) })).toMatchObject({ state: "seen" });
  });
  test("some of them at another scale are not", () => {
    const draws = (text: string) => scaledShape(own(text)!, text === "W" ? 1.5 : 2);
    expect(judged({ words: "Wild fennel", draws }).state).toBe("swapped");
  });
  test("one of many changed leaves it open, and is told", () => {
    const draws = (text: string) => (text === "q" ? scaledShape(own(text)!, 1.1) : own(text));
    // Whether its words are known or not, and whatever it is called.
    for (const [name, words] of [
      [undefined, ""],
      [undefined, "quick"],
      ["F12", "quick"],
    ] as const)
      expect(judged({ words: "the quick brown fox jumps over", draws, ...(name ? { name } : {}) }, words)).toMatchObject({
        state: "cannot-tell",
        reason: expect.stringContaining("19 of the 20 letters"),
      });
  });
  test("another font's letters under its name are another font's, whatever the scale", () => {
    expect(judged({ words: "Wild fennel", draws: (text) => other.wanted.shapeOf(text) })).toMatchObject({ state: "swapped" });
  });
});

test("pages that were not looked at are no ground for saying that it is not there", () => {
  const page: Page = {
    words: "Wild fennel",
    name: other.style.postScriptName,
    draws: (text) => other.wanted.shapeOf(text),
    pages: [60, 75],
  };
  expect(judged(page)).toMatchObject({ state: "cannot-tell", reason: expect.stringContaining("Of its 75 pages the first 60") });
  expect(judged({ ...page, pages: [60, 60] }).state).toBe("not-in-it");
});
