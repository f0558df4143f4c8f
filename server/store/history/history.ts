// Queries on the history, and on what takes something back.
import type { HistoryEvent } from "../../../contract/history.ts";
import type { Db } from "../database.ts";

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
/** `undoneAt`: ISO 8601, empty while it was not taken back. */
export type HistoryRow = Omit<HistoryEvent, "undo" | "undone"> & { undo: Undo | null; undoneAt: string };
type RawHistory = Omit<HistoryRow, "undo"> & { undo: string | null };
const HISTORY = "SELECT h.id, h.at, h.kind, h.sentence, h.undo, COALESCE(h.undone_at, '') AS undoneAt FROM history h";
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
  /** It was taken back. */
  undone(id: number, at: string): void {
    this.db.prepare("UPDATE history SET undo = NULL, undone_at = ? WHERE id = ?").run(at, id);
  }
}
