// What is done with several families, or cells of the board, at once: what is asked for, and the way back from just what it changed.
import { act, fireEvent, render, screen } from "@testing-library/react-native";
import type { ChosenFamilies } from "../../../contract/families.ts";
import type { Board } from "../../../contract/sightings.ts";
import { Afresh, refused, serve, type Asked } from "../../../tests/ui/server.tsx";
import { useChoosing } from "../../data/choosing.ts";
import { dismissUndo, useUndoable, type Undoable } from "../../data/undo.ts";
import { BoardActs } from "../sightings/BoardActs.tsx";
import { FamilyActs } from "./FamilyActs.tsx";

const pushed: string[] = [];
const saved: string[] = [];
jest.mock("expo-router", () => ({ useRouter: () => ({ push: (href: string) => mockPush(href) }) }));
jest.mock("../placing/PlaceSheet.tsx", () => ({ PlaceSheet: () => null }));
jest.mock("../../web/download.ts", () => ({ saveFrom: (path: string) => mockSave(path) }));
const mockPush = (href: string): void => void pushed.push(href);
const mockSave = (path: string): void => void saved.push(path);

const chosen = (change: Partial<ChosenFamilies> = {}): ChosenFamilies => ({
  families: 3,
  styles: 7,
  pinned: 1,
  mains: [{ sha256: "a".repeat(64), face: 0, family: "Trellis Fair", style: "Regular" }],
  tags: [
    { id: 1, name: "Spring", families: 3 },
    { id: 2, name: "Signs", families: 1 },
  ],
  devices: [
    { id: 1, name: "Workshop laptop", switches: true, on: 4, off: 2 },
    { id: 2, name: "Office desktop", switches: true, on: 0, off: 0 },
  ],
  ...change,
});
let undoable: Undoable | null = null;
let families: ReturnType<typeof useChoosing>;
let cells: ReturnType<typeof useChoosing>;
const BOARD = {
  programs: [
    { id: 5, name: "Letter Desk", deviceId: 1, deviceName: "Workshop laptop" },
    { id: 6, name: "Poster Desk", deviceId: 1, deviceName: "Workshop laptop" },
    { id: 7, name: "Film Desk", deviceId: 2, deviceName: "Office desktop" },
  ],
} as Board;
function Acts() {
  families = useChoosing("families");
  cells = useChoosing("cells");
  undoable = useUndoable();
  return (
    <Afresh>
      <FamilyActs choosing={families} total={10} onAll={() => {}} />
      <BoardActs choosing={cells} board={BOARD} all={undefined} />
    </Afresh>
  );
}
const settle = () => act(async () => void (await new Promise((resolve) => setTimeout(resolve, 20))));
const press = async (testID: string) => {
  await act(async () => void fireEvent.press(screen.getByTestId(testID)));
  await settle();
};
const sent = (asked: readonly Asked[]) => asked.filter(({ method, path }) => method === "POST" && path !== "/families/chosen");
const opened = async (more: Record<string, unknown> = {}, ids: string[] = ["3", "4", "9"]): Promise<Asked[]> => {
  pushed.length = saved.length = 0;
  const asked = serve({ "POST /families/chosen": chosen(), "GET /jobs": [], ...more });
  await render(<Acts />);
  await act(async () => dismissUndo());
  if (ids.length > 0) await act(async () => families.put(ids));
  await settle();
  return asked;
};
afterEach(() =>
  act(async () => {
    families.end();
    cells.end();
  }),
);

describe("families", () => {
  test("what was changed is changed back, and only that", async () => {
    const asked = await opened({
      "POST /families/act": { sentence: "Pinned 2 families.", changed: [3, 9], historyId: null },
    });
    await press("act-more");
    await press("act-pin");
    expect(sent(asked)[0]!.body).toEqual({ act: "pin", ids: [3, 4, 9], on: true });
    expect([undoable?.sentence, families.chosen]).toEqual(["Pinned 2 families.", null]);
    await act(async () => void (await undoable!.undo!()));
    expect(sent(asked)[1]!.body).toEqual({ act: "pin", ids: [3, 9], on: false });
  });

  test("all of them pinned are unpinned; where nothing needed changing there is no way back", async () => {
    const asked = await opened({
      "POST /families/chosen": chosen({ pinned: 3 }),
      "POST /families/act": { sentence: "", changed: [], historyId: null },
    });
    await press("act-more");
    await press("act-pin");
    expect([sent(asked)[0]!.body, undoable?.undo]).toEqual([{ act: "pin", ids: [3, 4, 9], on: false }, null]);
  });

  test("what is removed comes back by the history; a refusal keeps what was chosen", async () => {
    const asked = await opened({
      "POST /families/act": { sentence: "Removed 3 families.", changed: [3, 4, 9], historyId: 8 },
      "POST /history/8/undo": { done: true },
    });
    await press("act-more");
    await press("act-remove");
    await act(async () => void (await undoable!.undo!()));
    expect(sent(asked).map(({ path }) => path)).toEqual(["/families/act", "/history/8/undo"]);
    await screen.unmount();
    await opened({ "POST /families/act": refused(503, "library-busy", "Another program writes to the library.") });
    await press("act-more");
    await press("act-remove");
    expect([screen.getByText("Another program writes to the library.") !== null, families.chosen?.keys.size]).toEqual([true, 3]);
  });

  test("a tag on all of them is taken off, one on some is put on the rest; a new one needs a name", async () => {
    const asked = await opened({ "POST /families/act": { sentence: "Tagged.", changed: [3], historyId: null } });
    await press("act-tag");
    await press("add-tag");
    expect(sent(asked)).toEqual([]);
    await press("tag-Signs");
    expect(sent(asked)[0]!.body).toEqual({ act: "tag", ids: [3, 4, 9], tag: "Signs", on: true });
    await screen.unmount();
    const again = await opened({ "POST /families/act": { sentence: "Taken off.", changed: [3, 4, 9], historyId: null } });
    await press("act-tag");
    await press("tag-Spring");
    expect(sent(again)[0]!.body).toEqual({ act: "tag", ids: [3, 4, 9], tag: "Spring", on: false });
  });

  test("only devices that hold some of them are offered, each with what can be done there", async () => {
    const asked = await opened({ "POST /plans": refused(422, "plan-nothing", "There is nothing to do.") });
    await press("act-more");
    expect([screen.queryByTestId("take-off-Office desktop"), screen.getByTestId("turn-on-Workshop laptop") !== null]).toEqual([null, true]);
    await press("turn-off-Workshop laptop");
    expect(sent(asked)[0]!.body).toEqual({ deviceId: 1, action: "switch-off", familyIds: [3, 4, 9] });
    await press("check-Workshop laptop");
    expect(pushed).toEqual(["/check?device=1&families=3,4,9"]);
  });

  test("more than fit into one page or one kit are not promised", async () => {
    await opened(
      {},
      Array.from({ length: 450 }, (_, i) => String(i + 1)),
    );
    await press("act-more");
    expect(screen.queryByTestId("act-kit")).toBeNull();
    await press("check-Workshop laptop");
    expect(pushed).toEqual(["/check?device=1"]);
    await screen.unmount();
    await opened();
    await press("act-more");
    await press("act-kit");
    expect(saved).toEqual(["/api/kit?families=3,4,9"]);
  });

  test("put into a job those that were not in it can be taken out again", async () => {
    const job = {
      id: 2,
      name: "Spring market",
      uses: ["own"],
      languages: [],
      words: "",
      familyIds: [4],
      deviceIds: [],
      readyFamilies: 0,
      warnings: 0,
    };
    const asked = await opened({ "GET /jobs": [job], "POST /jobs/2/families": { changed: [3, 9] } });
    await press("act-more");
    await press("into-job-Spring market");
    expect(sent(asked)[0]!.body).toEqual({ ids: [3, 4, 9], wanted: true });
    await act(async () => void (await undoable!.undo!()));
    expect(sent(asked)[1]!.body).toEqual({ ids: [3, 9], wanted: false });
  });
});

describe("cells of the board", () => {
  const looked = { sentence: "2 styles seen in Letter Desk.", historyId: 12, doubted: [], question: "" };
  test("what was seen of all of them is said once, and taken back once", async () => {
    const asked = await opened({ "POST /board/look": looked, "POST /history/12/undo": { done: true } }, []);
    await act(async () => cells.put(["31/5", "32/5"]));
    await press("cells-seen");
    expect(sent(asked)[0]!.body).toMatchObject({
      cells: [
        { styleId: 31, programId: 5 },
        { styleId: 32, programId: 5 },
      ],
      saw: "there",
    });
    await act(async () => void (await undoable!.undo!()));
    expect(sent(asked)[1]!.path).toBe("/history/12/undo");
  });
  test("cells of one program can be checked on one page; of several they are placed by device, each style once", async () => {
    const asked = await opened({ "POST /plans": refused(422, "plan-nothing", "There is nothing to do.") }, []);
    await act(async () => cells.put(["31/5", "32/5"]));
    await press("cells-check");
    expect(pushed).toEqual(["/check?program=5&styles=31,32"]);
    await act(async () => cells.put(["31/5", "31/6", "40/7"]));
    expect([screen.queryByTestId("cells-check"), screen.getByTestId("cells-place-Office desktop") !== null]).toEqual([null, true]);
    await press("cells-place-Workshop laptop");
    expect(sent(asked)[0]!.body).toEqual({ deviceId: 1, action: "place", account: "me", styleIds: [31], familyIds: [] });
  });
});
