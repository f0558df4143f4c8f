// One family filed under another, and taken apart again with all it brought along.
import type { Db } from "../database.ts";

/** What belongs to a family by a row of its own, which is moved. */
const OWNED = { correction: "corrections", licence: "licences", style: "shelved_styles" } as const;
/** What families share, by the column that names it. */
const SHARED = {
  tag: { table: "family_tags", column: "tag_id", role: "''" },
  job: { table: "job_families", column: "job_id", role: "role" },
  history: { table: "history_families", column: "history_id", role: "''" },
} as const;

/** Files everything of a family under another and forgets the family. Returns the key of its name. */
export function joinFamilies(db: Db, familyId: number, intoId: number): string {
  const { key, name, pinned } = db.prepare("SELECT key, name, pinned FROM families WHERE id = ?").get(familyId) as {
    key: string;
    name: string;
    pinned: number;
  };
  db.prepare("DELETE FROM family_joins WHERE key = ?").run(key);
  for (const [what, table] of Object.entries(OWNED)) {
    db.prepare(`INSERT INTO family_joins (key, what, ref_id) SELECT ?, ?, id FROM ${table} WHERE family_id = ?`).run(key, what, familyId);
    db.prepare(`UPDATE ${table} SET family_id = ? WHERE family_id = ?`).run(intoId, familyId);
  }
  for (const [what, { table, column, role }] of Object.entries(SHARED)) {
    db.prepare(
      `INSERT INTO family_joins (key, what, ref_id, role, was_there)
       SELECT ?, ?, ${column}, ${role}, EXISTS (SELECT 1 FROM ${table} o WHERE o.${column} = t.${column} AND o.family_id = ?)
       FROM ${table} t WHERE family_id = ?`,
    ).run(key, what, intoId, familyId);
    const columns = what === "job" ? `${column}, family_id, role` : `${column}, family_id`;
    db.prepare(
      `INSERT INTO ${table} (${columns}) SELECT ${column}, ?${what === "job" ? ", role" : ""} FROM ${table} WHERE family_id = ? ON CONFLICT DO NOTHING`,
    ).run(intoId, familyId);
  }
  if (pinned === 1) db.prepare("INSERT INTO family_joins (key, what, ref_id) VALUES (?, 'pin', 0)").run(key);
  db.prepare(
    "INSERT INTO family_spellings (key, name, family_id) VALUES (?, ?, ?) ON CONFLICT (key) DO UPDATE SET name = excluded.name, family_id = excluded.family_id",
  ).run(key, name, intoId);
  db.prepare("UPDATE family_spellings SET family_id = ? WHERE family_id = ?").run(intoId, familyId);
  db.prepare("DELETE FROM families WHERE id = ?").run(familyId);
  return key;
}

/** What still lies with `from` and came with `key`, but for what came with another name that is still filed there. */
const CAME_WITH = `FROM family_joins j WHERE j.key = @key AND j.what = @what AND NOT EXISTS (
  SELECT 1 FROM family_joins o JOIN family_spellings s ON s.key = o.key
  WHERE o.key <> j.key AND o.what = j.what AND o.ref_id = j.ref_id AND s.family_id = @from)`;

/** Gives a family back what it brought along; what was added since stays where it is. */
export function partFamilies(db: Db, key: string, from: number, own: number): void {
  for (const [what, table] of Object.entries(OWNED))
    db.prepare(`UPDATE ${table} SET family_id = @own WHERE family_id = @from AND id IN (SELECT ref_id ${CAME_WITH})`).run({
      own,
      from,
      key,
      what,
    });
  for (const [what, { table, column }] of Object.entries(SHARED)) {
    const refs = db
      .prepare(
        `SELECT ref_id AS ref, role, was_there AS wasThere ${CAME_WITH} AND EXISTS (
        SELECT 1 FROM ${table} t WHERE t.${column} = j.ref_id AND t.family_id = @from)`,
      )
      .all({ key, what, from }) as { ref: number; role: string; wasThere: number }[];
    for (const { ref, role, wasThere } of refs) {
      if (what === "job")
        db.prepare("INSERT INTO job_families (job_id, family_id, role) VALUES (?, ?, ?) ON CONFLICT DO NOTHING").run(ref, own, role);
      else db.prepare(`INSERT INTO ${table} (${column}, family_id) VALUES (?, ?) ON CONFLICT DO NOTHING`).run(ref, own);
      if (wasThere === 0) db.prepare(`DELETE FROM ${table} WHERE ${column} = ? AND family_id = ?`).run(ref, from);
    }
  }
  if (db.prepare("SELECT 1 FROM family_joins WHERE key = ? AND what = 'pin'").get(key) !== undefined)
    db.prepare("UPDATE families SET pinned = 1 WHERE id = ?").run(own);
  db.prepare("DELETE FROM family_joins WHERE key = ?").run(key);
}
