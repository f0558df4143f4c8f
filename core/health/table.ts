// The table of checks: every code there is, how bad it is, what it means in a program, what to do, and where the rule stands.
import type { FindingLevel } from "./finding.ts";

export interface CheckRow {
  level: FindingLevel;
  /** What it means in a program. */
  meaning: string;
  next: string;
  /** The section of the OpenType specification. */
  standard: string;
}

const AGAIN = "Download it again; if it stays like this, ask whoever made it for a mended copy.";
const NEWER = "Look for a newer version.";
const REFUSED = "Programs will refuse it or show boxes.";

const rows = {
  "table-outside": { level: "stop", meaning: REFUSED, next: AGAIN, standard: "Table Directory" },
  "table-twice": { level: "stop", meaning: REFUSED, next: AGAIN, standard: "Table Directory" },
  "table-tag": { level: "stop", meaning: REFUSED, next: AGAIN, standard: "Table Directory" },
  "table-alignment": { level: "warn", meaning: "Strict programs refuse it.", next: AGAIN, standard: "Table Directory" },
  "table-overlap": { level: "stop", meaning: REFUSED, next: AGAIN, standard: "Table Directory" },
  "table-missing": { level: "stop", meaning: REFUSED, next: AGAIN, standard: "Required Tables" },
  "outlines-missing": { level: "stop", meaning: "Nothing can be drawn with it.", next: AGAIN, standard: "Font Tables" },
  "outlines-bitmap": {
    level: "warn",
    meaning: "Few programs take it, and cutting programs cannot cut it.",
    next: "Look for a version with outlines.",
    standard: "Font Tables",
  },
  "head-magic": { level: "stop", meaning: REFUSED, next: AGAIN, standard: "head, magicNumber" },
  "units-per-em": { level: "stop", meaning: REFUSED, next: AGAIN, standard: "head, unitsPerEm" },
  "loca-format": { level: "stop", meaning: REFUSED, next: AGAIN, standard: "head, indexToLocFormat" },
  "glyph-count": { level: "stop", meaning: REFUSED, next: AGAIN, standard: "maxp, numGlyphs" },
  "metrics-count": { level: "stop", meaning: REFUSED, next: AGAIN, standard: "hmtx" },
  "glyph-mismatch": { level: "stop", meaning: REFUSED, next: AGAIN, standard: "maxp, numGlyphs" },
  loca: { level: "stop", meaning: REFUSED, next: AGAIN, standard: "loca" },
  checksum: {
    level: "warn",
    meaning: "It may have been edited carelessly or damaged on the way; most programs do not check.",
    next: "Compare it with a fresh download.",
    standard: "Calculating checksums",
  },
  "browser-refused": {
    level: "warn",
    meaning: "Browsers, and programs built on them, draw another font in its place. Others may take it.",
    next: "Look for a newer version, or use it in programs that do not draw like a browser.",
    standard: "the table named; refused as the sanitizer does that browsers ship",
  },
  "cmap-unreadable": { level: "stop", meaning: "No letter can be typed with it.", next: AGAIN, standard: "cmap, Encoding records" },
  "cmap-wild": { level: "warn", meaning: "These characters show as boxes, or the font is refused.", next: AGAIN, standard: "cmap" },
  "cmap-old": {
    level: "warn",
    meaning: "Accented letters may come out wrong, or nothing is drawn.",
    next: NEWER,
    standard: "cmap, Encoding records",
  },
  "characters-none": { level: "warn", meaning: "No letter can be typed with it.", next: AGAIN, standard: "cmap" },
  "space-missing": {
    level: "note",
    meaning: "Words may run together or be spaced by another font.",
    next: "Nothing, if you set single words.",
    standard: "Recommendations for OpenType Fonts",
  },
  "basic-missing": {
    level: "note",
    meaning: "Another font stands in for them, visibly.",
    next: "Try your own words before you choose it.",
    standard: "Recommendations for OpenType Fonts",
  },
  "name-family": {
    level: "warn",
    meaning: "Programs list it under its file name, or not at all.",
    next: "Ask for a named version.",
    standard: "name, ID 1",
  },
  "name-postscript-missing": {
    level: "note",
    meaning: "Exported documents may name it oddly.",
    next: "Nothing, for everyday use.",
    standard: "name, ID 6",
  },
  "name-postscript": { level: "warn", meaning: "Exports and cutting programs may lose the font.", next: NEWER, standard: "name, ID 6" },
  "name-outside": { level: "warn", meaning: "Programs may list it under another name, or refuse it.", next: AGAIN, standard: "name" },
  "name-long": {
    level: "note",
    meaning: "Old office programs may not list it.",
    next: "Nothing, in programs of today.",
    standard: "name, ID 1",
  },
  "style-flags": {
    level: "warn",
    meaning: "The bold and italic buttons may choose the wrong file.",
    next: NEWER,
    standard: "OS/2, fsSelection",
  },
  "style-flags-differ": { level: "warn", meaning: "Bold or italic may be faked, or doubled.", next: NEWER, standard: "head, macStyle" },
  "weight-range": {
    level: "warn",
    meaning: "Programs sort it to the wrong end of its family.",
    next: NEWER,
    standard: "OS/2, usWeightClass",
  },
  "metrics-clip": {
    level: "note",
    meaning: "Tops or tails may be clipped in some programs.",
    next: "Try your words with accents; add line spacing where they are cut.",
    standard: "OS/2, usWinAscent",
  },
  "metrics-line": { level: "warn", meaning: "Lines will lie over one another.", next: NEWER, standard: "hhea, ascender" },
  "advance-zero": { level: "warn", meaning: "Letters will lie over one another.", next: NEWER, standard: "hmtx" },
  "advance-negative": {
    level: "warn",
    meaning: "These glyphs push the rest of the line away, or pull it back.",
    next: NEWER,
    standard: "hmtx",
  },
  "notdef-empty": {
    level: "note",
    meaning: "A missing character leaves a gap instead of a box.",
    next: "Proof-read for gaps.",
    standard: "Recommendations for OpenType Fonts",
  },
  "embedding-restricted": {
    level: "note",
    meaning: "Exports may swap it for another font or refuse.",
    next: "Ask its maker for wider permission.",
    standard: "OS/2, fsType",
  },
  "embedding-limited": {
    level: "note",
    meaning: "Exports may hold the whole font, or only pictures of it.",
    next: "Nothing, unless an export complains.",
    standard: "OS/2, fsType",
  },
  "names-missing": { level: "stop", meaning: "It cannot be listed in any font menu.", next: AGAIN, standard: "Required Tables" },
  "os2-missing": {
    level: "warn",
    meaning: "Office programs may not list it, and bold may be faked.",
    next: NEWER,
    standard: "Required Tables",
  },
  "post-missing": { level: "warn", meaning: "Strict programs refuse it.", next: NEWER, standard: "Required Tables" },
  "outline-damaged": {
    level: "warn",
    meaning: "These letters are drawn wrong or not at all, and may stop an export.",
    next: AGAIN,
    standard: "glyf; CFF",
  },
  "weight-words": {
    level: "note",
    meaning: "Programs that go by weight sort it away from its place in the family.",
    next: "Look for it by name, not by its place.",
    standard: "OS/2, usWeightClass",
  },
  "colour-only": {
    level: "note",
    meaning: "Programs that do not take coloured fonts draw it plain or not at all; cutting programs cannot cut the colours.",
    next: "Try it in each program you need.",
    standard: "COLR, SVG, CBDT, sbix",
  },
  // Of a family as a whole.
  "clash-full-name": {
    level: "warn",
    meaning: "A program that lists full names shows one of them and hides the other.",
    next: "Keep one, or place them on different devices.",
    standard: "name, ID 4",
  },
  "clash-postscript": {
    level: "warn",
    meaning: "Exports and cutting programs may take one for the other.",
    next: "Keep one, or place them on different devices.",
    standard: "name, ID 6",
  },
  "clash-buttons": {
    level: "warn",
    meaning: "In programs with bold and italic buttons one of them cannot be reached.",
    next: "Use a program that lists all styles, or keep one.",
    standard: "name, ID 1 and 2; OS/2, fsSelection",
  },
  "buttons-flags": {
    level: "warn",
    meaning: "The bold or italic button leads to the wrong file, or fakes what is there.",
    next: NEWER,
    standard: "OS/2, fsSelection",
  },
  "bold-faked": {
    level: "note",
    meaning: "The bold button thickens the letters by itself; it shows in print and in cut edges.",
    next: "Look whether the family comes with a bold.",
    standard: "OS/2, fsSelection",
  },
} as const satisfies Record<string, CheckRow>;

export type CheckCode = keyof typeof rows;
export const CHECKS: Readonly<Record<CheckCode, CheckRow>> = rows;

/** What a table that cannot be read means; its code comes from its reader. */
export const UNREADABLE_TABLE: Pick<CheckRow, "level" | "meaning" | "standard"> = {
  level: "stop",
  meaning: REFUSED,
  standard: "Organization of an OpenType Font",
};
