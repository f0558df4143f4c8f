// The demo's fonts: which there are, how each is drawn or where it comes from.
import { readFile } from "node:fs/promises";
import { createRequire } from "node:module";
import { advanceOf, drawGlyph, drawHollow, drawShade, type DrawnGlyph, type Pen } from "./drawing/pen.ts";
import { CAPITALS, HEBREW, LATIN, PICTURES, SIGNS, SMALL, type Skeleton } from "./drawing/skeletons.ts";
import { drawWithNib, type Nib } from "./drawing/nib.ts";
import { kerning } from "./writing/layout.ts";
import type { FontNames } from "./writing/names.ts";
import { writeOpenType } from "./writing/opentype.ts";
import { renamed } from "./writing/rename.ts";
import { packWoff2 } from "./writing/woff2.ts";
import { writeTrueType } from "./writing/truetype.ts";

const OWN = {
  copyright: "© 2026 Fernhollow Seed Walk. Drawn for this demonstration.",
  licence: "Free for any use.",
  version: "1.000",
};
const PERSONAL = { ...OWN, licence: "Free for personal use only. For sold work ask Fernhollow Seed Walk for a commercial licence." };

const codeOf = (character: string): number => character.codePointAt(0)!;

const draw = (skeleton: Skeleton, pen: Pen | Nib): Promise<DrawnGlyph> =>
  "kind" in pen ? drawWithNib(skeleton, pen) : drawGlyph(skeleton, pen);
async function drawAll(skeletons: Record<string, Skeleton>, pen: Pen | Nib): Promise<Map<number, DrawnGlyph>> {
  const glyphs = new Map<number, DrawnGlyph>();
  for (const [character, skeleton] of Object.entries(skeletons)) glyphs.set(codeOf(character), await draw(skeleton, pen));
  return glyphs;
}

interface Plain {
  family: string;
  style?: string;
  pen: Pen | Nib;
  weight?: number;
  letters?: Record<string, Skeleton>;
  names?: Partial<FontNames>;
}

/** A family of one drawn style, or one style of a family. */
async function plainFont({ family, style = "Regular", pen, weight = 400, letters = LATIN, names = {} }: Plain): Promise<Uint8Array> {
  const legacy = (names.legacyStyle ?? style).toLowerCase();
  return writeTrueType({
    names: { family, style, ...OWN, ...names },
    weight,
    italic: /italic/i.test(style),
    bold: legacy.includes("bold"),
    glyphs: await drawAll(letters, pen),
  });
}

/** Small letters that end at the right of their foot: their way on is short. */
const ENDS_RIGHT = new Set("acdehilmntu");
/** Small letters of a connected script: each with a stroke that rises into its neighbour. */
function connected(letters: Record<string, Skeleton>): Record<string, Skeleton> {
  return Object.fromEntries(
    Object.entries(letters).map(([letter, [advance, strokes]]) => {
      if (!SMALL.includes(letter)) return [letter, [advance, strokes]];
      const from = ENDS_RIGHT.has(letter) ? advance - 70 : Math.round(advance * 0.4);
      const join = `M${from} 6 Q${advance - 30} -34 ${advance + 70} 150`;
      return [letter, [advance - 20, `${strokes} ${join}`]];
    }),
  );
}

export async function connectedScript(): Promise<Uint8Array> {
  return plainFont({
    family: "Tendril Script",
    pen: { kind: "pointed", width: 64, thin: 22, slant: 0.34, stretch: 0.8 },
    letters: connected(LATIN),
    names: PERSONAL,
  });
}

const BLOCK: Pen = { width: 150, spacing: 120, square: true };
/** Capitals stand at the small letters' places too. */
const blockLetters = (): Record<string, Skeleton> => ({
  ...Object.fromEntries(
    Object.entries(LATIN).filter(([character]) => CAPITALS.includes(character) || /[0-9]/.test(character) || character in SIGNS),
  ),
  ...Object.fromEntries(SMALL.map((letter) => [letter, LATIN[letter.toUpperCase()]!])),
});

/** A block face and its shade: the same advances, made to be laid over one another in two colours. */
export async function blockPair(): Promise<{ face: Uint8Array; shade: Uint8Array }> {
  const face = await drawAll(blockLetters(), BLOCK);
  const shade = new Map<number, DrawnGlyph>();
  for (const [character, skeleton] of Object.entries(blockLetters())) {
    const drawn = skeleton[1] === "" ? { advance: advanceOf(skeleton, BLOCK), outline: [] } : await drawShade(skeleton, BLOCK, 64, 10);
    shade.set(codeOf(character), drawn);
  }
  const font = (family: string, glyphs: Map<number, DrawnGlyph>) =>
    writeTrueType({ names: { family, style: "Regular", ...OWN }, weight: 800, glyphs });
  return { face: font("Seedbox Block", face), shade: font("Seedbox Block Shade", shade) };
}

/** Capitals in outline, small letters filled. */
export async function hollowCapitals(): Promise<Uint8Array> {
  const pen: Pen = { width: 110, spacing: 70 };
  const glyphs = await drawAll(LATIN, pen);
  for (const capital of CAPITALS) glyphs.set(codeOf(capital), await drawHollow(LATIN[capital]!, pen, 24));
  return writeTrueType({ names: { family: "Trellis Fair", style: "Regular", ...OWN }, weight: 700, glyphs });
}

/** Two members of a symbol family; no picture is in both. */
export async function symbolPair(): Promise<{ one: Uint8Array; two: Uint8Array }> {
  const member = async (style: string, pictures: typeof PICTURES, first: number) => {
    const glyphs = new Map<number, DrawnGlyph>([[0x20, { advance: 300, outline: [] }]]);
    for (const [i, [, picture]] of pictures.entries()) glyphs.set(first + i, await drawGlyph(picture, { width: 44 }));
    const glyphNames = new Map(pictures.map(([name], i) => [first + i, name.replace(" ", "_")]));
    return writeTrueType({ glyphNames, names: { family: `Seedmarks ${style}`, style: "Regular", ...OWN }, weight: 400, glyphs });
  };
  return { one: await member("One", PICTURES.slice(0, 4), 0xe100), two: await member("Two", PICTURES.slice(4), 0xe200) };
}

const hebrewLetters = (): Record<string, Skeleton> => ({
  ...HEBREW,
  ...Object.fromEntries([" ", ".", ",", "-"].map((sign) => [sign, SIGNS[sign]!])),
});
export const hebrewHand = (): Promise<Uint8Array> =>
  plainFont({
    family: "Shvil Hand",
    pen: { kind: "broad", width: 92, thin: 22, angle: -28, slant: 0.12, stretch: 0.86, spacing: 10 },
    letters: hebrewLetters(),
  });

/** A handwriting face in both formats: the same letters, the same widths. */
export async function handwriting(): Promise<{ ttf: Uint8Array; otf: Uint8Array }> {
  const glyphs = await drawAll(LATIN, { kind: "brush", width: 64, thin: 18, slant: 0.16, stretch: 0.9, spacing: 16 });
  const names = { family: "Garden Note", style: "Regular", ...OWN };
  return { ttf: writeTrueType({ names, weight: 400, glyphs }), otf: writeOpenType(names, glyphs) };
}

const nearest = createRequire(import.meta.url);
const packaged = (path: string): Promise<Uint8Array> => readFile(nearest.resolve(path));

/** A text family of four styles and its variable twin, and a Hebrew face without Latin, renamed from open fonts. */
export async function textFamily(): Promise<{ files: Map<string, Uint8Array>; licence: Uint8Array }> {
  const files = new Map<string, Uint8Array>();
  for (const [style, weight, slope] of [
    ["Regular", 400, "normal"],
    ["Bold", 700, "normal"],
    ["Italic", 400, "italic"],
    ["Bold Italic", 700, "italic"],
  ] as const) {
    const packed = await packaged(`@fontsource/petrona/files/petrona-latin-${weight}-${slope}.woff2`);
    files.set(
      `FernhollowText-${style.replace(" ", "")}.ttf`,
      await renamed(packed, { family: "Fernhollow Text", style, version: "1.000" }),
    );
  }
  const variable = await packaged("@fontsource-variable/petrona/files/petrona-latin-wght-normal.woff2");
  files.set("FernhollowTextVF.ttf", await renamed(variable, { family: "Fernhollow Text Variable", style: "Regular", version: "1.000" }));
  return { files, licence: await packaged("@fontsource/petrona/LICENSE") };
}

export async function hebrewText(): Promise<{ file: Uint8Array; licence: Uint8Array }> {
  const packed = await packaged("@fontsource/frank-ruhl-libre/files/frank-ruhl-libre-hebrew-400-normal.woff2");
  return {
    file: await renamed(packed, { family: "Shvil Text", style: "Regular", version: "1.000" }),
    licence: await packaged("@fontsource/frank-ruhl-libre/LICENSE"),
  };
}

const WEIGHTS: readonly (readonly [name: string, weight: number, stroke: number])[] = [
  ["Thin", 100, 14],
  ["ExtraLight", 200, 24],
  ["Light", 300, 36],
  ["Regular", 400, 52],
  ["Medium", 500, 68],
  ["SemiBold", 600, 86],
  ["Bold", 700, 108],
  ["ExtraBold", 800, 128],
  ["Black", 900, 150],
];

/** A family of 18 styles. Programs with four styles a family list most of them as families of their own. */
export async function largeFamily(): Promise<Map<string, Uint8Array>> {
  const files = new Map<string, Uint8Array>();
  for (const [name, weight, width] of WEIGHTS) {
    for (const slanted of [false, true]) {
      const style = slanted ? (name === "Regular" ? "Italic" : `${name} Italic`) : name;
      const four = name === "Regular" || name === "Bold";
      const legacyFamily = four ? "Almanac Field" : `Almanac Field ${name}`;
      const legacyStyle = four ? style : slanted ? "Italic" : "Regular";
      const pen: Pen = { width, spacing: width / 4, stretch: 0.94, ...(slanted ? { slant: 0.2 } : {}) };
      files.set(
        `AlmanacField-${style.replace(" ", "")}.ttf`,
        await plainFont({ family: "Almanac Field", style, pen, weight, names: { legacyFamily, legacyStyle } }),
      );
    }
  }
  return files;
}

/** A flat nib held level: thin across, heavy upright, with hairline serifs. */
const FROST: Nib = { kind: "broad", angle: 0, width: 92, thin: 18, spacing: 60, stretch: 1.04, serif: { long: 190, thick: 18 } };
/** Two letters as one: the second stands where it would, without its own room before it. */
function joined([advance, strokes]: Skeleton, [next, more]: Skeleton, closer: number): Skeleton {
  let isX = true;
  const moved = more.replace(/-?\d+(\.\d+)?/g, (value) => {
    const number = isX ? Number(value) + advance - closer : Number(value);
    isX = !isX;
    return String(number);
  });
  return [advance + next - closer, `${strokes} ${moved}`];
}

/** A seasonal face whose licence ends by itself; kerned, with ligatures of f. */
export async function seasonal(): Promise<Uint8Array> {
  const glyphs = await drawAll(LATIN, FROST);
  const ligatures = [];
  for (const second of ["i", "l"])
    ligatures.push({ of: [codeOf("f"), codeOf(second)], glyph: await drawWithNib(joined(LATIN["f"]!, LATIN[second]!, 60), FROST) });
  return writeTrueType({
    names: {
      family: "Frostbloom",
      style: "Regular",
      ...OWN,
      licence: "Seasonal pack: may be used for 180 days from the day it is placed. Sold work included while it lasts.",
    },
    weight: 400,
    glyphs,
    kerning: kerning(glyphs, [...CAPITALS, ...SMALL].map(codeOf)),
    ligatures,
  });
}

/** A face that comes for web pages only. */
export async function webOnly(): Promise<Uint8Array> {
  const pen: Nib = { kind: "broad", width: 118, thin: 70, angle: 0, stretch: 1.12, spacing: 60, bridge: 34 };
  const font = await plainFont({ family: "Hedgerow Signal", pen, weight: 700 });
  return (await packWoff2())(font);
}

/** A heavy face in an archive with a password. */
export const lockedFace = (): Promise<Uint8Array> =>
  plainFont({
    family: "Cellar Key",
    pen: { kind: "broad", width: 112, thin: 70, angle: 0, stretch: 0.92, spacing: 140, serif: { long: 230, thick: 78 } },
    weight: 700,
  });

/** What every practice device comes with, spread over the alphabet; the first one stands in for fonts that are missing. */
export async function builtInFonts(): Promise<Map<string, Uint8Array>> {
  const all = { ...LATIN, ...HEBREW };
  const fonts = new Map<string, Uint8Array>();
  const add = async (family: string, pen: Pen, style = "Regular", weight = 400) => {
    const fileName = `${family.replace(/ /g, "")}-${style.replace(/ /g, "")}.ttf`;
    fonts.set(fileName, await plainFont({ family, style, pen, weight, letters: family === "Aster Plain" ? all : LATIN }));
  };
  await add("Aster Plain", { width: 62 });
  await add("Aster Plain", { width: 116, spacing: 30 }, "Bold", 700);
  await add("Bramble Wide", { width: 70, stretch: 1.35 });
  await add("Clay Narrow", { width: 60, stretch: 0.68 });
  await add("Flint Square", { width: 84, square: true, spacing: 20 });
  await add("Ivy Lean", { width: 44, slant: 0.24 }, "Italic");
  await add("Mulch Heavy", { width: 150, spacing: 70 }, "Bold", 700);
  await add("Quarry Light", { width: 26 });
  await add("Wren Small", { width: 76, stretch: 0.85 });
  return fonts;
}
