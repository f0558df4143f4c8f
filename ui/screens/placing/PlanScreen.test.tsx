// A plan on its screen: what can be chosen, what carrying it out leads to, and what is said when it cannot be.
import { act, fireEvent, render, screen } from "@testing-library/react-native";
import type { ReactNode } from "react";
import { Pressable, Text, View } from "react-native";
import type { PlanItem, PlanStep, PlanView } from "../../../contract/placing.ts";
import { Afresh, refused, serve, type Asked } from "../../../tests/ui/server.tsx";
import { setPlanProgress } from "../../data/progress.ts";
import { PlanScreen } from "./PlanScreen.tsx";

const pushed: string[] = [];
jest.mock("expo-router", () => ({
  useRouter: () => ({ push: (href: string) => mockPush(href) }),
  Link: (props: { href: string; testID?: string; children: ReactNode }) => mockLink(props),
}));
jest.mock("../../parts/Screen.tsx", () => ({ ListScreen: (props: never) => mockScreen(props) }));
jest.mock("../../parts/Choice.tsx", () => ({ Choice: (props: never) => mockChoice(props) }));
const mockPush = (href: string): void => void pushed.push(href);
const mockLink = ({ href, testID, children }: { href: string; testID?: string; children: ReactNode }) => (
  <View testID={testID} accessibilityHint={href}>
    {children}
  </View>
);
interface Shown {
  title: string;
  note?: string;
  header: ReactNode;
  footer: ReactNode;
  action: ReactNode;
  rows: readonly PlanItem[];
  render: (item: PlanItem) => ReactNode;
}
const mockScreen = ({ title, note, header, footer, action, rows, render: row }: Shown) => (
  <View>
    <Text testID="title">{title}</Text>
    <Text testID="note">{note}</Text>
    {header}
    {rows.map((one) => (
      <View key={one.key}>{row(one)}</View>
    ))}
    {footer}
    {action}
  </View>
);
const mockChoice = ({ words, onChange }: { words: Record<string, string>; onChange: (key: string) => void }) => (
  <View>
    {Object.entries(words).map(([key, name]) => (
      <Pressable key={key} testID={`choice-${key}`} onPress={() => onChange(key)}>
        <Text>{name}</Text>
      </Pressable>
    ))}
  </View>
);

const step = (name: string, change: Partial<PlanStep> = {}): PlanStep => ({
  op: "copy",
  styleId: 31,
  styleName: name,
  fileName: `${name}.ttf`,
  original: "",
  slot: "me",
  bytes: 2048,
  reason: "It is not there yet.",
  state: "waiting",
  problem: null,
  ...change,
});
const item = (key: string, change: Partial<PlanItem> = {}): PlanItem => ({
  key,
  family: "Trellis Fair",
  situation: "free",
  choices: ["place"],
  chosen: "place",
  steps: [step(key)],
  ...change,
});
const plan = (change: Partial<PlanView> = {}): PlanView => ({
  id: 4,
  deviceId: 1,
  deviceName: "Workshop laptop",
  deviceSort: "practice",
  action: "place",
  account: "me",
  families: [{ id: 7, name: "Trellis Fair" }],
  fromName: "",
  state: "drawn",
  items: [item("Trellis Fair Regular")],
  programs: [],
  fontsBefore: 0,
  fontsAfter: 1,
  folder: "For me",
  passcodes: { asked: 0, fontByFont: 0 },
  needsPasscode: false,
  practicePasscode: "",
  byHand: [],
  warnings: [],
  ...change,
});
const settle = () => act(async () => void (await new Promise((resolve) => setTimeout(resolve, 20))));
const opened = async (shown: PlanView, more: Record<string, unknown> = {}): Promise<Asked[]> => {
  pushed.length = 0;
  const asked = serve({ "GET /plans/4": shown, ...more });
  await render(
    <Afresh>
      <PlanScreen id={4} />
    </Afresh>,
  );
  await settle();
  return asked;
};
const press = async (testID: string) => {
  await act(async () => void fireEvent.press(screen.getByTestId(testID)));
  await settle();
};
const sent = (asked: readonly Asked[]) => asked.filter(({ method }) => method === "POST");
const read = (testID: string): string => [screen.getByTestId(testID).props["children"] as unknown].flat().join("");

test("before anything is done it says that nothing has happened, and the button counts the files", async () => {
  await opened(plan({ items: [item("a"), item("b"), item("c", { steps: [step("c", { op: "keep" })] })] }));
  expect([read("title"), read("note")]).toEqual(["Place Trellis Fair on Workshop laptop", "Nothing has happened yet."]);
  expect(screen.getByText("Place 2 files")).toBeTruthy();
  expect(screen.queryByTestId("undo-plan")).toBeNull();
});

test("a plan that changes nothing cannot be carried out", async () => {
  await opened(plan({ items: [item("a", { steps: [step("a", { op: "keep" })] })] }));
  expect(screen.getByTestId("do-plan").props["accessibilityState"]).toMatchObject({ disabled: true });
});

test("what is chosen for one can be chosen for all that meet the same; the recommended one needs no such button", async () => {
  const open = (key: string, chosen: "replace" | "both") =>
    item(key, { situation: "older-there", choices: ["replace", "both"], chosen, steps: [step(key)] });
  const chosen = plan({ items: [open("a", "both"), open("b", "replace"), open("c", "replace")] });
  const asked = await opened(plan({ items: [open("a", "replace"), open("b", "replace"), open("c", "replace")] }), {
    "POST /plans/4/choose": chosen,
  });
  expect(screen.queryByTestId("choose-all")).toBeNull();
  await act(async () => void fireEvent.press(screen.getAllByTestId("choice-both")[0]!));
  await settle();
  expect(sent(asked)[0]).toMatchObject({ path: "/plans/4/choose", body: { key: "a", choice: "both", all: false } });
  await press("choose-all");
  expect(sent(asked)[1]?.body).toEqual({ key: "a", choice: "both", all: true });
});

test("once it is done the next step is the program that takes the fewest steps, and each step leads to where it is looked at", async () => {
  const done = plan({
    state: "done",
    items: [item("a", { steps: [step("a", { state: "done" })] })],
    programs: [
      { programId: 2, name: "Letter Desk", need: "It has to be reopened.", next: "reopen" },
      { programId: 3, name: "Poster Desk", need: "It notices new fonts.", next: "check" },
      { programId: 5, name: "Old Desk", need: "It lists no such fonts.", next: null },
    ],
  });
  const asked = await opened(plan(), { "POST /plans/4/do": done });
  await press("do-plan");
  expect([sent(asked)[0]?.path, read("title")]).toEqual(["/plans/4/do", "Placed on Workshop laptop"]);
  expect(screen.getByTestId("plan-step-link").props).toMatchObject({ accessibilityHint: "/cell/31/2" });
  expect(screen.getByTestId("next-Letter Desk").props).toMatchObject({ accessibilityHint: "/cell/31/2" });
  expect(screen.queryByTestId("next-Old Desk")).toBeNull();
  await press("to-check");
  expect(pushed).toEqual(["/cell/31/3"]);
  await press("to-device");
  expect(pushed[1]).toBe("/device/1");
});

test("several styles are looked at together, except where each is loaded by hand", async () => {
  const items = [31, 32].map((styleId) => item(String(styleId), { steps: [step(String(styleId), { styleId, state: "done" })] }));
  const programs = [{ programId: 6, name: "Browser Desk", need: "Load them by hand.", next: "load" as const }];
  await opened(plan({ state: "done", items, programs }));
  await press("to-check");
  expect(pushed).toEqual(["/cell/31/6"]);
  await screen.unmount();
  await opened(plan({ state: "done", items, programs: [{ ...programs[0]!, next: "check" }] }));
  await press("to-check");
  expect(pushed).toEqual(["/check?program=6"]);
});

test("a device that changed meanwhile is said, and the plan is shown as it is drawn now", async () => {
  let outdated = false;
  await opened(plan(), {
    "GET /plans/4": () => (outdated ? plan({ items: [item("a"), item("b")] }) : plan()),
    "POST /plans/4/do": () => {
      outdated = true;
      return refused(409, "plan-outdated", "Workshop laptop has changed since this plan was drawn; nothing was done.", "Look at it again.");
    },
  });
  await press("do-plan");
  expect(screen.getByText("Workshop laptop has changed since this plan was drawn; nothing was done.")).toBeTruthy();
  expect(screen.getByText("Place 2 files")).toBeTruthy();
});

test("a wrong passcode is said at its field; the right one is sent along and forgotten", async () => {
  let tries = 0;
  const asked = await opened(
    plan({ needsPasscode: true, passcodes: { asked: 1, fontByFont: 4 }, practicePasscode: "4711", account: "everyone" }),
    {
      "POST /plans/4/do": () =>
        ++tries === 1 ? refused(403, "passcode-wrong", "The passcode is wrong.", "Two tries are left.") : plan({ state: "done" }),
    },
  );
  expect(screen.getByTestId("practice-passcode")).toBeTruthy();
  await act(async () => void fireEvent.changeText(screen.getByTestId("passcode"), "1234"));
  await press("do-plan");
  expect([sent(asked)[0]?.body, screen.getByText("The passcode is wrong. Two tries are left.") !== null]).toEqual([
    { passcode: "1234" },
    true,
  ]);
  expect(screen.queryByTestId("problem")).toBeNull();
  await act(async () => void fireEvent.changeText(screen.getByTestId("passcode"), "4711"));
  await press("do-plan");
  expect(sent(asked)[1]?.body).toEqual({ passcode: "4711" });
});

test("what failed says why; the rest can be carried out, and what was done taken back", async () => {
  const problem = { code: "step-space", message: "Workshop laptop is full.", next: "Make room on it." };
  const asked = await opened(
    plan({
      state: "failed",
      items: [item("a", { steps: [step("a", { state: "done" })] }), item("b", { steps: [step("b", { state: "failed", problem })] })],
    }),
    { "POST /plans/4/undo": plan({ state: "undone" }) },
  );
  expect(screen.getByText(/Workshop laptop is full\. Make room on it\./)).toBeTruthy();
  await press("undo-plan");
  expect([sent(asked)[0]?.path, read("title")]).toEqual(["/plans/4/undo", "Taken back"]);
});

test("a plan for a tablet is handed over: a practice tablet can be opened, and what waits can be taken back", async () => {
  await opened(plan({ byHand: ["Install the profile."], deviceName: "Studio tablet" }));
  expect([screen.getByTestId("by-hand") !== null, screen.getByText("Hand over to Studio tablet") !== null]).toEqual([true, true]);
  await screen.unmount();
  await opened(plan({ state: "handed", byHand: ["Install the profile."], deviceName: "Studio tablet" }));
  await press("to-tablet-room");
  expect([pushed, screen.getByTestId("undo-plan") !== null]).toEqual([["/tablet-room/1"], true]);
});

test("progress is told while it is carried out", async () => {
  let finish: (plan: PlanView) => void = () => {};
  const waits = new Promise<PlanView>((resolve) => (finish = resolve));
  await opened(plan());
  const answered = globalThis.fetch;
  globalThis.fetch = (async (url: string, init?: RequestInit) =>
    init?.method === "POST" ? ({ ok: true, status: 200, json: () => waits } as unknown as Response) : answered(url, init)) as typeof fetch;
  await act(async () => void fireEvent.press(screen.getByTestId("do-plan")));
  await act(async () => setPlanProgress(4, { done: 3, total: 12 }));
  expect(screen.getByLabelText("3 of 12 steps").props["aria-valuenow"]).toBe(25);
  await act(async () => finish(plan({ state: "done" })));
  await settle();
  expect(screen.queryByTestId("do-plan")).toBeNull();
});
