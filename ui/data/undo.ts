// The last thing that can be taken back, offered until it is used, dismissed or replaced.
import { makeStore } from "./store.ts";

export interface Undoable {
  sentence: string;
  /** Null where nothing was changed: it is only said. */
  undo: (() => Promise<unknown>) | null;
  /** The step that usually follows. */
  next?: { label: string; go: () => void } | undefined;
}

const last = makeStore<Undoable | null>(null);
export const offerUndo = (sentence: string, undo: Undoable["undo"], next?: Undoable["next"]): void => last.set({ sentence, undo, next });
export const dismissUndo = (): void => last.set(null);
export const useUndoable = (): Undoable | null => last.use();
