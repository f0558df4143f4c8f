// Runs in a worker thread: takes one parcel apart, stores its files and inspects its fonts.
import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { readFile } from "node:fs/promises";
import { basename, extname } from "node:path";
import type { MessagePort } from "node:worker_threads";
import { sortEntry } from "../../core/archive/kinds.ts";
import type { Limits } from "../../core/archive/limits.ts";
import { safeName } from "../../core/archive/names.ts";
import { unpackArchive, type Sink, type UnpackedEntry, type UnpackProgress } from "../../core/archive/unpack.ts";
import { inspectFont, type Inspection } from "../../core/inspect.ts";
import { ProblemError, type Problem } from "../../core/problem.ts";
import { loadWoff2 } from "../../core/sfnt/woff2.ts";
import { FileStore } from "../files/files.ts";

export interface ParcelJob {
  /** The files the parcel arrived as. */
  files: { name: string; path: string }[];
  filesDir: string;
  /** A folder of this job's own for what must be unpacked on disk first. */
  staging: string;
  limits: Limits;
  password?: string | undefined;
  progress: MessagePort;
}

export interface ParcelEntry extends UnpackedEntry {
  faces: Inspection[];
}
export type ParcelOutcome = { ok: true; entries: ParcelEntry[] } | { ok: false; problem: Problem };

/** Progress is told at most this often. */
const TELL_EVERY_MS = 60;
/** A font file above this is taken for damage, not read into memory. */
const MOST_FONT_BYTES = 256 * 1024 * 1024;

async function hashOnly(content: AsyncIterable<Uint8Array>): Promise<{ sha256: string }> {
  const hash = createHash("sha256");
  for await (const chunk of content) hash.update(chunk);
  return { sha256: hash.digest("hex") };
}

async function withFaces(entry: UnpackedEntry, store: FileStore): Promise<ParcelEntry> {
  if (entry.problem || (entry.kind !== "font" && entry.kind !== "web font")) return { ...entry, faces: [] };
  if (entry.bytes > MOST_FONT_BYTES) {
    return {
      ...entry,
      faces: [],
      problem: { code: "font-too-large", message: "This font file is larger than any font.", next: "Check what it really is." },
    };
  }
  const bytes = await readFile(store.path(entry.sha256));
  const result = inspectFont(bytes, basename(entry.path, extname(entry.path)), await loadWoff2());
  return result.ok ? { ...entry, faces: result.value } : { ...entry, faces: [], problem: result.problem };
}

const isArchive = (name: string): boolean => sortEntry(name, new Uint8Array()).kind === "archive";

async function looseFile(file: { name: string; path: string }, store: FileStore): Promise<UnpackedEntry> {
  const name = safeName(file.name);
  const path = name.ok ? name.value : basename(file.name);
  const sorted = sortEntry(path, await firstBytes(file.path));
  const stored = await store.put(createReadStream(file.path) as AsyncIterable<Uint8Array>);
  return { path, ...sorted, ...stored };
}

export default async function unpackParcel(job: ParcelJob): Promise<ParcelOutcome> {
  const store = new FileStore(job.filesDir);
  const sink: Sink = async ({ kind }, content) => {
    if (kind === "junk" || kind === "design source") return hashOnly(content);
    const { sha256 } = await store.put(content);
    return { sha256, path: store.path(sha256) };
  };
  let told = 0;
  const tell = (progress: UnpackProgress, now = performance.now()) => {
    if (now - told < TELL_EVERY_MS && progress.entriesDone !== progress.entriesTotal) return;
    told = now;
    job.progress.postMessage({ ...progress, entriesTotal: progress.entriesTotal ?? null });
  };
  const entries: ParcelEntry[] = [];
  try {
    for (const file of job.files) {
      if (isArchive(file.name) || job.files.length === 1) {
        const sorted = sortEntry(file.name, await firstBytes(file.path));
        if (sorted.kind === "font" || sorted.kind === "web font") entries.push(await withFaces(await looseFile(file, store), store));
        else
          for (const entry of await unpackArchive(file.path, file.name, { ...job, sink, onProgress: tell }))
            entries.push(await withFaces(entry, store));
      } else entries.push(await withFaces(await looseFile(file, store), store));
    }
  } catch (error) {
    if (error instanceof ProblemError) return { ok: false, problem: error.problem };
    throw error;
  }
  if (!entries.some((entry) => entry.kind === "font" || entry.kind === "web font")) {
    return {
      ok: false,
      problem: {
        code: "parcel-no-fonts",
        message: entries.length === 0 ? "There is nothing in it." : "There is no font in it.",
        next: "Check that you downloaded the font itself and not only its preview or licence.",
      },
    };
  }
  return { ok: true, entries };
}

async function firstBytes(path: string): Promise<Uint8Array> {
  const chunks: Buffer[] = [];
  for await (const chunk of createReadStream(path, { end: 15 }) as AsyncIterable<Buffer>) chunks.push(chunk);
  return Buffer.concat(chunks);
}
