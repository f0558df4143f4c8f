// Zip archives, through yauzl. Names are decoded here, since real archives often do not say how theirs are written.
import { closeSync, openSync, readSync } from "node:fs";
import { Readable } from "node:stream";
import { inflateRawSync } from "node:zlib";
import * as yauzl from "yauzl";
import { ProblemError } from "../problem.ts";
import { decodeName } from "./names.ts";
import type { ArchiveEntry, ArchiveReader } from "./reader.ts";

const UTF8_NAMES = 1 << 11;

/** yauzl's own words for an archive without its closing directory, by what they contain. */
function explain(error: Error): ProblemError {
  if (/end of central directory/i.test(error.message)) {
    return new ProblemError(
      "archive-truncated",
      "The archive is cut off: the list of contents at its end is missing.",
      "Download it again.",
    );
  }
  return new ProblemError("archive-damaged", "The archive's list of contents is damaged.", "Download it again.");
}

/** Stored and deflated, neither locked: what yauzl takes (APPNOTE 4.4.4 and 4.4.5). */
const isPlain = (entry: yauzl.Entry): boolean =>
  (entry.generalPurposeBitFlag & 1) === 0 && (entry.compressionMethod === 0 || entry.compressionMethod === 8);

function openFile(path: string): Promise<yauzl.ZipFile> {
  return new Promise((resolve, reject) => {
    const options = { lazyEntries: true, decodeStrings: false, validateEntrySizes: true, autoClose: false };
    yauzl.open(path, options, (error, file) => (error ? reject(explain(error)) : resolve(file)));
  });
}

async function* centralDirectory(zip: yauzl.ZipFile): AsyncGenerator<yauzl.Entry> {
  const waiting: ((next: yauzl.Entry | Error | undefined) => void)[] = [];
  const tell = (next: yauzl.Entry | Error | undefined) => waiting.shift()?.(next);
  zip.on("entry", tell);
  zip.on("end", () => tell(undefined));
  zip.on("error", tell);
  for (;;) {
    const next = await new Promise<yauzl.Entry | Error | undefined>((resolve) => {
      waiting.push(resolve);
      zip.readEntry();
    });
    if (next === undefined) return;
    if (next instanceof Error) throw explain(next);
    yield next;
  }
}

/** Whether a zip has entries that are locked or packed by other methods than the usual two. */
export async function zipNeedsMore(path: string): Promise<boolean> {
  const zip = await openFile(path);
  try {
    for await (const entry of centralDirectory(zip)) if (!isPlain(entry)) return true;
    return false;
  } finally {
    zip.close();
  }
}

function toEntry(zip: yauzl.ZipFile, file: number, entry: yauzl.Entry): ArchiveEntry {
  const raw = entry.fileName as unknown as Buffer;
  const name = decodeName(raw, (entry.generalPurposeBitFlag & UTF8_NAMES) !== 0);
  return {
    name,
    folder: /[\\/]$/.test(name),
    encrypted: (entry.generalPurposeBitFlag & 1) !== 0,
    claimedBytes: entry.uncompressedSize,
    packedBytes: entry.compressedSize,
    crc32: entry.crc32,
    open: () =>
      Math.max(entry.compressedSize, entry.uncompressedSize) <= AT_ONCE_BYTES ? openAtOnce(zip, file, entry) : openStream(zip, entry),
  };
}

/** Entries up to this are unpacked in one go, which for the many small files of a font download is several times faster. */
const AT_ONCE_BYTES = 8 * 1024 * 1024;

const openStream = (zip: yauzl.ZipFile, entry: yauzl.Entry): Promise<Readable> =>
  new Promise((resolve, reject) => {
    zip.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream)));
  });

/** Reads an entry whole. The size the archive claims is held to: what unpacks to more or less is an error. */
async function openAtOnce(zip: yauzl.ZipFile, file: number, entry: yauzl.Entry): Promise<Readable> {
  const { fileDataStart } = await zip.readLocalFileHeaderPromise(entry, { minimal: true });
  const packed = Buffer.allocUnsafe(entry.compressedSize);
  // This runs in threads of its own, where waiting is cheaper than being called back.
  const bytesRead = readSync(file, packed, 0, packed.length, fileDataStart);
  if (bytesRead < packed.length) throw new Error("unexpected end of file");
  let bytes: Buffer = packed;
  if (entry.compressionMethod === 8) {
    try {
      bytes = inflateRawSync(packed, { maxOutputLength: Math.max(1, entry.uncompressedSize) });
    } catch (error) {
      throw (error as NodeJS.ErrnoException).code === "ERR_BUFFER_TOO_LARGE" ? new Error("too many bytes in the stream") : error;
    }
  }
  if (bytes.length !== entry.uncompressedSize)
    throw new Error(bytes.length < entry.uncompressedSize ? "not enough bytes in the stream" : "too many bytes in the stream");
  return Readable.from(bytes.length === 0 ? [] : [bytes]);
}

/** Opens a zip file on disk. Throws a `ProblemError` ("archive-truncated", "archive-damaged"). */
export async function openZip(path: string): Promise<ArchiveReader> {
  const zip = await openFile(path);
  const file = openSync(path, "r");
  return {
    format: "zip",
    count: zip.entryCount,
    close: () => {
      zip.close();
      closeSync(file);
      return Promise.resolve();
    },
    async *entries() {
      for await (const entry of centralDirectory(zip)) yield toEntry(zip, file, entry);
    },
  };
}
