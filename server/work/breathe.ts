// For worker threads that open many fonts in one go: what an opened font takes outside JavaScript's own memory is given back once the
// collector has been by and the loop has turned. The collector does not see that memory, so it is asked to.
import { setFlagsFromString } from "node:v8";
import { runInNewContext } from "node:vm";

setFlagsFromString("--expose-gc");
const collect = runInNewContext("gc") as () => void;
/** So many bytes of fonts are opened between two pauses. */
const BYTES_BETWEEN = 60_000_000;
let opened = 0;

/** Counts what is opened, and pauses when it is time. */
export async function breathe(bytes: number): Promise<void> {
  opened += bytes;
  if (opened < BYTES_BETWEEN) return;
  opened = 0;
  collect();
  await new Promise((resolve) => setTimeout(resolve, 1));
}
