// Whether a screen is come to by going back, or by loading the page again, and not by a way that leads there afresh.

/** So long after going back the screen that follows has appeared. */
const SOON_MS = 6000;

/** The browser tells of a step back of the app's own only after the screen has appeared. */
const LATE_MS = 1500;

/** A screen that had to wait for its code is made twice. */
const SAME_MS = 400;

let wentBackAt = -Infinity;
let askedAt = -Infinity;
let reloaded = false;
if (typeof window !== "undefined" && typeof performance.getEntriesByType === "function") {
  window.addEventListener("popstate", () => {
    if (performance.now() - askedAt > LATE_MS) wentBackAt = performance.now();
  });
  const [loading] = performance.getEntriesByType("navigation") as PerformanceNavigationTiming[];
  reloaded = loading?.type === "reload" || loading?.type === "back_forward";
}

/** Said before the app itself goes back. */
export function goingBack(): void {
  wentBackAt = performance.now();
}
let answered: { at: number; was: boolean } | undefined;
/** Asked by a screen when it appears; asked again in the same moment, it answers the same. */
export function cameBack(): boolean {
  const now = performance.now();
  if (answered && now - answered.at < SAME_MS) return answered.was;
  const was = reloaded || now - wentBackAt < SOON_MS;
  reloaded = false;
  wentBackAt = -Infinity;
  if (was) askedAt = now;
  answered = { at: now, was };
  return was;
}
