// What is chosen for a line's cut: a change shows at once and is kept a moment later.
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { BenchLine } from "../../contract/bench.ts";
import { LineCut } from "../../contract/cutting.ts";
import { USUAL_CUT, type CutSettings } from "../../core/cutting/settings.ts";
import type { CutWanted } from "../work/cut-messages.ts";
import { ApiProblem, send } from "./api.ts";
import { useLineCut, type Answer } from "./hooks.ts";
import { makeStore } from "./store.ts";
import { SAY } from "../sentences/parts.ts";

const REST_MS = 500;

export interface CutEditing {
  answer: Answer<LineCut>;
  settings: CutSettings | undefined;
  edit: (change: (settings: CutSettings) => CutSettings) => void;
  /** Keeps what waits to be kept. */
  settle: () => Promise<void>;
  problem: ApiProblem | null;
}
export function useCutEditing(sheetId: number, lineId: string): CutEditing {
  const answer = useLineCut(sheetId, lineId);
  const { data, mutate } = answer;
  const [draft, setDraft] = useState<CutSettings>();
  const [problem, setProblem] = useState<ApiProblem | null>(null);
  const held = useRef<{ draft: CutSettings | undefined; timer: ReturnType<typeof setTimeout> | undefined; last: Promise<void> }>({
    draft: undefined,
    timer: undefined,
    last: Promise.resolve(),
  });
  const kept = useMemo(() => data && (data.settings ?? USUAL_CUT), [data]);
  const settle = useCallback((): Promise<void> => {
    const now = held.current;
    clearTimeout(now.timer);
    now.timer = undefined;
    // One after another: the last choice stands.
    now.last = now.last.then(async () => {
      const settings = now.draft;
      if (!settings) return;
      try {
        const looked = await send("POST", `/bench/sheets/${sheetId}/cuts/${lineId}`, LineCut, settings);
        setProblem(null);
        if (now.draft === settings) now.draft = undefined;
        await mutate(looked, { revalidate: false });
        setDraft((shown) => (shown === settings ? undefined : shown));
      } catch (error) {
        if (!(error instanceof ApiProblem)) throw error;
        setProblem(error);
      }
    });
    return now.last;
  }, [sheetId, lineId, mutate]);
  const edit = useCallback(
    (change: (settings: CutSettings) => CutSettings) => {
      const now = held.current;
      const from = now.draft ?? kept;
      if (!from) return;
      now.draft = change(from);
      setDraft(now.draft);
      clearTimeout(now.timer);
      now.timer = setTimeout(() => void settle(), REST_MS);
    },
    [kept, settle],
  );
  useEffect(() => {
    const now = held.current;
    return () => {
      if (now.timer !== undefined) void settle();
    };
  }, [settle]);
  return { answer, settings: draft ?? kept, edit, settle, problem };
}

export function wantedCut(line: BenchLine, settings: CutSettings): CutWanted {
  const { text, letterSpacing, lineSpacing, direction } = line;
  const layers = line.layers.map(({ style, ...layer }) => ({ ...layer, sha256: style.sha256, face: style.face }));
  return { text, letterSpacing, lineSpacing, direction, layers, settings };
}

/** What a cut that was saved is called. */
export const cutWords = ({ colours, families, at }: { colours: number; families: readonly string[]; at: string }): string =>
  SAY.cutSheetColoursFromFamilies(colours, families.join(" and "), at);

/** Sheets of material somebody keeps at hand, by name. */
export interface KeptSheet {
  name: string;
  widthMm: number;
  heightMm: number;
}
const keptSheets = makeStore<KeptSheet[]>([], "buvano.cut.sheets");
export const useKeptSheets = (): KeptSheet[] => keptSheets.use();
export const keepSheet = (sheet: KeptSheet): void =>
  keptSheets.set([...keptSheets.get().filter(({ name }) => name !== sheet.name), sheet].sort((a, b) => a.name.localeCompare(b.name)));
export const forgetSheet = (name: string): void => keptSheets.set(keptSheets.get().filter((one) => one.name !== name));
