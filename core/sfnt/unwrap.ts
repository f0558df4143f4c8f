// Takes a web font out of its packing: the same tables, byte for byte, in a file that computers install.
import { ProblemError } from "../problem.ts";
import { openContainer, tableBytes, type Woff2Unpacker } from "./container.ts";

const padded = (length: number): number => (length + 3) & ~3;

/**
 * The installable file inside a WOFF (1.0 or 2.0). Tables keep their bytes, sums and order of storage (WOFF 1.0, section 5:
 * the packed order is the original one), so `head.checksumAdjustment` stays true. Throws a `ProblemError` ("not-a-web-font", or the
 * container's own).
 */
export function unwrapWebFont(bytes: Uint8Array, unpackWoff2?: Woff2Unpacker): { bytes: Uint8Array; ending: ".ttf" | ".otf" } {
  const file = openContainer(bytes, unpackWoff2);
  const face = file.faces[0]!;
  const ending = face.flavour === "OTTO" ? ".otf" : ".ttf";
  if (file.container === "woff2") return { bytes: file.bytes, ending };
  if (file.container !== "woff") {
    throw new ProblemError("not-a-web-font", "This font is not packed for web pages.", "Use it as it is.");
  }
  const stored = [...face.tables].sort((a, b) => a.offset - b.offset);
  const listed = [...face.tables].sort((a, b) => (a.tag < b.tag ? -1 : 1));
  const headerBytes = 12 + 16 * stored.length;
  const out = new Uint8Array(stored.reduce((sum, table) => sum + padded(table.length), headerBytes));
  const view = new DataView(out.buffer);
  const offsets = new Map<string, number>();
  let at = headerBytes;
  for (const table of stored) {
    out.set(tableBytes(file, table), at);
    offsets.set(table.tag, at);
    at += padded(table.length);
  }
  const entrySelector = Math.floor(Math.log2(stored.length));
  const searchRange = 16 * 2 ** entrySelector;
  const ascii = (text: string, where: number) => {
    for (let i = 0; i < 4; i++) out[where + i] = text.charCodeAt(i);
  };
  ascii(face.flavour, 0);
  view.setUint16(4, stored.length);
  view.setUint16(6, searchRange);
  view.setUint16(8, entrySelector);
  view.setUint16(10, 16 * stored.length - searchRange);
  for (const [i, table] of listed.entries()) {
    const record = 12 + 16 * i;
    ascii(table.tag, record);
    view.setUint32(record + 4, table.checksum);
    view.setUint32(record + 8, offsets.get(table.tag)!);
    view.setUint32(record + 12, table.length);
  }
  return { bytes: out, ending };
}
