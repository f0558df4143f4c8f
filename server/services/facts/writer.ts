// Facts on their way into the database, a few milliseconds at a time.
import { othersFirst } from "../../../core/turns.ts";
import type { Parts } from "../../parts.ts";
import { patiently } from "../../patience.ts";
import { derived } from "../../store/database.ts";
import type { FaceFacts } from "../../store/families/faces.ts";

/** How long one piece of storing may hold the database. */
export const SLICE_MS = 5;

/** Faces stored between two looks at the clock. */
const TOGETHER = 4;

/** What one bringer found: stored as it comes, and it alone fails when some of it cannot be stored. */
export interface Bringing {
  put(facts: readonly FaceFacts[]): void;
  /** Resolves once everything put so far is stored; rejects when some of it could not be. */
  stored(): Promise<void>;
}

/** Stores faces found by worker threads. */
export class FactWriter {
  private readonly uses: Pick<Parts, "db" | "library">;
  private readonly queue: { facts: FaceFacts; of: object }[] = [];
  /** Why what somebody put could not be stored. */
  private readonly faults = new WeakMap<object, unknown>();
  private writing: Promise<void> | undefined;
  constructor(uses: Pick<Parts, "db" | "library">) {
    this.uses = uses;
  }

  begin(): Bringing {
    const of = {};
    return {
      put: (facts) => {
        for (const one of facts) this.queue.push({ facts: one, of });
        this.writing ??= this.write().finally(() => (this.writing = undefined));
      },
      stored: async () => {
        while (this.writing && this.queue.some((one) => one.of === of)) await this.writing;
        if (this.faults.has(of)) throw this.faults.get(of);
      },
    };
  }

  private async write(): Promise<void> {
    while (this.queue.length > 0) {
      await othersFirst();
      // Those of one bringer together: what cannot be stored is given up for that one alone.
      const { of } = this.queue[0]!;
      try {
        await patiently(() => this.slice(of));
      } catch (error) {
        this.faults.set(of, error);
        const others = this.queue.filter((one) => one.of !== of);
        this.queue.splice(0, this.queue.length, ...others);
      }
    }
  }
  private slice(of: object): void {
    const until = performance.now() + SLICE_MS;
    const end = this.queue.findIndex((one) => one.of !== of);
    const own = end < 0 ? this.queue.length : end;
    let stored = 0;
    derived(this.uses.db, () => {
      for (; stored < own && performance.now() < until; stored = Math.min(own, stored + TOGETHER))
        this.uses.library.putFaces(this.queue.slice(stored, Math.min(own, stored + TOGETHER)).map(({ facts }) => facts));
    });
    this.queue.splice(0, stored);
  }
}
