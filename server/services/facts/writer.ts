// Facts on their way into the database, a few milliseconds at a time.
import { othersFirst } from "../../../core/turns.ts";
import type { Parts } from "../../parts.ts";
import { patiently } from "../../patience.ts";
import { derived } from "../../store/database.ts";
import type { FaceFacts } from "../../store/families/faces.ts";

/** How long one piece of storing may hold the database. */
export const SLICE_MS = 5;

/** Stores faces found by worker threads. */
export class FactWriter {
  private readonly uses: Pick<Parts, "db" | "library">;
  private readonly queue: FaceFacts[] = [];
  private writing: Promise<void> | undefined;
  /** Why what was put last could not be stored. */
  private fault: unknown;
  constructor(uses: Pick<Parts, "db" | "library">) {
    this.uses = uses;
  }

  put(facts: readonly FaceFacts[]): void {
    this.queue.push(...facts);
    this.writing ??= this.write().finally(() => (this.writing = undefined));
  }
  /** Resolves once everything put so far is stored; rejects when some of it could not be. */
  async stored(): Promise<void> {
    while (this.writing) await this.writing;
    if (this.fault !== undefined) throw this.fault;
  }

  private async write(): Promise<void> {
    while (this.queue.length > 0) {
      await othersFirst();
      try {
        await patiently(() => this.slice());
        this.fault = undefined;
      } catch (error) {
        // Whoever brought them fails, and can be tried again; nobody else waits for these.
        this.fault = error;
        this.queue.length = 0;
      }
    }
  }
  private slice(): void {
    const until = performance.now() + SLICE_MS;
    let stored = 0;
    derived(this.uses.db, () => {
      for (; stored < this.queue.length && performance.now() < until; stored += 4)
        this.uses.library.putFaces(this.queue.slice(stored, stored + 4));
    });
    this.queue.splice(0, stored);
  }
}
