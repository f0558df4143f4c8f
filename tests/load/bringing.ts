// From files to families: real downloads with their papers, against the tools that do parts of it.
import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { makeParts, thisMachine } from "../../server/parts.ts";
import { makeServices } from "../../server/services/services.ts";
import { realDownloads, type Downloads } from "./downloads.ts";

const RUNS = 3;
const quiet = { stdio: "ignore" as const, maxBuffer: 1e9 };

/** Seconds of the fastest of some runs, each on its own empty folder. */
async function seconds(work: (dir: string) => unknown, runs = RUNS): Promise<number> {
  let best = Infinity;
  for (let run = 0; run < runs; run++) {
    const dir = mkdtempSync(join(tmpdir(), "buvano-bench-"));
    execFileSync("sync");
    const start = performance.now();
    await work(dir);
    best = Math.min(best, (performance.now() - start) / 1000);
    rmSync(dir, { recursive: true, force: true });
  }
  return best;
}

/** How long the long papers take that `bring` leaves for later, and how many texts there are. */
async function longPapers(workerDir: string, dataDir: string): Promise<{ long: number; all: number; seconds: number }> {
  const nowhere = { webDir: undefined, builtInFonts: undefined };
  const parts = await makeParts({ dataDir, workerDir, ...nowhere, now: () => new Date(), ...thisMachine() });
  const all = parts.db.prepare("SELECT count(*) FROM readings WHERE kind = 'paper'").pluck().get() as number;
  const long = parts.readings.waiting().unread;
  const start = performance.now();
  const services = await makeServices(parts);
  await services.reader.whenRead(true);
  const took = (performance.now() - start) / 1000;
  await services.close();
  return { long, all, seconds: took };
}

export async function benchBringing(workerDir: string, dir: string, print: (line: string) => void): Promise<Downloads> {
  const downloads = realDownloads(dir);
  const { zips, fonts } = downloads;
  const bytes = zips.reduce((sum, zip) => sum + statSync(zip).size, 0);
  print(`${zips.length} downloads with their papers, ${(bytes / 1e6).toFixed(0)} MB, ${fonts.length} font files`);
  const cli = join(workerDir, "cli.mjs");
  let told = "";
  const bring = await seconds((data) => {
    told = execFileSync(process.execPath, [cli, "bring", ...zips, "--data", data, "--json"], { encoding: "utf8", maxBuffer: 1e9 });
  });
  const unzip = await seconds((to) => zips.forEach((zip, i) => execFileSync("unzip", ["-q", zip, "-d", join(to, String(i))], quiet)));
  const scan = await seconds(() => spawnSync("fc-scan", fonts, quiet));
  const sanitize = await seconds(() => fonts.forEach((font) => spawnSync("ots-sanitize", [font, "/dev/null"], quiet)), 1);
  const { faces, families } = JSON.parse(told) as { faces: number; families: number };
  print(`  ${faces} faces in ${families} families, every short paper read: ${bring.toFixed(1)} s`);
  print(`  unzip ${unzip.toFixed(1)} s + fc-scan ${scan.toFixed(1)} s + ots-sanitize ${sanitize.toFixed(1)} s`);
  print(`  bring ÷ (unzip + fc-scan + ots-sanitize) = ${(bring / (unzip + scan + sanitize)).toFixed(2)}`);
  const data = mkdtempSync(join(tmpdir(), "buvano-bench-"));
  execFileSync(process.execPath, [cli, "bring", ...zips, "--data", data, "--json"], quiet);
  const later = await longPapers(workerDir, data);
  print(`  of ${later.all} different papers ${later.long} are long; they are read in the background in ${later.seconds.toFixed(1)} s`);
  rmSync(data, { recursive: true });
  return downloads;
}
