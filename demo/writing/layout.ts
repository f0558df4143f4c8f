// Kerning and ligatures of drawn fonts: how close two letters may stand is measured on their outlines; what is joined is one glyph.
import type { DrawnGlyph } from "../drawing/pen.ts";

/** Heights a letter's edge is measured at. */
const STEP = 20;
const [LOW, HIGH] = [-200, 760];

/** How far a glyph reaches to the left or right at each height; undefined where it has no ink. */
function edge({ outline }: DrawnGlyph, side: "left" | "right"): (number | undefined)[] {
  const reach: (number | undefined)[] = new Array<number | undefined>(Math.ceil((HIGH - LOW) / STEP)).fill(undefined);
  for (const contour of outline)
    for (const [i, a] of contour.entries()) {
      const b = contour[(i + 1) % contour.length]!;
      const [low, high] = a.y < b.y ? [a, b] : [b, a];
      for (let k = Math.max(0, Math.ceil((low.y - LOW) / STEP)); k < reach.length && LOW + k * STEP <= high.y; k++) {
        const t = high.y === low.y ? 0 : (LOW + k * STEP - low.y) / (high.y - low.y);
        const x = low.x + (high.x - low.x) * t;
        const known = reach[k];
        reach[k] = known === undefined ? x : side === "left" ? Math.min(known, x) : Math.max(known, x);
      }
    }
  return reach;
}

/** Room between two letters where they come nearest, and on the average of their heights. */
function room(left: DrawnGlyph, right: DrawnGlyph): { nearest: number; average: number } {
  const [a, b] = [edge(left, "right"), edge(right, "left")];
  const gaps = a.flatMap((x, k) => {
    const y = b[k];
    return x === undefined || y === undefined ? [] : [left.advance - x + y];
  });
  if (gaps.length === 0) return { nearest: 120, average: 120 };
  // Open room counts only so far: an eye does not see into it deeper.
  const seen = gaps.map((gap) => Math.min(gap, 160));
  return { nearest: Math.min(...gaps), average: seen.reduce((sum, gap) => sum + gap, 0) / seen.length };
}

/** Pairs that stand further apart than two upright stems do, and by how much they move together; by their characters. */
export function kerning(
  glyphs: ReadonlyMap<number, DrawnGlyph>,
  letters: readonly number[],
  most = 90,
): [left: number, right: number, units: number][] {
  // Upright stems of the same case are what others are held against: H and n.
  const stemOf = (code: number): DrawnGlyph => glyphs.get(code < 0x61 ? 0x48 : 0x6e)!;
  return letters.flatMap((left) =>
    letters.flatMap((right): [number, number, number][] => {
      const stems = room(stemOf(left), stemOf(right));
      const { nearest, average } = room(glyphs.get(left)!, glyphs.get(right)!);
      const units = Math.round(Math.min(average - stems.average, nearest - stems.nearest * 0.55, most) / 2) * 2;
      return units >= 12 ? [[left, right, -units]] : [];
    }),
  );
}
