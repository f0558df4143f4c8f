// Jobs: whether each family wanted for one is cleared for it, draws its words, is placed and was seen.
import type { JobDetail, JobFamily, JobRequest, JobSummary } from "../../../contract/jobs.ts";
import { clearedFor, clearedWords, jobWarnings } from "../../../core/clearance/job.ts";
import { charactersOf } from "../../../core/coverage/text.ts";
import { setsLanguage } from "../../../core/coverage/languages.ts";
import { partOf, whoSets, type Member } from "../../../core/coverage/together.ts";
import { FACE_KINDS } from "../../../core/family/kind-list.ts";
import { notFound } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import { inPieces } from "../../pieces.ts";
import type { JobRow } from "../../store/jobs/jobs.ts";
import { bitsOf, type FamilyView } from "../../store/views/families.ts";
import type { Renewal } from "../../views/renewal.ts";
import { termView } from "../clearance/clearance.ts";
import { languageName, lettersOf } from "./languages.ts";

type Uses = Pick<Parts, "bench" | "jobs" | "familyViews" | "devices" | "library" | "history" | "events" | "db" | "now" | "observed">;

export class JobService {
  private readonly uses: Uses;
  private readonly renewal: Renewal;

  constructor(uses: Uses, renewal: Renewal) {
    this.uses = uses;
    this.renewal = renewal;
  }

  private row(id: number): JobRow {
    const row = this.uses.jobs.get(id);
    if (!row) throw notFound("job");
    return row;
  }

  list(): JobSummary[] {
    return this.uses.jobs.all().map((row) => toSummary(row, this.families(row)));
  }
  detail(id: number): JobDetail {
    const row = this.row(id);
    const families = this.families(row);
    const creditLines = [...new Set(families.filter((family) => family.cleared === "credit").map((family) => family.creditLine))];
    const choices = this.uses.bench
      .decisions({ jobId: id })
      .map(({ sheetId, chosen, style: { family, style } }) => ({ sheetId, family, style, chosen }));
    const members = row.familyIds.flatMap((familyId) => this.renewal.family(familyId) ?? []).map((family) => this.member(row, family));
    return { ...toSummary(row, families), families, whoSets: whoSets(row.languages.map(languageName), members), creditLines, choices };
  }
  put(request: JobRequest, id?: number): JobDetail {
    if (id !== undefined) this.row(id);
    const job = this.uses.jobs.put(request, this.uses.now(), id);
    this.uses.events.changed("jobs");
    return this.detail(job);
  }
  /** Wants families for a job, or no longer; returns those for which that is new. */
  async want(id: number, familyIds: readonly number[], wanted: boolean): Promise<number[]> {
    this.row(id);
    const changed: number[] = [];
    await inPieces(this.uses, familyIds, (piece) => changed.push(...this.uses.jobs.setWanted(id, piece, wanted)));
    this.uses.events.changed("jobs");
    return changed;
  }
  /** Says what a family is for in a job. */
  setRole(id: number, familyId: number, role: string): JobDetail {
    this.row(id);
    if (!this.uses.jobs.setRole(id, familyId, role)) throw notFound("family of this job");
    this.uses.events.changed("jobs");
    return this.detail(id);
  }
  remove(id: number, removed: boolean): void {
    const at = this.uses.now();
    const name = this.uses.jobs.get(id)?.name;
    this.uses.jobs.remove(id, removed ? at : null);
    if (removed && name !== undefined) this.uses.history.add(at, "job", `The job “${name}” was removed.`, [], { kind: "job-removed", id });
    this.uses.events.changed("jobs");
  }

  private families(job: JobRow): JobFamily[] {
    const devices = this.uses.devices.devices();
    const wanted = job.deviceIds.flatMap((deviceId) => devices.find((one) => one.id === deviceId) ?? []);
    const rows = job.familyIds.flatMap((id) => this.renewal.family(id) ?? []);
    const roles = this.uses.jobs.roles(job.id);
    const members = rows.map((row) => this.member(job, row));
    const languages = job.languages.map(languageName);
    return rows.map((row, i) => {
      const on = new Set(this.uses.observed.devicesOf(row.familyId, true));
      const placed = wanted.map(({ id: deviceId, name }) => ({ deviceId, name, placed: on.has(deviceId) }));
      const draws = partOf(members[i]!, members, languages);
      return { ...this.family(job, row), coversText: members[i]!.lacks.length === 0, role: roles.get(row.familyId) ?? "", placed, draws };
    });
  }

  /** What a family can do for a job's languages and words. */
  private member(job: JobRow, { familyId, name, specimen, kinds }: FamilyView): Member {
    const characters = charactersOf(job.words);
    const lacking = new Set(
      this.uses.familyViews.missing(
        familyId,
        characters.map((character) => character.codePointAt(0)!),
      ),
    );
    const ranges = job.languages.length > 0 ? this.uses.library.rangesOf(specimen.sha256, specimen.face) : [];
    return {
      name,
      sets: job.languages.filter((tag) => setsLanguage(ranges, lettersOf(tag))).map(languageName),
      lacks: characters.filter((character) => lacking.has(character.codePointAt(0)!)),
      signs: (kinds & bitsOf(FACE_KINDS, ["symbols"])) !== 0,
    };
  }

  private family(job: JobRow, family: FamilyView): Omit<JobFamily, "coversText" | "role" | "placed" | "draws"> {
    const { clearance, specimen } = family;
    const cleared = clearedFor(clearance, job.uses);
    const uses = clearance.uses.filter((one) => job.uses.includes(one.use));
    const seen = family.trail.find((station) => station.key === "seen")!;
    const isSeen = seen.state === "done" || seen.state === "remark";
    return {
      id: family.familyId,
      name: family.name,
      specimen,
      cleared,
      clearedWords: family.beingRead > 0 && cleared === "not-stated" ? clearance.summary : clearedWords(cleared, uses),
      uses,
      term: clearance.term ? termView(clearance.term) : null,
      seen: isSeen,
      seenWords: isSeen || seen.state === "stuck" ? seen.words : "Not seen yet",
      creditLine: clearance.creditLine,
      warnings: jobWarnings(family.name, clearance, job.uses),
    };
  }

  /** What to know before families are placed or used: lapsed ones, and those not cleared for a job they are wanted for. */
  beforeUse(familyIds: readonly number[]): string[] {
    const lapsed: string[] = [];
    const warnings: { job: number; words: string }[] = [];
    for (const id of familyIds) {
      const known = this.renewal.family(id);
      if (known?.clearance.lapsed) lapsed.push(`The licence of ${known.name} has ended. Renew it before you use it.`);
      else if (known)
        for (const job of this.uses.jobs.of(id))
          for (const words of jobWarnings(known.name, known.clearance, job.uses))
            warnings.push({ job: job.id, words: `For “${job.name}”: ${words}` });
    }
    return [...lapsed, ...warnings.sort((a, b) => a.job - b.job).map((one) => one.words)];
  }
  /** Every job, with what it asks clearance for. */
  named(): Pick<JobRow, "id" | "name" | "uses">[] {
    return this.uses.jobs.all();
  }
  usesOf(id: number): JobRow["uses"] {
    return this.row(id).uses;
  }
}

const isReady = (family: JobFamily): boolean =>
  (family.cleared === "yes" || family.cleared === "credit") && family.draws.good && family.placed.every((one) => one.placed) && family.seen;

function toSummary(row: JobRow, families: readonly JobFamily[]): JobSummary {
  return {
    ...row,
    readyFamilies: families.filter(isReady).length,
    warnings: families.reduce((sum, family) => sum + family.warnings.length, 0),
  };
}
