// Editing a sheet: a change shows at once and is kept a moment later, as a step that can be undone.
import { useCallback, useEffect, useRef, useState } from "react";
import type { BenchLine, BenchStyle, SheetBody, SheetDetail, StyleFacts } from "../../contract/bench.ts";
import { plainLine, SheetDetail as SheetSchema } from "../../contract/bench.ts";
import { ApiProblem, send } from "./api.ts";
import { useSheet, type Answer } from "./hooks.ts";
import { makeStore } from "./store.ts";

/** So long after the last change it is kept. */
const REST_MS = 600;

export const styleKey = ({ sha256, face }: Pick<BenchStyle, "sha256" | "face">): string => `${sha256}#${face}`;
export const styleName = ({ family, style }: Pick<BenchStyle, "family" | "style">): string => `${family} ${style}`.trim();
const newId = (): string => Math.random().toString(36).slice(2, 12);

export const newLine = (text: string, style: BenchStyle): BenchLine => plainLine(newId(), text, style);
export const copyOf = (line: BenchLine): BenchLine => ({ ...line, id: newId() });
export const bare = ({ sha256, face, family, style }: BenchStyle): BenchStyle => ({ sha256, face, family, style });

export interface Editing {
  answer: Answer<SheetDetail>;
  body: SheetBody | undefined;
  facts: (style: Pick<BenchStyle, "sha256" | "face">) => StyleFacts | undefined;
  edit: (change: (body: SheetBody) => SheetBody) => void;
  editLine: (id: string, change: (line: BenchLine) => BenchLine) => void;
  step: (back: boolean) => void;
  /** Keeps what waits to be kept. */
  settle: () => Promise<void>;
  saving: boolean;
  problem: ApiProblem | null;
}

export function useSheetEditing(id: number): Editing {
  const answer = useSheet(id);
  const { data, mutate } = answer;
  const [draft, setDraft] = useState<SheetBody>();
  const [saving, setSaving] = useState(false);
  const [problem, setProblem] = useState<ApiProblem | null>(null);
  const held = useRef<{
    draft: SheetBody | undefined;
    timer: ReturnType<typeof setTimeout> | undefined;
    sending: Promise<void> | undefined;
    stepping: Promise<void> | undefined;
  }>({
    draft: undefined,
    timer: undefined,
    sending: undefined,
    stepping: undefined,
  });
  const latest = useRef(data);
  useEffect(() => {
    latest.current = data;
  }, [data]);

  const keep = useCallback(async (): Promise<void> => {
    const now = held.current;
    clearTimeout(now.timer);
    now.timer = undefined;
    // One after another: each step follows the one before.
    if (now.sending) await now.sending;
    const [body, known] = [now.draft, latest.current];
    if (!body || !known) return;
    setSaving(true);
    now.sending = send("POST", `/bench/sheets/${id}`, SheetSchema, { body, from: known.step })
      .then(
        async (detail) => {
          latest.current = detail;
          setProblem(null);
          if (now.draft === body) {
            now.draft = undefined;
            await mutate(detail, { revalidate: false });
            setDraft((shown) => (shown === body ? undefined : shown));
          }
        },
        async (error: unknown) => {
          if (!(error instanceof ApiProblem)) throw error;
          setProblem(error);
          if (error.code !== "sheet-changed") return;
          now.draft = undefined;
          setDraft(undefined);
          await mutate();
        },
      )
      .finally(() => {
        now.sending = undefined;
        setSaving(false);
      });
    await now.sending;
  }, [id, mutate]);

  const edit = useCallback(
    (change: (body: SheetBody) => SheetBody) => {
      const now = held.current;
      const from = now.draft ?? latest.current?.body;
      if (!from) return;
      now.draft = change(from);
      setDraft(now.draft);
      clearTimeout(now.timer);
      now.timer = setTimeout(() => void keep(), REST_MS);
    },
    [keep],
  );
  const editLine = useCallback(
    (lineId: string, change: (line: BenchLine) => BenchLine) =>
      edit((body) => ({ ...body, lines: body.lines.map((line) => (line.id === lineId ? change(line) : line)) })),
    [edit],
  );
  const step = useCallback(
    (back: boolean) => {
      const now = held.current;
      // Steps follow one another, as they were asked for.
      now.stepping = (now.stepping ?? Promise.resolve()).then(async () => {
        await keep();
        try {
          const detail = await send("POST", `/bench/sheets/${id}/step`, SheetSchema, { back });
          latest.current = detail;
          await mutate(detail, { revalidate: false });
          setProblem(null);
        } catch (error) {
          if (!(error instanceof ApiProblem)) throw error;
          setProblem(error);
        }
      });
    },
    [id, keep, mutate],
  );
  // What was changed last is kept when the page is left.
  useEffect(() => {
    const now = held.current;
    return () => {
      if (now.timer !== undefined) void keep();
    };
  }, [keep]);
  const facts = useCallback(
    (style: Pick<BenchStyle, "sha256" | "face">) => data?.styles.find((one) => styleKey(one) === styleKey(style)),
    [data],
  );
  return { answer, body: draft ?? data?.body, facts, edit, editLine, step, settle: keep, saving: saving || draft !== undefined, problem };
}

/** Characters used lately, and those kept at hand. */
const recent = makeStore<string[]>([], "buvano.signs.recent");
const kept = makeStore<string[]>([], "buvano.signs.kept");
const MOST_RECENT = 24;
export const useRecentSigns = (): string[] => recent.use();
export const useKeptSigns = (): string[] => kept.use();
export const signUsed = (text: string): void => recent.set([text, ...recent.get().filter((one) => one !== text)].slice(0, MOST_RECENT));
export const keepSign = (text: string, on: boolean): void =>
  kept.set(on ? [...kept.get().filter((one) => one !== text), text] : kept.get().filter((one) => one !== text));
