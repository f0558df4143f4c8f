// `npm run test:mutants`: empties functions of core and server one at a time, and sees whether a test notices. A sample of 200 with a fixed seed;
// `-- --sample N`, `-- --seed N`. It works on a copy, and tries the unit tests that reach a function, the quickest first.
import { execFileSync, spawn } from "node:child_process";
import { appendFileSync, cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { availableParallelism, tmpdir } from "node:os";
import { dirname, join } from "node:path";
import ts from "typescript";
import { noteMutants } from "./checked.mjs";
import { BROWSER, CASES, FONTS, JUDGES } from "./debian.mjs";
import { ownMachine } from "./own-machine.mjs";
import { buildDir, ensureDebian, ensurePackages, root, say } from "./setup.mjs";

await Promise.all([ensurePackages(), ensureDebian([...BROWSER, ...JUDGES, ...FONTS, ...CASES])]);

const option = (name, usual) => Number(process.argv[process.argv.indexOf(`--${name}`) + 1] || usual);
const SAMPLE = process.argv.includes("--sample") ? option("sample", 200) : 200;
const SEED = process.argv.includes("--seed") ? option("seed", 1) : 20_261_201;
/** A body shorter than this has nothing to be wrong in. */
const LEAST_BODY = 40;
/** A test that hangs on an emptied function has noticed it. */
const MOST_MS = 120_000;

const tracked = execFileSync("git", ["ls-files"], { cwd: root, encoding: "utf8" }).trim().split("\n");
const sources = tracked.filter((path) => /^(core|server)\/.*\.ts$/.test(path) && !/\.test\.ts$|\.d\.ts$/.test(path));

/** Functions and methods with a body, by where it lies in its file. */
function functionsOf(path) {
  const text = readFileSync(join(root, path), "utf8");
  const source = ts.createSourceFile(path, text, ts.ScriptTarget.Latest, true);
  const found = [];
  const visit = (node) => {
    const { body } = node;
    const named =
      ts.isFunctionDeclaration(node) || ts.isMethodDeclaration(node) || (ts.isArrowFunction(node) && ts.isVariableDeclaration(node.parent));
    if (named && body && body.end - body.getStart() >= LEAST_BODY) {
      const name = (node.name ?? node.parent.name)?.getText() ?? "";
      const line = source.getLineAndCharacterOfPosition(node.getStart()).line + 1;
      found.push({ path, name, line, from: body.getStart(), to: body.end, block: ts.isBlock(body) });
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}
const all = sources.flatMap(functionsOf);
let state = SEED >>> 0;
const random = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
const sample = all
  .map((one) => ({ one, at: random() }))
  .sort((a, b) => a.at - b.at)
  .slice(0, SAMPLE)
  .map(({ one }, id) => ({ ...one, id }));

// The copy, in which each function of the sample can be emptied by a word of the environment, and notes that it was reached.
// It lies outside, so that nothing of it is taken for a part of this package.
const notes = join(buildDir, "mutants");
rmSync(notes, { recursive: true, force: true });
mkdirSync(notes, { recursive: true });
const copy = mkdtempSync(join(tmpdir(), "buvano-mutants-"));
process.on("exit", () => rmSync(copy, { recursive: true, force: true }));
for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => process.exit(1));
for (const path of tracked) {
  mkdirSync(dirname(join(copy, path)), { recursive: true });
  cpSync(join(root, path), join(copy, path));
}
symlinkSync(join(root, "node_modules"), join(copy, "node_modules"));
const HEAD = 'const mutantNow = process.env["BUVANO_MUTANT"]; const mutantsReached = new Set<number>();\n';
const marked = (id) =>
  `if (mutantNow === "${id}") return undefined as never; if (!mutantsReached.has(${id})) { mutantsReached.add(${id}); ` +
  `const at = process.env["BUVANO_REACHED"]; if (at) (process as any).getBuiltinModule("fs").appendFileSync(at, "${id}\\n"); }`;
for (const path of new Set(sample.map((one) => one.path))) {
  let text = readFileSync(join(root, path), "utf8");
  const here = sample.filter((one) => one.path === path).sort((a, b) => b.from - a.from);
  // Where one lies within another, the inner one is written first, and the outer one grows by it.
  for (const { id, from, to, block } of here) {
    const grown = here.filter((one) => one.from > from && one.to <= to).reduce((sum, one) => sum + one.added, 0);
    const before = text.length;
    text = block
      ? `${text.slice(0, from + 1)} ${marked(id)} ${text.slice(from + 1)}`
      : `${text.slice(0, from)}{ ${marked(id)} return ${text.slice(from, to + grown)}; }${text.slice(to + grown)}`;
    here.find((one) => one.id === id).added = text.length - before;
  }
  writeFileSync(join(copy, path), HEAD + text);
}
execFileSync(
  process.execPath,
  ["-e", 'import("./scripts/build.mjs").then(async (made) => { await made.buildNode(); await made.buildDemo(); })'],
  {
    cwd: copy,
    stdio: ["ignore", 2, 2],
  },
);

const machine = ownMachine();
process.on("exit", () => machine.done());
/** Runs one test file; whether it passed, and how long it took. */
function run(file, env) {
  const from = performance.now();
  const jest = join(copy, "node_modules", "jest", "bin", "jest.js");
  const args = [
    "--experimental-vm-modules",
    "--no-warnings",
    jest,
    "--selectProjects",
    "unit",
    "--runTestsByPath",
    file,
    "--bail",
    "--silent",
  ];
  const child = spawn(process.execPath, args, { cwd: copy, stdio: "ignore", env: { ...machine.env, NODE_ENV: "test", ...env } });
  return new Promise((resolve) => {
    const timer = setTimeout(() => child.kill("SIGKILL"), MOST_MS);
    child.on("close", (status) => {
      clearTimeout(timer);
      resolve({ passed: status === 0, ms: performance.now() - from });
    });
  });
}
/** Does `work` for each, as many at a time as there are processors. */
async function each(list, work) {
  const waiting = [...list];
  await Promise.all(
    Array.from({ length: availableParallelism() }, async () => {
      for (let next = waiting.shift(); next !== undefined; next = waiting.shift()) await work(next);
    }),
  );
}

const tests = tracked.filter((path) => /^(core|server|contract|practice|cli|tests\/api)\/.*\.test\.ts$/.test(path));
say(`${all.length} functions, ${sample.length} of them tried; ${tests.length} test files are run once to see what they reach…`);
/** By number of the function, the test files that reach it, the quickest first. */
const reachedBy = new Map(sample.map(({ id }) => [id, []]));
await each(tests, async (file) => {
  const note = join(notes, `${file.replaceAll("/", "_")}.txt`);
  rmSync(note, { force: true });
  const { passed, ms } = await run(file, { BUVANO_REACHED: note });
  if (!passed) return say(`${file} fails as it is, and is left out.`);
  const ids = existsSync(note) ? new Set(readFileSync(note, "utf8").trim().split("\n").map(Number)) : [];
  for (const id of ids) reachedBy.get(id).push({ file, ms });
});

const survivors = [];
const report = join(notes, "report.txt");
writeFileSync(report, "");
await each(sample, async ({ id, path, line, name }) => {
  const reaching = reachedBy.get(id).sort((a, b) => a.ms - b.ms);
  let killed = false;
  for (const { file } of reaching) if (!killed) killed = !(await run(file, { BUVANO_MUTANT: String(id) })).passed;
  const words = `${path}:${line} ${name}: ${killed ? "noticed" : reaching.length === 0 ? "reached by no unit test" : "not noticed"}`;
  appendFileSync(report, `${words}\n`);
  say(words);
  if (!killed) survivors.push(words);
});
const noticed = sample.length - survivors.length;
noteMutants({ tried: sample.length, noticed, seed: SEED, survivors: survivors.sort() });
process.stdout.write(`${noticed} of ${sample.length} noticed (${((100 * noticed) / sample.length).toFixed(1)} %)\n`);
