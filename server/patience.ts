// Waiting for a library that another program writes to at the moment.
import { diskFault } from "../core/disk/faults.ts";

const PATIENCE_MS = 25_000;
const EVERY_MS = 200;

/** Does something, again and again for a while as long as the library is busy. What else goes wrong is thrown at once. */
export async function patiently<T>(work: () => T): Promise<T> {
  for (const until = performance.now() + PATIENCE_MS; ;) {
    try {
      return work();
    } catch (error) {
      if (diskFault(error)?.problem.code !== "library-busy" || performance.now() > until) throw error;
      await new Promise((resolve) => setTimeout(resolve, EVERY_MS));
    }
  }
}
