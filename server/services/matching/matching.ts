// Matching: pictures are kept with what was asked of them, and answered.
import { randomUUID } from "node:crypto";
import { copyFile } from "node:fs/promises";
import { join } from "node:path";
import { plainLine, type SheetDetail } from "../../../contract/bench.ts";
import type {
  MatchAnswer,
  MatchAsked,
  MatchCandidate,
  MatchList,
  MatchReading,
  MatchSummary,
  MatchView,
} from "../../../contract/matching.ts";
import { clearedFor } from "../../../core/clearance/job.ts";
import type { Answer, Use } from "../../../core/clearance/uses.ts";
import { VERDICT_WORDS } from "../../../core/matching/answer/said.ts";
import { othersFirst } from "../../../core/turns.ts";
import { Fault, notFound } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import type { FaceId, MatchRow } from "../../store/matching/matches.ts";
import type { Renewal } from "../../views/renewal.ts";
import type { MatchFound } from "../../work/match.worker.ts";
import type { WorkPool } from "../../work/pool.ts";
import { clearedTo, OWN_USE } from "./alike.ts";
import type { BenchService } from "../bench/bench.ts";
import type { FaceMeasurer } from "./measuring.ts";

type Uses = Pick<
  Parts,
  | "matches"
  | "library"
  | "documents"
  | "devices"
  | "jobs"
  | "files"
  | "pictures"
  | "bench"
  | "history"
  | "disk"
  | "db"
  | "events"
  | "now"
  | "config"
  | "observed"
>;

/** Faces looked up between two pauses. */
const LOOKED_UP_TOGETHER = 2000;

const keyOf = ({ sha256, face }: FaceId): string => `${sha256}#${face}`;
const idOfKey = (key: string): FaceId => ({ sha256: key.slice(0, 64), face: Number(key.slice(65)) });

export class MatchService {
  private readonly uses: Uses;
  private readonly pool: Pick<WorkPool, "match">;
  private readonly acts: { renewal: Pick<Renewal, "family">; bench: BenchService; measurer: FaceMeasurer };
  private closed = false;
  /** What calls off a search that goes on, by the match. */
  private readonly going = new Map<number, AbortController>();
  constructor(uses: Uses, pool: Pick<WorkPool, "match">, acts: MatchService["acts"]) {
    this.uses = uses;
    this.pool = pool;
    this.acts = acts;
  }
  private get library(): string {
    return join(this.uses.config.dataDir, "library.db");
  }

  close(): void {
    this.closed = true;
    for (const one of this.going.values()) one.abort();
  }

  // Matches

  private row(id: number): MatchRow {
    const row = this.uses.matches.get(id);
    if (!row) throw notFound("match");
    return row;
  }
  private jobOf(id: number | null): { id: number; name: string; uses: readonly Use[] } | undefined {
    return id === null ? undefined : this.uses.jobs.get(id);
  }
  private summary({ id, name, asked, answer, at }: MatchRow): MatchSummary {
    return {
      id,
      name,
      at,
      words: asked?.words ?? "",
      sentence: answer?.sentence ?? "",
      jobName: this.jobOf(asked?.jobId ?? null)?.name ?? null,
    };
  }
  list(): MatchList {
    return { matches: this.uses.matches.all().map((row) => this.summary(row)), unmeasured: this.acts.measurer.left };
  }
  view(id: number): MatchView {
    const row = this.row(id);
    const lines = row.lines.map((frame) => frame.map(([x, y]): [number, number] => [x, y])) as MatchView["lines"];
    return {
      ...this.summary(row),
      width: row.width,
      height: row.height,
      lines,
      asked: row.asked,
      answer: row.answer && this.shownNow(row.answer, row.asked),
    };
  }
  picture(id: number): { path: string; type: string } {
    const { sha256, type } = this.row(id);
    return { path: this.uses.pictures.path(sha256), type };
  }

  /** Takes a picture in and looks for lines of lettering in it. Throws a `Fault` when it cannot be read. */
  async give(fileName: string, path: string): Promise<MatchView> {
    const read = await this.pool.match({ kind: "lines", path });
    if (!read.ok) throw new Fault(422, read.problem);
    const { sha256, width, height, lines } = read.value;
    const { pictures, matches } = this.uses;
    if (!(await pictures.has(sha256))) {
      const fresh = join(pictures.unfinished, randomUUID());
      await copyFile(path, fresh);
      await pictures.intoPlace(fresh, pictures.path(sha256));
    }
    const type = /\.png$/i.test(fileName) ? "image/png" : /\.webp$/i.test(fileName) ? "image/webp" : "image/jpeg";
    const id = matches.add({ name: fileName.slice(0, 200) || "Picture", sha256, type, width, height, lines, at: this.uses.now() });
    this.uses.events.changed("matches");
    return this.view(id);
  }

  /** What is read in a frame: its letters, each with its guess. */
  async read(id: number, asked: MatchAsked): Promise<MatchReading> {
    const { sha256 } = this.row(id);
    const found = await this.pool.match({ kind: "read", library: this.library, path: this.uses.pictures.path(sha256), asked });
    if (!found.ok) throw new Fault(422, found.problem);
    const { png, ...reading } = found.value;
    return { ...reading, picture: `data:image/png;base64,${Buffer.from(png).toString("base64")}` };
  }

  /** Faces that may be looked among, with where their files lie: what the library holds, what parcels hold, what devices were seen to have. */
  private async among(jobId: number | null, onlyCleared: boolean): Promise<Record<string, string>> {
    const { matches, files } = this.uses;
    const paths: Record<string, string> = {};
    const job = this.jobOf(jobId);
    const cleared = new Map<number, boolean>();
    const isCleared = (familyId: number | null): boolean => {
      if (familyId === null) return false;
      let known = cleared.get(familyId);
      if (known === undefined) {
        const family = this.acts.renewal.family(familyId);
        const answer = family && clearedFor(family.clearance, job?.uses ?? OWN_USE);
        cleared.set(familyId, (known = family !== undefined && !family.clearance.lapsed && (answer === "yes" || answer === "credit")));
      }
      return known;
    };
    const elsewhere: FaceId[] = [];
    for (let last = 0; ;) {
      const rows = matches.searchable(last, LOOKED_UP_TOGETHER);
      for (const row of rows) {
        last = row.id;
        if (onlyCleared && !isCleared(row.familyId)) continue;
        if (row.kept) paths[keyOf(row)] = files.path(row.sha256);
        else elsewhere.push(row);
      }
      if (rows.length < LOOKED_UP_TOGETHER) break;
      await othersFirst();
    }
    const held = await this.acts.measurer.pathsOf(elsewhere);
    for (const one of elsewhere) {
      const path = held.get(one.sha256);
      if (path !== undefined) paths[keyOf(one)] = path;
    }
    return paths;
  }

  /** Finds fonts for what is framed, and keeps the answer. */
  async answer(id: number, asked: MatchAsked): Promise<MatchView> {
    const row = this.row(id);
    if (asked.onlyCleared && asked.jobId !== null && !this.jobOf(asked.jobId)) throw notFound("job");
    this.stop(id);
    const calledOff = new AbortController();
    this.going.set(id, calledOff);
    try {
      const paths = await this.among(asked.jobId, asked.onlyCleared);
      if (Object.keys(paths).length === 0) {
        throw new Fault(422, {
          code: "match-nothing-among",
          message: asked.onlyCleared ? "No font here is cleared for that." : "There is no font here to look among yet.",
          next: asked.onlyCleared ? "Look among all fonts, or get a licence first." : "Bring fonts in first.",
        });
      }
      const found = await this.pool.match(
        { kind: "match", library: this.library, path: this.uses.pictures.path(row.sha256), asked, paths },
        ({ done, of }) => this.uses.events.tell({ topic: "match", matchId: id, done, of }),
        calledOff.signal,
      );
      if (!found.ok) throw new Fault(422, found.problem);
      this.uses.matches.answer(id, asked, this.told(found.value, asked));
      this.uses.events.changed("matches");
      return this.view(id);
    } catch (error) {
      if (calledOff.signal.aborted && !this.closed)
        throw new Fault(409, { code: "match-stopped", message: "The search was stopped.", next: "Start it again whenever you like." });
      throw error;
    } finally {
      if (this.going.get(id) === calledOff) this.going.delete(id);
    }
  }
  stop(id: number): void {
    this.going.get(id)?.abort();
    this.going.delete(id);
  }

  private told({ candidates, among, turned, straightened }: MatchFound, asked: MatchAsked): MatchAnswer {
    const shown = candidates.flatMap(({ key, likeness, verdict, differences, overlay, asIn }): MatchCandidate[] => {
      const where = this.where(idOfKey(key), asked.jobId);
      const like = asIn === undefined ? undefined : candidates[asIn];
      const twin = like && this.where(idOfKey(like.key), null);
      return where
        ? [
            {
              ...where,
              likeness,
              verdict,
              said: VERDICT_WORDS[verdict],
              differences,
              overlay,
              drawnLike: twin ? `${twin.family} ${twin.style}`.trim() : "",
            },
          ]
        : [];
    });
    const weaker = asked.words.trim() === "";
    return {
      sentence: sentenceOf(shown, weaker),
      weaker,
      turned,
      straightened,
      among,
      candidates: shown,
      unmeasured: this.acts.measurer.left,
      at: this.uses.now(),
    };
  }
  /** What is known of a face now: its names, where it is, its clearance; undefined when it is nowhere any more. */
  private where({ sha256, face }: FaceId, jobId: number | null) {
    const { library, documents, devices } = this.uses;
    const brief = library.facesBrief(sha256).find((one) => one.face === face)?.brief;
    if (!brief) return undefined;
    const style = library.styleOfFace(sha256, face);
    const parcel = style ? undefined : documents.parcelsWith(sha256)[0];
    const copy = style || parcel ? undefined : this.uses.observed.copiesOf(sha256)[0];
    if (!style && !parcel && !copy) return undefined;
    const place: MatchCandidate["place"] = style
      ? { kind: "library", id: null, name: "In your library" }
      : parcel
        ? { kind: "parcel", id: parcel.id, name: parcel.name }
        : { kind: "device", id: copy!.deviceId, name: devices.device(copy!.deviceId)?.name ?? "A device" };
    return {
      sha256,
      face,
      family: brief.family,
      style: brief.style,
      place,
      styleId: style?.id ?? null,
      familyId: style?.familyId ?? null,
      ...this.cleared(style?.familyId ?? null, jobId),
    };
  }
  private cleared(familyId: number | null, jobId: number | null): { cleared: Answer | null; clearance: string } {
    const job = this.jobOf(jobId);
    if (job) return clearedTo(this.acts.renewal, familyId, job.uses);
    // Without a job there is nothing to answer, but what is known is said.
    const family = familyId === null ? undefined : this.acts.renewal.family(familyId);
    if (!family) return { cleared: null, clearance: "" };
    return family.clearance.lapsed
      ? clearedTo(this.acts.renewal, familyId, OWN_USE)
      : { cleared: null, clearance: family.clearance.summary };
  }
  /** A kept answer as it stands today: fonts come and go, licences end. */
  private shownNow(answer: MatchAnswer, asked: MatchAsked | null): MatchAnswer {
    const candidates = answer.candidates.map((one): MatchCandidate => {
      const now = this.where(one, asked?.jobId ?? null);
      return now
        ? { ...one, ...now }
        : {
            ...one,
            styleId: null,
            familyId: null,
            cleared: null,
            clearance: "",
            place: { kind: "device", id: null, name: "Not here any more" },
          };
    });
    return { ...answer, candidates };
  }

  remove(id: number, removed: boolean): void {
    const { matches, history, db, events } = this.uses;
    // Twice removed is once removed.
    if (removed && matches.isRemoved(id)) return;
    if (removed) this.row(id);
    else if (!matches.isRemoved(id)) throw notFound("match");
    const at = this.uses.now();
    db.transaction(() => {
      const name = matches.get(id)?.name ?? "";
      matches.remove(id, removed ? at : null);
      if (removed) history.add(at, "match", `The match of “${name}” was removed.`, [], { kind: "match-removed", id });
    })();
    this.stop(id);
    events.changed("matches");
  }
  /** Forgets what was removed before a time, picture and all. */
  async tidy(before: string): Promise<void> {
    await this.uses.pictures.sweep(new Set(this.uses.matches.forget(before)));
  }

  /** A sheet with the words in each of some candidates, side by side. */
  toSheet(id: number, chosen: readonly number[]): SheetDetail {
    const row = this.row(id);
    const styles = chosen.map((at) => this.candidate(row, at));
    const text = (row.asked?.words ?? "").trim() || "Words";
    const lines = styles.map((style, i) => ({
      ...plainLine(`m${i}`, text, style),
      lineSpacing: 1200,
      size: { of: "em" as const, value: 24, unit: "mm" as const },
    }));
    const name = `Like ${row.name}`.slice(0, 120);
    return this.acts.bench.make({ name, body: { name, jobId: row.asked?.jobId ?? null, ground: "#ffffff", lines } });
  }
  private candidate({ answer }: MatchRow, at: number): MatchCandidate {
    const one = answer?.candidates[at];
    if (!one) throw notFound("candidate");
    return one;
  }
  /** The family of a candidate is wanted for a job from now on. */
  toJob(id: number, jobId: number, at: number): MatchView {
    const row = this.row(id);
    const job = this.jobOf(jobId) && this.uses.jobs.get(jobId);
    if (!job) throw notFound("job");
    const { sha256, face, family } = this.candidate(row, at);
    const familyId = this.uses.library.styleOfFace(sha256, face)?.familyId;
    if (familyId === undefined) {
      throw new Fault(409, {
        code: "not-shelved",
        message: `${family} is not in your library yet.`,
        next: "Add it to the library first, then put it into the job.",
      });
    }
    const now = this.uses.now();
    this.uses.db.transaction(() => {
      if (!job.familyIds.includes(familyId)) {
        const { id: _id, ...rest } = job;
        this.uses.jobs.put({ ...rest, familyIds: [...job.familyIds, familyId] }, now, jobId);
      }
      this.uses.history.add(now, "choice", `${family} was chosen for “${job.name}” from the picture “${row.name}”.`, [familyId]);
    })();
    this.uses.events.changed("jobs", "matches");
    return this.view(id);
  }
}

/** The answer in a sentence. */
function sentenceOf(found: readonly MatchCandidate[], weaker: boolean): string {
  const [first] = found;
  if (!first) return "No font here has all of these letters.";
  const name = `${first.family} ${first.style}`.trim();
  switch (first.verdict) {
    case "it":
      return `This is ${name}.`;
    case "relative":
      return weaker
        ? `Closest match: ${name}. Type the words for a surer answer.`
        : `It cannot be told for sure. Closest match: ${name}, a near relative or the font itself.`;
    case "manner":
      return weaker
        ? `In the same manner: ${name}. Type the words for a surer answer.`
        : `None of the fonts here is this one. In the same manner: ${name}.`;
    case "unlike":
      return weaker ? "Nothing here fits what was read. Type the words for a surer answer." : "Nothing like it is here.";
    case "open":
      return `It cannot be told: the letters run into one another, or stand askew. Frame fewer of them, or put the frame's corners on the line. Closest match: ${name}.`;
  }
}
