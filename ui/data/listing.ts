// What the list of families is narrowed to, how it is ordered, and where it is scrolled to: as it was left, for whoever goes back. The
// address holds the same, so that it can be kept and sent.
import { z } from "zod";
import { FaceKind, FamilySort, Script, type FamilyQuery } from "../../contract/families.ts";
import { StationKey } from "../../contract/styles.ts";
import { Use } from "../../contract/clearance.ts";
import { makeStore } from "./store.ts";

const optional = <S extends z.ZodType>(schema: S) => schema.optional().catch(undefined);
const number = z.coerce.number().int().min(0);
const flag = z
  .union([z.boolean(), z.literal("yes").transform(() => true)])
  .default(false)
  .catch(false);
const Listing = z.object({
  search: z.string().max(200).default("").catch(""),
  at: optional(StationKey),
  covers: flag,
  pinned: flag,
  script: optional(Script),
  kind: optional(FaceKind),
  use: optional(Use),
  job: optional(number),
  tag: optional(number),
  manner: z.string().max(200).default("").catch(""),
  sort: optional(FamilySort),
  like: optional(number),
});
export type Listing = z.infer<typeof Listing>;
/** Every filter by its name, so that what is put over a listing takes back all that stand. */
export const EVERYTHING: Listing = {
  at: undefined,
  script: undefined,
  kind: undefined,
  use: undefined,
  job: undefined,
  tag: undefined,
  sort: undefined,
  like: undefined,
  ...Listing.parse({}),
};

/** What an address asks for; undefined when it asks for nothing. */
export function listingOf(params: Record<string, unknown>): Listing | undefined {
  const asked = Listing.parse(params);
  // An order by likeness is to one family.
  const listing = asked.sort === "likeness" && asked.like === undefined ? { ...asked, sort: undefined } : asked;
  return isNarrowed(listing) || listing.sort !== undefined ? listing : undefined;
}
/** As an address says it: nothing for what stands as it always does. */
export const paramsOf = (listing: Listing): Record<keyof Listing, string | undefined> => ({
  search: listing.search || undefined,
  at: listing.at,
  script: listing.script,
  kind: listing.kind,
  use: listing.use,
  covers: listing.covers ? "yes" : undefined,
  pinned: listing.pinned ? "yes" : undefined,
  job: listing.job?.toString(),
  tag: listing.tag?.toString(),
  manner: listing.manner || undefined,
  sort: listing.sort,
  like: listing.like?.toString(),
});
export function queryOf(listing: Listing, text: string): FamilyQuery {
  const { search, at, script, kind, use, job, tag, sort, like, covers, pinned, manner } = listing;
  return {
    search,
    text,
    at,
    script,
    kind,
    use,
    job,
    tag,
    sort,
    like,
    covers: covers ? "yes" : undefined,
    pinned: pinned ? "yes" : undefined,
    manner: manner === "" ? undefined : manner,
  };
}
/** How many filters stand, apart from what is typed. */
export const filtersOf = (listing: Listing): number =>
  [listing.at, listing.script, listing.kind, listing.use, listing.job, listing.tag].filter((one) => one !== undefined).length +
  Number(listing.covers) +
  Number(listing.pinned) +
  Number(listing.manner !== "");
export const isNarrowed = (listing: Listing): boolean => listing.search !== "" || filtersOf(listing) > 0;

const listing = makeStore<Listing>(EVERYTHING, "buvano.families", "tab");
/** Pixels from the top. */
const scrolled = makeStore(0, "buvano.families.scrolled", "tab");

export const useListing = (): [Listing, (change: Partial<Listing>) => void] => [
  listing.use(),
  (change) => {
    listing.set({ ...listing.get(), ...change });
    scrolled.set(0);
  },
];
export function beginWith(asked: Listing): void {
  listing.set(asked);
  scrolled.set(0);
}
/** Whether the list stands as this says already. */
export const standsAs = (asked: Listing): boolean => JSON.stringify(paramsOf(listing.get())) === JSON.stringify(paramsOf(asked));
export const whereLeft = (): number => scrolled.get();
export const leaveAt = (pixels: number): void => scrolled.set(pixels);
