// The first steps: shown until they are done, or somebody would rather find their own way.
import { makeStore } from "./store.ts";

export const startSkipped = makeStore(false, "buvano.start-skipped");
