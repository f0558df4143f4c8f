// Keeps a practice program's page in step with what is typed.
import { useEffect, useState } from "react";
import type { z } from "zod";
import { PracticeDrawing, type PracticeText } from "../../contract/practice.ts";
import { send, type ApiProblem } from "./api.ts";

export type Drawn = z.output<typeof PracticeDrawing>;

/** `key` changes when the program's fonts may have changed; null while it is closed. */
export function usePracticeDrawing(
  programId: number,
  typed: PracticeText,
  key: string | null,
): { drawing: Drawn | undefined; problem: ApiProblem | undefined } {
  const [drawing, setDrawing] = useState<Drawn>();
  const [problem, setProblem] = useState<ApiProblem>();
  const body = JSON.stringify(typed);
  useEffect(() => {
    if (key === null) return;
    let wanted = true;
    const timer = setTimeout(() => {
      send("POST", `/practice/${programId}/draw`, PracticeDrawing, JSON.parse(body)).then(
        (value) => {
          if (!wanted) return;
          setDrawing(value);
          setProblem(undefined);
        },
        (error: ApiProblem) => wanted && setProblem(error),
      );
    }, 80);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [programId, body, key]);
  return { drawing: key === null ? undefined : drawing, problem };
}
