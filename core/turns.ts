// Long work on a thread that others need too is done in pieces, and whoever asks meanwhile is answered between two of them.

/** Lets everything that waits go first. */
export const othersFirst = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

/** Does something small for each of very many, `together` of them between two pauses. */
export async function inTurns<T>(all: readonly T[], work: (one: T) => void, together = 500): Promise<void> {
  for (const [i, one] of all.entries()) {
    if (i > 0 && i % together === 0) await othersFirst();
    work(one);
  }
}

/** Does work that pauses between its pieces without a pause: for little of it. */
export function atOnce<T>(work: Generator<void, T>): T {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}
