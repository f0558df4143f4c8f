// A value shared by screens, outside the server's knowledge.
import { useSyncExternalStore } from "react";

export interface Store<T> {
  get(): T;
  set(value: T): void;
  use(): T;
}

/** With `key`, the value is remembered by this browser; what cannot be read back counts as never set. */
export function makeStore<T>(initial: T, key?: string): Store<T> {
  let value = initial;
  if (key) {
    try {
      const kept = globalThis.localStorage?.getItem(key);
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
          globalThis.localStorage?.setItem(key, JSON.stringify(next));
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
