// The watched folder: downloads that arrive there become parcels. Files are copied, never moved or changed.
import { constants, watch as watchFolder, type FSWatcher } from "node:fs";
import { access, copyFile, readdir, rm, stat } from "node:fs/promises";
import { randomUUID } from "node:crypto";
import { homedir } from "node:os";
import { isAbsolute, join } from "node:path";
import type { Problem } from "../../../contract/problem.ts";
import type { WatchReport } from "../../../contract/settings.ts";
import { isFontName, sortEntry } from "../../../core/archive/kinds.ts";
import { syncFile } from "../../../core/disk/whole.ts";
import { limitsFrom } from "../../../core/archive/limits.ts";
import type { Parts } from "../../parts.ts";
import type { WorkPool } from "../../work/pool.ts";
import type { ParcelService } from "./parcels.ts";

/** A file counts as arrived when its size stayed the same from one look to the next. */
const LOOK_EVERY_MS = 1500;
/** Names browsers give to what is still coming in; common practice, no source. */
const UNFINISHED = /\.(part|partial|crdownload|download|tmp|opdownload)$|^\./i;

const wantedName = (name: string): boolean =>
  !UNFINISHED.test(name) && (isFontName(name) || sortEntry(name, new Uint8Array()).kind === "archive");

type Uses = Pick<Parts, "settings" | "watched" | "files" | "incoming" | "db" | "events" | "disk" | "now">;

export class WatchService {
  private readonly uses: Uses;
  private readonly parcels: ParcelService;
  private readonly pool: WorkPool;
  private timer: NodeJS.Timeout | undefined;
  private watcher: FSWatcher | undefined;
  private folder: string | null = null;
  private problem: Problem | null = null;
  /** Sizes seen at the last look. */
  private readonly sizes = new Map<string, number>();
  private looking: Promise<void> = Promise.resolve();

  constructor(uses: Uses, parcels: ParcelService, pool: WorkPool) {
    this.uses = uses;
    this.parcels = parcels;
    this.pool = pool;
  }

  /** Starts watching the folder of the settings. What lies there when it is first chosen is left alone. */
  async start(): Promise<void> {
    this.stop();
    this.folder = this.uses.settings.get().watchedFolder;
    if (this.folder === null) return;
    if (this.uses.watched.of(this.folder).length === 0) await this.leaveWhatIsThere();
    try {
      // A hint to look at once; where the system gives none, the timer is enough.
      this.watcher = watchFolder(this.folder, () => this.lookSoon(200));
      this.watcher.on("error", () => this.watcher?.close());
    } catch {
      // Told by the next look.
    }
    this.lookSoon(0);
  }
  stop(): void {
    clearTimeout(this.timer);
    this.timer = undefined;
    this.folder = null;
    this.watcher?.close();
    this.watcher = undefined;
    this.sizes.clear();
    this.problem = null;
  }

  private lookSoon(ms: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      this.looking = this.look().finally(() => {
        if (this.folder !== null && this.timer !== undefined) this.lookSoon(LOOK_EVERY_MS);
      });
    }, ms);
    this.timer.unref();
  }
  /** Stops, once a look under way is over. */
  async close(): Promise<void> {
    this.stop();
    await this.looking;
  }

  private async names(folder: string): Promise<string[]> {
    const inside = await readdir(folder, { withFileTypes: true });
    return inside.filter((one) => one.isFile() && wantedName(one.name)).map((one) => one.name);
  }

  private async leaveWhatIsThere(): Promise<void> {
    const folder = this.folder!;
    for (const name of await this.names(folder).catch(() => [])) {
      const path = join(folder, name);
      const about = await stat(path).catch(() => undefined);
      if (about)
        this.uses.watched.put({ path, bytes: about.size, modifiedMs: Math.round(about.mtimeMs), outcome: "before" }, this.uses.now());
    }
  }

  /** Takes in what lay there before the folder was watched. */
  async takeEarlier(): Promise<void> {
    if (this.folder !== null) this.uses.watched.forget(this.folder, "before");
    this.lookSoon(0);
  }

  private async look(): Promise<void> {
    const folder = this.folder;
    if (folder === null) return;
    try {
      const names = await this.names(folder);
      this.tell(null);
      for (const name of names) await this.consider(join(folder, name), name);
    } catch (error) {
      const denied = (error as NodeJS.ErrnoException).code === "EACCES";
      this.tell({
        code: "watched-folder",
        message: denied ? `The folder ${folder} may not be read.` : `The folder ${folder} cannot be found.`,
        next: "Choose another one in the settings, or bring downloads in by hand; it is looked for again meanwhile.",
      });
    }
  }
  private tell(problem: Problem | null): void {
    if (problem?.message === this.problem?.message) return;
    this.problem = problem;
    this.uses.events.changed("parcels");
  }

  private async consider(path: string, name: string): Promise<void> {
    const about = await stat(path).catch(() => undefined);
    if (!about) return;
    const modifiedMs = Math.round(about.mtimeMs);
    const known = this.uses.watched.get(path);
    if (known && known.bytes === about.size && known.modifiedMs === modifiedMs) return;
    const settled = this.sizes.get(path) === about.size && about.size > 0;
    this.sizes.set(path, about.size);
    if (!settled) return;
    this.sizes.delete(path);
    const reason = await this.whyPassed(path, name);
    const row = { path, bytes: about.size, modifiedMs, outcome: reason ?? "taken" };
    if (reason !== undefined) {
      this.uses.watched.put(row, this.uses.now());
      return this.uses.events.changed("parcels");
    }
    const stored = randomUUID();
    const target = join(this.uses.incoming, stored);
    try {
      await copyFile(path, target, constants.COPYFILE_FICLONE);
      await syncFile(target);
    } catch (error) {
      await rm(target, { force: true });
      // Where the library cannot be written to it is taken in at a later look.
      if (/^(ENOSPC|EDQUOT|EROFS)$/.test((error as NodeJS.ErrnoException).code ?? "")) return void this.uses.disk.report(error);
      throw error;
    }
    // Noted and received together: a stop between the two would bring the file twice or never.
    const noted = this.uses.db.transaction(() => {
      this.uses.watched.put(row, this.uses.now());
      this.parcels.receive(name, [{ name, stored_as: stored, bytes: about.size }]);
    });
    try {
      noted();
    } catch (error) {
      await rm(target, { force: true });
      throw error;
    }
  }

  /** Why a file is not taken in; undefined when it holds a font, or is locked or damaged, which its parcel then says. */
  private async whyPassed(path: string, name: string): Promise<string | undefined> {
    if (isFontName(name)) return undefined;
    const limits = limitsFrom(this.uses.settings.get().limits);
    const staging = join(this.uses.files.unfinished, `watched-${randomUUID()}`);
    try {
      return (await this.pool.probe({ path, name, staging, limits })) ?? undefined;
    } catch {
      return undefined;
    }
  }

  report(): WatchReport {
    const rows = this.folder === null ? [] : this.uses.watched.of(this.folder);
    const known = new Set(["taken", "before"]);
    return {
      folder: this.folder,
      suggestion: join(homedir(), "Downloads"),
      problem: this.problem,
      taken: rows.filter((row) => row.outcome === "taken").length,
      passedOver: rows.filter((row) => !known.has(row.outcome)).length,
      before: rows.filter((row) => row.outcome === "before").length,
      latest: rows
        .filter((row) => row.outcome !== "before")
        .slice(0, 8)
        .map((row) => ({
          name: row.path.split(/[\\/]/).at(-1)!,
          outcome: row.outcome === "taken" ? "Taken in" : row.outcome,
          at: row.seenAt,
        })),
    };
  }
}

/** The problem with a folder somebody wants to have watched; undefined when there is none. */
export async function folderProblem(folder: string): Promise<Problem | undefined> {
  if (!isAbsolute(folder)) {
    return {
      code: "watched-folder",
      message: "The folder's whole path is needed, from the top.",
      next: `For example ${join(homedir(), "Downloads")}.`,
    };
  }
  const about = await stat(folder).catch(() => undefined);
  if (!about?.isDirectory()) {
    return { code: "watched-folder", message: `There is no folder ${folder} on this computer.`, next: "Check how it is spelled." };
  }
  try {
    await access(folder, constants.R_OK);
  } catch {
    return { code: "watched-folder", message: `The folder ${folder} may not be read.`, next: "Allow reading it, or choose another." };
  }
  return undefined;
}
