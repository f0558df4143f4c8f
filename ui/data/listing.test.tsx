// The list of families in an address: what it says is what comes back, and nonsense asks for nothing.
import { boardParams, filterOf, WHOLE_BOARD } from "./board.ts";
import { EVERYTHING, filtersOf, isNarrowed, listingOf, paramsOf, queryOf, type Listing } from "./listing.ts";

const LISTINGS: readonly Partial<Listing>[] = [
  { search: "wild & fennel" },
  { at: "placed", covers: true, sort: "newest" },
  { pinned: true, script: "hebrew", kind: "symbols" },
  { use: "sold", job: 7, tag: 3, manner: "weight:3,slant:0" },
];

test.each(LISTINGS)("%j comes back from its address", (part) => {
  const listing = { ...EVERYTHING, ...part };
  const params = paramsOf(listing);
  // An address holds words alone.
  for (const value of Object.values(params)) expect(["string", "undefined"]).toContain(typeof value);
  expect(listingOf(params)).toEqual(listing);
});

test("an address without a filter asks for nothing, and so does one of nonsense", () => {
  expect(listingOf({})).toBeUndefined();
  expect(listingOf({ at: "nowhere", script: "klingon", job: "x", tag: "-1", sort: "odd", covers: "maybe" })).toBeUndefined();
  expect(listingOf({ at: "nowhere", script: "hebrew" })).toEqual({ ...EVERYTHING, script: "hebrew" });
});

test("filters are counted without what is typed, and an order narrows nothing", () => {
  expect([filtersOf(EVERYTHING), isNarrowed(EVERYTHING)]).toEqual([0, false]);
  expect([filtersOf({ ...EVERYTHING, search: "x" }), isNarrowed({ ...EVERYTHING, search: "x" })]).toEqual([0, true]);
  expect([filtersOf({ ...EVERYTHING, sort: "trouble" }), isNarrowed({ ...EVERYTHING, sort: "trouble" })]).toEqual([0, false]);
  expect(filtersOf({ ...EVERYTHING, covers: true, pinned: true, tag: 1, manner: "weight:1" })).toBe(4);
});

test("an order by likeness is to one family; without one there is no such order", () => {
  expect(listingOf({ sort: "likeness" })).toBeUndefined();
  const listing = listingOf({ sort: "likeness", like: "7" })!;
  expect([listing.sort, listing.like, paramsOf(listing).like]).toEqual(["likeness", 7, "7"]);
  expect(queryOf(listing, "")).toMatchObject({ sort: "likeness", like: 7 });
});
test("the server is asked for what stands", () => {
  expect(queryOf({ ...EVERYTHING, covers: true, manner: "" }, "Wild")).toMatchObject({ text: "Wild", covers: "yes", pinned: undefined });
  expect(queryOf({ ...EVERYTHING, covers: true, manner: "" }, "Wild").manner).toBeUndefined();
});

test("the board's filter comes back from its address", () => {
  const filter = { ...WHOLE_BOARD, by: "styles" as const, device: 2, state: "seen" as const, program: 5 };
  expect(filterOf(boardParams(filter))).toEqual(filter);
  expect(filterOf({})).toBeUndefined();
  expect(filterOf({ state: "lost", by: "rows" })).toBeUndefined();
});
