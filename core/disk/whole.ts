// A file is either whole or not there: written under another name, synced to the disk, renamed.
import { randomUUID } from "node:crypto";
import { mkdir, open, rename, rm } from "node:fs/promises";
import { basename, dirname, join } from "node:path";

/** What half-written files are called. They are in folders others use: our name is in them. Font systems pass over names that begin with a dot, and so do people. */
const UNFINISHED = /^\.buvano-.+\.part$/;

/** Syncs a file that was written already. */
export async function syncFile(path: string): Promise<void> {
  const file = await open(path, "r+");
  try {
    await file.sync();
  } finally {
    await file.close();
  }
}

/** Sees to it that a folder's new names are on the disk (fsync(2): "for that an explicit fsync() on a file descriptor for the directory is also needed"). */
export async function syncFolder(path: string): Promise<void> {
  // Systems whose folders cannot be opened keep names by themselves.
  const folder = await open(path, "r").catch(() => undefined);
  if (!folder) return;
  try {
    await folder.sync().catch(() => {});
  } finally {
    await folder.close();
  }
}

/** Has `fill` write a file at another name beside `target`, then gives it that name. What fails half-way leaves nothing. */
export async function fillWhole<T>(target: string, fill: (path: string) => Promise<T>): Promise<T> {
  await mkdir(dirname(target), { recursive: true });
  const unfinished = join(dirname(target), `.buvano-${randomUUID()}.part`);
  try {
    const filled = await fill(unfinished);
    await syncFile(unfinished);
    await rename(unfinished, target);
    await syncFolder(dirname(target));
    return filled;
  } catch (error) {
    await rm(unfinished, { force: true });
    throw error;
  }
}

/** Writes bytes as a file. */
export const writeWhole = (target: string, bytes: Uint8Array): Promise<void> =>
  fillWhole(target, async (path) => {
    const file = await open(path, "wx");
    try {
      await file.writeFile(bytes);
    } finally {
      await file.close();
    }
  });

/** Whether a name is one that a killed process left behind. */
export const isUnfinished = (path: string): boolean => UNFINISHED.test(basename(path));
