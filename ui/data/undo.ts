// The last thing that can be taken back, offered until it is used, dismissed or replaced.
import { makeStore } from "./store.ts";

export interface Undoable {
  sentence: string;
  undo: () => Promise<unknown>;
}

const last = makeStore<Undoable | null>(null);
export const offerUndo = (sentence: string, undo: () => Promise<unknown>): void => last.set({ sentence, undo });
export const dismissUndo = (): void => last.set(null);
export const useUndoable = (): Undoable | null => last.use();
