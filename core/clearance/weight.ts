// How much words count, by where they stand.
import { NAME } from "../sfnt/name.ts";
import type { PaperKind } from "./paper-kinds.ts";
import type { Source } from "./uses.ts";

/** From here on words stand as a licence does, and decide beside one; a readme's decide where none speaks; what weighs less explains. */
export const AS_LICENCE = 3;
export const DECIDES = 2;

/**
 * By kind of paper: 3 decides (a licence, a note of it, terms; the font's licence field), 2 decides where none of those
 * does, 1 explains: it never decides against a licence that is recognised; 0 never decides.
 */
const WEIGHT: Record<PaperKind, 0 | 1 | 2 | 3> = {
  licence: 3,
  note: 3,
  terms: 3,
  readme: 2,
  other: 2,
  packaging: 2,
  mail: 1,
  answers: 1,
  manual: 1,
  log: 0,
};

/** Embedding bits are technical: they answer where no words do. */
const BITS = 1.5;

export function weightOf(source: Source): number {
  if (source.kind === "paper") return WEIGHT[source.paper];
  if (source.kind === "embedding") return BITS;
  return source.id === NAME.licence || source.id === NAME.licenceUrl ? AS_LICENCE : DECIDES;
}
