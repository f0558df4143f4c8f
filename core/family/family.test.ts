import { expect, test } from "@jest/globals";
import { readEmbedding } from "../clearance/embedding.ts";
import { hasLatin, isRightToLeftOnly, missingFrom } from "../coverage/text.ts";
import { rangesOf } from "../sfnt/cmap.ts";
import { sizeWords } from "../words/words.ts";
import { familyKey, groupFamilies, representative } from "./group.ts";

const face = (family: string, weight: number, italic = false, width = 5) => ({
  family,
  weight,
  italic,
  width,
  style: `${weight}${italic ? " Italic" : ""}`,
});

test("families are grouped whatever the case and spaces, styles light to heavy", () => {
  const groups = groupFamilies([
    face("Furrow", 700),
    face("Aster", 400),
    face("furrow ", 400, true),
    face("Furrow", 400),
    face("Furrow", 400, false, 3),
  ]);
  expect(groups.map((group) => [group.family, group.faces.map((one) => [one.weight, one.italic, one.width])])).toEqual([
    ["Aster", [[400, false, 5]]],
    [
      "Furrow",
      [
        [400, false, 5],
        [400, true, 5],
        [700, false, 5],
        [400, false, 3],
      ],
    ],
  ]);
  expect(familyKey("  Fern\u00a0 Hollow ")).toBe("fern hollow");
});
test("the regular style stands for its family, else the nearest upright one", () => {
  expect(representative([face("F", 700), face("F", 400, true), face("F", 300)])).toMatchObject({ weight: 300, italic: false });
  expect(representative([])).toBeUndefined();
});

test("missing characters are told once, in order; spaces and joiners need none", () => {
  const ranges = rangesOf([..."abcé"].map((character) => character.codePointAt(0)!));
  expect(missingFrom(ranges, "a b\u200d x e\u0301 xy")).toEqual(["x", "y"]);
});
test("scripts are told by their letters", () => {
  const span = (from: number, to: number) => rangesOf(Array.from({ length: to - from + 1 }, (_, i) => from + i));
  const hebrew = span(0x5d0, 0x5ea);
  expect([hasLatin(hebrew), isRightToLeftOnly(hebrew)]).toEqual([false, true]);
  expect([hasLatin(span(0x41, 0x7a)), isRightToLeftOnly([...span(0x41, 0x7a), ...hebrew])]).toEqual([true, false]);
});

// OpenType specification, OS/2, "fsType": bits 1 to 3; the least restrictive counts where several are set.
test.each([
  [0x0000, "installable", false, false],
  [0x0002, "restricted", false, false],
  [0x0004, "preview-and-print", false, false],
  [0x0008, "editable", false, false],
  [0x000c, "editable", false, false],
  [0x0006, "preview-and-print", false, false],
  [0x0108, "editable", true, false],
  [0x0200, "installable", false, true],
])("fsType %i is %s", (fsType, level, noSubsetting, bitmapOnly) => {
  expect(readEmbedding(fsType)).toEqual({ level, noSubsetting, bitmapOnly });
});

test.each([
  [0, "0 bytes"],
  [2048, "2 kB"],
  [5 * 1024 ** 2, "5.0 MB"],
  [3 * 1024 ** 3, "3.0 GB"],
])("%i is said as %s", (bytes, words) => {
  expect(sizeWords(bytes)).toBe(words);
});
