// Choosing several: begun, gone on with, stretched, ended; each kind of list by itself.
import { act, renderHook } from "@testing-library/react-native";
import { endChoosing, useChoosing } from "./choosing.ts";

afterEach(() => act(() => endChoosing()));
const keysOf = (choosing: ReturnType<typeof useChoosing>): string[] => [...(choosing.chosen?.keys ?? [])];

test("what is chosen is a set, and what can be done stays the same while it changes", async () => {
  const { result } = await renderHook(() => useChoosing("families"));
  expect(result.current.chosen).toBeNull();
  const { begin, toggle, stretch, put, end } = result.current;
  await act(() => begin());
  expect(keysOf(result.current)).toEqual([]);
  await act(() => toggle("3"));
  await act(() => toggle("5"));
  await act(() => toggle("3"));
  expect([keysOf(result.current), result.current.has("5"), result.current.has("3")]).toEqual([["5"], true, false]);
  expect(result.current.chosen?.anchor).toBe("3");
  await act(() => stretch("8", ["5", "6", "7", "8"]));
  expect(keysOf(result.current)).toEqual(["5", "6", "7", "8"]);
  await act(() => put(["1", "2"]));
  expect(keysOf(result.current)).toEqual(["1", "2"]);
  expect(result.current.toggle).toBe(toggle);
  await act(() => end());
  expect(result.current.chosen).toBeNull();
});

test("beginning with another kind of list ends the one before; going on with one does not", async () => {
  const families = await renderHook(() => useChoosing("families"));
  const cells = await renderHook(() => useChoosing("cells"));
  await act(() => families.result.current.begin("1"));
  await act(() => cells.result.current.put(["4:2"]));
  expect([families.result.current.chosen, keysOf(cells.result.current)]).toEqual([null, ["4:2"]]);
  await act(() => families.result.current.begin("1"));
  await act(() => families.result.current.begin("2"));
  expect([keysOf(families.result.current), cells.result.current.chosen]).toEqual([["1", "2"], null]);
});

test("each kind of list has its own, and acting ends them all", async () => {
  const families = await renderHook(() => useChoosing("families"));
  const fonts = await renderHook(() => useChoosing("fonts"));
  await act(() => families.result.current.begin("1"));
  expect(fonts.result.current.chosen).toBeNull();
  await act(() => fonts.result.current.begin("me/a.ttf"));
  await act(() => endChoosing());
  expect([families.result.current.chosen, fonts.result.current.chosen]).toEqual([null, null]);
});
