// Faces are measured in the background: the forms of their letters and their manner, for matching.
import { SHAPES_VERSION } from "../../../core/matching/faces/face-shape.ts";
import type { Parts } from "../../parts.ts";
import type { FaceId } from "../../store/matching/matches.ts";
import type { WorkPool } from "../../work/pool.ts";
import { TaskLost } from "../../work/threads.ts";
import type { Observer } from "../devices/observer.ts";

type Uses = Pick<Parts, "matches" | "library" | "devices" | "files" | "disk" | "events" | "observed">;

/** Faces measured by one thread in one go; threads at it; faces looked up at once. */
const TOGETHER = 24;
const AT_ONCE = 2;
const LOOKED_FOR = 960;
/** What somebody waits for comes first: a new face is measured so long after it arrived. */
const CALM_MS = 2000;
/** A face that took its thread along so often is given up. */
const MOST_ATTEMPTS = 2;

export class FaceMeasurer {
  private readonly uses: Uses;
  private readonly pool: Pick<WorkPool, "measureFaces" | "quiet">;
  private readonly observer: Observer;
  private measuring: Promise<void> | undefined;
  /** Ends the waiting before it. */
  private hurry: () => void = () => {};
  private again = false;
  /** What was known of faces when they were last looked for. */
  private known = -1;
  private closed = false;
  /** Everything is measured that can be. */
  private whole = false;
  constructor(uses: Uses, pool: Pick<WorkPool, "measureFaces" | "quiet">, observer: Observer) {
    this.uses = uses;
    this.pool = pool;
    this.observer = observer;
  }

  /** Measures what nobody has measured yet, in the background, while nobody waits for a parcel. */
  poke(): void {
    // Most changes bring no new face: then there is nothing to look for.
    const { facesStamp } = this.uses.library;
    if (this.whole && facesStamp === this.known) return;
    this.known = facesStamp;
    this.whole = false;
    if (this.measuring) this.again = true;
    this.measuring ??= this.calm()
      .then(() => this.measureAll())
      .finally(() => {
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
    while (this.measuring) {
      this.hurry();
      await this.measuring;
    }
  }
  private calm(): Promise<void> {
    return new Promise((resolve) => {
      this.hurry = resolve;
      setTimeout(resolve, CALM_MS).unref();
    });
  }
  private async measureAll(): Promise<void> {
    const { matches } = this.uses;
    let told = 0;
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
  async pathsOf(faces: readonly FaceId[]): Promise<Map<string, string>> {
    const { files, observed } = this.uses;
    const found = new Map<string, string>();
    const elsewhere = new Map<number, string[]>();
    for (const sha256 of new Set(faces.map((one) => one.sha256))) {
      if (await files.has(sha256)) {
        found.set(sha256, files.path(sha256));
        continue;
      }
      const device = observed.copiesOf(sha256)[0]?.deviceId;
      if (device !== undefined) elsewhere.set(device, [...(elsewhere.get(device) ?? []), sha256]);
    }
    for (const [device, hashes] of elsewhere) {
      const sources = await this.observer.sourcesOf(device, hashes).catch(() => new Map<string, never>());
      for (const [sha256, source] of sources) if ("path" in source) found.set(sha256, source.path);
    }
    return found;
  }
  /** Faces that cannot be found yet. */
  get left(): number {
    return this.whole ? 0 : this.uses.matches.unmeasuredCount(SHAPES_VERSION, MOST_ATTEMPTS);
  }
  close(): void {
    this.closed = true;
    this.hurry();
  }
}
