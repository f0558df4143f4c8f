// The pieces of a line in the order they stand from left to right (Unicode UAX #9).
import bidiFactory from "bidi-js";

/** The direction of a whole line: as its first letter says, or as whoever set it chose. */
export type Base = "auto" | "ltr" | "rtl";
export interface Piece {
  text: string;
  /** Odd levels read from right to left. */
  level: number;
}

const bidi = bidiFactory();

/** Rule L2: from the highest level down, reverse every sequence at that level or higher. */
export function visualOrder<T extends { level: number }>(items: readonly T[]): T[] {
  const order = [...items];
  const highest = Math.max(0, ...order.map((item) => item.level));
  for (let level = highest; level >= 1; level--) {
    for (let start = 0; start < order.length; start++) {
      if (order[start]!.level < level) continue;
      let end = start;
      while (end < order.length && order[end]!.level >= level) end++;
      order.splice(start, end - start, ...order.slice(start, end).reverse());
      start = end;
    }
  }
  return order;
}

/** Cut where the direction changes; then put in order. */
export function inReadingOrder(line: string, base: Base): Piece[] {
  const { levels } = bidi.getEmbeddingLevels(line, base);
  const pieces: Piece[] = [];
  let at = 0;
  for (const character of line) {
    const level = levels[at] ?? 0;
    at += character.length;
    const last = pieces.at(-1);
    if (last?.level === level) last.text += character;
    else pieces.push({ text: character, level });
  }
  return visualOrder(pieces);
}

/** The directions a line may have been set in that give different orders. */
export function basesOf(line: string): Base[] {
  const order = (base: Base) => JSON.stringify(inReadingOrder(line, base).map(({ text }) => text));
  return (["auto", "ltr", "rtl"] as const).filter((base, i, all) => all.findIndex((other) => order(other) === order(base)) === i);
}
