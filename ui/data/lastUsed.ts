// What was looked at last of each kind: shown again beside its list when nothing else is asked for.
import { useEffect } from "react";
import { makeStore, type Store } from "./store.ts";

export type Kept = "family" | "device" | "job" | "sheet";
const stores: Record<Kept, Store<number | null>> = {
  family: makeStore<number | null>(null, "buvano.last-family"),
  device: makeStore<number | null>(null, "buvano.last-device"),
  job: makeStore<number | null>(null, "buvano.last-job"),
  sheet: makeStore<number | null>(null, "buvano.last-sheet"),
};
export const useLastUsed = (kind: Kept): number | null => stores[kind].use();
/** Remembers it once it is known to be there; what is gone is forgotten. */
export function useRemember(kind: Kept, id: number, known: { data?: unknown; error?: unknown }): void {
  const [there, gone] = [known.data !== undefined, known.error !== undefined];
  useEffect(() => {
    if (gone && stores[kind].get() === id) stores[kind].set(null);
    else if (there) stores[kind].set(id);
  }, [kind, id, there, gone]);
}
