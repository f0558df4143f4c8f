// Zips that are documents: read whole in memory, within bounds, whatever their lists of contents claim (PKWARE APPNOTE 4.3.7, 4.3.12, 4.3.16).
import { crc32, inflateRawSync } from "node:zlib";
import { decodeName } from "./names.ts";

export interface SmallZipBounds {
  entries: number;
  /** Most bytes all entries together may unpack to. */
  bytes: number;
}
/** Why a zip was not read: it is damaged, or holds more than it may. */
export class SmallZipFault extends Error {
  readonly why: "damaged" | "large";
  constructor(why: "damaged" | "large") {
    super(`The zip is ${why}.`);
    this.why = why;
  }
}

/** The entries `wanted` names, by name; those that are locked or packed in unusual ways are left out. Throws a `SmallZipFault`. */
export function unpackSmallZip(
  bytes: Uint8Array,
  bounds: SmallZipBounds,
  wanted: (name: string) => boolean = () => true,
): Record<string, Uint8Array> {
  const buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const end = buffer.lastIndexOf("PK\x05\x06", undefined, "latin1");
  if (end < 0 || end + 22 > buffer.length) throw new SmallZipFault("damaged");
  const found: Record<string, Uint8Array> = Object.create(null) as Record<string, Uint8Array>;
  const entries = buffer.readUInt16LE(end + 10);
  if (entries > bounds.entries) throw new SmallZipFault("large");
  let room = bounds.bytes;
  let at = buffer.readUInt32LE(end + 16);
  for (let i = 0; i < entries; i++) {
    if (at + 46 > buffer.length || buffer.toString("latin1", at, at + 4) !== "PK\x01\x02") throw new SmallZipFault("damaged");
    const [flags, method, sum] = [buffer.readUInt16LE(at + 8), buffer.readUInt16LE(at + 10), buffer.readUInt32LE(at + 16)];
    const [packed, unpacked, local] = [buffer.readUInt32LE(at + 20), buffer.readUInt32LE(at + 24), buffer.readUInt32LE(at + 42)];
    const [nameBytes, extra, comment] = [buffer.readUInt16LE(at + 28), buffer.readUInt16LE(at + 30), buffer.readUInt16LE(at + 32)];
    const raw = buffer.subarray(at + 46, at + 46 + nameBytes);
    const { name } = decodeName({
      bytes: raw,
      utf8: (flags & 0x800) !== 0,
      extra: buffer.subarray(at + 46 + nameBytes, at + 46 + nameBytes + extra),
    });
    at += 46 + nameBytes + extra + comment;
    if (name.endsWith("/") || (flags & 1) !== 0 || (method !== 0 && method !== 8) || !wanted(name)) continue;
    if (unpacked > room) throw new SmallZipFault("large");
    if (local + 30 > buffer.length) throw new SmallZipFault("damaged");
    const data = local + 30 + buffer.readUInt16LE(local + 26) + buffer.readUInt16LE(local + 28);
    const stored = buffer.subarray(data, data + packed);
    if (stored.length < packed) throw new SmallZipFault("damaged");
    const content = method === 0 ? stored : inflated(stored, unpacked);
    if (content.length !== unpacked || crc32(content) !== sum) throw new SmallZipFault("damaged");
    room -= content.length;
    found[name] = content;
  }
  return found;
}

/** No more is unpacked than is claimed, and what is claimed was held against what may be. */
function inflated(packed: Uint8Array, claimed: number): Uint8Array {
  try {
    return inflateRawSync(packed, { maxOutputLength: Math.max(1, claimed) });
  } catch {
    throw new SmallZipFault("damaged");
  }
}
