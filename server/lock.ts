// One process at a time has a library: an exclusive lock in its folder, taken before anything there is touched. SQLite holds it through the
// system's own file locks, so that it is gone with the process however that ends.
import { mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import Database from "better-sqlite3";
import { openingProblem } from "./store/opening.ts";

/** Who has the library, as far as it said so. */
export interface Holder {
  /** Where its server answers; empty while it does not. */
  address: string;
  pid: number;
}

export class LibraryTaken extends Error {
  readonly holder: Holder | undefined;
  constructor(holder: Holder | undefined) {
    super(
      holder?.address
        ? `This library is open already: ${holder.address}. Use that page, or stop that Buvano first.`
        : "This library is open in another Buvano. Wait until it is done, or stop it first.",
    );
    this.holder = holder;
  }
}

const ABOUT = "running.json";

function holderOf(dataDir: string): Holder | undefined {
  try {
    const { address, pid } = JSON.parse(readFileSync(join(dataDir, ABOUT), "utf8")) as Partial<Holder>;
    return typeof address === "string" && /^http:\/\/localhost:\d+$/.test(address) && typeof pid === "number"
      ? { address, pid }
      : undefined;
  } catch {
    return undefined;
  }
}

export class LibraryLock {
  private readonly dataDir: string;
  private readonly db: Database.Database;

  /** Throws `LibraryTaken` when another process has it. */
  constructor(dataDir: string) {
    this.dataDir = dataDir;
    try {
      mkdirSync(dataDir, { recursive: true });
      this.db = new Database(join(dataDir, "lock.db"), { timeout: 0 });
    } catch (error) {
      throw openingProblem(error, dataDir) ?? error;
    }
    try {
      this.db.pragma("locking_mode = EXCLUSIVE");
      // Nothing is ever written: no journal is needed, and a full disk does not matter.
      this.db.pragma("journal_mode = MEMORY");
      this.db.exec("BEGIN EXCLUSIVE");
    } catch (error) {
      this.db.close();
      if (!/^SQLITE_(BUSY|LOCKED)/.test((error as { code?: string }).code ?? "")) throw error;
      throw new LibraryTaken(holderOf(dataDir));
    }
    // What a process that was killed said of itself is not true any more.
    rmSync(join(dataDir, ABOUT), { force: true });
  }

  /** Says where the server answers, for whoever finds the library taken. */
  answersAt(address: string): void {
    try {
      writeFileSync(join(this.dataDir, ABOUT), JSON.stringify({ address, pid: process.pid } satisfies Holder));
    } catch {
      // On a full disk nobody can be told; the lock holds all the same.
    }
  }
  release(): void {
    if (!this.db.open) return;
    rmSync(join(this.dataDir, ABOUT), { force: true });
    this.db.close();
  }
}
