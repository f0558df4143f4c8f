// Whether a point lies within a closed contour.
import { pointAt, type Contour } from "./curve.ts";
import { chordsOf } from "./flat.ts";

const FINE_MM = 0.001;

/** By the number of times the contour passes to the right of the point (even-odd). */
export function insideOf(contour: Contour, x: number, y: number): boolean {
  let inside = false;
  for (const s of contour) {
    const ys = s.filter((_, i) => i % 2 === 1);
    const xs = s.filter((_, i) => i % 2 === 0);
    if (Math.max(...xs) < x || Math.max(...ys) < y || Math.min(...ys) > y) continue;
    const n = chordsOf(s, FINE_MM);
    let [px, py] = [s[0]!, s[1]!];
    for (let k = 1; k <= n; k++) {
      const [qx, qy] = k === n ? [s.at(-2)!, s.at(-1)!] : pointAt(s, k / n);
      if (py > y !== qy > y && px + ((y - py) / (qy - py)) * (qx - px) > x) inside = !inside;
      [px, py] = [qx, qy];
    }
  }
  return inside;
}
