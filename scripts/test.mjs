// `npm test`: sets up what it needs, then types, lint, format, unit, reference, hostile and browser tests. The last line counts them.
import { spawn, spawnSync } from "node:child_process";
import { mkdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { buildDemo, buildNode, buildWeb } from "./build.mjs";
import { BROWSER, FONTS, JUDGES } from "./debian.mjs";
import { buildDir, ensureDebian, ensurePackages, root, say } from "./setup.mjs";

ensureDebian([...BROWSER, ...JUDGES, ...FONTS]);
await ensurePackages();

let passed = 0;
let failed = 0;
const bin = (name) => join(root, "node_modules", ".bin", name);

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
const checks = [
  begin("types", bin("tsc"), ["--noEmit"]),
  begin("lint", bin("eslint"), [".", "--max-warnings=0"]),
  begin("format", bin("prettier"), ["--check", "--log-level=warn", "."]),
];
await buildNode();
await buildDemo();
await buildWeb();

function jest(name, projects, more = []) {
  say(`\n— ${name}`);
  const report = join(buildDir, "reports", `${name}.json`);
  mkdirSync(join(buildDir, "reports"), { recursive: true });
  rmSync(report, { force: true });
  // jest-expo's components are CommonJS; everything else runs as native ES modules.
  const args = [
    ...(projects.includes("ui") ? [] : ["--experimental-vm-modules"]),
    "--no-warnings",
    join(root, "node_modules", "jest", "bin", "jest.js"),
    // How long a test may hang before it is given up; a slow machine is not a fault. Speeds are measured by the bench alone.
    "--testTimeout=180000",
  ];
  const env = { ...process.env, NODE_ENV: "test" };
  spawnSync(process.execPath, [...args, "--selectProjects", ...projects, "--json", `--outputFile=${report}`, ...more], {
    cwd: root,
    stdio: ["ignore", "ignore", 2],
    env,
  });
  try {
    const result = JSON.parse(readFileSync(report, "utf8"));
    passed += result.numPassedTests;
    // A file that could not even start counts as one failure.
    failed += result.numFailedTests + result.numRuntimeErrorTestSuites;
  } catch {
    failed++;
  }
}

for (const { name, status, said } of await Promise.all(checks)) {
  say(`\n— ${name}`);
  process.stderr.write(Buffer.concat(said));
  if (status === 0) passed++;
  else failed++;
}
// Two at a time: by itself one of two processors would be left idle.
jest("unit", ["unit"], ["--maxWorkers=2"]);
jest("components", ["ui"]);
// By itself it would leave one of two processors idle.
jest("reference", ["reference", "fuzz"], ["--maxWorkers=2"]);
// Alone on the machine: how long others wait, and what memory it takes, is what it measures.
jest("hostile", ["hostile"], ["--runInBand"]);
// One browser at a time: two on two cores starve each other on a slow machine.
jest("browser", ["e2e"], ["--runInBand"]);

process.stdout.write(`${passed} passed, ${failed} failed\n`);
process.exit(failed === 0 ? 0 : 1);
