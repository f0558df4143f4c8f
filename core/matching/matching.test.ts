// Matching on shapes whose truth is known by geometry: filling, forms, frames, pieces, parting, alikeness, what is said.
import { describe, expect, test } from "@jest/globals";
import type { Colours } from "../evidence/image.ts";
import { ALPHABETS, LETTERS, scriptOfText, slotOf } from "./faces/alphabet.ts";
import { alikeFaces, alikenessOf } from "./answer/alike.ts";
import { boxOfFlat, rasterOf } from "./faces/coverage-raster.ts";
import { differences } from "./answer/differs.ts";
import { LETTER_BYTES, topOf, bottomOf, widthOf } from "./faces/face-shape.ts";
import { frameAround, framedPart, homographyOf, placeIn, turnedPart, type Frame } from "./picture/framed.ts";
import { FaceIndex } from "./faces/index-of-faces.ts";
import { blurred, layOver, type Target } from "./answer/lay-over.ts";
import { FORM_SIZE, formDistance, formOfOutline, formOfPixels } from "./faces/letter-form.ts";
import { linesOf } from "./picture/lines.ts";
import { MANNER_PATTERN, MANNER_SCALES, mannerBounds, stepOf } from "./faces/manner-steps.ts";
import { seeLine } from "./answer/match.ts";
import { groupsOf, inkedPieces, letterInk } from "./picture/pieces-of-ink.ts";
import { gapsAfter, partedInto, segmentsAsSeen } from "./picture/segments.ts";
import { lettersOf, type SetLetter } from "./faces/set-line.ts";
import { shortlist } from "./answer/shortlist.ts";
import { likenessOf, verdictOf } from "./answer/verdict.ts";

const square = (x: number, y: number, w: number, h: number): number[] => [x, y, x + w, y, x + w, y + h, x, y + h];
const disc = (cx: number, cy: number, r: number, parts = 96): number[] =>
  Array.from({ length: parts }, (_, i) => [
    cx + r * Math.cos((2 * Math.PI * i) / parts),
    cy + r * Math.sin((2 * Math.PI * i) / parts),
  ]).flat();
const hole = (points: number[]): number[] => {
  const found: number[] = [];
  for (let i = points.length - 2; i >= 0; i -= 2) found.push(points[i]!, points[i + 1]!);
  return found;
};
const sum = (ink: Float32Array): number => ink.reduce((all, one) => all + one, 0);
const form = (polygons: number[][]): Int8Array => {
  const out = new Int8Array(FORM_SIZE);
  formOfOutline(polygons, out, 0);
  return out;
};
/** Letters made of simple shapes, an em square each, y downwards from the baseline. */
const SHAPES: Record<string, number[][]> = {
  l: [square(0, -0.7, 0.1, 0.7)],
  o: [disc(0.25, -0.25, 0.25), hole(disc(0.25, -0.25, 0.15))],
  n: [square(0, -0.5, 0.1, 0.5), square(0.3, -0.5, 0.1, 0.5), square(0, -0.5, 0.4, 0.1)],
  t: [square(0.1, -0.6, 0.1, 0.6), square(0, -0.5, 0.3, 0.08)],
  H: [square(0, -0.7, 0.1, 0.7), square(0.4, -0.7, 0.1, 0.7), square(0, -0.4, 0.5, 0.1)],
};

/** A face's Latin table, of the letters above. */
function tableOf(scaleX = 1, heavy = 0): Int8Array {
  const table = new Int8Array(LETTERS.latin.length * LETTER_BYTES).fill(-128);
  const stored = (value: number) => Math.max(0, Math.min(255, Math.round((value / 2) * 255))) - 128;
  for (const [letter, polygons] of Object.entries(SHAPES)) {
    const at = slotOf(letter)!.at * LETTER_BYTES;
    const moved = polygons.map((points) => points.map((value, i) => (i % 2 === 0 ? value * scaleX : value)));
    const all = heavy > 0 ? [...moved, square(0, -0.2, heavy * scaleX, 0.2)] : moved;
    const box = formOfOutline(all, table, at)!;
    table[at + FORM_SIZE] = stored(0.6 - box.y0);
    table[at + FORM_SIZE + 1] = stored(0.6 - box.y1);
    table[at + FORM_SIZE + 2] = stored(box.x1 - box.x0);
  }
  return table;
}

describe("filling", () => {
  test("ink is the area covered, to parts of a pixel, holes left out", () => {
    expect(sum(rasterOf([square(1.25, 2.5, 3.5, 4.25)], 10, 10, 1, 1, 0, 0))).toBeCloseTo(3.5 * 4.25, 4);
    const ring = rasterOf([disc(16, 16, 12), hole(disc(16, 16, 6))], 32, 32, 1, 1, 0, 0);
    expect(sum(ring)).toBeCloseTo(Math.PI * (144 - 36), -0.5);
    expect(ring[16 * 32 + 16]).toBeCloseTo(0, 6);
  });
  test("what overlaps itself is filled once, and what lies outside is cut off", () => {
    expect(sum(rasterOf([square(0, 0, 6, 6), square(3, 3, 6, 6)], 9, 9, 1, 1, 0, 0))).toBeCloseTo(36 + 36 - 9, 3);
    expect(sum(rasterOf([square(-5, -5, 100, 100)], 8, 8, 1, 1, 0, 0))).toBeCloseTo(64, 3);
    expect(sum(rasterOf([square(20, 20, 5, 5)], 8, 8, 1, 1, 0, 0))).toBe(0);
  });
  test("slanted edges cover what they should, over many pixels", () => {
    const triangle = rasterOf([[0, 0, 20, 0, 0, 10]], 20, 10, 1, 1, 0, 0);
    expect(sum(triangle)).toBeCloseTo(100, 3);
    expect(boxOfFlat([[0, 0, 20, 0, 0, 10]])).toEqual({ x0: 0, y0: 0, x1: 20, y1: 10 });
  });
});

describe("the form of a letter", () => {
  test("does not depend on its size or place, but on its shape", () => {
    const one = form(SHAPES["o"]!);
    const larger = form(SHAPES["o"]!.map((points) => points.map((value, i) => value * 7 + (i % 2 === 0 ? 3 : -2))));
    expect(formDistance(one, 0, larger, 0)).toBeLessThan(1e-4);
    expect(formDistance(one, 0, form(SHAPES["n"]!), 0)).toBeGreaterThan(0.05);
  });
  test("is the same from an outline and from a picture of it", () => {
    for (const letter of Object.keys(SHAPES)) {
      const scale = 60;
      const ink = rasterOf(SHAPES[letter]!, 80, 80, scale, scale, 20, 60);
      const box = boxOfFlat(SHAPES[letter]!)!;
      const seen = formOfPixels(ink, 80, 80, {
        x0: box.x0 * scale + 20,
        x1: box.x1 * scale + 20,
        y0: box.y0 * scale + 60,
        y1: box.y1 * scale + 60,
      });
      expect([letter, formDistance(seen, 0, form(SHAPES[letter]!), 0) < 0.004]).toEqual([letter, true]);
    }
  });
  test("alphabets have each letter once, and a text's script is that of most of its letters", () => {
    for (const letters of Object.values(ALPHABETS)) expect(new Set(letters).size).toBe([...letters].length);
    expect([scriptOfText("Garden 12"), scriptOfText("Сад 12"), scriptOfText("גינה"), scriptOfText("12")]).toEqual([
      "latin",
      "cyrillic",
      "hebrew",
      "latin",
    ]);
    expect(slotOf("é")).toBeUndefined();
  });
});

/** A picture of shapes in these colours, 60 pixels an em. */
function drawn(
  words: string,
  colours: { letters: number[]; ground: number[] },
  width = 400,
  height = 120,
  warp?: (x: number, y: number) => readonly [number, number],
): Colours {
  const scale = 60;
  let pen = 30;
  const polygons = [...words].flatMap((letter) => {
    const shape = SHAPES[letter]!;
    const own = shape.map((points) => points.map((value, i) => (i % 2 === 0 ? value * scale + pen : value * scale + 80)));
    pen += (boxOfFlat(shape)!.x1 + 0.12) * scale;
    return own;
  });
  const placed = warp
    ? polygons.map((points) => points.flatMap((_, i) => (i % 2 === 0 ? [...warp(points[i]!, points[i + 1]!)] : [])))
    : polygons;
  const ink = rasterOf(placed, width, height, 1, 1, 0, 0);
  const data = new Uint8Array(width * height * 4).fill(255);
  for (let i = 0; i < ink.length; i++)
    for (let c = 0; c < 3; c++) data[4 * i + c] = Math.round(colours.ground[c]! * (1 - ink[i]!) + colours.letters[c]! * ink[i]!);
  return { width, height, data };
}
const BLACK_ON_WHITE = { letters: [20, 20, 20], ground: [255, 255, 255] };

describe("a frame", () => {
  test("leads each corner of the unit square to its corner, and straight lines to straight lines", () => {
    const frame: Frame = [
      [10, 20],
      [210, 40],
      [190, 130],
      [25, 110],
    ];
    const m = homographyOf(frame)!;
    for (const [i, [u, v]] of (
      [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ] as const
    ).entries()) {
      const [x, y] = placeIn(m, u, v);
      expect(x).toBeCloseTo(frame[i]![0], 6);
      expect(y).toBeCloseTo(frame[i]![1], 6);
    }
    const [a, b, c] = [0, 0.37, 1].map((u) => placeIn(m, u, 0.4)) as unknown as [readonly number[], readonly number[], readonly number[]];
    expect((b[0]! - a[0]!) * (c[1]! - a[1]!) - (b[1]! - a[1]!) * (c[0]! - a[0]!)).toBeCloseTo(0, 6);
  });
  test("is refused where its corners do not go round", () => {
    expect(
      homographyOf([
        [0, 0],
        [100, 0],
        [0, 100],
        [100, 100],
      ]),
    ).toBeUndefined();
    expect(
      homographyOf([
        [0, 0],
        [0, 0],
        [0, 0],
        [0, 0],
      ]),
    ).toBeUndefined();
  });
  test.each([
    ["dark on light", BLACK_ON_WHITE],
    ["light on dark", { letters: [255, 255, 255], ground: [20, 20, 20] }],
    ["colours of one lightness", { letters: [220, 60, 60], ground: [60, 140, 60] }],
  ])("%s: letters are ink, the ground is none", (_how, colours) => {
    const part = framedPart(drawn("noHt", colours), frameAround(15, 20, 250, 80))!;
    const pieces = inkedPieces(part.grey, part.limit)!;
    expect(groupsOf(pieces).length).toBe(4);
    for (const c of [0, 1, 2]) expect(Math.abs(part.colours.ground[c]! - colours.ground[c]!)).toBeLessThan(12);
  });
  test("a picture without letters has nothing in it", () => {
    expect(framedPart(drawn("", BLACK_ON_WHITE), frameAround(0, 0, 300, 100))).toBeUndefined();
    expect(framedPart(drawn("no", BLACK_ON_WHITE), frameAround(0, 0, 300, 6))).toBeUndefined();
  });
  test("four corners make straight what was seen askew", () => {
    const straight = framedPart(drawn("noHt", BLACK_ON_WHITE), frameAround(10, 20, 260, 80))!;
    const corners: Frame = [
      [30, 30],
      [360, 10],
      [380, 110],
      [20, 90],
    ];
    const m = homographyOf(corners)!;
    const askew = framedPart(
      drawn("noHt", BLACK_ON_WHITE, 400, 120, (x, y) => placeIn(m, (x - 10) / 260, (y - 20) / 80)),
      corners,
    )!;
    const letters = [straight, askew].map((part) => {
      const inked = inkedPieces(part.grey, part.limit)!;
      return groupsOf(inked).map(({ labels, box }) => {
        const own = letterInk(inked, labels, box)!;
        const { x0, x1, y0, y1 } = own.box;
        return formOfPixels(own.ink, own.width, own.height, { x0: x0 - own.x, x1: x1 - own.x, y0: y0 - own.y, y1: y1 - own.y });
      });
    });
    expect(letters[1]!.length).toBe(4);
    for (const [i, one] of letters[0]!.entries()) expect(formDistance(one, 0, letters[1]![i]!, 0)).toBeLessThan(0.03);
  });
  test("what is brushed over is no ink, and a chosen colour alone is", () => {
    const picture = drawn("noHt", BLACK_ON_WHITE);
    const brushed = framedPart(picture, frameAround(15, 20, 250, 80), [
      {
        points: [
          [42, 50],
          [42, 80],
        ],
        radius: 22,
      },
    ])!;
    expect(groupsOf(inkedPieces(brushed.grey, brushed.limit)!).length).toBe(3);
    const red = drawn("oo", { letters: [220, 30, 30], ground: [240, 240, 240] });
    const both = { ...red, data: Uint8Array.from(red.data) };
    // A blue bar through the frame is of neither colour.
    for (let x = 0; x < 400; x++) for (let y = 92; y < 98; y++) both.data.set([30, 30, 220, 255], 4 * (y * 400 + x));
    const chosen = framedPart(both, frameAround(15, 20, 120, 85), [], [220, 30, 30])!;
    expect(groupsOf(inkedPieces(chosen.grey, chosen.limit)!).length).toBe(2);
  });
  test("turned by half and turned again is as it was", () => {
    const part = framedPart(drawn("noHt", BLACK_ON_WHITE), frameAround(15, 20, 250, 80))!;
    expect(turnedPart(turnedPart(part, "half"), "half").grey).toEqual(part.grey);
    const [x, y] = turnedPart(part, "mirror").place(0, 0);
    expect([x, y]).toEqual([...part.place(part.grey.width, 0)]);
  });
});

describe("lines in a picture", () => {
  test("are found where letters stand beside one another, also askew, and nowhere else", () => {
    const picture = drawn("nonHtonol", BLACK_ON_WHITE, 460);
    const [line] = linesOf(picture);
    const [[x0, y0], , [x1, y1]] = line!;
    expect(x0).toBeLessThan(31);
    expect(y0).toBeLessThan(45);
    expect(x1).toBeGreaterThan(300);
    expect(y1).toBeGreaterThan(79);
    const turned = drawn("nonHton", BLACK_ON_WHITE, 420, 240, (x, y) => [x * 0.97 - y * 0.17 + 20, x * 0.17 + y * 0.97 + 20]);
    const [askew] = linesOf(turned);
    expect(Math.atan2(askew![1][1] - askew![0][1], askew![1][0] - askew![0][0])).toBeCloseTo(0.174, 1);
    expect(linesOf({ width: 300, height: 200, data: new Uint8Array(300 * 200 * 4).fill(180) })).toEqual([]);
  });
});

describe("letters of known words", () => {
  const lineOf = (words: string) => {
    const part = framedPart(drawn(words, BLACK_ON_WHITE, 460), frameAround(15, 20, 420, 80))!;
    return inkedPieces(part.grey, part.limit)!;
  };
  const usual = (letter: string) => {
    const box = boxOfFlat(SHAPES[letter]!)!;
    return { width: box.x1 - box.x0, top: box.y0, bottom: box.y1 };
  };
  test("that stand apart are the pieces", () => {
    const found = partedInto(lineOf("noHtl"), [..."noHtl"].map(usual))!;
    expect(found.segments.map(({ rough }) => rough)).toEqual([false, false, false, false, false]);
    expect(found.cost).toBe(0);
  });
  test("that touch are cut, and are said to be cut", () => {
    const inked = lineOf("noHtl");
    const joined = { ...inked, grey: { ...inked.grey, ink: Float32Array.from(inked.grey.ink) } };
    const middle = Math.round((inked.box.y0 + inked.box.y1) / 2);
    for (let x = Math.round(inked.box.x0); x < inked.box.x1; x++)
      for (let y = middle; y < middle + 3; y++) joined.grey.ink[y * inked.grey.width + x] = 1;
    const one = inkedPieces(joined.grey, 0.5)!;
    expect(groupsOf(one).length).toBe(1);
    const found = partedInto(one, [..."noHtl"].map(usual))!;
    expect(found.segments.length).toBe(5);
    expect(found.segments.some(({ rough }) => rough)).toBe(true);
    for (const [i, { box }] of found.segments.entries()) {
      const own = segmentsAsSeen(inked)[i]!.box;
      expect(Math.abs((box.x0 + box.x1) / 2 - (own.x0 + own.x1) / 2)).toBeLessThan(9);
    }
  });
  test("words that are much too long for the line cannot be parted so, or only at a cost", () => {
    const found = partedInto(lineOf("no"), [..."nonnonnonnon"].map(usual));
    expect(found === undefined || found.cost > 3).toBe(true);
  });
  test("gaps between words are told from those between letters", () => {
    const segments = [0, 30, 60, 120, 150].map((x) => ({ box: { x0: x, x1: x + 24, y0: 0, y1: 40 }, labels: [], rough: false }));
    expect(gapsAfter(segments)).toEqual([false, false, true, false, false]);
  });
  test("stand in their order from left to right, whichever way they are read", () => {
    expect(lettersOf("ab c")).toEqual({ letters: ["a", "b", "c"], order: [0, 1, 2] });
    expect(lettersOf("אבג")).toEqual({ letters: ["א", "ב", "ג"], order: [2, 1, 0] });
    expect(lettersOf("é!").letters).toEqual(["é", "!"]);
  });
});

describe("faces", () => {
  const index = new FaceIndex();
  const [plain, wide, heavy] = [tableOf(), tableOf(1.3), tableOf(1, 0.3)].map((table) => index.add(new Map([["latin", table]])));
  const without = index.add(new Map());
  const seenIn = (face: number) =>
    Object.keys(SHAPES).map((letter) => {
      const { table, at } = index.letter(face, "latin", slotOf(letter)!.at)!;
      const box = { x0: 0, x1: 40 * widthOf(table, at), y0: 40 * topOf(table, at), y1: 40 * bottomOf(table, at) };
      return { letter, form: table.slice(at, at + FORM_SIZE), box, weight: 1 };
    });
  test("are found by their own letters at any size", () => {
    for (const face of [plain!, wide!, heavy!]) {
      const [first, second] = shortlist(index, seenIn(face), 10);
      expect(first!.face).toBe(face);
      expect(first!.distance).toBeLessThan(0.02);
      expect(second!.distance).toBeGreaterThan(0.02);
    }
    expect(shortlist(index, seenIn(plain!), 10).some(({ face }) => face === without)).toBe(false);
    expect(shortlist(index, [], 10)).toEqual([]);
  });
  test("heights and what letters usually measure are kept to a hundredth of an em", () => {
    const { top, bottom, width } = index.usual("H")!;
    expect([top, bottom]).toEqual([expect.closeTo(-0.7, 1.9), expect.closeTo(0, 1.9)]);
    expect(width).toBeGreaterThan(0.49);
    expect(index.usual("ж")).toBeUndefined();
  });
  test("are told apart as look-alikes by how far they are", () => {
    const [near] = alikeFaces(index, plain!, () => false);
    expect(near!.face).toBe(wide);
    expect(alikenessOf(near!.distance)).toBeDefined();
    expect(alikenessOf(0.5)).toBeUndefined();
    expect(alikeFaces(index, plain!, (face) => face === wide).map(({ face }) => face)).toEqual([heavy]);
  });
  test("an index takes little more than the letters themselves", () => {
    const many = new FaceIndex();
    many.reserve("latin", 2000);
    const own = tableOf();
    for (let i = 0; i < 2000; i++) many.add(new Map([["latin", own]]));
    expect(many.bytes / 2000).toBeLessThan(LETTERS.latin.length * LETTER_BYTES * 1.2);
  });
});

describe("what is laid over", () => {
  const letter = (name: string, at: number, dx = 0, change: (points: number[]) => number[] = (points) => points): SetLetter => {
    const polygons = SHAPES[name]!.map((points) => change(points.map((value, i) => (i % 2 === 0 ? value + dx : value))));
    return { first: at, last: at, polygons, box: boxOfFlat(polygons)! };
  };
  const words = [letter("n", 0), letter("o", 1, 0.5), letter("H", 2, 1.1)];
  const scale = 48;
  const target = ((): Target => {
    const polygons = words.flatMap((one) => one.polygons);
    const ink = rasterOf(polygons, 100, 60, scale, scale, 10, 45);
    const places = words.map(({ box }) => ({
      x0: box.x0 * scale + 10,
      x1: box.x1 * scale + 10,
      y0: box.y0 * scale + 45,
      y1: box.y1 * scale + 45,
    }));
    return {
      grey: { width: 100, height: 60, ink },
      box: { x0: 10, x1: 10 + 1.6 * scale, y0: 45 - 0.7 * scale, y1: 45 },
      places,
      rough: [false, false, false],
    };
  })();
  const seen = blurred(target.grey.ink, 100, 60, 0.6);
  test("shares all its ink with its own picture, at the scale it was drawn", () => {
    const laid = layOver(words, target, seen, 0.6)!;
    expect(laid.error).toBeLessThan(0.001);
    expect(laid.scale).toBeCloseTo(scale, 0);
    expect(Math.abs(Math.log(laid.stretch))).toBeLessThan(0.01);
    expect(differences(laid.letters, ["n", "o", "H"], target)).toEqual([]);
  });
  test("a letter of another form is the one that is told of", () => {
    const other = [words[0]!, words[1]!, { ...letter("H", 2, 1.1), polygons: [square(1.1, -0.7, 0.5, 0.7)] }];
    const laid = layOver(other, target, seen, 0.6)!;
    expect(laid.error).toBeGreaterThan(0.1);
    expect(differences(laid.letters, ["n", "o", "H"], target).map((one) => one.letter)).toEqual(["H"]);
  });
  test("a closed counter is named, in one and in several", () => {
    const filled = [words[0]!, { ...letter("o", 1, 0.5), polygons: [disc(0.75, -0.25, 0.25)] }, words[2]!];
    const [told] = differences(layOver(filled, target, seen, 0.6)!.letters, ["n", "o", "H"], target);
    expect(told?.sentence).toBe("Its o has no closed part; the one in the picture has 1 closed part.");
  });
  test("blur keeps ink", () => expect(sum(seen)).toBeCloseTo(sum(target.grey.ink), 0));
});

describe("what is said", () => {
  const laid = { error: 0, letters: [], scale: 60, stretch: 1, spacing: 0, unevenness: 0 };
  const told = (error: number, rival: number | undefined, change: object = {}) =>
    verdictOf({ error, laid: { ...laid, ...(change as object) } }, rival, {
      worst: error,
      letters: 8,
      apart: true,
      typed: true,
      scale: 60,
      ...change,
    });
  test("is sure only where nothing else comes near, letters stand apart and words are known", () => {
    expect(told(0.003, 0.05)).toBe("it");
    expect(told(0.003, undefined)).toBe("it");
    expect(told(0.003, 0.0035)).toBe("relative");
    expect(told(0.003, 0.05, { typed: false })).toBe("relative");
    expect(told(0.003, 0.05, { apart: false })).toBe("relative");
    expect(told(0.003, 0.05, { letters: 3 })).toBe("relative");
    expect(told(0.003, 0.05, { worst: 0.2 })).toBe("relative");
    expect(told(0.003, 0.05, { stretch: 1.1 })).toBe("relative");
    expect([told(0.05, 0.2), told(0.1, 0.2), told(0.4, 0.5)]).toEqual(["relative", "manner", "unlike"]);
  });
  test("likeness falls from one", () => {
    expect(likenessOf(0)).toBe(1);
    expect(likenessOf(0.1)).toBeCloseTo(0.5);
    expect(likenessOf(0.2)).toBeLessThan(likenessOf(0.1));
  });
});

describe("manner in steps", () => {
  test("each value lies in one step, and its bounds hold it", () => {
    for (const scale of MANNER_SCALES) {
      expect(scale.bounds.length).toBe(scale.words.length - 1);
      for (let step = 0; step < scale.words.length; step++) {
        const [{ from, to }] = mannerBounds(`${scale.of}:${step}`) as unknown as [{ from: number; to: number }];
        const value = Math.max(-50, from) + (Math.min(60, to) - Math.max(-50, from)) / 2;
        expect([scale.of, stepOf(scale, value)]).toEqual([scale.of, step]);
      }
    }
  });
  test("what is no scale or no step is passed over", () => {
    expect(mannerBounds("taste:1,weight:9,slant:3").map(({ of }) => of)).toEqual(["slant"]);
    expect(MANNER_PATTERN.test("weight:3,slant:0")).toBe(true);
    expect(MANNER_PATTERN.test("weight:3;drop")).toBe(false);
  });
});

describe("whatever is drawn, brushed or typed", () => {
  test("a frame ends in a reading or in a sentence, never in a fault", () => {
    const index = new FaceIndex();
    index.add(new Map([["latin", tableOf()]]));
    let seed = 7;
    const random = (most: number) => {
      seed = (seed * 48271) % 2147483647;
      return seed % most;
    };
    const pictures = [drawn("nonHt", BLACK_ON_WHITE), noise(160, 90, random), noise(1, 1, random), noise(900, 2, random)];
    const words = ["", "nonHt", "n", "אבג", "a\u0301\u0302\u0303", "🙂🙂🙂", "n".repeat(79), "العربية", "\u202e no \u202c", " "];
    let [read, said] = [0, 0];
    for (let k = 0; k < 240; k++) {
      const picture = pictures[k % pictures.length]!;
      const corner = () => [random(picture.width * 2) - picture.width / 2, random(picture.height * 2) - picture.height / 2] as const;
      const whole = frameAround(0, 0, picture.width, picture.height);
      const frame: Frame = k % 3 === 0 ? whole : [corner(), corner(), corner(), corner()];
      const strokes = Array.from({ length: random(3) }, () => ({ points: [corner(), corner()], radius: 1 + random(40) }));
      const seen = seeLine(
        picture,
        { frame, strokes, colour: random(4) === 0 ? [random(256), 9, 200] : undefined, words: words[random(words.length)]! },
        index,
      );
      if (seen.ok) read++;
      else {
        said++;
        expect(seen.problem.code).toMatch(/^match-/);
      }
    }
    expect([read > 10, said > 10]).toEqual([true, true]);
  });
});
function noise(width: number, height: number, random: (most: number) => number): Colours {
  const data = new Uint8Array(width * height * 4).fill(255);
  for (let i = 0; i < width * height; i++) for (let c = 0; c < 3; c++) data[4 * i + c] = random(256);
  return { width, height, data };
}
