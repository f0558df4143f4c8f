// Zip archives, through yauzl. Names are decoded here, since real archives often do not say how theirs are written; bytes before and after
// the archive are passed over, as self-extracting and padded archives have them.
import { closeSync, createReadStream, fstatSync, openSync, readSync } from "node:fs";
import { Readable } from "node:stream";
import { inflateRawSync } from "node:zlib";
import * as yauzl from "yauzl";
import { ProblemError } from "../problem.ts";
import { decodeName, needsGuess, type StoredName } from "./names.ts";
import { guessEncoding, type NameEncoding } from "./name-encoding.ts";
import type { ArchiveEntry, ArchiveReader } from "./reader.ts";

const UTF8_NAMES = 1 << 11;

/** yauzl's own words for an archive without its closing directory, by what they contain. */
function explain(error: Error): ProblemError {
  if (/end of central directory/i.test(error.message)) return withoutDirectory();
  return new ProblemError("archive-damaged", "The archive's list of contents is damaged.", "Download it again.");
}
export const withoutDirectory = (): ProblemError =>
  new ProblemError("archive-truncated", "The archive is cut off: the list of contents at its end is missing.", "Download it again.");

/** Stored and deflated, neither locked: what yauzl takes (APPNOTE 4.4.4 and 4.4.5). */
const isPlain = (entry: yauzl.Entry): boolean =>
  (entry.generalPurposeBitFlag & 1) === 0 && (entry.compressionMethod === 0 || entry.compressionMethod === 8);

/** Where the archive lies in its file: what stands before is its base. */
interface Place {
  base: number;
  end: number;
}
const END_RECORD = Buffer.from("PK\x05\x06", "latin1");
/** So far from the file's end the closing record is looked for: its comment is shorter, what was put after the archive may not be. */
const TAIL_BYTES = 4 * 1024 * 1024;

/** Looks for the closing record (APPNOTE 4.3.16) that a list of contents stands before. */
function findPlace(file: number, size: number): Place | undefined {
  const tail = Buffer.alloc(Math.min(size, TAIL_BYTES));
  const from = size - tail.length;
  readSync(file, tail, 0, tail.length, from);
  for (let at = tail.lastIndexOf(END_RECORD); at >= 0; at = at > 0 ? tail.lastIndexOf(END_RECORD, at - 1) : -1) {
    if (at + 22 > tail.length) continue;
    const [entries, listBytes, listAt, comment] = [
      tail.readUInt16LE(at + 10),
      tail.readUInt32LE(at + 12),
      tail.readUInt32LE(at + 16),
      tail.readUInt16LE(at + 20),
    ];
    const [end, record] = [Math.min(size, from + at + 22 + comment), from + at];
    // Large archives say so elsewhere (4.3.15), and start where their file does.
    if (listAt === 0xffffffff || entries === 0xffff || listBytes === 0xffffffff) return { base: 0, end };
    if (entries === 0) return { base: Math.max(0, record - listBytes - listAt), end };
    for (const base of [record - listBytes - listAt, 0])
      if (base >= 0 && base + listAt + 4 <= size && signatureAt(file, base + listAt) === "PK\x01\x02") return { base, end };
  }
  return undefined;
}
function signatureAt(file: number, at: number): string {
  const bytes = Buffer.alloc(4);
  readSync(file, bytes, 0, 4, at);
  return bytes.toString("latin1");
}

const BLOCK_BYTES = 128 * 1024;
/** The list of contents and what it tells of are read by turns. */
const BLOCKS_KEPT = 4;

/** A file read in blocks, the last of which are kept: an archive of thousands of small files is read in few calls of the system. */
class Blocks {
  private readonly file: number;
  private readonly kept = new Map<number, Buffer>();
  constructor(file: number) {
    this.file = file;
  }
  /** Fills `into` from `position` on; false where the file ends before. */
  read(into: Uint8Array, position: number): boolean {
    if (into.length > BLOCK_BYTES) return readSync(this.file, into, 0, into.length, position) === into.length;
    for (let done = 0; done < into.length;) {
      const number = Math.floor((position + done) / BLOCK_BYTES);
      const within = position + done - number * BLOCK_BYTES;
      const part = this.block(number).subarray(within, within + into.length - done);
      if (part.length === 0) return false;
      into.set(part, done);
      done += part.length;
    }
    return true;
  }
  private block(number: number): Buffer {
    let block = this.kept.get(number);
    if (!block) {
      const whole = Buffer.allocUnsafe(BLOCK_BYTES);
      block = whole.subarray(0, readSync(this.file, whole, 0, BLOCK_BYTES, number * BLOCK_BYTES));
    }
    // The one used last goes last.
    this.kept.delete(number);
    this.kept.set(number, block);
    if (this.kept.size > BLOCKS_KEPT) this.kept.delete(this.kept.keys().next().value!);
    return block;
  }
}

class Window extends yauzl.RandomAccessReader {
  private readonly blocks: Blocks;
  private readonly path: string;
  private readonly place: Place;
  constructor(blocks: Blocks, path: string, place: Place) {
    super();
    this.blocks = blocks;
    this.path = path;
    this.place = place;
  }
  override _readStreamForRange(start: number, end: number): Readable {
    return createReadStream(this.path, { start: this.place.base + start, end: this.place.base + end - 1 });
  }
  override read(buffer: Buffer, offset: number, length: number, position: number, done: (error: Error | null) => void): void {
    const { base, end } = this.place;
    if (base + position + length > end) return done(new Error("unexpected EOF"));
    let whole: boolean;
    try {
      whole = this.blocks.read(buffer.subarray(offset, offset + length), base + position);
    } catch (error) {
      return done(error as Error);
    }
    // Not called back before this returns: the list of contents would be read ever deeper in the stack.
    process.nextTick(done, whole ? null : new Error("unexpected EOF"));
  }
}

interface Opened {
  zip: yauzl.ZipFile;
  blocks: Blocks;
  place: Place;
  close(): void;
}
async function openFile(path: string): Promise<Opened> {
  const file = openSync(path, "r");
  try {
    const place = findPlace(file, fstatSync(file).size);
    if (!place) throw withoutDirectory();
    const blocks = new Blocks(file);
    const options = { lazyEntries: true, decodeStrings: false, validateEntrySizes: true, autoClose: false };
    const zip = await new Promise<yauzl.ZipFile>((resolve, reject) => {
      const window = new Window(blocks, path, place);
      yauzl.fromRandomAccessReader(window, place.end - place.base, options, (error, opened) =>
        error ? reject(explain(error)) : resolve(opened),
      );
    });
    const close = () => {
      zip.close();
      closeSync(file);
    };
    return { zip, blocks, place, close };
  } catch (error) {
    closeSync(file);
    throw error;
  }
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

/** What a zip needs: its own reader, one that knows more methods, or putting together again from its entries. */
export async function zipNeeds(path: string): Promise<"plain" | "more" | "rebuilding"> {
  let opened: Opened;
  try {
    opened = await openFile(path);
  } catch (error) {
    if (error instanceof ProblemError) return "rebuilding";
    throw error;
  }
  try {
    for await (const entry of centralDirectory(opened.zip)) if (!isPlain(entry)) return "more";
    return "plain";
  } catch (error) {
    if (error instanceof ProblemError) return "rebuilding";
    throw error;
  } finally {
    opened.close();
  }
}

/** Whether a file that begins otherwise holds a zip, as self-extracting archives do. */
export function holdsZip(path: string): boolean {
  const file = openSync(path, "r");
  try {
    return findPlace(file, fstatSync(file).size) !== undefined;
  } finally {
    closeSync(file);
  }
}

const nameOf = (entry: yauzl.Entry): StoredName => ({
  bytes: entry.fileName as unknown as Buffer,
  utf8: (entry.generalPurposeBitFlag & UTF8_NAMES) !== 0,
  extra: entry.extraFieldRaw,
});

/** So many entries are looked at before the first is handed out, to see how names are written that do not say so. */
const LOOKED_AHEAD = 2000;
/** Entries with their names, which are judged together. */
async function* named(opened: Opened): AsyncGenerator<ArchiveEntry> {
  const all = centralDirectory(opened.zip);
  const ahead: yauzl.Entry[] = [];
  let next = await all.next();
  for (; !next.done && ahead.length < LOOKED_AHEAD; next = await all.next()) ahead.push(next.value);
  const unclear = ahead.map(nameOf).filter(needsGuess);
  const encoding = unclear.length > 0 ? guessEncoding(unclear.map(({ bytes }) => bytes)) : undefined;
  for (const entry of ahead) yield toEntry(opened, entry, encoding);
  for (; !next.done; next = await all.next()) yield toEntry(opened, next.value, encoding);
}

function toEntry({ zip, blocks, place }: Opened, entry: yauzl.Entry, encoding: NameEncoding | undefined): ArchiveEntry {
  const { name, guessed } = decodeName(nameOf(entry), encoding);
  return {
    name,
    guessed,
    folder: /[\\/]$/.test(name),
    encrypted: (entry.generalPurposeBitFlag & 1) !== 0,
    claimedBytes: entry.uncompressedSize,
    packedBytes: entry.compressedSize,
    crc32: entry.crc32,
    open: () =>
      Math.max(entry.compressedSize, entry.uncompressedSize) <= AT_ONCE_BYTES
        ? openAtOnce(zip, blocks, place.base, entry)
        : openStream(zip, entry),
  };
}

/** Entries up to this are unpacked in one go, which for the many small files of a font download is several times faster. */
const AT_ONCE_BYTES = 8 * 1024 * 1024;

const openStream = (zip: yauzl.ZipFile, entry: yauzl.Entry): Promise<Readable> =>
  new Promise((resolve, reject) => {
    zip.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream)));
  });

/** Reads an entry whole. The size the archive claims is held to: what unpacks to more or less is an error. */
async function openAtOnce(zip: yauzl.ZipFile, blocks: Blocks, base: number, entry: yauzl.Entry): Promise<Readable> {
  const { fileDataStart } = await zip.readLocalFileHeaderPromise(entry, { minimal: true });
  const packed = Buffer.allocUnsafe(entry.compressedSize);
  // This runs in threads of its own, where waiting is cheaper than being called back.
  if (!blocks.read(packed, base + fileDataStart)) throw new Error("unexpected end of file");
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
  const opened = await openFile(path);
  return {
    format: "zip",
    count: opened.zip.entryCount,
    close: () => opened.close(),
    entries: () => named(opened),
  };
}
