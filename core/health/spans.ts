// Stretches of a file, held against one another.
import type { Face } from "../sfnt/face.ts";

export interface Span {
  at: number;
  length: number;
}

/** Whether two of them share a byte. */
export function overlap(spans: readonly Span[]): boolean {
  const marks = spans.flatMap(({ at, length }) => [
    { at, step: 1 },
    { at: at + length, step: -1 },
  ]);
  marks.sort((a, b) => a.at - b.at || a.step - b.step);
  let open = 0;
  return marks.some(({ step }) => (open += step) > 1);
}

/** Where a face's tables lie, as they are packed. */
export const placesOf = (face: Face): Span[] =>
  face.directory.tables.map(({ offset, length, packedLength = length }) => ({ at: offset, length: packedLength }));
