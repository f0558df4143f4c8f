// Queries on the marks that say which rows of views are to be renewed.
import type { Db } from "../database.ts";

export class StaleMarks {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }

  // Marks

  staleFamily(id?: number): StaleFamily | undefined {
    const columns = "SELECT family_id AS familyId, parts, seq FROM stale_families";
    return (
      id === undefined
        ? this.db.prepare(`${columns} ORDER BY family_id DESC LIMIT 1`).get()
        : this.db.prepare(`${columns} WHERE family_id = ?`).get(id)
    ) as StaleFamily | undefined;
  }
  staleParcel(id?: number): { parcelId: number; seq: number } | undefined {
    const columns = "SELECT parcel_id AS parcelId, seq FROM stale_parcels";
    return (
      id === undefined
        ? this.db.prepare(`${columns} ORDER BY parcel_id DESC LIMIT 1`).get()
        : this.db.prepare(`${columns} WHERE parcel_id = ?`).get(id)
    ) as { parcelId: number; seq: number } | undefined;
  }
  staleName(nameKey?: string): { nameKey: string; seq: number } | undefined {
    const columns = "SELECT name_key AS nameKey, seq FROM stale_names";
    return (
      nameKey === undefined ? this.db.prepare(`${columns} LIMIT 1`).get() : this.db.prepare(`${columns} WHERE name_key = ?`).get(nameKey)
    ) as { nameKey: string; seq: number } | undefined;
  }
  markFamily(familyId: number, parts: number): void {
    this.db
      .prepare(
        `INSERT INTO stale_families (family_id, parts) VALUES (?, ?)
         ON CONFLICT (family_id) DO UPDATE SET parts = parts | excluded.parts, seq = seq + 1`,
      )
      .run(familyId, parts);
  }
  /** Marks the names a family's styles go by, whose rows on devices speak of its licence. */
  markNamesOf(familyId: number): void {
    this.db
      .prepare(
        `INSERT INTO stale_names (name_key) SELECT DISTINCT f.family_key FROM styles s JOIN faces f ON f.sha256 = s.sha256 AND f.face = s.face
         WHERE s.family_id = ? ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1`,
      )
      .run(familyId);
  }
  /** Marks the cells of families filed under a name that have sightings: another file of that name may have come or gone. */
  markRivals(nameKey: string): void {
    this.db
      .prepare(
        `INSERT INTO stale_families (family_id, parts)
         SELECT id, 4 FROM families WHERE (key = ? OR id IN (SELECT family_id FROM family_spellings WHERE key = ?))
           AND EXISTS (SELECT 1 FROM styles s JOIN sightings g ON g.style_id = s.id WHERE s.family_id = families.id)
         ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1`,
      )
      .run(nameKey, nameKey);
  }
  markEverything(): void {
    this.db.exec(`INSERT INTO stale_families (family_id, parts) SELECT id, 7 FROM families WHERE true
        ON CONFLICT (family_id) DO UPDATE SET parts = 7, seq = seq + 1;
      INSERT INTO stale_parcels (parcel_id) SELECT id FROM parcels WHERE true ON CONFLICT (parcel_id) DO UPDATE SET seq = seq + 1;
      INSERT INTO stale_names (name_key) SELECT DISTINCT f.family_key FROM observed_fonts o JOIN faces f ON f.sha256 = o.sha256 WHERE true
        ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1;
      INSERT INTO stale_names (name_key) VALUES ('') ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1;`);
  }
  /** Takes a mark away, unless it was set again meanwhile. */
  settle(what: "family" | "parcel" | "name", key: number | string, seq: number): void {
    const [table, column] = {
      family: ["stale_families", "family_id"],
      parcel: ["stale_parcels", "parcel_id"],
      name: ["stale_names", "name_key"],
    }[what] as [string, string];
    this.db.prepare(`DELETE FROM ${table} WHERE ${column} = ? AND seq = ?`).run(key, seq);
  }
  staleCount(): number {
    return this.db
      .prepare("SELECT (SELECT count(*) FROM stale_families) + (SELECT count(*) FROM stale_parcels) + (SELECT count(*) FROM stale_names)")
      .pluck()
      .get() as number;
  }
  isFresh(): boolean {
    return (
      this.db
        .prepare("SELECT EXISTS (SELECT 1 FROM stale_families) + EXISTS (SELECT 1 FROM stale_parcels) + EXISTS (SELECT 1 FROM stale_names)")
        .pluck()
        .get() === 0
    );
  }
}

export interface StaleFamily {
  familyId: number;
  parts: number;
  seq: number;
}
/** Parts of a family's row. */
export const PARTS = { shelf: 1, clearance: 2, cells: 4, all: 7 } as const;
