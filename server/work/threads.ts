// Pools of workers that do one kind of work: one task each at a time, with a deadline. One that dies or overruns takes only its own task along,
// and another takes its place.
import type { TransferListItem } from "node:worker_threads";
import { ProblemError, type Problem } from "../../core/problem.ts";
import { processHand, threadHand, type Hand, type HandOptions } from "./hand.ts";

export interface ThreadOptions extends HandOptions {
  /** Workers at most. */
  most: number;
  /** Workers started at once and kept; the others end when they were idle for a while. */
  kept?: number;
  /** A process for each, so that even an abort takes only its work along; a thread for what cannot grow. */
  apart?: "process" | "thread";
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
  /** `thread` is what the system knows a thread by, where it says so. */
  | { kind: "ready"; thread?: string }
  | { kind: "told"; id: number; told: unknown }
  | { kind: "done"; id: number; outcome: unknown }
  /** `code`: the system's own, where it was a fault of the disk. `problem`: where it is one a person can do something about. */
  | { kind: "failed"; id: number; message: string; stack: string; code?: string; problem?: Problem };

interface Waiting {
  task: unknown;
  options: TaskOptions;
  resolve: (outcome: unknown) => void;
  reject: (error: Error) => void;
}

/** A thread that computes for its deadline is ended; one that waits, or is given little of the processor, only after so many times that. */
const CLOCK_TIMES = 8;
const LOOK_EVERY_MS = 100;
/** A thread that has not loaded its code by then will not. */
const LOADING_MS = 60_000;
/** One worker. */
class Thread {
  private readonly hand: Hand;
  private readonly ready: Promise<void>;
  private current: (Waiting & { id: number; timer: NodeJS.Timeout; stopListening: () => void }) | undefined;
  private tasks = 0;
  private ending = false;
  idleTimer: NodeJS.Timeout | undefined;

  constructor(options: ThreadOptions, onFree: (thread: Thread) => void, onGone: (thread: Thread) => void) {
    let tellReady: () => void;
    this.ready = new Promise((resolve) => (tellReady = resolve));
    this.hand = (options.apart === "thread" ? threadHand : processHand)(options, {
      onReply: (reply) => {
        if (reply.kind === "ready") return tellReady();
        const { current } = this;
        if (!current || reply.id !== current.id) return;
        if (reply.kind === "told") return current.options.onTold?.(reply.told);
        this.forget();
        if (reply.kind === "done") current.resolve(reply.outcome);
        else {
          const { message, stack, code, problem } = reply;
          if (problem) current.reject(new ProblemError(problem.code, problem.message, problem.next));
          else current.reject(Object.assign(new Error(message), code === undefined ? { stack } : { stack, code }));
        }
        onFree(this);
      },
      onLost: ({ why, message }) => {
        // It may not have ended yet, and is good for nothing more.
        this.ending = true;
        this.lose(new TaskLost(why, message));
      },
      onGone: () => {
        tellReady();
        onGone(this);
      },
    });
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
    // The time a thread takes to load is not the task's.
    let begun: number | undefined;
    let before: number | undefined;
    void this.ready.then(() => {
      begun = performance.now();
      before = this.hand.computedMs();
    });
    const look = () => {
      const now = performance.now();
      if (begun === undefined) return now - asked < LOADING_MS ? undefined : overran();
      const computed = this.hand.computedMs();
      const computedFor = computed === undefined || before === undefined ? 0 : computed - before;
      if (computedFor >= options.deadlineMs || now - begun >= CLOCK_TIMES * options.deadlineMs) overran();
    };
    const timer = setInterval(look, Math.min(LOOK_EVERY_MS, options.deadlineMs));
    this.current = { ...waiting, id, timer, stopListening };
    this.hand.hold(true);
    this.hand.post({ id, task }, options.transfer ?? []);
  }
  private forget(): void {
    clearInterval(this.current?.timer);
    this.current?.stopListening();
    this.current = undefined;
    this.hand.hold(false);
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
    await this.hand.end();
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
