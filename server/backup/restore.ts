// Reading backups: what one holds, whether all of it reads back, and bringing a library back from it into an empty folder.
import { randomUUID } from "node:crypto";
import { createWriteStream } from "node:fs";
import { mkdir, readdir, rename, rm, stat } from "node:fs/promises";
import { basename, dirname, join } from "node:path";
import { pipeline } from "node:stream/promises";
import Database from "better-sqlite3";
import { safeName } from "../../core/archive/names.ts";
import { openZip } from "../../core/archive/zip.ts";
import type { ArchiveEntry } from "../../core/archive/reader.ts";
import { syncFile, syncFolder } from "../../core/disk/whole.ts";
import { diskFault } from "../../core/disk/faults.ts";
import { attempt, ProblemError } from "../../core/problem.ts";
import { digestOf, passing, tableDigests, type Digest } from "./digest.ts";
import { BACKUP_NAME, DATABASE, Manifest, MANIFEST } from "./manifest.ts";

const damaged = (zip: string, what: string) =>
  new ProblemError("backup-damaged", `${basename(zip)} is damaged: ${what}.`, "Use an earlier backup, or one from another place.");

/** Opens a backup. What its bytes cannot be read for is said as damage. */
async function withEntries<T>(zip: string, work: (entries: AsyncIterable<ArchiveEntry>) => Promise<T>): Promise<T> {
  try {
    const reader = await openZip(zip);
    try {
      return await work(reader.entries());
    } finally {
      await reader.close();
    }
  } catch (error) {
    if ((error instanceof ProblemError && error.problem.code.startsWith("backup-")) || diskFault(error)) throw error;
    throw damaged(zip, "some of it cannot be read");
  }
}

/** A manifest of half a million files is smaller. */
const MOST_MANIFEST_BYTES = 128 * 1024 * 1024;
async function textOf(entry: ArchiveEntry): Promise<string> {
  const chunks: Uint8Array[] = [];
  let left = MOST_MANIFEST_BYTES;
  for await (const chunk of (await entry.open()) as AsyncIterable<Uint8Array>) {
    if ((left -= chunk.length) < 0) throw new Error("This is no manifest.");
    chunks.push(chunk);
  }
  return Buffer.concat(chunks).toString("utf8");
}

/** What a backup says it holds. Throws a `ProblemError` for what is no backup. */
export async function readManifest(zip: string): Promise<Manifest> {
  const text = await withEntries(zip, async (entries) => {
    for await (const entry of entries) if (entry.name === MANIFEST) return textOf(entry);
    return undefined;
  });
  const read = attempt(() => Manifest.parse(JSON.parse(text ?? "")), {
    code: "backup-none",
    message: `${basename(zip)} is no backup of Buvano's.`,
    next: "Name a backup, or the folder they lie in.",
  });
  if (!read.ok) throw new ProblemError(read.problem.code, read.problem.message, read.problem.next);
  return read.value;
}

/** How long each entry is, as the zip says: nothing of them is read. */
export function sizesIn(zip: string): Promise<Map<string, number | undefined>> {
  return withEntries(zip, async (entries) => {
    const sizes = new Map<string, number | undefined>();
    for await (const entry of entries) sizes.set(entry.name, entry.claimedBytes);
    return sizes;
  });
}

/** Reads every byte a backup holds itself. Throws a `ProblemError` when some of it is not what it should be. */
export async function readBack(zip: string, manifest: Manifest): Promise<void> {
  const wanted = new Map(manifest.files.filter((file) => file.in === "").map(({ path, sha256 }) => [path, sha256]));
  wanted.set(DATABASE, manifest.database.sha256);
  await withEntries(zip, async (entries) => {
    for await (const entry of entries) {
      const sha256 = wanted.get(entry.name);
      if (sha256 === undefined) continue;
      if ((await digestOf(await entry.open())).sha256 !== sha256) throw damaged(zip, `${entry.name} is not what was put in`);
      wanted.delete(entry.name);
    }
  });
  const [missing] = wanted.keys();
  if (missing !== undefined) throw damaged(zip, `${missing} is missing`);
}

export interface Restored {
  from: string;
  at: string;
  files: number;
  rows: number;
}

/** The newest backup of a folder, or the one that is named. */
async function chosen(from: string): Promise<string> {
  const about = await stat(from).catch(() => undefined);
  if (!about) throw new ProblemError("backup-none", `${from} is not there.`, "Check its name, and that the disk it is on is plugged in.");
  if (about.isFile()) return from;
  const last = (await readdir(from))
    .filter((name) => BACKUP_NAME.test(name))
    .sort()
    .at(-1);
  if (last === undefined)
    throw new ProblemError("backup-none", `There is no backup in ${from}.`, "Name a backup, or the folder they lie in.");
  return join(from, last);
}

interface Taken extends Digest {
  to: string;
}
/** Takes entries out of a zip, each to where `to` says, held against its hash. */
async function takenOut(zip: string, wanted: ReadonlyMap<string, Taken>): Promise<void> {
  const left = new Set(wanted.keys());
  await withEntries(zip, async (entries) => {
    for await (const entry of entries) {
      const one = wanted.get(entry.name);
      if (!one || !left.delete(entry.name)) continue;
      await mkdir(dirname(one.to), { recursive: true });
      const { through, found } = passing(one.bytes);
      await pipeline(await entry.open(), through, createWriteStream(one.to, { flags: "wx" }));
      if (found().sha256 !== one.sha256) throw damaged(zip, `${entry.name} is not what was put in`);
      await syncFile(one.to);
    }
  });
  const [missing] = left;
  if (missing !== undefined) throw damaged(zip, `${missing} is missing`);
}

/**
 * Brings a library back from a backup, or from the newest in a folder, into `dataDir`, which must be empty or not there. All of it is read back: hashes,
 * SQLite's own check, every table's rows. Throws a `ProblemError`; then nothing lies in `dataDir`.
 */
export async function restore(from: string, dataDir: string, going: (done: number, of: number) => void = () => {}): Promise<Restored> {
  const there = await readdir(dataDir).catch(() => []);
  if (there.length > 0)
    throw new ProblemError(
      "restore-not-empty",
      `${dataDir} is not empty.`,
      "Name a new folder: a restored library never takes another's place.",
    );
  const zip = await chosen(from);
  const manifest = await readManifest(zip);
  const place = dirname(zip);
  // Filled beside it, and given its name once all of it is right.
  const filling = join(dirname(dataDir), `.buvano-restore-${randomUUID()}.part`);
  try {
    await mkdir(filling, { recursive: true });
    const zips = new Map<string, Map<string, Taken>>([[zip, new Map([[DATABASE, { ...manifest.database, to: join(filling, DATABASE) }]])]]);
    for (const { path, sha256, bytes, in: other } of manifest.files) {
      const name = safeName(path);
      if (!name.ok || name.value !== path || (other !== "" && !BACKUP_NAME.test(other))) throw damaged(zip, `“${path}” is no name of its`);
      const held = other === "" ? zip : join(place, other);
      zips.set(held, (zips.get(held) ?? new Map<string, Taken>()).set(path, { sha256, bytes, to: join(filling, path) }));
    }
    let done = 0;
    for (const [held, wanted] of zips) {
      if (!(await stat(held).catch(() => undefined)))
        throw new ProblemError(
          "backup-incomplete",
          `${basename(held)} is missing; it holds ${wanted.size} files of this backup.`,
          `Put it beside ${basename(zip)}: backups of one place belong together.`,
        );
      await takenOut(held, wanted);
      going((done += wanted.size), manifest.files.length + 1);
    }
    const rows = checked(zip, join(filling, DATABASE), manifest);
    await syncFolder(filling);
    await mkdir(dirname(dataDir), { recursive: true });
    await rm(dataDir, { recursive: true, force: true });
    await rename(filling, dataDir);
    await syncFolder(dirname(dataDir));
    return { from: basename(zip), at: manifest.at, files: manifest.files.length, rows };
  } finally {
    await rm(filling, { recursive: true, force: true });
  }
}

/** Holds a restored database against what the backup says of it; returns how many rows it has. */
function checked(zip: string, path: string, manifest: Manifest): number {
  const db = new Database(path, { readonly: true });
  try {
    const sound = db.pragma("integrity_check", { simple: true });
    if (sound !== "ok") throw damaged(zip, `SQLite finds its library damaged (${String(sound)})`);
    const tables = tableDigests(db);
    for (const [name, { rows, sha256 }] of Object.entries(manifest.tables))
      if (tables[name]?.sha256 !== sha256 || tables[name].rows !== rows)
        throw damaged(zip, `the rows of “${name}” are not those that were put in`);
    return Object.values(tables).reduce((sum, one) => sum + one.rows, 0);
  } finally {
    db.close();
  }
}
