// Gzip files, member by member (RFC 1952, 2.2: "A gzip file consists of a series of members"): what parallel compressors write. Bytes after
// the last member are passed over, as gzip(1) does; zlib's own reader of several members loses the end of what came before them.
import { createReadStream } from "node:fs";
import { open } from "node:fs/promises";
import { Readable } from "node:stream";
import { createInflateRaw, crc32 } from "node:zlib";
import { ProblemError } from "../problem.ts";

export const cutOff = (): ProblemError =>
  new ProblemError("archive-truncated", "The archive is cut off or damaged on the way.", "Download it again.");

const [EXTRA, NAME, COMMENT, SUM] = [4, 8, 16, 2];
/** No program writes longer headers. */
const MOST_HEADER = 128 * 1024;

type Reader = (at: number, size: number) => Promise<Buffer>;

/** Where a member's data begins; undefined when no member begins at `at`. */
async function dataStart(read: Reader, at: number): Promise<number | undefined> {
  const bytes = await read(at, MOST_HEADER);
  if (bytes.length < 18 || bytes[0] !== 0x1f || bytes[1] !== 0x8b || bytes[2] !== 8) return undefined;
  const flags = bytes[3]!;
  let next = 10;
  if (flags & EXTRA) next += 2 + (bytes[10] ?? 0) + 256 * (bytes[11] ?? 0);
  for (const text of [NAME, COMMENT]) {
    if ((flags & text) === 0) continue;
    const end = bytes.indexOf(0, next);
    if (end < 0) return undefined;
    next = end + 1;
  }
  if (flags & SUM) next += 2;
  return next < bytes.length ? at + next : undefined;
}

async function* members(path: string): AsyncGenerator<Buffer> {
  const file = await open(path, "r");
  const read: Reader = async (at, size) => {
    const bytes = Buffer.alloc(size);
    const { bytesRead } = await file.read(bytes, 0, size, at);
    return bytes.subarray(0, bytesRead);
  };
  try {
    let at = 0;
    for (let first = true; ; first = false) {
      const start = await dataStart(read, at);
      if (start === undefined) {
        if (first) throw cutOff();
        return;
      }
      const inflate = createInflateRaw();
      const source = createReadStream(path, { start });
      source.on("error", (error) => inflate.destroy(error));
      source.pipe(inflate);
      let [sum, bytes] = [0, 0];
      try {
        for await (const piece of inflate as AsyncIterable<Buffer>) {
          sum = crc32(piece, sum);
          bytes += piece.length;
          yield piece;
        }
      } finally {
        source.destroy();
        inflate.destroy();
      }
      const end = start + inflate.bytesWritten;
      const trailer = await read(end, 8);
      if (trailer.length < 8 || trailer.readUInt32LE(0) !== sum || trailer.readUInt32LE(4) !== bytes % 2 ** 32) throw cutOff();
      at = end + 8;
    }
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code ?? "";
    throw code.startsWith("Z_") ? cutOff() : error;
  } finally {
    await file.close();
  }
}

/** What a gzip file holds, all members after one another. */
export const gunzipped = (path: string): Readable => Readable.from(members(path), { objectMode: false });
