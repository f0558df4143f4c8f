// Texts are read as they come, a few at a time: what papers, and fonts themselves, say of licences.
import { NOTHING_READ } from "../../../core/clearance/read.ts";
import type { StatedLicence } from "../../../core/inspect.ts";
import type { Problem } from "../../../core/problem.ts";
import { othersFirst } from "../../../core/turns.ts";
import type { Parts } from "../../parts.ts";
import { derived } from "../../store/database.ts";
import type { Unread } from "../../store/clearance/readings.ts";
import type { PaperOutcome, PaperTask } from "../../work/paper.worker.ts";
import type { WorkPool } from "../../work/pool.ts";
import { TaskLost } from "../../work/threads.ts";
import { SLICE_MS } from "./writer.ts";

/** Short texts read together. */
const TOGETHER = 64;
/** A text that took its thread along so often is given up. */
const MOST_ATTEMPTS = 2;
/** One that was begun so often and neither came to an end nor failed may have ended Buvano itself; it is not begun again. */
const MOST_BEGUN = 3;
/** After a fault of the disk texts are read again so much later. */
const AGAIN_MS = 3000;
/** How often it is looked whether the disk works again. */
const WELL_MS = 500;
type Uses = Pick<Parts, "readings" | "library" | "files" | "db" | "events" | "disk">;

const gaveUp = (why: TaskLost["why"]): Problem => ({
  code: "paper-unreadable",
  message:
    why === "memory"
      ? "Reading this paper took more memory than a paper may."
      : why === "overran"
        ? "Reading this paper took longer than a paper may."
        : "This paper could not be read.",
  next: "Open it in another program, and note what it says.",
});

/** Reads texts that wait, short ones first; long ones in a quiet queue of their own. */
export class TextReader {
  private readonly uses: Uses;
  private readonly pool: WorkPool;
  /** Called when something was read, so that views follow. */
  private readonly onRead: () => void;
  private readonly running: { short: Promise<void> | undefined; long: Promise<void> | undefined } = { short: undefined, long: undefined };
  private closed = false;

  constructor(uses: Uses, pool: WorkPool, onRead: () => void) {
    this.uses = uses;
    this.pool = pool;
    this.onRead = onRead;
  }

  /** Looks whether texts wait. */
  poke(): void {
    for (const lane of ["short", "long"] as const) {
      if (this.running[lane] || this.closed || this.uses.readings.next(lane === "long", 1).length === 0) continue;
      this.running[lane] = this.work(lane)
        .catch((error: unknown) => {
          if (!this.uses.disk.report(error)) process.stderr.write(`Reading texts stopped: ${String(error)}\n`);
          setTimeout(() => this.poke(), AGAIN_MS).unref();
        })
        .finally(() => {
          this.running[lane] = undefined;
        });
    }
  }
  /** Resolves once all short texts are read; with `long`, all. */
  async whenRead(long = false): Promise<void> {
    for (;;) {
      this.poke();
      const waits = this.running.short ?? (long ? this.running.long : undefined);
      // On a disk that cannot be written to nothing is read: whoever waits would wait for ever.
      if (!waits || this.uses.disk.problem) return;
      await waits;
    }
  }

  private async work(lane: "short" | "long"): Promise<void> {
    const long = lane === "long";
    for (;;) {
      // Nothing is tried, and counted as tried, on a disk that cannot be written to.
      while (this.uses.disk.problem && !this.closed) await wait(WELL_MS);
      // Long ones are for when nobody waits for anything else.
      while (long && !this.closed && (this.running.short || !this.pool.quiet)) await (this.running.short ?? wait(50));
      if (this.closed) return;
      const next = this.uses.readings.next(long, long ? 1 : TOGETHER);
      if (next.length === 0) return;
      // One that was tried before is read by itself: it may have been the one.
      const tried = next.find((one) => one.attempts > 0);
      await this.read(tried ? [tried] : next, long);
    }
  }

  private async read(texts: readonly Unread[], long: boolean): Promise<void> {
    const { readings, files } = this.uses;
    const ids = texts.map((one) => one.id);
    if (texts.length === 1 && texts[0]!.attempts >= MOST_BEGUN) return this.giveUp(texts[0]!, "died");
    readings.countAttempt(ids);
    const tasks = texts.map(({ id, key, kind, source }): PaperTask =>
      kind === "paper"
        ? { id, key, kind, path: source, at: files.path(key) }
        : { id, key, kind, stated: JSON.parse(source) as StatedLicence },
    );
    try {
      await this.store(await this.pool.readPapers(tasks, long));
    } catch (error) {
      // That Buvano was closed meanwhile says nothing about what was being read.
      if (this.closed || (error instanceof TaskLost && error.why === "closed")) return readings.countAttempt(ids, -1);
      // Nor when the disk took nothing: what was read is read again.
      if (this.uses.disk.report(error)) return this.uses.disk.attempt(() => readings.countAttempt(ids, -1));
      // Together they did not come to an end: the next round takes one of them alone. Alone and again, it is given up; so is one that
      // computed for longer than it may, which it would do again.
      const [text] = texts as [Unread];
      const overran = error instanceof TaskLost && error.why === "overran";
      if (texts.length > 1 || (!overran && text.attempts + 1 < MOST_ATTEMPTS)) return;
      if (!(error instanceof TaskLost)) process.stderr.write(`Reading ${text.kind} ${text.key} failed: ${String(error)}\n`);
      await this.giveUp(text, error instanceof TaskLost ? error.why : "died");
    }
  }
  private giveUp({ id, key, kind }: Unread, why: TaskLost["why"]): Promise<void> {
    const text = kind === "paper" ? { text: { sha256: key, text: "", cut: false, problem: gaveUp(why) } } : {};
    return this.store([{ id, facts: NOTHING_READ, ...text }]);
  }

  private async store(outcomes: readonly PaperOutcome[]): Promise<void> {
    const left = [...outcomes];
    while (left.length > 0 && !this.closed) {
      const until = performance.now() + SLICE_MS;
      derived(this.uses.db, () => {
        while (left.length > 0 && performance.now() < until) {
          const { id, facts, text } = left.shift()!;
          this.uses.readings.put(id, facts, text);
        }
      });
      await othersFirst();
    }
    this.onRead();
  }
  close(): void {
    this.closed = true;
  }
}

const wait = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
