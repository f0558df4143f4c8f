// The worker threads that run core on large input.
import { join } from "node:path";
import { MessageChannel } from "node:worker_threads";
import { Piscina } from "piscina";
import type { EvidenceJob, EvidenceOutcome } from "./evidence.worker.ts";
import type { ParcelJob, ParcelOutcome, ParcelTold } from "./parcel.worker.ts";

const THREADS = 2;
/** A parcel waits for the disk half of its time; another one uses the thread meanwhile. */
const TASKS_PER_THREAD = 3;
/** A thread that reads evidence is kept this long for the next. */
const EVIDENCE_IDLE_MS = 60_000;
/** How many parcels are worked on at once. */
export const AT_ONCE = THREADS * TASKS_PER_THREAD;

export class WorkPool {
  private readonly pool: Piscina;
  /** Started when first wanted. */
  private readonly evidence: Piscina;
  constructor(workerDir: string) {
    this.evidence = new Piscina({
      filename: join(workerDir, "evidence.worker.mjs"),
      ...{ minThreads: 0, maxThreads: 1, idleTimeout: EVIDENCE_IDLE_MS },
    });
    this.pool = new Piscina({
      filename: join(workerDir, "parcel.worker.mjs"),
      maxThreads: THREADS,
      concurrentTasksPerWorker: TASKS_PER_THREAD,
      // Started at once and kept: the first parcel does not wait for a thread to load its code.
      minThreads: THREADS,
    });
  }

  /** Unpacks a parcel in a worker thread, telling how far it is. */
  async unpack(job: Omit<ParcelJob, "progress">, onProgress: (told: ParcelTold) => void): Promise<ParcelOutcome> {
    const { port1, port2 } = new MessageChannel();
    port1.on("message", onProgress);
    try {
      return (await this.pool.run({ ...job, progress: port2 }, { transferList: [port2] })) as ParcelOutcome;
    } finally {
      port1.close();
    }
  }
  /** Reads an exported file or a picture in a worker thread. */
  async read<J extends EvidenceJob>(job: J): Promise<EvidenceOutcome<J>> {
    return (await this.evidence.run(job)) as EvidenceOutcome<J>;
  }
  async close(): Promise<void> {
    await Promise.all([this.pool.destroy(), this.evidence.destroy()]);
  }
}
