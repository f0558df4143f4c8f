// Once the first screen stands, fetches the other screens' code quietly, so that a tap finds it there.

const AFTER_MS = 1500;

export function warmUp(): void {
  if (typeof fetch === "undefined" || typeof document === "undefined") return;
  setTimeout(() => {
    void (async () => {
      try {
        const files = (await (await fetch("/_expo/screens.json")).json()) as string[];
        for (const file of files) await fetch(file, { priority: "low" });
      } catch {
        // They are fetched when they are wanted.
      }
    })();
  }, AFTER_MS);
}
