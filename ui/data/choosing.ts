// What is chosen to be acted on together, one set for each kind of list; null while nobody chooses.
import { useMemo } from "react";
import { makeStore, type Store } from "./store.ts";

interface Chosen {
  keys: ReadonlySet<string>;
  /** Where a stretch begins that is chosen by its other end. */
  anchor: string | undefined;
}

export interface Choosing {
  chosen: Chosen | null;
  has: (key: string) => boolean;
  /** Begins to choose, with nothing or with one. */
  begin: (key?: string) => void;
  toggle: (key: string) => void;
  /** From the one chosen last to this one, in the order of the list; `keys` are those between, ends included. */
  stretch: (key: string, keys: readonly string[]) => void;
  put: (keys: Iterable<string>) => void;
  end: () => void;
}

export type ChosenKind = "families" | "parcels" | "styles" | "fonts" | "cells";
const stores: Record<ChosenKind, Store<Chosen | null>> = {
  families: makeStore<Chosen | null>(null),
  parcels: makeStore<Chosen | null>(null),
  styles: makeStore<Chosen | null>(null),
  fonts: makeStore<Chosen | null>(null),
  cells: makeStore<Chosen | null>(null),
};

const NOTHING: Chosen = { keys: new Set(), anchor: undefined };

export function useChoosing(kind: ChosenKind): Choosing {
  const store = stores[kind];
  const chosen = store.use();
  // What can be done stays the same while what is chosen changes.
  const hands = useMemo((): Omit<Choosing, "chosen"> => {
    const now = () => store.get() ?? NOTHING;
    /** Whoever begins with another kind of list is done with the one before. */
    const others = () => {
      if (store.get()) return;
      for (const other of Object.values(stores)) if (other !== store && other.get()) other.set(null);
    };
    return {
      has: (key) => now().keys.has(key),
      begin: (key) => {
        others();
        store.set({ keys: new Set([...now().keys, ...(key === undefined ? [] : [key])]), anchor: key ?? now().anchor });
      },
      toggle: (key) => {
        const keys = new Set(now().keys);
        if (!keys.delete(key)) keys.add(key);
        store.set({ keys, anchor: key });
      },
      stretch: (key, keys) => store.set({ keys: new Set([...now().keys, ...keys]), anchor: key }),
      put: (keys) => {
        others();
        store.set({ keys: new Set(keys), anchor: now().anchor });
      },
      end: () => store.set(null),
    };
  }, [store]);
  return useMemo(() => ({ ...hands, chosen }), [hands, chosen]);
}

/** How many are chosen; undefined while nobody chooses. */
export const useChosenCount = (kind: ChosenKind): number | undefined => stores[kind].use()?.keys.size;

/** What was chosen was acted on, wherever it was chosen. */
export function endChoosing(): void {
  for (const store of Object.values(stores)) if (store.get()) store.set(null);
}
