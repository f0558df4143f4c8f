// Words of the list of families: its filters and orders.
import type { FaceKind, FamilySort } from "../../../contract/family.ts";
import type { StationKey } from "../../../contract/style.ts";

export const STUCK_WORDS: Record<Exclude<StationKey, "in">, string> = {
  sound: "Damaged",
  cleared: "Not cleared yet",
  placed: "Not placed yet",
  seen: "Not seen yet",
};
export const KIND_WORDS: Record<FaceKind, string> = {
  text: "For text",
  symbols: "Symbols",
  variable: "Variable",
  colour: "Coloured",
  monospaced: "One width",
  capitals: "Capitals only",
  outlined: "Outlined letters",
};
export const SORT_WORDS: Record<FamilySort, string> = {
  name: "By name",
  newest: "Newest first",
  trouble: "Trouble first",
};
