// Queries on jobs.
import type { JobRequest } from "../../../contract/jobs.ts";
import type { Db } from "../database.ts";

export interface JobRow extends JobRequest {
  id: number;
}
export type RawJob = { id: number; name: string; uses: string; languages: string; words: string; deviceIds: string };
const JOB = "id, name, uses, languages, words, device_ids AS deviceIds FROM jobs";
export class JobStore {
  private readonly db: Db;
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
  /** Jobs a family is wanted for. */
  of(familyId: number): Pick<JobRow, "id" | "name" | "uses">[] {
    const rows = this.db
      .prepare(
        `SELECT j.id, j.name, j.uses FROM job_families l JOIN jobs j ON j.id = l.job_id
         WHERE l.family_id = ? AND j.removed_at IS NULL ORDER BY j.id`,
      )
      .all(familyId) as { id: number; name: string; uses: string }[];
    return rows.map((row) => ({ ...row, uses: JSON.parse(row.uses) as JobRow["uses"] }));
  }
  /** Adds a job, or changes the one with `id`. */
  put(job: JobRequest, at: string, id?: number): number {
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
      this.db
        .prepare("DELETE FROM job_families WHERE job_id = ? AND family_id NOT IN (SELECT value FROM json_each(?))")
        .run(jobId, JSON.stringify(job.familyIds));
      const link = this.db.prepare(
        "INSERT INTO job_families (job_id, family_id) SELECT ?, id FROM families WHERE id = ? ON CONFLICT DO NOTHING",
      );
      for (const familyId of job.familyIds) link.run(jobId, familyId);
      return jobId;
    })();
  }
  /** What families are for in a job, by family; those nobody said anything of are left out. */
  roles(jobId: number): Map<number, string> {
    const rows = this.db.prepare("SELECT family_id AS id, role FROM job_families WHERE job_id = ? AND role <> ''").all(jobId) as {
      id: number;
      role: string;
    }[];
    return new Map(rows.map(({ id, role }) => [id, role]));
  }
  /** Says what a family is for; whether it is wanted for that job at all. */
  setRole(jobId: number, familyId: number, role: string): boolean {
    return this.db.prepare("UPDATE job_families SET role = ? WHERE job_id = ? AND family_id = ?").run(role, jobId, familyId).changes > 0;
  }
  /** Families wanted for a job from now on, or no longer; returns those that were not, or were, before. */
  setWanted(jobId: number, familyIds: readonly number[], wanted: boolean): number[] {
    const change = this.db.prepare(
      wanted
        ? "INSERT INTO job_families (job_id, family_id) SELECT ?, id FROM families WHERE id = ? ON CONFLICT DO NOTHING"
        : "DELETE FROM job_families WHERE job_id = ? AND family_id = ?",
    );
    return familyIds.filter((familyId) => change.run(jobId, familyId).changes > 0);
  }
  isRemoved(id: number): boolean {
    return this.db.prepare("SELECT 1 FROM jobs WHERE id = ? AND removed_at IS NOT NULL").get(id) !== undefined;
  }
  remove(id: number, at: string | null): void {
    this.db.prepare("UPDATE jobs SET removed_at = ? WHERE id = ?").run(at, id);
  }
}
