// `npm run bench`: figures as ratios against the named tools, measured in one run on the same files.
import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath, URL } from "node:url";
import { benchArrival } from "./arrival.ts";
import { corpusFonts, corpusZips } from "./corpus.ts";
import { benchDevices } from "./devices.ts";
import { benchLibrary } from "./library.ts";
import { benchBoardScrolling, benchScrolling } from "./scrolling.ts";
import { benchSightings } from "./sightings.ts";

const here = fileURLToPath(new URL(".", import.meta.url));
const cli = join(here, "cli.mjs");
const print = (line: string) => process.stdout.write(`${line}\n`);

/** Seconds of the fastest of three runs, each on its own empty folder. */
function seconds(work: (dir: string) => void): number {
  let best = Infinity;
  for (let run = 0; run < 3; run++) {
    const dir = mkdtempSync(join(tmpdir(), "buvano-bench-"));
    const start = performance.now();
    work(dir);
    best = Math.min(best, (performance.now() - start) / 1000);
    rmSync(dir, { recursive: true, force: true });
  }
  return best;
}
const quiet = { stdio: "ignore" as const };

// One part alone by its name; all of them otherwise.
const parts = {
  devices: () => benchDevices(here, print),
  sightings: async () => {
    await benchSightings(print);
    await benchBoardScrolling(here, print);
  },
};
const part = process.argv[2];
if (part === "devices" || part === "sightings") {
  await parts[part]();
  process.exit(0);
}

const fonts = corpusFonts();
const zips = corpusZips(join(here, "..", "bench-corpus"));
const bytes = zips.reduce((sum, zip) => sum + statSync(zip).size, 0);
print(`${fonts.length} fonts in ${zips.length} zips, ${(bytes / 1e6).toFixed(0)} MB`);

const bring = seconds((dir) => execFileSync(process.execPath, [cli, "bring", ...zips, "--data", dir, "--json"], quiet));
const unzip = seconds((dir) => zips.forEach((zip, i) => execFileSync("unzip", ["-q", zip, "-d", join(dir, String(i))], quiet)));
const scan = seconds(() => execFileSync("fc-scan", fonts, { stdio: "ignore" }));
const sanitize = seconds(() => fonts.forEach((font) => spawnSync("ots-sanitize", [font, "/dev/null"], quiet)));
print(`bring: ${bring.toFixed(2)} s; unzip ${unzip.toFixed(2)} s + fc-scan ${scan.toFixed(2)} s + ots-sanitize ${sanitize.toFixed(2)} s`);
print(`bring ÷ (unzip + fc-scan + ots-sanitize) = ${(bring / (unzip + scan + sanitize)).toFixed(2)}`);

const inspect = seconds(() => execFileSync(process.execPath, [cli, "inspect", "--json", ...fonts], quiet));
print(`inspect: ${inspect.toFixed(2)} s; inspect ÷ fc-scan = ${(inspect / scan).toFixed(2)}`);

await benchArrival(
  here,
  zips,
  fonts.find((path) => path.endsWith(".ttf"))!,
  print,
);
await parts.sightings();
await parts.devices();
await benchLibrary(here, print);
await benchScrolling(here, print);
