// The worker's side of threads.ts: takes tasks one after another and answers each, in a process of its own or in a thread.
import { readlinkSync } from "node:fs";
import { setPriority } from "node:os";
import { basename } from "node:path";
import { parentPort, Worker } from "node:worker_threads";
import { ProblemError } from "../../core/problem.ts";
import type { Ask, Reply } from "./threads.ts";

/** Workers give way to the one that answers (sched(7), "The nice value"). */
const GIVES_WAY = 10;

/**
 * Watches from a thread of its own, which an endless loop does not stop: a worker whose server is gone ends, and so does one that takes more memory
 * than it may, buffers and WebAssembly included.
 */
const WATCH = `
const parent = process.ppid;
const most = Number(process.env.BUVANO_MOST_MIB) * 1024 * 1024;
setInterval(() => {
  if (process.ppid !== parent || (most > 0 && process.memoryUsage.rss() > most)) process.kill(process.pid, "SIGKILL");
}, 100);
`;

/** How a worker hears and answers. */
interface Line {
  hear: (take: (ask: Ask) => void) => void;
  reply: (message: Reply) => void;
}
function lineOut(): Line {
  const port = parentPort;
  if (port) return { hear: (take) => void port.on("message", take), reply: (message) => port.postMessage(message) };
  new Worker(WATCH, { eval: true, resourceLimits: { maxOldGenerationSizeMb: 16 } }).unref();
  process.on("disconnect", () => process.exit(0));
  return {
    hear: (take) => void process.on("message", (ask) => take(ask as Ask)),
    reply: (message) => void (process.connected && process.send!(message)),
  };
}

/** `tell` says something on the way, which whoever gave the task may listen to. */
export function serve<Task, Outcome, Told = never>(work: (task: Task, tell: (told: Told) => void) => Promise<Outcome>): void {
  const { hear, reply } = lineOut();
  // On Linux a thread's is its own; elsewhere it would be the whole process's.
  if (!parentPort || process.platform === "linux") setPriority(GIVES_WAY);
  hear(({ id, task }) => {
    work(task as Task, (told) => reply({ kind: "told", id, told })).then(
      (outcome) => reply({ kind: "done", id, outcome }),
      (error: unknown) => {
        const { message, stack = "", code } = (error instanceof Error ? error : new Error(String(error))) as NodeJS.ErrnoException;
        const problem = error instanceof ProblemError ? { problem: error.problem } : {};
        reply({ kind: "failed", id, message, stack, ...(typeof code === "string" ? { code } : {}), ...problem });
      },
    );
  });
  const thread = parentPort && process.platform === "linux" ? { thread: basename(readlinkSync("/proc/thread-self")) } : {};
  reply({ kind: "ready", ...thread });
}
