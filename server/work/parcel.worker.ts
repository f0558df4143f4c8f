// Runs in a worker thread: takes one parcel apart, stores its files and inspects its fonts; or looks whether an archive holds any font.
import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { rm, stat } from "node:fs/promises";
import { basename, extname } from "node:path";
import type { EarlyStyle, ParcelProgress } from "../../contract/parcels.ts";
import { isFontName, sortEntry, type EntryKind } from "../../core/archive/kinds.ts";
import { Room, type Limits } from "../../core/archive/limits.ts";
import { safeName } from "../../core/archive/names.ts";
import { openArchive } from "../../core/archive/open.ts";
import { unpackArchive, type Sink, type UnpackedEntry, type UnpackProgress } from "../../core/archive/unpack.ts";
import { diskFault } from "../../core/disk/faults.ts";
import { isRightToLeftOnly, ownSample } from "../../core/coverage/text.ts";
import { inspectFont, type Inspection } from "../../core/inspect.ts";
import { ProblemError, type Problem } from "../../core/problem.ts";
import { isWoff2, loadWoff2 } from "../../core/sfnt/woff2.ts";
import { FileStore, type Batch } from "../files/files.ts";
import { faceFacts, type FaceFacts } from "../store/families/faces.ts";
import { serve } from "./serve.ts";

export interface UnpackTask {
  kind: "unpack";
  /** The files the parcel arrived as. */
  files: { name: string; path: string }[];
  filesDir: string;
  /** A folder of this job's own for what must be unpacked on disk first. */
  staging: string;
  limits: Limits;
  password?: string | undefined;
}
/** Whether an archive is worth taking in, without taking it apart. */
export interface ProbeTask {
  kind: "probe";
  name: string;
  path: string;
  staging: string;
  limits: Limits;
}
export type ParcelTask = UnpackTask | ProbeTask;

export type ParcelOutcome = { ok: true; entries: UnpackedEntry[] } | { ok: false; problem: Problem };
/** Why an archive is passed over; null when it holds a font, or is locked or damaged, which its parcel then says. */
export type ProbeOutcome = string | null;

/** How far it is, with the styles found since it was last told and where their files lie for now; and facts of the faces found. */
export type ParcelTold = { progress: Omit<ParcelProgress, "found">; fresh: (EarlyStyle & { at: string })[] } | { faces: FaceFacts[] };

/** This many styles are shown while the rest is unpacked. */
const EARLY_STYLES = 12;
/** Progress is told at most this often. */
const TELL_EVERY_MS = 60;
/** Faces are handed over in parcels of about so many characters. */
const FACTS_TOGETHER = 200_000;
/** A font file above this is taken for something else, not read into memory. */
const MOST_FONT_BYTES = 128 * 1024 * 1024;

async function hashOnly(content: AsyncIterable<Uint8Array>): Promise<{ sha256: string }> {
  const hash = createHash("sha256");
  for await (const chunk of content) hash.update(chunk);
  return { sha256: hash.digest("hex") };
}

const isFont = (kind: EntryKind): boolean => kind === "font" || kind === "web font";
const isArchive = (name: string): boolean => sortEntry(name, new Uint8Array()).kind === "archive";

/** Passes a stream on and keeps a copy of its chunks, up to what a font may be. */
async function* copied(content: AsyncIterable<Uint8Array>, chunks: Uint8Array[]): AsyncGenerator<Uint8Array> {
  let bytes = 0;
  for await (const chunk of content) {
    bytes += chunk.length;
    if (bytes > MOST_FONT_BYTES)
      throw new ProblemError("font-too-large", "This font file is larger than any font.", "Check what it really is.");
    chunks.push(chunk);
    yield chunk;
  }
}

class Unpacking {
  private readonly batch: Batch;
  private readonly tell: (told: ParcelTold) => void;
  /** What was wrong with a font's bytes, by their digest, nothing when they are sound enough: the same bytes are inspected once. */
  private readonly inspected = new Map<string, Problem | undefined>();
  private facts: FaceFacts[] = [];
  private factsLength = 0;
  /** Styles found and not yet told of. */
  fresh: (EarlyStyle & { at: string })[] = [];
  private foundEarly = 0;
  constructor(batch: Batch, tell: (told: ParcelTold) => void) {
    this.batch = batch;
    this.tell = tell;
  }

  readonly sink: Sink = async ({ path, kind }, content) => {
    if (kind === "junk" || kind === "design source") return hashOnly(content);
    if (!isFont(kind)) return this.batch.put(content);
    const chunks: Uint8Array[] = [];
    const stored = await this.batch.put(copied(content, chunks));
    if (!this.inspected.has(stored.sha256)) {
      const bytes = chunks.length === 1 ? chunks[0]! : Buffer.concat(chunks);
      const unpackWoff2 = isWoff2(bytes) ? await loadWoff2() : undefined;
      const result = inspectFont(bytes, basename(path, extname(path)), unpackWoff2);
      this.inspected.set(stored.sha256, result.ok ? undefined : result.problem);
      if (result.ok) {
        this.early(stored, result.value);
        for (const record of result.value) this.keep(faceFacts(stored.sha256, bytes.length, record));
      }
    }
    return stored;
  };

  private keep(facts: FaceFacts): void {
    this.facts.push(facts);
    const { record, brief, claim } = facts.columns;
    this.factsLength += record.length + brief.length + claim.length;
    if (this.factsLength > FACTS_TOGETHER) this.tellFacts();
  }
  tellFacts(): void {
    if (this.facts.length > 0) this.tell({ faces: this.facts });
    this.facts = [];
    this.factsLength = 0;
  }

  private early(stored: { sha256: string; path: string }, faces: readonly Inspection[]): void {
    for (const { face, family, style, fullName, verdict, ranges } of faces) {
      if (this.foundEarly >= EARLY_STYLES) return;
      this.foundEarly++;
      const specimen = { rightToLeft: isRightToLeftOnly(ranges), sample: ownSample(ranges) };
      this.fresh.push({ ...specimen, sha256: stored.sha256, at: stored.path, face, family, style, fullName, verdict });
    }
  }

  /** An entry with what inspecting it found wrong. */
  judged(entry: UnpackedEntry): UnpackedEntry {
    const problem = entry.problem || !isFont(entry.kind) ? undefined : this.inspected.get(entry.sha256);
    return problem ? { ...entry, problem } : entry;
  }

  /** A file that was dropped by itself. */
  async loose(file: { name: string; path: string }): Promise<UnpackedEntry> {
    const name = safeName(file.name);
    const path = name.ok ? name.value : basename(file.name);
    const sorted = sortEntry(path, await firstBytes(file.path));
    const { size } = await stat(file.path);
    try {
      const { sha256 } = await this.sink({ path, kind: sorted.kind }, createReadStream(file.path) as AsyncIterable<Uint8Array>);
      return { path, ...sorted, bytes: size, sha256 };
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      return { path, ...sorted, bytes: size, sha256: "", problem: error.problem };
    }
  }
}

const CUT: Problem = {
  code: "archive-truncated",
  message: "The archive is cut off or damaged, and no font of it could be read.",
  next: "Download it again.",
};

const isCut = (entries: readonly UnpackedEntry[]): boolean =>
  entries.some((entry) => entry.problem && /^(archive|entry)-(rebuilt|no-end|truncated)$/.test(entry.problem.code));

async function unpack(job: UnpackTask, tell: (told: ParcelTold) => void): Promise<ParcelOutcome> {
  const batch = new FileStore(job.filesDir).batch();
  const unpacking = new Unpacking(batch, tell);
  let told = 0;
  const onProgress = (progress: UnpackProgress, now = performance.now()) => {
    const first = told === 0 && unpacking.fresh.length > 0;
    if (!first && now - told < TELL_EVERY_MS && progress.entriesDone !== progress.entriesTotal) return;
    if (told > 0 || first) told = now;
    tell({ progress: { ...progress, entriesTotal: progress.entriesTotal ?? null }, fresh: unpacking.fresh });
    unpacking.fresh = [];
  };
  const entries: UnpackedEntry[] = [];
  try {
    let arrived = 0;
    for (const { path } of job.files) arrived += (await stat(path)).size;
    const room = new Room(job.limits, arrived);
    const several = job.files.length > 1;
    for (const file of job.files) {
      const alone = job.files.length === 1 && !isFont(sortEntry(file.name, await firstBytes(file.path)).kind);
      if (isArchive(file.name) || alone) {
        const prefix = several ? `${file.name}/` : "";
        try {
          const inside = await unpackArchive(file.path, file.name, { ...job, room, sink: unpacking.sink, onProgress });
          for (const entry of inside) entries.push(unpacking.judged({ ...entry, path: prefix + entry.path }));
        } catch (error) {
          // One archive of several that cannot be opened takes nothing of the others along.
          if (!several || !(error instanceof ProblemError)) throw error;
          entries.push(await closedArchive(file, error.problem));
        }
      } else entries.push(unpacking.judged(await unpacking.loose(file)));
    }
    const fonts = entries.filter((entry) => isFont(entry.kind));
    // Of a cut archive something has to have come through; of others, what was left out and why is worth a look.
    if (fonts.length > 0 && (!isCut(entries) || fonts.some((entry) => entry.sha256 !== ""))) {
      unpacking.tellFacts();
      await batch.commit();
      return { ok: true, entries };
    }
  } catch (error) {
    const known = error instanceof ProblemError ? error : diskFault(error);
    if (!known) throw error;
    return { ok: false, problem: known.problem };
  } finally {
    await batch.drop();
    await rm(job.staging, { recursive: true, force: true });
  }
  // Where an archive itself is in trouble, that is why there is nothing in it.
  const closed =
    job.files.length > 1 ? entries.find((entry) => entry.problem && job.files.some(({ name }) => name === entry.path)) : undefined;
  if (closed?.problem) return { ok: false, problem: { ...closed.problem, message: `${closed.path}: ${closed.problem.message}` } };
  if (isCut(entries)) return { ok: false, problem: CUT };
  const message = entries.length === 0 ? "There is nothing in it." : "There is no font in it.";
  return {
    ok: false,
    problem: { code: "parcel-no-fonts", message, next: "Check that you downloaded the font itself and not only its preview or licence." },
  };
}

/** An archive that came with others and could not be opened, as an entry that says why. */
async function closedArchive({ name, path }: { name: string; path: string }, problem: Problem): Promise<UnpackedEntry> {
  const { size } = await stat(path);
  const locked = problem.code.startsWith("archive-password");
  const next = locked ? "Drop this archive by itself and type its password; the others are here." : problem.next;
  return { path: name, kind: "archive", reason: "It could not be opened.", bytes: size, sha256: "", problem: { ...problem, next } };
}

async function probe({ path, name, staging, limits }: ProbeTask): Promise<ProbeOutcome> {
  try {
    const room = new Room(limits, (await stat(path)).size);
    const reader = await openArchive(path, name, { staging, limits, room, namesOnly: true });
    try {
      let seen = 0;
      for await (const entry of reader.entries()) {
        if (isFontName(entry.name) || sortEntry(entry.name, new Uint8Array()).kind === "archive") return null;
        if (++seen > limits.entries) return null;
      }
      return "There is no font in it.";
    } finally {
      await reader.close();
    }
  } catch {
    return null;
  }
}

async function firstBytes(path: string): Promise<Uint8Array> {
  const chunks: Buffer[] = [];
  for await (const chunk of createReadStream(path, { end: 15 }) as AsyncIterable<Buffer>) chunks.push(chunk);
  return Buffer.concat(chunks);
}

serve<ParcelTask, ParcelOutcome | ProbeOutcome, ParcelTold>((task, tell) => (task.kind === "unpack" ? unpack(task, tell) : probe(task)));
