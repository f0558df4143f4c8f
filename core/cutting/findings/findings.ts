// What is worth knowing before the blade goes down, each with its place and what to do about it.
import { begun, listWords } from "../../words/words.ts";
import type { CutSheet } from "../drawing.ts";
import { TOLERANCE_MM } from "../outlines/flat.ts";
import type { CutFinding } from "./kinds.ts";
import type { Letter } from "../making/letters.ts";
import { boxOf, polygonOf, type Box, type Contour } from "../outlines/curve.ts";
import { insideOf } from "../outlines/inside.ts";
import type { Polygon } from "../outlines/judge.ts";
import { polygonsOf } from "../outlines/join.ts";
import { offsetPolygons } from "../making/offset.ts";
import { piecesOf, sharpPoints, type Piece } from "./pieces.ts";
import type { CutSettings } from "../settings.ts";
import { thinPlaces, type Thin } from "./thin.ts";

/** A piece smaller than this gets lost between table and tweezers, square millimetres. Common practice, no source. */
const TINY_MM2 = 4;
const MOST_LARGER = 400;
const FINE_MM = 0.02;

const mm = (value: number): string => `${value < 10 ? Math.round(value * 100) / 100 : value.toFixed(1)} mm`;
const quoted = (letters: readonly Letter[]): string[] =>
  [...new Set(letters.map(({ text }) => text).filter((text) => text.trim() !== ""))].map((text) => `“${text}”`);

/** The letters that cover a place. */
const lettersAt = (letters: readonly Letter[], x: number, y: number): Letter[] =>
  letters.filter(({ contours, box }) => {
    if (x < box.left || x > box.right || y < box.top || y > box.bottom) return false;
    return contours.filter((contour) => insideOf(contour, x, y)).length > 0;
  });

/** A place within a polygon: where a line through its middle height is inside for longest. */
function within(polygon: Polygon): [x: number, y: number] {
  let [top, bottom] = [Infinity, -Infinity];
  for (let i = 1; i < polygon.length; i += 2) {
    top = Math.min(top, polygon[i]!);
    bottom = Math.max(bottom, polygon[i]!);
  }
  const y = top + (bottom - top) * 0.5 + 1e-7;
  const xs: number[] = [];
  for (let i = 0; i < polygon.length; i += 2) {
    const [ax, ay, bx, by] = [polygon[i]!, polygon[i + 1]!, polygon[(i + 2) % polygon.length]!, polygon[(i + 3) % polygon.length]!];
    if (ay > y !== by > y) xs.push(ax + ((y - ay) / (by - ay)) * (bx - ax));
  }
  xs.sort((a, b) => a - b);
  let [best, at] = [-1, polygon[0]!];
  for (let i = 0; i + 1 < xs.length; i += 2) if (xs[i + 1]! - xs[i]! > best) [best, at] = [xs[i + 1]! - xs[i]!, (xs[i]! + xs[i + 1]!) / 2];
  return [at, y];
}

function overlapFindings(sheet: number, regions: readonly Polygon[], letters: readonly Letter[], joined: boolean): CutFinding[] {
  return regions.map((region): CutFinding => {
    const [x, y] = within(region);
    const [one, other] = quoted(lettersAt(letters, x, y));
    const words = other ? `${one} and ${other} overlap.` : one ? `The outlines of ${one} overlap.` : "Outlines overlap.";
    const next = joined ? "Joined in this cut." : "The blade would cut through them: join them, or give the letters more space.";
    return { kind: "overlap", sheet, x, y, words, next, mm: null };
  });
}

/** `sizeMm`: what the person set, to say how much larger it would have to be. */
function thinFindings(sheet: number, kind: "part" | "gap", places: readonly Thin[], limitMm: number, stencil: boolean): CutFinding[] {
  return places.map(({ x, y, widthMm }): CutFinding => {
    const larger = Math.ceil((limitMm / widthMm) * 100);
    // Nobody makes it so much larger.
    const scale = larger <= MOST_LARGER ? `make it ${larger} % as large` : "";
    const or = (...ways: string[]): string => {
      const said = ways.filter((way) => way !== "");
      return `${begun(listWords(said, "or"))}.`;
    };
    if (kind === "part" || stencil)
      return {
        kind: kind === "part" ? "thin" : "gap",
        sheet,
        x,
        y,
        mm: widthMm,
        words: kind === "part" ? `Only ${mm(widthMm)} thick here.` : `Only ${mm(widthMm)} is left between the letters here.`,
        next: or(scale, "choose a bolder style"),
      };
    return {
      kind: "gap",
      sheet,
      x,
      y,
      mm: widthMm,
      words: `A gap of only ${mm(widthMm)} here.`,
      next: or("give the letters more space", "join them", scale),
    };
  });
}

function pieceFindings(sheet: number, pieces: readonly Piece[], letters: readonly Letter[], stencil: boolean): CutFinding[] {
  const found: CutFinding[] = [];
  // A letter that is in several pieces: all but the largest come loose.
  const homes = new Map<Piece, Letter[]>();
  for (const letter of letters) {
    const own = new Set<Piece>();
    for (const contour of letter.contours) {
      const [x, y] = [contour[0]![0]!, contour[0]![1]!];
      const home = pieces.find(
        ({ outer, box }) =>
          x >= box.left - 0.01 &&
          x <= box.right + 0.01 &&
          y >= box.top - 0.01 &&
          y <= box.bottom + 0.01 &&
          holds(outer, box, x, y, contour),
      );
      if (home) own.add(home);
    }
    if (own.size < 2) continue;
    const largest = [...own].reduce((most, piece) => (piece.areaMm2 > most.areaMm2 ? piece : most));
    for (const piece of own) if (piece !== largest) homes.set(piece, [...(homes.get(piece) ?? []), letter]);
  }
  for (const piece of pieces) {
    const { box, areaMm2, counters } = piece;
    const [x, y] = within(polygonsOf([piece.outer], FINE_MM)[0]!);
    const long = Math.max(box.right - box.left, box.bottom - box.top);
    const [letter] = quoted(homes.get(piece) ?? []);
    if (areaMm2 < TINY_MM2)
      found.push({
        kind: "tiny",
        sheet,
        x,
        y,
        mm: long,
        words: `A piece of only ${mm(box.right - box.left)} by ${mm(box.bottom - box.top)}${letter ? `, part of ${letter}` : ""}.`,
        next: "It is easily lost: leave it out, or make all of it larger.",
      });
    else if (letter)
      found.push({
        kind: "loose",
        sheet,
        x,
        y,
        mm: long,
        words: `A part of ${letter} is loose.`,
        next: "It must be placed by itself: carry all of it over together, or put a backing under it.",
      });
    if (stencil)
      for (const counter of counters) {
        const inner = boxOf([counter]);
        const middle = [(inner.left + inner.right) / 2, (inner.top + inner.bottom) / 2] as const;
        const [around] = quoted(lettersAt(letters, ...middle));
        found.push({
          kind: "falls-out",
          sheet,
          x: middle[0],
          y: middle[1],
          mm: Math.max(inner.right - inner.left, inner.bottom - inner.top),
          words: `The inside of ${around ?? "a letter"} falls out when the background is cut.`,
          next: "Put a bridge there.",
        });
      }
  }
  return found;
}
/** Whether a piece holds a contour that was joined into it: the contour's first point lies in it or on its edge. */
function holds(outer: Contour, box: Piece["box"], x: number, y: number, contour: Contour): boolean {
  if (insideOf(outer, x, y)) return true;
  const own = boxOf([contour]);
  const [mx, my] = [(own.left + own.right) / 2, (own.top + own.bottom) / 2];
  if (insideOf(outer, mx, my)) return true;
  // On the very edge: a little way into its own box.
  const [nx, ny] = [x + (mx - x) * 1e-3, y + (my - y) * 1e-3];
  return (
    insideOf(outer, nx, ny) ||
    (own.left >= box.left - 0.01 &&
      own.right <= box.right + 0.01 &&
      own.top >= box.top - 0.01 &&
      own.bottom <= box.bottom + 0.01 &&
      insideOf(outer, x + 0.005, y + 0.005))
  );
}

const sharpFindings = (sheet: number, contours: readonly Contour[]): CutFinding[] =>
  sharpPoints(contours).map(({ x, y, degrees }) => ({
    kind: "sharp",
    sheet,
    x,
    y,
    mm: null,
    words: `A point of ${Math.max(1, Math.round(degrees))}°.`,
    next: "Its tip may tear or lift: cut it slowly, or choose a rounder style.",
  }));

/** Counted a hair wider and narrower: pieces that only touch are told. */
function touching(sheet: number, contours: readonly Contour[], pieces: readonly Piece[]): CutFinding[] {
  const HAIR_MM = 0.01;
  const outers = (polygons: readonly (readonly [number, number])[][]) =>
    piecesOf(polygons.map((points) => polygonOf(points))).map(({ outer }) => boxOf([outer]));
  const within = (inner: Box, outer: Box) =>
    inner.left >= outer.left - 0.02 &&
    inner.right <= outer.right + 0.02 &&
    inner.top >= outer.top - 0.02 &&
    inner.bottom <= outer.bottom + 0.02;
  const told = (box: Box, words: string): CutFinding => ({
    kind: "touches",
    sheet,
    x: (box.left + box.right) / 2,
    y: (box.top + box.bottom) / 2,
    mm: null,
    words,
    next: "Move them together until they overlap, or further apart.",
  });
  const wider = outers(offsetPolygons(contours, HAIR_MM));
  const narrower = outers(offsetPolygons(contours, -HAIR_MM));
  const found: CutFinding[] = [];
  if (wider.length < pieces.length) {
    const boxes = pieces.map(({ outer }) => boxOf([outer]));
    for (const box of wider) {
      const own = boxes.filter((one) => within(one, box)).length;
      if (own > 1) found.push(told(box, `${own} pieces almost touch here: a hair wider, and they are one.`));
    }
  }
  if (narrower.length > pieces.length)
    for (const piece of pieces) {
      const box = boxOf([piece.outer]);
      const own = narrower.filter((one) => within(one, box)).length;
      if (own > 1) found.push(told(box, `This piece hangs together by a hair: a little narrower, and it is ${own} pieces.`));
    }
  return found;
}

/** All that is to be known of a sheet. */
export function findingsOf(sheet: CutSheet, i: number, settings: CutSettings): CutFinding[] {
  const { contours, pieces, letters, overlaps, overlapsAfter } = sheet;
  const clean = overlapsAfter === 0 && sheet.joined;
  const found = overlapFindings(i, overlaps, letters, clean && settings.join !== "nothing");
  if (!sheet.joined) {
    const { left, top } = boxOf(sheet.raw);
    found.push({
      kind: "unjoined",
      sheet: i,
      x: left,
      y: top,
      mm: null,
      words: "These outlines could not be joined so that the result is certain to be right.",
      next: "Change the size or spacing a little, join word by word, or choose another style.",
    });
  }
  // Outlines that still lie over one another have no thickness to speak of.
  if (!clean) return found;
  const polygons = polygonsOf(contours, TOLERANCE_MM);
  const thin = (kind: "part" | "gap") =>
    thinFindings(i, kind, thinPlaces(polygons, kind, settings.limitMm), settings.limitMm, settings.stencil);
  found.push(...thin("part"), ...thin("gap"));
  if (sheet.kind === "letters") found.push(...pieceFindings(i, pieces, letters, settings.stencil), ...sharpFindings(i, contours));
  found.push(...touching(i, contours, pieces));
  return found;
}
