// Queries on files of the watched folder that were looked at.
import type { Db } from "../database.ts";

export interface WatchedRow {
  path: string;
  bytes: number;
  modifiedMs: number;
  /** "taken", "before" (it lay there when the folder was chosen), or why it was passed over. */
  outcome: string;
}
const COLUMNS = "path, bytes, modified_ms AS modifiedMs, outcome, seen_at AS seenAt FROM watched_files";

export class WatchedStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }
  /** Whether a folder was ever watched, also when nothing lay in it. */
  wasWatched(folder: string): boolean {
    return this.db.prepare("SELECT 1 FROM watched_folders WHERE path = ?").get(folder) !== undefined;
  }
  /** Notes that a folder is watched from now on, and what lies in it already. */
  begin(folder: string, there: readonly Omit<WatchedRow, "outcome">[], at: string): void {
    this.db.transaction(() => {
      this.db.prepare("INSERT OR IGNORE INTO watched_folders (path, first_watched_at) VALUES (?, ?)").run(folder, at);
      for (const row of there) this.put({ ...row, outcome: "before" }, at);
    })();
  }
  get(path: string): WatchedRow | undefined {
    return this.db.prepare(`SELECT ${COLUMNS} WHERE path = ?`).get(path) as WatchedRow | undefined;
  }
  put(row: WatchedRow, at: string): void {
    this.db
      .prepare("INSERT OR REPLACE INTO watched_files (path, bytes, modified_ms, outcome, seen_at) VALUES (?, ?, ?, ?, ?)")
      .run(row.path, row.bytes, row.modifiedMs, row.outcome, at);
  }
  /** Files directly in a folder, the latest first. */
  of(folder: string): (WatchedRow & { seenAt: string })[] {
    const start = folder.endsWith("/") ? folder : `${folder}/`;
    return this.db
      .prepare(`SELECT ${COLUMNS} WHERE substr(path, 1, ?) = ? ORDER BY seen_at DESC, path`)
      .all(start.length, start) as (WatchedRow & { seenAt: string })[];
  }
  forget(folder: string, outcome: string): void {
    const start = folder.endsWith("/") ? folder : `${folder}/`;
    this.db.prepare("DELETE FROM watched_files WHERE substr(path, 1, ?) = ? AND outcome = ?").run(start.length, start, outcome);
  }
}
