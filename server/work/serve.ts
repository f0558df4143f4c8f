// The thread's side of threads.ts: takes tasks one after another and answers each.
import { readlinkSync } from "node:fs";
import { setPriority } from "node:os";
import { basename } from "node:path";
import { parentPort } from "node:worker_threads";
import type { Ask, Reply } from "./threads.ts";

/** Threads give way to the one that answers (sched(7), "The nice value"). */
const GIVES_WAY = 10;

/** `tell` says something on the way, which whoever gave the task may listen to. */
export function serve<Task, Outcome, Told = never>(work: (task: Task, tell: (told: Told) => void) => Promise<Outcome>): void {
  const port = parentPort!;
  // On Linux this is the calling thread's own; elsewhere it would be the whole process's.
  if (process.platform === "linux") setPriority(GIVES_WAY);
  const reply = (message: Reply) => port.postMessage(message);
  port.on("message", ({ id, task }: Ask) => {
    work(task as Task, (told) => reply({ kind: "told", id, told })).then(
      (outcome) => reply({ kind: "done", id, outcome }),
      (error: unknown) => {
        const { message, stack = "" } = error instanceof Error ? error : new Error(String(error));
        reply({ kind: "failed", id, message, stack });
      },
    );
  });
  reply({ kind: "ready", ...(process.platform === "linux" ? { thread: basename(readlinkSync("/proc/thread-self")) } : {}) });
}
