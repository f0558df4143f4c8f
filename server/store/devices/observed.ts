// Queries on the fonts devices were observed to hold.
import type { Folder } from "../../../contract/devices.ts";
import type { Db } from "../database.ts";

export class ObservedStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }

  /** Counts up, by device, whenever what it holds changes. */
  private readonly stamps = new Map<number, number>();

  /** Every copy of a file that devices were seen to hold. */
  copiesOf(sha256: string): ObservedRow[] {
    return (this.db.prepare(`${OBSERVED_COLUMNS} WHERE sha256 = ?`).all(sha256) as RawObserved[]).map(observed);
  }
  /** Files on a device whose faces claim a family's and style's name. */
  claimantsOn(deviceId: number, familyKey: string, styleKey: string): ObservedRow[] {
    const rows = this.db.prepare(
      `${OBSERVED_COLUMNS} WHERE device_id = ? AND sha256 IN (SELECT sha256 FROM faces WHERE family_key = ? AND style_key = ?)`,
    );
    return (rows.all(deviceId, familyKey, styleKey) as RawObserved[]).map(observed);
  }
  /** Files on any device with a face that claims a family's name. */
  claimants(familyKey: string): ObservedRow[] {
    const rows = this.db.prepare(`${OBSERVED_COLUMNS} WHERE sha256 IN (SELECT sha256 FROM faces WHERE family_key = ?)`);
    return (rows.all(familyKey) as RawObserved[]).map(observed);
  }
  /** The families and styles that fonts placed and on claim, each once, with how the family is written. */
  claimsOn(deviceId: number): Map<string, string> {
    const rows = this.db
      .prepare(
        `SELECT f.family_key || char(10) || f.style_key AS key, f.family FROM observed_fonts o JOIN faces f ON f.sha256 = o.sha256
         WHERE o.device_id = ? AND o.is_on = 1 AND o.folder IN ('me', 'everyone', 'profile')`,
      )
      .all(deviceId) as { key: string; family: string }[];
    return new Map(rows.map(({ key, family }) => [key, family]));
  }
  /** Files on any device that nobody can read. */
  unreadable(): ObservedRow[] {
    const rows = this.db.prepare(`${OBSERVED_COLUMNS} WHERE NOT EXISTS (SELECT 1 FROM faces f WHERE f.sha256 = observed_fonts.sha256)`);
    return (rows.all() as RawObserved[]).map(observed);
  }
  /** Files on a device that are one of some, by their hashes. */
  among(deviceId: number, hashes: Iterable<string>): ObservedRow[] {
    const rows = this.db.prepare(`${OBSERVED_COLUMNS} WHERE device_id = ? AND sha256 = ?`);
    return [...new Set(hashes)].flatMap((hash) => (rows.all(deviceId, hash) as RawObserved[]).map(observed));
  }
  /** How many fonts were placed on a device. */
  placedCount(deviceId: number): number {
    return this.db
      .prepare("SELECT count(*) FROM observed_fonts WHERE device_id = ? AND folder IN ('me', 'everyone', 'profile')")
      .pluck()
      .get(deviceId) as number;
  }
  /** The devices on which files of a family were placed. */
  devicesOf(familyId: number, onlyOn = false): number[] {
    return this.db
      .prepare(
        `SELECT DISTINCT o.device_id FROM styles s JOIN observed_fonts o ON o.sha256 = s.sha256
         WHERE s.family_id = ? AND o.folder <> 'built-in' AND (o.is_on = 1 OR ? = 0) ORDER BY 1`,
      )
      .pluck()
      .all(familyId, Number(onlyOn)) as number[];
  }
  /** How many fonts are placed on all devices together. */
  placedEverywhere(): number {
    return this.db.prepare("SELECT count(*) FROM observed_fonts WHERE folder IN ('me', 'everyone', 'profile')").pluck().get() as number;
  }
  /** How many files of several families each device holds, on and off. */
  filesOf(familyIds: readonly number[]): { deviceId: number; on: number; off: number }[] {
    return this.db
      .prepare(
        `SELECT device_id AS deviceId, sum(is_on) AS "on", sum(1 - is_on) AS off FROM (
           SELECT DISTINCT o.device_id, o.folder, o.file_name, o.is_on FROM styles s JOIN observed_fonts o ON o.sha256 = s.sha256
           WHERE s.family_id IN (SELECT value FROM json_each(?)) AND o.folder IN ('me', 'everyone', 'profile')) GROUP BY device_id`,
      )
      .all(JSON.stringify(familyIds)) as { deviceId: number; on: number; off: number }[];
  }
  /** The next rows of a device in order of where they lie, after one. */
  after(deviceId: number, after: Pick<ObservedRow, "folder" | "fileName"> | undefined, most: number): ObservedRow[] {
    const rows = this.db.prepare(
      `${OBSERVED_COLUMNS} WHERE device_id = ? AND (folder, file_name) > (?, ?) ORDER BY folder, file_name LIMIT ?`,
    );
    return (rows.all(deviceId, after?.folder ?? "", after?.fileName ?? "", most) as RawObserved[]).map(observed);
  }
  on(deviceId: number): ObservedRow[] {
    return (this.db.prepare(`${OBSERVED_COLUMNS} WHERE device_id = ?`).all(deviceId) as RawObserved[]).map(observed);
  }
  /** Forgets all a device held. */
  forget(deviceId: number): void {
    this.stamps.set(deviceId, this.stampOf(deviceId) + 1);
    this.db.prepare("DELETE FROM observed_fonts WHERE device_id = ?").run(deviceId);
  }
  stampOf(deviceId: number): number {
    return this.stamps.get(deviceId) ?? 0;
  }
  /** Enters a part of such differences. */
  enter(deviceId: number, gone: readonly SeenFont[], put: readonly SeenFont[]): void {
    this.stamps.set(deviceId, this.stampOf(deviceId) + 1);
    const remove = this.db.prepare("DELETE FROM observed_fonts WHERE device_id = ? AND folder = ? AND file_name = ?");
    const insert = this.db.prepare(
      `INSERT INTO observed_fonts (device_id, folder, file_name, sha256, is_on, is_visible, since, stamp, bytes)
       VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
       ON CONFLICT (device_id, folder, file_name) DO UPDATE SET sha256 = excluded.sha256, is_on = excluded.is_on,
         is_visible = excluded.is_visible, since = excluded.since, stamp = excluded.stamp, bytes = excluded.bytes`,
    );
    this.db.transaction(() => {
      for (const row of gone) remove.run(deviceId, row.folder, row.fileName);
      for (const { folder, fileName, sha256, on, visible, since, stamp, bytes } of put)
        insert.run(deviceId, folder, fileName, sha256, Number(on), Number(visible), since, stamp, bytes);
    })();
  }
}

export interface ObservedRow {
  deviceId: number;
  folder: Folder;
  fileName: string;
  sha256: string;
  on: boolean;
  visible: boolean;
  /** When these bytes came there, or were turned on or off. */
  since: string;
  /** The file's own time when it was last looked at: a copied folder has others, with the same bytes. */
  stamp: string;
  bytes: number;
}
/** A font as a look finds it. */
export type SeenFont = Omit<ObservedRow, "deviceId">;
const OBSERVED_COLUMNS = `SELECT device_id AS deviceId, folder, file_name AS fileName, sha256, is_on AS "on", is_visible AS visible, since, stamp, bytes
  FROM observed_fonts`;
type RawObserved = Omit<ObservedRow, "on" | "visible"> & { on: number; visible: number };
const observed = (row: RawObserved): ObservedRow => ({ ...row, on: row.on === 1, visible: row.visible === 1 });
