// Whether the page was opened by Enter on a link, so that the focus goes where it leads.
/** A page is there long before. */
const SOON_MS = 1500;

let enteredAt = -Infinity;
if (typeof document !== "undefined")
  document.addEventListener(
    "keydown",
    (event) => {
      // Tabs lead to a list, which is walked from where the focus is.
      const link =
        event.target instanceof HTMLElement &&
        event.target.closest("a") !== null &&
        event.target.closest("nav, [role=navigation]") === null;
      enteredAt = event.key === "Enter" && link ? performance.now() : -Infinity;
    },
    { capture: true },
  );

/** True once for each link that was opened so. */
export function openedByKey(): boolean {
  const soon = performance.now() - enteredAt < SOON_MS;
  enteredAt = -Infinity;
  return soon;
}
