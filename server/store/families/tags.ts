// Queries on a person's own tags of families.
import { folded } from "../../../core/finding/words.ts";
import type { Db } from "../database.ts";

export interface TagRow {
  id: number;
  name: string;
  /** Families that bear it, of those asked about. */
  families: number;
}

export class TagStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }

  of(familyId: number): { id: number; name: string }[] {
    return this.db
      .prepare("SELECT t.id, t.name FROM family_tags f JOIN tags t ON t.id = f.tag_id WHERE f.family_id = ? ORDER BY t.key")
      .all(familyId) as { id: number; name: string }[];
  }
  /** How many of several families bear each tag. */
  among(familyIds: readonly number[]): TagRow[] {
    return this.db
      .prepare(
        `SELECT t.id, t.name, count(*) FILTER (WHERE f.family_id IN (SELECT value FROM json_each(?))) AS families
         FROM tags t JOIN family_tags f ON f.tag_id = t.id GROUP BY t.id ORDER BY t.key`,
      )
      .all(JSON.stringify(familyIds)) as TagRow[];
  }
  /** Puts a tag on families, or takes it off them; returns those it was not, or was, on before. */
  set(name: string, familyIds: readonly number[], on: boolean): number[] {
    const key = folded(name);
    if (on) this.db.prepare("INSERT INTO tags (key, name) VALUES (?, ?) ON CONFLICT (key) DO NOTHING").run(key, name);
    const id = this.db.prepare("SELECT id FROM tags WHERE key = ?").pluck().get(key) as number | undefined;
    if (id === undefined) return [];
    const change = this.db.prepare(
      on
        ? "INSERT INTO family_tags (tag_id, family_id) SELECT ?, id FROM families WHERE id = ? ON CONFLICT DO NOTHING"
        : "DELETE FROM family_tags WHERE tag_id = ? AND family_id = ?",
    );
    return familyIds.filter((familyId) => change.run(id, familyId).changes > 0);
  }
}
