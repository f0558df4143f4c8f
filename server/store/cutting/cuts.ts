// Queries on cuts: what is chosen for a line, and what was made.
import type { CutSource } from "../../../contract/cutting.ts";
import type { CutSummary } from "../../../core/cutting/findings/summary.ts";
import type { CutSettings } from "../../../core/cutting/settings.ts";
import type { Db } from "../database.ts";

export interface MadeRow {
  id: number;
  source: CutSource;
  numbers: CutSummary;
  colours: number;
  at: string;
}
/** Older ones are forgotten. */
const MOST_KEPT = 50;

/** The families a cut is made from. */
export const familiesOf = ({ line }: CutSource): string[] => [...new Set(line.layers.map(({ style }) => style.family))];

export class CutStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }

  settings(sheetId: number, lineId: string): CutSettings | undefined {
    const text = this.db.prepare("SELECT settings FROM bench_cuts WHERE sheet_id = ? AND line_id = ?").pluck().get(sheetId, lineId) as
      string | undefined;
    return text === undefined ? undefined : (JSON.parse(text) as CutSettings);
  }
  put(sheetId: number, lineId: string, settings: CutSettings, at: string): void {
    this.db
      .prepare(
        `INSERT INTO bench_cuts (sheet_id, line_id, settings, changed_at) VALUES (?, ?, ?, ?)
         ON CONFLICT (sheet_id, line_id) DO UPDATE SET settings = excluded.settings, changed_at = excluded.changed_at`,
      )
      .run(sheetId, lineId, JSON.stringify(settings), at);
  }
  /** A copied sheet's lines keep what was chosen for them. */
  copy(from: number, to: number): void {
    this.db
      .prepare(
        "INSERT INTO bench_cuts (sheet_id, line_id, settings, changed_at) SELECT ?, line_id, settings, changed_at FROM bench_cuts WHERE sheet_id = ?",
      )
      .run(to, from);
  }
  /** Which lines of a sheet were cut, each with its latest cut. */
  latest(sheetId: number): { lineId: string; colours: number; families: string[]; at: string }[] {
    const rows = this.db
      .prepare(
        "SELECT line_id AS lineId, colours, source, at FROM cuts_made WHERE id IN (SELECT max(id) FROM cuts_made WHERE sheet_id = ? GROUP BY line_id)",
      )
      .all(sheetId) as { lineId: string; colours: number; source: string; at: string }[];
    return rows.map(({ source, ...row }) => ({ ...row, families: familiesOf(JSON.parse(source) as CutSource) }));
  }
  made(sheetId: number, lineId: string): MadeRow[] {
    const rows = this.db
      .prepare("SELECT id, source, numbers, colours, at FROM cuts_made WHERE sheet_id = ? AND line_id = ? ORDER BY id DESC")
      .all(sheetId, lineId) as { id: number; source: string; numbers: string; colours: number; at: string }[];
    return rows.map(({ source, numbers, ...row }) => ({
      ...row,
      source: JSON.parse(source) as CutSource,
      numbers: JSON.parse(numbers) as CutSummary,
    }));
  }
  addMade(sheetId: number, lineId: string, made: Omit<MadeRow, "id">): void {
    this.db.transaction(() => {
      this.db
        .prepare("INSERT INTO cuts_made (sheet_id, line_id, source, numbers, colours, at) VALUES (?, ?, ?, ?, ?, ?)")
        .run(sheetId, lineId, JSON.stringify(made.source), JSON.stringify(made.numbers), made.colours, made.at);
      this.db
        .prepare(
          `DELETE FROM cuts_made WHERE sheet_id = @sheetId AND line_id = @lineId AND id NOT IN
           (SELECT id FROM cuts_made WHERE sheet_id = @sheetId AND line_id = @lineId ORDER BY id DESC LIMIT ${MOST_KEPT})`,
        )
        .run({ sheetId, lineId });
    })();
  }
}
