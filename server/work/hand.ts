// What does the work of a pool: a process of its own, so that even an abort takes only that along; or a thread, for what cannot grow.
import { fork, type ChildProcess } from "node:child_process";
import { readFileSync } from "node:fs";
import { Worker, type TransferListItem } from "node:worker_threads";
import type { Ask, Reply } from "./threads.ts";

/** How one ended that was not told to: by what it took, or otherwise. */
export type Ending = { why: "memory" | "died"; message: string };

export interface Hand {
  post: (ask: Ask, transfer: readonly TransferListItem[]) => void;
  /** Keeps this process alive while it works, or does not. */
  hold: (working: boolean) => void;
  /** How long it has computed, in milliseconds; undefined where the system does not say. */
  computedMs: () => number | undefined;
  /** Resolves once it has ended. */
  end: () => Promise<void>;
}
export interface HandListeners {
  onReply: (reply: Reply) => void;
  /** It ends, or will: it is good for nothing more. */
  onLost: (ending: Ending) => void;
  onGone: () => void;
}
export interface HandOptions {
  /** The built worker file; it calls `serve` (serve.ts). */
  file: string;
  /** JavaScript's own memory, in MiB. */
  memoryMib: number;
  /** What may be taken beside that, in MiB: buffers and WebAssembly. */
  besideMib: number | undefined;
}

/** Much of what is made is thrown away at once. */
const YOUNG_MIB = 48;
/** What a process takes before it does anything, in MiB. */
const EMPTY_MIB = 160;
/** Ticks a second in which Linux counts (proc(5), "utime", "stime"; sysconf(_SC_CLK_TCK) is 100 on every Linux of today, from memory). */
const TICKS_A_SECOND = 100;

function computedMs(stat: string): number | undefined {
  try {
    // The name before the numbers may hold anything but a closing bracket at its end.
    const fields = readFileSync(stat, "latin1").split(") ").at(-1)!.split(" ");
    return ((Number(fields[11]) + Number(fields[12])) * 1000) / TICKS_A_SECOND;
  } catch {
    return undefined;
  }
}

const TOO_MUCH: Ending = { why: "memory", message: "The work took more memory than it may." };
/** V8 aborts where its limits are passed; what takes too much beside them is killed, by its own watch (serve.ts) or by the system. */
const BY_MEMORY = new Set(["SIGABRT", "SIGTRAP", "SIGKILL"]);
const endingOf = (code: number | null, signal: NodeJS.Signals | null): Ending =>
  (signal !== null && BY_MEMORY.has(signal)) || code === 134 || code === 137
    ? TOO_MUCH
    : { why: "died", message: `A worker ended unexpectedly (${signal ?? code}).` };

/** A process of its own. */
export function processHand({ file, memoryMib, besideMib }: HandOptions, { onReply, onLost, onGone }: HandListeners): Hand {
  const most = besideMib === undefined ? 0 : memoryMib + besideMib + EMPTY_MIB;
  const child: ChildProcess = fork(file, [], {
    serialization: "advanced",
    execArgv: [`--max-old-space-size=${memoryMib}`, `--max-semi-space-size=${YOUNG_MIB / 3}`, "--no-warnings"],
    // What V8 says when it aborts helps nobody here: the task gets its sentence.
    stdio: ["ignore", "ignore", "ignore", "ipc"],
    env: { ...process.env, BUVANO_MOST_MIB: String(most) },
  });
  let gone = false;
  const exited = new Promise<void>((resolve) => {
    const leave = (ending: Ending) => {
      if (gone) return;
      gone = true;
      onLost(ending);
      onGone();
      resolve();
    };
    child.on("exit", (code, signal) => leave(endingOf(code, signal)));
    child.on("error", (error) => leave({ why: "died", message: `A worker could not be started: ${error.message}` }));
  });
  child.on("message", (reply) => onReply(reply as Reply));
  const hold = (working: boolean) => {
    if (working) child.ref();
    else child.unref();
    if (working) child.channel?.ref();
    else child.channel?.unref();
  };
  hold(false);
  return {
    // What has ended meanwhile says so by its end.
    post: (ask) => void (child.connected && child.send(ask, () => {})),
    hold,
    computedMs: () => (process.platform === "linux" && child.pid !== undefined ? computedMs(`/proc/${child.pid}/stat`) : undefined),
    end: () => {
      child.ref();
      if (!gone) child.kill("SIGKILL");
      return exited;
    },
  };
}

/** A thread. It is only ended once it is ready: ending it while it loads its code has brought the whole process down. */
export function threadHand({ file, memoryMib }: HandOptions, { onReply, onLost, onGone }: HandListeners): Hand {
  const worker = new Worker(file, {
    resourceLimits: { maxOldGenerationSizeMb: memoryMib, maxYoungGenerationSizeMb: YOUNG_MIB },
    stdin: false,
  });
  let thread: string | undefined;
  let tellReady: () => void;
  const ready = new Promise<void>((resolve) => (tellReady = resolve));
  worker.on("message", (reply: Reply) => {
    if (reply.kind === "ready") {
      thread = reply.thread;
      tellReady();
    }
    onReply(reply);
  });
  worker.on("error", (error: NodeJS.ErrnoException) =>
    onLost(error.code === "ERR_WORKER_OUT_OF_MEMORY" ? TOO_MUCH : { why: "died", message: `A worker thread died: ${error.message}` }),
  );
  worker.on("exit", () => {
    onLost({ why: "died", message: "A worker thread ended unexpectedly." });
    tellReady();
    onGone();
  });
  worker.unref();
  return {
    post: (ask, transfer) => worker.postMessage(ask, [...transfer]),
    hold: (working) => (working ? worker.ref() : worker.unref()),
    computedMs: () => (thread === undefined ? undefined : computedMs(`/proc/self/task/${thread}/stat`)),
    end: async () => {
      // Whoever waits for the end is kept waiting until it has come.
      worker.ref();
      await ready;
      await worker.terminate();
    },
  };
}
