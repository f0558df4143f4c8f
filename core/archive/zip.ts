// Zip archives, through yauzl. Names are decoded here, since real archives often do not say how theirs are written.
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

function toEntry(zip: yauzl.ZipFile, entry: yauzl.Entry): ArchiveEntry {
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
      new Promise((resolve, reject) => {
        zip.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream)));
      }),
  };
}

/** Opens a zip file on disk. Throws a `ProblemError` ("archive-truncated", "archive-damaged"). */
export async function openZip(path: string): Promise<ArchiveReader> {
  const zip = await openFile(path);
  return {
    format: "zip",
    count: zip.entryCount,
    close: () => zip.close(),
    async *entries() {
      for await (const entry of centralDirectory(zip)) yield toEntry(zip, entry);
    },
  };
}
