// Jobs: whether each family wanted for one is cleared for it, draws its words, is placed and was seen.
import type { JobDetail, JobFamily, JobRequest, JobSummary } from "../../contract/job.ts";
import type { Clearance } from "../../core/clearance/clearance.ts";
import { stricter, USE_WORDS, type Answer } from "../../core/clearance/uses.ts";
import { inSentence, reasonWords } from "../../core/clearance/words.ts";
import { setsLanguage } from "../../core/coverage/languages.ts";
import { missingFrom } from "../../core/coverage/text.ts";
import type { SightingState } from "../../core/menu/state.ts";
import type { Context } from "../context.ts";
import { notFound } from "../fault.ts";
import type { JobRow } from "../store/clearance.ts";
import { termView, type ClearanceService } from "./clearance.ts";
import { languageName, lettersOf } from "./languages.ts";
import type { Shelf, ShelfFamily } from "./shelf.ts";
import type { SightingService } from "./sightings.ts";

/** What a clearance says to all uses of a job together: the strictest of its answers, silence counting before a yes. */
function clearedFor(clearance: Clearance, uses: readonly string[]): Answer {
  const answers = clearance.uses.filter((one) => uses.includes(one.use)).map((one) => one.answer);
  if (answers.includes("no")) return "no";
  if (answers.includes("not-stated")) return "not-stated";
  return answers.reduce(stricter, "yes");
}

export class JobService {
  private readonly context: Context;
  private readonly shelf: Shelf;
  private readonly clearance: ClearanceService;
  private readonly sightings: SightingService;

  constructor(context: Context, shelf: Shelf, clearance: ClearanceService, sightings: SightingService) {
    this.context = context;
    this.shelf = shelf;
    this.clearance = clearance;
    this.sightings = sightings;
  }

  private row(id: number): JobRow {
    const row = this.context.jobs.get(id);
    if (!row) throw notFound("job");
    return row;
  }

  list(): JobSummary[] {
    return this.context.jobs.all().map((row) => toSummary(row, this.families(row)));
  }
  detail(id: number): JobDetail {
    const row = this.row(id);
    const families = this.families(row);
    const creditLines = [...new Set(families.filter((family) => family.cleared === "credit").map((family) => family.creditLine))];
    return { ...toSummary(row, families), families, creditLines };
  }
  put(request: JobRequest, id?: number): JobDetail {
    if (id !== undefined) this.row(id);
    const job = this.context.jobs.put(request, this.context.now(), id);
    this.context.events.changed("jobs");
    return this.detail(job);
  }
  remove(id: number, removed: boolean): void {
    this.context.jobs.remove(id, removed ? this.context.now() : null);
    this.context.events.changed("jobs");
  }

  private families(job: JobRow): JobFamily[] {
    const seen = this.sightings.seenStates();
    const devices = this.context.devices.devices();
    const observed = this.context.devices.observed().filter((row) => row.folder !== "built-in" && row.on);
    const on = new Set(observed.map((row) => `${row.deviceId} ${row.sha256}`));
    return job.familyIds.flatMap((id) => {
      const family = this.shelf.family(id);
      if (!family) return [];
      const placed = job.deviceIds.flatMap((deviceId) => {
        const device = devices.find((one) => one.id === deviceId);
        return device
          ? [{ deviceId, name: device.name, placed: family.styles.some((style) => on.has(`${deviceId} ${style.sha256}`)) }]
          : [];
      });
      return [this.family(job, family, placed, seen.get(id) ?? new Set())];
    });
  }

  private family(job: JobRow, family: ShelfFamily, placed: JobFamily["placed"], states: ReadonlySet<SightingState>): JobFamily {
    const clearance = this.clearance.of(family.id);
    const cleared = clearedFor(clearance, job.uses);
    const uses = clearance.uses
      .filter((one) => job.uses.includes(one.use))
      .map((one) => ({ use: one.use, answer: one.answer, reason: reasonWords(one, clearance.lapsed) }));
    const missing = missingFrom(family.ranges, job.words);
    const lacksLanguages = job.languages.filter((tag) => !setsLanguage(family.ranges, lettersOf(tag))).map(languageName);
    return {
      id: family.id,
      name: family.name,
      specimen: {
        sha256: family.main.sha256,
        face: family.main.face,
        container: family.main.record.container,
        rightToLeft: family.rightToLeft,
        sample: family.sample,
      },
      coversText: missing.length === 0,
      cleared,
      clearedWords: clearedWords(cleared, uses),
      uses,
      term: clearance.term ? termView(clearance.term) : null,
      missing,
      lacksLanguages,
      placed,
      seen: states.has("seen"),
      seenWords: states.has("seen") ? "Seen" : states.has("swapped") ? "Swapped for another font" : "Not seen yet",
      creditLine: this.clearance.creditLine(family.id),
      warnings: this.warnings(job, family, clearance),
    };
  }

  private warnings(job: JobRow, family: ShelfFamily, clearance: Clearance): string[] {
    const found: string[] = [];
    if (clearance.lapsed) found.push(`The licence of ${family.name} has ended; it may not be used for this job.`);
    else {
      for (const one of clearance.uses.filter((use) => job.uses.includes(use.use))) {
        if (one.answer !== "no" && one.answer !== "not-stated") continue;
        const said = one.answer === "no" ? "is not cleared" : "says nothing about clearance";
        found.push(`${family.name} ${said} for ${USE_WORDS[one.use].toLowerCase()}. ${reasonWords(one, false)}`);
      }
    }
    if (clearance.term?.state === "ending") found.push(`The licence of ${family.name}: ${inSentence(termView(clearance.term).words)}.`);
    return found;
  }

  /** What to know before families are placed or used: lapsed ones, and those not cleared for a job they are wanted for. */
  beforeUse(familyIds: readonly number[]): string[] {
    const wanted = new Set(familyIds);
    const warnings: string[] = [];
    for (const id of familyIds) {
      const family = this.shelf.family(id);
      if (family && this.clearance.of(id).lapsed) warnings.push(`The licence of ${family.name} has ended. Renew it before you use it.`);
    }
    for (const job of this.context.jobs.all()) {
      for (const id of job.familyIds.filter((one) => wanted.has(one))) {
        const family = this.shelf.family(id);
        if (!family || this.clearance.of(id).lapsed) continue;
        for (const words of this.warnings(job, family, this.clearance.of(id))) warnings.push(`For “${job.name}”: ${words}`);
      }
    }
    return warnings;
  }

  /** Jobs a family is wanted for and not cleared for, by family. */
  conflicts(): Map<number, string[]> {
    const found = new Map<number, string[]>();
    for (const job of this.context.jobs.all()) {
      for (const id of job.familyIds) {
        const clearance = this.clearance.all().get(id);
        if (!clearance) continue;
        const cleared = clearedFor(clearance, job.uses);
        if (cleared === "no" || cleared === "not-stated") found.set(id, [...(found.get(id) ?? []), job.name]);
      }
    }
    return found;
  }
  usesOf(id: number): string[] {
    return this.row(id).uses;
  }
}

function clearedWords(cleared: Answer, uses: JobFamily["uses"]): string {
  const named = (answer: Answer) =>
    uses
      .filter((one) => one.answer === answer)
      .map((one) => USE_WORDS[one.use].toLowerCase())
      .join(", ");
  switch (cleared) {
    case "yes":
      return "Cleared for this job";
    case "credit":
      return "Cleared, with a credit line";
    case "no":
      return `Not cleared for ${named("no")}`;
    case "not-stated":
      return `Nothing stated for ${named("not-stated")}`;
  }
}

const isReady = (family: JobFamily): boolean =>
  (family.cleared === "yes" || family.cleared === "credit") &&
  family.missing.length === 0 &&
  family.lacksLanguages.length === 0 &&
  family.placed.every((one) => one.placed) &&
  family.seen;

function toSummary(row: JobRow, families: readonly JobFamily[]): JobSummary {
  return {
    ...row,
    readyFamilies: families.filter(isReady).length,
    warnings: families.reduce((sum, family) => sum + family.warnings.length, 0),
  };
}
