// Where lines of lettering may stand in a whole picture: ink darker or lighter than what is around it, in pieces of like height beside one another.
import type { Colours } from "../../evidence/image.ts";
import type { Frame } from "./framed.ts";
import { regionsIn, smaller, standsOut, type Box, type Paper, type Piece } from "./standing-out.ts";
import { tiltOf } from "./tilt.ts";

const { cos, floor, max, min, round, sin, sqrt } = Math;

const LOOKED_AT = 1200;
const MOST_OFFERED = 8;
const MOST_PIECES = 6000;
/** Windows the ground is taken from, as parts of the picture's longer side. */
const WINDOWS = [1 / 40, 1 / 12];

interface Found {
  frame: Frame;
  score: number;
  box: Box;
}

/** Frames around lines of lettering, the likeliest first, in the picture's pixels. Empty when none is found; people draw their own then. */
export function linesOf(picture: Colours): Frame[] {
  const shrunk = max(1, max(picture.width, picture.height) / LOOKED_AT);
  const [width, height] = [max(1, floor(picture.width / shrunk)), max(1, floor(picture.height / shrunk))];
  const light = smaller(picture, width, height, shrunk);
  const looks = WINDOWS.flatMap((part) => {
    const reach = max(6, round(max(width, height) * part));
    return ([1, -1] as const).map((way) => {
      const paper = { light, width, height, shrunk, way };
      const regions = regionsIn(standsOut(light, width, height, reach, way), paper);
      const lines = grouped(pieces(regions, width, height), paper);
      return { regions, lines, paper, best: max(0, ...lines.map(({ score }) => score)) };
    });
  });
  // What may stand around the best line is looked for where that was found.
  const [likeliest] = [...looks].sort((a, b) => b.best - a.best);
  const alone = likeliest && onlyLine(likeliest.regions, likeliest.lines, likeliest.paper);
  const found = [...looks.flatMap(({ lines }) => lines), ...(alone ? [alone] : [])];
  found.sort((a, b) => b.score - a.score);
  const kept: Found[] = [];
  for (const one of found) {
    if (kept.length === MOST_OFFERED) break;
    if (!kept.some((other) => shared(one.box, other.box) > 0.35)) kept.push(one);
  }
  return kept.map(({ frame }) => frame);
}

/** So much of a picture's ink must lie in its best line; where less does, and all of it stands in one row, that row is the line. */
const MOSTLY = 0.85;
/** A row is so many times as long as it is high, at least. */
const ROW = 1.4;
/** Specks are so much smaller than the largest piece. */
const SPECK = 0.03;
/** The one row of ink a picture holds, where its letters are in parts, or joined to shapes that are no letters by themselves. */
function onlyLine(regions: readonly Piece[], lines: readonly Found[], { width, height, shrunk }: Paper): Found | undefined {
  const largest = max(0, ...regions.map(({ area }) => area));
  const ink = regions.filter(({ area, x0, x1, y0, y1 }) => area > SPECK * largest && (x1 - x0 < 0.97 * width || y1 - y0 < 0.9 * height));
  if (ink.length === 0 || ink.length > MOST_IN_ROW) return undefined;
  const [x0, y0] = [min(...ink.map((one) => one.x0)), min(...ink.map((one) => one.y0))];
  const [x1, y1] = [max(...ink.map((one) => one.x1)), max(...ink.map((one) => one.y1))];
  const [wide, tall] = [x1 - x0, y1 - y0];
  if (tall < 10 || wide < ROW * tall) return undefined;
  const best = [...lines].sort((a, b) => b.score - a.score)[0];
  const all = ink.reduce((sum, { area }) => sum + area, 0);
  const scaled = ({ x0, y0, x1, y1, area }: Box): Box => ({ x0: x0 * shrunk, y0: y0 * shrunk, x1: x1 * shrunk, y1: y1 * shrunk, area });
  const inside = best ? ink.filter((one) => shared(scaled(one), best.box) > 0.9).reduce((sum, { area }) => sum + area, 0) : 0;
  if (inside > MOSTLY * all || parted(ink, y0, y1) || widestGap(ink) > WORDS_APART * tall) return undefined;
  const heights = ink
    .filter(({ area }) => area > 0.05 * largest)
    .map((one) => one.y1 - one.y0)
    .sort((a, b) => a - b);
  const line = along(ink, tiltOf(ink, heights[floor(heights.length / 2)]!), shrunk);
  return { frame: line.frame, box: line.box, score: max(best?.score ?? 0, sqrt(tall) * sqrt(wide)) * 1.01 };
}
function widestGap(ink: readonly Box[]): number {
  let [end, widest] = [Infinity, 0];
  for (const { x0, x1 } of [...ink].sort((a, b) => a.x0 - b.x0)) {
    widest = max(widest, x0 - end);
    end = end === Infinity ? x1 : max(end, x1);
  }
  return widest;
}
/** More pieces are a page. */
const MOST_IN_ROW = 400;
/** Whether an empty row parts the ink into two lines of like height; dots and accents are no line. */
function parted(ink: readonly Box[], top: number, bottom: number): boolean {
  const filled = new Uint8Array(bottom - top);
  for (const { y0, y1 } of ink) filled.fill(1, y0 - top, y1 - top);
  const runs = [0];
  for (const one of filled) {
    if (one === 1) runs[runs.length - 1]!++;
    else if (runs.at(-1)! > 0) runs.push(0);
  }
  return runs.filter((length) => length > max(...runs) / 2).length > 1;
}

function pieces(regions: readonly Piece[], width: number, height: number): Piece[] {
  const found = regions.filter(({ x0, x1, y0, y1, area }) => {
    const [w, h] = [x1 - x0, y1 - y0];
    return h >= 8 && h <= 0.75 * height && w <= 0.97 * width && w / h < 14 && h / w < 14 && area / (w * h) > 0.07;
  });
  return found.sort((a, b) => b.area - a.area).slice(0, MOST_PIECES);
}

function grouped(all: readonly Piece[], paper: Paper): Found[] {
  const boxes = [...all].sort((a, b) => a.x0 - b.x0);
  const parent = boxes.map((_, i) => i);
  const root = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]!]!;
    return i;
  };
  for (let i = 0; i < boxes.length; i++) {
    const a = boxes[i]!;
    const high = a.y1 - a.y0;
    for (let j = i + 1; j < boxes.length && boxes[j]!.x0 - a.x1 < 2.2 * high; j++) {
      const b = boxes[j]!;
      const other = b.y1 - b.y0;
      const ratio = high / other;
      const overlap = min(a.y1, b.y1) - max(a.y0, b.y0);
      if (ratio < 0.4 || ratio > 2.5 || overlap < 0.45 * min(high, other) || b.x0 - a.x1 > 0.8 * max(high, other)) continue;
      parent[root(j)] = root(i);
    }
  }
  const groups = new Map<number, Piece[]>();
  for (const [i, box] of boxes.entries()) groups.set(root(i), [...(groups.get(root(i)) ?? []), box]);
  return [...groups.values(), ...sentencesOf([...groups.values()])].flatMap((group) => {
    const one =
      group.length >= 2
        ? lineOf(group, paper)
        : group[0]!.x1 - group[0]!.x0 > 2.5 * (group[0]!.y1 - group[0]!.y0)
          ? lineOf(group, paper)
          : undefined;
    return one ?? [];
  });
}

/** Words that stand further apart than letters do, as spaces of one width have it: so far at most, in heights of a letter. */
const WORDS_APART = 2.2;
const LIKE_HIGH = 1.6;
/** Groups that stand beside one another on one line, taken together. */
function sentencesOf(groups: readonly Piece[][]): Piece[][] {
  const words = groups
    .map((boxes) => {
      const heights = boxes.map(({ y0, y1 }) => y1 - y0).sort((a, b) => a - b);
      const y0 = min(...boxes.map((one) => one.y0));
      const y1 = max(...boxes.map((one) => one.y1));
      return {
        boxes,
        high: heights[floor(heights.length / 2)]!,
        x0: min(...boxes.map((one) => one.x0)),
        x1: max(...boxes.map((one) => one.x1)),
        y0,
        y1,
      };
    })
    .sort((a, b) => a.x0 - b.x0);
  const lines: (typeof words)[] = [];
  for (const word of words) {
    const line = lines.find((one) => {
      const last = one.at(-1)!;
      const tall = max(last.y1 - last.y0, word.y1 - word.y0);
      const overlap = min(last.y1, word.y1) - max(last.y0, word.y0);
      const ratio = (last.y1 - last.y0) / (word.y1 - word.y0);
      return (
        word.x0 - last.x1 <= WORDS_APART * max(last.high, word.high) &&
        word.x0 > last.x0 &&
        ratio < LIKE_HIGH &&
        ratio > 1 / LIKE_HIGH &&
        overlap > 0.55 * tall
      );
    });
    if (line) line.push(word);
    else lines.push([word]);
  }
  return lines.filter((line) => line.length > 1).map((line) => line.flatMap(({ boxes }) => boxes));
}

/** A frame along a group's tilt, with room around. */
function along(group: readonly Box[], angle: number, shrunk: number): { frame: Frame; box: Box; wide: number; tall: number } {
  const n = group.length;
  const [mx, my] = [
    group.reduce((sum, { x0, x1 }) => sum + (x0 + x1) / 2, 0) / n,
    group.reduce((sum, { y0, y1 }) => sum + (y0 + y1) / 2, 0) / n,
  ];
  const [c, s] = [cos(angle), sin(angle)];
  let [u0, v0, u1, v1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { x0, y0, x1, y1 } of group) {
    // Pieces are about upright: their middles are turned, their sizes kept.
    const [u, v] = [((x0 + x1) / 2 - mx) * c + ((y0 + y1) / 2 - my) * s, -((x0 + x1) / 2 - mx) * s + ((y0 + y1) / 2 - my) * c];
    u0 = min(u0, u - (x1 - x0) / 2);
    u1 = max(u1, u + (x1 - x0) / 2);
    v0 = min(v0, v - (y1 - y0) / 2);
    v1 = max(v1, v + (y1 - y0) / 2);
  }
  const [wide, tall] = [u1 - u0, v1 - v0];
  const room = max(3, 0.14 * tall);
  const at = (u: number, v: number) => [round((mx + u * c - v * s) * shrunk), round((my + u * s + v * c) * shrunk)] as const;
  const frame: Frame = [at(u0 - room, v0 - room), at(u1 + room, v0 - room), at(u1 + room, v1 + room), at(u0 - room, v1 + room)];
  const box = {
    x0: min(...frame.map(([x]) => x)),
    y0: min(...frame.map(([, y]) => y)),
    x1: max(...frame.map(([x]) => x)),
    y1: max(...frame.map(([, y]) => y)),
    area: 0,
  };
  return { frame, box, wide, tall };
}

function lineOf(group: readonly Piece[], paper: Paper): Found | undefined {
  const heights = group.map(({ y0, y1 }) => y1 - y0).sort((a, b) => a - b);
  const high = heights[floor(heights.length / 2)]!;
  const n = group.length;
  const { frame, box, wide, tall } = along(group, tiltOf(group, high), paper.shrunk);
  if (wide < 1.2 * high || tall > 3.2 * high) return undefined;
  // What only shines around letters, or lies in them, is as light as the ground further off.
  const ink = group.reduce((sum, { light, area }) => sum + light * area, 0) / group.reduce((sum, { area }) => sum + area, 0);
  const contrast = paper.way * (groundAlong(frame, paper) - ink);
  if (contrast <= 0) return undefined;
  const letters = group.filter(({ y0, y1 }) => y1 - y0 > 0.5 * high && y1 - y0 < 2 * high).length;
  return { frame, box, score: (letters / n) * sqrt(tall) * sqrt(wide) * min(1, letters / 4) * min(1, contrast / CONTRAST) };
}
/** Letters that stand out less than this from their ground are less likely ones. */
const CONTRAST = 0.12;
const LOOKED_ALONG = 24;
/** How light it is along a frame's edge, in the middle of what is there. */
function groundAlong(frame: Frame, { light, width, height, shrunk }: Paper): number {
  const found: number[] = [];
  for (const [i, [x0, y0]] of frame.entries()) {
    const [x1, y1] = frame[(i + 1) % 4]!;
    for (let k = 0; k < LOOKED_ALONG; k++) {
      const [x, y] = [(x0 + ((x1 - x0) * k) / LOOKED_ALONG) / shrunk, (y0 + ((y1 - y0) * k) / LOOKED_ALONG) / shrunk];
      found.push(light[max(0, min(height - 1, floor(y))) * width + max(0, min(width - 1, floor(x)))]!);
    }
  }
  return found.sort((a, b) => a - b)[floor(found.length / 2)]!;
}

function shared(a: Box, b: Box): number {
  const [w, h] = [min(a.x1, b.x1) - max(a.x0, b.x0), min(a.y1, b.y1) - max(a.y0, b.y0)];
  if (w <= 0 || h <= 0) return 0;
  return (w * h) / min((a.x1 - a.x0) * (a.y1 - a.y0), (b.x1 - b.x0) * (b.y1 - b.y0));
}
