// What to do next: one line a kind of thing, each leading to where it is done.
import { act, fireEvent, render, screen } from "@testing-library/react-native";
import type { ReactNode } from "react";
import { View } from "react-native";
import { useChoosing } from "../../data/choosing.ts";
import { Tasks } from "./Tasks.tsx";

const pushed: string[] = [];
jest.mock("expo-router", () => ({
  useRouter: () => ({ push: (href: string) => mockPush(href) }),
  Link: ({ href, testID, children }: { href: string; testID?: string; children: ReactNode }) => mockLink(href, testID, children),
}));
const mockPush = (href: string): void => void pushed.push(href);
const mockLink = (href: string, testID: string | undefined, children: ReactNode) => (
  <View testID={testID} accessibilityHint={href}>
    {children}
  </View>
);
beforeEach(() => {
  pushed.length = 0;
});

const families = (count: number) =>
  Array.from({ length: count }, (_, i) => ({ id: i + 1, name: `Family ${i + 1}`, words: "Damaged: 1 file" }));
const leadsTo = (testID: string): unknown => screen.getByTestId(testID).props["accessibilityHint"];

test("nothing to do is nothing to see", async () => {
  await render(<Tasks groups={[]} tasks={[]} />);
  expect(screen.queryByTestId("tasks")).toBeNull();
});

test("a single family is led to itself, with what it is stuck at; several to their list, the first three named", async () => {
  await render(<Tasks groups={[{ station: "sound", total: 1, families: families(1) }]} tasks={[]} />);
  expect(screen.getByText("Look at 1 family with damaged files")).toBeTruthy();
  expect(screen.getByText("Family 1: Damaged: 1 file")).toBeTruthy();
  expect(leadsTo("task-sound")).toBe("/family/1");
  await screen.rerender(<Tasks groups={[{ station: "cleared", total: 40, families: families(5) }]} tasks={[]} />);
  expect(screen.getByText("Say what the licence of 40 families allows")).toBeTruthy();
  expect(screen.getByText("Family 1, Family 2, Family 3 and 37 more")).toBeTruthy();
  expect(leadsTo("task-cleared")).toBe("/families?at=cleared");
});

test("placing chooses all of them and leads to their list; where that cannot be known it says so and goes nowhere", async () => {
  let answer: { ok: boolean; status: number; body: unknown } = { ok: true, status: 200, body: { ids: [3, 4, 5] } };
  globalThis.fetch = (async () => ({
    ok: answer.ok,
    status: answer.status,
    json: async () => answer.body,
    text: async () => JSON.stringify(answer.body),
  })) as unknown as typeof fetch;
  let chosen: readonly string[] = [];
  const Watch = () => {
    chosen = [...(useChoosing("families").chosen?.keys ?? [])];
    return null;
  };
  await render(
    <>
      <Tasks groups={[{ station: "placed", total: 3, families: families(3) }]} tasks={[]} />
      <Watch />
    </>,
  );
  await act(async () => void fireEvent.press(screen.getByTestId("task-placed")));
  expect([chosen, pushed]).toEqual([["3", "4", "5"], ["/families?at=placed"]]);
  answer = {
    ok: false,
    status: 503,
    body: { type: "x", title: "x", status: 503, detail: "The library is busy.", code: "library-busy", next: "Try again." },
  };
  await act(async () => void fireEvent.press(screen.getByTestId("task-placed")));
  expect(screen.getByText("The library is busy.")).toBeTruthy();
  expect(pushed.length).toBe(1);
});

test("programs are told apart by what is to be done in them, and where they are", async () => {
  const task = (state: "swapped" | "reopen" | "due", n: number) => ({
    programId: 2,
    programName: "Letter Desk",
    deviceName: "Workshop laptop",
    state,
    families: n,
  });
  await render(<Tasks groups={[]} tasks={[task("swapped", 1), task("reopen", 2), task("due", 3)]} />);
  expect(screen.getByText("Letter Desk draws another font for 1 family")).toBeTruthy();
  expect(screen.getByText("Reopen Letter Desk: 2 families")).toBeTruthy();
  expect(screen.getByText("Check 3 families in Letter Desk")).toBeTruthy();
  expect(screen.getAllByText("On Workshop laptop").length).toBe(3);
  expect([leadsTo("task-swapped-Letter Desk"), leadsTo("task-reopen-Letter Desk"), leadsTo("task-due-Letter Desk")]).toEqual([
    "/sightings?program=2&state=swapped",
    "/check?program=2",
    "/check?program=2",
  ]);
});
