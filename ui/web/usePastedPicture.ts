// A picture pasted anywhere on the page.
import { useEffect } from "react";

export function usePastedPicture(onPicture: (file: File) => void): void {
  useEffect(() => {
    const pasted = (event: ClipboardEvent) => {
      const file = Array.from(event.clipboardData?.files ?? []).find(({ type }) => type.startsWith("image/"));
      if (!file) return;
      event.preventDefault();
      onPicture(file);
    };
    document.addEventListener("paste", pasted);
    return () => document.removeEventListener("paste", pasted);
  }, [onPicture]);
}
