// A value as it was once it stayed the same for a moment: what is typed is asked about when the typing rests.
import { useEffect, useState } from "react";

export function useSettled<T>(value: T, ms = 200): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return settled;
}
