// Which faces look like one face: the same comparison as with a picture, of all letters of its script, with the face's own measures as what is seen.
import { LETTERS, type MeasuredScript } from "../faces/alphabet.ts";
import { bottomOf, topOf, widthOf } from "../faces/face-shape.ts";
import type { FaceIndex } from "../faces/index-of-faces.ts";
import { FORM_SIZE } from "../faces/letter-form.ts";
import { ALIKENESS, type Alikeness } from "./said.ts";
import { shortlist, type Near, type SeenLetter } from "./shortlist.ts";

/**
 * How far apart two faces are at most to be called so. Chosen by eye on 2,200 faces of Debian packages: of the designs listed in
 * tests/reference/match-cases.ts three of four have a version of themselves nearer than 0.08. There is no outside measure of it.
 */
const LIMITS: Record<Alikeness, number> = { same: 0.06, near: 0.115, manner: 0.165 };
export const alikenessOf = (distance: number): Alikeness | undefined => ALIKENESS.find((one) => distance <= LIMITS[one]);

/** A face's own letters, as if they had been seen. */
function lettersSeen(index: FaceIndex, face: number, script: MeasuredScript): SeenLetter[] {
  return LETTERS[script].flatMap((code, i): SeenLetter[] => {
    const own = index.letter(face, script, i);
    if (!own) return [];
    const { table, at } = own;
    const form = table.slice(at, at + FORM_SIZE);
    return [
      {
        letter: String.fromCodePoint(code),
        form,
        weight: 1,
        box: { x0: 0, x1: widthOf(table, at), y0: topOf(table, at), y1: bottomOf(table, at) },
      },
    ];
  });
}

/** Scripts a face is compared in: Latin, and those whose fonts mostly have Latin only beside; the others where it has no Latin. */
function comparedScripts(index: FaceIndex, face: number): MeasuredScript[] {
  const own = index.scriptsOf(face);
  const main = own.filter((script) => script === "latin" || script === "hebrew" || script === "arabic");
  return main.length > 0 ? main : own.slice(0, 1);
}

/** A face without letters of a script the other has counts as so far off there. */
const LACKING = 0.2;
/** Other faces in the order of their nearness to one; those of `leftOut` are passed over. */
export function alikeFaces(index: FaceIndex, face: number, leftOut: (face: number) => boolean): Near[] {
  const scripts = comparedScripts(index, face);
  const sums = new Map<number, { sum: number; count: number }>();
  for (const script of scripts) {
    for (const { face: other, distance } of shortlist(index, lettersSeen(index, face, script), Infinity)) {
      if (other === face || leftOut(other)) continue;
      const one = sums.get(other) ?? { sum: 0, count: 0 };
      sums.set(other, { sum: one.sum + distance, count: one.count + 1 });
    }
  }
  return [...sums]
    .map(([other, { sum, count }]) => ({ face: other, distance: (sum + (scripts.length - count) * LACKING) / scripts.length }))
    .sort((a, b) => a.distance - b.distance);
}
