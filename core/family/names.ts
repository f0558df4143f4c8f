// What a face calls itself: the typographic names programs with full families use, and the four-style legacy ones.
import type { Face } from "../sfnt/face.ts";
import { NAME } from "../sfnt/name.ts";

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
  const postScriptName = get(NAME.postScriptName) ?? "";
  const legacyFamily = get(NAME.family) ?? get(NAME.typographicFamily) ?? (postScriptName || fallback);
  const legacyStyle = get(NAME.style) ?? get(NAME.typographicStyle) ?? "Regular";
  const family = get(NAME.typographicFamily) ?? legacyFamily;
  const style = get(NAME.typographicStyle) ?? legacyStyle;
  const fullName = get(NAME.fullName) ?? (style === "Regular" ? family : `${family} ${style}`);
  const version = get(NAME.version) ?? face.head?.fontRevision.toFixed(3) ?? "";
  return { family, style, legacyFamily, legacyStyle, fullName, postScriptName, version };
}
