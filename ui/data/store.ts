// A value shared by screens, outside the server's knowledge.
import { useSyncExternalStore } from "react";

export interface Store<T> {
  get(): T;
  set(value: T): void;
  use(): T;
}

/** With `key`, the value is remembered by this browser, or by its tab alone; what cannot be read back counts as never set. */
export function makeStore<T>(initial: T, key?: string, by: "browser" | "tab" = "browser"): Store<T> {
  const memory = (): Storage | undefined => (by === "tab" ? globalThis.sessionStorage : globalThis.localStorage);
  let value = initial;
  if (key) {
    try {
      const kept = memory()?.getItem(key);
      if (kept != null) value = JSON.parse(kept) as T;
    } catch {
      // Private windows may forbid it; the initial value serves.
    }
  }
  const listeners = new Set<() => void>();
  const store: Store<T> = {
    get: () => value,
    set(next) {
      value = next;
      if (key) {
        try {
          memory()?.setItem(key, JSON.stringify(next));
        } catch {
          // As above.
        }
      }
      for (const listener of listeners) listener();
    },
    use: () =>
      useSyncExternalStore(
        (listener) => {
          listeners.add(listener);
          return () => listeners.delete(listener);
        },
        store.get,
        store.get,
      ),
  };
  return store;
}
