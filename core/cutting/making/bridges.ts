// Bridges of stencils: strips of the background left across a letter, so that what a counter holds stays where it is.
import { movedBy, polygonOf, transformed, type Contour } from "../outlines/curve.ts";
import { insideOf } from "../outlines/inside.ts";
import { polygonsOf } from "../outlines/join.ts";
import type { Piece } from "../findings/pieces.ts";

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

/** A way out of a counter: across one wall of material, to another counter of its piece (by number) or to the outside (−1). */
interface Way {
  angle: number;
  to: number;
  bridge: Bridge;
}
/** Directions that are tried, degrees apart. */
const TURN = 15;
/** Upright bridges read best in letters: others must save something. */
const SLANTED = 1.25;

function waysFrom(own: ArrayLike<number>, polygons: readonly ArrayLike<number>[], counters: readonly Contour[]): Way[] {
  let [x, y] = [0, 0];
  for (let i = 0; i < own.length; i += 2) {
    x += own[i]!;
    y += own[i + 1]!;
  }
  [x, y] = [(2 * x) / own.length, (2 * y) / own.length];
  const ways: Way[] = [];
  for (let angle = 0; angle < 360; angle += TURN) {
    const [dx, dy] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
    const left = crossings([own], x, y, dx, dy).findLast((at) => at > 0);
    const wall = left === undefined ? undefined : crossings(polygons, x, y, dx, dy).find((at) => at > left + 1e-6);
    if (left === undefined || wall === undefined) continue;
    const middle = (left + wall) / 2;
    const beyond = [x + dx * (wall + 1e-3), y + dy * (wall + 1e-3)] as const;
    const to = counters.findIndex((counter) => insideOf(counter, ...beyond));
    ways.push({ angle, to, bridge: { x: x + dx * middle, y: y + dy * middle, degrees: angle % 180, lengthMm: wall - left } });
  }
  return ways;
}

/**
 * Bridges that leave nothing inside: for every counter two that face each other where the way out is shortest, or one, or where a counter lies behind
 * others, one to a neighbour that is held. Each crosses one wall of material.
 */
export function proposeBridges(pieces: readonly Piece[]): Bridge[] {
  return pieces.flatMap(({ outer, counters }) => {
    const polygons = polygonsOf([outer, ...counters], FINE_MM);
    const ways = counters.map((_, i) => waysFrom(polygons[i + 1]!, polygons, counters));
    const bridges: Bridge[] = [];
    const held = new Set([-1]);
    for (let found = true; found;) {
      found = false;
      counters.forEach((_, i) => {
        if (held.has(i)) return;
        const out = ways[i]!.filter(({ to }) => held.has(to));
        const cost = ({ angle, bridge }: Way) => bridge.lengthMm * (angle % 180 === 90 ? 1 : SLANTED);
        const pairs = out.flatMap((one) => out.filter((other) => other.angle === one.angle + 180).map((other) => [one, other]));
        const sum = (pair: Way[]) => pair.reduce((whole, one) => whole + cost(one), 0);
        const best = [...pairs].sort((a, b) => sum(a) - sum(b))[0] ?? [...out].sort((a, b) => cost(a) - cost(b)).slice(0, 1);
        if (best.length === 0) return;
        bridges.push(...best.map(({ bridge }) => bridge));
        held.add(i);
        found = true;
      });
    }
    return bridges;
  });
}

/** Whether a strip lies across a sheet's material, from edge to edge: one that ends within it would only make a hole. */
export function liesAcross({ x, y, degrees, lengthMm }: Bridge, contours: readonly Contour[]): boolean {
  const angle = (degrees * Math.PI) / 180;
  const far = lengthMm / 2 + BEYOND_MM;
  return [far, -far].every((at) => {
    const [px, py] = [x + Math.cos(angle) * at, y + Math.sin(angle) * at];
    return contours.filter((contour) => insideOf(contour, px, py)).length % 2 === 0;
  });
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
