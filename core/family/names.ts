// What a face calls itself: the typographic names programs with full families use, and the four-style legacy ones.
import type { Face } from "../sfnt/face.ts";
import { NAME } from "../sfnt/name.ts";
import { plainName } from "../words/plain.ts";

export interface FaceNames {
  /** Typographic family, else the legacy one. */
  family: string;
  /** Typographic style, else the legacy one. */
  style: string;
  legacyFamily: string;
  legacyStyle: string;
  fullName: string;
  postScriptName: string;
  version: string;
}

/**
 * Reads a face's names (OpenType specification, name table, "Name IDs" 1, 2, 4, 5, 6, 16, 17).
 * `fallback` (the file's name without its ending) stands in for a family name the font does not give.
 */
export function faceNames(face: Face, fallback: string): FaceNames {
  const names = face.names;
  const get = (id: number) => names?.get(id);
  fallback = plainName(fallback) || "Unnamed";
  const postScriptName = get(NAME.postScriptName) ?? "";
  const legacyFamily = get(NAME.family) ?? get(NAME.typographicFamily) ?? (postScriptName || fallback);
  const legacyStyle = get(NAME.style) ?? get(NAME.typographicStyle) ?? "Regular";
  const family = get(NAME.typographicFamily) ?? legacyFamily;
  const style = get(NAME.typographicStyle) ?? legacyStyle;
  const fullName = get(NAME.fullName) ?? (style === "Regular" ? family : `${family} ${style}`);
  const version = get(NAME.version) ?? face.head?.fontRevision.toFixed(3) ?? "";
  return { family, style, legacyFamily, legacyStyle, fullName, postScriptName, version };
}

/**
 * Windows language identifiers as IETF tags, for the languages fonts name themselves in most often (OpenType
 * specification, name table, "Windows language IDs"; the excerpt is from memory).
 */
const LANGUAGES: Record<number, string> = {
  0x0401: "ar",
  0x0404: "zh-Hant",
  0x0405: "cs",
  0x0406: "da",
  0x0407: "de",
  0x0408: "el",
  0x040a: "es",
  0x0c0a: "es",
  0x040b: "fi",
  0x040c: "fr",
  0x040d: "he",
  0x040e: "hu",
  0x0410: "it",
  0x0411: "ja",
  0x0412: "ko",
  0x0413: "nl",
  0x0414: "nb",
  0x0415: "pl",
  0x0416: "pt-BR",
  0x0816: "pt",
  0x0418: "ro",
  0x0419: "ru",
  0x041a: "hr",
  0x041b: "sk",
  0x041d: "sv",
  0x041e: "th",
  0x041f: "tr",
  0x0422: "uk",
  0x0424: "sl",
  0x0425: "et",
  0x0426: "lv",
  0x0427: "lt",
  0x0429: "fa",
  0x042a: "vi",
  0x042d: "eu",
  0x0403: "ca",
  0x0439: "hi",
  0x0804: "zh-Hans",
};

/** Family names in languages other than English that differ from the English one, one a language. */
export function otherFamilyNames(face: Face): { language: string; family: string }[] {
  const names = face.names;
  const main = names?.get(NAME.typographicFamily) ?? names?.get(NAME.family);
  const found = new Map<string, string>();
  for (const id of [NAME.typographicFamily, NAME.family]) {
    for (const record of names?.all(id) ?? []) {
      const language = record.platform === 3 ? LANGUAGES[record.language] : undefined;
      if (language !== undefined && record.text !== main && !found.has(language)) found.set(language, record.text);
    }
  }
  return [...found].map(([language, family]) => ({ language, family }));
}
