// A match being worked on: what is framed, what is read in it, the answer.
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { MatchReading, MatchView, type MatchAsked } from "../../contract/matching.ts";
import { ApiProblem, send } from "./api.ts";
import { useMatch, type Answer } from "./hooks.ts";

export type Corner = MatchAsked["frame"][number];
export type Frame = MatchAsked["frame"];

/** So long after the last change the frame is read again. */
const REST_MS = 350;

export interface MatchEditing {
  answer: Answer<MatchView>;
  asked: MatchAsked | undefined;
  change: (part: Partial<MatchAsked>) => void;
  reading: MatchReading | undefined;
  /** What was read last is of an earlier frame. */
  stale: boolean;
  /** Why nothing could be read. */
  problem: ApiProblem | null;
}

const whole = (width: number, height: number): Frame => {
  const [x, y] = [Math.round(width * 0.1), Math.round(height * 0.3)];
  return [
    [x, y],
    [width - x, y],
    [width - x, height - y],
    [x, height - y],
  ];
};

export function useMatchEditing(id: number): MatchEditing {
  const answer = useMatch(id);
  const view = answer.data;
  const begun = useMemo((): MatchAsked | undefined => {
    if (!view) return undefined;
    return (
      view.asked ?? {
        frame: view.lines[0] ?? whole(view.width, view.height),
        strokes: [],
        colour: null,
        words: "",
        jobId: null,
        onlyCleared: false,
      }
    );
  }, [view]);
  const [draft, setDraft] = useState<MatchAsked>();
  const asked = draft ?? begun;
  const change = useCallback(
    (part: Partial<MatchAsked>) => setDraft((now) => ((now ?? begun) ? { ...(now ?? begun)!, ...part } : now)),
    [begun],
  );
  const [reading, setReading] = useState<{ of: string; value: MatchReading | undefined; problem: ApiProblem | null }>();
  const wanted = asked && JSON.stringify([asked.frame, asked.strokes, asked.colour, asked.words]);
  const latest = useRef(wanted);
  useEffect(() => {
    latest.current = wanted;
    if (!asked || wanted === undefined || reading?.of === wanted) return;
    const timer = setTimeout(
      () => {
        const done = (value: MatchReading | undefined, problem: ApiProblem | null) => {
          if (latest.current === wanted) setReading({ of: wanted, value, problem });
        };
        send("POST", `/matches/${id}/read`, MatchReading, asked).then(
          (value) => done(value, null),
          (error: unknown) => {
            if (!(error instanceof ApiProblem)) throw error;
            done(undefined, error);
          },
        );
      },
      reading === undefined ? 0 : REST_MS,
    );
    return () => clearTimeout(timer);
  }, [wanted, asked, id, reading]);
  return {
    answer,
    asked,
    change,
    reading: reading?.value,
    stale: reading?.of !== wanted,
    problem: reading && reading.of === wanted ? reading.problem : null,
  };
}

/** Words with the letter at a place, spaces left out of the counting, replaced. */
export function withLetter(words: string, at: number, letter: string): string {
  let seen = -1;
  return [...words].map((one) => (/\s/u.test(one) || ++seen !== at ? one : letter)).join("");
}
