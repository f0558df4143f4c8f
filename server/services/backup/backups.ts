// Backups as the interface asks for them: made in a process of their own, remembered, and reminded of.
import { isAbsolute } from "node:path";
import type { BackupState } from "../../../contract/backup.ts";
import type { Problem } from "../../../contract/problem.ts";
import { ProblemError } from "../../../core/problem.ts";
import { diskFault } from "../../../core/disk/faults.ts";
import { dayWords } from "../../../core/words/dates.ts";
import { Fault } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import type { WorkPool } from "../../work/pool.ts";
import type { ParcelService } from "../parcels/parcels.ts";

const DAY_MS = 86_400_000;
/** What was brought in so lately can be brought in again. */
const NEW_DAYS = 7;

type Uses = Pick<Parts, "config" | "settings" | "parcels" | "parcelViews" | "library" | "events" | "now" | "history">;

export class BackupService {
  private readonly uses: Uses;
  private readonly pool: WorkPool;
  private readonly parcels: Pick<ParcelService, "clear">;
  private going = false;
  private problem: Problem | null = null;
  constructor(uses: Uses, pool: WorkPool, parcels: Pick<ParcelService, "clear">) {
    this.uses = uses;
    this.pool = pool;
    this.parcels = parcels;
  }

  state(): BackupState {
    const { backupFolder, backupLast, backupRemindDays } = this.uses.settings.get();
    return {
      folder: backupFolder,
      remindDays: backupRemindDays,
      last: backupLast,
      due: this.due() !== "",
      going: this.going,
      problem: this.problem,
      originals: this.uses.parcels.originals(),
    };
  }

  /** Why a backup should be made, as a sentence; empty when none is due. */
  due(): string {
    const { backupLast, backupRemindDays } = this.uses.settings.get();
    if (backupRemindDays === 0 || this.going) return "";
    const now = this.uses.config.now().getTime();
    if (backupLast) {
      const days = Math.floor((now - Date.parse(backupLast.at)) / DAY_MS);
      return days >= backupRemindDays ? `The last backup is ${days} days old, of ${dayWords(backupLast.at.slice(0, 10))}.` : "";
    }
    const first = this.uses.library.firstShelvedAt();
    return first !== undefined && now - Date.parse(first) >= NEW_DAYS * DAY_MS ? "There is no backup of this library yet." : "";
  }

  /** Makes one, while everything else goes on. Throws a `Fault` when it cannot be made. */
  async make(folder: string): Promise<BackupState> {
    if (this.going) throw new Fault(409, { code: "backup-going", message: "A backup is being made.", next: "Wait until it is done." });
    if (!isAbsolute(folder))
      throw new Fault(422, {
        code: "backup-folder",
        message: "This is not a whole path.",
        next: "Give the folder from the top, such as /media/disk/backups.",
      });
    const { config, settings, events, now } = this.uses;
    this.going = true;
    this.problem = null;
    events.changed("library");
    try {
      const made = await this.pool.backUp({ dataDir: config.dataDir, place: folder, at: now() }, ({ done, of }) =>
        events.tell({ topic: "acting", done, total: of }),
      );
      settings.set({ backupFolder: folder, backupLast: made });
      this.uses.history.add(now(), "backup", `A backup was made: ${made.name}.`, []);
    } catch (error) {
      this.problem = problemOf(error);
      if (!this.problem) throw error;
      throw new Fault(422, this.problem);
    } finally {
      this.going = false;
      // The bar that showed how far it was goes away.
      events.tell({ topic: "acting", done: 1, total: 1 });
      events.changed("library");
    }
    return this.state();
  }

  /** Puts downloads as they arrived aside to be deleted, or takes that back. */
  letGo(ids: readonly number[], cleared: boolean): BackupState {
    for (const id of ids) this.parcels.clear(id, cleared);
    return this.state();
  }
}

const problemOf = (error: unknown): Problem | null => (error instanceof ProblemError ? error.problem : (diskFault(error)?.problem ?? null));
