// Filters: each with the families it would leave, none that would leave nothing; those that stand are taken back one by one.
import { act, fireEvent, render, screen } from "@testing-library/react-native";
import { useState } from "react";
import { Afresh, serve } from "../../../tests/ui/server.tsx";
import type { FamilyCounts } from "../../../contract/families.ts";
import { EVERYTHING, type Listing } from "../../data/listing.ts";
import { FilterChips, FilterSheet } from "./FilterSheet.tsx";

jest.mock("./MannerFilter.tsx", () => ({ MannerFilter: () => null, mannerSteps: (text: string) => new Map(text.split(",").entries()) }));

const counts: FamilyCounts = {
  total: 12,
  at: { placed: 5 },
  pinned: 2,
  covers: 9,
  scripts: { latin: 12, hebrew: 3 },
  kinds: { symbols: 0, variable: 4 },
  uses: { sold: 7 },
  jobs: [{ id: 4, name: "Spring market", families: 6 }],
  tags: [{ id: 8, name: "Signs", families: 1 }],
};
let listing: Listing = EVERYTHING;
let closed = 0;
function Filters({ from }: { from: Listing }) {
  const [now, setNow] = useState(from);
  listing = now;
  return (
    <Afresh>
      <FilterSheet listing={now} onChange={(change) => setNow({ ...now, ...change })} onClose={() => closed++} />
      <FilterChips listing={now} onChange={(change) => setNow({ ...now, ...change })} jobs={{ 4: "Spring market" }} tags={{ 8: "Signs" }} />
    </Afresh>
  );
}
const settle = () => act(async () => void (await new Promise((resolve) => setTimeout(resolve, 20))));
const opened = async (from: Listing = EVERYTHING) => {
  closed = 0;
  const asked = serve({ "GET /families/counts": counts, "GET /families": counts });
  await render(<Filters from={from} />);
  await settle();
  return asked;
};
const press = async (testID: string) => {
  await act(async () => void fireEvent.press(screen.getByTestId(testID)));
  await settle();
};

test("only what would leave something is offered, with how many families", async () => {
  await opened();
  expect([screen.getByText("Variable 4") !== null, screen.queryByText(/Symbols/), screen.queryByTestId("filter-own")]).toEqual([
    true,
    null,
    null,
  ]);
  expect(screen.getByText("Spring market 6")).toBeTruthy();
  expect(screen.getByTestId("show-filtered")).toHaveTextContent(/12/);
});

test("a filter is chosen and taken back by the same tap; what is asked follows it", async () => {
  const asked = await opened();
  await press("filter-hebrew");
  expect([listing.script, asked.at(-1)!.path.includes("script=hebrew")]).toEqual(["hebrew", true]);
  await press("filter-hebrew");
  expect(listing.script).toBeUndefined();
  await press("filter-4");
  await press("filter-8");
  expect([listing.job, listing.tag]).toEqual([4, 8]);
});

test("one that stands is offered though it leaves nothing, so that it can be taken back", async () => {
  await opened({ ...EVERYTHING, kind: "symbols" });
  await press("filter-symbols");
  expect(listing.kind).toBeUndefined();
});

test("all are taken back at once; what is typed and the order stay", async () => {
  const standing: Listing = {
    search: "fennel",
    sort: "newest",
    covers: true,
    pinned: true,
    at: "placed",
    script: "hebrew",
    kind: "variable",
    use: "sold",
    job: 4,
    tag: 8,
    manner: "weight:3",
    like: undefined,
  };
  // Every filter there is stands, so that none can be forgotten.
  expect(Object.keys(standing).sort()).toEqual(Object.keys(EVERYTHING).sort());
  await opened(standing);
  await press("no-filters");
  expect(listing).toEqual({ ...EVERYTHING, search: "fennel", sort: "newest" });
  expect(screen.getByTestId("no-filters").props["accessibilityState"]).toMatchObject({ disabled: true });
  await press("show-filtered");
  expect(closed).toBe(1);
});

test("each filter that stands has its chip, by the name people know it by; a tap takes that one back", async () => {
  await opened({ ...EVERYTHING, covers: true, job: 4, tag: 8, use: "sold", manner: "weight:3,slant:0" });
  const chips = () => screen.getAllByTestId("filter-chip").length;
  expect(chips()).toBe(5);
  expect(screen.getByText("Signs")).toBeTruthy();
  for (let left = 5; left > 0; left--) {
    expect(chips()).toBe(left);
    await act(async () => void fireEvent.press(screen.getAllByTestId("filter-chip")[0]!));
  }
  expect([listing, screen.queryByTestId("filter-chips")]).toEqual([EVERYTHING, null]);
});
