// Whether a page is come to by going back, or by loading it again, and not by a way that leads there afresh. What is asked is the way to
// the page that is shown, however late it appears and however often its screen is made.

/** Whether the next page to appear is gone back to. */
let goesBack = false;
let shown: { path: string; back: boolean } | undefined;
if (typeof window !== "undefined" && typeof performance.getEntriesByType === "function") {
  window.addEventListener("popstate", () => {
    // Of a step back of the app's own the browser tells once the page has appeared.
    if (window.location.pathname !== shown?.path) goesBack = true;
  });
  const [loading] = performance.getEntriesByType("navigation") as PerformanceNavigationTiming[];
  goesBack = loading?.type === "reload" || loading?.type === "back_forward";
}

/** Said before the app itself goes back. */
export function goingBack(): void {
  goesBack = true;
}
/** Asked by a page when it appears, with its path, and by the app of every page; asked again of the same page, it answers the same. */
export function cameBackTo(path: string): boolean {
  if (shown?.path !== path) {
    shown = { path, back: goesBack };
    goesBack = false;
  }
  return shown.back;
}
