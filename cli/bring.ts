// `buvano bring`: takes archives, fonts and folders into a library as a drop in the interface would, and shelves them.
import { copyFile, constants, readdir, stat } from "node:fs/promises";
import { randomUUID } from "node:crypto";
import { basename, join, relative, sep } from "node:path";
import { fileURLToPath, URL } from "node:url";
import type { ParcelFileRow } from "../server/store/parcels.ts";
import type { Problem } from "../core/problem.ts";
import { parcelsOf, type Arriving } from "../core/archive/arrival.ts";
import { makeParts, thisMachine } from "../server/parts.ts";
import { makeServices } from "../server/services/services.ts";

export interface BringSummary {
  archives: number;
  entries: number;
  faces: number;
  families: number;
  sound: number;
  usable: number;
  refused: number;
  ms: number;
  problems: { archive: string; path?: string; code: string; message: string }[];
}

interface Named extends Arriving {
  at: string;
}

/** The files paths lead to; those of a folder by their way from it. */
async function filesAt(paths: readonly string[], problems: BringSummary["problems"]): Promise<Named[]> {
  const found: Named[] = [];
  for (const path of paths) {
    const about = await stat(path).catch(() => undefined);
    if (!about) {
      problems.push({
        archive: path,
        code: "file-unreadable",
        message: "The file cannot be opened. Check its name and that you may read it.",
      });
    } else if (about.isDirectory()) {
      const inside = (await readdir(path, { recursive: true, withFileTypes: true })).filter((entry) => entry.isFile());
      const files = inside.map((entry) => join(entry.parentPath, entry.name)).sort();
      found.push(...files.map((at) => ({ at, path: `${basename(path)}/${relative(path, at).split(sep).join("/")}` })));
    } else found.push({ at: path, path: basename(path) });
  }
  return found;
}

/** Brings everything in and prints the summary. Returns the exit code: 1 when nothing at all could be taken. */
export async function bring(paths: readonly string[], dataDir: string, json: boolean): Promise<number> {
  const started = performance.now();
  const here = fileURLToPath(new URL(".", import.meta.url));
  const parts = await makeParts({
    dataDir,
    webDir: undefined,
    workerDir: here,
    builtInFonts: undefined,
    now: () => new Date(),
    ...thisMachine(),
  });
  const services = await makeServices(parts);
  const summary: BringSummary = { archives: 0, entries: 0, faces: 0, families: 0, sound: 0, usable: 0, refused: 0, ms: 0, problems: [] };
  const say = (archive: string, problem: Problem, path?: string) =>
    summary.problems.push({
      archive,
      ...(path === undefined ? {} : { path }),
      code: problem.code,
      message: `${problem.message} ${problem.next}`,
    });
  const ids: number[] = [];
  for (const parcel of parcelsOf(await filesAt(paths, summary.problems))) {
    const rows: ParcelFileRow[] = [];
    for (const file of parcel.files) {
      const stored = randomUUID();
      await copyFile(file.at, join(parts.incoming, stored), constants.COPYFILE_FICLONE);
      rows.push({ name: file.path, stored_as: stored, bytes: (await stat(file.at)).size });
    }
    if (rows.length > 0) ids.push(services.parcels.receive(parcel.name, rows));
  }
  // Each is shelved as soon as it is unpacked, while others still are.
  for (const id of ids) {
    await services.parcels.whenSettled(id);
    const { summary: parcel, entries, styles } = services.parcels.contentsOf(id);
    summary.archives++;
    summary.entries += entries.length;
    if (parcel.problem) say(parcel.name, parcel.problem);
    for (const entry of entries) if (entry.problem) say(parcel.name, JSON.parse(entry.problem) as Problem, entry.path);
    for (const style of styles) {
      summary.faces++;
      summary[style.verdict]++;
    }
    if (parcel.shelvableStyles > 0) services.parcels.shelve(id, undefined);
  }
  // Every short paper is read before it is done; long ones are read when the library is next open.
  await services.reader.whenRead();
  await services.renewal.settle();
  summary.families = parts.library.familyCount();
  summary.ms = Math.round(performance.now() - started);
  await services.close();
  if (json) process.stdout.write(`${JSON.stringify(summary)}\n`);
  else {
    process.stdout.write(
      `${summary.archives} parcels, ${summary.faces} faces in ${summary.families} families: ${summary.sound} sound, ${summary.usable} usable, ${summary.refused} refused.\n`,
    );
    for (const problem of summary.problems)
      process.stdout.write(`${problem.archive}${problem.path ? `, ${problem.path}` : ""}: ${problem.message}\n`);
  }
  return ids.length === 0 ? 1 : 0;
}
