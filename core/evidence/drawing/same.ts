// Whether two outlines are one drawing: every part of each lies on the other's edge.
import { boxAround, type Box, type Point } from "./geometry.ts";

// Taken once: they are asked millions of times for one file.
const { abs, ceil, floor, hypot, max, min } = Math;

export type Polygon = readonly Point[];
export interface Shape {
  polygons: readonly Polygon[];
  box: Box;
}
export const shapeOf = (polygons: readonly Polygon[]): Shape | undefined => {
  const real = polygons.filter((polygon) => polygon.length > 2);
  const box = boxAround(real.flat());
  return box.x0 < box.x1 || box.y0 < box.y1 ? { polygons: real, box } : undefined;
};

/**
 * In ems. A program rewritten for a page has its points rounded to a thousandth and its curves of another degree; what differs by more is
 * another drawing. Found on fonts rewritten by several producers.
 */
const NEAR = 0.003;
/** How densely an edge is looked at, in ems. */
const STEP = 0.02;
const MOST_POINTS = 3000;

/** Edges in columns, so that only those near a point are measured. */
class Edges {
  private readonly columns = new Map<number, [Point, Point][]>();
  constructor(shape: Shape) {
    for (const polygon of shape.polygons) {
      for (const [i, point] of polygon.entries()) {
        const before = polygon[i === 0 ? polygon.length - 1 : i - 1]!;
        const [from, to] = before[0] < point[0] ? [before[0], point[0]] : [point[0], before[0]];
        for (let column = floor((from - NEAR) / STEP); column <= floor((to + NEAR) / STEP); column++) {
          const list = this.columns.get(column);
          if (list) list.push([before, point]);
          else this.columns.set(column, [[before, point]]);
        }
      }
    }
  }
  touches([x, y]: Point): boolean {
    for (const [[ax, ay], [bx, by]] of this.columns.get(floor(x / STEP)) ?? []) {
      const [dx, dy] = [bx - ax, by - ay];
      const square = dx * dx + dy * dy;
      const t = square === 0 ? 0 : max(0, min(1, ((x - ax) * dx + (y - ay) * dy) / square));
      if (abs(x - ax - t * dx) <= NEAR && abs(y - ay - t * dy) <= NEAR) return true;
    }
    return false;
  }
}

function* edgePoints(shape: Shape): Generator<Point> {
  let given = 0;
  for (const polygon of shape.polygons) {
    for (const [i, point] of polygon.entries()) {
      const before = polygon[i === 0 ? polygon.length - 1 : i - 1]!;
      const parts = max(1, ceil(hypot(point[0] - before[0], point[1] - before[1]) / STEP));
      for (let part = 1; part <= parts; part++) {
        if (++given > MOST_POINTS) return;
        yield [before[0] + ((point[0] - before[0]) * part) / parts, before[1] + ((point[1] - before[1]) * part) / parts];
      }
    }
  }
}

const edges = new WeakMap<Shape, Edges>();
const edgesOf = (shape: Shape): Edges => {
  let known = edges.get(shape);
  if (!known) edges.set(shape, (known = new Edges(shape)));
  return known;
};
const onEdge = (shape: Shape, other: Edges): boolean => {
  for (const point of edgePoints(shape)) if (!other.touches(point)) return false;
  return true;
};

export const sameBox = (a: Box, b: Box): boolean =>
  abs(a.x0 - b.x0) <= NEAR && abs(a.x1 - b.x1) <= NEAR && abs(a.y0 - b.y0) <= NEAR && abs(a.y1 - b.y1) <= NEAR;

/** Both in ems, y upwards. */
export const sameShape = (a: Shape, b: Shape): boolean => sameBox(a.box, b.box) && onEdge(a, edgesOf(b)) && onEdge(b, edgesOf(a));

/** A drawing made larger or smaller, from its origin. */
export const scaledShape = ({ polygons, box }: Shape, by: number): Shape => ({
  polygons: polygons.map((polygon) => polygon.map(([x, y]): Point => [x * by, y * by])),
  box: { x0: box.x0 * by, y0: box.y0 * by, x1: box.x1 * by, y1: box.y1 * by },
});
