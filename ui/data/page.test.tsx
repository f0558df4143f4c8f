// What was open on a page: found again by whoever comes back, not by whoever comes afresh; the oldest is forgotten first.
import { act, renderHook } from "@testing-library/react-native";
import type { ReactNode } from "react";
import { leaveAt, leftAt, Page, useOpen, useOpened } from "./page.ts";

const on = (key: string, back: boolean) => ({
  wrapper: ({ children }: { children: ReactNode }) => <Page.Provider value={{ key, back }}>{children}</Page.Provider>,
});

test("a part that was opened is open for whoever comes back to that page, and closed for whoever comes afresh", async () => {
  const first = await renderHook(() => useOpen("remarks"), on("/family 1", false));
  expect(first.result.current[0]).toBe(false);
  await act(() => first.result.current[1](true));
  expect(first.result.current[0]).toBe(true);
  await first.unmount();
  const open = async (key: string, back: boolean, part = "remarks") =>
    (await renderHook(() => useOpen(part), on(key, back))).result.current[0];
  expect(await open("/family 1", true)).toBe(true);
  expect(await open("/family 1", false)).toBe(false);
  expect(await open("/family 2", true)).toBe(false);
  expect(await open("/family 1", true, "papers")).toBe(false);
  const back = await renderHook(() => useOpen("remarks"), on("/family 1", true));
  await act(() => back.result.current[1](false));
  expect(await open("/family 1", true)).toBe(false);
});
test("of several answers the open one is remembered", async () => {
  const { result } = await renderHook(() => useOpened<"sold" | "web">("clearance"), on("/family 3", false));
  await act(() => result.current[1]("web"));
  expect((await renderHook(() => useOpened("clearance"), on("/family 3", true))).result.current[0]).toBe("web");
});
test("a part that is shown on no page begins closed, and so does one of a page that was left long ago", async () => {
  expect((await renderHook(() => useOpen("remarks"))).result.current[0]).toBe(false);
  leaveAt("/oldest", 40);
  for (let i = 0; i < 300; i++) leaveAt(`/page ${i}`, i + 1);
  expect([leftAt("/oldest"), leftAt("/page 0"), leftAt("/page 299"), leftAt("/never")]).toEqual([0, 1, 300, 0]);
  leaveAt("/page 5", 0);
  expect(leftAt("/page 5")).toBe(0);
});
