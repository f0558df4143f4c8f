// Queries on matching: what was measured of faces, and pictures that were matched.
import type { MatchAnswer, MatchAsked } from "../../../contract/matching.ts";
import type { Frame } from "../../../core/matching/picture/framed.ts";
import type { Manner } from "../../../core/matching/faces/manner.ts";
import type { Db } from "../database.ts";

export interface MatchRow {
  id: number;
  name: string;
  sha256: string;
  type: string;
  width: number;
  height: number;
  lines: Frame[];
  asked: MatchAsked | null;
  answer: MatchAnswer | null;
  at: string;
}
type Raw = Omit<MatchRow, "lines" | "asked" | "answer"> & { lines: string; asked: string | null; answer: string | null };
const COLUMNS = "SELECT id, name, sha256, type, width, height, lines, asked, answer, at FROM matches";
const parsed = (row: Raw): MatchRow => ({
  ...row,
  lines: JSON.parse(row.lines) as Frame[],
  asked: row.asked === null ? null : (JSON.parse(row.asked) as MatchAsked),
  answer: row.answer === null ? null : (JSON.parse(row.answer) as MatchAnswer),
});

export interface FaceId {
  sha256: string;
  face: number;
}
export interface Measured {
  manner: Manner;
  tables: { script: string; letters: Uint8Array }[];
}

const UNMEASURED = "(m.id IS NULL OR m.version < @version OR (m.measured IS NULL AND m.attempts < @mostAttempts))";
/** Faces that are somewhere: on the shelf, in a parcel, on a device. */
const SOMEWHERE = `(EXISTS (SELECT 1 FROM styles s WHERE s.sha256 = f.sha256)
  OR EXISTS (SELECT 1 FROM parcel_entries e WHERE e.sha256 = f.sha256) OR EXISTS (SELECT 1 FROM observed_fonts o WHERE o.sha256 = f.sha256))`;

export class MatchStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }

  /** Faces nobody measured by today's rules: those of the shelf first, then those that are somewhere else. */
  unmeasured(version: number, mostAttempts: number, most: number): FaceId[] {
    const ask = (from: string) =>
      this.db
        .prepare(
          `SELECT f.sha256, f.face FROM ${from} LEFT JOIN face_shapes m ON m.sha256 = f.sha256 AND m.face = f.face WHERE ${UNMEASURED} LIMIT @most`,
        )
        .all({ version, mostAttempts, most }) as FaceId[];
    const shelved = ask("styles f");
    return shelved.length > 0 ? shelved : ask(`(SELECT sha256, face FROM faces f WHERE ${SOMEWHERE}) f`);
  }
  unmeasuredCount(version: number, mostAttempts: number): number {
    return this.db
      .prepare(
        `SELECT count(*) FROM faces f LEFT JOIN face_shapes m ON m.sha256 = f.sha256 AND m.face = f.face WHERE ${UNMEASURED} AND ${SOMEWHERE}`,
      )
      .pluck()
      .get({ version, mostAttempts }) as number;
  }
  /** Counts an attempt at each before it is made. */
  begin(faces: readonly FaceId[], version: number): void {
    const put = this.db.prepare(
      `INSERT INTO face_shapes (sha256, face, version, attempts) VALUES (@sha256, @face, @version, 1)
       ON CONFLICT (sha256, face) DO UPDATE SET attempts = CASE WHEN version < @version THEN 1 ELSE attempts + 1 END, version = @version, measured = NULL`,
    );
    this.db.transaction(() => {
      for (const { sha256, face } of faces) put.run({ sha256, face, version });
    })();
  }
  /** Keeps what was measured; under a new number, so that whoever holds an index learns of it. */
  put(measured: readonly (FaceId & { found: Measured | null })[], version: number): void {
    const away = this.db.prepare("DELETE FROM face_shapes WHERE sha256 = ? AND face = ?");
    const add = this.db.prepare(
      `INSERT INTO face_shapes (sha256, face, version, measured, weight, width, contrast, slant, roundness, serif, joined, small_height)
       VALUES (@sha256, @face, @version, @measured, @weight, @width, @contrast, @slant, @roundness, @serif, @joined, @smallHeight)`,
    );
    const letters = this.db.prepare("INSERT INTO face_letters (shape_id, script, letters) VALUES (?, ?, ?)");
    this.db.transaction(() => {
      for (const { sha256, face, found } of measured) {
        away.run(sha256, face);
        const none = {
          weight: null,
          width: null,
          contrast: null,
          slant: null,
          roundness: null,
          serif: null,
          joined: null,
          smallHeight: null,
        };
        const own = Object.fromEntries(Object.entries(found?.manner ?? {}).filter(([, value]) => value !== undefined));
        // A face without letters is measured too: there is nothing to it.
        const { lastInsertRowid } = add.run({ ...none, ...own, sha256, face, version, measured: 1 });
        for (const { script, letters: table } of found?.tables ?? []) letters.run(lastInsertRowid, script, table);
      }
    })();
  }
  /** What faces are of this manner are, by their numbers. */
  manner(sha256: string, face: number): Manner | undefined {
    const row = this.db
      .prepare(
        `SELECT weight, width, contrast, slant, roundness, serif, joined, small_height AS smallHeight FROM face_shapes
         WHERE sha256 = ? AND face = ? AND measured = 1`,
      )
      .get(sha256, face) as Record<keyof Manner, number | null> | undefined;
    return row && (Object.fromEntries(Object.entries(row).map(([key, value]) => [key, value ?? undefined])) as unknown as Manner);
  }

  /** Measured faces that may be looked among, after one of them: whether their file is kept here, and the family of those on the shelf. */
  searchable(after: number, most: number): (FaceId & { id: number; kept: boolean; familyId: number | null })[] {
    const rows = this.db
      .prepare(
        `SELECT m.id, m.sha256, m.face, s.family_id AS familyId,
           s.id IS NOT NULL OR EXISTS (SELECT 1 FROM parcel_entries e JOIN parcels p ON p.id = e.parcel_id
             WHERE e.sha256 = m.sha256 AND p.removed_at IS NULL AND p.state = 'ready') AS kept
         FROM face_shapes m LEFT JOIN styles s ON s.sha256 = m.sha256 AND s.face = m.face
         WHERE m.id > ? AND m.measured = 1
           AND (s.id IS NOT NULL OR EXISTS (SELECT 1 FROM parcel_entries e JOIN parcels p ON p.id = e.parcel_id
             WHERE e.sha256 = m.sha256 AND p.removed_at IS NULL AND p.state = 'ready')
             OR EXISTS (SELECT 1 FROM observed_fonts o WHERE o.sha256 = m.sha256))
         ORDER BY m.id LIMIT ?`,
      )
      .all(after, most) as (FaceId & { id: number; kept: number; familyId: number | null })[];
    return rows.map((row) => ({ ...row, kept: row.kept === 1 }));
  }
  /** Styles on the shelf after one of them. */
  shelved(after: number, most: number): (FaceId & { styleId: number; familyId: number })[] {
    return this.db
      .prepare("SELECT id AS styleId, family_id AS familyId, sha256, face FROM styles WHERE id > ? ORDER BY id LIMIT ?")
      .all(after, most) as (FaceId & { styleId: number; familyId: number })[];
  }
  /** Changes when something else is on the shelf, in another family, or was measured. */
  stamp(): string {
    return this.db
      .prepare("SELECT count(*) || '/' || total(family_id) || '/' || (SELECT count(*) FROM face_shapes) FROM styles")
      .pluck()
      .get() as string;
  }

  add(row: Omit<MatchRow, "id" | "asked" | "answer">): number {
    const { name, sha256, type, width, height, lines, at } = row;
    const { lastInsertRowid } = this.db
      .prepare("INSERT INTO matches (name, sha256, type, width, height, lines, at) VALUES (?, ?, ?, ?, ?, ?, ?)")
      .run(name, sha256, type, width, height, JSON.stringify(lines), at);
    return Number(lastInsertRowid);
  }
  /** One that is not removed. */
  get(id: number): MatchRow | undefined {
    const row = this.db.prepare(`${COLUMNS} WHERE id = ? AND removed_at IS NULL`).get(id) as Raw | undefined;
    return row && parsed(row);
  }
  isRemoved(id: number): boolean {
    return this.db.prepare("SELECT 1 FROM matches WHERE id = ? AND removed_at IS NOT NULL").get(id) !== undefined;
  }
  all(): MatchRow[] {
    return (this.db.prepare(`${COLUMNS} WHERE removed_at IS NULL ORDER BY id DESC`).all() as Raw[]).map(parsed);
  }
  answer(id: number, asked: MatchAsked, answer: MatchAnswer): void {
    this.db
      .prepare("UPDATE matches SET asked = ?, answer = ?, job_id = (SELECT id FROM jobs WHERE id = ?) WHERE id = ?")
      .run(JSON.stringify(asked), JSON.stringify(answer), asked.jobId, id);
  }
  /** `at` null brings it back. */
  remove(id: number, at: string | null): void {
    this.db.prepare("UPDATE matches SET removed_at = ? WHERE id = ?").run(at, id);
  }
  /** Forgets those removed before a time; answers the pictures that are still wanted. */
  forget(before: string): string[] {
    this.db.prepare("DELETE FROM matches WHERE removed_at < ?").run(before);
    return this.db.prepare("SELECT DISTINCT sha256 FROM matches").pluck().all() as string[];
  }
}
