// Tar archives, plain or compressed by gzip, through tar-stream. Where it stumbles (headers of old writers, a missing end) 7-Zip is asked,
// which reads the whole archive before anything of it can be shown.
import { createReadStream, createWriteStream } from "node:fs";
import { mkdir } from "node:fs/promises";
import { join } from "node:path";
import { PassThrough, Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { extract } from "tar-stream";
import { diskFault } from "../disk/faults.ts";
import { ProblemError, type Problem } from "../problem.ts";
import { cutOff, gunzipped } from "./gzip.ts";
import { notAFile, type ArchiveEntry, type ArchiveReader } from "./reader.ts";
import { openSevenZip, type SevenZipOptions } from "./sevenzip.ts";
import { unfolded, withoutHoles } from "./tar-holes.ts";

export type Compression = "none" | "gz";

const decompressed = (path: string, compression: Compression): Readable =>
  compression === "none" ? createReadStream(path) : gunzipped(path);

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
  for await (const chunk of decompressed(path, compression) as AsyncIterable<Uint8Array>) {
    chunks.push(Buffer.from(chunk));
    size += chunk.length;
    if (size >= 512) break;
  }
  return Buffer.concat(chunks);
}

/** Links to other entries that are followed: each is looked for from the archive's beginning. */
const MOST_LINKS = 200;

/** Types of entries that hold a file's bytes as they are (POSIX pax interchange format, "typeflag"; null from older tars). */
const isFile = (type: string | null | undefined): boolean => type === "file" || type === "contiguous-file" || type === null;
function opened(path: string, compression: Compression): { unpacker: ReturnType<typeof extract>; end(): void } {
  const source = decompressed(path, compression);
  // Tars older than POSIX carry no mark; the types do not know the option that takes them.
  const unpacker = extract({ allowUnknownFormat: true } as object);
  const filled = Readable.from(withoutHoles(source as AsyncIterable<Uint8Array>), { objectMode: false });
  filled.on("error", (error) => unpacker.destroy(error));
  filled.pipe(unpacker);
  const end = () => {
    filled.destroy();
    source.destroy();
  };
  return { unpacker, end };
}

/** The bytes of the entry called `wanted`, for a second name of it. */
async function* linked(path: string, compression: Compression, wanted: string): AsyncGenerator<Uint8Array> {
  const { unpacker, end } = opened(path, compression);
  try {
    for await (const entry of unpacker) {
      if (entry.header.name === wanted && isFile(entry.header.type)) {
        yield* entry as AsyncIterable<Uint8Array>;
        return;
      }
      entry.resume();
    }
  } finally {
    end();
  }
  throw notAFile();
}

async function* members(path: string, compression: Compression, seen: { entries: number }): AsyncGenerator<ArchiveEntry> {
  const { unpacker, end } = opened(path, compression);
  let links = 0;
  try {
    for await (const entry of unpacker) {
      const { type, size, linkname } = entry.header;
      const pax = (entry.header as { pax?: Record<string, string> | null }).pax ?? {};
      seen.entries++;
      yield {
        name: pax["GNU.sparse.name"] ?? entry.header.name,
        folder: type === "directory",
        encrypted: false,
        claimedBytes: size ?? undefined,
        packedBytes: undefined,
        crc32: undefined,
        open: async () => {
          if (isFile(type)) {
            const body = entry.pipe(new PassThrough());
            const whole = unfolded(pax, body as AsyncIterable<Uint8Array>);
            if (!whole && Object.keys(pax).some((key) => key.startsWith("GNU.sparse"))) throw notAFile();
            return whole ? Readable.from(whole, { objectMode: false }) : body;
          }
          if (type !== "link" || !linkname || ++links > MOST_LINKS) throw notAFile();
          return Readable.from(linked(path, compression, linkname));
        },
      };
      // What nobody read is passed over; tar's entries come one after another.
      entry.resume();
    }
  } finally {
    end();
  }
}

/** All entries; those that follow a header tar-stream stumbles over come from 7-Zip. */
async function* allMembers(
  path: string,
  compression: Compression,
  options: SevenZipOptions,
  trouble: { problem?: Problem },
): AsyncGenerator<ArchiveEntry> {
  const seen = { entries: 0 };
  try {
    yield* members(path, compression, seen);
  } catch (error) {
    if (error instanceof ProblemError || diskFault(error)) throw error;
    // What 7-Zip cannot read either is cut off.
    if (seen.entries === 0) yield* rest(path, compression, options, 0);
    else {
      try {
        yield* rest(path, compression, options, seen.entries);
      } catch (again) {
        if (!(again instanceof ProblemError) || again.problem.code !== "archive-truncated") throw again;
      }
      trouble.problem = NO_END;
    }
  }
}
const NO_END: Problem = {
  code: "archive-no-end",
  message: "The archive has no proper end. What could be found is here; what followed may be lost.",
  next: "Download it again, and compare.",
};
async function* rest(path: string, compression: Compression, options: SevenZipOptions, passed: number): AsyncGenerator<ArchiveEntry> {
  const staging = join(options.staging, "tar");
  await mkdir(staging, { recursive: true });
  let whole = path;
  if (compression !== "none") {
    whole = join(staging, "whole.tar");
    let left = options.room.left;
    await pipeline(
      decompressed(path, compression),
      async function* (source: AsyncIterable<Uint8Array>) {
        for await (const chunk of source) {
          if ((left -= chunk.length) < 0) throw options.room.exceeded();
          yield chunk;
        }
      },
      createWriteStream(whole),
    );
  }
  const reader = await openSevenZip(whole, "tar", { ...options, staging: join(staging, "out") }).catch((error: unknown) => {
    throw error instanceof ProblemError && error.problem.code === "archive-damaged" ? cutOff() : error;
  });
  let number = 0;
  for await (const entry of reader.entries()) if (number++ >= passed) yield entry;
  if (number <= passed) throw cutOff();
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

/** Opens a tar, or a single file compressed by itself; `close` is the caller's, who empties the staging folder. */
export async function openTar(path: string, compression: Compression, innerName: string, options: SevenZipOptions): Promise<ArchiveReader> {
  if (isTar(await firstBytes(path, compression))) {
    const trouble: { problem?: Problem } = {};
    const entries = () => allMembers(path, compression, options, trouble);
    return { format: "tar", count: undefined, close: () => {}, entries, incomplete: () => trouble.problem };
  }
  if (compression === "none") throw cutOff();
  return oneFile(innerName, () => decompressed(path, compression));
}
