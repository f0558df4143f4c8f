// Queries on external changes: what happened on a device that Buvano did not do.
import type { ExternalChange } from "../../../contract/devices.ts";
import type { Db } from "../database.ts";

export class ExternalChangeStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }

  add(deviceId: number, found: readonly (Omit<ExternalChangeRow, "id" | "at"> & { was: string })[], at: string): void {
    const insert = this.db.prepare(
      "INSERT INTO external_changes (device_id, how, folder, file_name, sha256, was, at) VALUES (?, ?, ?, ?, ?, ?, ?)",
    );
    this.db.transaction(() => {
      for (const one of found) insert.run(deviceId, one.how, one.folder, one.fileName, one.sha256, one.was, at);
    })();
  }
  /** What happened behind Buvano's back and was not looked at yet, latest first. */
  unseenOn(deviceId: number, most: number): ExternalChangeRow[] {
    return this.db
      .prepare(
        `SELECT id, how, folder, file_name AS fileName, sha256, at FROM external_changes WHERE device_id = ? AND seen_at IS NULL ORDER BY id DESC LIMIT ?`,
      )
      .all(deviceId, most) as ExternalChangeRow[];
  }
  /** The latest change nobody made by Buvano to a file on a device; undefined when there is none since `since`. */
  latestOf(deviceId: number, sha256: string, since: string): ExternalChangeRow | undefined {
    return this.db
      .prepare(
        `SELECT id, how, folder, file_name AS fileName, sha256, at FROM external_changes
         WHERE device_id = ? AND at >= ? AND ((sha256 = ? AND how <> 'changed') OR was = ?) ORDER BY id DESC LIMIT 1`,
      )
      .get(deviceId, since, sha256, sha256) as ExternalChangeRow | undefined;
  }
  count(deviceId: number): number {
    return this.db.prepare("SELECT count(*) FROM external_changes WHERE device_id = ? AND seen_at IS NULL").pluck().get(deviceId) as number;
  }
  see(deviceId: number, at: string): void {
    this.db.prepare("UPDATE external_changes SET seen_at = ? WHERE device_id = ? AND seen_at IS NULL").run(at, deviceId);
  }
}

export type ExternalChangeRow = Pick<ExternalChange, "id" | "how" | "folder" | "fileName" | "at"> & { sha256: string };
