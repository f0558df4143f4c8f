// `buvano bring`: takes archives, fonts and folders into a library as a drop in the interface would, and shelves them.
import { copyFile, constants, readdir, stat } from "node:fs/promises";
import { randomUUID } from "node:crypto";
import { basename, dirname, join, relative } from "node:path";
import { fileURLToPath, URL } from "node:url";
import type { ParcelFileRow } from "../server/store/parcels.ts";
import type { Problem } from "../core/problem.ts";
import { isFontName } from "../core/archive/kinds.ts";
import { makeContext, thisMachine } from "../server/context.ts";
import { makeServices } from "../server/services/services.ts";

interface Drop {
  name: string;
  files: { name: string; path: string }[];
}

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

/** What would be dropped together: an archive by itself, a folder as a whole, loose fonts as one parcel. */
async function drops(paths: readonly string[], problems: BringSummary["problems"]): Promise<Drop[]> {
  const found: Drop[] = [];
  const loose: Drop["files"] = [];
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
      found.push({ name: basename(path), files: files.map((file) => ({ name: relative(dirname(path), file), path: file })) });
    } else if (isFontName(path)) loose.push({ name: basename(path), path });
    else found.push({ name: basename(path), files: [{ name: basename(path), path }] });
  }
  if (loose.length > 0) found.push({ name: loose.length === 1 ? loose[0]!.name : `${loose.length} loose files`, files: loose });
  return found;
}

/** Brings everything in and prints the summary. Returns the exit code: 1 when nothing at all could be taken. */
export async function bring(paths: readonly string[], dataDir: string, json: boolean): Promise<number> {
  const started = performance.now();
  const here = fileURLToPath(new URL(".", import.meta.url));
  const context = await makeContext({
    dataDir,
    webDir: undefined,
    workerDir: here,
    builtInFonts: undefined,
    now: () => new Date(),
    ...thisMachine(),
  });
  const services = await makeServices(context);
  const summary: BringSummary = { archives: 0, entries: 0, faces: 0, families: 0, sound: 0, usable: 0, refused: 0, ms: 0, problems: [] };
  const say = (archive: string, problem: Problem, path?: string) =>
    summary.problems.push({
      archive,
      ...(path === undefined ? {} : { path }),
      code: problem.code,
      message: `${problem.message} ${problem.next}`,
    });
  const ids: number[] = [];
  for (const drop of await drops(paths, summary.problems)) {
    const rows: ParcelFileRow[] = [];
    for (const file of drop.files) {
      const stored = randomUUID();
      await copyFile(file.path, join(context.incoming, stored), constants.COPYFILE_FICLONE);
      rows.push({ name: file.name, stored_as: stored, bytes: (await stat(file.path)).size });
    }
    if (rows.length > 0) ids.push(services.parcels.receive(drop.name, rows));
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
  summary.families = context.library.families().length;
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
