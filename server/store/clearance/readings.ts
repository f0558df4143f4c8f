// Queries on what texts say: papers, and what fonts state themselves. Each text is read once, wherever it occurs.
import type { StatedLicence } from "../../../core/inspect.ts";
import { NOTHING_READ, READER_VERSION, type TextFacts } from "../../../core/clearance/read.ts";
import type { Problem } from "../../../core/problem.ts";
import type { Db } from "../database.ts";

export interface PaperTextRow {
  sha256: string;
  text: string;
  cut: boolean;
  problem: Problem | null;
}
/** A text that waits to be read. */
export interface Unread {
  id: number;
  key: string;
  kind: "paper" | "font";
  source: string;
  attempts: number;
}

const MOST_KEPT = 1000;
const UNREAD = "SELECT id, key, kind, source, attempts FROM readings WHERE version < ?";

export class ReadingStore {
  private readonly db: Db;
  /** Readings looked at lately: families share licences. */
  private readonly kept = new Map<string, TextFacts>();
  constructor(db: Db) {
    this.db = db;
  }

  /** The next texts to read: never read ones first, those of the newest downloads before older ones. */
  next(long: boolean, most: number): Unread[] {
    return this.db
      .prepare(`${UNREAD} AND is_long = ? ORDER BY version > 0, id DESC LIMIT ?`)
      .all(READER_VERSION, Number(long), most) as Unread[];
  }
  /** How many texts wait, and how many of them were read before by an older reader. */
  waiting(): { unread: number; anew: number } {
    return this.db
      .prepare(
        "SELECT count(*) FILTER (WHERE reading IS NULL) AS unread, count(*) FILTER (WHERE reading IS NOT NULL) AS anew FROM readings WHERE version < ?",
      )
      .get(READER_VERSION) as { unread: number; anew: number };
  }
  /** Before the work: whoever does not survive it has tried. */
  countAttempt(ids: readonly number[], by: 1 | -1 = 1): void {
    const count = this.db.prepare("UPDATE readings SET attempts = max(0, attempts + ?) WHERE id = ?");
    this.db.transaction(() => {
      for (const id of ids) count.run(by, id);
    })();
  }
  put(id: number, facts: TextFacts, text?: PaperTextRow): void {
    const key = this.db.prepare("SELECT key FROM readings WHERE id = ?").pluck().get(id) as string | undefined;
    if (key === undefined) return;
    this.kept.delete(key);
    if (text)
      this.db
        .prepare(
          `INSERT INTO paper_texts (sha256, text, cut, problem) VALUES (?, ?, ?, ?) ON CONFLICT (sha256) DO UPDATE SET
             text = excluded.text, cut = excluded.cut, problem = excluded.problem`,
        )
        .run(text.sha256, text.text, Number(text.cut), text.problem && JSON.stringify(text.problem));
    this.db
      .prepare("UPDATE readings SET version = ?, attempts = 0, reading = ? WHERE id = ?")
      .run(READER_VERSION, JSON.stringify(facts), id);
  }

  facts(key: string): TextFacts | null {
    const known = this.kept.get(key);
    if (known) return known;
    const text = this.db.prepare("SELECT reading FROM readings WHERE key = ?").pluck().get(key) as string | null | undefined;
    if (text == null) return null;
    // What an older reader wrote lacks what it did not know; it counts until it is read anew.
    const facts: TextFacts = { ...NOTHING_READ, ...(JSON.parse(text) as Partial<TextFacts>) };
    if (this.kept.size >= MOST_KEPT) this.kept.delete(this.kept.keys().next().value!);
    this.kept.set(key, facts);
    return facts;
  }
  /** What a family's fonts state of their licence, each text once. */
  statedBy(familyId: number): { key: string; stated: StatedLicence | undefined }[] {
    const rows = this.db
      .prepare(
        `SELECT f.stated_key AS key, r.source FROM styles s JOIN faces f ON f.sha256 = s.sha256 AND f.face = s.face
         LEFT JOIN readings r ON r.key = f.stated_key WHERE s.family_id = ? GROUP BY f.stated_key ORDER BY min(s.id)`,
      )
      .all(familyId) as { key: string; source: string | null }[];
    return rows.map(({ key, source }) => ({ key, stated: source === null ? undefined : (JSON.parse(source) as StatedLicence) }));
  }

  paperText(sha256: string): PaperTextRow | undefined {
    const row = this.db.prepare("SELECT sha256, text, cut, problem FROM paper_texts WHERE sha256 = ?").get(sha256) as
      { sha256: string; text: string; cut: number; problem: string | null } | undefined;
    return row && { ...row, cut: row.cut === 1, problem: row.problem === null ? null : (JSON.parse(row.problem) as Problem) };
  }
  /** Why a paper has no text, or that it was cut; undefined when there is nothing to say. */
  paperNote(sha256: string): Pick<PaperTextRow, "cut" | "problem"> | undefined {
    const row = this.db
      .prepare("SELECT cut, problem FROM paper_texts WHERE sha256 = ? AND (cut = 1 OR problem IS NOT NULL)")
      .get(sha256) as { cut: number; problem: string | null } | undefined;
    return row && { cut: row.cut === 1, problem: row.problem === null ? null : (JSON.parse(row.problem) as Problem) };
  }
  /** Forgets texts no parcel holds any more. */
  sweep(): void {
    this.db.transaction(() => {
      this.db
        .prepare("DELETE FROM readings WHERE kind = 'paper' AND NOT EXISTS (SELECT 1 FROM parcel_entries e WHERE e.sha256 = readings.key)")
        .run();
      this.db.prepare("DELETE FROM paper_texts WHERE NOT EXISTS (SELECT 1 FROM readings r WHERE r.key = paper_texts.sha256)").run();
    })();
  }
}
