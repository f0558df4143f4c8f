// Takes an archive apart: every entry named safely, sorted, measured and handed to a sink; trouble stays with its entry.
import { open } from "node:fs/promises";
import type { Readable } from "node:stream";
import { crc32 } from "node:zlib";
import { ProblemError, type Problem } from "../problem.ts";
import { sortEntry, type EntryKind } from "./kinds.ts";
import { entryTooDense, entryTooLarge, tooManyBytes, tooManyEntries, type Limits } from "./limits.ts";
import { safeName } from "./names.ts";
import type { ArchiveEntry, ArchiveReader } from "./reader.ts";
import { openZip } from "./zip.ts";

export interface UnpackedEntry {
  path: string;
  kind: EntryKind;
  reason: string;
  /** Unpacked size; what the archive claims when it could not be unpacked. */
  bytes: number;
  /** Hexadecimal; empty when it could not be unpacked. */
  sha256: string;
  problem?: Problem;
}

/** Takes one entry's contents. It must consume `content` to its end and undo what it wrote when that fails. */
export type Sink = (entry: { path: string; kind: EntryKind }, content: AsyncIterable<Uint8Array>) => Promise<{ sha256: string }>;

export interface UnpackProgress {
  entriesDone: number;
  entriesTotal: number | undefined;
  bytesDone: number;
}

const PASSWORD: Problem = {
  code: "archive-password",
  message: "The archive is locked with a password.",
  next: "Look for the password where you downloaded it, unpack it with that, and drop the files.",
};

/** Opens an archive by its first bytes. Throws "not-an-archive" and what the formats' readers throw. */
export async function openArchive(path: string): Promise<ArchiveReader> {
  const file = await open(path, "r");
  const head = Buffer.alloc(8);
  try {
    await file.read(head, 0, 8, 0);
  } finally {
    await file.close();
  }
  const start = head.toString("latin1");
  if (start.startsWith("PK\x03\x04") || start.startsWith("PK\x05\x06")) return openZip(path);
  throw new ProblemError("not-an-archive", "This is not an archive that can be opened.", "Drop a .zip, or the font files themselves.");
}

/** Passes chunks on while counting them against the limits and the entry's own claims. */
async function* measured(entry: ArchiveEntry, stream: Readable, limits: Limits, total: { bytes: number }): AsyncGenerator<Uint8Array> {
  let bytes = 0;
  let sum = 0;
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    total.bytes += chunk.length;
    if (bytes > limits.entryBytes) throw entryTooLarge(limits.entryBytes);
    if (total.bytes > limits.totalBytes) throw tooManyBytes(limits.totalBytes);
    if (entry.packedBytes !== undefined && bytes > limits.ratioFromBytes && bytes > limits.ratio * entry.packedBytes)
      throw entryTooDense(limits.ratio);
    if (entry.crc32 !== undefined) sum = crc32(chunk, sum);
    yield chunk;
  }
  if (entry.crc32 !== undefined && sum !== entry.crc32) {
    throw new ProblemError(
      "entry-checksum",
      "Its contents do not match the sum stored with them: it was damaged on the way.",
      "Download the archive again.",
    );
  }
}

/** What a decoder throws about an entry, in words. */
function entryProblem(error: unknown): Problem {
  if (error instanceof ProblemError) return error.problem;
  const words = error instanceof Error ? error.message : "";
  if (/too many bytes|not enough bytes/.test(words)) {
    return {
      code: "entry-size",
      message: "It unpacks to another size than the archive says.",
      next: "It was left out; the rest is here. Download the archive again.",
    };
  }
  if (/compression method/.test(words)) {
    return {
      code: "entry-method",
      message: "It is packed in a way that cannot be unpacked here.",
      next: "Unpack the archive yourself and drop the files.",
    };
  }
  return {
    code: "entry-damaged",
    message: "Its packed data is damaged.",
    next: "It was left out; the rest is here. Download the archive again.",
  };
}

/** Holds back the first bytes of a stream, so that an entry can be sorted before anyone reads it. */
async function peek(content: AsyncGenerator<Uint8Array>): Promise<{ head: Uint8Array; all: AsyncIterable<Uint8Array> }> {
  const first = await content.next();
  const head = first.done ? new Uint8Array() : first.value;
  return {
    head,
    all: (async function* () {
      if (!first.done) yield head;
      yield* content;
    })(),
  };
}

/**
 * Unpacks an archive into `sink`. Resolves to its entries, folders left out; rejects with a `ProblemError` when the
 * archive as a whole cannot be read or passes a limit for the whole.
 */
export async function unpackArchive(
  path: string,
  limits: Limits,
  sink: Sink,
  onProgress: (progress: UnpackProgress) => void = () => {},
): Promise<UnpackedEntry[]> {
  const reader = await openArchive(path);
  const found: UnpackedEntry[] = [];
  const total = { bytes: 0 };
  let seen = 0;
  try {
    for await (const entry of reader.entries()) {
      if (++seen > limits.entries) throw tooManyEntries(limits.entries);
      if (!entry.folder) found.push(await unpackEntry(entry, limits, total, sink));
      onProgress({ entriesDone: seen, entriesTotal: reader.count, bytesDone: total.bytes });
    }
  } finally {
    reader.close();
  }
  if (found.length > 0 && found.every((entry) => entry.problem?.code === PASSWORD.code)) {
    throw new ProblemError(PASSWORD.code, PASSWORD.message, PASSWORD.next);
  }
  return found;
}

async function unpackEntry(entry: ArchiveEntry, limits: Limits, total: { bytes: number }, sink: Sink): Promise<UnpackedEntry> {
  const name = safeName(entry.name);
  const shown = name.ok ? name.value : entry.name.replace(/[^ -~]/g, "?").slice(0, 200);
  const refused = (problem: Problem): UnpackedEntry => ({
    path: shown,
    ...sortEntry(shown, new Uint8Array()),
    bytes: entry.claimedBytes ?? 0,
    sha256: "",
    problem,
  });
  if (!name.ok) return refused(name.problem);
  if (entry.encrypted) return refused(PASSWORD);
  const before = total.bytes;
  let stream: Readable | undefined;
  try {
    stream = await entry.open();
    const { head, all } = await peek(measured(entry, stream, limits, total));
    const sorted = sortEntry(shown, head);
    const { sha256 } = await sink({ path: shown, kind: sorted.kind }, all);
    return { path: shown, ...sorted, bytes: total.bytes - before, sha256 };
  } catch (error) {
    if (error instanceof ProblemError && error.problem.code === "archive-bytes-limit") throw error;
    return refused(entryProblem(error));
  } finally {
    stream?.destroy();
  }
}
