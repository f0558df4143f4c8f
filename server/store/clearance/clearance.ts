// Queries on corrections, recorded licences and jobs.
import type { LicenceRequest } from "../../../contract/clearance.ts";
import { leftOutKey } from "../../../core/clearance/gather.ts";
import type { Correction } from "../../../core/clearance/clearance.ts";
import type { Db } from "../database.ts";

export interface LicenceRow extends LicenceRequest {
  id: number;
  familyId: number;
  receiptSha256: string | null;
  receiptName: string | null;
  placedOn: string | null;
  madeAt: string;
}
type RawLicence = Omit<LicenceRow, "answers" | "term"> & { answers: string; termUntil: string | null; termDays: number | null };
const LICENCE = `id, family_id AS familyId, kind, answers, seats, bought_on AS boughtOn, price_minor AS priceMinor, currency,
  order_number AS orderNumber, note, receipt_sha256 AS receiptSha256, receipt_name AS receiptName, term_until AS termUntil,
  term_days AS termDays, placed_on AS placedOn, made_at AS madeAt FROM licences`;
const licence = ({ termUntil, termDays, ...row }: RawLicence): LicenceRow => ({
  ...row,
  answers: JSON.parse(row.answers) as LicenceRow["answers"],
  term: termUntil !== null ? { until: termUntil } : termDays !== null ? { days: termDays } : null,
});

export class ClearanceStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }

  correct(familyId: number, use: string, answer: string | null, note: string, at: string): void {
    this.db
      .prepare("INSERT INTO corrections (family_id, use, answer, note, at) VALUES (?, ?, ?, ?, ?)")
      .run(familyId, use, answer, note, at);
  }
  /** Corrections of a family that stand: the latest of each use, those taken back left out. */
  corrections(familyId: number): Correction[] {
    return this.db
      .prepare(
        `SELECT use, answer, note, at FROM corrections
         WHERE id IN (SELECT max(id) FROM corrections WHERE family_id = ? GROUP BY use) AND answer IS NOT NULL ORDER BY id`,
      )
      .all(familyId) as Correction[];
  }

  /** Leaves a sentence of a text out of every clearance, or takes it in again. `text` is a paper's sha-256, or the key of a font's fields. */
  leaveOut(text: string, sentence: string, out: boolean, at: string): void {
    if (out) this.db.prepare("INSERT INTO left_out (text, sentence, at) VALUES (?, ?, ?) ON CONFLICT DO NOTHING").run(text, sentence, at);
    else this.db.prepare("DELETE FROM left_out WHERE text = ? AND sentence = ?").run(text, sentence);
  }
  /** Sentences left out of these texts, as `leftOutKey` names them. */
  leftOut(texts: readonly string[]): ReadonlySet<string> {
    const rows = this.db
      .prepare("SELECT text, sentence FROM left_out WHERE text IN (SELECT value FROM json_each(?))")
      .all(JSON.stringify(texts)) as { text: string; sentence: string }[];
    return new Set(rows.map(({ text, sentence }) => leftOutKey(text, sentence)));
  }
  /** Families on the shelf a text speaks of. */
  familiesOf(text: string): number[] {
    return this.db
      .prepare(
        `SELECT DISTINCT s.family_id FROM parcel_entries e JOIN styles s ON s.parcel_id = e.parcel_id WHERE e.sha256 = @text AND e.kind = 'paper'
         UNION SELECT DISTINCT s.family_id FROM faces f JOIN styles s ON s.sha256 = f.sha256 AND s.face = f.face WHERE f.stated_key = @text`,
      )
      .pluck()
      .all({ text }) as number[];
  }

  addLicence(familyId: number, one: LicenceRequest, placedOn: string | null, at: string): number {
    const { lastInsertRowid } = this.db
      .prepare(
        `INSERT INTO licences (family_id, kind, answers, seats, bought_on, price_minor, currency, order_number, note, term_until, term_days, placed_on, made_at)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      )
      .run(
        familyId,
        one.kind,
        JSON.stringify(one.answers),
        one.seats,
        one.boughtOn,
        one.priceMinor,
        one.currency,
        one.orderNumber,
        one.note,
        one.term && "until" in one.term ? one.term.until : null,
        one.term && "days" in one.term ? one.term.days : null,
        placedOn,
        at,
      );
    return Number(lastInsertRowid);
  }
  setReceipt(id: number, sha256: string, name: string): void {
    this.db.prepare("UPDATE licences SET receipt_sha256 = ?, receipt_name = ? WHERE id = ?").run(sha256, name, id);
  }
  removeLicence(id: number, at: string | null): void {
    this.db.prepare("UPDATE licences SET removed_at = ? WHERE id = ?").run(at, id);
  }
  licence(id: number): LicenceRow | undefined {
    const row = this.db.prepare(`SELECT ${LICENCE} WHERE id = ?`).get(id) as RawLicence | undefined;
    return row && licence(row);
  }
  isOnRecord(id: number): boolean {
    return this.db.prepare("SELECT 1 FROM licences WHERE id = ? AND removed_at IS NULL").get(id) !== undefined;
  }
  /** A family's licences that are on record. */
  licences(familyId: number): LicenceRow[] {
    const rows = this.db.prepare(`SELECT ${LICENCE} WHERE family_id = ? AND removed_at IS NULL ORDER BY id`).all(familyId);
    return (rows as RawLicence[]).map(licence);
  }
  /** Marks families whose clearance changes as days go by: those with a licence that ends. */
  markTimed(): void {
    this.db
      .prepare(
        `INSERT INTO stale_families (family_id, parts)
         SELECT DISTINCT family_id, 2 FROM licences WHERE removed_at IS NULL AND (term_until IS NOT NULL OR term_days IS NOT NULL)
         ON CONFLICT (family_id) DO UPDATE SET parts = parts | 2, seq = seq + 1`,
      )
      .run();
  }
  /** Terms in days that had not begun begin. */
  beginTerms(familyIds: readonly number[], day: string): void {
    const begin = this.db.prepare("UPDATE licences SET placed_on = ? WHERE family_id = ? AND placed_on IS NULL");
    for (const id of familyIds) begin.run(day, id);
  }
  receipts(): string[] {
    return this.db.prepare("SELECT DISTINCT receipt_sha256 FROM licences WHERE receipt_sha256 IS NOT NULL").pluck().all() as string[];
  }
}
