// Waiting for a library that another program writes to at the moment.
import { diskFault } from "../core/disk/faults.ts";

/** How long another program is waited for, and how often it is tried again. */
interface Patience {
  forMs: number;
  everyMs: number;
}
const USUAL: Patience = { forMs: 25_000, everyMs: 200 };

/** Does something, again and again for a while as long as the library is busy. What else goes wrong is thrown at once. */
export async function patiently<T>(work: () => T, { forMs, everyMs }: Patience = USUAL): Promise<T> {
  for (const until = performance.now() + forMs; ;) {
    try {
      return work();
    } catch (error) {
      if (diskFault(error)?.problem.code !== "library-busy" || performance.now() > until) throw error;
      await new Promise((resolve) => setTimeout(resolve, everyMs));
    }
  }
}
