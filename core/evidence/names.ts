// The names a style goes by in exports. Names only lead to candidates; what was drawn is told by outlines.
import type { FaceNames } from "../family/names.ts";
import { parseStyleWords } from "../family/style-words.ts";

/** The names a style may be exported under. */
export interface WantedName extends Omit<FaceNames, "version"> {
  /** A variable font's own styles: each of them shows that it was drawn. */
  instances?: readonly { name: string; at?: Readonly<Record<string, number>> }[];
}

/** Programs write names with and without spaces, hyphens and commas; letters and figures alone are compared. */
export const plainly = (name: string): string =>
  name
    .normalize("NFKC")
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, "");

/** Every way a style is named in exports. A family name alone stands for its regular style. */
export function spellings(style: WantedName): Set<string> {
  const names = [style.postScriptName, style.fullName, `${style.family}${style.style}`, `${style.legacyFamily}${style.legacyStyle}`];
  if (/^(regular|roman|book|normal|medium)?$/i.test(style.legacyStyle) && /^(regular|roman|normal)?$/i.test(style.style)) {
    names.push(style.family, style.legacyFamily);
  }
  for (const { name } of style.instances ?? []) names.push(`${style.family}${name}`, `${style.postScriptName}_${name}`);
  return new Set(names.map(plainly).filter(Boolean));
}

/** What programs hang onto a name: a subset's tag, and the encoding of a composite font (ISO 32000-1, 9.6.4 and 9.7.6). */
export const bareName = (name: string): string =>
  name.replace(/^[A-Z]{6}\+/, "").replace(/[-,](Identity-[HV]|UCS2-[HV]|UTF16-[HV]|WinAnsiEncoding|MacRomanEncoding)$/i, "");

/** How a font's name is related to a style: by all of it, by its family alone, or not. */
export function kinOf(name: string, style: WantedName): "style" | "family" | "none" {
  const own = plainly(bareName(name));
  if (own === "") return "none";
  if (spellings(style).has(own)) return "style";
  const families = [style.family, style.legacyFamily].map(plainly).filter((family) => family.length > 2);
  return families.some((family) => own.startsWith(family)) ? "family" : "none";
}

/**
 * A family and a style of it, as fonts are named ("Yrsa-Regular"). Producers and libraries also make names up ("F12", "MSTT31c2a8", "wanted"):
 * those say nothing (common practice, no source).
 */
const FAMILY_AND_STYLE = /^(\p{Lu}[\p{L} ]{2,})[-,]\s?(\p{L}[\p{L} ]*)$/u;
const isStyle = (words: string): boolean => {
  const { weight, width, slant, rest } = parseStyleWords(words.replace(/(\p{Ll})(\p{Lu})/gu, "$1 $2"));
  return rest.length === 0 && (weight !== undefined || width !== undefined || slant !== undefined);
};

/** Whether a font's name in a document is one that none of a file's own names begins, or goes on: another font's, as far as names tell. */
export function namedOtherwise(name: string, style: WantedName, fileNames: ReadonlySet<string>): boolean {
  const bare = bareName(name);
  const [, family = "", ofStyle = ""] = FAMILY_AND_STYLE.exec(bare) ?? [];
  if (!isStyle(ofStyle) || kinOf(name, style) !== "none") return false;
  const own = plainly(family);
  const names = [...fileNames, ...spellings(style), ...[style.family, style.legacyFamily].map(plainly)];
  return !names.some((one) => one.startsWith(own) || plainly(bare).startsWith(one));
}
