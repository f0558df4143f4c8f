// Parcels: received, taken apart in a worker, shelved, removed.
import { rmSync } from "node:fs";
import { readdir, rm } from "node:fs/promises";
import { basename, extname, join } from "node:path";
import type { EarlyStyle, ParcelDetail, ParcelProgress, ParcelStyle, ParcelSummary, ShelveResult } from "../../../contract/parcels.ts";
import { limitsFrom } from "../../../core/archive/limits.ts";
import type { UnpackedEntry } from "../../../core/archive/unpack.ts";
import { diskFault } from "../../../core/disk/faults.ts";
import { ProblemError, type Problem } from "../../../core/problem.ts";
import { plainName } from "../../../core/words/plain.ts";
import { count } from "../../../core/words/words.ts";
import { othersFirst } from "../../../core/turns.ts";
import { Fault, notFound } from "../../fault.ts";
import { atOnce } from "../../../core/turns.ts";
import type { Parts } from "../../parts.ts";
import { patiently } from "../../patience.ts";
import { derived } from "../../store/database.ts";
import type { EntryRow, ParcelFileRow, ParcelRow } from "../../store/parcels/parcels.ts";
import { summarise } from "../../views/parcels.ts";
import type { Renewal } from "../../views/renewal.ts";
import { AT_ONCE, type WorkPool } from "../../work/pool.ts";
import { TaskLost } from "../../work/threads.ts";
import type { TextReader } from "../facts/facts.ts";
import type { FactWriter } from "../facts/writer.ts";
import { type ParcelContents, shelvable, whole } from "./contents.ts";

type Uses = Pick<
  Parts,
  | "config"
  | "db"
  | "library"
  | "parcels"
  | "readings"
  | "familyViews"
  | "history"
  | "files"
  | "settings"
  | "events"
  | "incoming"
  | "disk"
  | "now"
  | "parcelViews"
  | "stale"
>;

const notReady = (): Fault =>
  new Fault(409, { code: "parcel-not-ready", message: "This parcel is not unpacked yet.", next: "Wait until it is, then try again." });

const UNFORESEEN: Problem = {
  code: "unpack-failed",
  message: "Unpacking stopped because of a fault in Buvano.",
  next: "Try it again; what was there before is unchanged.",
};
const LOST: Record<Exclude<TaskLost["why"], "closed">, Problem> = {
  overran: {
    code: "unpack-overran",
    message: "Unpacking took longer than any download should, and was ended.",
    next: "Check where it comes from. Unpack the part you need yourself and drop that.",
  },
  memory: {
    code: "unpack-memory",
    message: "Unpacking took more memory than any download should, and was ended.",
    next: "Check where it comes from. Unpack the part you need yourself and drop that.",
  },
  died: UNFORESEEN,
};
const INTERRUPTED: Problem = {
  code: "unpack-interrupted",
  message: "Buvano ended while this was being unpacked.",
  next: "Try it again. If Buvano ends once more, leave it out and ask where it comes from.",
};

/** Entries stored between two pauses: some 10 ms of work. A request takes several turns, and waits for a piece at each. */
const ENTRIES_TOGETHER = 100;

export class ParcelService {
  private readonly uses: Uses;
  private readonly pool: WorkPool;
  private readonly contents: ParcelContents;
  private readonly writer: FactWriter;
  private readonly reader: TextReader;
  private readonly renewal: Renewal;
  private readonly running = new Map<number, { progress: ParcelProgress; files: Map<string, string> }>();
  private readonly passwords = new Map<number, string>();
  private queue: number[] = [];
  private active = 0;
  private closed = false;
  private idle: (() => void)[] = [];
  private readonly waitingFor = new Map<number, (() => void)[]>();

  constructor(uses: Uses, pool: WorkPool, contents: ParcelContents, writer: FactWriter, reader: TextReader, renewal: Renewal) {
    this.uses = uses;
    this.pool = pool;
    this.contents = contents;
    this.writer = writer;
    this.reader = reader;
    this.renewal = renewal;
  }

  /**
   * Forgets uploads no parcel holds, and unpacks what waits. What was being unpacked when Buvano ended without being stopped may be why it
   * ended: somebody has to try that again.
   */
  async resume(): Promise<void> {
    const known = new Set(this.uses.parcels.storedFiles());
    for (const name of await readdir(this.uses.incoming)) {
      if (!known.has(name)) await rm(join(this.uses.incoming, name), { force: true });
    }
    for (const { id, attempts } of this.uses.parcels.unfinished()) {
      if (attempts > 0) this.settle(id, INTERRUPTED);
      else this.enqueue(id);
    }
  }

  /** Takes in files that lie whole in the incoming folder; those of a parcel that cannot be noted are removed. */
  receive(name: string, files: ParcelFileRow[]): number {
    let id: number;
    try {
      id = this.uses.parcels.add(plainName(name) || "parcel", files, this.uses.now());
    } catch (error) {
      for (const { stored_as } of files) rmSync(join(this.uses.incoming, stored_as), { force: true });
      throw error;
    }
    this.enqueue(id);
    return id;
  }
  /** Notes that a parcel failed; on a disk that cannot be written to, once it can. */
  private settle(id: number, problem: Problem): void {
    this.uses.disk.attempt(() => {
      if (!this.closed) this.uses.parcels.setState(id, "failed", problem);
    });
  }

  /** Unpacks a failed parcel again; a password is used and not kept. */
  retry(id: number, password?: string): ParcelSummary {
    const row = this.row(id);
    if (row.state !== "failed")
      throw new Fault(409, { code: "parcel-not-failed", message: "This parcel was unpacked already.", next: "Look at what is in it." });
    if (password) this.passwords.set(id, password);
    this.enqueue(id);
    return this.summary(id);
  }

  /** Takes a parcel apart once more for the files in it, which may be gone from the library. What cannot be unpacked any more brings nothing. */
  async unpackAgain(id: number): Promise<void> {
    const { parcels, config, incoming } = this.uses;
    const filesDir = join(config.dataDir, "files");
    const files = parcels.files(id).map((file) => ({ name: file.name, path: join(incoming, file.stored_as) }));
    const staging = join(filesDir, "unfinished", `again-${id}`);
    await this.pool.unpack({ files, filesDir, staging, limits: limitsFrom(this.uses.settings.get().limits) }, () => {}).catch(() => {});
  }

  private enqueue(id: number): void {
    if (this.uses.parcels.get(id)?.state !== "waiting") this.uses.parcels.setState(id, "waiting");
    this.queue.push(id);
    this.uses.events.changed("parcels");
    this.pump();
  }

  private pump(): void {
    while (!this.closed && this.active < AT_ONCE && this.queue.length > 0) {
      const id = this.queue.shift()!;
      this.active++;
      void this.unpack(id).finally(() => {
        this.active--;
        for (const done of this.waitingFor.get(id) ?? []) done();
        this.waitingFor.delete(id);
        this.pump();
        if (this.active === 0) for (const done of this.idle.splice(0)) done();
      });
    }
  }

  /** Resolves once a parcel is unpacked, or has failed. */
  whenSettled(id: number): Promise<void> {
    const { state } = this.row(id);
    if (state === "ready" || state === "failed") return Promise.resolve();
    return new Promise((resolve) => this.waitingFor.set(id, [...(this.waitingFor.get(id) ?? []), resolve]));
  }

  /** Resolves once nothing is being unpacked, every paper is read and every view shows it. */
  async whenIdle(): Promise<void> {
    if (this.active > 0 || this.queue.length > 0) await new Promise<void>((resolve) => this.idle.push(resolve));
    await this.reader.whenRead(true);
    await this.renewal.settle();
  }

  private async unpack(id: number): Promise<void> {
    try {
      await this.takeApart(id);
    } catch (error) {
      if (this.closed || (error instanceof TaskLost && error.why === "closed")) return;
      if (!(error instanceof TaskLost) || error.why === "died")
        process.stderr.write(`Unpacking parcel ${id} failed: ${error instanceof Error ? error.stack : String(error)}\n`);
      this.uses.disk.report(error);
      const fault = diskFault(error);
      this.settle(id, error instanceof TaskLost ? LOST[error.why as keyof typeof LOST] : (fault?.problem ?? UNFORESEEN));
    } finally {
      this.running.delete(id);
      this.passwords.delete(id);
      if (!this.closed) this.uses.events.changed("parcels");
    }
  }

  private async takeApart(id: number): Promise<void> {
    const { parcels, events, config, incoming, db } = this.uses;
    if (!this.wanted(id)) return;
    // Lost with the power it would be waiting still.
    await patiently(() => derived(db, () => parcels.begin(id)));
    const found: EarlyStyle[] = [];
    const early = new Map<string, string>();
    this.running.set(id, { progress: { entriesDone: 0, entriesTotal: null, bytesDone: 0, found }, files: early });
    events.changed("parcels");
    const filesDir = join(config.dataDir, "files");
    const files = parcels.files(id).map((file) => ({ name: file.name, path: join(incoming, file.stored_as) }));
    const bringing = this.writer.begin();
    const outcome = await this.pool.unpack(
      {
        files,
        filesDir,
        staging: join(filesDir, "unfinished", `parcel-${id}`),
        limits: limitsFrom(this.uses.settings.get().limits),
        password: this.passwords.get(id),
      },
      (told) => {
        if ("faces" in told) return bringing.put(told.faces);
        const { progress, fresh } = told;
        for (const style of fresh) {
          found.push(style);
          early.set(style.sha256, style.at);
        }
        const all = { ...progress, found };
        this.running.set(id, { progress: all, files: early });
        events.tell({ topic: "progress", parcelId: id, progress: all });
      },
    );
    if (this.closed || !this.wanted(id)) return;
    if (!outcome.ok) {
      const { code, message, next } = outcome.problem;
      this.uses.disk.report(new ProblemError(code, message, next));
      return this.settle(id, outcome.problem);
    }
    // Faces are facts, whoever holds them; entries come in pieces, and the parcel is ready once all are there. A stop in between leaves it
    // unfinished, and it is taken apart again.
    await bringing.stored();
    for (let i = 0; i < outcome.entries.length; i += ENTRIES_TOGETHER) {
      const piece = outcome.entries.slice(i, i + ENTRIES_TOGETHER);
      const last = i + ENTRIES_TOGETHER >= outcome.entries.length;
      const store = () => {
        if (i === 0) parcels.removeEntries(id);
        for (const entry of piece) parcels.addEntry(id, toRow(entry));
        if (last) parcels.setState(id, "ready");
      };
      // The last piece is synced, and with it all before.
      await patiently(last ? db.transaction(store) : () => derived(db, store));
      await othersFirst();
      if (this.closed || !this.wanted(id)) return;
    }
    this.reader.poke();
  }

  /** Still in the list: it was not removed while it was worked on. */
  private wanted(id: number): boolean {
    return this.uses.parcels.get(id)?.removed_at === null;
  }

  private row(id: number): ParcelRow {
    const row = this.uses.parcels.get(id);
    if (!row) throw notFound("parcel");
    return row;
  }

  private progressOf(id: number): ParcelProgress | null {
    return this.running.get(id)?.progress ?? null;
  }
  summary(id: number): ParcelSummary {
    const row = this.row(id);
    this.renewal.freshen("parcel", id);
    // A disk that filled up this moment may have kept the parcel and not its row of the list.
    const summary = this.uses.parcelViews.parcel(id) ?? atOnce(summarise(this.uses, row));
    return { ...summary, progress: this.progressOf(id) };
  }
  /** Parcels that wait for somebody, those that do not, or all; the latest first. */
  list(waits: boolean | undefined, from: number, limit: number): { total: number; parcels: ParcelSummary[] } {
    const { total, rows } = this.uses.parcelViews.parcels(waits, from, limit);
    return { total, parcels: rows.map((row) => ({ ...row, progress: this.progressOf(row.id) })) };
  }
  shelvableIds(): number[] {
    return this.uses.parcelViews.shelvableParcels();
  }
  /** What is in a parcel, without what only its own page tells. */
  contentsOf(id: number): { summary: ParcelSummary; entries: EntryRow[]; styles: ParcelStyle[] } {
    return { summary: this.summary(id), entries: this.uses.parcels.entries(id), styles: this.contents.styles(this.row(id)) };
  }
  detail(id: number): ParcelDetail {
    return this.contents.detail(this.row(id), this.summary(id));
  }
  /** Where a file lies that was found in a parcel still being unpacked. */
  earlyFile(sha256: string): string | undefined {
    for (const { files } of this.running.values()) if (files.has(sha256)) return files.get(sha256);
    return undefined;
  }

  /** Puts styles on the shelf: the named faces, or everything that is whole. */
  shelve(id: number, faces: readonly { sha256: string; face: number }[] | undefined): ShelveResult {
    const { db, history, events } = this.uses;
    const parcel = this.row(id);
    if (parcel.state !== "ready") throw notReady();
    const styles = this.contents.styles(parcel);
    const asked = new Set(faces?.map((one) => `${one.sha256}#${one.face}`));
    // What is asked for by name is taken though its twin is there; of everything, one of each pair.
    const wanted = styles.filter((style) => (faces ? whole(style) && asked.has(`${style.sha256}#${style.face}`) : shelvable(style)));
    if (wanted.length === 0) {
      throw new Fault(422, {
        code: "nothing-to-shelve",
        message: "Nothing in this parcel can be shelved.",
        next: "Look at what is wrong with each file, and download the font again.",
      });
    }
    const shelved = db.transaction(() => {
      const { familyIds, styleIds } = this.putOnShelf(parcel, wanted);
      const sentence = `${count(styleIds.length, "style")} shelved from ${parcel.name}.`;
      const historyId =
        styleIds.length > 0 ? history.add(this.uses.now(), "shelved", sentence, familyIds, { kind: "shelved", styleIds }) : null;
      return { shelved: styleIds.length, familyIds, left: styles.length - wanted.length, parcels: 1, passedOver: 0, historyId };
    })();
    events.changed("parcels", "families");
    return shelved;
  }
  private putOnShelf(parcel: ParcelRow, wanted: readonly ParcelStyle[]): { familyIds: number[]; styleIds: number[] } {
    const familyIds = new Set<number>();
    const styleIds: number[] = [];
    const at = this.uses.now();
    for (const style of wanted) {
      const result = this.uses.library.shelve(style, parcel.id, style.path.split("/").at(-1)!, at);
      familyIds.add(result.familyId);
      if (result.added) styleIds.push(result.styleId);
    }
    return { familyIds: [...familyIds], styleIds };
  }

  /**
   * Shelves everything whole of several parcels; those that are not ready, or hold nothing more, are passed over. One entry of the history
   * takes all of it back; it grows with each parcel, so that a stop in between loses nothing.
   */
  async shelveMany(ids: readonly number[]): Promise<ShelveResult> {
    const { db, history, parcels } = this.uses;
    const styleIds: number[] = [];
    const familyIds = new Set<number>();
    let [historyId, from, passedOver]: [number | null, number, number] = [null, 0, 0];
    for (const id of ids) {
      await othersFirst();
      const parcel = parcels.get(id);
      const wanted =
        parcel?.state === "ready" && parcel.removed_at === null
          ? this.contents.styles(parcel).filter((style) => shelvable(style) && !style.shelved)
          : [];
      if (!parcel || wanted.length === 0) {
        passedOver++;
        continue;
      }
      db.transaction(() => {
        const put = this.putOnShelf(parcel, wanted);
        styleIds.push(...put.styleIds);
        for (const id of put.familyIds) familyIds.add(id);
        from++;
        const sentence = `${count(styleIds.length, "style")} shelved from ${from === 1 ? parcel.name : `${from} parcels`}.`;
        const undo = { kind: "shelved" as const, styleIds };
        if (historyId === null) historyId = history.add(this.uses.now(), "shelved", sentence, put.familyIds, undo);
        else history.extend(historyId, sentence, put.familyIds, undo);
      })();
    }
    if (from === 0) {
      throw new Fault(422, {
        code: "nothing-to-shelve",
        message: "None of these parcels holds anything that can be shelved now.",
        next: "Wait until they are unpacked, or look at what is wrong with each.",
      });
    }
    this.uses.events.changed("parcels", "families");
    return { shelved: styleIds.length, familyIds: [...familyIds], left: 0, parcels: from, passedOver, historyId };
  }

  /**
   * Unwraps web fonts to installable files, which lie in the parcel beside them. Throws a `Fault` when its papers forbid it.
   */
  async unwrap(id: number, files: readonly string[]): Promise<ParcelDetail> {
    const { db, parcels, events, config } = this.uses;
    const styles = this.contents.styles(this.row(id));
    const made: EntryRow[] = [];
    const bringing = this.writer.begin();
    for (const sha256 of new Set(files)) {
      const style = styles.find((one) => one.sha256 === sha256);
      if (!style?.unwrap) throw notFound("web font");
      if (!style.unwrap.allowed) {
        const next = "Ask whoever made it for a version to install.";
        throw new Fault(422, { code: "unwrap-forbidden", message: style.unwrap.reason, next });
      }
      const stem = style.path.replace(/\.woff2?$/i, "");
      const unwrapped = await this.pool.font({
        kind: "unwrap",
        path: this.uses.files.path(sha256),
        name: basename(stem, extname(style.path)),
        filesDir: join(config.dataDir, "files"),
      });
      if (!unwrapped.ok) throw new Fault(422, unwrapped.problem);
      bringing.put(unwrapped.faces);
      made.push({
        path: stem + unwrapped.ending,
        kind: "font",
        reason: `Unwrapped from ${style.path.split("/").at(-1)}; its tables are unchanged.`,
        bytes: unwrapped.bytes,
        sha256: unwrapped.sha256,
        problem: null,
      });
    }
    await bringing.stored();
    db.transaction(() => {
      const there = new Set(parcels.entries(id).map((entry) => entry.path));
      for (const entry of made) if (!there.has(entry.path)) parcels.addEntry(id, entry);
    })();
    this.reader.poke();
    events.changed("parcels");
    return this.detail(id);
  }

  /** Puts the archive aside to be deleted, or takes that back; what was unpacked from it stays. */
  clear(id: number, cleared: boolean): ParcelSummary {
    const row = this.row(id);
    if (row.state !== "ready") throw notReady();
    if (!cleared && this.uses.parcels.files(id).length === 0) {
      throw new Fault(409, {
        code: "archive-gone",
        message: "The archive is deleted already.",
        next: "Download it again if you need it; its fonts are still here.",
      });
    }
    const at = this.uses.now();
    this.uses.parcels.mark(id, "cleared_at", cleared ? at : null);
    if (cleared)
      this.uses.history.add(at, "cleared", `The archive of ${row.name} was put aside to be deleted.`, [], { kind: "archive-cleared", id });
    this.uses.events.changed("parcels");
    return this.summary(id);
  }

  /** Takes a parcel off the list, or puts it back; what was shelved from it stays either way. */
  remove(id: number, removed: boolean): void {
    const row = this.row(id);
    this.queue = this.queue.filter((waiting) => waiting !== id);
    const at = this.uses.now();
    this.uses.parcels.mark(id, "removed_at", removed ? at : null);
    if (removed) this.uses.history.add(at, "removed", `${row.name} was removed.`, [], { kind: "parcel-removed", id });
    if (!removed && (row.state === "waiting" || row.state === "unpacking")) this.enqueue(id);
    this.uses.events.changed("parcels");
  }

  /** Deletes what was set aside before `before` (ISO 8601), and files nothing refers to any more. */
  async tidy(before: string): Promise<void> {
    const { parcels, incoming } = this.uses;
    const deleteFiles = async (id: number) => {
      for (const file of parcels.files(id)) await rm(join(incoming, file.stored_as), { force: true });
    };
    for (const id of parcels.setAside("removed_at", before)) {
      await deleteFiles(id);
      // The papers of what is on the shelf are kept, and with them where they came from.
      if (parcels.hasShelved(id)) parcels.forgetFiles(id);
      else parcels.remove(id);
    }
    for (const id of parcels.setAside("cleared_at", before)) {
      await deleteFiles(id);
      parcels.forgetFiles(id);
    }
  }

  close(): void {
    this.closed = true;
    // That Buvano was stopped in good order is no fault of what was under way.
    this.uses.disk.attempt(() => this.uses.parcels.interrupt());
  }
}

const toRow = ({ path, kind, reason, bytes, sha256, problem }: UnpackedEntry): EntryRow => ({
  path,
  kind,
  reason,
  bytes,
  sha256,
  problem: problem ? JSON.stringify(problem) : null,
});
