// Reading backups: what one holds, whether all of it reads back, and bringing a library back from it into an empty folder.
import { createHash, randomUUID } from "node:crypto";
import { createWriteStream } from "node:fs";
import { mkdir, readdir, rename, rm, stat } from "node:fs/promises";
import { basename, dirname, join } from "node:path";
import { Transform } from "node:stream";
import { pipeline } from "node:stream/promises";
import Database from "better-sqlite3";
import { safeName } from "../../core/archive/names.ts";
import { openZip } from "../../core/archive/zip.ts";
import type { ArchiveEntry } from "../../core/archive/reader.ts";
import { syncFile, syncFolder } from "../../core/disk/whole.ts";
import { ProblemError } from "../../core/problem.ts";
import { tableDigests } from "./digest.ts";
import { BACKUP_NAME, DATABASE, Manifest, MANIFEST } from "./manifest.ts";

const damaged = (zip: string, what: string) =>
  new ProblemError("backup-damaged", `${basename(zip)} is damaged: ${what}.`, "Use an earlier backup, or one from another place.");

async function withEntries<T>(zip: string, work: (entries: AsyncIterable<ArchiveEntry>) => Promise<T>): Promise<T> {
  const reader = await openZip(zip);
  try {
    return await work(reader.entries());
  } finally {
    await reader.close();
  }
}

async function bytesOf(entry: ArchiveEntry): Promise<Buffer> {
  const chunks: Buffer[] = [];
  for await (const chunk of (await entry.open()) as AsyncIterable<Buffer>) chunks.push(chunk);
  return Buffer.concat(chunks);
}

/** What a backup says it holds. Throws a `ProblemError` for what is no backup. */
export async function readManifest(zip: string): Promise<Manifest> {
  const text = await withEntries(zip, async (entries) => {
    for await (const entry of entries) if (entry.name === MANIFEST) return (await bytesOf(entry)).toString("utf8");
    return undefined;
  });
  const read = text === undefined ? undefined : Manifest.safeParse(JSON.parse(text));
  if (!read?.success)
    throw new ProblemError("backup-none", `${basename(zip)} is no backup of Buvano's.`, "Name a backup, or the folder they lie in.");
  return read.data;
}

async function digestOf(entry: ArchiveEntry): Promise<string> {
  const hash = createHash("sha256");
  for await (const chunk of (await entry.open()) as AsyncIterable<Buffer>) hash.update(chunk);
  return hash.digest("hex");
}

/** Reads every byte a backup holds itself. Throws a `ProblemError` when some of it is not what it should be. */
export async function readBack(zip: string, manifest: Manifest): Promise<void> {
  const wanted = new Map(manifest.files.filter((file) => file.in === "").map(({ path, sha256 }) => [path, sha256]));
  wanted.set(DATABASE, manifest.database.sha256);
  await withEntries(zip, async (entries) => {
    for await (const entry of entries) {
      const sha256 = wanted.get(entry.name);
      if (sha256 === undefined) continue;
      if ((await digestOf(entry)) !== sha256) throw damaged(zip, `${entry.name} is not what was put in`);
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

/** Takes entries out of a zip, each to where `to` says, held against its hash. */
async function takenOut(zip: string, wanted: ReadonlyMap<string, { sha256: string; to: string }>): Promise<void> {
  const left = new Set(wanted.keys());
  await withEntries(zip, async (entries) => {
    for await (const entry of entries) {
      const one = wanted.get(entry.name);
      if (!one || !left.delete(entry.name)) continue;
      await mkdir(dirname(one.to), { recursive: true });
      const hash = createHash("sha256");
      const counted = new Transform({
        transform(chunk: Buffer, _encoding, done) {
          hash.update(chunk);
          done(null, chunk);
        },
      });
      await pipeline(await entry.open(), counted, createWriteStream(one.to, { flags: "wx" }));
      if (hash.digest("hex") !== one.sha256) throw damaged(zip, `${entry.name} is not what was put in`);
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
    const zips = new Map<string, Map<string, { sha256: string; to: string }>>([
      [zip, new Map([[DATABASE, { sha256: manifest.database.sha256, to: join(filling, DATABASE) }]])],
    ]);
    for (const { path, sha256, in: other } of manifest.files) {
      const name = safeName(path);
      if (!name.ok || name.value !== path || (other !== "" && !BACKUP_NAME.test(other))) throw damaged(zip, `“${path}” is no name of its`);
      const held = other === "" ? zip : join(place, other);
      zips.set(held, (zips.get(held) ?? new Map<string, { sha256: string; to: string }>()).set(path, { sha256, to: join(filling, path) }));
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
