// Asks fontconfig's fc-scan what it makes of font files: the judge for names, weight, width, slant and characters.
import { execFileSync } from "node:child_process";

const FIELDS = [
  "file",
  "index",
  "family",
  "familylang",
  "style",
  "stylelang",
  "fullname",
  "fullnamelang",
  "lang",
  "postscriptname",
  "weight",
  "width",
  "slant",
  "spacing",
  "fontversion",
  "variable",
  "fontformat",
  "charset",
] as const;
export type Scanned = Record<(typeof FIELDS)[number], string>;

export function fcScan(paths: string[]): Scanned[] {
  const format = FIELDS.map((field) => `%{${field}}`).join("\\x1f".replace("\\x1f", "\u001f")) + "\u001e";
  const text = execFileSync("fc-scan", ["--format", format, ...paths], { encoding: "utf8", maxBuffer: 1 << 28 });
  return text
    .split("\u001e")
    .filter(Boolean)
    .map((row) => Object.fromEntries(row.split("\u001f").map((value, i) => [FIELDS[i], value])) as Scanned);
}

/** Flat pairs of first and last code point from fontconfig's "20-7e a0" form. */
export function charsetRanges(charset: string): number[] {
  return charset
    .split(" ")
    .filter(Boolean)
    .flatMap((range) => {
      const [first, last] = range.split("-");
      return [parseInt(first!, 16), parseInt(last ?? first!, 16)];
    });
}

// usWeightClass against fontconfig's own scale (fontconfig, fcweight.c; values from memory).
const weightMap: readonly (readonly [openType: number, fontconfig: number])[] = [
  [0, 0],
  [100, 0],
  [200, 40],
  [300, 50],
  [350, 55],
  [380, 75],
  [400, 80],
  [500, 100],
  [600, 180],
  [700, 200],
  [800, 205],
  [900, 210],
  [1000, 215],
];

/** usWeightClass on fontconfig's scale, linear between its fixed points. */
export function fontconfigWeight(openType: number): number {
  for (let i = 1; i < weightMap.length; i++) {
    const [x1, y1] = weightMap[i]!;
    const [x0, y0] = weightMap[i - 1]!;
    if (openType <= x1) return y0 + ((openType - x0) * (y1 - y0)) / (x1 - x0);
  }
  return 215;
}

/** usWidthClass in per cent (OpenType specification, OS/2, usWidthClass), as fontconfig rounds it. */
export const widthPercent = [0, 50, 63, 75, 87, 100, 113, 125, 150, 200];
