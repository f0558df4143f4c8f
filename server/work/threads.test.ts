// Threads: one that dies, overruns or takes too much memory loses its own task and nothing else; pools may be closed at any moment.
import { spawn } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { afterAll, describe, expect, test } from "@jest/globals";
import { amount } from "../../tests/amount.ts";
import { TaskLost, Threads } from "./threads.ts";

const dir = mkdtempSync(join(tmpdir(), "buvano-threads-"));
afterAll(() => rmSync(dir, { recursive: true }));

/** A worker written for these tests, which speaks as serve.ts does. */
const file = join(dir, "odd.worker.mjs");
writeFileSync(
  file,
  `import { parentPort } from "node:worker_threads";
  const reply = parentPort ? (one) => parentPort.postMessage(one) : (one) => process.send(one);
  (parentPort ?? process).on("message", async ({ id, task }) => {
    if (task.do === "die") process.exit(3);
    if (task.do === "abort") process.abort();
    if (task.do === "throw") setImmediate(() => { throw new Error("out of nowhere"); });
    else if (task.do === "hang") for (;;);
    else if (task.do === "grow") { const all = []; for (;;) all.push(new Array(100000).fill(Math.random())); }
    else if (task.do === "fail") reply({ kind: "failed", id, message: "It cannot be done.", stack: "" });
    else { reply({ kind: "told", id, told: "half" }); setTimeout(() => reply({ kind: "done", id, outcome: task.give }), task.ms ?? 0); }
  });
  reply({ kind: "ready" });`,
);
interface Odd {
  do: "die" | "abort" | "throw" | "hang" | "grow" | "fail" | "give";
  give?: number;
  ms?: number;
}
const threads = (most: number, apart: "process" | "thread" = "process") =>
  new Threads<Odd, number>({ file, most, memoryMib: 64, besideMib: undefined, apart });
const options = { deadlineMs: 20_000 };
const why = (task: Promise<unknown>) =>
  task.then(
    () => "done",
    (error: unknown) => (error instanceof TaskLost ? error.why : (error as Error).message),
  );

describe.each(["process", "thread"] as const)("in a %s", (apart) => {
  test.each<[Odd["do"], string, number]>([
    ["die", "died", 20_000],
    ["throw", "died", 20_000],
    ["hang", "overran", 300],
    ["grow", "memory", 20_000],
    ["fail", "It cannot be done.", 20_000],
  ])("a task that makes its thread %s fails alone", async (does, expected, deadlineMs) => {
    const pool = threads(2, apart);
    const others = [1, 2, 3].map((give) => pool.run({ do: "give", give, ms: 20 }, options));
    const lost = pool.run({ do: does }, { deadlineMs });
    const after = [4, 5].map((give) => pool.run({ do: "give", give }, options));
    expect(await why(lost)).toBe(expected);
    expect(await Promise.all([...others, ...after])).toEqual([1, 2, 3, 4, 5]);
    await pool.close();
  });
});

test("readers that abort, fifty times, take nothing along but their own task", async () => {
  const pool = threads(3);
  for (let n = 0; n < 50; n++) {
    const lost = pool.run({ do: "abort" }, options);
    const beside = pool.run({ do: "give", give: n, ms: 1 }, options);
    expect([await why(lost), await beside]).toEqual(["memory", n]);
  }
  await pool.close();
}, 60_000);

test("waiting is no computing: only many times the deadline ends it", async () => {
  const pool = threads(1);
  expect(await pool.run({ do: "give", give: 2, ms: 900 }, { deadlineMs: 300 })).toBe(2);
  expect(await why(pool.run({ do: "give", give: 3, ms: 20_000 }, { deadlineMs: 100 }))).toBe("overran");
  await pool.close();
});

test("a thread that threw is given nothing more, though it has not ended yet", async () => {
  const pool = threads(1);
  for (let give = 1; give <= 5; give++) {
    expect(await why(pool.run({ do: "throw" }, options))).toBe("died");
    expect(await pool.run({ do: "give", give }, options)).toBe(give);
  }
  await pool.close();
});

test("what a task tells is heard while it works; one that is called off ends", async () => {
  const pool = threads(1);
  const told: unknown[] = [];
  expect(await pool.run({ do: "give", give: 7 }, { ...options, onTold: (one) => told.push(one) })).toBe(7);
  expect(told).toEqual(["half"]);
  const stop = new AbortController();
  const hanging = pool.run({ do: "hang" }, { ...options, signal: stop.signal });
  setTimeout(() => stop.abort(), 50);
  expect(await why(hanging)).toBe("closed");
  expect(await pool.run({ do: "give", give: 8 }, options)).toBe(8);
  await pool.close();
  expect(await why(pool.run({ do: "give" }, options))).toBe("closed");
});

/** Runs a script in a process of its own: what is proved is that the process lives. */
async function lives(script: string): Promise<{ code: number | null; errors: string }> {
  const path = join(dir, `script-${Math.random().toString(36).slice(2)}.mjs`);
  writeFileSync(path, script);
  const child = spawn(process.execPath, ["--no-warnings", path], { stdio: ["ignore", "ignore", "pipe"] });
  let errors = "";
  child.stderr.on("data", (chunk: Buffer) => (errors += chunk.toString()));
  const code = await new Promise<number | null>((resolve) => child.on("exit", resolve));
  return { code, errors };
}
const built = (name: string): string => join(process.cwd(), "build", "node", name);

/** Moments spread evenly from the first to the last thing that happens: the same ones on a slow machine, which `wholeMs` was measured on. */
const moments = (wholeMs: number, all: number): number[] => {
  const count = amount(all);
  return Array.from({ length: count }, (_, i) => (wholeMs * i) / (count - 1));
};

test("a hundred pools of the real workers, closed at every moment of their work", async () => {
  const script = `import { WorkPool } from ${JSON.stringify(pathToFileURL(built("pool.mjs")).href)};
    const tasks = (pool) => [
      pool.readPapers([{ id: 1, key: "x", kind: "paper", path: "a.pdf", at: ${JSON.stringify(file)} }], true),
      pool.font({ kind: "inspect", fonts: [{ source: { path: ${JSON.stringify(file)} }, name: "x" }] }),
    ];
    const first = new WorkPool(${JSON.stringify(built(""))});
    const from = performance.now();
    await Promise.all(tasks(first));
    const wholeMs = performance.now() - from;
    await first.close();
    for (const part of ${JSON.stringify(moments(1, 100))}) {
      const pool = new WorkPool(${JSON.stringify(built(""))});
      // Some are closed while their threads load, some while they work, and load more for it.
      const begun = tasks(pool).map((task) => task.catch((error) => { if (error.why !== "closed") throw error; }));
      await new Promise((resolve) => setTimeout(resolve, part * wholeMs));
      await pool.close();
      await Promise.all(begun);
    }`;
  expect(await lives(script)).toEqual({ code: 0, errors: "" });
}, 180_000);

test("a server stopped at fifty moments of its start ends in peace each time", async () => {
  const data = join(dir, "library");
  const begin = () =>
    spawn(process.execPath, [built("main.mjs")], {
      env: { ...process.env, BUVANO_DATA: data, PORT: "0", XDG_DATA_HOME: dir },
      stdio: ["ignore", "pipe", "pipe"],
    });
  const endOf = (child: ReturnType<typeof begin>) =>
    new Promise<[number | null, string | null]>((resolve) => child.on("exit", (code, signal) => resolve([code, signal])));
  const from = performance.now();
  const first = begin();
  await new Promise((resolve) => first.stdout.once("data", resolve));
  const startMs = performance.now() - from;
  const firstEnds = endOf(first);
  first.kill("SIGTERM");
  expect(await firstEnds).toEqual([0, null]);
  for (const afterMs of moments(1.2 * startMs, 50)) {
    const child = begin();
    let errors = "";
    child.stderr.on("data", (chunk: Buffer) => (errors += chunk.toString()));
    const ended = endOf(child);
    await new Promise((resolve) => setTimeout(resolve, afterMs));
    child.kill("SIGTERM");
    const [code, signal] = await ended;
    // Before it listens for the signal, the signal itself ends it; that is no crash either.
    expect([afterMs, errors, code === 0 || signal === "SIGTERM"]).toEqual([afterMs, "", true]);
  }
}, 180_000);
