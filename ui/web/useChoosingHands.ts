// Choosing by hand in a list of any kind: a long press or Ctrl-click begins, a tap goes on, Shift takes a stretch; on the keyboard Space
// chooses, Ctrl+A takes all, Escape ends. What can be chosen carries `data-choose` with its key.
import { useEffect, useRef, useState } from "react";
import type { Choosing } from "../data/choosing.ts";

const LONG_PRESS_MS = 450;
/** A finger that moves further means to scroll. */
const STILL_PX = 10;

const keyAt = (target: EventTarget | null): string | undefined =>
  (target instanceof Element ? target.closest<HTMLElement>("[data-choose]") : null)?.dataset["choose"];

interface Hands {
  choosing: Choosing;
  /** All keys of the list in order, where they are known; a stretch may reach over rows that are not drawn. */
  order: () => Promise<readonly string[]>;
  all: () => void;
}

/** Listens within the element the ref it returns is given to. */
export function useChoosingHands({ choosing, order, all }: Hands): (node: unknown) => void {
  const [node, setNode] = useState<unknown>(null);
  const now = useRef({ choosing, order, all });
  now.current = { choosing, order, all };
  useEffect(() => {
    const root = node as HTMLElement | null;
    if (!root) return;
    let press: { timer: ReturnType<typeof setTimeout>; x: number; y: number } | undefined;
    // The click that follows a long press is not another choice.
    let spent = false;
    const letGo = () => {
      if (press) clearTimeout(press.timer);
      press = undefined;
    };
    const pick = (key: string, stretches: boolean) => {
      const { choosing } = now.current;
      const anchor = choosing.chosen?.anchor;
      if (!stretches || anchor === undefined) return choosing.chosen ? choosing.toggle(key) : choosing.begin(key);
      void now.current.order().then((keys) => {
        const [from, to] = [keys.indexOf(anchor), keys.indexOf(key)];
        if (from < 0 || to < 0) choosing.toggle(key);
        else choosing.stretch(key, keys.slice(Math.min(from, to), Math.max(from, to) + 1));
      });
    };
    const down = (event: PointerEvent) => {
      letGo();
      spent = false;
      const key = keyAt(event.target);
      if (key === undefined || event.button !== 0 || now.current.choosing.chosen) return;
      const timer = setTimeout(() => {
        press = undefined;
        spent = true;
        now.current.choosing.begin(key);
      }, LONG_PRESS_MS);
      press = { timer, x: event.clientX, y: event.clientY };
    };
    const move = (event: PointerEvent) => {
      if (press && Math.hypot(event.clientX - press.x, event.clientY - press.y) > STILL_PX) letGo();
    };
    const click = (event: MouseEvent) => {
      const key = keyAt(event.target);
      const taken =
        spent || (key !== undefined && (now.current.choosing.chosen !== null || event.ctrlKey || event.metaKey || event.shiftKey));
      if (!taken) return;
      event.preventDefault();
      event.stopPropagation();
      if (!spent && key !== undefined) pick(key, event.shiftKey);
      spent = false;
    };
    const menu = (event: Event) => {
      // A long press on a link would open the browser's menu over what it has just chosen.
      if (spent || press) event.preventDefault();
    };
    const keyDown = (event: KeyboardEvent) => {
      const { choosing, all } = now.current;
      const typing =
        event.target instanceof HTMLInputElement ||
        event.target instanceof HTMLTextAreaElement ||
        event.target instanceof HTMLSelectElement;
      if (typing) return;
      if (event.key === "Escape" && choosing.chosen) return choosing.end();
      if ((event.ctrlKey || event.metaKey) && event.key === "a" && choosing.chosen) {
        event.preventDefault();
        return all();
      }
      const key = keyAt(event.target);
      if (key === undefined) return;
      if (event.key === " ") {
        event.preventDefault();
        pick(key, event.shiftKey);
      } else if (event.key === "Enter" && choosing.chosen) {
        event.preventDefault();
        event.stopPropagation();
        pick(key, event.shiftKey);
      }
    };
    root.addEventListener("pointerdown", down);
    root.addEventListener("pointermove", move);
    root.addEventListener("pointerup", letGo);
    root.addEventListener("pointercancel", letGo);
    root.addEventListener("click", click, true);
    root.addEventListener("contextmenu", menu);
    root.addEventListener("keydown", keyDown, true);
    return () => {
      letGo();
      root.removeEventListener("pointerdown", down);
      root.removeEventListener("pointermove", move);
      root.removeEventListener("pointerup", letGo);
      root.removeEventListener("pointercancel", letGo);
      root.removeEventListener("click", click, true);
      root.removeEventListener("contextmenu", menu);
      root.removeEventListener("keydown", keyDown, true);
    };
  }, [node]);
  return setNode;
}
