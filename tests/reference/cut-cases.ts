// Words to be joined: in every font of a list, in its own script, plain and set tight, on axes, and with outlines damaged as real files are.
import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { openDrawFace, type DrawFace } from "../../core/bench/draw-face.ts";
import { setText } from "../../core/bench/setting.ts";
import { turnedContour, type Contour } from "../../core/cutting/outlines/curve.ts";
import type { Filled } from "../../core/cutting/outlines/engines.ts";
import { lettersOf } from "../../core/cutting/making/letters.ts";

export interface CutCase {
  font: string;
  /** Kept apart while the joining was built. */
  unseen: boolean;
  words: string;
  how: string;
  emMm: number;
  letters: Filled[];
}

/** Words by script: letters that join, that overlap, with counters, with marks. */
const WORDS = [
  "Fernhollow",
  "AVATAR",
  "fjord Ægir",
  "Ågäå",
  "Квітка",
  "Ἀλφα",
  "בָּרוּךְ הַבָּא",
  "السلام عليكم",
  "نستعلیق",
  "नमस्ते क्षत्रिय",
  "শ্রী বাংলা",
  "ગુજરાતી",
  "ਪੰਜਾਬੀ",
  "தமிழ்",
  "తెలుగు",
  "ಕನ್ನಡ",
  "മലയാളം",
  "සිංහල",
  "ภาษาไทย",
  "ລາວ",
  "မြန်မာ",
  "ქართული",
  "Հայերեն",
  "አማርኛ",
  "ខ្មែរ",
];
const EM_MM = 40;
const digestOf = (text: string): number => createHash("sha256").update(text).digest().readUInt32BE(0);

/** Words for a font: up to `most` it has all letters for; of signs, where it has none, its first ones. */
function wordsFor(face: DrawFace, most: number): string[] {
  const fit = WORDS.filter((word) => [...word].every((c) => c === " " || face.has(c.codePointAt(0)!)));
  if (fit.length > 0) return fit.slice(0, most);
  const own = face.characters().filter((code) => code > 0x20 && (face.outline(face.font.nominalGlyph(code) ?? 0) ?? []).length > 0);
  return own.length === 0 ? [] : [String.fromCodePoint(...own.slice(0, 6))];
}

/** Outlines as careless tools leave them: a contour turned round, one there twice, a point far out. */
function damaged(letters: readonly Filled[], seed: number): Filled[] {
  let state = seed || 1;
  const random = (below: number): number => (state = (state * 48271) % 2147483647) % below;
  return letters.map((contours): Filled => {
    if (contours.length === 0) return contours;
    const at = random(contours.length);
    const one = contours[at]!;
    const kind = random(3);
    if (kind === 0) return contours.map((contour, i) => (i === at ? turnedContour(contour) : contour));
    if (kind === 1) return [...contours, one.map((segment) => segment.map((value) => value + 0.4))];
    const far = random(one.length);
    const pulled: Contour = one.map((segment, i) => {
      const next = (far + 1) % one.length;
      if (i === far) return [...segment.slice(0, -2), segment.at(-2)! + 3, segment.at(-1)! - 5];
      return i === next ? [segment[0]! + 3, segment[1]! - 5, ...segment.slice(2)] : segment;
    });
    return contours.map((contour, i) => (i === at && one.length > 2 ? pulled : contour));
  });
}

/** So many words of each font, each plain, tight and damaged. */
export function* cutCases(fonts: readonly string[], wordsEach: number): Generator<CutCase> {
  for (const font of fonts) {
    const bytes = Uint8Array.from(readFileSync(font));
    const unseen = digestOf(font.split("/").at(-1)!) % 3 === 0;
    const plain = openDrawFace(bytes, 0);
    if (!plain) continue;
    const axes = axesOf(bytes);
    for (const words of wordsFor(plain, wordsEach)) {
      const ways: { how: string; spacing: number; at: Record<string, number>; damage: boolean }[] = [
        { how: "plain", spacing: 0, at: {}, damage: false },
        { how: "tight", spacing: -70, at: {}, damage: false },
        { how: "damaged", spacing: 0, at: {}, damage: true },
        ...axes.map((at) => ({ how: `at ${Object.entries(at).join()}`, spacing: -30, at, damage: false })),
      ];
      for (const { how, spacing, at, damage } of ways) {
        const face = Object.keys(at).length > 0 ? openDrawFace(bytes, 0, at)! : plain;
        const set = setText(words, face, { letterSpacing: spacing });
        const letters = lettersOf(set, face, "all", EM_MM / set.upem, 0, 0, false)
          .letters.map(({ contours }) => contours)
          .filter((contours) => contours.length > 0);
        if (letters.length === 0) continue;
        const seed = (digestOf(`${font} ${words}`) % 2147483646) + 1;
        yield { font, unseen, words, how, emMm: EM_MM, letters: damage ? damaged(letters, seed) : letters };
      }
    }
  }
}

/** Both ends of every axis (OpenType specification, "fvar": axes of 20 bytes). */
function axesOf(bytes: Uint8Array): Record<string, number>[] {
  const view = new DataView(bytes.buffer);
  for (let i = 0; i < view.getUint16(4); i++) {
    const at = 12 + 16 * i;
    if (String.fromCharCode(...bytes.subarray(at, at + 4)) !== "fvar") continue;
    const table = view.getUint32(at + 8);
    const first = table + view.getUint16(table + 4);
    return Array.from({ length: view.getUint16(table + 8) }, (_, k) => first + k * view.getUint16(table + 10)).flatMap((axis) => {
      const tag = String.fromCharCode(...bytes.subarray(axis, axis + 4));
      return [view.getInt32(axis + 4) / 65536, view.getInt32(axis + 12) / 65536].map((value) => ({ [tag]: value }));
    });
  }
  return [];
}
