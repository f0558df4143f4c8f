// A page as it was left: what was open on it and how far it was scrolled, for whoever comes back to it or loads it again. Whoever comes by
// a way that leads there afresh finds it as it begins.
import { useLocalSearchParams, usePathname } from "expo-router";
import { useContext, useEffect, useRef, useState, type ReactNode, type RefObject } from "react";
import { leaveAt, leftAt, Page } from "../data/page.ts";
import { cameBackTo } from "../web/cameBack.ts";

/** So long after it appeared a page may still grow to where it was left. */
const GROWING_MS = 6000;

/** Around everything on a page. */
export function LeftAs({ children }: { children: ReactNode }) {
  const path = usePathname();
  const key = `${path} ${JSON.stringify(useLocalSearchParams())}`;
  const [back] = useState(() => cameBackTo(path));
  const [page, setPage] = useState({ key, back });
  // Another address on the same page is another page, come to afresh.
  if (page.key !== key) setPage({ key, back: false });
  return <Page.Provider value={page}>{children}</Page.Provider>;
}

/** Scrolls a page to where it was left, once it has grown so far; the person's own scrolling goes first. */
export function useLeftAt(view: RefObject<{ getScrollableNode(): unknown } | null>): void {
  const { key, back } = useContext(Page);
  const begun = useRef(false);
  useEffect(() => {
    const node = view.current?.getScrollableNode();
    if (!(node instanceof HTMLElement)) return;
    let wanted = back && !begun.current ? leftAt(key) : 0;
    begun.current = true;
    let at = node.scrollTop;
    const go = () => {
      // Again whenever it has grown: what appears above would move it on.
      if (wanted > 0) node.scrollTop = wanted;
    };
    const growing = new ResizeObserver(go);
    for (const child of Array.from(node.children)) growing.observe(child);
    const over = () => {
      wanted = 0;
      growing.disconnect();
    };
    const timer = setTimeout(over, GROWING_MS);
    const moved = () => (at = node.scrollTop);
    // A page that is gone no longer says where it was.
    const leave = () => leaveAt(key, at);
    node.addEventListener("scroll", moved, { passive: true });
    node.addEventListener("wheel", over, { passive: true });
    window.addEventListener("pointerdown", over);
    window.addEventListener("keydown", over);
    window.addEventListener("pagehide", leave);
    go();
    return () => {
      clearTimeout(timer);
      over();
      leave();
      node.removeEventListener("scroll", moved);
      node.removeEventListener("wheel", over);
      window.removeEventListener("pointerdown", over);
      window.removeEventListener("keydown", over);
      window.removeEventListener("pagehide", leave);
    };
  }, [view, key, back]);
}
