// Looking by eye: what somebody saw is sent with their name, and what it teaches of the program is asked about, not assumed.
import { act, fireEvent, render, screen } from "@testing-library/react-native";
import type { Cell, Sighting } from "../../../contract/sightings.ts";
import { Afresh, refused, serve, type Asked } from "../../../tests/ui/server.tsx";
import { who } from "../../data/who.ts";
import { LookDrawer } from "./LookDrawer.tsx";

jest.mock("../../parts/Choice.tsx", () => ({ Choice: () => null }));
jest.mock("../../web/download.ts", () => ({ saveFrom: () => undefined }));

const cell = (change: Partial<Cell> = {}): Cell =>
  ({
    styleId: 3,
    programId: 5,
    familyId: 2,
    state: "due",
    readsWhen: "start",
    practice: false,
    programName: "Letter Desk",
    ...change,
  }) as Cell;
const sighting: Sighting = {
  id: 1,
  styleId: 3,
  programId: 5,
  styleName: "Trellis Fair Regular",
  programName: "Letter Desk",
  deviceName: "Workshop laptop",
  result: "seen",
  means: "eye",
  sentence: "Mara saw it listed and drawn as it should be.",
  instead: [],
  fileName: "",
  fonts: [],
  who: "Mara",
  at: "2026-01-01T00:00:00.000Z",
  kept: false,
  madeBy: "",
  letters: 0,
  pages: [],
} as unknown as Sighting;
let seen: Sighting[] = [];
const settle = () => act(async () => void (await new Promise((resolve) => setTimeout(resolve, 20))));
const opened = async (shown: Cell, more: Record<string, unknown> = {}): Promise<Asked[]> => {
  seen = [];
  const asked = serve({ "POST /cells/3/5/look": { question: "", sighting }, ...more });
  await render(
    <Afresh>
      <LookDrawer cell={shown} onSeen={(one) => seen.push(one)} />
    </Afresh>,
  );
  return asked;
};
const press = async (testID: string) => {
  await act(async () => void fireEvent.press(screen.getByTestId(testID)));
  await settle();
};
beforeEach(() => act(async () => who.set("")));

test("who looked is remembered and sent along; without a name it is sent as well", async () => {
  const asked = await opened(cell());
  await press("saw-wrong");
  expect(asked[0]).toMatchObject({ path: "/cells/3/5/look", body: { saw: "wrong", who: "" } });
  await act(async () => void fireEvent.changeText(screen.getByTestId("look-who"), "Mara"));
  await press("saw-there");
  expect([asked[1]!.body, who.get(), seen.length]).toEqual([{ saw: "there", who: "Mara", despite: "" }, "Mara", 2]);
});

test("what cannot be noted is said, and counts as nothing seen", async () => {
  await opened(cell(), { "POST /cells/3/5/look": refused(503, "library-busy", "Another program writes to the library.") });
  await press("saw-there");
  expect([screen.getByText("Another program writes to the library.") !== null, seen]).toEqual([true, []]);
});

const DOUBT = "Letter Desk reads fonts only when it starts; it has not been reopened since the font was placed.";
test("seen before the program was reopened is asked about; that it was reopened is sent along", async () => {
  const asked = await opened(cell({ state: "reopen" }), { "POST /cells/3/5/look": { question: DOUBT, sighting: null } });
  await press("saw-there");
  expect([screen.getByText(DOUBT) !== null, seen]).toEqual([true, []]);
  await press("look-unsure");
  expect(screen.queryByTestId("look-doubt")).toBeNull();
  await press("saw-there");
  await press("look-reopened");
  expect(asked.map(({ body }) => (body as { despite: string }).despite)).toEqual(["", "", "reopened"]);
});

test("seen though it was not reopened teaches that it notices by itself, when somebody says so", async () => {
  let answered = 0;
  const asked = await opened(cell({ state: "reopen" }), {
    "POST /cells/3/5/look": () => (answered++ === 0 ? { question: DOUBT, sighting: null } : { question: "", sighting }),
    "POST /programs/5/learn": refused(404, "not-found", "This program is not there."),
  });
  await press("saw-there");
  expect(screen.queryByTestId("learn")).toBeNull();
  await press("look-sure");
  expect([screen.getByTestId("learn") !== null, seen.length]).toEqual([true, 1]);
  await press("learn");
  expect([asked[2]!.body, screen.getByText("This program is not there.") !== null]).toEqual([{ readsWhen: "always" }, true]);
});

test("not listed though it should have been noticed teaches the opposite; elsewhere nothing is learnt", async () => {
  await opened(cell({ state: "due", readsWhen: "always" }));
  await press("saw-not-there");
  expect(screen.getByTestId("learn")).toBeTruthy();
  await screen.unmount();
  await opened(cell({ state: "due", readsWhen: "start" }));
  await press("saw-not-there");
  expect(screen.queryByTestId("learn")).toBeNull();
  await screen.unmount();
  // Of a practice program everything is known.
  await opened(cell({ state: "reopen", practice: true }));
  await press("saw-there");
  expect(screen.queryByTestId("learn")).toBeNull();
});
