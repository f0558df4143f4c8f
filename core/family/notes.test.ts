// What is worth knowing of styles and families, and what tells two versions apart.
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, test } from "@jest/globals";
import { unzipSync } from "fflate";
import { scriptsOf } from "../coverage/scripts.ts";
import { charactersOf, holdsAll, missingFrom } from "../coverage/text.ts";
import { inspectFont, type Inspection } from "../inspect.ts";
import { kindsOf } from "./kind.ts";
import { differenceWords, type Kin } from "./kinship.ts";
import { Company, familyNotes, styleFacts } from "./notes.ts";

const downloads = join(process.cwd(), "build", "demo", "downloads");
/** The fonts of a demo archive by file name. */
function fonts(archive: string): Map<string, Inspection & Kin> {
  const files = unzipSync(readFileSync(join(downloads, archive)));
  const found = new Map<string, Inspection & Kin>();
  for (const [path, bytes] of Object.entries(files)) {
    if (!/\.(ttf|otf)$/.test(path)) continue;
    const result = inspectFont(bytes, path);
    if (result.ok) found.set(path.split("/").at(-1)!, { ...result.value[0]!, sha256: path });
  }
  return found;
}
const one = (archive: string, name: string): Inspection & Kin => fonts(archive).get(name)!;

describe("kinds and capitals, read from the outlines", () => {
  test.each<[string, string, string, string[]]>([
    ["trellis-fair.zip", "Trellis Fair.ttf", "outlined-capitals", ["outlined"]],
    ["Seedbox-Layered.zip", "Seedbox Block.ttf", "capitals-only", ["capitals"]],
    ["garden-note.zip", "GardenNote.otf", "filled", ["text"]],
    ["garden-note.zip", "GardenNote.ttf", "filled", ["text"]],
    ["seedmarks.zip", "Seedmarks One.ttf", "none", ["symbols"]],
    ["shvil-hebrew.zip", "ShvilText-Regular.ttf", "none", ["text"]],
    ["fernhollow-text-family.zip", "FernhollowTextVF.ttf", "filled", ["variable", "text"]],
  ])("%s, %s: %s", (archive, name, capitals, kinds) => {
    const font = one(archive, name);
    expect([font.capitals, kindsOf(font)]).toEqual([capitals, kinds]);
  });
});

describe("notes", () => {
  test("of a face and its shade name one another", () => {
    const all = [...fonts("Seedbox-Layered.zip").values()];
    const [block, shade] = all.sort((a, b) => a.family.length - b.family.length);
    expect(familyNotes([block!], new Company(all))).toContain(
      "Made to be laid over Seedbox Block Shade, in another colour: letter by letter as wide.",
    );
    expect(familyNotes([shade!], new Company(all))).toContain(
      "Made to be laid over Seedbox Block, in another colour: letter by letter as wide.",
    );
  });
  test("of a variable font give its axes", () => {
    expect(familyNotes([one("fernhollow-text-family.zip", "FernhollowTextVF.ttf")]).join()).toMatch(/Variable: weight 100 to 900/);
  });
  test("of ordinary styles say nothing", () => {
    expect(familyNotes([one("garden-note.zip", "GardenNote.ttf")])).toEqual([]);
  });
  test("of a style give its four-style names where they differ", () => {
    const all = fonts("Almanac Field (complete).zip");
    expect(styleFacts(all.get("AlmanacField-LightItalic.ttf")!)).toEqual(["with four styles: Almanac Field Light, Italic"]);
    expect(styleFacts(all.get("AlmanacField-Bold.ttf")!)).toEqual([]);
    expect([...all.values()].map((font) => font.styleWords.weight).sort()).toEqual([
      100,
      100,
      200,
      200,
      300,
      300,
      400,
      500,
      500,
      600,
      600,
      700,
      700,
      800,
      800,
      900,
      900,
      undefined,
    ]);
  });
  test("of width, optical size, named styles and colour", () => {
    const font = one("garden-note.zip", "GardenNote.ttf");
    const instances = ["Light", "Regular", "Bold", "Black", "Heavy"].map((name) => ({ name, at: {} }));
    expect(styleFacts({ ...font, width: 3, opticalPt: [8, 12], instances, colour: ["COLR"] })).toEqual([
      "condensed",
      "for 8 to 12 pt",
      "named styles Light, Regular, Bold, Black …",
      "coloured (COLR)",
    ]);
    expect(styleFacts({ ...font, styleWords: { opticalSize: "caption", rest: [] } })).toEqual(["for caption sizes"]);
  });
});

test("what tells two versions apart is put into words", () => {
  const font = one("garden-note.zip", "GardenNote.ttf");
  expect(differenceWords(font, font)).toBe("");
  const newer = { ...font, version: "Version 2.000", codepoints: font.codepoints + 1, outlines: "CFF" as const };
  expect(differenceWords(newer, font)).toBe(
    "Version 2.000 here, Version 1.000 on the shelf; 1 character more; CFF outlines instead of TrueType",
  );
  const wider = {
    ...font,
    codepoints: font.codepoints - 3,
    advances: font.advances.map((advance) => advance + 50),
    axes: [{ tag: "wght", name: "Weight", min: 1, default: 4, max: 9 }],
  };
  expect(differenceWords(wider, font)).toBe("3 characters fewer; letters of other widths; variable");
});

describe("scripts and characters", () => {
  const latin = [0x20, 0x7e];
  test("a script counts when its alphabet is there, a letter in ten aside", () => {
    expect(scriptsOf(latin)).toEqual(["latin"]);
    expect(scriptsOf([0x41, 0x5a])).toEqual([]);
    expect(scriptsOf([0x41, 0x58, 0x61, 0x7a])).toEqual(["latin"]);
    expect(scriptsOf([...latin, 0x391, 0x3c9, 0x410, 0x44f, 0x5d0, 0x5ea])).toEqual(["latin", "greek", "cyrillic", "hebrew"]);
    expect(scriptsOf([])).toEqual([]);
  });
  test("characters of a text are counted once, spaces and joiners not at all", () => {
    expect(charactersOf("a b\u200da\n")).toEqual(["a", "b"]);
    // A letter and its accent are one character where Unicode has one.
    expect(charactersOf("e\u0301")).toEqual(["é"]);
    expect(missingFrom(latin, "Käse 4.50 €")).toEqual(["ä", "€"]);
    expect([holdsAll(latin, [0x41, 0x42]), holdsAll(latin, [0x41, 0xe4]), holdsAll(latin, [])]).toEqual([true, false, true]);
  });
});
