// What lists need of a face, taken out of its record once: its names, what it is for, and how programs list it.
import { scriptsOf, type Script } from "../coverage/scripts.ts";
import { hasLatin, isRightToLeftOnly, ownSample } from "../coverage/text.ts";
import type { Inspection } from "../inspect.ts";
import type { MenuFont } from "../menu/menu.ts";
import { claimOf, type Claim } from "../placing/files.ts";
import { familyKey } from "./group.ts";
import { kindsOf, type FaceKind } from "./kind.ts";
import { isSymbolFont } from "./symbols.ts";

/** Counts up when a brief gains something, so that briefs made before are made anew from their records. */
export const BRIEF_VERSION = 5;

export interface Brief {
  family: string;
  style: string;
  fullName: string;
  postScriptName: string;
  weight: number;
  width: number;
  italic: boolean;
  verdict: Inspection["verdict"];
  container: Inspection["container"];
  outlines: Inspection["outlines"];
  codepoints: number;
  rightToLeft: boolean;
  /** Characters of its own for fonts without Latin letters; empty otherwise. */
  sample: string;
  /** Its sample stands for it whatever the words are: it has letters, and they draw nothing. */
  signsOnly: boolean;
  scripts: Script[];
  kinds: FaceKind[];
  /** Who made it, as far as it says: to be found by. */
  makers: string;
  /** How programs see it, but for the id. */
  menu: Omit<MenuFont, "id">;
}

/** The keys a face is found by: the family and the style it claims. */
export const claimKeys = (record: Pick<Inspection, "family" | "style">): { family: string; style: string } => ({
  family: familyKey(record.family),
  style: familyKey(record.style),
});

function menuOf(record: Inspection): Omit<MenuFont, "id"> {
  const { family, style, legacyFamily, legacyStyle, fullName, postScriptName, container, otherNames, axes, instances, colour } = record;
  return {
    family,
    style,
    legacyFamily,
    legacyStyle,
    fullName,
    postScriptName,
    container,
    otherNames,
    instances: instances.map((one) => one.name).filter(Boolean),
    variable: axes.length > 0,
    outlines: record.outlines === "CFF" || record.outlines === "CFF2" ? "otf" : "ttf",
    latin: hasLatin(record.ranges),
    symbols: isSymbolFont(record.ranges),
    colour: colour.length > 0,
    refusedByBrowsers: record.findings.find(({ code }) => code === "browser-refused")?.message ?? "",
  };
}

/** A font as font lists see it. `id` names the face among all others. */
export const menuFont = (brief: Pick<Brief, "menu">, sha256: string, face: number): MenuFont => ({
  ...brief.menu,
  id: `${sha256}#${face}`,
});

/** Where nobody is named, whoever made it stands at the beginning of the copyright notice. */
const LONGEST_COPYRIGHT = 160;

export function briefOf(record: Inspection): Brief {
  const { family, style, fullName, postScriptName, weight, width, italic, verdict, container, outlines, codepoints, ranges } = record;
  return {
    family,
    style,
    fullName,
    postScriptName,
    weight,
    width,
    italic,
    verdict,
    container,
    outlines,
    codepoints,
    rightToLeft: isRightToLeftOnly(ranges),
    sample: ownSample(ranges, record.blankLetters),
    signsOnly: record.blankLetters,
    scripts: scriptsOf(ranges),
    kinds: kindsOf(record),
    makers: record.makers.length > 0 ? record.makers.join(", ") : record.stated.copyright.slice(0, LONGEST_COPYRIGHT),
    menu: menuOf(record),
  };
}

/** What plans and duplicates compare, without the rest of the record. */
export function slimClaim(record: Inspection, sha256: string): Claim {
  const { family, style, outlines, container, codepoints, revision, advances, drawings, axes, version, glyphs } = record;
  return claimOf({
    sha256,
    family,
    style,
    outlines,
    container,
    codepoints,
    revision,
    advances,
    drawings,
    version,
    glyphs,
    axes: axes.map(() => 0),
  });
}
