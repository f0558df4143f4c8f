// Queries on documents somebody asked about, and on faces by the names documents use.
import type { NeededFont } from "../../../core/evidence/meant.ts";
import type { Db } from "../database.ts";

export interface DocumentRow {
  id: number;
  name: string;
  sha256: string;
  kind: string;
  madeBy: string;
  /** Pages that were not looked at. */
  unread: number;
  needs: NeededFont[];
  compared: Record<string, "same" | "other">;
  at: string;
}

type Raw = Omit<DocumentRow, "needs" | "compared"> & { needs: string; compared: string };
const COLUMNS = "SELECT id, name, sha256, kind, made_by AS madeBy, unread, needs, compared, at FROM documents";
const parsed = (row: Raw): DocumentRow => ({
  ...row,
  needs: JSON.parse(row.needs) as NeededFont[],
  compared: JSON.parse(row.compared) as DocumentRow["compared"],
});

export class DocumentStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }
  /** Remembers a document; of all, the latest `most`. */
  add({ name, sha256, kind, madeBy, unread, needs, compared, at }: Omit<DocumentRow, "id">, most: number): number {
    return this.db.transaction(() => {
      // The same one given again is one.
      this.db.prepare("DELETE FROM documents WHERE sha256 = ? AND name = ?").run(sha256, name);
      const { lastInsertRowid } = this.db
        .prepare("INSERT INTO documents (name, sha256, kind, made_by, unread, needs, compared, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)")
        .run(name, sha256, kind, madeBy, unread, JSON.stringify(needs), JSON.stringify(compared), at);
      this.db.prepare("DELETE FROM documents WHERE id NOT IN (SELECT id FROM documents ORDER BY id DESC LIMIT ?)").run(most);
      return Number(lastInsertRowid);
    })();
  }
  get(id: number): DocumentRow | undefined {
    const row = this.db.prepare(`${COLUMNS} WHERE id = ?`).get(id) as Raw | undefined;
    return row && parsed(row);
  }
  /** Those that are not removed, latest first. */
  all(): DocumentRow[] {
    return (this.db.prepare(`${COLUMNS} WHERE removed_at IS NULL ORDER BY id DESC`).all() as Raw[]).map(parsed);
  }
  /** `at` null brings it back. */
  remove(id: number, at: string | null): void {
    this.db.prepare("UPDATE documents SET removed_at = ? WHERE id = ?").run(at, id);
  }

  /** Faces that go by any of these names, as `plainly` writes them; those on the shelf first. */
  facesNamed(names: readonly string[], most: number): { sha256: string; face: number }[] {
    return this.db
      .prepare(
        `SELECT DISTINCT n.sha256, n.face FROM json_each(?) j JOIN face_names n ON n.plain = j.value
         LEFT JOIN styles s ON s.sha256 = n.sha256 AND s.face = n.face
         ORDER BY length(n.plain) DESC, s.id IS NULL LIMIT ?`,
      )
      .all(JSON.stringify(names), most) as { sha256: string; face: number }[];
  }
  /** Parcels on the list that hold a file. */
  parcelsWith(sha256: string): { id: number; name: string }[] {
    return this.db
      .prepare(
        `SELECT DISTINCT p.id, p.name FROM parcel_entries e JOIN parcels p ON p.id = e.parcel_id
         WHERE e.sha256 = ? AND p.removed_at IS NULL AND p.state = 'ready' ORDER BY p.id`,
      )
      .all(sha256) as { id: number; name: string }[];
  }
}
