// What was open on a page and how far it was scrolled, for whoever comes back to it or loads it again.
import { createContext, useCallback, useContext, useState } from "react";
import { makeStore, type Store } from "./store.ts";

/** What is kept of so many pages and their parts; the oldest is forgotten first. */
const MOST_KEPT = 300;

type Kept<T> = Readonly<Record<string, T>>;
const opened = makeStore<Kept<string>>({}, "buvano.opened", "tab");
const scrolled = makeStore<Kept<number>>({}, "buvano.scrolled", "tab");
function keep<T>(store: Store<Kept<T>>, key: string, value: T | undefined): void {
  const others = Object.entries(store.get()).filter(([other]) => other !== key);
  store.set(Object.fromEntries(value === undefined ? others : [...others, [key, value] as const].slice(-MOST_KEPT)));
}

/** The page, and whether it was come back to; parts that are shown outside a page begin as they begin. */
export const Page = createContext({ key: "", back: false });

/** Which of several answers is open, by name; none when it is undefined. */
export function useOpened<K extends string>(part: string): [K | undefined, (open: K | undefined) => void] {
  const { key, back } = useContext(Page);
  const name = `${key} ${part}`;
  const [open, setOpen] = useState(() => (back ? (opened.get()[name] as K | undefined) : undefined));
  const put = useCallback(
    (next: K | undefined) => {
      setOpen(next);
      keep(opened, name, next);
    },
    [name],
  );
  return [open, put];
}
/** Whether a part is open. */
export function useOpen(part: string): [boolean, (open: boolean) => void] {
  const [open, put] = useOpened<"open">(part);
  return [open === "open", useCallback((next: boolean) => put(next ? "open" : undefined), [put])];
}

/** Where a page was left, in pixels from its top. */
export const leftAt = (key: string): number => scrolled.get()[key] ?? 0;
export const leaveAt = (key: string, pixels: number): void => keep(scrolled, key, pixels > 0 ? pixels : undefined);
