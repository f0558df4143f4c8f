// What the server tells: only what can have changed is asked for again, and everything after the line was down.
import { act, renderHook } from "@testing-library/react-native";
import type { ReactNode } from "react";
import useSWR, { SWRConfig } from "swr";
import { useServerEvents } from "./events.ts";
import { useActing, useMatchProgress, usePlanProgress, useProgress } from "./progress.ts";

class Line {
  static open: Line[] = [];
  onopen?: () => void;
  onerror?: () => void;
  onmessage?: (message: { data: string }) => void;
  closed = false;
  readonly url: string;
  constructor(url: string) {
    this.url = url;
    Line.open.push(this);
  }
  close(): void {
    this.closed = true;
  }
  tell(event: unknown): void {
    this.onmessage?.({ data: JSON.stringify(event) });
  }
}
let asked: string[] = [];
const fresh = {
  wrapper: ({ children }: { children: ReactNode }) => (
    <SWRConfig value={{ provider: () => new Map(), dedupingInterval: 0, revalidateOnFocus: false }}>{children}</SWRConfig>
  ),
};
const ask = async (path: string): Promise<string> => {
  asked.push(path);
  return path;
};
const PATHS = ["/parcels?waits=yes", "/families?at=placed", "/devices/1", "/matches/4", "/settings"];
function useAll(listens: boolean): void {
  useServerEvents(listens);
  useSWR(PATHS[0]!, ask);
  useSWR(PATHS[1]!, ask);
  useSWR(PATHS[2]!, ask);
  useSWR(PATHS[3]!, ask);
  useSWR(PATHS[4]!, ask);
}
const settle = () => act(async () => void (await new Promise((resolve) => setTimeout(resolve, 20))));

beforeEach(() => {
  Line.open = [];
  asked = [];
  Object.assign(globalThis, { EventSource: Line });
});

test("a change asks again for what it touches, and for nothing else", async () => {
  await renderHook(() => useAll(true), fresh);
  await settle();
  expect([Line.open.length, Line.open[0]!.url, [...asked].sort()]).toEqual([1, "/api/events", [...PATHS].sort()]);
  asked = [];
  await act(async () => Line.open[0]!.tell({ topic: "devices" }));
  await settle();
  expect(asked.sort()).toEqual(["/devices/1", "/families?at=placed"]);
  asked = [];
  await act(async () => Line.open[0]!.tell({ topic: "matches" }));
  await settle();
  expect(asked).toEqual(["/matches/4"]);
});

test("progress is shown and asks for nothing", async () => {
  await renderHook(() => useAll(true), fresh);
  await settle();
  asked = [];
  const shown = await renderHook(() => [useProgress(1), usePlanProgress(2), useMatchProgress(3), useActing()]);
  const [line] = Line.open;
  await act(async () => {
    line!.tell({ topic: "progress", parcelId: 1, progress: { entriesDone: 3, entriesTotal: 9, bytesDone: 10, found: [] } });
    line!.tell({ topic: "plan", planId: 2, done: 1, total: 2 });
    line!.tell({ topic: "match", matchId: 3, done: 5, of: 8 });
    line!.tell({ topic: "acting", done: 7, total: 9 });
  });
  await settle();
  expect(shown.result.current).toEqual([
    { entriesDone: 3, entriesTotal: 9, bytesDone: 10, found: [] },
    { done: 1, total: 2 },
    { done: 5, of: 8 },
    { done: 7, total: 9 },
  ]);
  expect(asked).toEqual([]);
});

test("after the line was down everything is asked for once; a line that only opens asks for nothing", async () => {
  await renderHook(() => useAll(true), fresh);
  await settle();
  asked = [];
  const [line] = Line.open;
  await act(async () => line!.onopen!());
  await settle();
  expect(asked).toEqual([]);
  await act(async () => line!.onerror!());
  await act(async () => line!.onopen!());
  await settle();
  expect([...asked].sort()).toEqual([...PATHS].sort());
});

test("a page that is told nothing opens no line, and a page that is left closes its own", async () => {
  await renderHook(() => useAll(false), fresh);
  expect(Line.open).toEqual([]);
  const { unmount } = await renderHook(() => useAll(true), fresh);
  await unmount();
  expect(Line.open.map(({ closed }) => closed)).toEqual([true]);
});
