// Changes to very many rows, a few at a time: each piece is a transaction of its own, and others are answered between two of them. Whoever
// has a page open is told how far it is, once it takes long enough to be wondered at.
import { othersFirst } from "../core/turns.ts";
import type { EventHub } from "./events.ts";
import type { Db } from "./store/database.ts";

/** So many are changed between two pauses: some ten milliseconds of work. */
const TOGETHER = 25;
/** What is done sooner is done before anybody wonders; later, how far it is is told about four times a second. */
const PATIENCE_MS = 400;
const EVERY_MS = 250;

interface Uses {
  db: Db;
  events: Pick<EventHub, "tell">;
}

export async function inPieces<T>({ db, events }: Uses, all: readonly T[], work: (piece: readonly T[]) => void): Promise<void> {
  const piecemeal = db.transaction(work);
  let due = performance.now() + PATIENCE_MS;
  let told = false;
  const tell = (done: number) => events.tell({ topic: "acting", done, total: all.length });
  try {
    for (let i = 0; i < all.length; i += TOGETHER) {
      if (i > 0) await othersFirst();
      piecemeal(all.slice(i, i + TOGETHER));
      if (performance.now() < due) continue;
      due = performance.now() + EVERY_MS;
      told = true;
      tell(Math.min(i + TOGETHER, all.length));
    }
  } finally {
    // Done, or stopped by a fault: nothing is going on any more.
    if (told) tell(all.length);
  }
}
