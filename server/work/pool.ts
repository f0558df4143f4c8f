// The worker threads that run core on large input.
import { join } from "node:path";
import { MessageChannel } from "node:worker_threads";
import { Piscina } from "piscina";
import type { ParcelJob, ParcelOutcome, ParcelTold } from "./parcel.worker.ts";

const THREADS = 2;
/** A parcel waits for the disk half of its time; another one uses the thread meanwhile. */
const TASKS_PER_THREAD = 3;
/** How many parcels are worked on at once. */
export const AT_ONCE = THREADS * TASKS_PER_THREAD;

export class WorkPool {
  private readonly pool: Piscina;
  constructor(workerDir: string) {
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
  close(): Promise<void> {
    return this.pool.destroy();
  }
}
