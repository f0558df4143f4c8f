// A configuration profile that puts fonts on a tablet: an XML property list with one payload a font (keys as the published profile key
// reference names them; from memory). Written by a well-known plist library; what is in it is decided here.
import { createHash } from "node:crypto";
import { build, type PlistValue } from "plist";

export interface ProfileFont {
  /** Shown in the tablet's list of what the profile holds. */
  fullName: string;
  postScriptName: string;
  /** File name with its ending. */
  fileName: string;
  bytes: Uint8Array;
}

export interface ProfileFamily {
  /** The family's name, as people know it. */
  family: string;
  /** Who made the profile, shown before it is allowed. */
  organisation: string;
  /** Names this library for good, in letters, digits and hyphens: profiles of two libraries never replace one another. */
  library: string;
  fonts: readonly ProfileFont[];
}

/** The media type by which a tablet knows that a download is a profile. */
export const PROFILE_MEDIA_TYPE = "application/x-apple-aspen-config";
export const PROFILE_ENDING = ".mobileconfig";

const digest = (of: string | Uint8Array): string => createHash("sha256").update(of).digest("hex").slice(0, 12);
/** A name that stands in an identifier as it is: its words in letters and digits, joined by `joint`. */
const AS_IT_IS = { family: /^[A-Za-z0-9]+( [A-Za-z0-9]+)*$/, font: /^[A-Za-z0-9]+(-[A-Za-z0-9]+)*$/ };
/** A name in letters, digits and hyphens; where signs had to go for it, a digest of all of them tells it from others that look alike then. */
function plain(name: string, kind: keyof typeof AS_IT_IS): string {
  const letters = name
    .normalize("NFKD")
    .replace(/[^A-Za-z0-9]+/g, "-")
    .replace(/^-|-$/g, "")
    .toLowerCase();
  return AS_IT_IS[kind].test(name) ? letters : [letters, digest(name)].filter(Boolean).join("-");
}

/** A UUID that is the same whenever it is made from the same words (RFC 9562, 5.8 "UUID version 8": made as its writer sees fit). */
export function steadyUuid(words: string): string {
  const bytes = createHash("sha256").update(words).digest().subarray(0, 16);
  bytes[6] = (bytes[6]! & 0x0f) | 0x80;
  bytes[8] = (bytes[8]! & 0x3f) | 0x80;
  const hex = bytes.toString("hex").toUpperCase();
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join("-");
}

/** The name a tablet knows a family's profile by: placing it again replaces it, and never doubles it. */
export const profileIdentifier = (library: string, family: string): string =>
  `buvano.${plain(library, "font")}.fonts.${plain(family, "family")}`;

/**
 * The profile as XML text. Identifiers follow from library, family and style alone, so that a newer file of the same style replaces the
 * older one; the fonts' bytes are unchanged. Two fonts that go by one name are told apart by their bytes.
 */
export function writeProfile({ family, organisation, library, fonts }: ProfileFamily): string {
  const identifier = profileIdentifier(library, family);
  const seen = new Set<string>();
  const payloads = fonts.map((font): PlistValue => {
    const named = `${identifier}.${plain(font.postScriptName || font.fullName, "font")}`;
    const own = seen.has(named) ? `${named}-${digest(font.bytes)}` : named;
    seen.add(own);
    return {
      Font: Buffer.from(font.bytes),
      Name: font.fileName,
      PayloadDescription: `The font ${font.fullName}`,
      PayloadDisplayName: font.fullName,
      PayloadIdentifier: own,
      PayloadType: "com.apple.font",
      PayloadUUID: steadyUuid(own),
      PayloadVersion: 1,
    };
  });
  const count = fonts.length === 1 ? "1 style" : `${fonts.length} styles`;
  return build({
    PayloadContent: payloads,
    PayloadDescription: `Puts ${family} (${count}) on this tablet. Removing the profile takes it off again.`,
    PayloadDisplayName: `${family}, ${count}`,
    PayloadIdentifier: identifier,
    PayloadOrganization: organisation,
    PayloadRemovalDisallowed: false,
    PayloadType: "Configuration",
    PayloadUUID: steadyUuid(identifier),
    PayloadVersion: 1,
  });
}
