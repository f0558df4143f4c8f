// Zips whose list of contents is cut off or damaged: entries are found by the headers that stand before each (PKWARE APPNOTE 4.3.7), as
// downloads that broke off have them.
import { closeSync, createReadStream, fstatSync, openSync, readSync } from "node:fs";
import { Readable } from "node:stream";
import { createInflateRaw } from "node:zlib";
import { ProblemError, type Problem } from "../problem.ts";
import type { Limits } from "./limits.ts";
import { decodeName } from "./names.ts";
import type { ArchiveEntry, ArchiveReader } from "./reader.ts";

const HEADER = Buffer.from("PK\x03\x04", "latin1");
const CHUNK = 1024 * 1024;
const SIZES_FOLLOW = 1 << 3;

interface Header {
  name: string;
  guessed: string;
  locked: boolean;
  method: number;
  crc32: number;
  packed: number;
  unpacked: number;
  /** Sizes and sum stand after the data. */
  later: boolean;
  dataAt: number;
}

/** The next header at or after `from`; undefined when there is none. */
function nextHeader(file: number, size: number, from: number): number | undefined {
  const chunk = Buffer.alloc(CHUNK + 3);
  for (let at = from; at < size; at += CHUNK) {
    const count = readSync(file, chunk, 0, chunk.length, at);
    const found = chunk.subarray(0, count).indexOf(HEADER);
    if (found >= 0) return at + found;
  }
  return undefined;
}

function readHeader(file: number, size: number, at: number): Header | undefined {
  const fixed = Buffer.alloc(30);
  if (at + 30 > size || readSync(file, fixed, 0, 30, at) < 30) return undefined;
  const [flags, method, crc32] = [fixed.readUInt16LE(6), fixed.readUInt16LE(8), fixed.readUInt32LE(14)];
  const [packed, unpacked, nameBytes, extraBytes] = [
    fixed.readUInt32LE(18),
    fixed.readUInt32LE(22),
    fixed.readUInt16LE(26),
    fixed.readUInt16LE(28),
  ];
  const raw = Buffer.alloc(nameBytes + extraBytes);
  if (at + 30 + nameBytes + extraBytes > size) return undefined;
  readSync(file, raw, 0, raw.length, at + 30);
  return {
    ...decodeName({ bytes: raw.subarray(0, nameBytes), utf8: (flags & (1 << 11)) !== 0, extra: raw.subarray(nameBytes) }),
    locked: (flags & 1) !== 0,
    method,
    crc32,
    packed,
    unpacked,
    later: (flags & SIZES_FOLLOW) !== 0,
    dataAt: at + 30 + nameBytes + extraBytes,
  };
}

/** How many bytes a deflated entry takes whose header does not say; undefined when it does not come to an end. */
async function measured(path: string, dataAt: number, most: number): Promise<{ packed: number; unpacked: number } | undefined> {
  const inflate = createInflateRaw();
  const source = createReadStream(path, { start: dataAt });
  source.on("error", (error) => inflate.destroy(error));
  source.pipe(inflate);
  let unpacked = 0;
  try {
    for await (const piece of inflate as AsyncIterable<Buffer>) {
      unpacked += piece.length;
      if (unpacked > most) return undefined;
    }
    return { packed: inflate.bytesWritten, unpacked };
  } catch {
    return undefined;
  } finally {
    source.destroy();
    inflate.destroy();
  }
}

const cutEntry = (): ProblemError =>
  new ProblemError(
    "entry-truncated",
    "The archive ends before this entry does.",
    "It was left out; the rest is here. Download the archive again.",
  );
const lockedEntry = (): ProblemError =>
  new ProblemError("entry-locked", "This entry is locked with a password, and the archive is damaged.", "Download the archive again.");

/** Opens what can be found of a damaged zip. Throws the `ProblemError` handed in when nothing can. */
export async function openRebuiltZip(path: string, limits: Limits, otherwise: ProblemError): Promise<ArchiveReader> {
  const file = openSync(path, "r");
  const { size } = fstatSync(file);
  if (nextHeader(file, size, 0) === undefined) {
    closeSync(file);
    throw otherwise;
  }
  const incomplete: Problem = {
    code: "archive-rebuilt",
    message: "The archive is cut off or damaged: its list of contents is missing. What could be found is here; more may be lost.",
    next: "Download it again, and compare.",
  };
  async function* entries(): AsyncGenerator<ArchiveEntry> {
    let from = 0;
    for (;;) {
      const at = nextHeader(file, size, from);
      const header = at === undefined ? undefined : readHeader(file, size, at);
      if (at === undefined || !header) return;
      const { name, guessed, method, dataAt } = header;
      const later = header.later && header.packed === 0;
      const sizes = later
        ? method === 8
          ? await measured(path, dataAt, limits.entryBytes)
          : undefined
        : { packed: header.packed, unpacked: header.unpacked };
      const whole = sizes !== undefined && dataAt + sizes.packed <= size;
      yield {
        name,
        guessed,
        folder: /[\\/]$/.test(name),
        encrypted: header.locked,
        claimedBytes: sizes?.unpacked,
        packedBytes: sizes?.packed,
        crc32: later ? undefined : header.crc32,
        open: async () => {
          if (!whole) throw cutEntry();
          if (header.locked) throw lockedEntry();
          if (method !== 0 && method !== 8) throw new Error("unsupported compression method");
          if (sizes.packed === 0) return Readable.from([]);
          const stored = createReadStream(path, { start: dataAt, end: dataAt + sizes.packed - 1 });
          if (method === 0) return stored;
          const inflate = createInflateRaw();
          stored.on("error", (error) => inflate.destroy(error));
          return stored.pipe(inflate);
        },
      };
      from = whole ? dataAt + sizes.packed : at + 4;
    }
  }
  return { format: "zip", count: undefined, close: () => closeSync(file), entries, incomplete: () => incomplete };
}
