// 'glyf': TrueType outlines, simple and composite (OpenType specification, "glyf — Glyph Data").
import { ProblemError } from "../problem.ts";
import type { Loca } from "./loca.ts";
import type { Contour, Outline, Segment } from "./outline.ts";
import type { View } from "./view.ts";

const ON_CURVE = 0x01;
const X_SHORT = 0x02;
const Y_SHORT = 0x04;
const REPEAT = 0x08;
const X_SAME_OR_POSITIVE = 0x10;
const Y_SAME_OR_POSITIVE = 0x20;

const ARGS_ARE_WORDS = 0x0001;
const ARGS_ARE_XY = 0x0002;
const HAS_SCALE = 0x0008;
const MORE_COMPONENTS = 0x0020;
const HAS_XY_SCALE = 0x0040;
const HAS_TWO_BY_TWO = 0x0080;

/** Real composites are two deep at most; a loop is deeper than this. */
const DEEPEST = 6;
/** Components of one glyph, counted through all depths. */
const MOST_COMPONENTS = 256;
/** Points of one glyph, those of its components each time they are used. The busiest glyphs of real fonts have some ten thousand. */
const MOST_POINTS = 200_000;

const damaged = (): ProblemError =>
  new ProblemError(
    "glyf-damaged",
    "The outline of a glyph is damaged.",
    "Download it again; if it stays like this, ask whoever made it for a mended copy.",
  );

interface Point {
  x: number;
  y: number;
  on: boolean;
}

/** Off-curve points that follow one another have an on-curve point half-way between them. */
function contourOf(points: readonly Point[]): Contour | undefined {
  if (points.length === 0) return undefined;
  const between = (a: Point, b: Point): Point => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2, on: true });
  const first = points.findIndex((point) => point.on);
  const start = first >= 0 ? points[first]! : between(points[0]!, points.at(-1)!);
  const ring = first >= 0 ? [...points.slice(first + 1), ...points.slice(0, first)] : points;
  const segments: Segment[] = [];
  let control: Point | undefined;
  for (const point of [...ring, start]) {
    if (!point.on) {
      if (control) {
        const middle = between(control, point);
        segments.push([control.x, control.y, middle.x, middle.y]);
      }
      control = point;
    } else {
      segments.push(control ? [control.x, control.y, point.x, point.y] : [point.x, point.y]);
      control = undefined;
    }
  }
  return { startX: start.x, startY: start.y, segments };
}

function simple(view: View, contours: number, room: { points: number }): Outline {
  const ends: number[] = [];
  for (let i = 0; i < contours; i++) {
    ends.push(view.u16(10 + 2 * i));
    if (i > 0 && ends[i]! < ends[i - 1]!) throw damaged();
  }
  const count = (ends.at(-1) ?? -1) + 1;
  if ((room.points -= count) < 0) throw damaged();
  let at = 12 + 2 * contours + view.u16(10 + 2 * contours);
  const flags: number[] = [];
  while (flags.length < count) {
    const flag = view.u8(at++);
    let repeat = (flag & REPEAT) !== 0 ? view.u8(at++) : 0;
    for (flags.push(flag); repeat > 0 && flags.length < count; repeat--) flags.push(flag);
  }
  const coordinates = (short: number, same: number): number[] => {
    let value = 0;
    return flags.map((flag) => {
      if ((flag & short) !== 0) value += (flag & same) !== 0 ? view.u8(at++) : -view.u8(at++);
      else if ((flag & same) === 0) {
        value += view.i16(at);
        at += 2;
      }
      return value;
    });
  };
  const xs = coordinates(X_SHORT, X_SAME_OR_POSITIVE);
  const ys = coordinates(Y_SHORT, Y_SAME_OR_POSITIVE);
  const points = flags.map((flag, i): Point => ({ x: xs[i]!, y: ys[i]!, on: (flag & ON_CURVE) !== 0 }));
  return ends.flatMap((end, i) => contourOf(points.slice(i === 0 ? 0 : ends[i - 1]! + 1, end + 1)) ?? []);
}

type Matrix = readonly [xx: number, yx: number, xy: number, yy: number, dx: number, dy: number];

function moved(outline: Outline, [xx, yx, xy, yy, dx, dy]: Matrix): Outline {
  const pair = (x: number, y: number): [number, number] => [xx * x + xy * y + dx, yx * x + yy * y + dy];
  return outline.map((contour) => {
    const [startX, startY] = pair(contour.startX, contour.startY);
    const segments = contour.segments.map((segment) => {
      const out: number[] = [];
      for (let i = 0; i < segment.length; i += 2) out.push(...pair(segment[i]!, segment[i + 1]!));
      return out as unknown as Segment;
    });
    return { startX, startY, segments };
  });
}

/**
 * Reads a glyph's outline, components put in place. Points that anchor one component to another's point are rare and read as
 * no shift. Throws a `ProblemError` ("glyf-damaged", "font-truncated").
 */
export function readGlyph(glyf: View, loca: Loca, glyph: number): Outline {
  let components = 0;
  const room = { points: MOST_POINTS };
  const read = (number: number, depth: number): Outline => {
    if (number >= loca.glyphs || depth > DEEPEST || ++components > MOST_COMPONENTS) throw damaged();
    const [start, end] = [loca.start(number), loca.end(number)];
    if (end < start) throw damaged();
    if (end === start) return [];
    const view = glyf.part(start, end - start);
    const contours = view.i16(0);
    if (contours >= 0) return simple(view, contours, room);
    const outline: Outline = [];
    let flags: number;
    let at = 10;
    do {
      flags = view.u16(at);
      const component = view.u16(at + 2);
      at += 4;
      const words = (flags & ARGS_ARE_WORDS) !== 0;
      const signedByte = (byte: number) => (byte << 24) >> 24;
      const args = words ? [view.i16(at), view.i16(at + 2)] : [signedByte(view.u8(at)), signedByte(view.u8(at + 1))];
      at += words ? 4 : 2;
      const f2dot14 = () => {
        at += 2;
        return view.i16(at - 2) / 16384;
      };
      let [xx, yx, xy, yy] = [1, 0, 0, 1];
      if ((flags & HAS_SCALE) !== 0) xx = yy = f2dot14();
      else if ((flags & HAS_XY_SCALE) !== 0) [xx, yy] = [f2dot14(), f2dot14()];
      else if ((flags & HAS_TWO_BY_TWO) !== 0) [xx, yx, xy, yy] = [f2dot14(), f2dot14(), f2dot14(), f2dot14()];
      const [dx, dy] = (flags & ARGS_ARE_XY) !== 0 ? [args[0]!, args[1]!] : [0, 0];
      outline.push(...moved(read(component, depth + 1), [xx, yx, xy, yy, dx, dy]));
    } while ((flags & MORE_COMPONENTS) !== 0);
    return outline;
  };
  return read(glyph, 0);
}
