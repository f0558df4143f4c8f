// Zips of small whole fonts that all differ: downloads to be brought under hard conditions.
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { zipSync } from "fflate";
import { assembleSfnt } from "../../core/sfnt/assemble.ts";
import { openContainer, tableBytes } from "../../core/sfnt/container.ts";

/** So many fonts, each of a family of its own, whose bytes do not pack. */
export function makeFontZip(fonts: number, random: () => number): Uint8Array {
  const file = openContainer(readFileSync(join(process.cwd(), "build", "demo", "built-in", "AsterPlain-Regular.ttf")));
  const face = file.faces[0]!;
  const tables = new Map(face.tables.map((record) => [record.tag, Uint8Array.from(tableBytes(file, record))]));
  const files: Record<string, [Uint8Array, { level: 0 }]> = {};
  for (let i = 0; i < fonts; i++) {
    const name = `Field ${Math.floor(random() * 2 ** 31)}`;
    const utf16 = [...name].flatMap((sign) => [0, sign.charCodeAt(0)]);
    const u16 = (...values: number[]) => values.flatMap((value) => [value >> 8, value & 0xff]);
    const records = [1, 4, 6].flatMap((id) => u16(3, 1, 0x409, id, utf16.length, 0));
    tables.set("name", Uint8Array.from([...u16(0, 3, 6 + 36), ...records, ...utf16]));
    // A table nobody reads, to give each its size.
    tables.set(
      "xtra",
      Uint8Array.from({ length: 40_000 }, () => random() * 256),
    );
    files[`${name}.ttf`] = [assembleSfnt(face.flavour, tables), { level: 0 }];
  }
  return zipSync(files);
}
