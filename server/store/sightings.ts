// Queries on sightings and on history.
import type { EvidenceFont, Sighting } from "../../contract/sighting.ts";
import type { HistoryEvent } from "../../contract/family.ts";
import type { Db } from "./database.ts";

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
  fonts: EvidenceFont[];
  at: string;
}
type Raw = Omit<SightingRow, "instead" | "fonts"> & { instead: string; fonts: string };
const COLUMNS =
  "id, style_id AS styleId, program_id AS programId, result, means, who, instead, sentence, file_name AS fileName, fonts, at FROM sightings";
const parsed = (row: Raw): SightingRow => ({
  ...row,
  instead: JSON.parse(row.instead) as string[],
  fonts: JSON.parse(row.fonts) as EvidenceFont[],
});

export class SightingStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }
  add(sighting: Omit<SightingRow, "id"> & { fileSha256: string }): number {
    const { lastInsertRowid } = this.db
      .prepare(
        `INSERT INTO sightings (style_id, program_id, result, means, who, instead, sentence, file_name, file_sha256, fonts, at)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
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
      );
    return Number(lastInsertRowid);
  }
  /** The latest one of a style in each program, by program. */
  latestOf(styleId: number): Map<number, SightingRow> {
    const rows = this.db
      .prepare(`SELECT ${COLUMNS} WHERE id IN (SELECT max(id) FROM sightings WHERE style_id = ? GROUP BY program_id)`)
      .all(styleId) as Raw[];
    return new Map(rows.map((row) => [row.programId, parsed(row)]));
  }
  /** The last few of one style in one program, latest first. */
  ofCell(styleId: number, programId: number): SightingRow[] {
    const rows = this.db.prepare(`SELECT ${COLUMNS} WHERE style_id = ? AND program_id = ? ORDER BY id DESC LIMIT 10`);
    return (rows.all(styleId, programId) as Raw[]).map(parsed);
  }
  ofStyles(styleIds: readonly number[]): SightingRow[] {
    if (styleIds.length === 0) return [];
    const marks = styleIds.map(() => "?").join(",");
    return (this.db.prepare(`SELECT ${COLUMNS} WHERE style_id IN (${marks}) ORDER BY id DESC LIMIT 200`).all(...styleIds) as Raw[]).map(
      parsed,
    );
  }
}

/** What takes something back: what it is, and which one. */
export type Undo =
  | { kind: "plan" | "licence" | "licence-removed" | "program-removed" | "job-removed" | "parcel-removed" | "archive-cleared"; id: number }
  | { kind: "spelling"; id: number; key: string };
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
  add(at: string, kind: string, sentence: string, familyIds: readonly number[], undo?: Undo): void {
    const { lastInsertRowid } = this.db
      .prepare("INSERT INTO history (at, kind, sentence, undo) VALUES (?, ?, ?, ?)")
      .run(at, kind, sentence, undo ? JSON.stringify(undo) : null);
    const link = this.db.prepare("INSERT OR IGNORE INTO history_families (history_id, family_id) VALUES (?, ?)");
    for (const familyId of familyIds) link.run(lastInsertRowid, familyId);
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
  /** The latest of what came with a way back. */
  undoable(most: number): HistoryRow[] {
    return (this.db.prepare(`${HISTORY} WHERE h.undo IS NOT NULL ORDER BY h.id DESC LIMIT ?`).all(most) as RawHistory[]).map(historyRow);
  }
  /** It was taken back, or cannot be any more. */
  forgetUndo(id: number): void {
    this.db.prepare("UPDATE history SET undo = NULL WHERE id = ?").run(id);
  }
}
