// Whether something has come into view, or near it; once it has, it stays so.
import { useEffect, useRef, useState, type RefObject } from "react";
import type { View } from "react-native";

/** Fetched a little before it is seen. */
const MARGIN = "300px";
const watched = new Map<Element, () => void>();
let observer: IntersectionObserver | undefined;

function watch(element: Element, seen: () => void): () => void {
  if (typeof IntersectionObserver === "undefined") {
    seen();
    return () => {};
  }
  observer ??= new IntersectionObserver(
    (entries) => {
      for (const { isIntersecting, target } of entries) if (isIntersecting) watched.get(target)?.();
    },
    { rootMargin: MARGIN },
  );
  watched.set(element, seen);
  observer.observe(element);
  return () => {
    watched.delete(element);
    observer?.unobserve(element);
  };
}

export function useInView(): [RefObject<View | null>, boolean] {
  const ref = useRef<View>(null);
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const element = ref.current as unknown;
    if (seen) return;
    if (typeof Element === "undefined" || !(element instanceof Element)) {
      setSeen(true);
      return;
    }
    return watch(element, () => setSeen(true));
  }, [seen]);
  return [ref, seen];
}
