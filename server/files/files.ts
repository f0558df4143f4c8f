// Font files on disk, named by the sha-256 of their bytes. A file is either whole or not there.
import { createHash, randomUUID } from "node:crypto";
import { closeSync, fdatasync, open, openSync, write, writeSync } from "node:fs";
import { mkdir, readdir, readFile, rename, rm, stat } from "node:fs/promises";
import { dirname, join } from "node:path";
import { promisify } from "node:util";
import { isMainThread } from "node:worker_threads";
import { syncFolder } from "../../core/disk/whole.ts";

export class FileStore {
  private readonly root: string;
  readonly unfinished: string;
  constructor(root: string) {
    this.root = root;
    this.unfinished = join(root, "unfinished");
  }

  /** Removes what a killed process left half-written. Call before anything else writes. */
  async prepare(): Promise<void> {
    await rm(this.unfinished, { recursive: true, force: true });
    await mkdir(this.unfinished, { recursive: true });
  }

  path(sha256: string): string {
    if (!/^[0-9a-f]{64}$/.test(sha256)) throw new Error("Not a sha-256.");
    return join(this.root, sha256.slice(0, 2), sha256);
  }
  read(sha256: string): Promise<Uint8Array> {
    return readFile(this.path(sha256));
  }
  async has(sha256: string): Promise<boolean> {
    return (await stat(this.path(sha256)).catch(() => undefined)) !== undefined;
  }
  /** Folders known to be there: 256 of them hold all files. */
  private readonly folders = new Set<string>();
  /** Gives a finished file its name. */
  async intoPlace(path: string, target: string): Promise<void> {
    const folder = dirname(target);
    if (!this.folders.has(folder)) await mkdir(folder, { recursive: true });
    this.folders.add(folder);
    await rename(path, target);
  }
  /** Deletes every file that is not in `keep`. Call before anything else writes. */
  async sweep(keep: ReadonlySet<string>): Promise<void> {
    for (const folder of await readdir(this.root, { withFileTypes: true })) {
      if (!folder.isDirectory() || !/^[0-9a-f]{2}$/.test(folder.name)) continue;
      for (const name of await readdir(join(this.root, folder.name)))
        if (/^[0-9a-f]{64}$/.test(name) && !keep.has(name)) await rm(join(this.root, folder.name, name), { force: true });
    }
  }
  /** Many files stored together: written under temporary names, then synced side by side and renamed by `commit`. */
  batch(): Batch {
    return new Batch(this, !isMainThread || process.send !== undefined);
  }
}

/** The system's own number of file threads; more syncs at once would only wait. */
const SYNCS_AT_ONCE = 16;
/** So many files written and not yet synced stay open: opening one again costs as much as writing it. */
const MOST_OPEN = 64;

const [openFile, writeTo, syncFile] = [promisify(open), promisify(write), promisify(fdatasync)];

export class Batch {
  private readonly store: FileStore;
  /** In threads of their own waiting is cheaper than being called back. */
  private readonly inThread: boolean;
  private readonly written = new Map<string, string>();
  private readonly unsynced: number[] = [];
  constructor(store: FileStore, inThread: boolean) {
    this.store = store;
    this.inThread = inThread;
  }

  /** Writes a stream; resolves to its digest and where it lies until `commit`. What fails half-way leaves nothing. */
  async put(content: AsyncIterable<Uint8Array> | Iterable<Uint8Array>): Promise<{ sha256: string; bytes: number; path: string }> {
    const path = join(this.store.unfinished, randomUUID());
    const hash = createHash("sha256");
    let bytes = 0;
    const file = this.inThread ? openSync(path, "wx") : await openFile(path, "wx");
    try {
      for await (const chunk of content) {
        hash.update(chunk);
        bytes += chunk.length;
        for (let at = 0; at < chunk.length;)
          at += this.inThread ? writeSync(file, chunk, at) : (await writeTo(file, chunk, at)).bytesWritten;
      }
    } catch (error) {
      closeSync(file);
      await rm(path, { force: true });
      throw error;
    }
    const sha256 = hash.digest("hex");
    const twin = this.written.get(sha256);
    if (twin !== undefined) {
      closeSync(file);
      await rm(path, { force: true });
      return { sha256, bytes, path: twin };
    }
    this.written.set(sha256, path);
    this.unsynced.push(file);
    if (this.unsynced.length >= MOST_OPEN) await this.syncAll();
    return { sha256, bytes, path };
  }

  /** Where a file of this batch lies until `commit`. */
  pathOf(sha256: string): string | undefined {
    return this.written.get(sha256);
  }

  private async syncAll(): Promise<void> {
    const work = async (): Promise<void> => {
      for (let file = this.unsynced.pop(); file !== undefined; file = this.unsynced.pop()) {
        try {
          await syncFile(file);
        } finally {
          closeSync(file);
        }
      }
    };
    await sideBySide(work);
  }

  /** Gives everything written its names, once it is on the disk. */
  async commit(): Promise<void> {
    await this.syncAll();
    const waiting = [...this.written];
    const folders = new Set(waiting.map(([sha256]) => dirname(this.store.path(sha256))));
    await sideBySide(async () => {
      // What lies there already has the same bytes.
      for (let next = waiting.pop(); next; next = waiting.pop()) await this.store.intoPlace(next[1], this.store.path(next[0]));
    });
    const renamed = [...folders];
    await sideBySide(async () => {
      for (let folder = renamed.pop(); folder !== undefined; folder = renamed.pop()) await syncFolder(folder);
    });
    this.written.clear();
  }

  /** Forgets everything not yet committed. */
  async drop(): Promise<void> {
    for (const file of this.unsynced.splice(0)) closeSync(file);
    for (const path of this.written.values()) await rm(path, { force: true });
    this.written.clear();
  }
}

const sideBySide = async (work: () => Promise<void>): Promise<void> => {
  const ended = await Promise.allSettled(Array.from({ length: SYNCS_AT_ONCE }, work));
  const failed = ended.find((one) => one.status === "rejected");
  if (failed) throw failed.reason;
};
