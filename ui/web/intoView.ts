// What answers somebody's doing is scrolled into view when it appears.
import { useEffect, useRef, type RefObject } from "react";
import type { View } from "react-native";

/** Give the ref to what appears; it is moved no further than it must be. */
export function useIntoView(): RefObject<View | null> {
  const place = useRef<View | null>(null);
  useEffect(() => {
    const element = place.current as unknown as { scrollIntoView?: (how: object) => void } | null;
    element?.scrollIntoView?.({ block: "nearest" });
  }, []);
  return place;
}
