// Words that would tell a font from those it was taken for.
import { setWords, type SetWords } from "./fit.ts";
import type { Point } from "./drawing/geometry.ts";

/** Ordinary words between them hold every letter, in both cases where it matters. */
const ORDINARY =
  "Garden Quince Rhubarb Jasmine Kettle Sage Yarrow Meadow Basket Fiddle Gather Woodbine Ragwort Juniper Squash Viburnum Zephyr Kitchen Apple Damson Teasel Orchard Pergola Fox Gypsum Larch 2357 4689".split(
    " ",
  );
/** Rivals that are looked at. */
const MOST_RIVALS = 6;

interface Font {
  bytes: Uint8Array;
  face: number;
}

const areaOf = (polygons: readonly (readonly Point[])[]): number => {
  let sum = 0;
  for (const polygon of polygons) {
    for (const [i, [x, y]] of polygon.entries()) {
      const [px, py] = polygon[i === 0 ? polygon.length - 1 : i - 1]!;
      sum += (px * y - x * py) / 2;
    }
  }
  return Math.abs(sum);
};
/** How differently two fonts set a word, a letter on average: where its edges lie, and how much ink it takes, in ems. */
function differenceOf(a: SetWords, b: SetWords): number {
  if (a.letters.length !== b.letters.length) return 1;
  const sum = a.letters.reduce((total, { box, polygons }, i) => {
    const other = b.letters[i]!;
    const shift = box.x0 - other.box.x0;
    const sides = Math.abs(box.x1 - other.box.x1 - shift) + Math.abs(box.y0 - other.box.y0) + Math.abs(box.y1 - other.box.y1);
    return total + sides + Math.abs(areaOf(polygons) - areaOf(other.polygons));
  }, 0);
  return sum / a.letters.length;
}

/** Two words in which a font differs most from the rival that is nearest to it there; empty when there are none it can set. */
export function tellingWords(wanted: Font, rivals: readonly Font[]): string {
  const scored = ORDINARY.flatMap((word) => {
    const own = setWords(wanted.bytes, wanted.face, word);
    if (!own) return [];
    const others = rivals.slice(0, MOST_RIVALS).flatMap(({ bytes, face }) => setWords(bytes, face, word) ?? []);
    return [{ word, least: others.length === 0 ? 0 : Math.min(...others.map((other) => differenceOf(own, other))) }];
  });
  return scored
    .sort((a, b) => b.least - a.least)
    .slice(0, 2)
    .map(({ word }) => word)
    .join(" ");
}
