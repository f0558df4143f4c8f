// Reading numbers as the OpenType specification stores them ("Data types"), within a window and a limit of work.
import { expect, test } from "@jest/globals";
import { ReadingBudget, View } from "./view.ts";

const view = (...bytes: number[]): View => new View(Uint8Array.from(bytes), '"test" table', new ReadingBudget(100));

test("numbers are big-endian, signed where the type is", () => {
  const bytes = view(0xff, 0xfe, 0x01, 0x80, 0x00, 0x00, 0x00, 0x02);
  expect([bytes.u8(0), bytes.u16(0), bytes.i16(0), bytes.u24(0), bytes.u32(0), bytes.i32(0)]).toEqual([
    255, 65534, -2, 0xfffe01, 0xfffe0180, -130688,
  ]);
  // 1.5 in 16.16, and a tag of four letters.
  expect([view(0, 1, 0x80, 0).fixed(0), view(0x47, 0x53, 0x55, 0x42).tag(0)]).toEqual([1.5, "GSUB"]);
});
test("dates count seconds of 64 bits", () => {
  expect(view(0, 0, 0, 0, 0xe0, 0, 0, 1).longDateTime(0)).toBe(0xe0000001);
  expect(view(0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff).longDateTime(0)).toBe(-1);
});
test("what lies outside of the window is refused with the table's name", () => {
  const bytes = view(1, 2, 3);
  for (const read of [() => bytes.u32(0), () => bytes.u8(3), () => bytes.u8(-1), () => bytes.bytes(1, 3), () => bytes.part(2, 2)])
    expect(read).toThrow('The font file ends before its "test" table does.');
  expect(bytes.part(1).u16(0)).toBe(0x0203);
});
test("a window of a window reads from the same limit of work, and copies cost what reading them would", () => {
  const bytes = new View(new Uint8Array(400), "test", new ReadingBudget(60));
  const inner = bytes.part(0, 200);
  inner.copied(0, 200);
  expect(() => inner.copied(0, 200)).toThrow("“Reading work”");
});
