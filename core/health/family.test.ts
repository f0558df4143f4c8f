// Checks of a family as a whole: what clashes is found, what is as it should be is left alone.
import { describe, expect, test } from "@jest/globals";
import { CHECKS } from "./table.ts";
import { examineFamily, type Relative } from "./family.ts";

let sum = 0;
const style = (name: string, change: Partial<Relative> = {}): Relative => ({
  sha256: String(sum++),
  family: "Furrow",
  style: name,
  fullName: `Furrow ${name}`,
  postScriptName: `Furrow-${name.replace(" ", "")}`,
  legacyFamily: "Furrow",
  legacyStyle: name,
  outlines: "TrueType",
  container: "sfnt",
  codepoints: 100,
  revision: 1,
  advances: [],
  drawings: "",
  axes: [],
  weight: name.includes("Bold") ? 700 : 400,
  width: 5,
  bold: name.includes("Bold"),
  italic: name.includes("Italic"),
  symbol: false,
  ...change,
});
const codes = (...styles: Relative[]): string[] => examineFamily(styles).map((finding) => finding.code);
const four = () => ["Regular", "Italic", "Bold", "Bold Italic"].map((name) => style(name));

describe("a family", () => {
  test("of four styles whose names and buttons agree has no remarks", () => expect(codes(...four())).toEqual([]));
  test("of eighteen, each pair a four-style family of its own, has none either", () => {
    const pairs = ["Light", "Medium", "Black"].flatMap((weight) => [
      style(weight, { legacyFamily: `Furrow ${weight}`, legacyStyle: "Regular" }),
      style(`${weight} Italic`, { legacyFamily: `Furrow ${weight}`, legacyStyle: "Italic" }),
    ]);
    expect(codes(...four(), ...pairs)).toEqual([]);
  });
  test("whose styles share a full name or a PostScript name", () => {
    expect(codes(...four(), style("Book", { fullName: "Furrow Bold", legacyFamily: "Furrow Book" }))).toEqual(["clash-full-name"]);
    expect(codes(...four(), style("Book", { postScriptName: "Furrow-Bold", legacyFamily: "Furrow Book" }))).toEqual(["clash-postscript"]);
  });
  test("whose bold and italic buttons lead to two styles", () => {
    const [finding] = examineFamily([...four(), style("Medium", { legacyStyle: "Medium" })]);
    expect(finding).toMatchObject({
      code: "clash-buttons",
      level: "warn",
      message: "Regular and Medium answer to the same bold and italic buttons.",
    });
  });
  test("whose bold is marked regular, so that its button fakes one", () => {
    const [regular, italic, bold] = four();
    expect(codes(regular!, italic!, { ...bold!, bold: false })).toContain("buttons-flags");
  });
  test("without a bold: it will be faked", () => expect(codes(style("Regular"), style("Italic"))).toEqual(["bold-faked"]));
  test("of a single style is not reproached for it", () => expect(codes(style("Regular"))).toEqual([]));
  test("whose twins share their names has no clash: only one of them is taken", () => {
    const advances = Array<number>(12).fill(500);
    expect(codes(style("Regular", { advances }), style("Regular", { advances, outlines: "CFF" }))).toEqual([]);
  });
});

test("every row of the table says what it means and what to do, in sentences", () => {
  for (const [code, row] of Object.entries(CHECKS)) {
    expect(code).toMatch(/^[a-z0-9]+(-[a-z0-9]+)*$/);
    expect(row.meaning).toMatch(/^[A-Z].*[.]$/);
    expect(row.next).toMatch(/^[A-Z].*[.]$/);
    expect(row.standard).not.toBe("");
  }
});
