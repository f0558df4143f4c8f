// What every command needs before it can run: the packages of package-lock.json and, for tests, Debian's tools.
import { spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join, relative } from "node:path";
import { fileURLToPath } from "node:url";

export const root = fileURLToPath(new URL("..", import.meta.url));
export const buildDir = join(root, "build");
const stampDir = join(buildDir, "stamps");

/** Messages go to standard error, so that a command's own output stays clean. */
export const say = (line) => process.stderr.write(`${line}\n`);

/** Runs a program to its end, its output on standard error; ends this process when it fails. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { cwd: root, stdio: ["ignore", 2, 2], ...options });
  if (error || status !== 0) {
    say(`${command} ${args.join(" ")} ${error ? `could not be started: ${error.message}` : `ended with ${status}`}.`);
    process.exit(status || 1);
  }
}

/** The same, while other things go on. */
export const runBeside = (command, args, options = {}) =>
  new Promise((resolve) => {
    const child = spawn(command, args, { cwd: root, stdio: ["ignore", 2, 2], ...options });
    child.on("error", (error) => {
      say(`${command} ${args.join(" ")} could not be started: ${error.message}.`);
      process.exit(1);
    });
    child.on("close", (status) => {
      if (status === 0) return resolve();
      say(`${command} ${args.join(" ")} ended with ${status}.`);
      process.exit(status || 1);
    });
  });

function* filesUnder(path) {
  const stat = statSync(path, { throwIfNoEntry: false });
  if (!stat) return;
  if (!stat.isDirectory()) return void (yield path);
  for (const name of readdirSync(path).sort()) yield* filesUnder(join(path, name));
}

/** A digest of the contents of files and folders named from the repository's top. */
export function digest(paths) {
  const hash = createHash("sha256").update(process.version);
  for (const path of paths) {
    for (const file of filesUnder(join(root, path))) hash.update(relative(root, file)).update(readFileSync(file));
  }
  return hash.digest("hex");
}

/** Does `make` unless it was done for the same `paths` before and `product` still exists. */
export async function unlessDone(name, paths, product, make) {
  const wanted = digest(paths);
  const stamp = join(stampDir, name);
  if (existsSync(join(root, product)) && existsSync(stamp) && readFileSync(stamp, "utf8") === wanted) return false;
  await make();
  mkdirSync(stampDir, { recursive: true });
  writeFileSync(stamp, wanted);
  return true;
}

/** Installs the npm packages when the lock file changed since they were last installed. */
export async function ensurePackages() {
  await unlessDone("packages", ["package-lock.json"], "node_modules/.package-lock.json", async () => {
    await ensureCompiler();
    say("Installing packages (a few minutes the first time)…");
    await runBeside("npm", ["ci", "--no-audit", "--no-fund", "--loglevel=error"]);
  });
}

function missingDebian(packages) {
  const { stdout } = spawnSync("dpkg-query", ["-W", "-f", "${Package} ${Status}\n", ...packages], { encoding: "utf8" });
  const there = new Set();
  for (const line of (stdout ?? "").split("\n")) {
    if (line.endsWith(" installed")) there.add(line.split(" ")[0]);
  }
  return packages.filter((name) => !there.has(name));
}

/** Debian's installer works on one thing at a time. */
let installing = Promise.resolve();

/** Installs Debian packages that are missing; without root it says which ones to install. */
export function ensureDebian(packages) {
  installing = installing.then(() => installDebian(packages));
  return installing;
}
async function installDebian(packages) {
  const missing = missingDebian(packages);
  if (missing.length === 0) return;
  if (process.getuid?.() !== 0) {
    say(`These Debian packages are needed and missing: ${missing.join(" ")}. Install them and run this again.`);
    process.exit(1);
  }
  say(`Installing Debian packages: ${missing.join(" ")}`);
  const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
  await runBeside("apt-get", ["update", "-qq"], { env });
  await runBeside("apt-get", ["install", "-y", "-qq", "--no-install-recommends", ...missing], { env });
}

/** The database's own code is compiled when its package is installed, which needs a compiler. */
export async function ensureCompiler() {
  const there = (command) => spawnSync(command, ["--version"], { stdio: "ignore" }).status === 0;
  const needed = [
    ["python3", "python3"],
    ["make", "make"],
    ["g++", "g++"],
  ];
  const missing = needed.filter(([command]) => !there(command)).map(([, name]) => name);
  if (missing.length > 0) await ensureDebian(missing);
}
