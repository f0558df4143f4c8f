// The order of mixed lines in practice programs against the test lines published with Unicode UAX #9: BidiCharacterTest.txt of the Unicode
// Character Database, here from Debian's unicode-data package.
import { readFileSync } from "node:fs";
import { expect, test } from "@jest/globals";
import { layOut } from "../../practice/engine/layout.ts";
import { openProgramFont } from "../../practice/engine/font.ts";

const font = openProgramFont(new Uint8Array(readFileSync("/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf")))!;

/** Code points that give a line its direction, by the database's own table (rules P2 and P3). */
function strongCharacters(): { left: Set<number>; right: Set<number> } {
  const strong = { left: new Set<number>(), right: new Set<number>() };
  for (const line of readFileSync("/usr/share/unicode/extracted/DerivedBidiClass.txt", "utf8").split("\n")) {
    const [, first = "", last = first, kind] = /^([0-9A-F]+)(?:\.\.([0-9A-F]+))?\s*;\s*(L|R|AL)\s/.exec(line) ?? [];
    if (!kind) continue;
    const codes = kind === "L" ? strong.left : strong.right;
    for (let code = parseInt(first, 16); code <= Math.min(parseInt(last, 16), 0x3000); code++) codes.add(code);
  }
  return strong;
}

interface Line {
  text: string;
  /** Places in `text`, from left to right as it is seen. */
  order: number[];
}

/**
 * Lines set in the direction their text itself gives, as programs set them, of characters that are drawn one by one: no controls, marks or
 * paragraph ends.
 */
function publishedLines(): Line[] {
  const { left, right } = strongCharacters();
  const found: Line[] = [];
  for (const line of readFileSync("/usr/share/unicode/BidiCharacterTest.txt", "utf8").split("\n")) {
    if (line === "" || line.startsWith("#")) continue;
    const [points = "", direction, , , order = ""] = line.split(";");
    const codes = points.split(" ").map((code) => parseInt(code, 16));
    const first = codes.find((code) => left.has(code) || right.has(code));
    if (direction !== "2" && direction !== (first !== undefined && right.has(first) ? "1" : "0")) continue;
    if (codes.some((code) => !font.characters.has(code) || /[\p{C}\p{M}\u2028\u2029]/u.test(String.fromCodePoint(code)))) continue;
    found.push({ text: String.fromCodePoint(...codes), order: order.trim().split(" ").filter(Boolean).map(Number) });
  }
  return found;
}

test("every published line of such characters stands in its published order", () => {
  const lines = publishedLines();
  expect(lines.length).toBeGreaterThan(1000);
  const wrong = lines.filter(({ text, order }) => {
    const { runs } = layOut(text, font, [], 20, 100_000);
    const glyphs = [...runs].sort((a, b) => a.x - b.x).flatMap((run) => run.glyphs);
    return glyphs.map((glyph) => glyph.text).join("") !== order.map((place) => text[place]).join("");
  });
  expect(wrong.map(({ text }) => [...text].map((character) => character.codePointAt(0)!.toString(16)).join(" "))).toEqual([]);
});
