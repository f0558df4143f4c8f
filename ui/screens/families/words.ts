// Words of the list of families: its filters and orders.
import type { FaceKind, FamilySort } from "../../../contract/families.ts";
import type { StationKey } from "../../../contract/styles.ts";
import { SAY } from "../../sentences/families/families.ts";

export const STUCK_WORDS: Record<Exclude<StationKey, "in">, string> = {
  sound: SAY.damaged,
  cleared: SAY.notClearedYet,
  placed: SAY.notPlacedYet,
  seen: SAY.notSeenYet,
};
export const KIND_WORDS: Record<FaceKind, string> = {
  text: SAY.forText,
  symbols: SAY.symbols,
  variable: SAY.variable,
  colour: SAY.coloured,
  monospaced: SAY.oneWidth,
  capitals: SAY.capitalsOnly,
  outlined: SAY.outlinedLetters,
};
/** Orders that need nothing else. */
export const SORT_WORDS: Record<Exclude<FamilySort, "likeness">, string> = {
  name: SAY.byName,
  newest: SAY.newestFirst,
  trouble: SAY.troubleFirst,
};
