// A server in a process of its own, watched from inside: how long its event loop was held up, and how much memory it takes.
import { spawn } from "node:child_process";
import { once } from "node:events";
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pathToFileURL } from "node:url";

/** Loaded into the server before its own code: on SIGUSR2 it writes what it saw since the last time. */
const MONITOR = `import { monitorEventLoopDelay } from "node:perf_hooks";
import { renameSync, writeFileSync } from "node:fs";
const delay = monitorEventLoopDelay({ resolution: 2 });
delay.enable();
process.on("SIGUSR2", () => {
  const to = process.env.LOOP_REPORT;
  writeFileSync(to + ".part", JSON.stringify({ maxMs: delay.max / 1e6, p99Ms: delay.percentile(99) / 1e6 }));
  renameSync(to + ".part", to);
  delay.reset();
});`;

export interface Running {
  address: string;
  /** Milliseconds from starting the process to its word that it is ready. */
  readyMs: number;
  /** Resident memory in MiB (proc(5), status, VmRSS). */
  memoryMib(): number;
  /** How long the event loop was held up since this was last asked. */
  loop(): Promise<{ maxMs: number; p99Ms: number }>;
  stop(): Promise<void>;
}

export async function runServer(workerDir: string, dataDir: string, env: Record<string, string> = {}): Promise<Running> {
  const dir = mkdtempSync(join(tmpdir(), "buvano-running-"));
  const monitor = join(dir, "monitor.mjs");
  const report = join(dir, "loop.json");
  writeFileSync(monitor, MONITOR);
  const start = performance.now();
  const child = spawn(process.execPath, ["--import", pathToFileURL(monitor).href, join(workerDir, "main.mjs")], {
    env: { ...process.env, ...env, BUVANO_DATA: dataDir, PORT: "0", BUVANO_PRACTICE: "1", LOOP_REPORT: report },
    stdio: ["ignore", "pipe", "inherit"],
  });
  let said = "";
  const address = await new Promise<string>((resolve, reject) => {
    child.stdout.on("data", (chunk: Buffer) => {
      said += chunk.toString();
      const found = /ready: (http:\S+)/.exec(said)?.[1];
      if (found) resolve(found);
    });
    child.once("exit", () => reject(new Error(`The server did not start: ${said}`)));
  });
  return {
    address,
    readyMs: performance.now() - start,
    memoryMib: () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, "utf8"))![1]) / 1024,
    loop: async () => {
      rmSync(report, { force: true });
      child.kill("SIGUSR2");
      while (!existsSync(report)) await new Promise((resolve) => setTimeout(resolve, 10));
      return JSON.parse(readFileSync(report, "utf8")) as { maxMs: number; p99Ms: number };
    },
    stop: async () => {
      const gone = once(child, "exit");
      child.kill();
      await gone;
      rmSync(dir, { recursive: true });
    },
  };
}

export const percentile = (times: readonly number[], part: number): number =>
  [...times].sort((a, b) => a - b)[Math.min(times.length - 1, Math.floor(times.length * part))]!;
export const p95 = (times: readonly number[]): number => percentile(times, 0.95);

/** Asks a running server as the interface does. */
export const clientOf = (address: string) => ({
  get: async (path: string): Promise<unknown> => (await fetch(`${address}/api${path}`)).json(),
  post: async (path: string, body: unknown = {}): Promise<unknown> => {
    const response = await fetch(`${address}/api${path}`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(body),
    });
    if (!response.ok) throw new Error(`${path}: ${await response.text()}`);
    return response.json();
  },
});
