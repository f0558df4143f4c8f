// Letters moved until they just touch.
import { boxOf, type Contour } from "../outlines/curve.ts";
import { polygonsOf } from "../outlines/join.ts";

const FINE_MM = 0.02;
/** Heights at which letters are compared, in so many parts of the taller one. */
const HEIGHTS = 240;
/** They overlap by so much, so that they hold together, millimetres. */
export const HOLD_MM = 0.1;

/** How far each letter reaches to the left and right at every height, millimetres. */
interface Profile {
  left: Float64Array;
  right: Float64Array;
}
function profileOf(contours: readonly Contour[], top: number, step: number): Profile {
  const [left, right] = [new Float64Array(HEIGHTS).fill(Infinity), new Float64Array(HEIGHTS).fill(-Infinity)];
  for (const polygon of polygonsOf(contours, FINE_MM))
    for (let i = 0; i < polygon.length; i += 2) {
      const n = polygon.length;
      const [ax, ay, bx, by] = [polygon[i]!, polygon[i + 1]!, polygon[(i + 2) % n]!, polygon[(i + 3) % n]!];
      const [from, to] = [Math.min(ay, by), Math.max(ay, by)].map((y) => Math.floor((y - top) / step)) as [number, number];
      for (let k = Math.max(0, from); k <= Math.min(HEIGHTS - 1, to); k++) {
        // Only as much of the edge as lies at this height.
        const x = (y: number) => ax + ((Math.min(Math.max(y, Math.min(ay, by)), Math.max(ay, by)) - ay) / (by - ay)) * (bx - ax);
        const [xa, xb] = ay === by ? [ax, bx] : [x(top + k * step), x(top + (k + 1) * step)];
        left[k] = Math.min(left[k]!, xa, xb);
        right[k] = Math.max(right[k]!, xa, xb);
      }
    }
  return { left, right };
}

/**
 * How far to move each letter to the right so that every one touches the one before it: `letters` from left to right; an empty one (a space) keeps its
 * distance, and the letter after it begins anew. Letters that share no height stand box to box.
 */
export function untilTheyTouch(letters: readonly (readonly Contour[])[]): number[] {
  const whole = boxOf(letters.flat());
  const step = Math.max(1e-6, (whole.bottom - whole.top) / HEIGHTS);
  const moves: number[] = [];
  let moved = 0;
  let before: { profile: Profile; right: number } | undefined;
  for (const letter of letters) {
    if (letter.length === 0) {
      before = undefined;
      moves.push(moved);
      continue;
    }
    const profile = profileOf(letter, whole.top, step);
    const box = boxOf(letter);
    if (before) {
      let apart = Infinity;
      for (let k = 0; k < HEIGHTS; k++) apart = Math.min(apart, profile.left[k]! - before.profile.right[k]!);
      const gap = Number.isFinite(apart) ? apart : box.left - before.right;
      moved -= gap + HOLD_MM;
    }
    moves.push(moved);
    // What stands after this letter is compared where it stood before both were moved: gaps between neighbours do not change with them.
    before = { profile, right: box.right };
  }
  return moves;
}
