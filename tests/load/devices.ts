// Devices at size: planning for many, placing on this computer against plain copying, and looking again at thousands.
import { execFileSync } from "node:child_process";
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { basename, extname, join } from "node:path";
import { PlanRequest } from "../../contract/placing.ts";
import { inspectFont } from "../../core/inspect.ts";
import { claimOf, type PlacedFile, type Target, type WantedStyle } from "../../core/placing/files.ts";
import { planPlacing } from "../../core/placing/plan.ts";
import { makeParts, thisMachine, type Parts } from "../../server/parts.ts";
import { makeServices, type Services } from "../../server/services/services.ts";
import { corpusFonts } from "./corpus.ts";

const STYLES = 2000;
const DEVICES = 20;
const PLACED = 500;
const LOOKED_AT = 2000;
/** Of several runs the fastest counts, on both sides: what else the machine does only ever adds. */
const RUNS = 7;

function planning(print: (line: string) => void): void {
  const claim = (n: number, revision: number) =>
    claimOf({
      sha256: `${n}/${revision}`,
      family: `Family ${n >> 3}`,
      style: `Style ${n & 7}`,
      outlines: "TrueType",
      container: "sfnt",
      codepoints: 200,
      glyphs: 210,
      axes: [],
      revision,
      version: `Version ${revision}`,
      advances: [500, 510, 520, 530, 540, 550 + n],
      drawings: "",
    });
  const wanted = Array.from({ length: STYLES }, (_, n): WantedStyle => {
    const own = claim(n, 2);
    return {
      ...own,
      styleId: n,
      name: own.family,
      postScriptName: `F-${n}`,
      ending: ".ttf",
      original: "",
      bytes: 50_000,
      refused: false,
      claim: own,
    };
  });
  // Each device has some of them, some in older versions, some in the other folder, some switched off.
  const devices = Array.from({ length: DEVICES }, (_, d) =>
    Array.from({ length: STYLES }, (_unused, n) => n)
      .filter((n) => (n + d) % 3 > 0)
      .map((n): PlacedFile => {
        const own = claim(n, n % 4 === 0 ? 1 : 2);
        const folder = n % 5 === 0 ? "everyone" : "me";
        return { fileName: `F-${n}.ttf`, folder, sha256: own.sha256, on: n % 7 > 0, bytes: 50_000, since: "", claims: [own] };
      }),
  );
  const target: Target = {
    slot: "me",
    takes: ["sfnt"],
    prefers: "otf",
    freeBytes: 1e12,
    programs: [{ name: "A", reads: ["me", "everyone"] }],
  };
  const times: number[] = [];
  let steps = 0;
  for (let run = 0; run < RUNS; run++) {
    const start = performance.now();
    steps = devices.reduce((sum, files) => sum + planPlacing(wanted, files, target).reduce((all, item) => all + item.steps.length, 0), 0);
    times.push(performance.now() - start);
  }
  print(`plan for ${STYLES} styles on ${DEVICES} devices (${steps} steps): ${Math.min(...times).toFixed(0)} ms`);
}

/** `count` different font files: the corpus again and again, each time with another few bytes after its last table. */
function fontFiles(dir: string, count: number): string[] {
  mkdirSync(dir, { recursive: true });
  const whole = (path: string): boolean => {
    const result = inspectFont(readFileSync(path), "font");
    return result.ok && result.value.length === 1 && result.value[0]!.verdict !== "refused";
  };
  const real = corpusFonts().filter(whole);
  return Array.from({ length: count }, (_, i) => {
    const source = real[i % real.length]!;
    const path = join(dir, `${i}-${basename(source)}`);
    writeFileSync(path, Buffer.concat([readFileSync(source), Buffer.alloc(4 * (i + 1))]));
    return path;
  });
}

async function shelve(parts: Parts, paths: readonly string[]): Promise<number[]> {
  const parcelId = parts.parcels.add("fonts", [], parts.now());
  const families = new Set<number>();
  const batch = parts.files.batch();
  for (const path of paths) {
    const bytes = readFileSync(path);
    const { sha256 } = await batch.put([bytes]);
    const result = inspectFont(bytes, "font");
    if (!result.ok) continue;
    // Names of their own, so that none stands in another's way.
    const record = { ...result.value[0]!, family: basename(path, extname(path)), postScriptName: basename(path, extname(path)) };
    parts.library.addFaces(sha256, bytes.length, [record]);
    families.add(parts.library.shelve({ sha256, face: 0, family: record.family }, parcelId, basename(path), parts.now()).familyId);
  }
  await batch.commit();
  parts.parcels.setState(parcelId, "ready");
  return [...families];
}

interface Setting {
  parts: Parts;
  services: Services;
  deviceId: number;
}
async function thisComputer(workerDir: string, dir: string, home: string): Promise<Setting> {
  const dataDir = join(dir, "data");
  mkdirSync(home, { recursive: true });
  mkdirSync(dataDir, { recursive: true });
  const env = { NODE_ENV: "production" as const, PATH: process.env["PATH"], HOME: home };
  const machine = { ...thisMachine(), home, env };
  const parts = await makeParts({ dataDir, webDir: undefined, workerDir, builtInFonts: undefined, now: () => new Date(), ...machine });
  const services = await makeServices(parts);
  await services.devices.useComputer(true);
  return { parts, services, deviceId: services.devices.list()[0]!.id };
}

/** Carries a plan of many files out, and does the same by hand under another home; both listed back by fontconfig. */
async function placing(workerDir: string, print: (line: string) => void): Promise<void> {
  const [ours, plain]: [number[], number[]] = [[], []];
  for (let run = 0; run < RUNS; run++) {
    const dir = mkdtempSync(join(tmpdir(), "buvano-bench-devices-"));
    const paths = fontFiles(join(dir, "fonts"), PLACED);
    const { parts, services, deviceId } = await thisComputer(workerDir, dir, join(dir, "home"));
    const familyIds = await shelve(parts, paths);
    const plan = await services.plans.draw(PlanRequest.parse({ deviceId, action: "place", familyIds }));
    const byHand = join(dir, "other-home");
    const folder = join(byHand, ".local", "share", "fonts");
    mkdirSync(folder, { recursive: true });
    const env = { NODE_ENV: "production" as const, PATH: process.env["PATH"], HOME: byHand };
    execFileSync("fc-list", { env, stdio: "ignore" });

    // What making the files left unwritten would be written at the cost of whoever comes first.
    execFileSync("sync");
    let start = performance.now();
    const done = await services.plans.carryOut(plan.id, false);
    ours.push(performance.now() - start);
    if (done.state !== "done" || done.fontsAfter !== PLACED)
      throw new Error(
        `${done.fontsAfter} of ${PLACED} fonts were placed: ${JSON.stringify(done.items.filter((item) => item.chosen !== "place" || item.steps[0]?.state !== "done"))}`,
      );
    execFileSync("sync");
    start = performance.now();
    execFileSync("cp", [...paths, folder]);
    execFileSync("fc-cache", [folder], { env });
    execFileSync("fc-list", { env, maxBuffer: 1e8 });
    plain.push(performance.now() - start);
    await services.close();
    rmSync(dir, { recursive: true });
  }
  const [best, bestPlain] = [Math.min(...ours), Math.min(...plain)];
  print(`place ${PLACED} styles on this computer: ${best.toFixed(0)} ms; cp + fc-cache + fc-list ${bestPlain.toFixed(0)} ms`);
  // Both are measured in the same moment, run by run: what slows the machine for a while slows both.
  const ratios = ours.map((took, i) => took / plain[i]!).sort((a, b) => a - b);
  const [least = 0, middle = 0, most = 0] = [ratios[0], ratios[Math.floor(ratios.length / 2)], ratios.at(-1)];
  print(
    `place ÷ (cp + fc-cache + fc-list) = ${middle.toFixed(2)} in the middle of ${RUNS} runs, ${least.toFixed(2)} to ${most.toFixed(2)}; of the fastest ${(best / bestPlain).toFixed(2)}`,
  );
}

async function lookingAgain(workerDir: string, print: (line: string) => void): Promise<void> {
  const dir = mkdtempSync(join(tmpdir(), "buvano-bench-devices-"));
  const home = join(dir, "home");
  fontFiles(join(home, ".local", "share", "fonts"), LOOKED_AT);
  const { services, deviceId } = await thisComputer(workerDir, dir, home);
  const times: number[] = [];
  for (let run = 0; run < RUNS; run++) {
    const start = performance.now();
    const { after } = await services.devices.rescan(deviceId);
    times.push(performance.now() - start);
    if (after !== LOOKED_AT) throw new Error(`${after} of ${LOOKED_AT} fonts were seen.`);
  }
  print(`look again at ${LOOKED_AT} fonts: ${Math.min(...times).toFixed(0)} ms`);
  await services.close();
  rmSync(dir, { recursive: true });
}

export async function benchDevices(workerDir: string, print: (line: string) => void): Promise<void> {
  planning(print);
  await placing(workerDir, print);
  await lookingAgain(workerDir, print);
}
