// Matching: faces are measured in the background; pictures are kept with what was asked of them; look-alikes of families.
import { randomUUID } from "node:crypto";
import { copyFile } from "node:fs/promises";
import { join } from "node:path";
import type { SheetDetail } from "../../contract/bench.ts";
import type {
  AlikeFamily,
  AlikeView,
  MatchAnswer,
  MatchAsked,
  MatchCandidate,
  MatchList,
  MatchReading,
  MatchSummary,
  MatchView,
} from "../../contract/match.ts";
import { clearedFor, clearedWords } from "../../core/clearance/job.ts";
import type { Answer, Use } from "../../core/clearance/uses.ts";
import { alikenessOf } from "../../core/matching/alike.ts";
import { SHAPES_VERSION } from "../../core/matching/face-shape.ts";
import { VERDICT_WORDS } from "../../core/matching/said.ts";
import { likenessOf } from "../../core/matching/verdict.ts";
import { othersFirst } from "../../core/turns.ts";
import { Fault, notFound } from "../fault.ts";
import type { Parts } from "../parts.ts";
import type { FaceId, MatchRow } from "../store/matches.ts";
import type { Renewal } from "../views/renewal.ts";
import type { MatchFound } from "../work/match.worker.ts";
import type { WorkPool } from "../work/pool.ts";
import { TaskLost } from "../work/threads.ts";
import type { BenchService } from "./bench.ts";
import type { Observer } from "./observer.ts";

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
>;

/** Faces measured by one thread in one go; threads at it; faces looked up at once. */
const TOGETHER = 24;
const AT_ONCE = 2;
const LOOKED_FOR = 960;
/** A face that took its thread along so often is given up. */
const MOST_ATTEMPTS = 2;
/** Faces looked up between two pauses. */
const LOOKED_UP_TOGETHER = 2000;
/** Styles of a family whose look-alikes are looked for, and families told. */
const STYLES_COMPARED = 4;
const FAMILIES_TOLD = 12;
const NEAREST_FACES = 400;
const OWN_USE: readonly Use[] = ["own"];

const keyOf = ({ sha256, face }: FaceId): string => `${sha256}#${face}`;
const idOfKey = (key: string): FaceId => ({ sha256: key.slice(0, 64), face: Number(key.slice(65)) });

export class MatchService {
  private readonly uses: Uses;
  private readonly pool: Pick<WorkPool, "measureFaces" | "match" | "quiet">;
  private readonly acts: { renewal: Pick<Renewal, "family">; bench: BenchService; observer: Observer };
  private measuring: Promise<void> | undefined;
  private again = false;
  /** What was known of faces when they were last looked for. */
  private known = -1;
  private closed = false;
  /** Everything is measured that can be. */
  private whole = false;
  /** What calls off a search that goes on, by the match. */
  private readonly going = new Map<number, AbortController>();
  constructor(uses: Uses, pool: Pick<WorkPool, "measureFaces" | "match" | "quiet">, acts: MatchService["acts"]) {
    this.uses = uses;
    this.pool = pool;
    this.acts = acts;
  }
  private get library(): string {
    return join(this.uses.config.dataDir, "library.db");
  }

  // Measuring

  /** Measures what nobody has measured yet, in the background, while nobody waits for a parcel. */
  poke(): void {
    // Most changes bring no new face: then there is nothing to look for.
    const { facesStamp } = this.uses.library;
    if (this.whole && facesStamp === this.known) return;
    this.known = facesStamp;
    if (this.measuring) this.again = true;
    this.measuring ??= this.measureAll().finally(() => {
      this.measuring = undefined;
      // What arrived while the last was measured.
      const { again } = this;
      this.again = false;
      if (again && !this.closed && !this.uses.disk.problem) this.poke();
    });
  }
  /** Resolves once everything is measured that can be. */
  async measured(): Promise<void> {
    this.poke();
    while (this.measuring) await this.measuring;
  }
  private async measureAll(): Promise<void> {
    const { matches } = this.uses;
    let told = 0;
    this.whole = false;
    let waiting: FaceId[] = [];
    for (;;) {
      if (this.closed || this.uses.disk.problem) return;
      if (!this.pool.quiet) {
        await new Promise((resolve) => setTimeout(resolve, 300).unref());
        continue;
      }
      if (waiting.length === 0) waiting = matches.unmeasured(SHAPES_VERSION, MOST_ATTEMPTS, LOOKED_FOR);
      const faces = waiting.splice(0, TOGETHER * AT_ONCE);
      if (faces.length === 0) break;
      const before = faces.length > TOGETHER ? [faces.slice(0, TOGETHER), faces.slice(TOGETHER)] : [faces];
      const done = await Promise.all(before.map((some) => this.measure(some)));
      if (done.includes(false)) return;
      told += faces.length;
      if (told >= TOGETHER * 20) {
        told = 0;
        this.uses.events.changed("matches");
      }
    }
    this.whole = true;
    if (told > 0) this.uses.events.changed("matches");
  }
  /** Measures some faces; after a thread was lost with them, one by one. False when there is no going on. */
  private async measure(faces: readonly FaceId[]): Promise<boolean> {
    const { matches } = this.uses;
    try {
      matches.begin(faces, SHAPES_VERSION);
      const paths = await this.pathsOf(faces);
      const found = await this.pool.measureFaces(faces.map((one) => ({ path: paths.get(one.sha256) ?? "", face: one.face })));
      matches.put(
        faces.map((one, i) => ({ ...one, found: found[i] ?? null })),
        SHAPES_VERSION,
      );
      return true;
    } catch (error) {
      if (!(error instanceof TaskLost) || error.why === "closed") {
        if (!(error instanceof TaskLost)) this.uses.disk.report(error);
        return false;
      }
      if (faces.length > 1) for (const one of faces) if (!(await this.measure([one]))) return false;
      return true;
    }
  }
  /** Where files lie: in the library, or on the devices that hold them. */
  private async pathsOf(faces: readonly FaceId[]): Promise<Map<string, string>> {
    const { files, devices } = this.uses;
    const found = new Map<string, string>();
    const elsewhere = new Map<number, string[]>();
    for (const sha256 of new Set(faces.map((one) => one.sha256))) {
      if (await files.has(sha256)) {
        found.set(sha256, files.path(sha256));
        continue;
      }
      const device = devices.copiesOf(sha256)[0]?.deviceId;
      if (device !== undefined) elsewhere.set(device, [...(elsewhere.get(device) ?? []), sha256]);
    }
    for (const [device, sums] of elsewhere) {
      const sources = await this.acts.observer.sourcesOf(device, sums).catch(() => new Map<string, never>());
      for (const [sha256, source] of sources) if ("path" in source) found.set(sha256, source.path);
    }
    return found;
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
  private unmeasured(): number {
    return this.whole ? 0 : this.uses.matches.unmeasuredCount(SHAPES_VERSION, MOST_ATTEMPTS);
  }
  list(): MatchList {
    return { matches: this.uses.matches.all().map((row) => this.summary(row)), unmeasured: this.unmeasured() };
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
    const held = await this.pathsOf(elsewhere);
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

  private told({ candidates, among, turned }: MatchFound, asked: MatchAsked): MatchAnswer {
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
      among,
      candidates: shown,
      unmeasured: this.unmeasured(),
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
    const copy = style || parcel ? undefined : devices.copiesOf(sha256)[0];
    if (!style && !parcel && !copy) return undefined;
    const place: MatchCandidate["place"] = style
      ? { kind: "library", id: null, name: "In your library" }
      : parcel
        ? { kind: "parcel", id: parcel.id, name: parcel.name }
        : { kind: "device", id: copy!.deviceId, name: devices.device(copy!.deviceId)?.name ?? "A device" };
    return {
      ...{ sha256, face, family: brief.family, style: brief.style, place },
      styleId: style?.id ?? null,
      familyId: style?.familyId ?? null,
      ...this.cleared(style?.familyId ?? null, jobId),
    };
  }
  private cleared(familyId: number | null, jobId: number | null): { cleared: Answer | null; clearance: string } {
    const family = familyId === null ? undefined : this.acts.renewal.family(familyId);
    if (!family) return { cleared: null, clearance: "" };
    if (family.clearance.lapsed) return { cleared: "no", clearance: "Its licence has ended" };
    const job = this.jobOf(jobId);
    if (!job) return { cleared: null, clearance: family.clearance.summary };
    const answer = clearedFor(family.clearance, job.uses);
    return {
      cleared: answer,
      clearance: clearedWords(
        answer,
        family.clearance.uses.filter((one) => job.uses.includes(one.use)),
      ),
    };
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
    const lines = styles.map(({ sha256, face, family, style }, i) => ({
      ...{ id: `m${i}`, text, letterSpacing: 0, lineSpacing: 1200, direction: "auto" as const },
      size: { of: "em" as const, value: 24, unit: "mm" as const },
      layers: [
        {
          ...{ style: { sha256, face, family, style }, features: {}, axes: {}, colour: "#1d1a16", dx: 0, dy: 0 },
          ...{ letters: "all" as const, made: { kind: "none" as const } },
        },
      ],
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

  // Look-alikes

  /** Families that look like one, the nearest first, with what they may be used for: by a job, or for one's own use. */
  async alike(familyId: number, jobId: number | null): Promise<AlikeView> {
    const { library, matches } = this.uses;
    const family = library.family(familyId);
    const own = library.briefsOf(familyId);
    if (!family || own.length === 0) throw notFound("family");
    const job = this.jobOf(jobId);
    if (jobId !== null && !job) throw notFound("job");
    const styles = telling(own);
    const keys = new Map(styles.map((style) => [keyOf(style), style]));
    const ownKeys = new Set(own.map(keyOf));
    const among: string[] = [];
    const familyOf = new Map<string, { familyId: number; styleId: number }>();
    for (let last = 0; ;) {
      const rows = matches.shelved(last, LOOKED_UP_TOGETHER);
      for (const row of rows) {
        last = row.styleId;
        const key = keyOf(row);
        if (ownKeys.has(key)) continue;
        among.push(key);
        familyOf.set(key, row);
      }
      if (rows.length < LOOKED_UP_TOGETHER) break;
      await othersFirst();
    }
    const found = await this.pool.match({ kind: "alike", library: this.library, of: [...keys.keys()], among, most: NEAREST_FACES });
    const best = new Map<number, { distance: number; of: string; key: string }>();
    for (const { of, found: near } of found) {
      for (const { key, distance } of near) {
        const to = familyOf.get(key)!.familyId;
        if (distance < (best.get(to)?.distance ?? Infinity)) best.set(to, { distance, of, key });
      }
    }
    const families = [...best]
      .sort((a, b) => a[1].distance - b[1].distance)
      .slice(0, FAMILIES_TOLD)
      .flatMap(([to, { distance, of, key }]): AlikeFamily[] => {
        const alike = alikenessOf(distance);
        const style = library.styleBrief(familyOf.get(key)!.styleId);
        const from = keys.get(of)!;
        const name = library.family(to)?.name;
        if (!alike || !style || name === undefined) return [];
        return [
          {
            ...{ familyId: to, family: name, styleId: style.id, style: style.brief.style, ofStyleId: from.id, ofStyle: from.brief.style },
            ...{ alike, likeness: likenessOf(distance * distance * 4) },
            ...this.clearedFor(to, job?.uses ?? OWN_USE),
          },
        ];
      });
    const unmeasured = styles.filter((style) => !matches.manner(style.sha256, style.face)).length;
    return { familyId, family: family.name, asked: job?.name ?? "", families, unmeasured };
  }
  private clearedFor(familyId: number, uses: readonly Use[]): { cleared: Answer | null; clearance: string } {
    const family = this.acts.renewal.family(familyId);
    if (!family) return { cleared: null, clearance: "" };
    if (family.clearance.lapsed) return { cleared: "no", clearance: "Its licence has ended" };
    const cleared = clearedFor(family.clearance, uses);
    return {
      cleared,
      clearance: clearedWords(
        cleared,
        family.clearance.uses.filter((one) => uses.includes(one.use)),
      ),
    };
  }
}

/** Styles that tell a family's look best: the one nearest to regular, a bold, an italic, and what else comes first. */
function telling<T extends FaceId & { brief: { weight: number; italic: boolean } }>(styles: readonly T[]): T[] {
  const far = (one: T) => Math.abs(one.brief.weight - 400) + (one.brief.italic ? 250 : 0);
  const byUse = [...styles].sort((a, b) => far(a) - far(b));
  const wanted = [
    byUse[0],
    byUse.find((one) => one.brief.weight >= 600 && !one.brief.italic),
    byUse.find((one) => one.brief.italic),
    ...byUse,
  ];
  return [...new Set(wanted.filter((one) => one !== undefined))].slice(0, STYLES_COMPARED);
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
      return `None of the fonts here is this one. In the same manner: ${name}.`;
    case "unlike":
      return "Nothing like it is here.";
  }
}
