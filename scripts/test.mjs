// `npm test`: sets up what it needs, then types, lint, format, unit, reference, hostile and browser tests. The last line counts them.
// `npm run test:long` tries all of what is drawn by lot, with new seeds, and notes its figures in docs/checked.md; so does `npm test -- --note` with its
// minutes. Parts named behind it run alone: `npm test -- unit browser`.
import { spawn, spawnSync } from "node:child_process";
import { mkdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { buildDemo, buildNode, buildWeb } from "./build.mjs";
import { minutesKept, noteFigures, SLOWER } from "./checked.mjs";
import { BROWSER, CASES, FONTS, JUDGES } from "./debian.mjs";
import { ownMachine } from "./own-machine.mjs";
import { buildDir, ensureDebian, ensurePackages, root, say } from "./setup.mjs";

const flags = process.argv.slice(2).filter((word) => word.startsWith("--"));
const only = process.argv.slice(2).filter((word) => !word.startsWith("--"));
const long = flags.includes("--long");
const began = performance.now();
const minutesSince = (from) => Math.round((performance.now() - from) / 6000) / 10;

// Each waits for another registry half of its time.
await Promise.all([ensurePackages(), ensureDebian([...BROWSER, ...JUDGES, ...FONTS, ...CASES])]);

let passed = 0;
let failed = 0;
/** Part, its minutes, and how many checks it has. */
const parts = [];
const kept = minutesKept(long);
const bin = (name) => join(root, "node_modules", ".bin", name);

/** Says how long a part took; one that takes a quarter longer than noted is named, which is no failure. */
function took(name, from, checks) {
  const minutes = minutesSince(from);
  parts.push({ name, minutes, checks });
  const before = kept.get(name);
  const slower = before !== undefined && minutes > before * SLOWER && minutes > before + 0.2;
  say(`${name}: ${minutes} minutes${slower ? `, longer than the ${before} noted in docs/checked.md` : ""}`);
}

/** Begins a check beside the build, which leaves a processor idle most of the time; what it says is shown when it is waited for. */
function begin(name, command, args) {
  const child = spawn(command, args, { cwd: root, stdio: ["ignore", "pipe", "pipe"] });
  const said = [];
  for (const stream of [child.stdout, child.stderr]) stream.on("data", (part) => said.push(part));
  return new Promise((resolve) => {
    child.on("error", (error) => resolve({ name, status: 1, said: [Buffer.from(`${error.message}\n`)] }));
    child.on("close", (status) => resolve({ name, status, said }));
  });
}
const checks =
  only.length > 0
    ? []
    : [
        begin("types", bin("tsc"), ["--noEmit"]),
        begin("lint", bin("eslint"), [".", "--max-warnings=0"]),
        begin("format", bin("prettier"), ["--check", "--log-level=warn", "."]),
        begin("exports", bin("knip"), ["--include", "exports,types,files,dependencies,unlisted", "--no-progress"]),
      ];
await buildNode();
await buildDemo();
await buildWeb();

const machine = ownMachine();
process.on("exit", () => machine.done());
for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => process.exit(1));
if (machine.missing.length > 0) say(`Fonts that are not installed, so not looked at: ${machine.missing.join(" ")}`);

function jest(name, projects, more = []) {
  if (only.length > 0 && !only.includes(name)) return;
  say(`\n— ${name}`);
  const from = performance.now();
  const report = join(buildDir, "reports", `${name}.json`);
  mkdirSync(join(buildDir, "reports"), { recursive: true });
  rmSync(report, { force: true });
  // jest-expo's components are CommonJS; everything else runs as native ES modules.
  const args = [
    ...(projects.includes("ui") ? [] : ["--experimental-vm-modules"]),
    "--no-warnings",
    join(root, "node_modules", "jest", "bin", "jest.js"),
    // How long a test may hang before it is given up; a slow machine is not a fault. Speeds are measured by the bench alone.
    `--testTimeout=${long ? 1_200_000 : 180_000}`,
  ];
  const env = { ...machine.env, NODE_ENV: "test", BUVANO_LONG: long ? "1" : "" };
  spawnSync(process.execPath, [...args, "--selectProjects", ...projects, "--json", `--outputFile=${report}`, ...more], {
    cwd: root,
    stdio: ["ignore", "ignore", 2],
    env,
  });
  let count = 0;
  try {
    const result = JSON.parse(readFileSync(report, "utf8"));
    count = result.numPassedTests;
    passed += count;
    // A file that could not even start counts as one failure.
    failed += result.numFailedTests + result.numRuntimeErrorTestSuites;
  } catch {
    failed++;
  }
  took(name, from, count);
}

for (const { name, status, said } of await Promise.all(checks)) {
  say(`\n— ${name}`);
  process.stderr.write(Buffer.concat(said));
  if (status === 0) passed++;
  else failed++;
}
if (only.length === 0) took("set-up and build", began, checks.length);
// Two at a time: by itself one of two processors would be left idle.
jest("unit", ["unit"], ["--maxWorkers=2"]);
jest("components", ["ui"]);
jest("reference", ["reference", "fuzz"], ["--maxWorkers=2"]);
// Alone on the machine: how long others wait, and what memory it takes, is what it measures.
jest("hostile", ["hostile"], ["--runInBand"]);
// Two at a time: a page that waits for its server leaves a processor idle.
jest("browser", ["e2e"], ["--maxWorkers=2"]);

say(`\nAll of it: ${minutesSince(began)} minutes`);
if (long || flags.includes("--note")) noteFigures({ long, parts, passed, failed, versions: machine.versions });
process.stdout.write(`${passed} passed, ${failed} failed\n`);
process.exit(failed === 0 ? 0 : 1);
