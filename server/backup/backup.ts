// A backup of a library, made while it is used: one zip, with the database as it stood at one moment and the files that no earlier backup in the same
// place holds. It is read back before it gets its name.
import { randomUUID } from "node:crypto";
import { createReadStream, createWriteStream } from "node:fs";
import { mkdir, open, readdir, rename, rm, stat } from "node:fs/promises";
import { join, relative, sep } from "node:path";
import { pipeline } from "node:stream/promises";
import Database from "better-sqlite3";
import { ZipFile } from "yazl";
import { isUnfinished, syncFile, syncFolder } from "../../core/disk/whole.ts";
import { ProblemError } from "../../core/problem.ts";
import { digestOf, passing, tableDigests, type Digest } from "./digest.ts";
import { BACKUP_NAME, backupName, DATABASE, MANIFEST, UNFINISHED, type Manifest } from "./manifest.ts";
import { readBack, readManifest, sizesIn } from "./restore.ts";

export interface BackupMade {
  name: string;
  bytes: number;
  /** All files of the library, and those this backup had to hold itself. */
  files: number;
  added: number;
  at: string;
}
/** How far it is, in files. */
export type Going = (done: number, of: number) => void;

/** What is made anew, or belongs to a running process, in a library's folder. */
const NOT_KEPT = /^(library\.db.*|lock\.db.*|running\.json|room-to-open)$|(^|\/)unfinished\//;

async function filesIn(dataDir: string): Promise<string[]> {
  const inside = await readdir(dataDir, { recursive: true, withFileTypes: true });
  return inside
    .filter((entry) => entry.isFile() && !isUnfinished(entry.name))
    .map((entry) => relative(dataDir, join(entry.parentPath, entry.name)).split(sep).join("/"))
    .filter((path) => !NOT_KEPT.test(path))
    .sort();
}

/**
 * What earlier backups in a place hold, by path and hash: the name of the zip. What cannot be read, or is not in its zip in full length, counts for
 * nothing; that it is what it was is read by whoever restores.
 */
async function heldIn(place: string): Promise<Map<string, string>> {
  const held = new Map<string, string>();
  for (const name of (await readdir(place)).filter((one) => BACKUP_NAME.test(one)).sort()) {
    const zip = join(place, name);
    const inside = await sizesIn(zip).catch(() => undefined);
    const manifest = inside && (await readManifest(zip).catch(() => undefined));
    for (const file of manifest?.files ?? [])
      if (file.in === "" && inside!.get(file.path) === file.bytes) held.set(`${file.sha256} ${file.path}`, name);
  }
  return held;
}

/** A backup that was begun so long ago is not being made any more. */
const STALE_MS = 24 * 3600 * 1000;
/** Removes what backups left in a place that were killed. */
async function sweep(place: string): Promise<void> {
  for (const name of (await readdir(place)).filter((one) => UNFINISHED.test(one))) {
    const { mtimeMs = Infinity } = (await stat(join(place, name)).catch(() => undefined)) ?? {};
    if (Date.now() - mtimeMs > STALE_MS) await rm(join(place, name), { force: true });
  }
}

/** A snapshot of the database at one moment, however much is written meanwhile. */
async function snapshot(dataDir: string, to: string): Promise<Pick<Manifest, "schema" | "tables" | "database">> {
  const path = join(dataDir, DATABASE);
  if (!(await stat(path).catch(() => undefined)))
    throw new ProblemError("backup-no-library", `There is no library in ${dataDir}.`, "Name the folder the library lies in.");
  const db = new Database(path, { readonly: true });
  try {
    // All in one step: what others write in between would have it begin again.
    await db.backup(to, { progress: () => 2 ** 31 - 1 });
  } finally {
    db.close();
  }
  const copy = new Database(to);
  try {
    // One file, without a journal beside it.
    copy.pragma("journal_mode = DELETE");
    const schema = copy.pragma("user_version", { simple: true }) as number;
    return { schema, tables: tableDigests(copy), database: await digestOf(createReadStream(to)) };
  } finally {
    copy.close();
  }
}

/**
 * Makes a backup of the library in `dataDir` as a zip in `place`. Throws a `ProblemError`: "backup-no-library", "backup-place", and the disk's own
 * faults; a backup that does not read back is removed.
 */
export async function backUp(dataDir: string, place: string, now: Date, going: Going = () => {}): Promise<BackupMade> {
  if (!relative(dataDir, place).startsWith(".."))
    throw new ProblemError(
      "backup-place",
      "A backup inside the library would be lost with it.",
      "Choose a folder elsewhere, best on another disk.",
    );
  await mkdir(place, { recursive: true });
  await sweep(place);
  const unfinished = join(place, `.buvano-backup-${randomUUID()}.part`);
  const database = `${unfinished}.db`;
  try {
    const about = await snapshot(dataDir, database);
    const held = await heldIn(place);
    const zip = new ZipFile();
    const writing = pipeline(zip.outputStream, createWriteStream(unfinished));
    // Where nothing more can be written, nothing more is read either.
    const broken = new Promise<never>((_, reject) => void writing.catch(reject));
    broken.catch(() => {});
    zip.addFile(database, DATABASE, { mtime: now, compressionLevel: 1 });
    const files: Manifest["files"] = [];
    const paths = await filesIn(dataDir);
    let added = 0;
    for (const [done, path] of paths.entries()) {
      going(done, paths.length);
      const at = join(dataDir, path);
      const found = await digestOf(createReadStream(at)).catch(() => undefined);
      // What went meanwhile belonged to nothing any more.
      if (!found) continue;
      const earlier = held.get(`${found.sha256} ${path}`);
      if (earlier !== undefined) files.push({ path, ...found, in: earlier });
      else {
        added++;
        files.push({ path, ...(await Promise.race([addedTo(zip, at, path, now), broken])), in: "" });
      }
    }
    going(paths.length, paths.length);
    const manifest: Manifest = { format: "buvano-backup", version: 1, at: now.toISOString(), ...about, files };
    zip.addBuffer(Buffer.from(JSON.stringify(manifest)), MANIFEST, { mtime: now, compressionLevel: 1 });
    zip.end();
    await writing;
    await syncFile(unfinished);
    await readBack(unfinished, manifest);
    const name = await named(place, unfinished, now);
    return { name, bytes: (await stat(join(place, name))).size, files: files.length, added, at: manifest.at };
  } finally {
    await rm(unfinished, { force: true });
    for (const end of ["", "-journal", "-wal", "-shm"]) await rm(database + end, { force: true });
  }
}

/** Puts a file into a zip and says what went in: it may change while it is read. */
function addedTo(zip: ZipFile, at: string, path: string, mtime: Date): Promise<Digest> {
  return new Promise((resolve, reject) => {
    zip.addReadStreamLazy(path, { mtime, compressionLevel: 1 }, (give) => {
      const { through, found } = passing();
      pipeline(createReadStream(at), through).then(() => resolve(found()), reject);
      give(null, through);
    });
  });
}

async function named(place: string, unfinished: string, now: Date): Promise<string> {
  for (let number = 0; ; number++) {
    const name = backupName(now, number);
    try {
      // Taken for this one alone, then filled.
      await (await open(join(place, name), "wx")).close();
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== "EEXIST") throw error;
      continue;
    }
    await rename(unfinished, join(place, name));
    await syncFolder(place);
    return name;
  }
}
