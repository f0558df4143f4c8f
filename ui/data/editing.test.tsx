// Editing of sheets, cuts and matches: a change shows at once, is kept once it rests, and nothing that was changed meanwhile is lost.
import { act, renderHook } from "@testing-library/react-native";
import type { ReactNode } from "react";
import { SWRConfig } from "swr";
import { copyOf, newLine, useSheetEditing } from "./bench.ts";
import { useCutEditing, wantedCut } from "./cut.ts";
import { useMatchEditing, withLetter } from "./match.ts";
import { USUAL_CUT } from "../../core/cutting/settings.ts";

/** A request that waits for its answer. */
interface Asked {
  method: string;
  path: string;
  body: unknown;
  answer: (status: number, body: unknown) => Promise<void>;
}
let waiting: Asked[] = [];
const next = (path: string): Asked => {
  const at = waiting.findIndex((one) => one.path === path);
  if (at < 0) throw new Error(`${path} was not asked for; ${waiting.map((one) => one.path).join(" ")} were.`);
  return waiting.splice(at, 1)[0]!;
};
const asked = (): string[] => waiting.map(({ method, path }) => `${method} ${path}`);

beforeEach(() => {
  waiting = [];
  jest.useFakeTimers();
  globalThis.fetch = ((path: string, init?: RequestInit) =>
    new Promise((resolve) => {
      waiting.push({
        method: init?.method ?? "GET",
        path: path.replace("/api", ""),
        body: init?.body === undefined ? undefined : JSON.parse(init.body as string),
        answer: (status, body) =>
          act(async () => {
            resolve({ ok: status < 400, status, json: async () => body, text: async () => JSON.stringify(body) } as Response);
            await jest.advanceTimersByTimeAsync(0);
          }),
      });
    })) as typeof fetch;
});
afterEach(() => {
  jest.useRealTimers();
});

const fresh = {
  wrapper: ({ children }: { children: ReactNode }) => (
    <SWRConfig value={{ provider: () => new Map(), dedupingInterval: 0, revalidateOnFocus: false }}>{children}</SWRConfig>
  ),
};
const rest = (ms: number) => act(async () => void (await jest.advanceTimersByTimeAsync(ms)));
const refusal = (code: string) => ({ type: "x", title: "x", status: 409, detail: `It was refused: ${code}.`, code, next: "Try again." });

describe("a sheet", () => {
  const style = { sha256: "a".repeat(64), face: 0, family: "Almanac Field", style: "Regular" };
  const line = { ...newLine("Peas", style), id: "one" };
  const detail = (name: string, step: number) => ({
    id: 7,
    step,
    body: { name, jobId: null, ground: "#ffffff", lines: [line] },
    jobName: null,
    changedAt: "2026-01-01T00:00:00.000Z",
    canUndo: step > 0,
    canRedo: false,
    styles: [],
    decisions: [],
    cuts: [],
  });
  const opened = async () => {
    const { result, unmount } = await renderHook(() => useSheetEditing(7), fresh);
    await rest(0);
    await next("/bench/sheets/7").answer(200, detail("Market", 0));
    return { result, unmount };
  };
  const rename = (name: string) => (body: { name: string }) => ({ ...body, name }) as never;

  test("shows a change at once and sends it once it rests, as the step after the one that is known", async () => {
    const { result } = await opened();
    expect(result.current.body?.name).toBe("Market");
    await act(async () => result.current.edit(rename("Market d")));
    await rest(300);
    await act(async () => result.current.edit(rename("Market day")));
    expect([result.current.body?.name, result.current.saving, asked()]).toEqual(["Market day", true, []]);
    await rest(600);
    const sent = next("/bench/sheets/7");
    expect([sent.method, sent.body]).toEqual(["POST", { body: detail("Market day", 0).body, from: 0 }]);
    await sent.answer(200, detail("Market day", 1));
    expect([result.current.body?.name, result.current.saving, asked()]).toEqual(["Market day", false, []]);
  });

  test("keeps what is changed while the change before is on its way, and sends it after that", async () => {
    const { result } = await opened();
    await act(async () => result.current.edit(rename("First")));
    await rest(600);
    await act(async () => result.current.edit(rename("Second")));
    await rest(600);
    // One after another: the second follows the step the first made.
    expect(asked()).toEqual(["POST /bench/sheets/7"]);
    await next("/bench/sheets/7").answer(200, detail("First", 1));
    expect(result.current.body?.name).toBe("Second");
    const second = next("/bench/sheets/7");
    expect(second.body).toMatchObject({ body: { name: "Second" }, from: 1 });
    await second.answer(200, detail("Second", 2));
    expect([result.current.body?.name, result.current.saving]).toEqual(["Second", false]);
  });

  test("that was changed elsewhere shows what stands there, and says so", async () => {
    const { result } = await opened();
    await act(async () => result.current.edit(rename("Mine")));
    await rest(600);
    await next("/bench/sheets/7").answer(409, refusal("sheet-changed"));
    await next("/bench/sheets/7").answer(200, detail("Theirs", 4));
    expect([result.current.body?.name, result.current.problem?.code]).toEqual(["Theirs", "sheet-changed"]);
  });

  test("keeps a draft that was refused for another reason, and tries it again with the next change", async () => {
    const { result } = await opened();
    await act(async () => result.current.edit(rename("Mine")));
    await rest(600);
    await next("/bench/sheets/7").answer(507, refusal("disk-full"));
    expect([result.current.body?.name, result.current.problem?.code]).toEqual(["Mine", "disk-full"]);
    await act(async () => result.current.edit((body) => ({ ...body, ground: "#f4efe6" })));
    await rest(600);
    const again = next("/bench/sheets/7");
    expect(again.body).toMatchObject({ body: { name: "Mine", ground: "#f4efe6" }, from: 0 });
    await again.answer(200, { ...detail("Mine", 1), body: { ...detail("Mine", 1).body, ground: "#f4efe6" } });
    expect(result.current.problem).toBeNull();
  });

  test("is kept before a step back is taken, and steps follow one another", async () => {
    const { result } = await opened();
    await act(async () => result.current.editLine("one", (one) => ({ ...one, text: "Beans" })));
    await act(async () => {
      result.current.step(true);
      result.current.step(true);
    });
    await rest(0);
    const kept = next("/bench/sheets/7");
    expect(kept.body).toMatchObject({ body: { lines: [{ text: "Beans" }] } });
    expect(asked()).toEqual([]);
    await kept.answer(200, { ...detail("Market", 1), body: { ...detail("Market", 1).body, lines: [{ ...line, text: "Beans" }] } });
    const step = next("/bench/sheets/7/step");
    expect([step.body, asked()]).toEqual([{ back: true }, []]);
    await step.answer(200, detail("Market", 2));
    await next("/bench/sheets/7/step").answer(409, refusal("nothing-to-undo"));
    expect([result.current.body?.lines[0]!.text, result.current.problem?.code]).toEqual(["Peas", "nothing-to-undo"]);
  });

  test("is kept when its page is left before the change has rested", async () => {
    const { result, unmount } = await opened();
    await act(async () => result.current.edit(rename("Left")));
    await unmount();
    await rest(0);
    expect(next("/bench/sheets/7").body).toMatchObject({ body: { name: "Left" } });
  });

  test("a line that is copied is another line with the same words", () => {
    const copy = copyOf(line);
    expect([{ ...copy, id: line.id }, copy.id === line.id]).toEqual([line, false]);
  });
});

describe("a cut", () => {
  const path = "/bench/sheets/7/cuts/one";
  const opened = async (settings: unknown) => {
    const { result } = await renderHook(() => useCutEditing(7, "one"), fresh);
    await rest(0);
    await next(path).answer(200, { settings, made: [], clearance: "" });
    return result;
  };

  test("begins with the usual settings where none were chosen, and keeps what is chosen last", async () => {
    const result = await opened(null);
    expect(result.current.settings).toEqual(USUAL_CUT);
    await act(async () => result.current.edit((settings) => ({ ...settings, copies: 2 })));
    await rest(200);
    await act(async () => result.current.edit((settings) => ({ ...settings, mirror: true })));
    expect([result.current.settings, asked()]).toEqual([{ ...USUAL_CUT, copies: 2, mirror: true }, []]);
    await rest(500);
    const sent = next(path);
    expect(sent.body).toEqual({ ...USUAL_CUT, copies: 2, mirror: true });
    await act(async () => result.current.edit((settings) => ({ ...settings, copies: 3 })));
    await sent.answer(200, { settings: sent.body, made: [], clearance: "Not cleared for sold goods." });
    expect([result.current.settings?.copies, result.current.answer.data?.clearance]).toEqual([3, "Not cleared for sold goods."]);
    await act(async () => void result.current.settle());
    await rest(0);
    expect(next(path).body).toMatchObject({ copies: 3, mirror: true });
  });

  test("says why a choice could not be kept, and goes on showing it", async () => {
    const result = await opened(USUAL_CUT);
    await act(async () => result.current.edit((settings) => ({ ...settings, copies: 9 })));
    await rest(500);
    await next(path).answer(503, refusal("library-busy"));
    expect([result.current.settings?.copies, result.current.problem?.code]).toEqual([9, "library-busy"]);
  });

  test("is asked for by the files of its layers, not by their names", () => {
    const style = { sha256: "b".repeat(64), face: 1, family: "Seedbox Block", style: "Bold" };
    const line = newLine("Open", style);
    expect(wantedCut(line, USUAL_CUT)).toMatchObject({ text: "Open", layers: [{ sha256: style.sha256, face: 1 }], settings: USUAL_CUT });
    expect(JSON.stringify(wantedCut(line, USUAL_CUT))).not.toContain("Seedbox");
  });
});

describe("a match", () => {
  const view = {
    id: 3,
    name: "sign.png",
    at: "2026-01-01T00:00:00.000Z",
    words: "",
    sentence: "",
    jobName: null,
    width: 1000,
    height: 500,
    lines: [],
    asked: null,
    answer: null,
  };
  const reading = (words: string) => ({
    letters: [],
    words,
    joined: false,
    turned: "",
    picture: "",
    width: 10,
    height: 5,
    colours: { letters: "#000000", ground: "#ffffff" },
  });

  test("is read at once, then again when the frame rests; a late answer of an earlier frame counts no more", async () => {
    const { result } = await renderHook(() => useMatchEditing(3), fresh);
    await rest(0);
    const first = next("/matches/3");
    await first.answer(200, view);
    if (!result.current.asked) throw new Error(String(result.current.answer.error));
    // Without a line of its own the middle of the picture is framed.
    expect(result.current.asked.frame).toEqual([
      [100, 150],
      [900, 150],
      [900, 350],
      [100, 350],
    ]);
    await rest(1);
    const early = next("/matches/3/read");
    await act(async () => result.current.change({ words: "Honey" }));
    await early.answer(200, reading("Hone·"));
    expect([result.current.reading, result.current.stale]).toEqual([undefined, true]);
    await rest(350);
    const late = next("/matches/3/read");
    expect(late.body).toMatchObject({ words: "Honey" });
    await late.answer(200, reading("Honey"));
    expect([result.current.reading?.words, result.current.stale, result.current.problem]).toEqual(["Honey", false, null]);
    await act(async () => result.current.change({ words: "Honey 2" }));
    expect([result.current.reading?.words, result.current.stale]).toEqual(["Honey", true]);
    await rest(350);
    await next("/matches/3/read").answer(422, refusal("nothing-read"));
    expect([result.current.reading, result.current.problem?.code]).toEqual([undefined, "nothing-read"]);
  });

  test("a letter is put right by its place among the letters", () => {
    expect(withLetter("a b c", 1, "x")).toBe("a x c");
    expect(withLetter("a b c", 2, "ß")).toBe("a b ß");
    expect(withLetter("👒b", 1, "x")).toBe("👒x");
    expect(withLetter("ab", 5, "x")).toBe("ab");
  });
});
