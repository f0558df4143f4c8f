import { expect, test, describe } from "@jest/globals";
import { attempt, ProblemError } from "../problem.ts";
import { assembleSfnt } from "./assemble.ts";
import { CHECKSUM_MAGIC, tableChecksum } from "./checksum.ts";
import { Cmap, countRanges, inRanges, rangesOf } from "./cmap.ts";
import { openContainer, tableBytes } from "./container.ts";
import { Names } from "./name.ts";
import { readOs2 } from "./os2.ts";
import { View } from "./view.ts";

const u16 = (...values: number[]): number[] => values.flatMap((value) => [(value >> 8) & 255, value & 255]);
const u32 = (...values: number[]): number[] => values.flatMap((value) => [...u16(value >>> 16), ...u16(value & 0xffff)]);
const view = (bytes: number[]): View => new View(Uint8Array.from(bytes), "test");

describe("view", () => {
  test("reads big-endian numbers of every size", () => {
    const v = view([0xff, 0xfe, 0x80, 0x00, 0x00, 0x01]);
    expect([v.u8(0), v.u16(0), v.i16(0), v.u24(0), v.u32(1)]).toEqual([255, 0xfffe, -2, 0xfffe80, 0xfe800000]);
    expect(v.fixed(2)).toBeCloseTo(-32768 + 1 / 65536);
  });
  test("a read past the end says the file is cut off", () => {
    expect(() => view([1, 2]).u32(0)).toThrow(ProblemError);
    expect(() => view([1, 2]).u8(-1)).toThrow(ProblemError);
  });
  test("looks at the same bytes, not at a copy", () => {
    const bytes = Uint8Array.of(1, 2, 3, 4);
    const part = new View(bytes, "test").part(2);
    bytes[2] = 9;
    expect(part.u8(0)).toBe(9);
  });
});

function cmapWith(subtable: number[], platform = 3, encoding = 10): Cmap {
  return new Cmap(view([...u16(0, 1, platform, encoding), ...u32(12), ...subtable]));
}
const characters = (cmap: Cmap): [number, number][] => {
  const found: [number, number][] = [];
  cmap.each((code, glyph) => found.push([code, glyph]));
  return found;
};

describe("cmap formats", () => {
  test("0: one byte, read as Mac characters under platform 1", () => {
    const glyphs = Array.from({ length: 256 }, (_, i) => (i === 0x8a ? 7 : 0));
    const cmap = cmapWith([...u16(0, 262, 0), ...glyphs], 1, 0);
    // 0x8A is "ä" in Mac OS Roman (Unicode mapping table APPLE/ROMAN.TXT; value from memory).
    expect(characters(cmap)).toEqual([[0xe4, 7]]);
    expect(cmap.glyph(0xe4)).toBe(7);
  });
  test("4: deltas, glyph arrays and the closing segment", () => {
    // A–C by delta to 10–12; a–b by array to 20 and nothing.
    const cmap = cmapWith(
      [
        ...u16(4, 0, 0, 6, 0, 0, 0),
        ...u16(0x43, 0x62, 0xffff),
        0,
        0,
        ...u16(0x41, 0x61, 0xffff),
        ...u16(10 - 0x41, 0, 1),
        ...u16(0, 4, 0),
        ...u16(20, 0),
      ],
      3,
      1,
    );
    expect(characters(cmap)).toEqual([
      [0x41, 10],
      [0x42, 11],
      [0x43, 12],
      [0x61, 20],
    ]);
    expect([cmap.glyph(0x42), cmap.glyph(0x62), cmap.glyph(0x44), cmap.glyph(0x10041)]).toEqual([11, 0, 0, 0]);
  });
  test("6 and 10: a plain array", () => {
    expect(characters(cmapWith([...u16(6, 0, 0, 0x30, 2), ...u16(5, 6)], 3, 1))).toEqual([
      [0x30, 5],
      [0x31, 6],
    ]);
    expect(characters(cmapWith([...u16(10, 0), ...u32(0, 0, 0x1f600, 1), ...u16(9)]))).toEqual([[0x1f600, 9]]);
  });
  test("12 and 13: groups that run along, and groups of one glyph", () => {
    expect(characters(cmapWith([...u16(12, 0), ...u32(0, 0, 1, 0x1f600, 0x1f601, 3)]))).toEqual([
      [0x1f600, 3],
      [0x1f601, 4],
    ]);
    expect(characters(cmapWith([...u16(13, 0), ...u32(0, 0, 1, 0x41, 0x42, 3)]))).toEqual([
      [0x41, 3],
      [0x42, 3],
    ]);
  });
  test("overlapping groups are visited once", () => {
    const huge = Array.from({ length: 1000 }, () => u32(0, 0x10ffff, 1)).flat();
    let visits = 0;
    cmapWith([...u16(12, 0), ...u32(0, 0, 1000), ...huge]).each(() => visits++);
    expect(visits).toBe(0x110000);
  });
  test("a count that does not fit is a problem, not a loop", () => {
    expect(() => cmapWith([...u16(12, 0), ...u32(0, 0, 0xffffffff)])).toThrow(/promises more entries/);
    expect(() => cmapWith(u16(4, 0, 0, 0xfffe, 0, 0, 0), 3, 1)).toThrow(/promises more entries/);
  });
  test("full Unicode is preferred to the basic plane, and symbols are known as such", () => {
    const both = new Cmap(
      view([
        ...u16(0, 2),
        ...u16(3, 1),
        ...u32(20),
        ...u16(3, 10),
        ...u32(32),
        ...u16(6, 0, 0, 0x41, 1, 1),
        ...u16(12, 0),
        ...u32(0, 0, 1, 0x42, 0x42, 1),
      ]),
    );
    expect(characters(both)).toEqual([[0x42, 1]]);
    expect(cmapWith(u16(6, 0, 0, 0xf041, 1, 1), 3, 0).symbol).toBe(true);
  });
});

test("ranges are ascending, joined and searchable", () => {
  const ranges = rangesOf([5, 3, 4, 9, 4]);
  expect(ranges).toEqual([3, 5, 9, 9]);
  expect(countRanges(ranges)).toBe(4);
  expect([2, 3, 5, 6, 9, 10].map((code) => inRanges(ranges, code))).toEqual([false, true, true, false, true, false]);
});

describe("names", () => {
  const table = (records: { ids: [number, number, number, number]; bytes: number[] }[], extra = 0): View => {
    const storage = 6 + 12 * records.length;
    let offset = 0;
    const heads = records.flatMap(({ ids, bytes }) => {
      const head = u16(...ids, bytes.length + extra, offset);
      offset += bytes.length;
      return head;
    });
    return view([...u16(0, records.length, storage), ...heads, ...records.flatMap((record) => record.bytes)]);
  };
  const utf16 = (text: string): number[] => [...text].flatMap((character) => u16(character.charCodeAt(0)));
  test("English is preferred, Windows before Mac", () => {
    const names = new Names(
      table([
        { ids: [1, 0, 0, 1], bytes: [0x4d, 0x8a] },
        { ids: [3, 1, 0x407, 1], bytes: utf16("Gärten") },
        { ids: [3, 1, 0x809, 1], bytes: utf16("Gardens") },
      ]),
    );
    expect(names.get(1)).toBe("Gardens");
    expect(names.all(1).map((record) => record.text)).toEqual(["Gardens", "Mä", "Gärten"]);
  });
  test("another language serves when there is no English", () => {
    expect(new Names(table([{ ids: [3, 1, 0x40d, 1], bytes: utf16("שביל") }])).get(1)).toBe("שביל");
  });
  test("records outside the table are counted and passed over", () => {
    const names = new Names(table([{ ids: [3, 1, 0x409, 1], bytes: utf16("X") }], 500));
    expect([names.outside, names.get(1)]).toEqual([1, undefined]);
  });
});

test("OS/2 leaves out what its version or its length lacks", () => {
  const short = readOs2(view([...u16(0, 500, 400, 5), ...Array<number>(60).fill(0)]));
  expect([short.usWeightClass, short.lineMetrics, short.codePages, short.heights]).toEqual([400, undefined, undefined, undefined]);
  const full = readOs2(view([...u16(4, 500, 700, 5), ...Array<number>(88).fill(0)]));
  expect(full.heights?.sCapHeight).toBe(0);
  expect(full.opticalSize).toBeUndefined();
});

describe("checksums and assembly", () => {
  test("sums are of big-endian words, the rest padded with zeros", () => {
    expect(tableChecksum(Uint8Array.of(0, 0, 0, 1, 0xff, 0xff, 0xff, 0xff, 1))).toBe(0x01000000);
  });
  test("an assembled font's whole sum is the constant, and its tables are unchanged", () => {
    const head = new Uint8Array(54).fill(7);
    const odd = Uint8Array.of(1, 2, 3);
    const file = assembleSfnt(
      "OTTO",
      new Map([
        ["odd ", odd],
        ["head", head],
      ]),
    );
    expect(tableChecksum(file)).toBe(CHECKSUM_MAGIC);
    const container = openContainer(file);
    expect(container.faces[0]!.tables.map((table) => table.tag)).toEqual(["head", "odd "]);
    const stored = container.faces[0]!.tables[1]!;
    expect([...file.subarray(stored.offset, stored.offset + stored.length)]).toEqual([1, 2, 3]);
  });
});

test("a collection's faces are read each by its own directory (OpenType specification, Font Collections)", () => {
  const fonts = ["one", "two!"].map((text) => assembleSfnt("OTTO", new Map([["test", new TextEncoder().encode(text)]])));
  const starts = [20, 20 + fonts[0]!.length];
  const bytes = Uint8Array.from([...Buffer.from("ttcf"), ...u32(0x10000, 2, ...starts), ...fonts.flatMap((font) => [...font])]);
  // Offsets count from the file's start, not from the face's directory.
  for (const start of starts) new DataView(bytes.buffer).setUint32(start + 20, start + 28);
  const file = openContainer(bytes);
  const texts = file.faces.map((face) => new TextDecoder().decode(tableBytes(file, face.tables[0]!)));
  expect([file.container, texts]).toEqual(["collection", ["one", "two!"]]);
});

test.each([
  ["nothing", [], "not-a-font"],
  ["text", [...Buffer.from("This is a text about fonts.")], "not-a-font"],
  ["Type 1", [...Buffer.from("%!FontType1-1.0: Seed 001.001")], "font-format-old"],
  ["Type 1, packed", [0x80, 0x01, ...Array<number>(20).fill(0)], "font-format-old"],
  ["Type 1 measurements", [...Buffer.from("StartFontMetrics 4.1")], "font-format-old"],
  // Version 0x0100 and the file's size, little-endian.
  ["Type 1 measurements for printers", [0, 1, 200, 0, 0, 0, ...Array<number>(194).fill(0)], "font-format-old"],
  // "LP" at byte 34 (Embedded OpenType, W3C member submission).
  ["an old web font", [...Array<number>(34).fill(0), 0x4c, 0x50, ...Array<number>(60).fill(0)], "font-format-old"],
  // A resource fork starts with the offset of its data, 256.
  ["a resource fork", [0, 0, 1, 0, ...Array<number>(400).fill(1)], "font-format-old"],
  ["an SVG", [...Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"></svg>')], "font-format-old"],
  ["a directory without tables", [0, 1, 0, 0, ...u16(0, 0, 0, 0)], "font-directory"],
  ["a cut directory", [0, 1, 0, 0, ...u16(9, 0, 0, 0)], "font-truncated"],
  ["a collection of a billion", [...Buffer.from("ttcf"), ...u32(0x10000, 0x3fffffff)], "font-directory"],
])("%s is refused in words", (_what, bytes, code) => {
  const result = attempt(() => openContainer(Uint8Array.from(bytes as number[])), { code: "unforeseen", message: "", next: "" });
  expect(result).toMatchObject({ ok: false, problem: { code, message: expect.stringMatching(/\.$/), next: expect.stringMatching(/\.$/) } });
});
