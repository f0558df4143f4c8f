// Queries on sightings and on history.
import type { EvidenceFont, Sighting } from "../../../contract/sightings.ts";
import type { Db } from "../database.ts";

export interface SightingRow {
  id: number;
  styleId: number;
  programId: number;
  result: Sighting["result"];
  means: Sighting["means"];
  who: string;
  instead: string[];
  sentence: string;
  fileName: string;
  fileSha256: string;
  fonts: EvidenceFont[];
  at: string;
  madeBy: string;
  letters: number;
  pages: number[];
  /** It was said though the device knew that it could not be. */
  doubted: boolean;
  /** Its file is kept. */
  kept: boolean;
}
type Raw = Omit<SightingRow, "instead" | "fonts" | "pages" | "kept" | "doubted"> & {
  instead: string;
  fonts: string;
  pages: string;
  kept: number;
  doubted: number;
};
const COLUMNS = `id, style_id AS styleId, program_id AS programId, result, means, who, instead, sentence, file_name AS fileName,
  file_sha256 AS fileSha256, fonts, at, made_by AS madeBy, letters, pages, doubted,
  EXISTS (SELECT 1 FROM evidence_files k WHERE k.sha256 = file_sha256) AS kept FROM sightings`;
const parsed = (row: Raw): SightingRow => ({
  ...row,
  instead: JSON.parse(row.instead) as string[],
  fonts: JSON.parse(row.fonts) as EvidenceFont[],
  pages: JSON.parse(row.pages) as number[],
  doubted: row.doubted === 1,
  kept: row.kept === 1,
});
/** What was taken back counts no more. */
const STANDS = "taken_back_at IS NULL";

export class SightingStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }
  add(sighting: Omit<SightingRow, "id" | "kept">): number {
    const { lastInsertRowid } = this.db
      .prepare(
        `INSERT INTO sightings (style_id, program_id, result, means, who, instead, sentence, file_name, file_sha256, fonts, at, made_by, letters, pages, doubted)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      )
      .run(
        sighting.styleId,
        sighting.programId,
        sighting.result,
        sighting.means,
        sighting.who,
        JSON.stringify(sighting.instead),
        sighting.sentence,
        sighting.fileName,
        sighting.fileSha256,
        JSON.stringify(sighting.fonts),
        sighting.at,
        sighting.madeBy,
        sighting.letters,
        JSON.stringify(sighting.pages),
        sighting.doubted ? 1 : 0,
      );
    return Number(lastInsertRowid);
  }
  /** The latest one of a style in each program, by program: of what shows something, or of what only asks for it. */
  latestOf(styleId: number, asking = false): Map<number, SightingRow> {
    const rows = this.db
      .prepare(
        `SELECT ${COLUMNS} WHERE id IN (SELECT max(id) FROM sightings
           WHERE style_id = ? AND ${STANDS} AND (result = 'asked-for') = ? GROUP BY program_id)`,
      )
      .all(styleId, asking ? 1 : 0) as Raw[];
    return new Map(rows.map((row) => [row.programId, parsed(row)]));
  }
  get(id: number): SightingRow | undefined {
    const row = this.db.prepare(`SELECT ${COLUMNS} WHERE id = ?`).get(id) as Raw | undefined;
    return row && parsed(row);
  }
  takenBack(id: number): boolean {
    return this.db.prepare("SELECT 1 FROM sightings WHERE id = ? AND taken_back_at IS NOT NULL").get(id) !== undefined;
  }
  /** `at` null puts it back. */
  takeBack(id: number, at: string | null): void {
    this.db.prepare("UPDATE sightings SET taken_back_at = ? WHERE id = ?").run(at, id);
  }
  /** What wrote the files of a program last, of one kind (the ending of their names). */
  lastMaker(programId: number, ending: string): string | undefined {
    return this.db
      .prepare(
        `SELECT made_by FROM sightings WHERE program_id = ? AND ${STANDS} AND means = 'file' AND made_by <> '' AND lower(file_name) LIKE ? ORDER BY id DESC LIMIT 1`,
      )
      .pluck()
      .get(programId, `%${ending}`) as string | undefined;
  }
  keepFile(sha256: string, bytes: number, at: string): void {
    this.db
      .prepare("INSERT INTO evidence_files (sha256, bytes, at) VALUES (?, ?, ?) ON CONFLICT (sha256) DO UPDATE SET at = excluded.at")
      .run(sha256, bytes, at);
  }
  keptFiles(): { sha256: string; bytes: number }[] {
    return this.db.prepare("SELECT sha256, bytes FROM evidence_files ORDER BY at DESC, sha256").all() as {
      sha256: string;
      bytes: number;
    }[];
  }
  forgetFile(sha256: string): void {
    this.db.prepare("DELETE FROM evidence_files WHERE sha256 = ?").run(sha256);
  }
  /** The last few of one style in one program, latest first. */
  ofCell(styleId: number, programId: number): SightingRow[] {
    const rows = this.db.prepare(`SELECT ${COLUMNS} WHERE style_id = ? AND program_id = ? AND ${STANDS} ORDER BY id DESC LIMIT 10`);
    return (rows.all(styleId, programId) as Raw[]).map(parsed);
  }
  ofStyles(styleIds: readonly number[]): SightingRow[] {
    if (styleIds.length === 0) return [];
    const marks = styleIds.map(() => "?").join(",");
    return (
      this.db.prepare(`SELECT ${COLUMNS} WHERE style_id IN (${marks}) AND ${STANDS} ORDER BY id DESC LIMIT 200`).all(...styleIds) as Raw[]
    ).map(parsed);
  }
}
