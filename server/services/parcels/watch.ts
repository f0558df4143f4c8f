// The watched folder: downloads that arrive there become parcels. Files are copied, never moved or changed.
import { constants, type Stats } from "node:fs";
import { access, copyFile, opendir, readdir, rm, stat, statfs } from "node:fs/promises";
import { randomUUID } from "node:crypto";
import { once } from "node:events";
import { homedir } from "node:os";
import { basename, isAbsolute, join, resolve } from "node:path";
import { watch as watchFolder, type FSWatcher } from "chokidar";
import type { Problem } from "../../../contract/problem.ts";
import type { WatchReport } from "../../../contract/settings.ts";
import { isFontName, sortEntry } from "../../../core/archive/kinds.ts";
import { syncFile } from "../../../core/disk/whole.ts";
import { limitsFrom } from "../../../core/archive/limits.ts";
import type { Parts } from "../../parts.ts";
import type { WorkPool } from "../../work/pool.ts";
import type { ParcelService } from "./parcels.ts";

/** A file counts as arrived when its size stayed the same for so long. */
const SETTLED_AFTER_MS = 1500;
const SIZE_EVERY_MS = 250;
/** How often it is seen whether the folder itself is still there. */
const FOLDER_EVERY_MS = 3000;
/** Disks of other machines tell nobody of what changes on them: there the folder is read again and again (Linux, statfs(2): NFS, SMB, CIFS, FUSE, 9P). */
const TELLS_NOTHING = new Set([0x6969, 0x517b, 0xfe534d42, 0xff534d42, 0x65735546, 0x01021997]);
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
  /** Ends the waiting for a watcher that is closed before it is ready. */
  private closing = new AbortController();
  private folder: string | null = null;
  private problem: Problem | null = null;
  /** Files are taken one after the other; this is the end of the line. */
  private line: Promise<void> = Promise.resolve();

  constructor(uses: Uses, parcels: ParcelService, pool: WorkPool) {
    this.uses = uses;
    this.parcels = parcels;
    this.pool = pool;
  }

  /** Starts watching the folder of the settings. What lies there when it is first chosen is left alone. */
  async start(): Promise<void> {
    await this.stop();
    const chosen = this.uses.settings.get().watchedFolder;
    if (chosen === null) return;
    const folder = (this.folder = resolve(chosen));
    if (!this.uses.watched.wasWatched(folder)) await this.leaveWhatIsThere(folder);
    await this.lookAtFolder(folder);
  }
  private async stop(): Promise<void> {
    clearTimeout(this.timer);
    this.folder = null;
    this.problem = null;
    await this.closeWatcher();
  }
  private async closeWatcher(): Promise<void> {
    const watcher = this.watcher;
    this.watcher = undefined;
    this.closing.abort();
    this.closing = new AbortController();
    await watcher?.close();
  }
  /** Stops, once what is being taken in is in. */
  async close(): Promise<void> {
    await this.stop();
    await this.line;
  }

  private async leaveWhatIsThere(folder: string): Promise<void> {
    // A folder that cannot be read now is not known yet either.
    const there = await this.filesIn(folder).catch(() => undefined);
    if (there) this.uses.watched.begin(folder, there, this.uses.now());
  }
  /** What lies in a folder and could be taken in. */
  private async filesIn(folder: string): Promise<{ path: string; bytes: number; modifiedMs: number }[]> {
    const inside = await readdir(folder, { withFileTypes: true });
    const found = [];
    for (const { name } of inside.filter((one) => one.isFile() && wantedName(one.name))) {
      const path = join(folder, name);
      const about = await stat(path).catch(() => undefined);
      if (about) found.push({ path, bytes: about.size, modifiedMs: Math.round(about.mtimeMs) });
    }
    return found;
  }

  /** Takes in what lay there before the folder was watched. */
  async takeEarlier(): Promise<void> {
    const { folder } = this;
    if (folder === null) return;
    this.uses.watched.forget(folder, "before");
    await this.closeWatcher();
    await this.lookAtFolder(folder);
  }

  /** Sees whether the folder is there, and begins to watch it when it is; looks again a little later. */
  private async lookAtFolder(folder: string): Promise<void> {
    clearTimeout(this.timer);
    try {
      await (await opendir(folder)).close();
      if (folder !== this.folder) return;
      this.tell(null);
      if (!this.watcher) await this.watch(folder);
    } catch (error) {
      if ((error as Error).name === "AbortError") return;
      const denied = (error as NodeJS.ErrnoException).code === "EACCES";
      await this.closeWatcher();
      if (folder !== this.folder) return;
      this.tell({
        code: "watched-folder",
        message: denied ? `The folder ${folder} may not be read.` : `The folder ${folder} cannot be found.`,
        next: "Choose another one in the settings, or bring downloads in by hand; it is looked for again meanwhile.",
      });
    }
    if (folder !== this.folder) return;
    this.timer = setTimeout(() => void this.lookAtFolder(folder), FOLDER_EVERY_MS);
    this.timer.unref();
  }
  private async watch(folder: string): Promise<void> {
    const { type } = await statfs(folder);
    if (this.watcher || folder !== this.folder) return;
    const watcher = watchFolder(folder, {
      depth: 0,
      followSymlinks: false,
      alwaysStat: true,
      ignorePermissionErrors: true,
      ignored: (path, about) => about !== undefined && path !== folder && !this.wanted(path, about),
      awaitWriteFinish: { stabilityThreshold: SETTLED_AFTER_MS, pollInterval: SIZE_EVERY_MS },
      usePolling: TELLS_NOTHING.has(type),
      interval: SETTLED_AFTER_MS,
    });
    this.watcher = watcher;
    const arrived = (path: string): void => {
      this.line = this.line
        .then(async () => {
          // What is found at the first look is not waited for by the package: it may be growing.
          if (watcher === this.watcher && (await this.consider(path)) === "later")
            setTimeout(() => arrived(path), SETTLED_AFTER_MS).unref();
        })
        .catch((error: unknown) => {
          if (!this.uses.disk.report(error)) process.stderr.write(`Taking in ${path} failed: ${String(error)}\n`);
        });
    };
    watcher.on("add", arrived).on("change", arrived);
    // The folder's own end, which the next look tells of.
    watcher.on("unlinkDir", (path) => void (path === folder && this.lookAtFolder(folder)));
    watcher.on("error", () => {});
    await once(watcher, "ready", { signal: this.closing.signal });
    // What came after the package read the folder and before the system told it of changes.
    for (const { path } of await this.filesIn(folder)) arrived(path);
  }
  private wanted(path: string, about: Stats): boolean {
    return about.isFile() && wantedName(basename(path)) && !this.isKnown(path, about);
  }
  private isKnown(path: string, about: Stats): boolean {
    const known = this.uses.watched.get(path);
    return known !== undefined && known.bytes === about.size && known.modifiedMs === Math.round(about.mtimeMs);
  }
  private tell(problem: Problem | null): void {
    if (problem?.message === this.problem?.message) return;
    this.problem = problem;
    this.uses.events.changed("parcels");
  }

  private async consider(path: string): Promise<"later" | "done"> {
    const about = await stat(path).catch(() => undefined);
    if (!about || about.size === 0 || this.isKnown(path, about)) return "done";
    const age = Date.now() - about.mtimeMs;
    if (age >= 0 && age < SETTLED_AFTER_MS) return "later";
    const name = basename(path);
    const readable = await access(path, constants.R_OK).then(
      () => true,
      () => false,
    );
    const reason = readable ? await this.whyPassed(path, name) : "The file may not be read.";
    const row = { path, bytes: about.size, modifiedMs: Math.round(about.mtimeMs), outcome: reason ?? "taken" };
    if (reason !== undefined) {
      this.uses.watched.put(row, this.uses.now());
      this.uses.events.changed("parcels");
      return "done";
    }
    const stored = randomUUID();
    const target = join(this.uses.incoming, stored);
    try {
      await copyFile(path, target, constants.COPYFILE_FICLONE);
      await syncFile(target);
    } catch (error) {
      await rm(target, { force: true });
      // Where the library cannot be written to it is taken in at a later look.
      if (!/^(ENOSPC|EDQUOT|EROFS)$/.test((error as NodeJS.ErrnoException).code ?? "")) throw error;
      this.uses.disk.report(error);
      return "later";
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
    return "done";
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
