// Font files on disk, named by the sha-256 of their bytes. A file is either whole or not there.
import { createHash, randomUUID } from "node:crypto";
import { mkdir, open, readdir, readFile, rename, rm, stat } from "node:fs/promises";
import { closeSync, openSync, writeSync } from "node:fs";
import { dirname, join } from "node:path";
import { isMainThread } from "node:worker_threads";

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
    return new Batch(this, !isMainThread);
  }
}

/** The system's own number of file threads; more syncs at once would only wait. */
const SYNCS_AT_ONCE = 16;

/** A new file written to directly: for threads of their own, where waiting is cheaper than being called back. */
function blockingFile(path: string): { write: (chunk: Uint8Array) => unknown; close: () => unknown } {
  const file = openSync(path, "wx");
  return {
    write: (chunk) => {
      for (let at = 0; at < chunk.length;) at += writeSync(file, chunk, at);
    },
    close: () => closeSync(file),
  };
}

export class Batch {
  private readonly store: FileStore;
  private readonly inThread: boolean;
  private readonly written = new Map<string, string>();
  constructor(store: FileStore, inThread: boolean) {
    this.store = store;
    this.inThread = inThread;
  }

  /** Writes a stream; resolves to its digest and where it lies until `commit`. What fails half-way leaves nothing. */
  async put(content: AsyncIterable<Uint8Array> | Iterable<Uint8Array>): Promise<{ sha256: string; bytes: number; path: string }> {
    const path = join(this.store.unfinished, randomUUID());
    const hash = createHash("sha256");
    let bytes = 0;
    const file = this.inThread ? blockingFile(path) : await open(path, "wx");
    try {
      for await (const chunk of content) {
        hash.update(chunk);
        bytes += chunk.length;
        await file.write(chunk);
      }
    } catch (error) {
      await file.close();
      await rm(path, { force: true });
      throw error;
    }
    await file.close();
    return this.keep(hash.digest("hex"), bytes, path);
  }

  private async keep(sha256: string, bytes: number, path: string): Promise<{ sha256: string; bytes: number; path: string }> {
    const twin = this.written.get(sha256);
    if (twin !== undefined) await rm(path, { force: true });
    else this.written.set(sha256, path);
    return { sha256, bytes, path: twin ?? path };
  }

  /** Where a file of this batch lies until `commit`. */
  pathOf(sha256: string): string | undefined {
    return this.written.get(sha256);
  }

  /** Syncs everything written to the disk, then gives it its names. */
  async commit(): Promise<void> {
    const waiting = [...this.written];
    const work = async (): Promise<void> => {
      for (let next = waiting.pop(); next; next = waiting.pop()) {
        const [sha256, path] = next;
        const target = this.store.path(sha256);
        if (await this.store.has(sha256)) {
          await rm(path, { force: true });
          continue;
        }
        const file = await open(path, "r+");
        await file.datasync();
        await file.close();
        await this.store.intoPlace(path, target);
      }
    };
    await Promise.all(Array.from({ length: SYNCS_AT_ONCE }, work));
    this.written.clear();
  }

  /** Forgets everything not yet committed. */
  async drop(): Promise<void> {
    for (const path of this.written.values()) await rm(path, { force: true });
    this.written.clear();
  }
}
