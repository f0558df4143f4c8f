// Tar archives, plain or compressed by gzip, through tar-stream.
import { createReadStream } from "node:fs";
import { PassThrough, type Readable } from "node:stream";
import { createGunzip } from "node:zlib";
import { extract } from "tar-stream";
import { ProblemError } from "../problem.ts";
import type { ArchiveEntry, ArchiveReader } from "./reader.ts";

export type Compression = "none" | "gz";

function decompressed(path: string, compression: Compression): Readable {
  const file = createReadStream(path);
  if (compression === "none") return file;
  const decoder = createGunzip();
  file.on("error", (error) => decoder.destroy(error));
  return file.pipe(decoder);
}

export const cutOff = (): ProblemError =>
  new ProblemError("archive-truncated", "The archive is cut off or damaged on the way.", "Download it again.");

/** "ustar" at byte 257 (POSIX pax interchange format), or a sum of the header that fits for older ones. */
function isTar(head: Buffer): boolean {
  if (head.length < 512) return false;
  if (head.toString("latin1", 257, 262) === "ustar") return true;
  const stored = parseInt(head.toString("latin1", 148, 156), 8);
  let sum = 8 * 0x20;
  for (let i = 0; i < 512; i++) if (i < 148 || i >= 156) sum += head[i]!;
  return stored === sum;
}

async function firstBytes(path: string, compression: Compression): Promise<Buffer> {
  const chunks: Buffer[] = [];
  let size = 0;
  try {
    for await (const chunk of decompressed(path, compression) as AsyncIterable<Uint8Array>) {
      chunks.push(Buffer.from(chunk));
      size += chunk.length;
      if (size >= 512) break;
    }
  } catch {
    throw cutOff();
  }
  return Buffer.concat(chunks);
}

async function* members(path: string, compression: Compression): AsyncGenerator<ArchiveEntry> {
  const source = decompressed(path, compression);
  // Tars older than POSIX carry no mark; the types do not know the option that takes them.
  const unpacker = extract({ allowUnknownFormat: true } as object);
  source.on("error", () => unpacker.destroy(cutOff()));
  source.pipe(unpacker);
  try {
    for await (const entry of unpacker) {
      const { name, type, size } = entry.header;
      const file = type === "file" || type === "contiguous-file" || type === null;
      yield {
        name,
        folder: type === "directory",
        encrypted: false,
        claimedBytes: size ?? undefined,
        packedBytes: undefined,
        crc32: undefined,
        open: async () => {
          if (!file)
            throw new ProblemError("entry-kind", "This is not a file but a link or a device.", "It was left out; the rest is here.");
          return entry.pipe(new PassThrough());
        },
      };
      // What nobody read is passed over; tar's entries come one after another.
      entry.resume();
    }
  } catch (error) {
    throw error instanceof ProblemError ? error : cutOff();
  } finally {
    source.destroy();
  }
}

/** Whether a file on disk is a tar. */
export const isTarFile = async (path: string): Promise<boolean> => isTar(await firstBytes(path, "none"));

/** A single compressed file as an archive of one entry. */
export function oneFile(name: string, open: () => Readable): ArchiveReader {
  const one: ArchiveEntry = {
    name,
    folder: false,
    encrypted: false,
    claimedBytes: undefined,
    packedBytes: undefined,
    crc32: undefined,
    open: async () => open(),
  };
  return {
    format: "one file",
    count: 1,
    close: () => {},
    async *entries() {
      yield one;
    },
  };
}

/** Opens a tar, or a single file compressed by itself. */
export async function openTar(path: string, compression: Compression, innerName: string): Promise<ArchiveReader> {
  if (isTar(await firstBytes(path, compression)))
    return { format: "tar", count: undefined, close: () => {}, entries: () => members(path, compression) };
  if (compression === "none") throw cutOff();
  return oneFile(innerName, () => decompressed(path, compression));
}
