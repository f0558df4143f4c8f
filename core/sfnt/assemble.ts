// Puts tables together into a font file (OpenType specification, "Organization of an OpenType Font").
import { CHECKSUM_MAGIC, tableChecksum } from "./checksum.ts";

const padded = (length: number): number => (length + 3) & ~3;

/**
 * Writes a single font. Tables are stored in tag order, each on a four-byte boundary, their bytes unchanged but for
 * `head.checksumAdjustment`. `flavour` is the file's first four bytes: "\0\x01\0\0" or "OTTO".
 */
export function assembleSfnt(flavour: string, tables: ReadonlyMap<string, Uint8Array>): Uint8Array {
  const tags = [...tables.keys()].sort();
  const headerBytes = 12 + 16 * tags.length;
  const file = new Uint8Array(tags.reduce((sum, tag) => sum + padded(tables.get(tag)!.length), headerBytes));
  const view = new DataView(file.buffer);
  const entrySelector = Math.floor(Math.log2(tags.length));
  const searchRange = 16 * 2 ** entrySelector;
  for (let i = 0; i < 4; i++) file[i] = flavour.charCodeAt(i);
  view.setUint16(4, tags.length);
  view.setUint16(6, searchRange);
  view.setUint16(8, entrySelector);
  view.setUint16(10, 16 * tags.length - searchRange);
  let offset = headerBytes;
  let headAt: number | undefined;
  for (const [i, tag] of tags.entries()) {
    const bytes = tables.get(tag)!;
    file.set(bytes, offset);
    if (tag === "head" && bytes.length >= 12) {
      headAt = offset;
      view.setUint32(offset + 8, 0); // checksumAdjustment counts as zero while sums are taken
    }
    const record = 12 + 16 * i;
    for (let k = 0; k < 4; k++) file[record + k] = tag.charCodeAt(k);
    view.setUint32(record + 4, tableChecksum(file.subarray(offset, offset + bytes.length)));
    view.setUint32(record + 8, offset);
    view.setUint32(record + 12, bytes.length);
    offset += padded(bytes.length);
  }
  if (headAt !== undefined) view.setUint32(headAt + 8, (CHECKSUM_MAGIC - tableChecksum(file)) >>> 0);
  return file;
}
