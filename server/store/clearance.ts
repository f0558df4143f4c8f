// Queries on corrections, recorded licences and jobs.
import type { LicenceRequest } from "../../contract/clearance.ts";
import type { JobRequest } from "../../contract/job.ts";
import type { Correction } from "../../core/clearance/clearance.ts";
import type { Db } from "./database.ts";

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
  /** Counts up with every change. */
  version = 0;
  constructor(db: Db) {
    this.db = db;
  }

  correct(familyId: number, use: string, answer: string | null, note: string, at: string): void {
    this.version++;
    this.db
      .prepare("INSERT INTO corrections (family_id, use, answer, note, at) VALUES (?, ?, ?, ?, ?)")
      .run(familyId, use, answer, note, at);
  }
  /** Corrections that stand, by family: the latest of each use, those taken back left out. */
  corrections(): Map<number, Correction[]> {
    const rows = this.db
      .prepare(
        `SELECT family_id AS familyId, use, answer, note, at FROM corrections
         WHERE id IN (SELECT max(id) FROM corrections GROUP BY family_id, use) AND answer IS NOT NULL ORDER BY id`,
      )
      .all() as (Correction & { familyId: number })[];
    return grouped(rows.map(({ familyId, ...row }) => [familyId, row]));
  }

  addLicence(familyId: number, one: LicenceRequest, placedOn: string | null, at: string): number {
    this.version++;
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
    this.version++;
    this.db.prepare("UPDATE licences SET receipt_sha256 = ?, receipt_name = ? WHERE id = ?").run(sha256, name, id);
  }
  removeLicence(id: number, at: string | null): void {
    this.version++;
    this.db.prepare("UPDATE licences SET removed_at = ? WHERE id = ?").run(at, id);
  }
  licence(id: number): LicenceRow | undefined {
    const row = this.db.prepare(`SELECT ${LICENCE} WHERE id = ?`).get(id) as RawLicence | undefined;
    return row && licence(row);
  }
  licences(): Map<number, LicenceRow[]> {
    const rows = this.db.prepare(`SELECT ${LICENCE} WHERE removed_at IS NULL ORDER BY id`).all() as RawLicence[];
    return grouped(rows.map((row) => [row.familyId, licence(row)]));
  }
  /** Terms in days that had not begun begin. */
  beginTerms(familyIds: readonly number[], day: string): void {
    this.version++;
    const begin = this.db.prepare("UPDATE licences SET placed_on = ? WHERE family_id = ? AND placed_on IS NULL");
    for (const id of familyIds) begin.run(day, id);
  }
  receipts(): string[] {
    return this.db.prepare("SELECT DISTINCT receipt_sha256 FROM licences WHERE receipt_sha256 IS NOT NULL").pluck().all() as string[];
  }
}

function grouped<T>(pairs: readonly (readonly [number, T])[]): Map<number, T[]> {
  const groups = new Map<number, T[]>();
  for (const [key, value] of pairs) {
    const group = groups.get(key);
    if (group) group.push(value);
    else groups.set(key, [value]);
  }
  return groups;
}

export interface JobRow extends JobRequest {
  id: number;
}
type RawJob = { id: number; name: string; uses: string; languages: string; words: string; deviceIds: string };
const JOB = "id, name, uses, languages, words, device_ids AS deviceIds FROM jobs";

export class JobStore {
  private readonly db: Db;
  /** Counts up with every change. */
  version = 0;
  constructor(db: Db) {
    this.db = db;
  }
  private full(row: RawJob): JobRow {
    const familyIds = this.db
      .prepare("SELECT family_id FROM job_families WHERE job_id = ? ORDER BY family_id")
      .pluck()
      .all(row.id) as number[];
    return {
      ...row,
      familyIds,
      uses: JSON.parse(row.uses) as JobRow["uses"],
      languages: JSON.parse(row.languages) as string[],
      deviceIds: JSON.parse(row.deviceIds) as number[],
    };
  }
  all(): JobRow[] {
    return (this.db.prepare(`SELECT ${JOB} WHERE removed_at IS NULL ORDER BY id`).all() as RawJob[]).map((row) => this.full(row));
  }
  get(id: number): JobRow | undefined {
    const row = this.db.prepare(`SELECT ${JOB} WHERE id = ? AND removed_at IS NULL`).get(id) as RawJob | undefined;
    return row && this.full(row);
  }
  /** Adds a job, or changes the one with `id`. */
  put(job: JobRequest, at: string, id?: number): number {
    this.version++;
    return this.db.transaction(() => {
      const fields = [job.name, JSON.stringify(job.uses), JSON.stringify(job.languages), job.words, JSON.stringify(job.deviceIds)];
      let jobId = id;
      if (jobId === undefined)
        jobId = Number(
          this.db
            .prepare("INSERT INTO jobs (name, uses, languages, words, device_ids, made_at) VALUES (?, ?, ?, ?, ?, ?)")
            .run(...fields, at).lastInsertRowid,
        );
      else
        this.db.prepare("UPDATE jobs SET name = ?, uses = ?, languages = ?, words = ?, device_ids = ? WHERE id = ?").run(...fields, jobId);
      this.db.prepare("DELETE FROM job_families WHERE job_id = ?").run(jobId);
      const link = this.db.prepare("INSERT OR IGNORE INTO job_families (job_id, family_id) SELECT ?, id FROM families WHERE id = ?");
      for (const familyId of job.familyIds) link.run(jobId, familyId);
      return jobId;
    })();
  }
  remove(id: number, at: string | null): void {
    this.version++;
    this.db.prepare("UPDATE jobs SET removed_at = ? WHERE id = ?").run(at, id);
  }
}
