// Keys for the whole page: single letters for what is done often, arrows within lists and groups of answers. What a key reaches carries
// `data-key` with the key's name, so that a key does just what a tap there does.
import { useEffect } from "react";
import { makeStore } from "../data/store.ts";
import { SAY } from "../sentences/parts.ts";

/** Single letters can be turned off (WCAG 2.2, 2.1.4 Character Key Shortcuts). */
export const lettersOn = makeStore(true, "buvano.keys");

export const KEYS = {
  f: { reaches: "find", words: SAY.findInThisList },
  n: { reaches: "next", words: SAY.doWhatIsNextOn },
  c: { reaches: "choose", words: SAY.chooseSeveral },
  u: { reaches: "undo", words: SAY.undoWhatWasJustDone },
  b: { reaches: "back", words: SAY.goBack },
} as const;
type Letter = keyof typeof KEYS;
/** What can carry `data-key`. */
export type KeyName = (typeof KEYS)[Letter]["reaches"];
/** Digits lead to the tabs, in their order. */
const TAB_DIGITS = ["1", "2", "3", "4", "5"];

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.isContentEditable);
const visible = (element: HTMLElement): boolean => element.offsetParent !== null || element.getClientRects().length > 0;
/** The last one stands nearest: sheets open over the screen below. */
const reached = (name: string): HTMLElement | undefined =>
  Array.from(document.querySelectorAll<HTMLElement>(`[data-key="${name}"]`))
    .filter(visible)
    .at(-1);

function act(name: string): boolean {
  const element = reached(name);
  if (!element || element.getAttribute("aria-disabled") === "true") return false;
  if (element instanceof HTMLInputElement) element.focus();
  else element.click();
  return true;
}

/** Moves within a group of answers, choosing as it goes (WAI-ARIA Authoring Practices, "Radio Group Pattern"). */
function moveInRadios(from: Element, key: string): boolean {
  const group = from.closest('[role="radiogroup"]');
  if (!group) return false;
  const radios = Array.from(group.querySelectorAll<HTMLElement>('[role="radio"]')).filter(visible);
  const step = key === "ArrowDown" || key === "ArrowRight" ? 1 : key === "ArrowUp" || key === "ArrowLeft" ? -1 : 0;
  if (step === 0 || radios.length === 0) return false;
  const next = radios[(radios.indexOf(from as HTMLElement) + step + radios.length) % radios.length]!;
  next.focus();
  next.click();
  return true;
}

const DIRECTIONS: Record<string, readonly [number, number]> = {
  ArrowDown: [0, 1],
  ArrowUp: [0, -1],
  ArrowRight: [1, 0],
  ArrowLeft: [-1, 0],
};
/** Moves to the nearest entry in a direction, among entries that can be chosen. */
function moveInList(from: Element, key: string): boolean {
  const [dx, dy] = DIRECTIONS[key] ?? [0, 0];
  const at = from.getBoundingClientRect();
  const [x, y] = [at.left + at.width / 2, at.top + at.height / 2];
  let best: { element: HTMLElement; far: number } | undefined;
  for (const entry of Array.from(document.querySelectorAll<HTMLElement>("[data-choose]"))) {
    const element = entry.matches("a, [tabindex]") ? entry : entry.querySelector<HTMLElement>("a, [tabindex]");
    if (!element || element === from || !visible(element)) continue;
    const box = element.getBoundingClientRect();
    const [ex, ey] = [box.left + box.width / 2 - x, box.top + box.height / 2 - y];
    const [along, aside] = dx === 0 ? [ey * dy, Math.abs(ex)] : [ex * dx, Math.abs(ey)];
    if (along <= 4 || (dx !== 0 && aside > at.height / 2)) continue;
    const far = along + 3 * aside;
    if (!best || far < best.far) best = { element, far };
  }
  if (!best) return false;
  best.element.focus();
  best.element.scrollIntoView({ block: "nearest", inline: "nearest" });
  return true;
}

/** Listens for the whole page; `help` opens the list of keys, `tab` leads to a tab by its place. */
export function usePageKeys({ help, tab }: { help: () => void; tab: (place: number) => void }): void {
  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      const { key, target } = event;
      const from = target instanceof Element ? target : document.body;
      const handled = (): boolean => {
        if (key.startsWith("Arrow")) {
          if (from.matches('[role="radio"]')) return moveInRadios(from, key);
          return from.closest("[data-choose]") !== null && moveInList(from, key);
        }
        // Boxes and radios are chosen by the space bar (WAI-ARIA Authoring Practices, "Checkbox Pattern", "Radio Group Pattern"); lists of what can be
        // chosen hear it themselves.
        if (key === " " && from.matches('[role="checkbox"], [role="radio"], [role="switch"]') && from.closest("[data-choose]") === null) {
          if (from instanceof HTMLElement) from.click();
          return true;
        }
        if (!lettersOn.get()) return false;
        if (key === "?") {
          help();
          return true;
        }
        const place = TAB_DIGITS.indexOf(key);
        if (place >= 0) {
          tab(place);
          return true;
        }
        return Object.hasOwn(KEYS, key) && act(KEYS[key as Letter].reaches);
      };
      if (handled()) event.preventDefault();
    };
    document.addEventListener("keydown", down);
    return () => document.removeEventListener("keydown", down);
  }, [help, tab]);
}
