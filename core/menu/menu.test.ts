import { describe, expect, test } from "@jest/globals";
import { findingSteps, menuEntries, predictPlace, type MenuFont } from "./predict.ts";
import { cellState, type CellFacts } from "./state.ts";

const font = (family: string, style: string, legacyFamily = family, legacyStyle = style): MenuFont => ({
  id: `${family}/${style}`,
  family,
  style,
  legacyFamily,
  legacyStyle,
  fullName: style === "Regular" ? family : `${family} ${style}`,
});
const fonts = [
  font("Zinnia", "Regular"),
  font("éclair", "Regular"),
  font("Furrow", "Light", "Furrow Light", "Regular"),
  font("Furrow", "Bold Italic", "Furrow", "Bold Italic"),
  font("Furrow", "Regular"),
  font("fern 2", "Regular"),
  font("Fern", "Regular"),
  font("שביל", "Regular"),
];

describe("font lists", () => {
  test("are in Unicode's order, not in code points' (hand-worked)", () => {
    expect(menuEntries(fonts, "families")).toEqual(["éclair", "Fern", "fern 2", "Furrow", "Zinnia", "שביל"]);
    expect(menuEntries(fonts, "four-style")).toEqual(["éclair", "Fern", "fern 2", "Furrow", "Furrow Light", "Zinnia", "שביל"]);
    expect(menuEntries(fonts, "full-names")).toContain("Furrow Bold Italic");
  });
  test("place a style under its kind of name, with its neighbours", () => {
    const light = fonts[2]!;
    expect(predictPlace(light, fonts, "families")).toEqual({
      menuName: "Furrow",
      within: "Light",
      before: ["Fern", "fern 2"],
      after: ["Zinnia", "שביל"],
      type: "Fu",
    });
    expect(predictPlace(light, fonts, "four-style")).toMatchObject({ menuName: "Furrow Light", within: "", before: ["fern 2", "Furrow"] });
    expect(predictPlace(fonts[3]!, fonts, "four-style")).toMatchObject({ menuName: "Furrow", within: "Bold and Italic" });
    expect(predictPlace(fonts[3]!, fonts, "full-names").within).toBe("");
  });
  test("need the shortest text that no other entry begins with", () => {
    expect(predictPlace(fonts[0]!, fonts, "families").type).toBe("Z");
    // "Fern" begins "fern 2" too, so only the whole name will do.
    expect(predictPlace(fonts[6]!, fonts, "families").type).toBe("Fern");
    expect(predictPlace(fonts[5]!, fonts, "families").type).toBe("fern 2");
  });
  test("steps name the program and come in order", () => {
    const place = predictPlace(fonts[3]!, fonts, "four-style");
    expect(findingSteps("Letter Desk", place, { lists: "four-style", readsWhen: "start" }, true)).toEqual([
      "Close Letter Desk completely and open it again.",
      "Open the font list and type “Furrow”.",
      "Choose “Furrow”.",
      "Switch on Bold and Italic.",
    ]);
  });
});

describe("a cell", () => {
  const facts: CellFacts = {
    program: "Letter Desk",
    device: "Workshop laptop",
    readsWhen: "start",
    readable: [{ on: true, visible: true, since: 100 }],
    elsewhere: 0,
    sighting: undefined,
    openedAt: undefined,
  };
  test.each<[string, Partial<CellFacts>, string]>([
    ["was never placed", { readable: [] }, "not-here"],
    ["lies in a folder the program does not read", { readable: [], elsewhere: 1 }, "not-here"],
    ["is switched off", { readable: [{ on: false, visible: false, since: 1 }] }, "off"],
    ["is not in the device's font cache", { readable: [{ on: true, visible: false, since: 1 }] }, "due"],
    ["is in a program that reads no folder", { readable: [], elsewhere: 1, readsWhen: "by-hand" }, "load-by-hand"],
    ["was loaded by hand and kept", { readsWhen: "by-hand" }, "due"],
    ["was placed while the program was open", { openedAt: 50 }, "reopen"],
    ["was placed and nobody knows when the program started", {}, "reopen"],
    ["was placed before the program started", { openedAt: 150 }, "due"],
    ["is in a program that notices by itself", { readsWhen: "always" }, "due"],
    ["was seen after placing", { sighting: { result: "seen", at: 200, instead: [] } }, "seen"],
    ["was seen, then placed again", { sighting: { result: "seen", at: 50, instead: [] }, openedAt: 20 }, "reopen"],
    ["was swapped after placing", { sighting: { result: "swapped", at: 200, instead: ["Aster"] } }, "swapped"],
    ["was swapped and is not there", { readable: [], sighting: { result: "swapped", at: 9, instead: ["Aster"] } }, "swapped"],
    ["was seen and taken off since", { readable: [], sighting: { result: "seen", at: 9, instead: [] } }, "not-here"],
  ])("of a style that %s", (_what, change, state) => {
    const cell = cellState({ ...facts, ...change });
    expect(cell.state).toBe(state);
    expect(cell.reason).toMatch(/\.$/);
  });
});
