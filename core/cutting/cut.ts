// From a live line to what a machine cuts: letters joined and checked, layers as sheets in their colours, findings with their places.
import { setText } from "../bench/setting.ts";
import { ProblemError } from "../problem.ts";
import { addedBy, backingOf, makeOf, marksAround } from "./making/around.ts";
import { liesAcross, proposeBridges, stripOf, type Bridge } from "./making/bridges.ts";
import { boxOf, isEmptyBox, transformed, united, NO_BOX, type Box, type Contour } from "./outlines/curve.ts";
import { coveredTwice, Flat } from "./outlines/engines.ts";
import { findingsOf } from "./findings/findings.ts";
import { insideOf } from "./outlines/inside.ts";
import { joined, takenAway, type Joined, type NotJoined } from "./outlines/join.ts";
import type { Polygon } from "./outlines/judge.ts";
import { lettersOf, type Letter } from "./making/letters.ts";
import { offset } from "./making/offset.ts";
import { piecesOf, totalsOf } from "./findings/pieces.ts";
import type { SecondEngine } from "./outlines/second-engine.ts";
import { CUT_UNITS, MOST_MM, type CutSettings, type Join } from "./settings.ts";
import type { CutDrawing, CutLayer, CutSheet, LineToCut } from "./drawing.ts";

/** More outline than a person means to cut at once, in points of the flattened letters. */
const MOST_POINTS = 600_000;
const MOST_LETTERS = 5000;

const nothing = (): ProblemError =>
  new ProblemError("nothing-to-cut", "There is no letter in these words that can be cut.", "Type words that this font draws.");

/** The em in millimetres that gives a line the size asked for. Throws a `ProblemError`. */
function emOf(line: LineToCut, { size, touch, underMm }: CutSettings): number {
  const wanted = size.value * CUT_UNITS[size.unit];
  if (!(wanted > 0 && wanted <= MOST_MM))
    throw new ProblemError("cut-size", "The size is out of bounds.", `Give more than 0 and at most ${MOST_MM} mm.`);
  const { of } = size;
  if (of === "capitals" || of === "small") {
    const height = line.layers.map(({ face }) => face.heights[of]).find((one) => one !== undefined && one > 0);
    if (height === undefined)
      throw new ProblemError(
        "cut-no-height",
        `This font has no ${of === "capitals" ? "capitals" : "small letters"} to measure.`,
        "Give the height of the whole instead.",
      );
    return wanted / height;
  }
  // Measured at an em of 100 mm; what is made of letters adds a fixed length to that, and so does touching, which is small against it.
  const AT_MM = 100;
  const boxes = line.layers.flatMap((layer, i) => {
    const own = boxOf(layerLetters(line, layer, AT_MM, touch).letters.flatMap(({ contours }) => contours));
    return isEmptyBox(own) ? [] : [{ own, more: addedBy(layer.made, i < line.layers.length - 1 ? underMm : 0) }];
  });
  const sizeAt = (emMm: number): number => {
    const all = boxes
      .map(({ own, more }) => ({
        left: (own.left * emMm) / AT_MM - more.left,
        top: (own.top * emMm) / AT_MM - more.top,
        right: (own.right * emMm) / AT_MM + more.right,
        bottom: (own.bottom * emMm) / AT_MM + more.bottom,
      }))
      .reduce(united, NO_BOX);
    return of === "whole" ? all.bottom - all.top : all.right - all.left;
  };
  if (boxes.length === 0) throw nothing();
  // It grows with the em: halved until it is exact.
  let [least, most] = [0, AT_MM];
  while (sizeAt(most) < wanted && most < 1e6) most *= 2;
  for (let i = 0; i < 60; i++) {
    const middle = (least + most) / 2;
    if (sizeAt(middle) < wanted) least = middle;
    else most = middle;
  }
  if (!(most > 0.01 && most < 1e6))
    throw new ProblemError(
      "cut-size",
      "What is drawn around the letters alone is larger than that.",
      "Give a larger size, or a narrower contour.",
    );
  return most;
}

function layerLetters(line: LineToCut, layer: CutLayer, emMm: number, touch: boolean) {
  const { face, features, dx, dy } = layer;
  const set = setText(line.text, face, {
    features,
    letterSpacing: line.letterSpacing,
    lineSpacing: line.lineSpacing,
    direction: line.direction,
  });
  const found = lettersOf(set, face, layer.letters, emMm / set.upem, (dx * emMm) / 1000, (-dy * emMm) / 1000, touch);
  return { ...found, missing: set.missing };
}

/** Letters in the groups that are joined. */
function groupsOf(letters: readonly Letter[], join: Join): Letter[][] {
  const groups = new Map<string, Letter[]>();
  letters.forEach((letter, i) => {
    if (letter.contours.length === 0) return;
    const key = join === "letter" ? `${i}` : join === "word" ? `${letter.line} ${letter.word}` : join === "line" ? `${letter.line}` : "";
    groups.set(key, [...(groups.get(key) ?? []), letter]);
  });
  return [...groups.values()];
}

interface Together {
  contours: Contour[];
  engine: Joined["engine"] | "none";
  errorShare: number;
  joined: boolean;
}
const ENGINES = ["none", "first", "letter by letter", "second"] as const;
async function joinGroups(groups: readonly (readonly Letter[])[], emMm: number, second: SecondEngine): Promise<Together> {
  const whole: Together = { contours: [], engine: "none", errorShare: 0, joined: true };
  for (const group of groups) {
    const one: Joined | NotJoined = await joined(
      group.map(({ contours }) => contours),
      emMm,
      second,
    );
    whole.errorShare = Math.max(whole.errorShare, one.judgement.errorShare);
    if (!one.contours) {
      whole.joined = false;
      whole.contours.push(...group.flatMap(({ contours }) => contours));
      continue;
    }
    whole.contours.push(...one.contours);
    if (ENGINES.indexOf(one.engine) > ENGINES.indexOf(whole.engine)) whole.engine = one.engine;
  }
  return whole;
}

interface Part extends Together {
  colour: string;
  raw: Contour[];
  letters: Letter[];
}

/** One layer, colour by colour. */
async function partsOf(
  letters: readonly Letter[],
  layer: CutLayer,
  settings: CutSettings,
  emMm: number,
  second: SecondEngine,
): Promise<Part[]> {
  const colours = [...new Set(letters.filter(({ contours }) => contours.length > 0).map(({ colour }) => colour ?? layer.colour))];
  const parts: Part[] = [];
  for (const colour of colours) {
    const own = letters.filter((letter) => (letter.colour ?? layer.colour) === colour);
    const raw = own.flatMap(({ contours }) => contours);
    const made = layer.made.kind !== "none" && layer.made.mm > 0;
    if (settings.join === "nothing" && !made && settings.hollowMm === 0) {
      parts.push({ colour, raw, letters: own, contours: raw, engine: "none", errorShare: 0, joined: true });
      continue;
    }
    const join = settings.join === "nothing" ? "letter" : settings.join;
    let part = await joinGroups(groupsOf(own, join), emMm, second);
    if (part.joined && made) {
      const grown = await makeOf(part.contours, layer.made, emMm, second);
      part = grown ? { ...part, contours: grown } : { ...part, joined: false };
    }
    if (part.joined && settings.hollowMm > 0) {
      const inner = offset(part.contours, -settings.hollowMm);
      const band = inner.length === 0 ? part.contours : takenAway(part.contours, inner);
      part = band ? { ...part, contours: band } : { ...part, joined: false };
    }
    parts.push({ colour, raw, letters: own, ...part });
  }
  return parts;
}

/** Pieces that hold one of the places, left out. */
const without = (contours: readonly Contour[], places: readonly { x: number; y: number }[]): Contour[] =>
  places.length === 0
    ? [...contours]
    : piecesOf(contours)
        .filter(({ outer }) => !places.some(({ x, y }) => insideOf(outer, x, y)))
        .flatMap(({ outer, counters }) => [outer, ...counters]);

const longestOf = (box: Box): number => (isEmptyBox(box) ? 0 : Math.max(box.right - box.left, box.bottom - box.top));

/** The letters of a line at the size asked for, layer by layer. Throws a `ProblemError` for words that cannot be cut. */
export function lineLetters(
  line: LineToCut,
  settings: CutSettings,
): { emMm: number; layers: { layer: CutLayer; letters: Letter[] }[]; missing: string[]; pictures: string[] } {
  if (line.text.trim() === "") throw new ProblemError("no-words", "There are no words to cut.", "Type some first.");
  if ([...line.text].length > MOST_LETTERS)
    throw new ProblemError("cut-long", `More than ${MOST_LETTERS} characters cannot be cut at once.`, "Cut them in several lines.");
  const emMm = emOf(line, settings);
  const missing = new Set<string>();
  const pictures = new Set<string>();
  const layers = line.layers.map((layer) => {
    const found = layerLetters(line, layer, emMm, settings.touch);
    found.missing.forEach((character) => missing.add(character));
    found.pictures.forEach((character) => pictures.add(character));
    return { layer, letters: found.letters };
  });
  const all = boxOf(layers.flatMap(({ letters }) => letters.flatMap(({ contours }) => contours)));
  if (isEmptyBox(all)) {
    if (pictures.size > 0)
      throw new ProblemError(
        "cut-pictures",
        "This font's letters are pictures, without outlines that a blade could follow.",
        "Choose a font that has outlines.",
      );
    throw nothing();
  }
  if (longestOf(all) > 4 * MOST_MM)
    throw new ProblemError(
      "cut-large",
      `The drawing would be ${(longestOf(all) / 1000).toFixed(1)} m long.`,
      "Make it smaller, or break it into lines.",
    );
  const points = new Flat(
    layers.flatMap(({ letters }) => letters.map(({ contours }) => contours)),
    longestOf(all),
  ).points;
  if (points > MOST_POINTS)
    throw new ProblemError(
      "cut-long",
      "This is more outline than can be checked at once.",
      "Cut it in several lines, or choose a plainer font.",
    );
  return { emMm, layers, missing: [...missing], pictures: [...pictures] };
}

/**
 * Computes a cut. Throws a `ProblemError` for words that cannot be cut, sizes out of bounds, and more outline than can be checked. Work is checked as it is
 * made; what could not be joined right is there as the font draws it, with `joined` false.
 */
export async function cut(line: LineToCut, settings: CutSettings, second: SecondEngine): Promise<CutDrawing> {
  const { emMm, layers, missing, pictures } = lineLetters(line, settings);
  const parts: Part[] = [];
  const topmost = line.layers.length - 1;
  for (const [i, { layer, letters }] of layers.entries())
    for (const part of await partsOf(letters, layer, settings, emMm, second)) {
      const spread = part.joined && i < topmost && settings.underMm !== 0 && settings.join !== "nothing";
      parts.push(spread ? { ...part, contours: offset(part.contours, settings.underMm) } : part);
    }
  const place = ({ x, y }: { x: number; y: number }) => ({ x: (x * emMm) / 1000, y: (y * emMm) / 1000 });
  const leftOut = settings.leftOut.map(place);
  const bridges = settings.bridges.map(({ x, y, degrees, length }): Bridge => ({
    ...place({ x, y }),
    degrees,
    lengthMm: (length * emMm) / 1000,
  }));
  const sheets: CutSheet[] = [];
  for (const colour of new Set(parts.map((part) => part.colour))) {
    const own = parts.filter((part) => part.colour === colour);
    let together: Together = {
      contours: own.flatMap(({ contours }) => contours),
      engine: own.reduce<Together["engine"]>(
        (most, { engine }) => (ENGINES.indexOf(engine) > ENGINES.indexOf(most) ? engine : most),
        "none",
      ),
      errorShare: Math.max(...own.map(({ errorShare }) => errorShare)),
      joined: own.every((part) => part.joined),
    };
    // Layers of one colour are cut from one material.
    if (own.length > 1 && together.joined && settings.join !== "nothing" && settings.join !== "letter") {
      const one = await joined(
        own.map(({ contours }) => contours),
        emMm,
        second,
      );
      together = one.contours
        ? { ...together, contours: one.contours, errorShare: Math.max(together.errorShare, one.judgement.errorShare) }
        : { ...together, joined: false };
    }
    if (together.joined && settings.join !== "nothing") {
      together.contours = without(together.contours, leftOut);
      const strips = settings.stencil ? bridges.filter((bridge) => liesAcross(bridge, together.contours)) : [];
      if (strips.length > 0) {
        const bridged = takenAway(
          together.contours,
          strips.map((bridge) => stripOf(bridge, settings.bridgeMm)),
        );
        together = bridged ? { ...together, contours: bridged } : { ...together, joined: false };
      }
    }
    sheets.push(
      sheetOf(
        colour,
        "letters",
        own.flatMap(({ raw }) => raw),
        own.flatMap(({ letters }) => letters),
        together,
      ),
    );
  }
  const front = sheets.flatMap(({ contours }) => contours);
  const backing = settings.join === "nothing" && settings.backing.shape === "contour" ? await allJoined(front, emMm, second) : front;
  const under = backingOf(settings.backing, backing);
  if (under.length > 0) {
    const one = await joined(
      under.map((contour) => [contour]),
      emMm,
      second,
    );
    const together = { contours: one.contours ?? under, engine: "none" as const, errorShare: 0, joined: one.contours !== undefined };
    sheets.unshift(sheetOf(settings.backing.colour, "backing", under, [], together));
  }
  const drawn = boxOf(sheets.flatMap(({ contours }) => contours));
  const marks = settings.marks ? marksAround(drawn) : [];
  const drawing: CutDrawing = {
    emMm,
    sheets,
    marks,
    box: united(drawn, marks.length > 0 ? boxOf(marks) : NO_BOX),
    findings: sheets.flatMap((sheet, i) => findingsOf(sheet, i, settings)),
    proposed: settings.stencil ? sheets.filter(({ kind }) => kind === "letters").flatMap(({ pieces }) => proposeBridges(pieces)) : [],
    missing,
    pictures,
  };
  return settings.mirror ? mirrored(drawing) : drawing;
}

/** Outlines that nobody joined, for what is drawn around them. */
async function allJoined(contours: readonly Contour[], emMm: number, second: SecondEngine): Promise<Contour[]> {
  const one = await joined(
    contours.map((contour) => [contour]),
    emMm,
    second,
  );
  return one.contours ?? [...contours];
}

function sheetOf(colour: string, kind: CutSheet["kind"], raw: Contour[], letters: Letter[], together: Together): CutSheet {
  const pieces = piecesOf(together.contours);
  const extent = longestOf(boxOf(raw));
  const before =
    kind === "backing"
      ? []
      : coveredTwice(
          new Flat(
            letters.map(({ contours }) => contours),
            extent,
          ),
        );
  const same = together.contours === raw || !together.joined;
  const after = same ? before.length : coveredTwice(new Flat([together.contours], longestOf(boxOf(together.contours)))).length;
  const { engine, errorShare, joined: isJoined, contours } = together;
  return {
    colour,
    kind,
    contours,
    pieces,
    raw,
    letters,
    engine,
    errorShare,
    totals: totalsOf(contours, pieces),
    overlaps: before,
    overlapsAfter: after,
    joined: isJoined,
  };
}

/** Turned over left to right, for what is ironed on or looked at through glass; the box stays where it is. */
function mirrored(drawing: CutDrawing): CutDrawing {
  const sum = drawing.box.left + drawing.box.right;
  const over = (contour: Contour): Contour => transformed(contour, [-1, 0, 0, 1, sum, 0]);
  const polygon = (points: Polygon): Polygon => Array.from(points, (value, i) => (i % 2 === 0 ? sum - value : value));
  return {
    ...drawing,
    sheets: drawing.sheets.map((sheet) => ({
      ...sheet,
      contours: sheet.contours.map(over),
      pieces: sheet.pieces.map((piece) => ({
        ...piece,
        outer: over(piece.outer),
        counters: piece.counters.map(over),
        box: { ...piece.box, left: sum - piece.box.right, right: sum - piece.box.left },
      })),
      raw: sheet.raw.map(over),
      overlaps: sheet.overlaps.map(polygon),
    })),
    marks: drawing.marks.map(over),
    findings: drawing.findings.map((one) => ({ ...one, x: sum - one.x })),
    proposed: drawing.proposed.map((bridge) => ({ ...bridge, x: sum - bridge.x, degrees: (180 - bridge.degrees) % 180 })),
  };
}
