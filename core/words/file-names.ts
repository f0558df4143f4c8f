// File names made from names people and fonts have: letters, digits and a few plain signs, whatever was in them.

import { withoutEnds } from "./trim.ts";

/** Longer names are cut; every file system takes so many characters. */
const MOST_CHARACTERS = 120;

/** Names some systems keep for devices (from memory). */
const DEVICE = /^(con|prn|aux|nul|com\d|lpt\d)(?=\.|$)/i;
const notADevice = (name: string): string => name.replace(DEVICE, "$1-");

/** A name without an ending: its letters and digits, joined by hyphens. */
export const fileStem = (name: string, otherwise = "Fonts"): string =>
  notADevice(
    name
      .replace(/[^\p{L}\p{N}]+/gu, "-")
      .slice(0, MOST_CHARACTERS)
      .replace(/^-|-$/g, ""),
  ) || otherwise;

/** The last part of a path as a name any system takes; its dots, spaces and ending stay. */
export const plainFileName = (path: string, otherwise: string): string =>
  notADevice(withoutEnds((path.split(/[\\/]/).at(-1) ?? "").replace(/[^\p{L}\p{N}._ -]+/gu, "-").slice(0, MOST_CHARACTERS), ". ")) ||
  otherwise;
