// The thread's side of threads.ts: takes tasks one after another and answers each.
import { parentPort } from "node:worker_threads";
import type { Ask, Reply } from "./threads.ts";

/** `tell` says something on the way, which whoever gave the task may listen to. */
export function serve<Task, Outcome, Told = never>(work: (task: Task, tell: (told: Told) => void) => Promise<Outcome>): void {
  const port = parentPort!;
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
  reply({ kind: "ready" });
}
