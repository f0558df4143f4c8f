import { describe, expect, test } from "@jest/globals";
import { areLayers, areTwins, compareNamesakes, preferredTwin, sameAdvances, twinGroups, type Kin } from "./kinship.ts";

const widths = (...values: number[]): number[] => [...values, ...Array<number>(10).fill(500)];
const kin = (change: Partial<Kin> = {}): Kin => ({
  sha256: "a",
  family: "Furrow",
  style: "Regular",
  outlines: "TrueType",
  container: "sfnt",
  codepoints: 100,
  revision: 1,
  advances: widths(250, 300),
  drawings: "",
  axes: [],
  ...change,
});

describe("widths", () => {
  test("are compared over what both have, within rounding", () => {
    expect(sameAdvances(widths(250, -1), widths(252, 9))).toBe(true);
    expect(sameAdvances(widths(250), widths(253))).toBe(false);
  });
  test("of hardly any shared character say nothing", () => {
    expect(sameAdvances([1, 2, 3, -1, -1, -1], [1, 2, 3, 4, 5, 6])).toBe(false);
  });
});

describe("twins", () => {
  const otf = kin({ sha256: "b", outlines: "CFF", advances: widths(251, 300) });
  test("are the same style in another format, whatever the files are called", () => {
    expect(areTwins(kin(), otf)).toBe(true);
    expect(areTwins(kin(), kin({ sha256: "w", container: "woff2" }))).toBe(true);
  });
  test.each<[string, Partial<Kin>]>([
    ["another style", { style: "Bold" }],
    ["other characters", { codepoints: 101 }],
    ["other widths", { advances: widths(300, 300) }],
    ["a variable font", { axes: [{}] }],
    ["the same format, an update", { outlines: "TrueType" }],
  ])("are not: %s", (_what, change) => {
    expect(areTwins(kin(), { ...otf, ...change })).toBe(false);
  });
  test("are grouped, and one of each group is taken", () => {
    const bold = kin({ sha256: "c", style: "Bold" });
    const web = kin({ sha256: "w", container: "woff2" });
    const groups = twinGroups([web, kin(), bold, otf]);
    expect(groups.map((group) => group.map((one) => one.sha256))).toEqual([["w", "a", "b"], ["c"]]);
    expect([preferredTwin(groups[0]!, "otf")?.sha256, preferredTwin(groups[0]!, "ttf")?.sha256]).toEqual(["b", "a"]);
  });
});

describe("layers", () => {
  const shade = kin({ sha256: "s", family: "Furrow Shade" });
  test("are equally wide and named alike but for the layer's word", () => {
    expect(areLayers(kin(), shade)).toBe(true);
    expect(areLayers(kin(), kin({ sha256: "s", style: "Shadow" }))).toBe(true);
  });
  test("are not: other widths, other names, a bold of the same width", () => {
    expect(areLayers(kin(), { ...shade, advances: widths(9) })).toBe(false);
    expect(areLayers(kin({ family: "Aster" }), shade)).toBe(false);
    expect(areLayers(kin(), kin({ sha256: "s", style: "Bold" }))).toBe(false);
  });
});

test.each<[string, Partial<Kin>, string]>([
  ["the same bytes", { sha256: "a", revision: 9 }, "same-bytes"],
  ["the other format", { outlines: "CFF" }, "twin"],
  ["a newer version", { revision: 2 }, "newer"],
  ["an older version", { revision: 0.5 }, "older"],
  ["another font under its name", { advances: widths(900) }, "other"],
])("against the library: %s", (_what, change, known) => {
  expect(compareNamesakes(kin({ sha256: "n", ...change }), kin())).toBe(known);
});

describe("by what is drawn", () => {
  /** Drawings of made-up characters: each a row of code point, ink, advance and box; `other` of them are drawn otherwise. */
  const drawings = (characters: number, other = 0, from = 65): string =>
    btoa(
      String.fromCharCode(
        ...new Uint8Array(
          Int32Array.from(Array.from({ length: characters }, (_, i) => [from + i, 900 + i, 500, 10, 0, i < other ? 400 : 480, 700]).flat())
            .buffer,
        ),
      ),
    );
  const mono = { advances: widths(500, 500), drawings: drawings(20) };
  test.each<[string, Partial<Kin>, string]>([
    ["a bold of one width with the plain style, of any revision", { drawings: drawings(20, 20), revision: 2 }, "other"],
    ["a version in which one letter was respaced", { advances: widths(505, 500), revision: 2 }, "newer"],
    ["a version in which half the letters were drawn anew", { drawings: drawings(20, 10), revision: 2 }, "newer"],
    ["a version with letters added", { drawings: drawings(24), codepoints: 120, revision: 2 }, "newer"],
    ["another file of the same drawings and the same revision", {}, "alike"],
    ["the other format", { outlines: "CFF" }, "twin"],
    ["the other format of a bold of one width", { outlines: "CFF", drawings: drawings(20, 20) }, "other"],
    ["a variable font that draws the same by default", { axes: [{}], revision: 2 }, "other"],
    ["characters of which none is shared, where widths must do", { drawings: drawings(20, 0, 900), revision: 2 }, "newer"],
  ])("%s", (_what, change, known) => expect(compareNamesakes(kin({ sha256: "n", ...mono, ...change }), kin(mono))).toBe(known));
  test("a font without Latin, figures and Hebrew has versions as well", () => {
    const signs = { advances: widths().map(() => -1), drawings: drawings(20, 0, 0x1200) };
    expect(compareNamesakes(kin({ sha256: "n", ...signs, revision: 2 }), kin(signs))).toBe("newer");
  });
});
