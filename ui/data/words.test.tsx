// What screens say of plans and devices, and how values outside the server's knowledge are kept.
import { act, renderHook } from "@testing-library/react-native";
import { z } from "zod";
import { KIND_WORDS as PROGRAM_KINDS } from "./devices.ts";
import type { DeviceSummary } from "../../contract/devices.ts";
import { PlanChoice, type PlanItem, type PlanStep, type PlanView } from "../../contract/placing.ts";
import { ProgramKind } from "../../contract/programs.ts";
import { ApiProblem, fetchFile, get, send, UNREACHABLE } from "./api.ts";
import { cellKey, cellOf } from "./board.ts";
import { keepSheet, forgetSheet, useKeptSheets } from "./cut.ts";
import { keepSign, signUsed, useKeptSigns, useRecentSigns } from "./bench.ts";
import { fontKey, fontOfKey, troubleWords } from "./devices.ts";
import { useLastUsed, useRemember } from "./lastUsed.ts";
import { changesOf, choiceWords, planCounts, planLines, planTitle, planWords, stepsOf } from "./plans.ts";
import { setActing, setPlanProgress, useActing, usePlanProgress } from "./progress.ts";
import { useSettled } from "./settled.ts";
import { makeStore } from "./store.ts";
import { useAction } from "./useAction.ts";
import { useScriptWords } from "./words.ts";

const step = (op: PlanStep["op"]): PlanStep => ({ op }) as PlanStep;
const item = (situation: PlanItem["situation"], choices: PlanItem["choices"], steps: PlanStep[] = []): PlanItem => ({
  key: "k",
  family: "Trellis Fair",
  situation,
  choices,
  chosen: choices[0]!,
  steps,
});
const plan = (more: Partial<PlanView>): PlanView =>
  ({
    action: "place",
    deviceName: "Workshop laptop",
    fromName: "",
    state: "drawn",
    families: [{ id: 1, name: "Trellis Fair" }],
    items: [],
    fontsBefore: 1,
    fontsAfter: 3,
    ...more,
  }) as PlanView;

describe("plans", () => {
  test("every choice has its words, and only the first is recommended", () => {
    for (const choice of PlanChoice.options) {
      const words = choiceWords(item("free", [choice, choice === "keep" ? "leave" : "keep"]));
      expect(words[choice]).toMatch(/ \(recommended\)$/);
    }
    expect(choiceWords(item("older-there", ["replace", "both"]))).toEqual({
      replace: "Replace it (recommended)",
      both: "Place it as well",
    });
    // What nobody asked to be placed is left alone, not out.
    expect(choiceWords(item("only-here", ["leave", "remove"]))["leave"]).toBe("Leave it alone (recommended)");
    expect(choiceWords(item("damaged", ["leave"]))["leave"]).toBe("Leave it out (recommended)");
  });

  test("where only a person can say, nothing is recommended", () => {
    for (const situation of ["names-clash", "same-names"] as const)
      expect(Object.values(choiceWords(item(situation, ["place", "leave"]))).join()).not.toContain("recommended");
  });
  test("what needs somebody stands first, the rest by family", () => {
    const one = (key: string, family: string, situation: PlanItem["situation"], choices: PlanItem["choices"]) => ({
      ...item(situation, choices),
      key,
      family,
    });
    const items = [
      one("a", "Aster", "free", ["place"]),
      one("b", "Aster", "names-clash", ["place", "leave"]),
      one("c", "Furrow", "also-wanted", ["leave", "place"]),
      one("d", "", "free", ["place"]),
      one("e", "Aster", "there", ["keep"]),
    ];
    const said = (state: PlanView["state"], some = items) =>
      planLines({ state, items: some }).map((line) => ("item" in line ? line.item.key : line.heading));
    expect(said("drawn")).toEqual(["1 font needs you", "b", "Aster", "a", "e", "Furrow", "c", "Not in your library", "d"]);
    expect(said("done")).toEqual(["Aster", "a", "b", "e", "Furrow", "c", "Not in your library", "d"]);
    // One family with nothing to ask is a plain list.
    expect(said("drawn", items.slice(0, 1))).toEqual(["a"]);
  });

  test("a title says what will be done, then what was done, then that it was taken back", () => {
    expect(planTitle(plan({}))).toBe("Place Trellis Fair on Workshop laptop");
    expect(planTitle(plan({ state: "handed" }))).toBe("Place Trellis Fair on Workshop laptop");
    expect(planTitle(plan({ state: "done" }))).toBe("Placed on Workshop laptop");
    expect(planTitle(plan({ state: "undone" }))).toBe("Taken back");
  });

  test("few families are named, many counted, and without any the fonts are", () => {
    const families = ["Trellis Fair", "Seedbox Block", "Garden Note"].map((name, id) => ({ id, name }));
    expect(planWords(plan({ families: families.slice(0, 2), action: "remove" })).todo).toBe(
      "Take Trellis Fair and Seedbox Block off Workshop laptop",
    );
    expect(planWords(plan({ families })).todo).toBe("Place 3 families on Workshop laptop");
    const long = [{ id: 1, name: "A family with a name of more than thirty letters" }];
    expect(planWords(plan({ families: long })).todo).toContain(long[0]!.name);
    const items = [item("free", ["place"]), item("free", ["place"])];
    expect(planWords(plan({ families: [], items, action: "switch-off" })).todo).toBe("Turn off 2 fonts on Workshop laptop");
  });

  test("counts are told as they will be before a plan is done, and as they are after", () => {
    expect(planCounts(plan({}))).toBe("1 placed font now, 3 after.");
    expect(planCounts(plan({ state: "done", fontsBefore: 2 }))).toBe("2 placed fonts before, now 3.");
  });

  test("steps that leave a device as it is are no changes", () => {
    const drawn = plan({
      items: [item("free", ["place"], [step("copy")]), item("also-wanted", ["leave"], [step("leave"), step("keep"), step("switch-on")])],
    });
    expect([stepsOf(drawn).length, changesOf(drawn)]).toEqual([4, 2]);
  });
});

describe("devices", () => {
  const trouble = (more: Partial<DeviceSummary["trouble"]>): string[] =>
    troubleWords({ trouble: { duplicates: 0, off: 0, unseen: 0, outdated: 0, lapsed: 0, externalChanges: 0, ...more } });
  test("what wants looking at is told with the gravest first, and nothing where all is well", () => {
    expect(trouble({})).toEqual([]);
    expect(trouble({ off: 2, lapsed: 1, duplicates: 1, externalChanges: 1 })).toEqual([
      "1 lapsed",
      "1 duplicate",
      "1 change made outside Buvano",
    ]);
  });
  test("a placed font is found again by its key, also in a program's own store", () => {
    for (const font of [
      { folder: "me", fileName: "a.ttf" },
      { folder: "own", fileName: "letter-desk/a b.otf" },
    ] as const)
      expect(fontOfKey(fontKey(font))).toEqual(font);
  });
  test("every kind of program is called by words", () => {
    for (const kind of ProgramKind.options) expect(PROGRAM_KINDS[kind]).toMatch(/\w{4}/);
  });
  test("a cell is found again by its key", () => {
    expect(cellOf(cellKey({ styleId: 12, programId: 3 }))).toEqual({ styleId: 12, programId: 3 });
  });
});

describe("values kept by this browser", () => {
  const storage = (items: Map<string, string>): Storage =>
    ({ getItem: (key: string) => items.get(key) ?? null, setItem: (key: string, value: string) => void items.set(key, value) }) as Storage;
  afterEach(() => void Object.assign(globalThis, { localStorage: undefined }));

  test("are there again; what cannot be read back counts as never set", () => {
    const items = new Map<string, string>();
    Object.assign(globalThis, { localStorage: storage(items) });
    makeStore(1, "a").set(2);
    expect(makeStore(1, "a").get()).toBe(2);
    items.set("a", "{not json");
    expect(makeStore(1, "a").get()).toBe(1);
  });
  test("serve while the page is open where nothing may be kept", () => {
    Object.assign(globalThis, {
      localStorage: {
        getItem: () => {
          throw new Error("forbidden");
        },
        setItem: () => {
          throw new Error("forbidden");
        },
      },
    });
    const store = makeStore("first", "b");
    store.set("second");
    expect(store.get()).toBe("second");
  });
  test("tell every screen that shows them", async () => {
    const store = makeStore(0);
    const { result, unmount } = await renderHook(() => store.use());
    await act(async () => store.set(5));
    expect(result.current).toBe(5);
    await unmount();
    store.set(6);
  });

  test("characters used lately come first, each once, and the oldest go", async () => {
    const { result } = await renderHook(() => useRecentSigns());
    await act(async () => {
      for (let i = 0; i < 30; i++) signUsed(String.fromCodePoint(0x2700 + i));
      signUsed("✀");
    });
    expect([result.current.length, result.current[0], new Set(result.current).size]).toEqual([24, "✀", 24]);
    const kept = await renderHook(() => useKeptSigns());
    await act(async () => {
      keepSign("♥", true);
      keepSign("✂", true);
      keepSign("♥", true);
      keepSign("✂", false);
    });
    expect(kept.result.current).toEqual(["♥"]);
  });
  test("sheets of material are kept by name, in order, the last size of a name", async () => {
    const { result } = await renderHook(() => useKeptSheets());
    await act(async () => {
      keepSheet({ name: "Vinyl", widthMm: 300, heightMm: 1200 });
      keepSheet({ name: "Card", widthMm: 210, heightMm: 297 });
      keepSheet({ name: "Vinyl", widthMm: 300, heightMm: 600 });
    });
    expect(result.current.map(({ name, heightMm }) => [name, heightMm])).toEqual([
      ["Card", 297],
      ["Vinyl", 600],
    ]);
    await act(async () => forgetSheet("Card"));
    expect(result.current.map(({ name }) => name)).toEqual(["Vinyl"]);
  });
  test("words of a script are forgotten when they are emptied", async () => {
    const { result } = await renderHook(() => useScriptWords());
    await act(async () => result.current[1]("hebrew", "שלום"));
    expect(result.current[0].hebrew).toBe("שלום");
    await act(async () => result.current[1]("hebrew", ""));
    expect(result.current[0].hebrew).toBeUndefined();
  });
  test("what was looked at last is remembered once it is known to be there, and forgotten when it is gone", async () => {
    const { result } = await renderHook(() => useLastUsed("family"));
    const look = async (id: number, known: { data?: unknown; error?: unknown }) =>
      (await renderHook(() => useRemember("family", id, known))).unmount();
    await look(4, {});
    expect(result.current).toBeNull();
    await look(4, { data: {} });
    expect(result.current).toBe(4);
    await look(5, { error: new Error("gone") });
    expect(result.current).toBe(4);
    await look(4, { error: new Error("gone") });
    expect(result.current).toBeNull();
  });
});

describe("what is under way", () => {
  test("a plan's progress is its own; what is done with many ends with the last", async () => {
    const one = await renderHook(() => usePlanProgress(1));
    const acting = await renderHook(() => useActing());
    await act(async () => {
      setPlanProgress(1, { done: 2, total: 5 });
      setPlanProgress(2, { done: 9, total: 9 });
      setActing({ done: 1, total: 4 });
    });
    expect([one.result.current, acting.result.current]).toEqual([
      { done: 2, total: 5 },
      { done: 1, total: 4 },
    ]);
    await act(async () => setActing({ done: 4, total: 4 }));
    expect(acting.result.current).toBeNull();
  });

  test("what is typed is asked about when the typing rests", async () => {
    jest.useFakeTimers();
    const { result, rerender } = await renderHook(({ value }: { value: string }) => useSettled(value, 200), {
      initialProps: { value: "w" },
    });
    await rerender({ value: "wi" });
    await act(async () => void (await jest.advanceTimersByTimeAsync(150)));
    await rerender({ value: "wild" });
    await act(async () => void (await jest.advanceTimersByTimeAsync(150)));
    expect(result.current).toBe("w");
    await act(async () => void (await jest.advanceTimersByTimeAsync(60)));
    expect(result.current).toBe("wild");
    jest.useRealTimers();
  });

  test("an act is busy while it runs, and shows its problem until it is begun anew or cleared", async () => {
    let settle: { resolve: () => void; reject: (error: unknown) => void } = { resolve: () => {}, reject: () => {} };
    const work = () => new Promise<void>((resolve, reject) => (settle = { resolve, reject }));
    const { result } = await renderHook(() => useAction(work));
    await act(async () => result.current.run());
    expect(result.current.busy).toBe(true);
    await act(async () => settle.reject(new ApiProblem("x", "It cannot be done.", "Try later.", 422)));
    expect([result.current.busy, result.current.problem?.message]).toEqual([false, "It cannot be done."]);
    await act(async () => result.current.run());
    expect([result.current.busy, result.current.problem]).toEqual([true, null]);
    await act(async () => settle.reject(UNREACHABLE));
    await act(async () => result.current.clear());
    expect(result.current.problem).toBeNull();
  });
});

describe("the server", () => {
  const answering = (status: number, text: string) => {
    globalThis.fetch = (async () => ({
      ok: status < 400,
      status,
      text: async () => text,
      json: async () => JSON.parse(text) as unknown,
      blob: async () => new Blob([text]),
    })) as unknown as typeof fetch;
  };
  const problem = (work: Promise<unknown>): Promise<ApiProblem> =>
    work.then(
      () => Promise.reject(new Error("It was taken.")),
      (error: ApiProblem) => error,
    );
  const Answer = z.object({ n: z.number() });

  test("answers by the contract; an answer that is none is a fault, not a value", async () => {
    answering(200, '{"n":1}');
    expect(await get("/x", Answer)).toEqual({ n: 1 });
    answering(200, '{"n":"one"}');
    await expect(get("/x", Answer)).rejects.toThrow();
  });
  test("refuses in its own sentence; what is no refusal of ours gets one, and so does silence", async () => {
    answering(
      422,
      JSON.stringify({ type: "x", title: "x", status: 422, detail: "It is locked.", code: "locked", next: "Type its password." }),
    );
    expect(await problem(send("POST", "/x", Answer, {}))).toMatchObject({
      code: "locked",
      message: "It is locked.",
      next: "Type its password.",
    });
    answering(502, "<html>Bad gateway</html>");
    expect(await problem(fetchFile("/x", {}))).toMatchObject({ code: "fault", status: 502 });
    globalThis.fetch = (() => Promise.reject(new TypeError("network"))) as typeof fetch;
    expect(await problem(get("/x", Answer))).toBe(UNREACHABLE);
  });
});
