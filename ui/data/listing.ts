// What the list of families is narrowed to, and where it is scrolled to: as it was left, for whoever goes back.
import type { FaceKind, Script } from "../../contract/family.ts";
import type { StationKey } from "../../contract/style.ts";
import { makeStore } from "./store.ts";

export interface Listing {
  search: string;
  at: StationKey | undefined;
  covers: boolean;
  pinned: boolean;
  script: Script | undefined;
  kind: FaceKind | undefined;
  job: string | undefined;
  manner: string;
}
export const EVERYTHING: Listing = {
  ...{ search: "", at: undefined, covers: false, pinned: false },
  ...{ script: undefined, kind: undefined, job: undefined, manner: "" },
};

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
export function beginAfresh(): void {
  listing.set(EVERYTHING);
  scrolled.set(0);
}
export const whereLeft = (): number => scrolled.get();
export const leaveAt = (pixels: number): void => scrolled.set(pixels);
