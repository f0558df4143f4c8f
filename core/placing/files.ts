// What placing works with: styles that are wanted, files a device was seen to hold, and the places a device has.
import type { Kin } from "../family/kinship.ts";
import { withoutEnds } from "../words/trim.ts";
import { familyKey } from "../family/group.ts";

type Account = "me" | "everyone";
/** Where a placed font lies: in one of two folders, or in a configuration profile. */
export type Slot = Account | "profile";
/** Slots, what came with the device, and the stores single programs keep for themselves. */
export type Folder = Slot | "built-in" | "own";

/** Containers that can be installed on a computer. */
export const INSTALLABLE: readonly string[] = ["sfnt", "collection"];

export const isSlot = (folder: Folder): folder is Slot => folder === "me" || folder === "everyone" || folder === "profile";

/** One face as far as it is compared: names, version, size, widths. */
export interface Claim extends Kin {
  version: string;
  glyphs: number;
  /** Its family's and style's name, as programs tell fonts apart. */
  key: string;
}
export const claimOf = (face: Omit<Claim, "key">): Claim => ({ ...face, key: `${familyKey(face.family)}\n${familyKey(face.style)}` });

export interface WantedStyle {
  /** Null for a font the library does not have, such as one found on another device. */
  styleId: number | null;
  name: string;
  postScriptName: string;
  sha256: string;
  /** What its file was called when it came. */
  original: string;
  /** Its family in the library; empty for a font the library does not have. */
  family: string;
  /** File ending with its dot. */
  ending: string;
  bytes: number;
  refused: boolean;
  claim: Claim;
  /** Why it should not be placed without a thought; the sentence says it. */
  held?: { why: "lapsed" | "uncleared"; sentence: string };
}

export interface PlacedFile {
  fileName: string;
  folder: Folder;
  sha256: string;
  on: boolean;
  bytes: number;
  /** When it last changed, as an ISO 8601 time; empty when that is not known. */
  since: string;
  /** One for each face in the file. */
  claims: readonly Claim[];
}

/** The device a plan is drawn for. */
export interface Target {
  slot: Slot;
  /** Containers its programs take, as core/sfnt names them. */
  takes: readonly string[];
  prefers: "otf" | "ttf";
  /** Bytes left on it; null when it does not say. */
  freeBytes: number | null;
  programs: readonly { name: string; reads: readonly string[] }[];
}

/**
 * The ending a font's file must have for systems to take it for what it is (OpenType specification, "Filenames"; a collection of CFF fonts:
 * common practice, no source). What a download was called says nothing.
 */
export function fontEnding({ container, outlines }: { container: string; outlines: string }): string {
  if (container === "woff" || container === "woff2") return `.${container}`;
  const cff = outlines === "CFF" || outlines === "CFF2";
  if (container === "collection") return cff ? ".otc" : ".ttc";
  return cff ? ".otf" : ".ttf";
}

/** A file name every system takes, from the PostScript name, which is plain ASCII in sound fonts. */
export function placedFileName(style: Pick<WantedStyle, "postScriptName" | "name" | "ending">): string {
  const base = withoutEnds((style.postScriptName || style.name).normalize("NFKD").replace(/[^A-Za-z0-9._-]+/g, "-"), "-.");
  // Names some systems keep for devices (from memory).
  const device = /^(con|prn|aux|nul|com\d|lpt\d)$/i.test(base.split(".")[0]!) ? "font-" : "";
  return `${device}${(base || "font").slice(0, 100)}${style.ending}`;
}

/** `wanted`, or the first numbered form of it that is not among `taken` (lower case). */
export function freeName(wanted: string, taken: ReadonlySet<string>): string {
  const dot = wanted.lastIndexOf(".");
  for (let n = 1; ; n++) {
    const name = n === 1 ? wanted : `${wanted.slice(0, dot)}-${n}${wanted.slice(dot)}`;
    if (!taken.has(name.toLowerCase())) return name;
  }
}

const FOLDER_WORDS: Record<Folder, string> = {
  me: "your own font folder",
  everyone: "the font folder for everyone",
  profile: "a profile",
  "built-in": "the fonts that came with the device",
  own: "a program's own store",
};
export const folderWords = (folder: Folder): string => FOLDER_WORDS[folder];
