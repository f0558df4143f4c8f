// Parcels: received, unpacked in a worker, shelved, removed.
import { readdir, rm } from "node:fs/promises";
import { basename, join } from "node:path";
import type { EarlyStyle, ParcelDetail, ParcelProgress, ParcelStyle, ParcelSummary, ShelveResult } from "../../contract/parcel.ts";
import type { Problem } from "../../contract/problem.ts";
import { limitsFrom } from "../../core/archive/limits.ts";
import { inspectFont, type Inspection } from "../../core/inspect.ts";
import { unwrapWebFont } from "../../core/sfnt/unwrap.ts";
import { isWoff2, loadWoff2 } from "../../core/sfnt/woff2.ts";
import type { Context } from "../context.ts";
import { Fault, notFound } from "../fault.ts";
import type { EntryRow, ParcelFileRow, ParcelRow } from "../store/parcels.ts";
import { AT_ONCE, type WorkPool } from "../work/pool.ts";
import type { ClearanceService } from "./clearance.ts";
import { ParcelContents, shelvable, whole } from "./parcel-contents.ts";
import type { Shelf } from "./shelf.ts";

const notReady = (): Fault =>
  new Fault(409, { code: "parcel-not-ready", message: "This parcel is not unpacked yet.", next: "Wait until it is, then try again." });

const UNFORESEEN: Problem = {
  code: "unpack-failed",
  message: "Unpacking stopped because of a fault in Buvano.",
  next: "Try it again; what was there before is unchanged.",
};

export class ParcelService {
  private readonly context: Context;
  private readonly pool: WorkPool;
  private readonly contents: ParcelContents;
  private readonly running = new Map<number, { progress: ParcelProgress; files: Map<string, string> }>();
  private readonly passwords = new Map<number, string>();
  private queue: number[] = [];
  private active = 0;
  private closed = false;
  private idle: (() => void)[] = [];
  private readonly waitingFor = new Map<number, (() => void)[]>();

  constructor(context: Context, pool: WorkPool, shelf: Shelf, clearance: ClearanceService) {
    this.context = context;
    this.pool = pool;
    this.contents = new ParcelContents(context, shelf, clearance);
  }

  /** Forgets uploads no parcel holds, and unpacks again what a stop interrupted. */
  async resume(): Promise<void> {
    const known = new Set(this.context.parcels.storedFiles());
    for (const name of await readdir(this.context.incoming)) {
      if (!known.has(name)) await rm(join(this.context.incoming, name), { force: true });
    }
    await this.refresh();
    for (const id of this.context.parcels.unfinished()) this.enqueue(id);
  }

  /** Reads fonts again whose records were made when Buvano knew less. */
  private async refresh(): Promise<void> {
    const { library, files } = this.context;
    for (const { sha256, bytes } of library.outdatedFiles()) {
      if (!(await files.has(sha256))) continue;
      const content = await files.read(sha256);
      const known = library.facesOf(sha256)[0];
      const result = inspectFont(content, known?.record.family ?? "", isWoff2(content) ? await loadWoff2() : undefined);
      if (result.ok) library.addFaces(sha256, bytes, result.value);
    }
    library.everythingChanged();
  }

  /** Takes in files that lie whole in the incoming folder. */
  receive(name: string, files: ParcelFileRow[]): number {
    const id = this.context.parcels.add(name, files, this.context.now());
    this.enqueue(id);
    return id;
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

  private enqueue(id: number): void {
    if (this.context.parcels.get(id)?.state !== "waiting") this.context.parcels.setState(id, "waiting");
    this.queue.push(id);
    this.context.events.changed("parcels");
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

  /** Resolves once nothing is being unpacked. */
  whenIdle(): Promise<void> {
    return this.active === 0 && this.queue.length === 0 ? Promise.resolve() : new Promise((resolve) => this.idle.push(resolve));
  }

  private async unpack(id: number): Promise<void> {
    const { parcels, library, db, events, config, incoming } = this.context;
    if (!this.wanted(id)) return;
    parcels.setState(id, "unpacking");
    const found: EarlyStyle[] = [];
    const early = new Map<string, string>();
    this.running.set(id, { progress: { entriesDone: 0, entriesTotal: null, bytesDone: 0, found }, files: early });
    events.changed("parcels");
    const filesDir = join(config.dataDir, "files");
    const files = parcels.files(id).map((file) => ({ name: file.name, path: join(incoming, file.stored_as) }));
    try {
      const outcome = await this.pool.unpack(
        {
          files,
          filesDir,
          staging: join(filesDir, "unfinished", `parcel-${id}`),
          limits: limitsFrom(this.context.settings.get().limits),
          password: this.passwords.get(id),
        },
        ({ progress, fresh }) => {
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
      if (!outcome.ok) parcels.setState(id, "failed", outcome.problem);
      else {
        // One transaction: the parcel is either whole or still to be unpacked.
        db.transaction(() => {
          for (const entry of outcome.entries) if (entry.faces.length > 0) library.addFaces(entry.sha256, entry.bytes, entry.faces);
          const rows = outcome.entries.map((entry): EntryRow => ({
            ...entry,
            problem: entry.problem ? JSON.stringify(entry.problem) : null,
          }));
          for (const paper of outcome.papers) parcels.putPaperText(paper);
          parcels.replaceEntries(id, rows);
          parcels.setState(id, "ready");
        })();
      }
    } catch (error) {
      if (this.closed) return;
      process.stderr.write(`Unpacking parcel ${id} failed: ${error instanceof Error ? error.stack : String(error)}\n`);
      parcels.setState(id, "failed", UNFORESEEN);
    } finally {
      this.running.delete(id);
      this.passwords.delete(id);
      if (!this.closed) events.changed("parcels");
    }
  }

  /** Still in the list: it was not removed while it was worked on. */
  private wanted(id: number): boolean {
    return this.context.parcels.get(id)?.removed_at === null;
  }

  private row(id: number): ParcelRow {
    const row = this.context.parcels.get(id);
    if (!row) throw notFound("parcel");
    return row;
  }

  private progressOf(id: number): ParcelProgress | null {
    return this.running.get(id)?.progress ?? null;
  }
  summary(id: number): ParcelSummary {
    return this.contents.summary(this.row(id), this.progressOf(id));
  }
  list(): ParcelSummary[] {
    return this.context.parcels.all().map((row) => this.contents.summary(row, this.progressOf(row.id)));
  }
  /** What is in a parcel, without what only its own page tells. */
  contentsOf(id: number): { summary: ParcelSummary; entries: EntryRow[]; styles: ParcelStyle[] } {
    const summary = this.summary(id);
    return { summary, entries: this.context.parcels.entries(id), styles: this.contents.styles(this.row(id)) };
  }
  detail(id: number): ParcelDetail {
    return this.contents.detail(this.row(id), this.progressOf(id));
  }
  /** Where a file lies that was found in a parcel still being unpacked. */
  earlyFile(sha256: string): string | undefined {
    for (const { files } of this.running.values()) if (files.has(sha256)) return files.get(sha256);
    return undefined;
  }

  /** Puts styles on the shelf: the named faces, or everything that is whole. */
  shelve(id: number, faces: readonly { sha256: string; face: number }[] | undefined): ShelveResult {
    const { db, library, history, events } = this.context;
    const parcel = this.row(id);
    if (parcel.state !== "ready") throw notReady();
    const styles = this.contents.styles(parcel);
    const named = (style: ParcelStyle) => faces!.some((one) => one.sha256 === style.sha256 && one.face === style.face);
    // What is asked for by name is taken though its twin is there; of everything, one of each pair.
    const wanted = styles.filter((style) => (faces ? whole(style) && named(style) : shelvable(style)));
    if (wanted.length === 0) {
      throw new Fault(422, {
        code: "nothing-to-shelve",
        message: "Nothing in this parcel can be shelved.",
        next: "Look at what is wrong with each file, and download the font again.",
      });
    }
    const familyIds = new Set<number>();
    let added = 0;
    db.transaction(() => {
      const at = this.context.now();
      for (const style of wanted) {
        const face = library.facesOf(style.sha256).find((one) => one.face === style.face)!;
        const result = library.shelve(face, id, style.path.split("/").at(-1)!, at);
        familyIds.add(result.familyId);
        if (result.added) added++;
      }
      if (added > 0)
        history.add(at, "shelved", `${added} ${added === 1 ? "style" : "styles"} shelved from ${parcel.name}.`, [...familyIds]);
    })();
    events.changed("parcels", "families");
    return { shelved: added, familyIds: [...familyIds], left: styles.length - wanted.length };
  }

  /**
   * Unwraps web fonts to installable files, which lie in the parcel beside them. Throws a `Fault` when its papers forbid it.
   */
  async unwrap(id: number, files: readonly string[]): Promise<ParcelDetail> {
    const { db, library, parcels, events } = this.context;
    const styles = this.contents.styles(this.row(id));
    const batch = this.context.files.batch();
    try {
      const made: { entry: EntryRow; faces: Inspection[] }[] = [];
      for (const sha256 of new Set(files)) {
        const style = styles.find((one) => one.sha256 === sha256);
        if (!style?.unwrap) throw notFound("web font");
        if (!style.unwrap.allowed) {
          const next = "Ask whoever made it for a version to install.";
          throw new Fault(422, { code: "unwrap-forbidden", message: style.unwrap.reason, next });
        }
        const packed = await this.context.files.read(sha256);
        const { bytes, ending } = unwrapWebFont(packed, isWoff2(packed) ? await loadWoff2() : undefined);
        const path = style.path.replace(/\.woff2?$/i, "") + ending;
        const stored = await batch.put([bytes]);
        const inspected = inspectFont(bytes, basename(path, ending));
        if (!inspected.ok) throw new Fault(422, inspected.problem);
        const reason = `Unwrapped from ${style.path.split("/").at(-1)}; its tables are unchanged.`;
        made.push({
          entry: { path, kind: "font", reason, bytes: bytes.length, sha256: stored.sha256, problem: null },
          faces: inspected.value,
        });
      }
      await batch.commit();
      db.transaction(() => {
        const there = new Set(parcels.entries(id).map((entry) => entry.path));
        for (const { entry, faces } of made) {
          library.addFaces(entry.sha256, entry.bytes, faces);
          if (!there.has(entry.path)) parcels.addEntry(id, entry);
        }
      })();
    } finally {
      await batch.drop();
    }
    events.changed("parcels");
    return this.detail(id);
  }

  /** Puts the archive aside to be deleted, or takes that back; what was unpacked from it stays. */
  clear(id: number, cleared: boolean): ParcelSummary {
    const row = this.row(id);
    if (row.state !== "ready") throw notReady();
    if (!cleared && this.context.parcels.files(id).length === 0) {
      throw new Fault(409, {
        code: "archive-gone",
        message: "The archive is deleted already.",
        next: "Download it again if you need it; its fonts are still here.",
      });
    }
    this.context.parcels.mark(id, "cleared_at", cleared ? this.context.now() : null);
    this.context.events.changed("parcels");
    return this.summary(id);
  }

  /** Takes a parcel off the list, or puts it back; what was shelved from it stays either way. */
  remove(id: number, removed: boolean): void {
    const row = this.row(id);
    this.queue = this.queue.filter((waiting) => waiting !== id);
    this.context.parcels.mark(id, "removed_at", removed ? this.context.now() : null);
    if (!removed && (row.state === "waiting" || row.state === "unpacking")) this.enqueue(id);
    this.context.events.changed("parcels");
  }

  /** Deletes what was set aside before `before` (ISO 8601), and files nothing refers to any more. */
  async tidy(before: string): Promise<void> {
    const { parcels, incoming } = this.context;
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
  }
}
