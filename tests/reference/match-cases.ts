// Lettering to be matched: fonts of Debian packages, their measured shapes, and pictures of words in them by renderers of other hands.
import { execFileSync } from "node:child_process";
import { createHash } from "node:crypto";
import { mkdirSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { openDrawFace } from "../../core/bench/draw-face.ts";
import { readColours } from "../../core/evidence/image.ts";
import { inspectFont } from "../../core/inspect.ts";
import { shapesOf } from "../../core/matching/faces/face-shape.ts";
import type { Frame } from "../../core/matching/picture/framed.ts";
import type { MeasuredScript } from "../../core/matching/faces/alphabet.ts";
import { FaceIndex } from "../../core/matching/faces/index-of-faces.ts";
import type { Manner } from "../../core/matching/faces/manner.ts";
import { drawnAlike, matchLine, seeLine, type Candidate } from "../../core/matching/answer/match.ts";
import { setLine } from "../../core/matching/faces/set-line.ts";
import { ok, type Result } from "../../core/problem.ts";

export interface MeasuredFont {
  path: string;
  sha256: string;
  family: string;
  name: string;
  manner: Manner;
  /** The package it is from, where the path tells. */
  package: string;
}
export interface Corpus {
  fonts: MeasuredFont[];
  index: FaceIndex;
  /** Milliseconds it took to measure them, without reading their names. */
  measuredMs: number;
}

const LARGEST = 12_000_000;
/** Harfbuzz frees what nobody holds any more between turns. */
export const breathe = (): Promise<void> =>
  new Promise((resolve) => {
    globalThis.gc?.();
    setTimeout(resolve, 1);
  });

/** The fonts under some folders. */
export const fontsUnder = (folders: readonly string[]): string[] =>
  folders.flatMap((folder) =>
    readdirSync(folder, { recursive: true, withFileTypes: true })
      .filter((one) => one.isFile() && /\.(ttf|otf)$/i.test(one.name))
      .map((one) => join(one.parentPath, one.name))
      .sort(),
  );

/** Measures fonts, each file once. */
export async function measuredCorpus(paths: readonly string[]): Promise<Corpus> {
  const known = new Set<string>();
  const corpus: Corpus = { fonts: [], index: new FaceIndex(), measuredMs: 0 };
  for (const [i, path] of paths.entries()) {
    if (i % 40 === 0) await breathe();
    const bytes = new Uint8Array(readFileSync(path));
    const sha256 = createHash("sha256").update(bytes).digest("hex");
    if (bytes.length > LARGEST || known.has(sha256)) continue;
    known.add(sha256);
    const inspected = inspectFont(Buffer.from(bytes), path);
    const record = inspected.ok ? inspected.value[0] : undefined;
    if (!record) continue;
    const from = performance.now();
    const face = openDrawFace(bytes, 0);
    const shapes = face && shapesOf(face);
    corpus.measuredMs += performance.now() - from;
    if (!shapes || shapes.tables.size === 0) continue;
    corpus.index.add(shapes.tables);
    const { manner } = shapes;
    corpus.fonts.push({
      path,
      sha256,
      family: record.family,
      name: record.fullName,
      manner,
      package: /trees\/([^/]+)\//.exec(path)?.[1] ?? "",
    });
  }
  return corpus;
}

/**
 * Versions of one design that Debian packages hold under several names: renamed, cut again or extended, as the copyright file named beside each
 * says. A face belongs to the design whose pattern its family's name fits.
 */
export const DESIGNS: readonly { of: RegExp; says: string }[] = [
  {
    of: /^(Bitstream Vera Sans|DejaVu Sans|Verana ?Sans|Veranda|Aerial|Waree|BPG DejaVu Sans|Arundina Sans)(?! Mono)/,
    says: "fonts-dejavu-core, -arkpandora, -tlwg-waree, -bpg-georgian, -arundina: Bitstream Vera",
  },
  {
    of: /^(Bitstream Vera Serif|DejaVu Serif|DejaVuMath|TeXGyreDejaVu|Verana$|Tymes|BPG Serif Modern|Arundina Serif)/,
    says: "fonts-dejavu-core, -arkpandora, -bpg-georgian, -arundina: Bitstream Vera",
  },
  {
    of: /^(Bitstream Vera Sans Mono|DejaVu Sans Mono|Hack|Aerial Mono|Arundina Sans Mono)/,
    says: "fonts-dejavu-core, -hack, -arkpandora: Bitstream Vera",
  },
  {
    of: /^(Nimbus ?Sans|FreeSans|Nachlieli|IndUni-H|TeX ?Gyre ?Heros|Gargi|Sans (Condensed )?Uralic|Denemo)/,
    says: "fonts-johnsmith-induni: “NimbusSanL”; culmus, fonts-gargi, fonts-uralic: “URW++”; fonts-denemo",
  },
  {
    of: /^(Nimbus ?Roman|FreeSerif|IndUni-T|TeX ?Gyre ?Termes|Roman Uralic)/,
    says: "fonts-johnsmith-induni: “NimbusRomNo9L”; fonts-uralic",
  },
  {
    of: /^(Nimbus ?Mono|FreeMono|IndUni-C$|IndUni-C |TeX ?Gyre ?Cursor|Miriam Mono|Mono Uralic|Tlwg (Mono|Typ))/,
    says: "fonts-johnsmith-induni: “NimbusMonL”; culmus, fonts-uralic, fonts-tlwg-*: “URW++”",
  },
  { of: /^(C059|IndUni-N|TeX ?Gyre ?Schola)/, says: "fonts-johnsmith-induni: “CenturySchL”" },
  { of: /^(P052|IndUni-P|TeX ?Gyre ?Pagella|Palladio)/, says: "fonts-johnsmith-induni: “URWPalladioL”; fonts-uralic" },
  {
    of: /^(CMU Serif|LM ?Roman|Latin ?Modern ?(Roman|Math)|jsMath-cm(r|bx)|cm(r|bx|ti)\d|KaTeX_Main|MathJax_Main)/,
    says: "fonts-lmodern, fonts-cmu, fonts-lyx, fonts-jsmath: “Computer Modern”; KaTeX and MathJax from memory",
  },
  { of: /^(CMU Sans Serif|LM ?Sans|Latin Modern Sans|cmss)/, says: "fonts-lmodern, fonts-cmu: “Computer Modern”" },
  {
    of: /^(CMU Typewriter|LM ?Mono|Latin Modern Mono|KaTeX_Typewriter|MathJax_Typewriter|cmtt)/,
    says: "fonts-lmodern, fonts-cmu: “Computer Modern”",
  },
  { of: /^(Liberation Sans|Arimo)/, says: "fonts-croscore, fonts-liberation: versions of one design by one hand" },
  { of: /^(Liberation Serif|Tinos)/, says: "fonts-croscore, fonts-liberation" },
  { of: /^(Liberation Mono|Cousine)/, says: "fonts-croscore, fonts-liberation" },
  { of: /^(Carlito|Lato)/, says: "fonts-crosextra-carlito: “based on Lato”" },
  { of: /^(Andika)/, says: "fonts-sil-andika, -andika-compact, -andikanewbasic: one design" },
  { of: /^(Charis|Ezra SIL)/, says: "fonts-sil-charis, -charis-compact: one design; fonts-sil-ezra takes its Latin from it" },
  { of: /^(Doulos|Campania)/, says: "fonts-campania: “based on the SIL Doulos font”" },
  { of: /^(Gentium)/, says: "fonts-sil-gentium, -gentium-basic, -gentiumplus: one design" },
  { of: /^(Shimenkan|Taogu|Salaowu)/, says: "fonts-sil-shimenkan-*: one design" },
  { of: /^(Ricty|Inconsolata)/, says: "fonts-ricty-diminished: made of Inconsolata" },
  { of: /^(Monoid|Monoisome)/, says: "fonts-monoid, -monoid-loose, …: one design, spaced otherwise" },
  { of: /^(eurofurence)/, says: "fonts-eurofurence: one design" },
  { of: /^(Takao|IPA(ex)?P?(Gothic|Mincho))/, says: "fonts-takao: made of IPA fonts" },
  { of: /^(Garuda|Umpush)/, says: "fonts-tlwg-umpush: made of Garuda" },
  { of: /^(LXGW|Klee)/, says: "fonts-lxgw-wenkai: made of Klee" },
  { of: /^(Routed Gothic)/, says: "fonts-routed-gothic: one design, narrower and wider" },
  { of: /^(Ikarius)/, says: "fonts-adf-ikarius: one design, two cuts" },
  { of: /^(Noto Sans|Noto Sans Display|Noto Sans Symbols2?)$/, says: "fonts-noto-core: the Latin of one design" },
];
const designOf = ({ family }: Pick<MeasuredFont, "family">): number => DESIGNS.findIndex(({ of }) => of.test(family));
/** Whether two faces are of one design: of one family, or of families that are versions of one. */
export const areKin = (one: MeasuredFont, other: MeasuredFont): boolean =>
  one.family === other.family || (designOf(one) >= 0 && designOf(one) === designOf(other));

/** Faces of other families that are of a face's design, and about as heavy, wide and slanted. */
export function counterparts({ fonts, index }: Corpus, of: number): number[] {
  const own = fonts[of]!;
  const near = (a: number | undefined, b: number | undefined, times: number) =>
    a === undefined || b === undefined || Math.abs(Math.log(a / b)) < Math.log(times);
  return fonts.flatMap((font, i) =>
    font.family !== own.family &&
    areKin(font, own) &&
    index.has(i, "latin") &&
    near(font.manner.weight, own.manner.weight, 1.2) &&
    near(font.manner.width, own.manner.width, 1.1) &&
    Math.abs((font.manner.slant ?? 0) - (own.manner.slant ?? 0)) < 4
      ? [i]
      : [],
  );
}

export interface Lettering {
  font: number;
  words: string;
  size: number;
  renderer: "pillow" | "magick" | "cairo";
  photo: boolean;
  seed: number;
  out: string;
  frame?: Frame;
}
export const numberOf = (text: string): number => createHash("sha256").update(text).digest().readUInt32LE(0);
/** A third of the families was not looked at while the limits were found. */
export const isUnseen = ({ family }: Pick<MeasuredFont, "family">): boolean => numberOf(`fam${family}`) % 3 === 0;

const WORDS = [
  "Garden path",
  "Sunflower",
  "Hamburg",
  "Seed packet",
  "Rosemary",
  "Fresh eggs",
  "Opening hours",
  "Quick brown",
  "Wild thyme",
  "Market 1987",
  "Botanical",
  "Jam & honey",
  "Lavender",
  "Greenhouse",
  "Kitchen",
  "Vineyard",
  "Marigold",
  "BAKERY",
  "The Old Mill",
  "Farewell",
];

/** Draws words in so many of these fonts, chosen by their sums; those that cannot be drawn are left out. */
export async function drawnLettering(
  corpus: Corpus,
  among: (font: MeasuredFont) => boolean,
  count: number,
  photo: boolean,
  dir: string,
): Promise<Lettering[]> {
  mkdirSync(dir, { recursive: true });
  const order = corpus.fonts
    .map((font, i) => ({ font, i }))
    .filter(({ font, i }) => among(font) && corpus.index.has(i, "latin"))
    .sort((a, b) => numberOf(`${a.font.sha256}${photo}`) - numberOf(`${b.font.sha256}${photo}`))
    .slice(0, count);
  const cases: Lettering[] = [];
  for (const [k, { font, i }] of order.entries()) {
    if (k % 40 === 0) await breathe();
    const seed = numberOf(`${font.sha256}x`);
    const bytes = new Uint8Array(readFileSync(font.path));
    const words = WORDS.map((_, j) => WORDS[(seed + j) % WORDS.length]!).find((one) => setLine(bytes, 0, one) !== undefined);
    if (words === undefined) continue;
    const size = photo ? 60 + ((seed >>> 8) % 80) : 36 + ((seed >>> 8) % 90);
    const renderer = (["pillow", "magick", "cairo"] as const)[(seed >>> 4) % 3]!;
    cases.push({ font: i, words, size, renderer, photo, seed: seed % 1e6, out: join(dir, `${k}.${photo ? "jpg" : "png"}`) });
  }
  return framed(corpus, cases);
}
/** Draws words of a script in so many of the fonts that have all of its letters. */
export function drawnInScript(corpus: Corpus, script: MeasuredScript, words: string, count: number, dir: string): Lettering[] {
  mkdirSync(dir, { recursive: true });
  const able = corpus.fonts
    .map((font, i) => ({ font, i }))
    .filter(({ font, i }) => corpus.index.has(i, script) && setLine(new Uint8Array(readFileSync(font.path)), 0, words) !== undefined)
    .sort((a, b) => numberOf(a.font.sha256) - numberOf(b.font.sha256))
    .slice(0, count);
  return framed(
    corpus,
    able.map(({ i }, k) => ({ font: i, words, size: 64, renderer: "cairo", photo: false, seed: 1, out: join(dir, `${script}-${k}.png`) })),
  );
}
/** Has pictures drawn, and each framed as a person would; those that cannot be drawn are left out. */
function framed(corpus: Corpus, cases: readonly Lettering[]): Lettering[] {
  const input = JSON.stringify(cases.map(({ font, ...one }) => ({ ...one, path: corpus.fonts[font]!.path })));
  const lines = execFileSync("/usr/bin/python3", ["tests/reference/draw_lettering.py"], { input, encoding: "utf8", maxBuffer: 1e9 });
  const frames = new Map(
    lines
      .trim()
      .split("\n")
      .map((line) => JSON.parse(line) as { out: string; frame?: Frame })
      .map(({ out, frame }) => [out, frame]),
  );
  return cases.flatMap((one) => {
    const frame = frames.get(one.out);
    return frame ? [{ ...one, frame }] : [];
  });
}

export interface Answer {
  candidates: Result<Candidate[]>;
  /** The place of the true font, or of one that draws the words alike; −1 when it is not among those shown. */
  place: number;
  /** A style of its design is at this place. */
  kinPlace: number;
  ms: number;
}

const held = new Map<string, Uint8Array>();
/** Matches one picture. `absent` takes the true font out, and what draws its letters alike, however it sets them apart. */
export async function matched(corpus: Corpus, one: Lettering, typed: boolean, absent: boolean): Promise<Answer> {
  const bytesOf = (font: number): Uint8Array => {
    const { path } = corpus.fonts[font]!;
    let bytes = held.get(path);
    if (!bytes) held.set(path, (bytes = new Uint8Array(readFileSync(path))));
    if (held.size > 60) held.delete(held.keys().next().value!);
    return bytes;
  };
  const own = setLine(bytesOf(one.font), 0, one.words)!;
  const isTrue = (font: number): boolean => {
    if (font === one.font) return true;
    const other = setLine(bytesOf(font), 0, one.words);
    return other !== undefined && drawnAlike(own, other, !absent);
  };
  const from = performance.now();
  const picture = readColours(new Uint8Array(readFileSync(one.out)));
  if (!picture.ok) throw new Error(picture.problem.message);
  const words = typed ? one.words : "";
  const seen = seeLine(picture.value, { frame: one.frame!, strokes: [], colour: undefined, words }, corpus.index);
  const about = {
    isJoined: (font: number) => (corpus.fonts[font]!.manner.joined ?? 0) > 0.5,
    allowed: () => true,
  };
  const missing = new Set<number>();
  const load = (font: number) => {
    if (absent && isTrue(font)) {
      missing.add(font);
      return undefined;
    }
    return { bytes: bytesOf(font), index: 0 };
  };
  const candidates = seen.ok ? await matchLine(seen.value, typed, corpus.index, load, about) : seen;
  const ms = performance.now() - from;
  const found = candidates.ok ? candidates.value : [];
  return {
    candidates: candidates.ok ? ok(found) : candidates,
    place: found.findIndex(({ face }) => isTrue(face)),
    kinPlace: found.findIndex(({ face }) => areKin(corpus.fonts[face]!, corpus.fonts[one.font]!)),
    ms,
  };
}
