// Worker threads that do one kind of work: one task a thread, each with a deadline. A thread that dies or overruns takes only its own task
// along, and another takes its place.
import { readFileSync } from "node:fs";
import { Worker, type TransferListItem } from "node:worker_threads";

export interface ThreadOptions {
  /** The built worker file; it calls `serve` (serve.ts). */
  file: string;
  /** Threads at most. */
  most: number;
  /** Threads started at once and kept; the others end when they were idle for a while. */
  kept?: number;
  /** Memory of its own a thread may take, in MiB. */
  memoryMib: number;
  /**
   * What may be taken beside that while a task runs, in MiB: buffers and WebAssembly, which the limit above does not see. The whole process
   * is looked at, so that another's hunger may be taken for this task's: what is ended must bear being done again.
   */
  besideMib?: number;
  idleMs?: number;
}

export interface TaskOptions {
  /** How long the thread may compute for it. Where that cannot be told, and for waiting, so many times longer passes by the clock. */
  deadlineMs: number;
  /** What the task tells on its way. */
  onTold?: (told: unknown) => void;
  transfer?: readonly TransferListItem[];
  signal?: AbortSignal;
}

/** Why a task did not come to its end; what the task itself throws is an `Error` with its own message. */
export class TaskLost extends Error {
  readonly why: "overran" | "memory" | "died" | "closed";
  constructor(why: TaskLost["why"], message: string) {
    super(message);
    this.why = why;
  }
}

/** What goes to a thread and what comes back. */
export interface Ask {
  id: number;
  task: unknown;
}
export type Reply =
  /** `thread` is what the system knows the thread by, where it says so. */
  | { kind: "ready"; thread?: string }
  | { kind: "told"; id: number; told: unknown }
  | { kind: "done"; id: number; outcome: unknown }
  | { kind: "failed"; id: number; message: string; stack: string };

interface Waiting {
  task: unknown;
  options: TaskOptions;
  resolve: (outcome: unknown) => void;
  reject: (error: Error) => void;
}

/** Much of what threads make is thrown away at once. */
const YOUNG_MIB = 48;

/** A thread that computes for its deadline is ended; one that waits, or is given little of the processor, only after so many times that. */
const CLOCK_TIMES = 8;
const LOOK_EVERY_MS = 100;
/** A thread that has not loaded its code by then will not. */
const LOADING_MS = 60_000;
/** Ticks a second in which Linux counts (proc(5), "utime", "stime"; sysconf(_SC_CLK_TCK) is 100 on every Linux of today, from memory). */
const TICKS_A_SECOND = 100;

/** How long a thread has computed, in milliseconds; undefined where the system does not say. */
function computedMs(thread: string | undefined): number | undefined {
  if (thread === undefined) return undefined;
  try {
    // The name before the numbers may hold anything but a closing bracket at its end.
    const fields = readFileSync(`/proc/self/task/${thread}/stat`, "latin1").split(") ").at(-1)!.split(" ");
    return ((Number(fields[11]) + Number(fields[12])) * 1000) / TICKS_A_SECOND;
  } catch {
    return undefined;
  }
}

/** One thread. It is only ended once it is ready: ending it while it loads its code has brought the whole process down. */
class Thread {
  private readonly worker: Worker;
  private readonly ready: Promise<void>;
  private current: (Waiting & { id: number; timer: NodeJS.Timeout; stopListening: () => void }) | undefined;
  private tasks = 0;
  private ending = false;
  private readonly besideMib: number | undefined;
  private thread: string | undefined;
  idleTimer: NodeJS.Timeout | undefined;

  constructor(options: ThreadOptions, onFree: (thread: Thread) => void, onGone: (thread: Thread) => void) {
    this.worker = new Worker(options.file, {
      resourceLimits: { maxOldGenerationSizeMb: options.memoryMib, maxYoungGenerationSizeMb: YOUNG_MIB },
      stdin: false,
    });
    this.besideMib = options.besideMib;
    let tellReady: () => void;
    this.ready = new Promise((resolve) => (tellReady = resolve));
    this.worker.on("message", (reply: Reply) => {
      if (reply.kind === "ready") {
        this.thread = reply.thread;
        return tellReady();
      }
      const { current } = this;
      if (!current || reply.id !== current.id) return;
      if (reply.kind === "told") return current.options.onTold?.(reply.told);
      this.forget();
      if (reply.kind === "done") current.resolve(reply.outcome);
      else current.reject(Object.assign(new Error(reply.message), { stack: reply.stack }));
      onFree(this);
    });
    this.worker.on("error", (error: NodeJS.ErrnoException) => {
      // It has not ended yet, and is good for nothing more.
      this.ending = true;
      this.lose(
        error.code === "ERR_WORKER_OUT_OF_MEMORY"
          ? new TaskLost("memory", "The work took more memory than it may.")
          : new TaskLost("died", `A worker thread died: ${error.message}`),
      );
    });
    this.worker.on("exit", () => {
      this.lose(new TaskLost("died", "A worker thread ended unexpectedly."));
      tellReady();
      onGone(this);
    });
    this.worker.unref();
  }

  get busy(): boolean {
    return this.current !== undefined || this.ending;
  }

  run(waiting: Waiting): void {
    const id = ++this.tasks;
    const { options, task } = waiting;
    const overran = () => {
      this.lose(new TaskLost("overran", `The work took longer than ${Math.round(options.deadlineMs / 1000)} s.`));
      void this.end();
    };
    const calledOff = () => {
      this.lose(new TaskLost("closed", "The work was called off."));
      void this.end();
    };
    options.signal?.addEventListener("abort", calledOff, { once: true });
    const stopListening = () => options.signal?.removeEventListener("abort", calledOff);
    const asked = performance.now();
    const most = this.besideMib === undefined ? Infinity : process.memoryUsage.rss() + this.besideMib * 1024 * 1024;
    // The time a thread takes to load is not the task's.
    let begun: number | undefined;
    let before: number | undefined;
    void this.ready.then(() => {
      begun = performance.now();
      before = computedMs(this.thread);
    });
    const look = () => {
      if (process.memoryUsage.rss() > most) {
        this.lose(new TaskLost("memory", "The work took more memory than it may."));
        return void this.end();
      }
      const now = performance.now();
      if (begun === undefined) return now - asked < LOADING_MS ? undefined : overran();
      const computed = computedMs(this.thread);
      const computedFor = computed === undefined || before === undefined ? 0 : computed - before;
      if (computedFor >= options.deadlineMs || now - begun >= CLOCK_TIMES * options.deadlineMs) overran();
    };
    const timer = setInterval(look, Math.min(LOOK_EVERY_MS, options.deadlineMs));
    this.current = { ...waiting, id, timer, stopListening };
    this.worker.ref();
    this.worker.postMessage({ id, task } satisfies Ask, [...(options.transfer ?? [])]);
  }
  private forget(): void {
    clearInterval(this.current?.timer);
    this.current?.stopListening();
    this.current = undefined;
    this.worker.unref();
  }
  private lose(error: TaskLost): void {
    const { current } = this;
    if (!current) return;
    this.forget();
    current.reject(error);
  }
  async end(): Promise<void> {
    this.ending = true;
    clearTimeout(this.idleTimer);
    // Whoever waits for the end is kept waiting until it has come.
    this.worker.ref();
    await this.ready;
    await this.worker.terminate();
  }
  close(): Promise<void> {
    this.lose(new TaskLost("closed", "Buvano was closed meanwhile."));
    return this.end();
  }
}

const IDLE_MS = 30_000;

export class Threads<Task, Outcome> {
  private readonly options: ThreadOptions;
  private readonly threads = new Set<Thread>();
  private readonly queue: Waiting[] = [];
  private closed = false;

  constructor(options: ThreadOptions) {
    this.options = options;
    for (let i = 0; i < (options.kept ?? 0); i++) this.start();
  }

  private start(): Thread {
    const thread = new Thread(
      this.options,
      (free) => this.pump(free),
      (gone) => {
        this.threads.delete(gone);
        this.pump();
      },
    );
    this.threads.add(thread);
    return thread;
  }

  private pump(free?: Thread): void {
    while (!this.closed && this.queue.length > 0) {
      const thread = [...this.threads].find((one) => !one.busy) ?? (this.threads.size < this.options.most ? this.start() : undefined);
      if (!thread) return;
      clearTimeout(thread.idleTimer);
      const next = this.queue.shift()!;
      if (next.options.signal?.aborted) next.reject(new TaskLost("closed", "The work was called off."));
      else thread.run(next);
    }
    if (free && !free.busy && !this.closed && this.threads.size > (this.options.kept ?? 0)) {
      clearTimeout(free.idleTimer);
      free.idleTimer = setTimeout(() => {
        if (!free.busy) void free.end();
      }, this.options.idleMs ?? IDLE_MS).unref();
    }
  }

  /** Does a task in a thread. Rejects with a `TaskLost` when it does not come to its end. */
  run(task: Task, options: TaskOptions): Promise<Outcome> {
    if (this.closed) return Promise.reject(new TaskLost("closed", "Buvano was closed meanwhile."));
    return new Promise<Outcome>((resolve, reject) => {
      this.queue.push({ task, options, resolve: resolve as (outcome: unknown) => void, reject });
      this.pump();
    });
  }
  /** Whether nothing is being done and nothing waits. */
  get idle(): boolean {
    return this.queue.length === 0 && [...this.threads].every((thread) => !thread.busy);
  }
  async close(): Promise<void> {
    this.closed = true;
    for (const waiting of this.queue.splice(0)) waiting.reject(new TaskLost("closed", "Buvano was closed meanwhile."));
    await Promise.all([...this.threads].map((thread) => thread.close()));
  }
}
