// Which styles are the same style in another format (twins), which are made to lie over one another (layers), and
// whether the library has a style already.
import type { Face } from "../sfnt/face.ts";
import { familyKey } from "./group.ts";
import { LAYER_WORD } from "./style-words.ts";
import { compareDrawings } from "./telling.ts";

/** Characters whose widths tell fonts apart: Latin letters, figures and Hebrew letters. */
const TELLING = [...Array(26).keys()]
  .flatMap((i) => [0x41 + i, 0x61 + i])
  .concat([...Array(10).keys()].map((i) => 0x30 + i))
  .concat([...Array(27).keys()].map((i) => 0x5d0 + i));

/** Advances of the telling characters in thousandths of the em; −1 where the font lacks the character. */
export function tellingAdvances(face: Face): number[] {
  const { cmap, hmtx, head } = face;
  if (!cmap || !hmtx || !head || head.unitsPerEm === 0) return [];
  return TELLING.map((code) => {
    const glyph = cmap.glyph(code);
    return glyph === 0 ? -1 : Math.round((hmtx.advanceUnits(glyph) * 1000) / head.unitsPerEm);
  });
}

export interface Kin {
  sha256: string;
  family: string;
  style: string;
  outlines: string;
  container: string;
  codepoints: number;
  revision: number;
  advances: readonly number[];
  /** Some of its drawings (core/family/telling.ts); empty when they could not be read, or were not looked for. */
  drawings: string;
  /** Number of variation axes. */
  axes: readonly unknown[];
}

/** Two roundings to different ems may differ by this much. */
const SAME_WITHIN = 2;

/** Whether all characters both have are equally wide; false when they share fewer than five. */
export function sameAdvances(a: readonly number[], b: readonly number[]): boolean {
  let shared = 0;
  for (let i = 0; i < a.length && i < b.length; i++) {
    if (a[i]! < 0 || b[i]! < 0) continue;
    if (Math.abs(a[i]! - b[i]!) > SAME_WITHIN) return false;
    shared++;
  }
  return shared >= 5;
}

const sameName = (a: Kin, b: Kin): boolean => familyKey(a.family) === familyKey(b.family) && familyKey(a.style) === familyKey(b.style);
const isWeb = (kin: Kin): boolean => kin.container === "woff" || kin.container === "woff2";

/** The same style in another format: same names, same number of characters, same widths; not the same kind of file. */
export const areTwins = (a: Kin, b: Kin): boolean => twinFiles(a, b) && sameName(a, b);
function twinFiles(a: Kin, b: Kin): boolean {
  if (a.sha256 === b.sha256 || (a.outlines === b.outlines && isWeb(a) === isWeb(b))) return false;
  if (a.codepoints !== b.codepoints || a.axes.length !== b.axes.length) return false;
  // Letters of one width in a bold as in a plain style: what is drawn decides, where that is known.
  const drawn = compareDrawings(a.drawings, b.drawings);
  return drawn === "unknown" ? sameAdvances(a.advances, b.advances) : drawn === "same" && mostAdvances(a.advances, b.advances);
}
/** Whether nearly all characters both have are equally wide; true when they share hardly any that tell. */
function mostAdvances(a: readonly number[], b: readonly number[]): boolean {
  const shared = a.flatMap((width, i) => (width < 0 || (b[i] ?? -1) < 0 ? [] : [Math.abs(width - b[i]!) <= SAME_WITHIN]));
  return shared.length < 5 || shared.filter(Boolean).length / shared.length >= MOST;
}
const MOST = 0.9;

export type TwinFormat = "otf" | "ttf";

/** Of twins, the one to take: an installable file before a web one, then the wanted kind of outlines. */
export function preferredTwin<T extends Kin>(twins: readonly T[], wanted: TwinFormat): T | undefined {
  const outlines = wanted === "otf" ? "CFF" : "TrueType";
  const rank = (kin: T) => (isWeb(kin) ? 2 : 0) + (kin.outlines === outlines ? 0 : 1);
  return [...twins].sort((a, b) => rank(a) - rank(b))[0];
}

/** Of twins the one that is taken, and those left out for it. */
export interface TakenTwin<T> {
  taken: T;
  left: T[];
}
/** Which style of each group of twins is taken where one format is preferred; one without a twin is taken. Order is kept. */
export const takenTwins = <T extends Kin>(styles: readonly T[], wanted: TwinFormat): TakenTwin<T>[] =>
  twinGroups(styles).map((twins) => {
    const taken = preferredTwin(twins, wanted)!;
    return { taken, left: twins.filter((twin) => twin !== taken) };
  });

/** Groups styles with their twins; a style without one stands alone. Order is kept. */
export function twinGroups<T extends Kin>(styles: readonly T[]): T[][] {
  const groups: T[][] = [];
  // Twins go by one name: only namesakes are compared.
  const namesakes = new Map<string, T[][]>();
  for (const style of styles) {
    const name = `${familyKey(style.family)}\n${familyKey(style.style)}`;
    const named = namesakes.get(name) ?? [];
    const group = named.find((members) => members.some((member) => areTwins(member, style)));
    if (group) {
      group.push(style);
      continue;
    }
    const alone = [style];
    groups.push(alone);
    namesakes.set(name, [...named, alone]);
  }
  return groups;
}

const LAYER_WORDS = new RegExp(LAYER_WORD, "gi");

/** A style's whole name without words that name a layer: what styles that are laid over one another share. */
export const layerStem = (kin: Pick<Kin, "family" | "style">): string =>
  familyKey(`${kin.family} ${kin.style}`.replace(/\bregular\b/i, "").replace(LAYER_WORDS, ""));

/**
 * Whether two styles are made to be laid over one another: equally wide over what they share, named alike but for a
 * word that names a layer.
 */
export function areLayers(a: Kin, b: Kin): boolean {
  if (a.sha256 === b.sha256 || sameName(a, b) || layerStem(a) !== layerStem(b)) return false;
  return [a, b].some((kin) => LAYER_WORD.test(`${kin.family} ${kin.style}`)) && sameAdvances(a.advances, b.advances);
}

export type Known = "same-bytes" | "twin" | "alike" | "newer" | "older" | "other";

/** How a style stands to another that claims the same name. */
export function compareNamesakes(style: Kin, other: Kin): Known {
  if (style.sha256 === other.sha256) return "same-bytes";
  // In another format as well, a later revision is a newer version.
  if (style.revision === other.revision && twinFiles(style, other)) return "twin";
  const drawn = compareDrawings(style.drawings, other.drawings);
  if (drawn === "other" || (drawn === "unknown" && !sameAdvances(style.advances, other.advances))) return "other";
  // One is variable and the other is not: each holds what the other has not.
  if (style.axes.length !== other.axes.length) return "other";
  if (style.revision !== other.revision) return style.revision > other.revision ? "newer" : "older";
  return drawn === "same" ? "alike" : "other";
}

export const KNOWN_WORDS: Record<Known, string> = {
  "same-bytes": "You have this very file already.",
  twin: "You have this style already, in the other format.",
  alike: "You have this style already, drawn alike, in another file.",
  newer: "This is a newer version of one you have.",
  older: "You have a newer version of this already.",
  other: "You have another font under the same name; programs would confuse them.",
};

/** What tells the two apart, as the end of a sentence; empty when their records agree in everything compared. */
export function differenceWords(
  style: Kin & { version: string; glyphs: number },
  inLibrary: Kin & { version: string; glyphs: number },
): string {
  const parts: string[] = [];
  if (style.version !== inLibrary.version)
    parts.push(`${style.version || "no version"} here, ${inLibrary.version || "no version"} on the shelf`);
  const more = style.codepoints - inLibrary.codepoints;
  if (more !== 0) parts.push(`${Math.abs(more)} ${Math.abs(more) === 1 ? "character" : "characters"} ${more > 0 ? "more" : "fewer"}`);
  if (style.outlines !== inLibrary.outlines) parts.push(`${style.outlines} outlines instead of ${inLibrary.outlines}`);
  if (!sameAdvances(style.advances, inLibrary.advances)) parts.push("letters of other widths");
  if (style.axes.length !== inLibrary.axes.length) parts.push(style.axes.length > 0 ? "variable" : "not variable");
  return parts.join("; ");
}
