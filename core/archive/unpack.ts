// Takes an archive apart: every entry named safely, sorted, measured and handed to a sink; trouble stays with its entry.
import { rm, stat } from "node:fs/promises";
import type { Readable } from "node:stream";
import { crc32 } from "node:zlib";
import { diskFault } from "../disk/faults.ts";
import { ProblemError, type Problem } from "../problem.ts";
import { sortEntry, type EntryKind } from "./kinds.ts";
import { entryTooDense, entryTooLarge, Room, tooManyEntries, type Limits } from "./limits.ts";
import { safeName } from "./names.ts";
import { openArchive } from "./open.ts";
import type { ArchiveEntry } from "./reader.ts";

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

/** Takes one entry's contents; gives the path of what it stored when archives inside are to be opened. It must consume `content` to its end and undo what it wrote when that fails. */
export type Sink = (
  entry: { path: string; kind: EntryKind },
  content: AsyncIterable<Uint8Array>,
) => Promise<{ sha256: string; path?: string }>;

export interface UnpackProgress {
  entriesDone: number;
  entriesTotal: number | undefined;
  bytesDone: number;
}

/** Passes chunks on while counting them against the limits and the entry's own claims. */
async function* measured(entry: ArchiveEntry, stream: Readable, limits: Limits, room: Room): AsyncGenerator<Uint8Array> {
  let bytes = 0;
  let sum = 0;
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    if (bytes > limits.entryBytes) throw entryTooLarge(limits.entryBytes);
    room.take(chunk.length);
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

/** What a decoder throws about an entry, in words. Faults of the disk are no entry's, and thrown on. */
function entryProblem(error: unknown): Problem {
  if (error instanceof ProblemError) return error.problem;
  const fault = diskFault(error);
  if (fault) throw fault;
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

export interface UnpackOptions {
  limits: Limits;
  sink: Sink;
  /** A folder for what must be unpacked on disk first; used and emptied. */
  staging: string;
  password?: string | undefined;
  /** What may be unpacked where several archives share it; otherwise it follows from the archive's size. */
  room?: Room;
  onProgress?: (progress: UnpackProgress) => void;
}

/** What all archives of one download share. */
interface Walk extends UnpackOptions {
  room: Room;
  seen: number;
  found: UnpackedEntry[];
}

/**
 * Unpacks an archive into `sink`, and archives inside it as deep as the limits say, where the sink gives the path of
 * what it stored. Resolves to all entries, folders left out; rejects with a `ProblemError` when the archive as a whole
 * cannot be read or passes a limit for the whole.
 */
export async function unpackArchive(path: string, name: string, options: UnpackOptions): Promise<UnpackedEntry[]> {
  const room = options.room ?? new Room(options.limits, (await stat(path)).size);
  const walk: Walk = { ...options, room, seen: 0, found: [] };
  try {
    await unpackLevel(path, name, "", 1, walk);
    return walk.found;
  } finally {
    await rm(options.staging, { recursive: true, force: true });
  }
}

async function unpackLevel(path: string, name: string, prefix: string, depth: number, walk: Walk): Promise<void> {
  const staging = `${walk.staging}/${depth}-${walk.seen}`;
  const reader = await openArchive(path, name, { staging, limits: walk.limits, password: walk.password, room: walk.room });
  try {
    for await (const entry of reader.entries()) {
      if (++walk.seen > walk.limits.entries) throw tooManyEntries(walk.limits.entries);
      if (!entry.folder) {
        const { unpacked, storedAt } = await unpackEntry(entry, prefix, walk);
        walk.found.push(unpacked);
        if (unpacked.kind === "archive" && storedAt !== undefined) await unpackInner(unpacked, storedAt, depth, walk);
      }
      walk.onProgress?.({ entriesDone: walk.seen, entriesTotal: depth === 1 ? reader.count : undefined, bytesDone: walk.room.bytes });
    }
    const problem = reader.incomplete?.();
    if (problem) walk.found.push({ path: name, kind: "archive", reason: "The archive itself.", bytes: 0, sha256: "", problem });
  } finally {
    await reader.close();
  }
}

/** An archive inside the archive: what is wrong with it stays with its entry, unless it breaks a limit for the whole. */
async function unpackInner(outer: UnpackedEntry, storedAt: string, depth: number, walk: Walk): Promise<void> {
  if (depth >= walk.limits.depth) {
    const message = `Archives are opened ${walk.limits.depth} deep, and this one lies deeper.`;
    outer.problem = {
      code: "archive-depth-limit",
      message,
      next: "Unpack it yourself and drop what you need, or raise the limit “Archives inside archives” in the settings.",
    };
    return;
  }
  try {
    await unpackLevel(storedAt, outer.path, `${outer.path}/`, depth + 1, walk);
  } catch (error) {
    if (!(error instanceof ProblemError) || ofTheWhole(error)) throw error;
    outer.problem = error.problem;
  }
}

/** Limits for everything together, and faults of the disk: nothing that follows can go well. */
const LIMITS_OF_THE_WHOLE = new Set(["archive-bytes-limit", "archive-entries-limit", "archive-ratio-limit"]);
const ofTheWhole = (error: unknown): boolean =>
  (error instanceof ProblemError && LIMITS_OF_THE_WHOLE.has(error.problem.code)) || diskFault(error) !== undefined;

async function unpackEntry(
  entry: ArchiveEntry,
  prefix: string,
  walk: Walk,
): Promise<{ unpacked: UnpackedEntry; storedAt: string | undefined }> {
  const { limits, room, sink } = walk;
  const name = safeName(entry.name);
  const shown = prefix + (name.ok ? name.value : entry.name.replace(/[^ -~]/g, "?").slice(0, 200));
  const refused = (problem: Problem) => {
    const unpacked: UnpackedEntry = {
      path: shown,
      ...sortEntry(shown, new Uint8Array()),
      bytes: entry.claimedBytes ?? 0,
      sha256: "",
      problem,
    };
    return { unpacked, storedAt: undefined };
  };
  if (!name.ok) return refused(name.problem);
  const before = room.bytes;
  let stream: Readable | undefined;
  try {
    stream = await entry.open();
    const { head, all } = await peek(measured(entry, stream, limits, room));
    const sorted = sortEntry(shown, head);
    if (entry.guessed)
      sorted.reason = `${sorted.reason} The archive does not say how its name is written; it was read as ${entry.guessed}.`;
    const { sha256, path } = await sink({ path: shown, kind: sorted.kind }, all);
    return { unpacked: { path: shown, ...sorted, bytes: room.bytes - before, sha256 }, storedAt: path };
  } catch (error) {
    if (ofTheWhole(error)) throw error;
    return refused(entryProblem(error));
  } finally {
    stream?.destroy();
  }
}
