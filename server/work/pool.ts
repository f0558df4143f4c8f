// The workers that run core on large or hostile input, by kind of work: each a process of its own.
import { stat } from "node:fs/promises";
import { join } from "node:path";
import type { CutOutcome, CutTask } from "./cut.worker.ts";
import type { EvidenceOutcome, EvidenceTask } from "./evidence.worker.ts";
import type { FontOutcome, FontTask } from "./font.worker.ts";
import type { AskedProof } from "../../core/bench/proof-of.ts";
import type { GlyphsRead, GlyphTask, ProofSource } from "./glyphs.worker.ts";
import type { MatchOutcomes, MatchTask, MatchTold } from "./match.worker.ts";
import type { BundleTask, KitTask } from "./kit.worker.ts";
import type { PaperOutcome, PaperTask } from "./paper.worker.ts";
import type { ParcelOutcome, ParcelTask, ParcelTold, ProbeOutcome, ProbeTask, UnpackTask } from "./parcel.worker.ts";
import type { BackupTask, BackupTold } from "./backup.worker.ts";
import type { BackupMade } from "../backup/backup.ts";
import type { PlaceOutcome, PlaceTask } from "./places.worker.ts";
import type { PracticeAnswer, PracticeTask } from "./practice.worker.ts";
import { Threads, type ThreadOptions } from "./threads.ts";

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
  private readonly kits: Threads<KitTask | BundleTask, void>;
  private readonly places: Threads<PlaceTask, PlaceOutcome>;
  private readonly glyphs: Threads<GlyphTask, GlyphsRead | Uint8Array | number[]>;
  private readonly signs: Threads<GlyphTask, GlyphsRead | Uint8Array | number[]>;
  private readonly cuts: Threads<CutTask, CutOutcome>;
  private readonly drawings: Threads<CutTask, CutOutcome>;
  private readonly matches: Threads<MatchTask, MatchOutcomes[MatchTask["kind"]]>;
  private readonly measures: Threads<MatchTask, MatchOutcomes[MatchTask["kind"]]>;
  private readonly backups: Threads<BackupTask, BackupMade>;
  private readonly practice: Threads<PracticeTask, PracticeAnswer>;
  private readonly checkpoints: Threads<{ library: string }, void>;
  private readonly all: { close: () => Promise<void> }[] = [];

  constructor(workerDir: string) {
    const made = <Task, Outcome>(name: string, options: Omit<ThreadOptions, "file">): Threads<Task, Outcome> => {
      const workers = new Threads<Task, Outcome>({ file: join(workerDir, `${name}.worker.mjs`), ...options });
      this.all.push(workers);
      return workers;
    };
    // Started at once and kept: the first parcel does not wait for a thread to load its code.
    this.parcels = made("parcel", { most: PARCEL_THREADS, kept: 2, memoryMib: 512, besideMib: 1500 });
    this.papers = {
      short: made("paper", { most: 1, memoryMib: 256, besideMib: 600 }),
      long: made("paper", { most: 1, memoryMib: 384, besideMib: 800 }),
    };
    this.fonts = made("font", { most: 2, memoryMib: 512, besideMib: 900 });
    this.evidence = made("evidence", { most: 3, memoryMib: 512, besideMib: 900, idleMs: 60 * SECOND });
    this.kits = made("kit", { most: 1, memoryMib: 384, besideMib: 600 });
    this.places = made("places", { most: 1, memoryMib: 512, besideMib: 400, idleMs: 120 * SECOND });
    this.glyphs = made("glyphs", { most: 2, memoryMib: 512, besideMib: 600, idleMs: 30 * SECOND });
    this.signs = made("glyphs", { most: 1, memoryMib: 384, besideMib: 400, idleMs: 120 * SECOND });
    this.cuts = made("cut", { most: 1, memoryMib: 768, besideMib: 600, idleMs: 60 * SECOND });
    // Drawings that came from anywhere hold up no cut.
    this.drawings = made("cut", { most: 1, memoryMib: 512, besideMib: 600, idleMs: 30 * SECOND });
    // The thread that matches keeps the index, and pictures of 16 million pixels take their room.
    this.matches = made("match", { most: 1, memoryMib: 768, besideMib: 1200, idleMs: 120 * SECOND });
    this.measures = made("match", { most: 2, memoryMib: 384, besideMib: 900, idleMs: 10 * SECOND });
    this.backups = made("backup", { most: 1, memoryMib: 512, besideMib: 600, idleMs: 10 * SECOND });
    // Programs stay open in it.
    this.practice = made("practice", { most: 1, memoryMib: 512, besideMib: 600, idleMs: FOR_GOOD_MS });
    // It reads nothing that came from anywhere.
    this.checkpoints = made("checkpoint", { most: 1, memoryMib: 64, besideMib: undefined, apart: "thread" });
  }

  /** Takes a parcel apart, telling how far it is and what was found. */
  async unpack(task: Omit<UnpackTask, "kind">, onTold: (told: ParcelTold) => void): Promise<ParcelOutcome> {
    const deadlineMs = 10 * SECOND + 2 * SECOND * ((await bytesOf(task.files.map(({ path }) => path))) / MIB);
    return (await this.parcels.run(
      { ...task, kind: "unpack" },
      { deadlineMs, onTold: (told) => onTold(told as ParcelTold) },
    )) as ParcelOutcome;
  }
  /** Why an archive is passed over; null when it is worth taking in. */
  async probe(task: Omit<ProbeTask, "kind">): Promise<ProbeOutcome> {
    return (await this.parcels.run(
      { ...task, kind: "probe" },
      { deadlineMs: 5 * SECOND + SECOND * ((await bytesOf([task.path])) / MIB) },
    )) as ProbeOutcome;
  }
  /** A short paper may take two seconds, a long one longer by its size. */
  async readPapers(tasks: PaperTask[], long: boolean): Promise<PaperOutcome[]> {
    const bytes = await bytesOf(tasks.flatMap((task) => (task.kind === "paper" ? [task.at] : [])));
    const deadlineMs = Math.min(60 * SECOND, 2 * SECOND + (tasks.length - 1) * 200 + (bytes / PAPER_BYTES_A_SECOND) * SECOND);
    return this.papers[long ? "long" : "short"].run(tasks, { deadlineMs });
  }
  async font<T extends FontTask>(task: T): Promise<FontOutcome<T>> {
    const transfer = task.kind === "inspect" ? task.fonts.flatMap(({ source }) => ("bytes" in source ? [buffer(source.bytes)] : [])) : [];
    return (await this.fonts.run(task, { deadlineMs: fontDeadline(task), transfer })) as FontOutcome<T>;
  }
  /** Reads an exported file or a picture. */
  async read<T extends EvidenceTask>(task: T): Promise<EvidenceOutcome<T>> {
    const candidates = task.kind === "picture" ? task.candidates : [];
    const held = new Set(candidates.flatMap((one) => ("bytes" in one ? [buffer(one.bytes)] : [])));
    const deadlineMs =
      task.kind === "picture"
        ? PICTURE_MS + candidates.length * CANDIDATE_MS
        : (task.kind === "needs" ? NEEDS_MS : EVIDENCE_MS) +
          ((await bytesOf([task.path])) / EVIDENCE_BYTES_A_SECOND) * SECOND +
          (task.kind === "document" ? (task.styles.length - 1) * STYLE_MS : 0);
    return (await this.evidence.run(task, { deadlineMs, transfer: [...held] })) as EvidenceOutcome<T>;
  }
  async makeKit(task: KitTask | BundleTask): Promise<void> {
    await this.kits.run(task, { deadlineMs: 600 * SECOND });
  }
  /** Where fonts stand in a program's list. */
  placesIn(task: PlaceTask): Promise<PlaceOutcome> {
    return this.places.run(task, { deadlineMs: 60 * SECOND });
  }
  /** What a face's glyphs are, and how each is reached. */
  async readGlyphs(path: string, face: number): Promise<GlyphsRead> {
    const deadlineMs = 20 * SECOND + SECOND * ((await bytesOf([path])) / MIB);
    return (await this.glyphs.run({ kind: "glyphs", path, face }, { deadlineMs })) as GlyphsRead;
  }
  /** Signs of Unicode by word; the thread keeps its lists, so it is one of its own. */
  async findSigns(words: readonly string[], most: number): Promise<number[]> {
    return (await this.signs.run({ kind: "signs", words, most }, { deadlineMs: 10 * SECOND })) as number[];
  }
  /** Which glyphs of a face look like one of them. */
  async alikeGlyphs(path: string, face: number, glyph: number, most: number): Promise<number[]> {
    return (await this.glyphs.run({ kind: "alike", path, face, glyph, most }, { deadlineMs: 30 * SECOND })) as number[];
  }
  /** The order of styles by how they draw a character. */
  async letterOrder(styles: { path: string; face: number }[], codePoint: number, to: number): Promise<number[]> {
    return (await this.glyphs.run(
      { kind: "letters", styles, codePoint, to },
      { deadlineMs: (10 + styles.length / 20) * SECOND },
    )) as number[];
  }
  async makeProof(proof: AskedProof, sources: ProofSource[]): Promise<Uint8Array> {
    return (await this.glyphs.run({ kind: "proof", proof, sources }, { deadlineMs: 30 * SECOND })) as Uint8Array;
  }
  /** Files of a cut, what a drawing was made from or what a machine would follow in it, or why not. */
  cut(task: CutTask): Promise<CutOutcome> {
    if (task.kind === "files") return this.cuts.run(task, { deadlineMs: 60 * SECOND });
    return this.drawings.run(task, { deadlineMs: 30 * SECOND });
  }
  /** What is measured of faces; null for one without letters. */
  async measureFaces(faces: readonly { path: string; face: number }[]): Promise<MatchOutcomes["measure"]> {
    const bytes = await bytesOf(faces.map(({ path }) => path));
    const deadlineMs = 5 * SECOND + faces.length * SECOND + (bytes / MIB) * SECOND;
    return (await this.measures.run({ kind: "measure", faces }, { deadlineMs })) as MatchOutcomes["measure"];
  }
  /** Reads a picture of lettering, finds fonts for it, or faces that look alike. */
  async match<K extends Exclude<MatchTask["kind"], "measure">>(
    task: MatchTask & { kind: K },
    onTold?: (told: MatchTold) => void,
    signal?: AbortSignal,
  ): Promise<MatchOutcomes[K]> {
    return (await this.matches.run(task, {
      deadlineMs: 90 * SECOND,
      ...(onTold ? { onTold: (told: unknown) => onTold(told as MatchTold) } : {}),
      ...(signal ? { signal } : {}),
    })) as MatchOutcomes[K];
  }
  /** Has a practice program do something; it holds no other work up than that of practice programs. */
  async practise<K extends PracticeTask["kind"]>(task: Extract<PracticeTask, { kind: K }>): Promise<PracticeAnswer<K>> {
    const lines = "lines" in task ? task.lines.length : 1;
    return (await this.practice.run(task, { deadlineMs: (PRACTICE_S + lines / 10) * SECOND })) as PracticeAnswer<K>;
  }
  /** Makes a backup of the library, however long that takes. */
  backUp(task: BackupTask, onTold: (told: BackupTold) => void): Promise<BackupMade> {
    return this.backups.run(task, { deadlineMs: 12 * 3600 * SECOND, onTold: (told) => onTold(told as BackupTold) });
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
    await Promise.all(this.all.map((threads) => threads.close()));
  }
}

/** A practice program that computes for longer over a text is ended. */
const PRACTICE_S = 10;
/** As long as timers reach: 24 days. */
const FOR_GOOD_MS = 2 ** 31 - 1;
/** How many bytes of a paper are read in a second at the slowest: PDFs of many pages. */
const PAPER_BYTES_A_SECOND = 100_000;
/** A page or two are evidence; what is asked for its fonts may be long. */
const EVIDENCE_MS = 4 * SECOND;
const NEEDS_MS = 10 * SECOND;
const EVIDENCE_BYTES_A_SECOND = 3 * MIB;
/** Each further style a file is judged for. */
const STYLE_MS = 150;
/** A picture is small once read; comparing it with many fonts takes its time. */
const PICTURE_MS = 30 * SECOND;
/** Each font it may show. */
const CANDIDATE_MS = 15;

/** Single files are bounded by what reading them may take; profiles and comparisons are of files that were read before. */
const fontDeadline = (task: FontTask): number => {
  if (task.kind === "inspect") return (4 + 2 * task.fonts.length) * SECOND;
  return (task.kind === "unwrap" ? 10 : 60) * SECOND;
};

async function bytesOf(paths: readonly string[]): Promise<number> {
  const sizes = await Promise.all(paths.map((path) => stat(path).catch(() => ({ size: 0 }))));
  return sizes.reduce((sum, { size }) => sum + size, 0);
}

const buffer = (bytes: Uint8Array): ArrayBuffer => bytes.buffer as ArrayBuffer;
