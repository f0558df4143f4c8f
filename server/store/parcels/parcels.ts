// Queries on parcels, the files they arrived as and their entries.
import type { ParcelState } from "../../../contract/parcels.ts";
import type { Problem } from "../../../contract/problem.ts";
import type { Db } from "../database.ts";

export interface ParcelRow {
  id: number;
  name: string;
  bytes: number;
  state: ParcelState;
  problem: string | null;
  /** How often it was begun since it last came to an end. */
  attempts: number;
  arrived_at: string;
  cleared_at: string | null;
  removed_at: string | null;
}
export interface ParcelFileRow {
  name: string;
  stored_as: string;
  bytes: number;
}
export interface EntryRow {
  path: string;
  kind: string;
  reason: string;
  bytes: number;
  sha256: string;
  problem: string | null;
}

export class ParcelStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }

  add(name: string, files: readonly ParcelFileRow[], arrivedAt: string): number {
    return this.db.transaction(() => {
      const bytes = files.reduce((sum, file) => sum + file.bytes, 0);
      const { lastInsertRowid } = this.db
        .prepare("INSERT INTO parcels (name, bytes, state, arrived_at) VALUES (?, ?, 'waiting', ?)")
        .run(name, bytes, arrivedAt);
      const id = Number(lastInsertRowid);
      const insert = this.db.prepare("INSERT INTO parcel_files (parcel_id, name, stored_as, bytes) VALUES (?, ?, ?, ?)");
      for (const file of files) insert.run(id, file.name, file.stored_as, file.bytes);
      return id;
    })();
  }

  get(id: number): ParcelRow | undefined {
    return this.db.prepare("SELECT * FROM parcels WHERE id = ?").get(id) as ParcelRow | undefined;
  }
  /** Parcels that were not taken off the list. */
  all(): ParcelRow[] {
    return this.db.prepare("SELECT * FROM parcels WHERE removed_at IS NULL ORDER BY id DESC").all() as ParcelRow[];
  }
  files(id: number): ParcelFileRow[] {
    return this.db.prepare("SELECT name, stored_as, bytes FROM parcel_files WHERE parcel_id = ? ORDER BY id").all(id) as ParcelFileRow[];
  }
  entries(id: number): EntryRow[] {
    return this.db
      .prepare("SELECT path, kind, reason, bytes, sha256, problem FROM parcel_entries WHERE parcel_id = ? ORDER BY id")
      .all(id) as EntryRow[];
  }
  /** What lists say of a parcel's entries, without each of them. */
  entryCounts(id: number): { counts: Record<string, number>; troubles: number; beingRead: number } {
    const rows = this.db
      .prepare("SELECT kind, count(*) AS entries, count(problem) AS troubles FROM parcel_entries WHERE parcel_id = ? GROUP BY kind")
      .all(id) as { kind: string; entries: number; troubles: number }[];
    const beingRead = this.db
      .prepare(
        `SELECT count(*) FROM parcel_entries e LEFT JOIN readings r ON r.key = e.sha256
         WHERE e.parcel_id = ? AND e.kind = 'paper' AND e.sha256 <> '' AND r.reading IS NULL`,
      )
      .pluck()
      .get(id) as number;
    const counts = Object.fromEntries(rows.map(({ kind, entries }) => [kind, entries]));
    return { counts, troubles: rows.reduce((sum, row) => sum + row.troubles, 0), beingRead };
  }
  /** Entries that are fonts. */
  fontEntries(id: number): EntryRow[] {
    return this.db
      .prepare(
        "SELECT path, kind, reason, bytes, sha256, problem FROM parcel_entries WHERE parcel_id = ? AND kind IN ('font', 'web font') ORDER BY id",
      )
      .all(id) as EntryRow[];
  }
  /** Parcels that were being unpacked, or waiting, when the server last stopped; with how often each was begun. */
  unfinished(): { id: number; attempts: number }[] {
    return this.db
      .prepare("SELECT id, attempts FROM parcels WHERE state IN ('waiting', 'unpacking') AND removed_at IS NULL ORDER BY id")
      .all() as { id: number; attempts: number }[];
  }
  /** Before the work: whoever does not survive it has tried. */
  begin(id: number): void {
    this.db.prepare("UPDATE parcels SET state = 'unpacking', problem = NULL, attempts = attempts + 1 WHERE id = ?").run(id);
  }

  /** Downloads as they arrived, of parcels that wait for nobody and were not let go: which, and how large together. */
  originals(): { ids: number[]; bytes: number } {
    const rows = this.db
      .prepare(
        `SELECT p.id, sum(f.bytes) AS bytes FROM parcels p JOIN parcel_files f ON f.parcel_id = p.id JOIN parcel_views v ON v.parcel_id = p.id
         WHERE p.state = 'ready' AND p.cleared_at IS NULL AND p.removed_at IS NULL AND v.waits = 0 GROUP BY p.id ORDER BY p.id`,
      )
      .all() as { id: number; bytes: number }[];
    return { ids: rows.map(({ id }) => id), bytes: rows.reduce((sum, { bytes }) => sum + bytes, 0) };
  }
  /** What was being unpacked when Buvano was stopped in good order goes on when it starts again. */
  interrupt(): void {
    this.db.prepare("UPDATE parcels SET state = 'waiting', attempts = 0 WHERE state = 'unpacking'").run();
  }
  storedFiles(): string[] {
    return this.db.prepare("SELECT stored_as FROM parcel_files").pluck().all() as string[];
  }

  /** Parcels, or their archives, set aside before `before` to be deleted. */
  setAside(what: "cleared_at" | "removed_at", before: string): number[] {
    return this.db.prepare(`SELECT id FROM parcels WHERE ${what} < ? ORDER BY id`).pluck().all(before) as number[];
  }
  mark(id: number, what: "cleared_at" | "removed_at", at: string | null): void {
    this.db.prepare(`UPDATE parcels SET ${what} = ? WHERE id = ?`).run(at, id);
  }
  forgetFiles(id: number): void {
    this.db.prepare("DELETE FROM parcel_files WHERE parcel_id = ?").run(id);
  }
  /** Whether styles on the shelf came from a parcel: its papers are still wanted. */
  hasShelved(id: number): boolean {
    return this.db.prepare("SELECT 1 FROM shelved_styles WHERE parcel_id = ? LIMIT 1").get(id) !== undefined;
  }
  /** Digests of everything parcels hold. */
  heldFiles(): string[] {
    return this.db.prepare("SELECT DISTINCT sha256 FROM parcel_entries WHERE sha256 <> ''").pluck().all() as string[];
  }

  addEntry(id: number, entry: EntryRow): void {
    this.db
      .prepare("INSERT INTO parcel_entries (parcel_id, path, kind, reason, bytes, sha256, problem) VALUES (?, ?, ?, ?, ?, ?, ?)")
      .run(id, entry.path, entry.kind, entry.reason, entry.bytes, entry.sha256, entry.problem);
  }

  setState(id: number, state: ParcelState, problem: Problem | null = null): void {
    this.db
      .prepare("UPDATE parcels SET state = ?, problem = ?, attempts = 0 WHERE id = ?")
      .run(state, problem && JSON.stringify(problem), id);
  }

  removeEntries(id: number): void {
    this.db.prepare("DELETE FROM parcel_entries WHERE parcel_id = ?").run(id);
  }

  remove(id: number): void {
    this.db.prepare("DELETE FROM parcels WHERE id = ?").run(id);
  }

  /** Where a paper came from: the first parcel that holds these bytes. */
  paper(sha256: string): { path: string; parcelId: number; parcelName: string } | undefined {
    return this.db
      .prepare(
        `SELECT e.path, p.id AS parcelId, p.name AS parcelName FROM parcel_entries e JOIN parcels p ON p.id = e.parcel_id
         WHERE e.sha256 = ? AND e.kind = 'paper' ORDER BY e.id LIMIT 1`,
      )
      .get(sha256) as ReturnType<ParcelStore["paper"]>;
  }

  /** A parcel's papers. */
  papers(id: number): { path: string; sha256: string }[] {
    return this.db
      .prepare("SELECT path, sha256 FROM parcel_entries WHERE parcel_id = ? AND kind = 'paper' AND sha256 <> '' ORDER BY id")
      .all(id) as { path: string; sha256: string }[];
  }
  /** Names of the families whose faces lie in a parcel. */
  familyNames(id: number): string[] {
    return this.db
      .prepare("SELECT DISTINCT f.family FROM parcel_entries e JOIN faces f ON f.sha256 = e.sha256 WHERE e.parcel_id = ?")
      .pluck()
      .all(id) as string[];
  }
  /** The latest entry of a parcel; faces are there before the entries they came in. */
  newest(id: number): number {
    return (this.db.prepare("SELECT max(id) FROM parcel_entries WHERE parcel_id = ?").pluck().get(id) as number | null) ?? 0;
  }
  /** Where a family's styles lay in the parcels they were shelved from. */
  fontPaths(familyId: number): { parcelId: number; paths: string[] }[] {
    const rows = this.db
      .prepare(
        `SELECT s.parcel_id AS parcelId, e.path FROM styles s
         JOIN parcel_entries e ON e.sha256 = s.sha256 AND e.parcel_id = s.parcel_id WHERE s.family_id = ? ORDER BY e.id`,
      )
      .all(familyId) as { parcelId: number; path: string }[];
    const places = new Map<number, string[]>();
    for (const { parcelId, path } of rows) {
      const paths = places.get(parcelId);
      if (paths) paths.push(path);
      else places.set(parcelId, [path]);
    }
    return [...places].map(([parcelId, paths]) => ({ parcelId, paths }));
  }

  /** Papers of the parcels a family's styles came from. */
  papersOf(familyId: number): { path: string; parcelId: number; parcelName: string; sha256: string; bytes: number }[] {
    return this.db
      .prepare(
        `SELECT DISTINCT e.path, p.id AS parcelId, p.name AS parcelName, e.sha256, e.bytes
         FROM styles s JOIN parcels p ON p.id = s.parcel_id JOIN parcel_entries e ON e.parcel_id = p.id
         WHERE s.family_id = ? AND e.kind = 'paper' AND e.sha256 <> '' ORDER BY e.path`,
      )
      .all(familyId) as ReturnType<ParcelStore["papersOf"]>;
  }
}
