// `buvano bring`: takes archives, fonts and folders into a library as a drop in the interface would, and shelves them.
import { openAsBlob } from "node:fs";
import { copyFile, constants, readdir, stat } from "node:fs/promises";
import { randomUUID } from "node:crypto";
import { basename, join, relative, sep } from "node:path";
import { fileURLToPath, URL } from "node:url";
import type { z } from "zod";
import type { ParcelFileRow } from "../server/store/parcels/parcels.ts";
import { FamilyPage } from "../contract/families.ts";
import { ParcelDetail, ParcelSummary, ShelveResult } from "../contract/parcels.ts";
import { ProblemDocument } from "../contract/problem.ts";
import { ProblemError, type Problem } from "../core/problem.ts";
import { parcelsOf, type Arriving } from "../core/archive/arrival.ts";
import { LibraryTaken } from "../server/lock.ts";
import { makeParts, thisMachine, type Parts } from "../server/parts.ts";
import { makeServices } from "../server/services/services.ts";

interface BringSummary {
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
  const config = { dataDir, webDir: undefined, workerDir: here, builtInFonts: undefined, now: () => new Date(), ...thisMachine() };
  let parts: Parts;
  try {
    parts = await makeParts(config);
  } catch (error) {
    if (!(error instanceof LibraryTaken)) throw error;
    // A running Buvano has the library: it takes the paths, and the result is the same.
    if (error.holder?.address) return throughServer(error.holder.address, paths, json, started);
    process.stderr.write(`${error.message}\n`);
    return 1;
  }
  const services = await makeServices(parts);
  const summary = nothing();
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
    add(
      summary,
      parcel,
      entries.map(({ path, problem }) => ({ path, problem: problem === null ? null : (JSON.parse(problem) as Problem) })),
      styles,
    );
    if (parcel.shelvableStyles > 0) services.parcels.shelve(id, undefined);
  }
  // Every short paper is read before it is done; long ones are read when the library is next open.
  await services.reader.whenRead();
  await services.renewal.settle();
  summary.families = parts.library.familyCount();
  summary.ms = Math.round(performance.now() - started);
  await services.close();
  return tell(summary, json, ids.length);
}

function tell(summary: BringSummary, json: boolean, taken: number): number {
  if (json) process.stdout.write(`${JSON.stringify(summary)}\n`);
  else {
    process.stdout.write(
      `${summary.archives} parcels, ${summary.faces} faces in ${summary.families} families: ${summary.sound} sound, ${summary.usable} usable, ${summary.refused} refused.\n`,
    );
    for (const problem of summary.problems)
      process.stdout.write(`${problem.archive}${problem.path ? `, ${problem.path}` : ""}: ${problem.message}\n`);
  }
  return taken === 0 ? 1 : 0;
}

const nothing = (): BringSummary => ({
  archives: 0,
  entries: 0,
  faces: 0,
  families: 0,
  sound: 0,
  usable: 0,
  refused: 0,
  ms: 0,
  problems: [],
});
const told = (archive: string, problem: Problem, path?: string): BringSummary["problems"][number] => ({
  archive,
  ...(path === undefined ? {} : { path }),
  code: problem.code,
  message: `${problem.message} ${problem.next}`,
});
/** Counts what a parcel turned out to hold. */
function add(
  summary: BringSummary,
  { name, problem }: Pick<ParcelSummary, "name" | "problem">,
  entries: readonly { path: string; problem?: Problem | null | undefined }[],
  styles: readonly { verdict: "sound" | "usable" | "refused" }[],
): void {
  summary.archives++;
  summary.entries += entries.length;
  if (problem) summary.problems.push(told(name, problem));
  for (const entry of entries) if (entry.problem) summary.problems.push(told(name, entry.problem, entry.path));
  for (const { verdict } of styles) {
    summary.faces++;
    summary[verdict]++;
  }
}

/** How often a running Buvano is asked whether a parcel is unpacked. */
const ASK_EVERY_MS = 100;

/** Hands everything to the Buvano that has the library, as a drop in its page would, and shelves it there. */
async function throughServer(address: string, paths: readonly string[], json: boolean, started: number): Promise<number> {
  const summary = nothing();
  const ask = async <S extends z.ZodType>(schema: S, path: string, init?: RequestInit): Promise<z.output<S>> => {
    const response = await fetch(`${address}/api${path}`, init);
    const body: unknown = await response.json();
    if (response.ok) return schema.parse(body);
    const { code, detail, next } = ProblemDocument.parse(body);
    throw new ProblemError(code, detail, next);
  };
  const sent: ParcelSummary[] = [];
  for (const parcel of parcelsOf(await filesAt(paths, summary.problems))) {
    const form = new FormData();
    for (const file of parcel.files) form.append("file", await openAsBlob(file.at), file.path);
    try {
      sent.push(await ask(ParcelSummary, "/parcels", { method: "POST", body: form }));
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      summary.problems.push(told(parcel.name, error.problem));
    }
  }
  for (const { id } of sent) {
    let parcel = await ask(ParcelDetail, `/parcels/${id}`);
    while (parcel.state !== "ready" && parcel.state !== "failed") {
      await new Promise((resolve) => setTimeout(resolve, ASK_EVERY_MS));
      parcel = await ask(ParcelDetail, `/parcels/${id}`);
    }
    add(
      summary,
      parcel,
      parcel.entries,
      parcel.drawers.flatMap((drawer) => drawer.styles),
    );
    if (parcel.shelvableStyles > 0)
      await ask(ShelveResult, `/parcels/${id}/shelve`, { method: "POST", headers: { "content-type": "application/json" }, body: "{}" });
  }
  summary.families = (await ask(FamilyPage, "/families?limit=1")).total;
  summary.ms = Math.round(performance.now() - started);
  return tell(summary, json, sent.length);
}
