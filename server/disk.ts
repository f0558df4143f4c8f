// Whether the library can be written to. A fault is told on every screen until writing works again; what can be read is read meanwhile.
import { rmSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { diskFault } from "../core/disk/faults.ts";
import type { Problem } from "../core/problem.ts";

const LOOK_AGAIN_MS = 3000;
/** Kept for the moment the disk is full: what SQLite needs to open a library, even if only to read it. */
const BALLAST = "room-to-open";
const BALLAST_BYTES = 512 * 1024;

export class DiskWatch {
  private readonly dir: string;
  private timer: NodeJS.Timeout | undefined;
  private readonly waiting = new Set<() => void>();
  /** What is wrong with it; null when nothing is. */
  problem: Problem | null = null;
  /** Told when that changes. */
  onChange: () => void = () => {};

  constructor(dir: string) {
    this.dir = dir;
  }

  /** Takes note of a fault; false when an error is none of the disk's. */
  report(error: unknown): boolean {
    const fault = diskFault(error);
    if (!fault) return false;
    this.set(fault.problem);
    this.timer ??= setInterval(() => this.look(), LOOK_AGAIN_MS).unref();
    return true;
  }
  /** Does something that may fail for the disk's sake, if need be in the room kept for it; else it is done once writing works. */
  attempt(work: () => void): void {
    for (const last of [false, true]) {
      try {
        return work();
      } catch (error) {
        if (!this.report(error)) throw error;
        if (last || this.problem?.code !== "disk-full") return void this.waiting.add(work);
        this.dropBallast();
      }
    }
  }

  private look(): void {
    try {
      writeFileSync(join(this.dir, ".room"), new Uint8Array(64 * 1024));
      rmSync(join(this.dir, ".room"));
    } catch (error) {
      if (this.report(error)) return;
    }
    const waiting = [...this.waiting];
    this.waiting.clear();
    for (const work of waiting) this.attempt(work);
    // One that could not be done waits for the next look.
    if (this.waiting.size > 0) return;
    clearInterval(this.timer);
    this.timer = undefined;
    this.set(null);
    this.keepBallast();
  }
  private set(problem: Problem | null): void {
    if (this.problem?.code === problem?.code) return;
    this.problem = problem;
    this.onChange();
  }

  keepBallast(): void {
    const path = join(this.dir, BALLAST);
    try {
      if (statSync(path, { throwIfNoEntry: false })?.size === BALLAST_BYTES) return;
      writeFileSync(path, new Uint8Array(BALLAST_BYTES));
    } catch {
      rmSync(path, { force: true });
    }
  }
  dropBallast(): void {
    try {
      rmSync(join(this.dir, BALLAST), { force: true });
    } catch (error) {
      // A disk that is read-only keeps it.
      if (!diskFault(error)) throw error;
    }
  }
  close(): void {
    clearInterval(this.timer);
  }
}
