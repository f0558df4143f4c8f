// Bridges of stencils: strips of the background left across a letter, so that what a counter holds stays where it is.
import { movedBy, polygonOf, transformed, type Contour } from "./curve.ts";
import { polygonsOf } from "./join.ts";
import type { Piece } from "./pieces.ts";

/** The middle of a strip, how it lies (0: across the page, 90: up and down), and how long it is; millimetres, degrees. */
export interface Bridge {
  x: number;
  y: number;
  degrees: number;
  lengthMm: number;
}

const FINE_MM = 0.02;
/** A strip reaches so far beyond both sides of what it crosses. */
const BEYOND_MM = 0.3;

/** A strip as a contour. */
export function stripOf({ x, y, degrees, lengthMm }: Bridge, widthMm: number): Contour {
  const [w, h] = [lengthMm / 2 + BEYOND_MM, widthMm / 2];
  const box = polygonOf([
    [-w, -h],
    [w, -h],
    [w, h],
    [-w, h],
  ]);
  const angle = (degrees * Math.PI) / 180;
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return movedBy(transformed(box, [c, s, -s, c, 0, 0]), x, y);
}

/** Where a line through (x, y) crosses polygons, as distances along it, in order. */
function crossings(polygons: readonly ArrayLike<number>[], x: number, y: number, dx: number, dy: number): number[] {
  const found: number[] = [];
  for (const polygon of polygons) {
    const n = polygon.length;
    for (let i = 0; i < n; i += 2) {
      const [ax, ay, bx, by] = [polygon[i]! - x, polygon[i + 1]! - y, polygon[(i + 2) % n]! - x, polygon[(i + 3) % n]! - y];
      const [sa, sb] = [dx * ay - dy * ax, dx * by - dy * bx];
      if (sa > 0 === sb > 0) continue;
      const t = sa / (sa - sb);
      found.push((ax + t * (bx - ax)) * dx + (ay + t * (by - ay)) * dy);
    }
  }
  return found.sort((a, b) => a - b);
}

/** Two bridges for every counter, on opposite sides where the way out is shortest; each crosses one wall of material. */
export function proposeBridges(pieces: readonly Piece[]): Bridge[] {
  const all = polygonsOf(
    pieces.flatMap(({ outer, counters }) => [outer, ...counters]),
    FINE_MM,
  );
  return pieces.flatMap(({ counters }) =>
    counters.flatMap((counter): Bridge[] => {
      const [own] = polygonsOf([counter], FINE_MM);
      let [x, y] = [0, 0];
      for (let i = 0; i < own!.length; i += 2) {
        x += own![i]!;
        y += own![i + 1]!;
      }
      [x, y] = [(2 * x) / own!.length, (2 * y) / own!.length];
      const ways: { bridge: Bridge; angle: number }[] = [];
      for (let angle = 0; angle < 360; angle += 15) {
        const [dx, dy] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
        const left = crossings([own!], x, y, dx, dy).findLast((at) => at > 0);
        const wall = left === undefined ? undefined : crossings(all, x, y, dx, dy).find((at) => at > left + 1e-6);
        if (left === undefined || wall === undefined) continue;
        const middle = (left + wall) / 2;
        ways.push({ angle, bridge: { x: x + dx * middle, y: y + dy * middle, degrees: angle % 180, lengthMm: wall - left } });
      }
      // Two that face each other hold best: the pair with the least to cross.
      let best: Bridge[] = [];
      let least = Infinity;
      for (const one of ways)
        for (const other of ways) {
          if (other.angle !== one.angle + 180) continue;
          const sum = one.bridge.lengthMm + other.bridge.lengthMm;
          // Upright ones read best in letters: others must save something.
          const cost = sum * (one.angle === 90 ? 1 : 1.25);
          if (cost < least) [best, least] = [[one.bridge, other.bridge], cost];
        }
      return best.length > 0 ? best : ways.slice(0, 1).map(({ bridge }) => bridge);
    }),
  );
}

/** A bridge through the material nearest to where somebody tapped, lying the shortest way across it; undefined where there is none. */
export function bridgeAt(contours: readonly Contour[], x: number, y: number): Bridge | undefined {
  const polygons = polygonsOf(contours, FINE_MM);
  let best: Bridge | undefined;
  for (let angle = 0; angle < 180; angle += 5) {
    const [dx, dy] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
    const found = crossings(polygons, x, y, dx, dy);
    const after = found.findIndex((at) => at > 0);
    // Inside material an odd number of outlines lies before the place.
    if (after < 1 || after % 2 === 0) continue;
    const [from, to] = [found[after - 1]!, found[after]!];
    if (best && best.lengthMm <= to - from) continue;
    const middle = (from + to) / 2;
    best = { x: x + dx * middle, y: y + dy * middle, degrees: angle, lengthMm: to - from };
  }
  return best;
}
