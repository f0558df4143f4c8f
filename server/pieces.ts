// Changes to very many rows, a few at a time: each piece is a transaction of its own, and others are answered between two of them.
import { othersFirst } from "../core/turns.ts";
import type { Db } from "./store/database.ts";

/** So many are changed between two pauses: some ten milliseconds of work. */
const TOGETHER = 25;

export async function inPieces<T>(db: Db, all: readonly T[], work: (piece: readonly T[]) => void): Promise<void> {
  const piecemeal = db.transaction(work);
  for (let i = 0; i < all.length; i += TOGETHER) {
    if (i > 0) await othersFirst();
    piecemeal(all.slice(i, i + TOGETHER));
  }
}
