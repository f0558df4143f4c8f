// Queries on bench sheets, their steps, decisions, and facts of glyphs and characters.
import type { BenchStyle, Decision, SheetBody } from "../../../contract/bench.ts";
import type { Db } from "../database.ts";

export interface SheetRow {
  id: number;
  step: number;
  /** Steps there are in all, those taken back included. */
  steps: number;
  first: number;
  body: SheetBody;
  changedAt: string;
}
type RawSheet = Omit<SheetRow, "body"> & { body: string };

/** Steps of a sheet that can be taken back. */
const MOST_STEPS = 200;
const SHEET = `SELECT s.id, s.at_step AS step, (SELECT max(step) FROM bench_steps WHERE sheet_id = s.id) AS steps,
  (SELECT min(step) FROM bench_steps WHERE sheet_id = s.id) AS first, p.body, s.changed_at AS changedAt
  FROM bench_sheets s JOIN bench_steps p ON p.sheet_id = s.id AND p.step = s.at_step`;
const sheet = (row: RawSheet): SheetRow => ({ ...row, body: JSON.parse(row.body) as SheetBody });

export class BenchStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }

  all(): SheetRow[] {
    return (this.db.prepare(`${SHEET} WHERE s.removed_at IS NULL ORDER BY s.changed_at DESC, s.id DESC`).all() as RawSheet[]).map(sheet);
  }
  get(id: number): SheetRow | undefined {
    const row = this.db.prepare(`${SHEET} WHERE s.id = ? AND s.removed_at IS NULL`).get(id) as RawSheet | undefined;
    return row && sheet(row);
  }
  add(body: SheetBody, at: string): number {
    return this.db.transaction(() => {
      const { lastInsertRowid } = this.db
        .prepare("INSERT INTO bench_sheets (at_step, job_id, changed_at) VALUES (1, (SELECT id FROM jobs WHERE id = ?), ?)")
        .run(body.jobId, at);
      this.db.prepare("INSERT INTO bench_steps (sheet_id, step, body) VALUES (?, 1, ?)").run(lastInsertRowid, JSON.stringify(body));
      return Number(lastInsertRowid);
    })();
  }
  /** Puts a new step after the one that stands; those taken back are forgotten. */
  put(id: number, from: number, body: SheetBody, at: string): void {
    this.db.transaction(() => {
      this.db.prepare("DELETE FROM bench_steps WHERE sheet_id = ? AND (step > ? OR step <= ?)").run(id, from, from + 1 - MOST_STEPS);
      this.db.prepare("INSERT INTO bench_steps (sheet_id, step, body) VALUES (?, ?, ?)").run(id, from + 1, JSON.stringify(body));
      this.stand(id, from + 1, body.jobId, at);
    })();
  }
  /** Goes to another of its steps. */
  stand(id: number, step: number, jobId: number | null, at: string): void {
    this.db
      .prepare("UPDATE bench_sheets SET at_step = ?, job_id = (SELECT id FROM jobs WHERE id = ?), changed_at = ? WHERE id = ?")
      .run(step, jobId, at, id);
  }
  body(id: number, step: number): SheetBody | undefined {
    const text = this.db.prepare("SELECT body FROM bench_steps WHERE sheet_id = ? AND step = ?").pluck().get(id, step) as
      string | undefined;
    return text === undefined ? undefined : (JSON.parse(text) as SheetBody);
  }
  isRemoved(id: number): boolean {
    return this.db.prepare("SELECT 1 FROM bench_sheets WHERE id = ? AND removed_at IS NOT NULL").get(id) !== undefined;
  }
  remove(id: number, at: string | null): void {
    this.db.prepare("UPDATE bench_sheets SET removed_at = ? WHERE id = ?").run(at, id);
  }

  decide(jobId: number, sheetId: number, lineId: string, styles: readonly { style: BenchStyle; chosen: boolean }[], at: string): void {
    this.db.transaction(() => {
      this.db.prepare("DELETE FROM job_choices WHERE sheet_id = ? AND line_id = ?").run(sheetId, lineId);
      const put = this.db.prepare(
        `INSERT INTO job_choices (job_id, sheet_id, line_id, sha256, face, family, style, chosen, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
         ON CONFLICT DO NOTHING`,
      );
      for (const { style, chosen } of styles)
        put.run(jobId, sheetId, lineId, style.sha256, style.face, style.family, style.style, Number(chosen), at);
    })();
  }
  decisions(where: { sheetId: number } | { jobId: number }): (Decision & { sheetId: number })[] {
    const [column, id] = "sheetId" in where ? ["sheet_id", where.sheetId] : ["job_id", where.jobId];
    const rows = this.db
      .prepare(
        `SELECT c.sheet_id AS sheetId, c.line_id AS lineId, c.sha256, c.face, c.family, c.style, c.chosen FROM job_choices c
         JOIN bench_sheets s ON s.id = c.sheet_id WHERE c.${column} = ? AND s.removed_at IS NULL ORDER BY c.id`,
      )
      .all(id) as (BenchStyle & { sheetId: number; lineId: string; chosen: number })[];
    return rows.map(({ sheetId, lineId, chosen, ...style }) => ({ sheetId, lineId, style, chosen: chosen === 1 }));
  }

  glyphFacts(sha256: string, face: number, version: number): { features: string; glyphs: Uint8Array } | undefined {
    return this.db
      .prepare("SELECT features, glyphs FROM glyph_facts WHERE sha256 = ? AND face = ? AND version = ? AND glyphs IS NOT NULL")
      .get(sha256, face, version) as { features: string; glyphs: Uint8Array } | undefined;
  }
  /** Counts an attempt before it is made; how many there were with this version of the reader. */
  beginGlyphs(sha256: string, face: number, version: number): number {
    this.db
      .prepare(
        `INSERT INTO glyph_facts (sha256, face, version, attempts) VALUES (@sha256, @face, @version, 1)
         ON CONFLICT (sha256, face) DO UPDATE SET attempts = CASE WHEN version = @version THEN attempts + 1 ELSE 1 END, version = @version`,
      )
      .run({ sha256, face, version });
    return this.db.prepare("SELECT attempts FROM glyph_facts WHERE sha256 = ? AND face = ?").pluck().get(sha256, face) as number;
  }
  putGlyphs(sha256: string, face: number, features: string, glyphs: Uint8Array, named: readonly { code: number; words: string }[]): void {
    this.db.transaction(() => {
      this.db
        .prepare("UPDATE glyph_facts SET features = ?, glyphs = ?, attempts = 0 WHERE sha256 = ? AND face = ?")
        .run(features, Buffer.from(glyphs), sha256, face);
      this.db.prepare("DELETE FROM sign_words WHERE sha256 = ? AND face = ?").run(sha256, face);
      const put = this.db.prepare("INSERT INTO sign_words (words, sha256, face, code) VALUES (?, ?, ?, ?)");
      for (const { code, words } of named) put.run(words, sha256, face, code);
    })();
  }
  /** Private signs of styles on the shelf whose names begin with all of these words, the best first. */
  signsNamed(words: readonly string[], most: number): { code: number; words: string; styleId: number; familyId: number }[] {
    const match = words.map((word) => `"${word.replaceAll('"', '""')}"*`).join(" ");
    return this.db
      .prepare(
        `SELECT w.code, w.words, s.id AS styleId, s.family_id AS familyId FROM sign_words w JOIN styles s ON s.sha256 = w.sha256 AND s.face = w.face
         WHERE sign_words MATCH ? ORDER BY length(w.words), w.rank LIMIT ?`,
      )
      .all(match, most) as { code: number; words: string; styleId: number; familyId: number }[];
  }
  /** A style of symbols on the shelf whose glyphs nobody has looked at yet. */
  unreadSymbols(version: number, mostAttempts: number): { sha256: string; face: number } | undefined {
    return this.db
      .prepare(
        `SELECT s.sha256, s.face FROM styles s JOIN faces f ON f.sha256 = s.sha256 AND f.face = s.face
         LEFT JOIN glyph_facts g ON g.sha256 = s.sha256 AND g.face = s.face
         WHERE EXISTS (SELECT 1 FROM json_each(f.brief, '$.kinds') WHERE value = 'symbols')
           AND (g.sha256 IS NULL OR g.version < @version OR (g.glyphs IS NULL AND g.attempts < @mostAttempts)) LIMIT 1`,
      )
      .get({ version, mostAttempts }) as { sha256: string; face: number } | undefined;
  }

  /** In the order of styles, whatever the planner thinks. Styles after one of them with their characters, as pairs of first and last code point of 32 bits. */
  rangesAfter(styleId: number, most: number): { styleId: number; familyId: number; ranges: Uint8Array }[] {
    return this.db
      .prepare(
        `SELECT s.id AS styleId, s.family_id AS familyId, r.ranges FROM styles s CROSS JOIN face_ranges r ON r.sha256 = s.sha256 AND r.face = s.face
         WHERE s.id > ? ORDER BY s.id LIMIT ?`,
      )
      .all(styleId, most) as { styleId: number; familyId: number; ranges: Uint8Array }[];
  }
}
