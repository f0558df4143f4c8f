// Queries on sightings and on history.
import type { EvidenceFont, Sighting } from "../../../contract/sightings.ts";
import type { HistoryEvent } from "../../../contract/history.ts";
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
  /** Its file is kept. */
  kept: boolean;
}
type Raw = Omit<SightingRow, "instead" | "fonts" | "pages" | "kept"> & { instead: string; fonts: string; pages: string; kept: number };
const COLUMNS = `id, style_id AS styleId, program_id AS programId, result, means, who, instead, sentence, file_name AS fileName,
  file_sha256 AS fileSha256, fonts, at, made_by AS madeBy, letters, pages,
  EXISTS (SELECT 1 FROM evidence_files k WHERE k.sha256 = file_sha256) AS kept FROM sightings`;
const parsed = (row: Raw): SightingRow => ({
  ...row,
  instead: JSON.parse(row.instead) as string[],
  fonts: JSON.parse(row.fonts) as EvidenceFont[],
  pages: JSON.parse(row.pages) as number[],
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
        `INSERT INTO sightings (style_id, program_id, result, means, who, instead, sentence, file_name, file_sha256, fonts, at, made_by, letters, pages)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
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

/** What takes something back: what it is, and which one. */
export type Undo =
  | {
      kind:
        | "plan"
        | "licence"
        | "licence-removed"
        | "program-removed"
        | "job-removed"
        | "parcel-removed"
        | "archive-cleared"
        | "sighting"
        | "sighting-back";
      id: number;
    }
  | { kind: "shelved"; styleIds: number[] }
  /** Everything that was removed at this time. */
  | { kind: "styles-removed"; at: string }
  | { kind: "name-learnt"; programId: number; sha256: string; face: number; before: string | null }
  | { kind: "unpaired"; id: number }
  | { kind: "looks"; sightingIds: number[] }
  | { kind: "spelling"; id: number; key: string }
  | { kind: "sheet-removed"; id: number }
  | { kind: "match-removed"; id: number }
  | { kind: "left-out"; text: string; sentence: string };
export type HistoryRow = Omit<HistoryEvent, "undo"> & { undo: Undo | null };
type RawHistory = Omit<HistoryRow, "undo"> & { undo: string | null };
const HISTORY = "SELECT h.id, h.at, h.kind, h.sentence, h.undo FROM history h";
const historyRow = (row: RawHistory): HistoryRow => ({ ...row, undo: row.undo === null ? null : (JSON.parse(row.undo) as Undo) });

export class HistoryStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }
  /** `undo` says what takes it back, for as long as that is possible. */
  add(at: string, kind: string, sentence: string, familyIds: readonly number[], undo?: Undo, deviceId?: number): number {
    const { lastInsertRowid } = this.db
      .prepare("INSERT INTO history (at, kind, sentence, undo, device_id) VALUES (?, ?, ?, ?, ?)")
      .run(at, kind, sentence, undo ? JSON.stringify(undo) : null, deviceId ?? null);
    const link = this.db.prepare("INSERT OR IGNORE INTO history_families (history_id, family_id) VALUES (?, ?)");
    for (const familyId of familyIds) link.run(lastInsertRowid, familyId);
    return Number(lastInsertRowid);
  }
  /** Goes on with an entry whose work takes several steps. */
  extend(id: number, sentence: string, familyIds: readonly number[], undo: Undo): void {
    this.db.prepare("UPDATE history SET sentence = ?, undo = ? WHERE id = ?").run(sentence, JSON.stringify(undo), id);
    const link = this.db.prepare("INSERT OR IGNORE INTO history_families (history_id, family_id) VALUES (?, ?)");
    for (const familyId of familyIds) link.run(id, familyId);
  }
  get(id: number): HistoryRow | undefined {
    const row = this.db.prepare(`${HISTORY} WHERE h.id = ?`).get(id) as RawHistory | undefined;
    return row && historyRow(row);
  }
  ofFamily(familyId: number): HistoryRow[] {
    return (
      this.db
        .prepare(`${HISTORY} JOIN history_families l ON l.history_id = h.id WHERE l.family_id = ? ORDER BY h.id DESC LIMIT 100`)
        .all(familyId) as RawHistory[]
    ).map(historyRow);
  }
  /** What was done on a device, the latest first. */
  ofDevice(deviceId: number, most: number): HistoryRow[] {
    return (this.db.prepare(`${HISTORY} WHERE h.device_id = ? ORDER BY h.id DESC LIMIT ?`).all(deviceId, most) as RawHistory[]).map(
      historyRow,
    );
  }
  /** The latest of what came with a way back; sightings are taken back where they stand. */
  undoable(most: number): HistoryRow[] {
    return (
      this.db
        .prepare(`${HISTORY} WHERE h.undo IS NOT NULL AND h.undo NOT LIKE '{"kind":"sighting%' ORDER BY h.id DESC LIMIT ?`)
        .all(most) as RawHistory[]
    ).map(historyRow);
  }
  /** It was taken back, or cannot be any more. */
  forgetUndo(id: number): void {
    this.db.prepare("UPDATE history SET undo = NULL WHERE id = ?").run(id);
  }
}
