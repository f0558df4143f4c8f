// Parcels: received, unpacked in a worker, shelved, removed.
import { readdir, rm } from "node:fs/promises";
import { join } from "node:path";
import type {
  EntryKind,
  ParcelDetail,
  ParcelEntry,
  ParcelProgress,
  ParcelStyle,
  ParcelSummary,
  ShelveResult,
} from "../../contract/parcel.ts";
import type { Problem } from "../../contract/problem.ts";
import { DEFAULT_LIMITS } from "../../core/archive/limits.ts";
import { isRightToLeftOnly, ownSample } from "../../core/coverage/text.ts";
import type { Inspection } from "../../core/inspect.ts";
import { groupFamilies } from "../../core/family/group.ts";
import { areLayers, compareToLibrary, KNOWN_WORDS, preferredTwin, twinGroups, type TwinFormat } from "../../core/family/kinship.ts";
import type { Context } from "../context.ts";
import { Fault, notFound } from "../fault.ts";
import type { EntryRow, ParcelFileRow, ParcelRow } from "../store/parcels.ts";
import { AT_ONCE, type WorkPool } from "../work/pool.ts";

const UNFORESEEN: Problem = {
  code: "unpack-failed",
  message: "Unpacking stopped because of a fault in Buvano.",
  next: "Try it again; what was there before is unchanged.",
};

export class ParcelService {
  private readonly context: Context;
  private readonly pool: WorkPool;
  private readonly running = new Map<number, ParcelProgress>();
  private readonly passwords = new Map<number, string>();
  private queue: number[] = [];
  private active = 0;
  private closed = false;
  private idle: (() => void)[] = [];

  constructor(context: Context, pool: WorkPool) {
    this.context = context;
    this.pool = pool;
  }

  /** Forgets uploads no parcel holds, and unpacks again what a stop interrupted. */
  async resume(): Promise<void> {
    const known = new Set(this.context.parcels.storedFiles());
    for (const name of await readdir(this.context.incoming)) {
      if (!known.has(name)) await rm(join(this.context.incoming, name), { force: true });
    }
    for (const id of this.context.parcels.unfinished()) this.enqueue(id);
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
    this.context.parcels.setState(id, "waiting");
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
        this.pump();
        if (this.active === 0) for (const done of this.idle.splice(0)) done();
      });
    }
  }

  /** Resolves once nothing is being unpacked. */
  whenIdle(): Promise<void> {
    return this.active === 0 && this.queue.length === 0 ? Promise.resolve() : new Promise((resolve) => this.idle.push(resolve));
  }

  private async unpack(id: number): Promise<void> {
    const { parcels, library, db, events, config, incoming } = this.context;
    if (!parcels.get(id)) return;
    parcels.setState(id, "unpacking");
    this.running.set(id, { entriesDone: 0, entriesTotal: null, bytesDone: 0 });
    events.changed("parcels");
    const filesDir = join(config.dataDir, "files");
    const files = parcels.files(id).map((file) => ({ name: file.name, path: join(incoming, file.stored_as) }));
    try {
      const outcome = await this.pool.unpack(
        {
          files,
          filesDir,
          staging: join(filesDir, "unfinished", `parcel-${id}`),
          limits: DEFAULT_LIMITS,
          password: this.passwords.get(id),
        },
        (progress) => {
          this.running.set(id, progress);
          events.tell({ topic: "progress", parcelId: id, progress });
        },
      );
      if (this.closed || !parcels.get(id)) return;
      if (!outcome.ok) parcels.setState(id, "failed", outcome.problem);
      else {
        // One transaction: the parcel is either whole or still to be unpacked.
        db.transaction(() => {
          for (const entry of outcome.entries) if (entry.faces.length > 0) library.addFaces(entry.sha256, entry.bytes, entry.faces);
          const rows = outcome.entries.map((entry): EntryRow => ({
            ...entry,
            problem: entry.problem ? JSON.stringify(entry.problem) : null,
          }));
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

  private row(id: number): ParcelRow {
    const row = this.context.parcels.get(id);
    if (!row) throw notFound("parcel");
    return row;
  }

  private drawers(entries: readonly EntryRow[]): ParcelDetail["drawers"] {
    const { library } = this.context;
    const seen = new Set<string>();
    const found: Listed[] = [];
    for (const entry of entries) {
      if ((entry.kind !== "font" && entry.kind !== "web font") || entry.sha256 === "") continue;
      for (const { sha256, face, record } of library.facesOf(entry.sha256)) {
        const key = `${sha256}#${face}`;
        if (seen.has(key)) continue;
        seen.add(key);
        found.push({ ...record, sha256, face, path: entry.path });
      }
    }
    const left = leftForTwins(found, this.context.settings.get().twinFormat);
    return groupFamilies(found).map((group) => ({
      family: group.family,
      notes: layerNotes(group.faces, found),
      styles: group.faces.map((face) => this.style(face, left.get(face) ?? "")),
    }));
  }

  private style(face: Listed, twin: string): ParcelStyle {
    const { library } = this.context;
    const { sha256, path, family, style, fullName, weight, italic, codepoints, container, verdict, findings } = face;
    const known = library.stylesNamed(family, style).flatMap((one) => compareToLibrary(face, { ...one.record, sha256: one.sha256 }) ?? []);
    return {
      ...{ sha256, face: face.face, path, family, style, fullName, weight, italic, codepoints, container, verdict, findings, twin },
      rightToLeft: isRightToLeftOnly(face.ranges),
      sample: ownSample(face.ranges),
      shelved: library.isShelved(sha256, face.face),
      known: known[0] && known[0] !== "same-bytes" ? KNOWN_WORDS[known[0]] : "",
    };
  }

  private toSummary(row: ParcelRow, entries: readonly EntryRow[], drawers: ParcelDetail["drawers"]): ParcelSummary {
    const counts: Partial<Record<EntryKind, number>> = {};
    for (const entry of entries) counts[entry.kind as EntryKind] = (counts[entry.kind as EntryKind] ?? 0) + 1;
    const styles = drawers.flatMap((drawer) => drawer.styles);
    return {
      id: row.id,
      name: row.name,
      bytes: row.bytes,
      state: row.state,
      progress: this.running.get(row.id) ?? null,
      problem: row.problem ? (JSON.parse(row.problem) as Problem) : null,
      arrivedAt: row.arrived_at,
      counts,
      families: drawers.length,
      styles: styles.length,
      shelvedStyles: styles.filter((style) => style.shelved).length,
      shelvableStyles: styles.filter((style) => !style.shelved && shelvable(style)).length,
      troubles: entries.filter((entry) => entry.problem !== null).length + styles.filter((style) => style.verdict === "refused").length,
    };
  }

  summary(id: number): ParcelSummary {
    const entries = this.context.parcels.entries(id);
    return this.toSummary(this.row(id), entries, this.drawers(entries));
  }
  list(): ParcelSummary[] {
    return this.context.parcels.all().map((row) => this.summary(row.id));
  }
  detail(id: number): ParcelDetail {
    const row = this.row(id);
    const entries = this.context.parcels.entries(id);
    const drawers = this.drawers(entries);
    const shown = entries.map((entry): ParcelEntry => ({
      ...entry,
      kind: entry.kind as EntryKind,
      problem: entry.problem ? (JSON.parse(entry.problem) as Problem) : null,
    }));
    const hasTwins = drawers.some((drawer) => drawer.styles.some((style) => style.twin !== ""));
    return { ...this.toSummary(row, entries, drawers), drawers, entries: shown, hasTwins };
  }

  /** Puts styles on the shelf: the named faces, or everything that is whole. */
  shelve(id: number, faces: readonly { sha256: string; face: number }[] | undefined): ShelveResult {
    const { db, library, history, events } = this.context;
    const parcel = this.row(id);
    if (parcel.state !== "ready") {
      throw new Fault(409, {
        code: "parcel-not-ready",
        message: "This parcel is not unpacked yet.",
        next: "Wait until it is, then shelve it.",
      });
    }
    const styles = this.detail(id).drawers.flatMap((drawer) => drawer.styles);
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

  /** Removes a parcel and the files it arrived as; what was shelved from it stays. */
  async remove(id: number): Promise<void> {
    this.row(id);
    const files = this.context.parcels.files(id);
    this.queue = this.queue.filter((waiting) => waiting !== id);
    this.context.parcels.remove(id);
    for (const file of files) await rm(join(this.context.incoming, file.stored_as), { force: true });
    this.context.events.changed("parcels");
  }

  close(): void {
    this.closed = true;
  }
}

/** Whole, and a file that computers and tablets install; web fonts must be unwrapped first. */
const whole = (style: ParcelStyle): boolean =>
  style.verdict !== "refused" && (style.container === "sfnt" || style.container === "collection");
const shelvable = (style: ParcelStyle): boolean => whole(style) && style.twin === "";

/** A face as its parcel lists it. */
type Listed = Inspection & { sha256: string; path: string };

/** Styles left in the parcel because their twin is taken, with the reason. */
function leftForTwins(faces: readonly Listed[], format: TwinFormat): Map<Listed, string> {
  const left = new Map<Listed, string>();
  for (const twins of twinGroups(faces.filter((face) => face.verdict !== "refused"))) {
    const taken = preferredTwin(twins, format);
    for (const twin of twins)
      if (taken && twin !== taken)
        left.set(twin, `The same style as ${taken.path.split("/").at(-1)}, which is taken; both would be listed twice.`);
  }
  return left;
}

function layerNotes(faces: readonly Listed[], all: readonly Listed[]): string[] {
  const others = new Set(all.filter((other) => faces.some((face) => areLayers(face, other))).map((other) => other.fullName));
  return others.size > 0 ? [`Made to be laid over ${[...others].join(", ")}, in another colour: letter by letter as wide.`] : [];
}
