// Font files on disk, named by the sha-256 of their bytes. A file is either whole or not there.
import { createHash, randomUUID } from "node:crypto";
import { mkdir, open, readFile, rename, rm, stat } from "node:fs/promises";
import { dirname, join } from "node:path";

export class FileStore {
  private readonly root: string;
  private readonly unfinished: string;
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

  /** Stores a stream's bytes: temporary name, sync, rename. What fails half-way leaves nothing. */
  async put(content: AsyncIterable<Uint8Array>): Promise<{ sha256: string; bytes: number }> {
    const temporary = join(this.unfinished, randomUUID());
    const file = await open(temporary, "wx");
    const hash = createHash("sha256");
    let bytes = 0;
    try {
      for await (const chunk of content) {
        hash.update(chunk);
        bytes += chunk.length;
        await file.write(chunk);
      }
      await file.sync();
    } catch (error) {
      await file.close();
      await rm(temporary, { force: true });
      throw error;
    }
    await file.close();
    const sha256 = hash.digest("hex");
    const target = this.path(sha256);
    if (await this.has(sha256)) await rm(temporary);
    else {
      await mkdir(dirname(target), { recursive: true });
      await rename(temporary, target);
    }
    return { sha256, bytes };
  }
}
