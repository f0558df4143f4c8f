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
  const zip = await new Promise<yauzl.ZipFile>((resolve, reject) => {
    const options = { lazyEntries: true, decodeStrings: false, validateEntrySizes: true, autoClose: false };
    yauzl.open(path, options, (error, file) => (error ? reject(explain(error)) : resolve(file)));
  });
  return {
    format: "zip",
    count: zip.entryCount,
    close: () => zip.close(),
    async *entries() {
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
        yield toEntry(zip, next);
      }
    },
  };
}
