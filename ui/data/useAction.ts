// Runs something that takes a moment: busy while it runs, its problem when it fails.
import { useCallback, useState } from "react";
import { ApiProblem } from "./api.ts";

export interface Action<A extends unknown[]> {
  run: (...args: A) => void;
  busy: boolean;
  problem: ApiProblem | null;
  clear: () => void;
}

export function useAction<A extends unknown[]>(work: (...args: A) => Promise<unknown>): Action<A> {
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<ApiProblem | null>(null);
  const run = useCallback(
    (...args: A) => {
      setBusy(true);
      setProblem(null);
      work(...args)
        .catch((error: unknown) => {
          if (!(error instanceof ApiProblem)) throw error;
          setProblem(error);
        })
        .finally(() => setBusy(false));
    },
    [work],
  );
  return { run, busy, problem, clear: () => setProblem(null) };
}
