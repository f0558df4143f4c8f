// Today's parcels: shelved all at once or those that are chosen, with the way back and the way on; licences that end; what is being sent.
import { act, fireEvent, render, screen } from "@testing-library/react-native";
import type { ReactNode } from "react";
import { View } from "react-native";
import type { ParcelSummary } from "../../../contract/parcels.ts";
import { Afresh, refused, serve, type Asked } from "../../../tests/ui/server.tsx";
import { ApiProblem } from "../../data/api.ts";
import { endChoosing, useChoosing } from "../../data/choosing.ts";
import { setProgress } from "../../data/progress.ts";
import { dismissUndo, useUndoable, type Undoable } from "../../data/undo.ts";
import { ParcelRow } from "../parcels/ParcelRow.tsx";
import { Arrived, ParcelActs, Shelved, SHOWN_AT_FIRST } from "./Parcels.tsx";
import { Sending } from "./Sending.tsx";
import { Terms } from "./Terms.tsx";

const pushed: string[] = [];
jest.mock("expo-router", () => ({
  useRouter: () => ({ push: (href: string) => mockPush(href) }),
  Link: (props: { href: string; testID?: string; children: ReactNode }) => mockLink(props),
}));
jest.mock("../../web/useChoosingHands.ts", () => ({ useChoosingHands: () => undefined }));
const mockPush = (href: string): void => void pushed.push(href);
const mockLink = ({ href, testID, children, ...rest }: { href: string; testID?: string; children: ReactNode }) => (
  <View testID={testID} accessibilityHint={href} {...rest}>
    {children}
  </View>
);

let undoable: Undoable | null = null;
let families: readonly string[] = [];
function Watch() {
  undoable = useUndoable();
  families = [...(useChoosing("families").chosen?.keys ?? [])];
  return null;
}
beforeEach(async () => {
  pushed.length = 0;
  await act(async () => {
    endChoosing();
    dismissUndo();
  });
});
const settle = () => act(async () => void (await new Promise((resolve) => setTimeout(resolve, 20))));
const press = async (testID: string) => {
  await act(async () => void fireEvent.press(screen.getByTestId(testID)));
  await settle();
};

const parcel = (id: number, change: Partial<ParcelSummary> = {}): ParcelSummary => ({
  id,
  name: `parcel-${id}.zip`,
  bytes: 2048,
  state: "ready",
  progress: null,
  problem: null,
  arrivedAt: "2026-01-01T00:00:00.000Z",
  counts: {},
  families: 1,
  styles: 2,
  shelvedStyles: 0,
  shelvableStyles: 2,
  unwrappableStyles: 0,
  beingRead: 0,
  troubles: 0,
  cleared: false,
  ...change,
});
const page = (count: number) => ({
  parcels: Array.from({ length: Math.min(count, SHOWN_AT_FIRST) }, (_, i) => parcel(i + 1)),
  total: count,
});
const shelvedAll = { shelved: 6, left: 0, passedOver: 0, parcels: 3, familyIds: [11, 12], historyId: 5 };

describe("what arrived", () => {
  const opened = async (count: number, shelvable: number[], more: Record<string, unknown> = {}): Promise<Asked[]> => {
    const asked = serve({
      "GET /parcels?": page(count),
      "GET /parcels/shelvable": { ids: shelvable },
      "POST /parcels/shelve": shelvedAll,
      "POST /history/5/undo": { done: true },
      ...more,
    });
    await render(
      <Afresh>
        <Arrived />
        <ParcelActs />
        <Watch />
      </Afresh>,
    );
    await settle();
    return asked;
  };

  test("nothing arrived is nothing to see, and one parcel needs no choosing", async () => {
    await opened(0, []);
    expect(screen.queryByTestId("arrived")).toBeNull();
    await screen.unmount();
    await opened(1, [1]);
    expect([
      screen.getAllByTestId("parcel-row").length,
      screen.queryByTestId("shelve-all"),
      screen.queryByTestId("choose-parcels"),
    ]).toEqual([1, null, null]);
  });

  test("all that can be shelved are shelved with one tap; it is undone by its history, and leads to placing them", async () => {
    const asked = await opened(3, [1, 2, 3]);
    await press("shelve-all");
    expect(asked.filter(({ method }) => method === "POST")).toEqual([
      { method: "POST", path: "/parcels/shelve", body: { ids: [1, 2, 3] } },
    ]);
    expect(undoable?.sentence).toContain("6");
    await act(async () => undoable!.next!.go());
    expect([families, pushed]).toEqual([["11", "12"], ["/families?sort=newest"]]);
    await act(async () => void (await undoable!.undo!()));
    expect(asked.at(-1)).toMatchObject({ method: "POST", path: "/history/5/undo" });
  });

  test("what changed nothing has no way back", async () => {
    await opened(3, [1, 2], { "POST /parcels/shelve": { ...shelvedAll, shelved: 0, familyIds: [], historyId: null } });
    await press("shelve-all");
    expect([undoable !== null, undoable?.undo]).toEqual([true, null]);
  });

  test("a refusal says why, and offers nothing to undo", async () => {
    await opened(3, [1, 2], { "POST /parcels/shelve": refused(507, "disk-full", "The disk is full.") });
    await press("shelve-all");
    expect([screen.getByText("The disk is full.") !== null, undoable]).toEqual([true, null]);
  });

  test("a part is chosen, shelved or removed; then nothing is chosen any more", async () => {
    const asked = await opened(4, [1, 2, 3, 4], { "POST /parcels/2/": { done: true }, "POST /parcels/3/": { done: true } });
    await press("choose-parcels");
    expect(screen.getByTestId("shelve-chosen").props["accessibilityState"]).toMatchObject({ disabled: true });
    // All that can be shelved, also those that are not shown.
    await press("choose-all-fitting");
    expect(screen.getByTestId("chosen-count")).toHaveTextContent(/4/);
    expect(screen.queryByTestId("choose-all-fitting")).toBeNull();
    await press("shelve-chosen");
    expect(asked.find(({ path }) => path === "/parcels/shelve")?.body).toEqual({ ids: [1, 2, 3, 4] });
    expect(screen.queryByTestId("choose-bar")).toBeNull();
  });

  test("removed parcels are brought back one by one", async () => {
    const done: string[] = [];
    await opened(3, [1, 2, 3], { "POST /parcels/": ({ path }: Asked) => (done.push(path), { done: true }) });
    await press("choose-parcels");
    await press("choose-all-fitting");
    await press("remove-chosen");
    await act(async () => void (await undoable!.undo!()));
    expect(done).toEqual([...[1, 2, 3].map((id) => `/parcels/${id}/remove`), ...[1, 2, 3].map((id) => `/parcels/${id}/bring-back`)]);
  });

  test("a long list shows its beginning, and more when it is asked for", async () => {
    const asked = await opened(150, []);
    expect([screen.getAllByTestId("parcel-row").length, screen.getByText("130 more parcels") !== null]).toEqual([SHOWN_AT_FIRST, true]);
    await press("more-parcels");
    expect(asked.some(({ path }) => path.includes(`limit=${SHOWN_AT_FIRST + 100}`))).toBe(true);
  });

  test("parcels already shelved stand by themselves", async () => {
    serve({ "GET /parcels?waits=no": page(2) });
    await render(
      <Afresh>
        <Shelved />
      </Afresh>,
    );
    await settle();
    expect(screen.getAllByTestId("parcel-row").length).toBe(2);
  });
});

describe("a parcel in a list", () => {
  test("says how it is: waiting, unpacked so far, failed with its reason, or what is in it", async () => {
    await render(<ParcelRow parcel={parcel(1, { state: "waiting" })} first />);
    expect(screen.getByText("Waiting to be unpacked")).toBeTruthy();
    const problem = { code: "archive-password", message: "The archive is locked with a password.", next: "Type it." };
    await screen.rerender(<ParcelRow parcel={parcel(1, { state: "failed", problem })} first />);
    expect(screen.getByText(problem.message)).toBeTruthy();
    await screen.rerender(<ParcelRow parcel={parcel(7, { state: "unpacking" })} first />);
    expect(screen.queryByRole("progressbar")).toBeNull();
    await act(async () => setProgress(7, { entriesDone: 3, entriesTotal: 12, bytesDone: 5, found: [] }));
    expect(screen.getByLabelText(/parcel-7/).props["aria-valuenow"]).toBe(25);
    expect(screen.getByText("2 kB")).toBeTruthy();
  });
  test("is a box to tick while somebody chooses, and leads to its page otherwise", async () => {
    await render(<ParcelRow parcel={parcel(1)} first />);
    expect(screen.getByTestId("parcel-row").props).toMatchObject({ accessibilityHint: "/parcel/1" });
    expect(screen.getByTestId("parcel-row").props["role"]).toBeUndefined();
    await screen.rerender(<ParcelRow parcel={parcel(1)} first picked={false} />);
    expect(screen.getByTestId("parcel-row").props["role"]).toBe("checkbox");
  });
});

describe("what is being sent", () => {
  const file = { id: 3, name: "winter.zip", sent: 0, total: 4096, state: "waiting" as const, problem: null };
  test("waits, is on its way with how much of it, or arrives", async () => {
    await render(<Sending one={file as never} />);
    expect(screen.getByText("Waiting")).toBeTruthy();
    await screen.rerender(<Sending one={{ ...file, state: "sending", sent: 1024 } as never} />);
    expect(screen.getByText("1 kB of 4 kB")).toBeTruthy();
    expect(screen.getByLabelText("Sending winter.zip").props["aria-valuenow"]).toBe(25);
    await screen.rerender(<Sending one={{ ...file, state: "sending", sent: 4096 } as never} />);
    expect(screen.queryByText("4 kB of 4 kB")).toBeNull();
  });
  test("that did not arrive says why, and can be sent again", async () => {
    const problem = new ApiProblem("upload-broken", "The upload broke off.", "Drop it again.", 400);
    await render(<Sending one={{ ...file, state: "stopped", problem } as never} />);
    expect(screen.getByText("winter.zip: The upload broke off.")).toBeTruthy();
    expect(screen.getByTestId("send-again")).toBeTruthy();
  });
});

describe("licences that end", () => {
  const term = (over: boolean) => ({
    familyId: 9,
    name: "Frostbloom",
    over,
    words: over ? "ended on 3 May" : "ends in 9 days",
    devices: [
      { id: 1, name: "Workshop laptop" },
      { id: 2, name: "Office desktop" },
    ],
  });
  test("one that has ended can be turned off wherever it is on; one that will end can be renewed", async () => {
    const asked = serve({ "POST /plans": refused(503, "device-away", "Workshop laptop cannot be reached.") });
    await render(<Terms terms={[term(false)]} />);
    expect([screen.queryAllByTestId("switch-off").length, screen.getAllByTestId("renew").length]).toEqual([0, 1]);
    await screen.rerender(<Terms terms={[term(true)]} />);
    await act(async () => void fireEvent.press(screen.getAllByTestId("switch-off")[1]!));
    await settle();
    expect(asked[0]).toMatchObject({ path: "/plans", body: { deviceId: 2, action: "switch-off", familyIds: [9] } });
    expect(screen.getByText("Workshop laptop cannot be reached.")).toBeTruthy();
    await press("renew");
    expect(pushed).toEqual(["/licence?family=9"]);
  });
  test("none is nothing to see", async () => {
    await render(<Terms terms={[]} />);
    expect(screen.queryByTestId("terms")).toBeNull();
  });
});
