// The worker threads that run core on large or hostile input, by kind of work.
import { stat } from "node:fs/promises";
import { join } from "node:path";
import type { EvidenceOutcome, EvidenceTask } from "./evidence.worker.ts";
import type { FontOutcome, FontTask } from "./font.worker.ts";
import type { KitTask } from "./kit.worker.ts";
import type { PaperOutcome, PaperTask } from "./paper.worker.ts";
import type { ParcelOutcome, ParcelTask, ParcelTold, ProbeOutcome, ProbeTask, UnpackTask } from "./parcel.worker.ts";
import type { PlaceOutcome, PlaceTask } from "./places.worker.ts";
import { Threads } from "./threads.ts";

/** Threads that take parcels apart: one waits for the disk half of its time. */
const PARCEL_THREADS = 3;
/** How many parcels are worked on at once: while what was found in some is stored, threads go on with others. */
export const AT_ONCE = PARCEL_THREADS + 2;
const SECOND = 1000;
const MIB = 1024 * 1024;

export class WorkPool {
  private readonly parcels: Threads<ParcelTask, ParcelOutcome | ProbeOutcome>;
  /** Short papers, and long ones in a queue of their own. */
  private readonly papers: { short: Threads<PaperTask[], PaperOutcome[]>; long: Threads<PaperTask[], PaperOutcome[]> };
  private readonly fonts: Threads<FontTask, unknown>;
  private readonly evidence: Threads<EvidenceTask, unknown>;
  private readonly kits: Threads<KitTask, void>;
  private readonly places: Threads<PlaceTask, PlaceOutcome>;
  private readonly checkpoints: Threads<{ library: string }, void>;

  constructor(workerDir: string) {
    const file = (name: string) => join(workerDir, `${name}.worker.mjs`);
    // Started at once and kept: the first parcel does not wait for a thread to load its code.
    this.parcels = new Threads({ file: file("parcel"), most: PARCEL_THREADS, kept: 2, memoryMib: 512 });
    this.papers = {
      short: new Threads({ file: file("paper"), most: 1, memoryMib: 384 }),
      long: new Threads({ file: file("paper"), most: 1, memoryMib: 512 }),
    };
    this.fonts = new Threads({ file: file("font"), most: 2, memoryMib: 512 });
    this.evidence = new Threads({ file: file("evidence"), most: 1, memoryMib: 1024, idleMs: 60 * SECOND });
    this.kits = new Threads({ file: file("kit"), most: 1, memoryMib: 384 });
    this.places = new Threads({ file: file("places"), most: 1, memoryMib: 512, idleMs: 120 * SECOND });
    this.checkpoints = new Threads({ file: file("checkpoint"), most: 1, memoryMib: 64 });
  }

  /** Takes a parcel apart, telling how far it is and what was found. */
  async unpack(task: Omit<UnpackTask, "kind">, onTold: (told: ParcelTold) => void): Promise<ParcelOutcome> {
    let bytes = 0;
    for (const { path } of task.files) bytes += (await stat(path).catch(() => ({ size: 0 }))).size;
    const deadlineMs = 120 * SECOND + (bytes / MIB) * SECOND;
    return (await this.parcels.run(
      { ...task, kind: "unpack" },
      { deadlineMs, onTold: (told) => onTold(told as ParcelTold) },
    )) as ParcelOutcome;
  }
  /** Why an archive is passed over; null when it is worth taking in. */
  async probe(task: Omit<ProbeTask, "kind">): Promise<ProbeOutcome> {
    return (await this.parcels.run({ ...task, kind: "probe" }, { deadlineMs: 60 * SECOND })) as ProbeOutcome;
  }
  readPapers(tasks: PaperTask[], long: boolean): Promise<PaperOutcome[]> {
    return this.papers[long ? "long" : "short"].run(tasks, { deadlineMs: (long ? 60 : 30) * SECOND });
  }
  async font<T extends FontTask>(task: T): Promise<FontOutcome<T>> {
    const transfer = task.kind === "inspect" ? task.fonts.flatMap(({ source }) => ("bytes" in source ? [buffer(source.bytes)] : [])) : [];
    return (await this.fonts.run(task, { deadlineMs: 120 * SECOND, transfer })) as FontOutcome<T>;
  }
  /** Reads an exported file or a picture. */
  async read<T extends EvidenceTask>(task: T): Promise<EvidenceOutcome<T>> {
    const candidates = task.kind === "picture" ? task.candidates : [];
    const held = new Set(candidates.flatMap((one) => ("bytes" in one ? [buffer(one.bytes)] : [])));
    return (await this.evidence.run(task, { deadlineMs: 180 * SECOND, transfer: [...held] })) as EvidenceOutcome<T>;
  }
  async makeKit(task: KitTask): Promise<void> {
    await this.kits.run(task, { deadlineMs: 600 * SECOND });
  }
  /** Where fonts stand in a program's list. */
  placesIn(task: PlaceTask): Promise<PlaceOutcome> {
    return this.places.run(task, { deadlineMs: 60 * SECOND });
  }
  /** Writes what was committed back into the database's file. */
  async checkpoint(library: string): Promise<void> {
    await this.checkpoints.run({ library }, { deadlineMs: 60 * SECOND });
  }
  /** Nothing that a person waits for is being unpacked. */
  get quiet(): boolean {
    return this.parcels.idle;
  }
  async close(): Promise<void> {
    const { parcels, papers, fonts, evidence, kits, places, checkpoints } = this;
    await Promise.all([parcels, papers.short, papers.long, fonts, evidence, kits, places, checkpoints].map((threads) => threads.close()));
  }
}

const buffer = (bytes: Uint8Array): ArrayBuffer => bytes.buffer as ArrayBuffer;
