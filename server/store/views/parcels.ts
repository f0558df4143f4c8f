// Queries on rows of parcels.
import type { ParcelSummary } from "../../../contract/parcels.ts";
import type { Db } from "../database.ts";

export class ParcelViewStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }

  // Parcels

  parcel(id: number): ParcelSummary | undefined {
    const text = this.db.prepare("SELECT summary FROM parcel_views WHERE parcel_id = ?").pluck().get(id) as string | undefined;
    return text === undefined ? undefined : (JSON.parse(text) as ParcelSummary);
  }
  /** Parcels on the list, the latest first: those that wait for somebody, the others, or all. */
  parcels(waits: boolean | undefined, from: number, limit: number): { total: number; rows: ParcelSummary[] } {
    const asked = waits === undefined ? null : Number(waits);
    const listed = "FROM parcel_views v JOIN parcels p ON p.id = v.parcel_id WHERE p.removed_at IS NULL AND v.waits = ifnull(?, v.waits)";
    const total = this.db.prepare(`SELECT count(*) ${listed}`).pluck().get(asked) as number;
    const rows = this.db
      .prepare(`SELECT v.summary ${listed} ORDER BY v.parcel_id DESC LIMIT ? OFFSET ?`)
      .pluck()
      .all(asked, limit, from) as string[];
    return { total, rows: rows.map((text) => JSON.parse(text) as ParcelSummary) };
  }
  /** Parcels that hold something to shelve, the latest first. */
  shelvableParcels(): number[] {
    return this.db
      .prepare(
        `SELECT v.parcel_id FROM parcel_views v JOIN parcels p ON p.id = v.parcel_id
         WHERE p.removed_at IS NULL AND v.waits = 1 AND json_extract(v.summary, '$.shelvableStyles') > 0 ORDER BY v.parcel_id DESC`,
      )
      .pluck()
      .all() as number[];
  }
  putParcel(summary: ParcelSummary, waits: boolean): void {
    this.db
      .prepare(
        `INSERT INTO parcel_views (parcel_id, waits, summary) VALUES (?, ?, ?)
         ON CONFLICT (parcel_id) DO UPDATE SET waits = excluded.waits, summary = excluded.summary`,
      )
      .run(summary.id, Number(waits), JSON.stringify(summary));
  }
}
