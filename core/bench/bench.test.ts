// Lines, sizes, register, colours, comparison, and finding signs: the parts of the bench that need no screen.
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, test } from "@jest/globals";
import { asked, findable, score } from "../symbols/search.ts";
import { wordsOfName } from "../symbols/words.ts";
import { byLikeness, distance, letterShape } from "../glyphs/likeness.ts";
import { featureName, isChoice, waySentence } from "../glyphs/feature-names.ts";
import { colourOf, contrast, contrastWords } from "./colour.ts";
import { differences, missingWords } from "./compare.ts";
import { drawLine, glyphOrder, type LayerWanted } from "./drawing.ts";
import { openDrawFace, type Command } from "./draw-face.ts";
import { emMmOf, UNIT_MM } from "./line.ts";
import { broken } from "./proof.ts";
import { driftOf, driftWords } from "./register.ts";
import { isDrawnBy, pathOf, readsFromRight, setText } from "./setting.ts";

const BUILT_IN = join(process.cwd(), "build", "demo", "built-in");
const face = (name: string) => openDrawFace(Uint8Array.from(readFileSync(join(BUILT_IN, name))), 0)!;
const plain = face("AsterPlain-Regular.ttf");
const italic = face("IvyLean-Italic.ttf");

describe("sizes", () => {
  test("of the em, of small letters, of capitals; unknown heights say so", () => {
    const heights = { small: 0.5, capitals: 0.7 };
    expect(emMmOf({ of: "em", value: 72, unit: "pt" }, heights)).toBeCloseTo(25.4, 9);
    expect(emMmOf({ of: "em", value: 96, unit: "px" }, heights)).toBeCloseTo(25.4, 9);
    expect(emMmOf({ of: "small", value: 5, unit: "mm" }, heights)).toBe(10);
    expect(emMmOf({ of: "capitals", value: 7, unit: "mm" }, heights)).toBeCloseTo(10, 9);
    expect(emMmOf({ of: "small", value: 5, unit: "mm" }, { small: undefined, capitals: 0.7 })).toBeUndefined();
    expect(UNIT_MM.pt * 72).toBeCloseTo(25.4, 9);
  });
  test("a face's heights are those of its drawn letters", () => {
    const box = (letter: string) => plain.font.glyphExtents(plain.font.nominalGlyph(letter.codePointAt(0)!)!)!;
    expect(plain.heights.capitals).toBe(box("H").yBearing / plain.upem);
    expect(plain.heights.small).toBe(box("x").yBearing / plain.upem);
  });
});

describe("setting", () => {
  test("lines one below the other, letter spacing after each letter, line spacing", () => {
    const one = setText("fennel", plain);
    const spaced = setText("fennel", plain, { letterSpacing: 100 });
    expect(spaced.width - one.width).toBeCloseTo(6 * 0.1 * plain.upem, 6);
    const two = setText("fennel\nfennel", plain, { lineSpacing: 2000 });
    expect(two.lines.map(({ baseline }) => baseline)).toEqual([0, 2 * Math.max(plain.ascent + plain.descent, plain.upem)]);
    expect(two.width).toBe(one.width);
  });
  test("what the face lacks keeps its room and is named", () => {
    const set = setText("a अ b", plain);
    expect(set.missing).toEqual(["अ"]);
    expect(set.standIns).toHaveLength(1);
    expect(set.standIns[0]!.x).toBeGreaterThan(0);
    expect(set.glyphs.map(({ text }) => text).join("")).toBe("a  b");
    expect(missingWords(set.missing)).toBe("1 letter from another font: अ");
  });
  test("empty text, white space and unassigned characters", () => {
    expect(setText("", plain)).toMatchObject({ glyphs: [], standIns: [], missing: [], width: 0 });
    expect(setText(" \n ", plain).missing).toEqual([]);
    expect(setText("\u{EFFFE}", plain).missing).toHaveLength(1);
  });
  test("an emoji made of several characters is one stand-in", () => {
    const set = setText("👩‍🌾", plain);
    expect([set.standIns.map(({ text }) => text), set.glyphs.length]).toEqual([["👩‍🌾"], 0]);
  });
  test("the direction of a line is chosen by its first letter, or by a person", () => {
    expect([readsFromRight("12 שביל", "auto"), readsFromRight("Walk שביל", "auto"), readsFromRight("Walk", "rtl")]).toEqual([
      true,
      false,
      true,
    ]);
    // Unicode UAX #9: a full stop at the end of a line that reads from the right stands at its left.
    const set = setText("Walk.", plain, { direction: "rtl" });
    expect([...set.glyphs].sort((a, b) => a.x - b.x)[0]!.text).toBe(".");
  });
  test("10,000 characters are set", () => {
    expect(setText("Wild fennel ".repeat(833), plain).glyphs.length).toBe(9996);
  });
  test("capitals or small letters alone", () => {
    expect([isDrawnBy("capitals", "A"), isDrawnBy("small", "A"), isDrawnBy("small", "1"), isDrawnBy("all", "A")]).toEqual([
      true,
      false,
      true,
      true,
    ]);
    const set = setText("Aa", plain);
    const length = (letters: "all" | "capitals" | "small") => pathOf(set, plain, letters).length;
    expect(length("capitals") + length("small")).toBe(length("all"));
  });
  test("breaks between words, and keeps every word", () => {
    const text = "Wild fennel along the seed walk";
    const lines = broken(text, plain, {}, setText("Wild fennel", plain).width + 1);
    expect(lines.join(" ")).toBe(text);
    expect(lines.length).toBeGreaterThan(2);
    for (const line of lines) expect(setText(line, plain).width).toBeLessThanOrEqual(setText("Wild fennel", plain).width + 1);
  });
});

describe("drawing", () => {
  const layer = (features: Record<string, number> = {}): LayerWanted => ({ sha256: "a", face: 0, features, axes: {}, letters: "all" });
  const line = { text: "fi", letterSpacing: 0, lineSpacing: 1000, direction: "auto" as const, marks: true };
  test("a layer whose face cannot be had is null, the others are drawn", async () => {
    const { layers } = await drawLine({ ...line, layers: [layer(), { ...layer(), sha256: "gone" }] }, async ({ sha256 }) =>
      sha256 === "gone" ? undefined : plain,
    );
    expect([layers[0]!.path.length > 0, layers[1]]).toEqual([true, null]);
  });
  test("glyphs come by character, then the rest; each once", () => {
    const order = glyphOrder(plain);
    const [codes, glyphs] = [order.filter((_, i) => i % 2 === 0), order.filter((_, i) => i % 2 === 1)];
    const written = codes.filter((code) => code >= 0);
    expect(written).toEqual([...written].sort((a, b) => a - b));
    expect([new Set(glyphs).size, glyphs.length]).toEqual([glyphs.length, plain.glyphs - 1]);
  });
});

describe("register", () => {
  test("a face over itself lines up; another does not, and says where", () => {
    const set = setText("Fennel", plain);
    expect(driftWords(driftOf(set, set))).toBe("Every letter lines up.");
    const spaced = setText("Fennel", plain, { letterSpacing: 10 });
    const drift = driftOf(set, spaced)!;
    expect(drift.map(({ thousandths }) => thousandths)).toEqual([10, 20, 30, 40, 50]);
    expect(driftWords(drift)).toBe("“l” stands 50 units too far to the right; 5 letters do not line up.");
  });
  test("other letters cannot be compared", () => {
    expect(driftOf(setText("ab", plain), setText("abc", plain))).toBeUndefined();
    expect(driftWords(undefined)).toMatch(/cannot be compared/);
  });
});

describe("colours", () => {
  test("as people type them", () => {
    expect(["#B4400F", "b4400f", "#fa0", "red", "#12345"].map(colourOf)).toEqual(["#b4400f", "#b4400f", "#ffaa00", undefined, undefined]);
  });
  /** WCAG 2.2: black on white is 21 : 1; the success criterion's own examples of 4.5 : 1 (#767676 on white, from memory of "G18"). */
  test("contrast", () => {
    expect(contrast("#000000", "#ffffff")).toBeCloseTo(21, 9);
    expect(contrast("#767676", "#ffffff")).toBeCloseTo(4.54, 2);
    expect(contrastWords("#ffffff", "#ffffff", 10)).toMatch(/cannot be seen/);
    expect(contrastWords("#808080", "#ffffff", 3)).toMatch(/hard to read.*4\.5/);
    expect(contrastWords("#808080", "#ffffff", 10)).toBe("Contrast 3.9 : 1.");
  });
});

test("differences in words", () => {
  const one = { widthMm: 112, weight: 700, missing: ["א"], clearance: "Not cleared for sold goods", price: "€18.00" };
  const other = { widthMm: 100, weight: 400, missing: [], clearance: "Cleared for this job", price: "" };
  expect(differences(one, other)).toEqual([
    "12 % wider.",
    "Bolder (weight 700 against 400).",
    "1 letter from another font: א.",
    "Not cleared for sold goods.",
    "Its licence cost €18.00.",
  ]);
  expect(differences(other, { ...other, widthMm: 100.2 })).toEqual(["As wide."]);
});

describe("finding signs", () => {
  test("what is asked for", () => {
    expect(asked("U+2708")).toEqual({ kind: "signs", codePoints: [0x2708] });
    expect(asked("&#9992;")).toEqual({ kind: "signs", codePoints: [9992] });
    expect(asked("✈")).toEqual({ kind: "signs", codePoints: [0x2708] });
    expect(asked("R")).toEqual({ kind: "signs", codePoints: [0x52] });
    expect(asked("#12")).toEqual({ kind: "glyph", glyph: 12, alike: false });
    expect(asked("~12")).toEqual({ kind: "glyph", glyph: 12, alike: true });
    expect(asked("watering cans")).toEqual({ kind: "words", words: ["watering", "cans"] });
    expect(asked("dead")).toEqual({ kind: "words", words: ["dead"] });
    expect(asked("  ")).toEqual({ kind: "nothing" });
  });
  test("names taken apart", () => {
    expect(wordsOfName("wateringCan.alt")).toEqual(["watering", "can"]);
    expect(wordsOfName("icon-arrow_left2")).toEqual(["arrow", "left", "2"]);
    expect([wordsOfName("uni2708"), wordsOfName("glyph123"), wordsOfName(".notdef")]).toEqual([[], [], []]);
  });
  test("the whole name first, then its beginning, then a word of it; all words are needed", () => {
    const points = (name: string, keywords: string[] = []) => score(["can"], findable({ names: [name], keywords }));
    const order = [points("can"), points("canopy"), points("watering can"), points("toucan")];
    expect(order).toEqual([...order].sort((a, b) => b - a));
    expect(score(["watering", "horse"], findable({ names: ["watering can"], keywords: [] }))).toBe(0);
    expect(score(["cans"], findable({ names: ["watering can"], keywords: [] }))).toBeGreaterThan(0);
  });
});

describe("likeness", () => {
  const shape = (one: typeof plain, letter: string) => letterShape(one.outline(one.font.nominalGlyph(letter.codePointAt(0)!)!))!;
  test("a letter is itself, and likest the same letter of another face", () => {
    const letters = [..."aegknR"];
    for (const letter of letters) {
      const shapes = [shape(italic, letter), ...letters.map((other) => shape(plain, other))];
      expect([letter, letters[byLikeness(shapes, 0)[1]! - 1]]).toEqual([letter, letter]);
    }
    expect(distance(shape(plain, "R"), shape(plain, "R"))).toBe(0);
  });
  test("a square is all ink, nothing has no shape", () => {
    const square: Command[] = [
      { type: "M", values: [0, 0] },
      { type: "L", values: [0, 100] },
      { type: "L", values: [100, 100] },
      { type: "L", values: [100, 0] },
      { type: "Z", values: [] },
    ];
    const drawn = letterShape(square)!;
    for (const ink of drawn.ink) expect(ink).toBeCloseTo(1, 5);
    expect(letterShape([])).toBeUndefined();
  });
});

describe("features", () => {
  test("by plain names, and what is no choice left out", () => {
    expect(featureName("smcp")).toBe("Small capitals");
    expect(featureName("ss02", "Tall ascenders")).toBe("Set 2: Tall ascenders");
    expect(["smcp", "ss01", "liga", "kern", "mark", "locl", "init"].map(isChoice)).toEqual([true, true, true, false, false, false, false]);
  });
  test("the way to a glyph is one sentence", () => {
    const names = new Map([["ss02", "Set 2"]]);
    expect(waySentence({ features: ["ss02"], value: 1, input: "a" }, names)).toBe("Write a, turn on Set 2.");
    expect(waySentence({ features: ["salt"], value: 3, input: "a" }, names)).toBe("Write a, turn on Alternatives, number 3.");
    expect(waySentence({ features: [], value: 1, input: "home" }, names)).toBe("Write home. It appears by itself.");
    expect(waySentence({ features: [], value: 1, input: "\u200Dع" }, names)).toBe(
      "Write ع after a letter that joins. It appears by itself.",
    );
    expect(waySentence({ features: [], value: 1, input: "Ä", language: "de" }, names)).toBe(
      "Write Ä, in text marked as German. It appears by itself.",
    );
  });
});
