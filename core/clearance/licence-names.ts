// How papers name licences: by name and version, by address, by Debian's short names; one, or a choice between several.
import { baseLicence, currentName } from "./licences.ts";

/** Names and addresses are the licences' own. The first that fits at a place counts. `{v}` in an identifier is the version that was named. */
const NAMES: readonly (readonly [named: RegExp, id: string])[] = [
  [/\bCC0\b|creativecommons\.org\/publicdomain\/zero/gi, "CC0-1.0"],
  [/\bOFL[- ]?(version |v\.? ?)?1\.0\b|open font licen[cs]e[, ]*(\(OFL\)[, ]*)?(version|v\.?) ?1\.0/gi, "OFL-1.0"],
  [
    /\b(SIL[- ])?OFL([- ,]*(version |v\.? ?)?1\.1)?\b|\b(SIL[- ,]*)?open[- ]font[- ]licen[cs]e\b([, ]*\(OFL\))?([-, ]*(version|v\.?)? ?1\.1)?|\bSIL[- ]1\.1\b|scripts\.sil\.org\/OFL\w*|openfontlicen[cs]e\.org/gi,
    "OFL-1.1",
  ],
  [
    /\bapache[- ]?(software )?(foundation )?licen[cs]e[, ]*(version |v\.? ?)?2|apache\.org\/licenses\/LICENSE-2\.0|\bApache[- ]2(\.0)?\b/gi,
    "Apache-2.0",
  ],
  [
    /creativecommons\.org\/licenses\/by-nc-nd\/(\d\.\d)?|\bCC[- ]BY[- ]NC[- ]ND\b[- ]?(\d\.\d)?|attribution-?non-?commercial-?no-?deriv\w*( (\d\.\d))?/gi,
    "CC-BY-NC-ND-{v}",
  ],
  [
    /creativecommons\.org\/licenses\/by-nc-sa\/(\d\.\d)?|\bCC[- ]BY[- ]NC[- ]SA\b[- ]?(\d\.\d)?|attribution-?non-?commercial-?share-?alike( (\d\.\d))?/gi,
    "CC-BY-NC-SA-{v}",
  ],
  [
    /creativecommons\.org\/licenses\/by-nc\/(\d\.\d)?|\bCC[- ]BY[- ]NC\b[- ]?(\d\.\d)?|creative commons attribution[- ]?non-?commercial( (\d\.\d))?/gi,
    "CC-BY-NC-{v}",
  ],
  [
    /creativecommons\.org\/licenses\/by-nd\/(\d\.\d)?|\bCC[- ]BY[- ]ND\b[- ]?(\d\.\d)?|creative commons attribution[- ]?no-?deriv\w*( (\d\.\d))?/gi,
    "CC-BY-ND-{v}",
  ],
  [
    /creativecommons\.org\/licenses\/by-sa\/(\d\.\d)?|\bCC[- ]BY[- ]SA\b[- ]?(v?\d(\.\d)?)?|creative commons attribution[- ]?share-?alike( (\d\.\d))?/gi,
    "CC-BY-SA-{v}",
  ],
  [
    /creativecommons\.org\/licenses\/by\/(\d\.\d)?|\bCC[- ]BY\b(?![- ](NC|ND|SA))[- ]?(v?\d(\.\d)?)?|creative commons[- ,]attribution(?![- ]?(non|no-|share))( licen[cs]e)?[- ,]*(version )?(\d\.\d)?/gi,
    "CC-BY-{v}",
  ],
  [/\bAGPL(?=\b|[v23])|affero general public licen[cs]e/gi, "AGPL-3.0-only"],
  [
    /\bLGPL(?:[-, ]*(?:version|v\.?))?[- ]*(\d(?:\.\d)?)?\+?|\bGNU[- ](?:library|lesser) (?:general public licen[cs]e|GPL)[, ]*(?:\(?(?:GNU )?LGPL\)?[, ]*)?(?:as published by the free software foundation[;,]? ?)?(?:either )?(?:(?:version|v\.?) ?(\d(?:\.\d)?))?|\blesser general public licen[cs]e[, ]*(?:(?:version|v\.?) ?(\d(?:\.\d)?))?/gi,
    "LGPL-{v}-only",
  ],
  [
    /\bGPL(?:[-, ]*(?:version|v\.?))?[- ]*([123](?:\.\d)?)?\+?(?=\W|$|[a-z])|(?<!lesser |library |affero )\bgeneral public licen[cs]e[, ]*(?:\(?(?:GNU )?GPL\)?[, ]*)?(?:as published by the free software foundation[;,]? ?)?(?:either )?(?:(?:version|v\.?) ?([123](?:\.\d)?))?/gi,
    "GPL-{v}-only",
  ],
  [/\bgnu\.org\/(?:copyleft|licenses)\/(?:old-licenses\/)?gpl\b/gi, "GPL-{v}-only"],
  [/latex project public licen[cs]e|\bLPPL\b/gi, "LPPL-1.3c"],
  [
    /\bMIT(\/X11)?[- ]licen[cs]e\b|\b(MIT|Expat)[- ](style )?licen[cs]e\b|\bexpat licen[cs]e\b|\blicen[cs]e: ?(MIT|Expat)\b|\b(?:with|under|both) (?:the )?MIT\b/gi,
    "MIT",
  ],
  [/\bBSD[- ]?(2|two)[- ]clause\b|\bsimplified BSD\b/gi, "BSD-2-Clause"],
  [/\bBSD[- ]?(3|three)([- ]clause)?\b|\b(modified|new|revised) BSD\b/gi, "BSD-3-Clause"],
  [/\bartistic licen[cs]e[, ]*(version )?2/gi, "Artistic-2.0"],
  [/\bartistic licen[cs]e\b/gi, "Artistic-1.0"],
  [/\bmozilla public licen[cs]e\b|\bMPL[- ]?2/gi, "MPL-2.0"],
  [/\bIPA font licen[cs]e\b/gi, "IPA"],
  [/\barphic public licen[cs]e\b/gi, "Arphic-1999"],
  [/\bunlicense\b/gi, "Unlicense"],
  [/\bWTFPL\b/gi, "WTFPL"],
];

/** Debian's short names that do not name the licence in its own words. */
const SHORT: Readonly<Record<string, string>> = {
  expat: "MIT",
  mit: "MIT",
  artistic: "Artistic-1.0",
  apache: "Apache-2.0",
  bitstream: "Bitstream-Vera",
  "bitstream-vera": "Bitstream-Vera",
  isc: "ISC",
  zlib: "Zlib",
};

export interface Named {
  /** SPDX identifier. */
  id: string;
  at: number;
  end: number;
}

const versioned = (id: string, version: string | undefined): string => {
  if (!id.includes("{v}")) return id;
  const plain = version?.replace(/^v/i, "");
  if (id.startsWith("CC-")) return id.replace("{v}", !plain ? "4.0" : plain.includes(".") ? plain : `${plain}.0`);
  // Whoever names no version leaves the choice among all (GPL version 2, section 9).
  if (!plain) return id === "LGPL-{v}-only" ? "LGPL-2.0-or-later" : "GPL-1.0-or-later";
  return id.replace("{v}", plain.includes(".") ? plain : `${plain}.0`);
};

/** Every licence a text names, in order of place. */
export function licencesNamed(text: string): Named[] {
  const found: Named[] = [];
  for (const [named, id] of NAMES) {
    named.lastIndex = 0;
    for (let match = named.exec(text); match; match = named.exec(text)) {
      const [at, end] = [match.index, match.index + match[0].length];
      if (found.some((one) => at < one.end && one.at < end)) continue;
      const version = match.slice(1).find((group) => group !== undefined && /^v?\d(\.\d)?$/i.test(group));
      found.push({ id: versioned(id, version), at, end });
    }
  }
  return found.sort((a, b) => a.at - b.at);
}

/** The font exception of the GNU licences (published by their makers as an added permission), in full or by name. */
const FONT_EXCEPTION =
  /\bspecial exception\b[\s\S]{0,80}\bif you create a document which uses this font\b|\bfont[- ](embedding )?exception\b|\bgpl\+fe\b|[+-]fe\b/i;
const LATER = /\b(any|or) later( version)?\b|\bGPL[- v]*[123](\.[01])?\+|\bor-later\b/i;
const RESERVED_NAME = /\breserved font names?\b/i;

/**
 * Which variant of a licence a paper means, from what it says beside the text: reserved font names for the open font licence, "or any later
 * version" and the font exception for the GNU ones. `beside` is the paper without the licence's own text.
 */
export function variantOf(named: string, beside: string): string {
  const id = currentName(named);
  if (id === "OFL-1.0" || id === "OFL-1.1") {
    if (/\bwithout reserved font name\b|\bno reserved font name\b/i.test(beside)) return `${id}-no-RFN`;
    return RESERVED_NAME.test(beside) ? `${id}-RFN` : id;
  }
  if (!/^(A|L)?GPL-.*-(only|or-later)$/.test(id)) return id;
  const later = LATER.test(beside) ? id.replace("-only", "-or-later") : id;
  return !id.startsWith("A") && FONT_EXCEPTION.test(beside.replace(/\s+/g, " ")) ? `${later} WITH Font-exception-2.0` : later;
}

/** Words that take a named licence back, shortly before it and in the same sentence. */
const NOT_UNDER =
  /\b(not|no longer|never|instead of|unlike|except|other than|compatible with|similar to|based on|was|were|formerly|previously)\b[^.]*$/i;
const SHORTLY = 55;
/** Words by which a paper puts the fonts under a licence. */
const DECLARES =
  /\b(licen[cs]ed|licen[cs]ing|dual-licen[cs]ed|releas(e|ed)|available|distribut(e|ed)|published|publish|redistribute|redistributed|under|according to|terms of|subject to|governed|covered|placed|either|choose|pursuant|conditions of|licen[cs]e is|full text|complete text|text of|may be found|can be found|also available)\b|\blicen[cs]es?: ?/i;
/** What is licensed is the thing named first, when it is none of the fonts. */
const OTHER_THING =
  /\b(packaging|packag(ed|e is)|documentation|manuals?|scripts?|web ?sites?|source code|software used|build (system|tools?)|tools?|programs?|icons|pictograms|logo|images|pictures|metainfo|appstream|configuration|patch(es)?|specimen|examples?|test files?|this (file|document|faq|page)|(styl|css) ?(sheet|file)s?)\b.{0,240}$/i;
/** "The pictures are licensed under one licence, and the font under another": what is named last counts. */
function ofOtherThing(before: string): boolean {
  const other = OTHER_THING.exec(before);
  return other !== null && !/\b(fonts?|typefaces?)( files?| itself| themselves)? (is|are|unter|under)\b/i.test(before.slice(other.index));
}
const BARE = 9;
/** A longer sentence names its licence at its beginning. */
const MOST_CHARACTERS = 700;
/** Most sentences name no licence, and are not looked at closely. */
const MAY_NAME = /licen[cs]|[glm]pl|ofl|\bcc|creativecommons|creative commons|\bsil\b|expat|\bmit\b|bsd|wtfpl|\bufl\b/i;

export interface Mention {
  /** SPDX identifier, or several as a choice ("MIT OR OFL-1.1"). */
  id: string;
}

/**
 * The licences a sentence puts the fonts under. Several named with "either … or", "dual", "or" are a choice; else each counts by itself.
 * Empty when it names none, denies one, or speaks of other things than the fonts.
 */
export function mentioned(whole: string): Mention[] {
  const sentence = whole.slice(0, MOST_CHARACTERS);
  if (!MAY_NAME.test(sentence)) return [];
  const named = licencesNamed(sentence).filter(({ at }) => {
    const before = sentence.slice(Math.max(0, at - SHORTLY), at);
    return !NOT_UNDER.test(before) && !ofOtherThing(sentence.slice(Math.max(0, at - 260), at));
  });
  if (named.length === 0 || sentence.endsWith("?")) return [];
  const words = sentence.split(/\s+/).length;
  if (!DECLARES.test(sentence) && words > BARE + named.length * 4) return [];
  const ids = [...new Set(named.map(({ id }) => variantOf(id, sentence)))];
  const distinct = ids.filter((id, i) => !ids.some((other, k) => k !== i && covers(other, id)));
  if (distinct.length > 1 && isChoice(sentence, named)) return [{ id: distinct.join(" OR ") }];
  return distinct.map((id) => ({ id }));
}

/** Whether a licence that is named is one of those whose text stands there, or says less than it. */
export const saidBy = (id: string, recognised: readonly string[]): boolean =>
  id.split(" OR ").every((one) => {
    const plain = one
      .split(" WITH ")[0]!
      .replace(/-(only|or-later|RFN|no-RFN)$/, "")
      .replace(/-no$/, "");
    return recognised.some((other) => other.startsWith(plain) || covers(other, one.split(" WITH ")[0]!));
  });

/** "GPL" says nothing beside "GPL version 2", nor does an address of the same licence. */
const covers = (more: string, less: string): boolean =>
  (less === "GPL-1.0-or-later" && /^GPL-/.test(more)) ||
  (less === "LGPL-2.0-or-later" && /^LGPL-/.test(more)) ||
  (more.startsWith(less) && more !== less);

const isChoice = (sentence: string, named: readonly Named[]): boolean => {
  const between = named.slice(1).map((one, i) => sentence.slice(named[i]!.end, one.at));
  return (
    /\b(either|dual|dually|choice|choose|your option|any of|one of|triple|multi-?licen)/i.test(sentence) ||
    between.some((words) => /\bor\b|[|/]/i.test(words))
  );
};

/** Where the open font licence's own text begins, which explains reserved names to everybody. */
const OWN_TEXT = /^[ .*-]{0,40}(SIL OPEN FONT LICEN[CS]E[ ,-]{1,3}version|PREAMBLE\b|the goals of the open font licen[cs]e)/im;

/** The licence of a short name of Debian's copyright format ("GPL-2+", "Expat"); `text` is what stands under it. */
export function licenceByShortName(name: string, text: string): string | undefined {
  const plain = name.trim().replace(/_/g, " ");
  const short = SHORT[plain.toLowerCase()];
  if (short) return short;
  const [named] = licencesNamed(plain);
  if (named) return variantOf(named.id, `${plain} ${text.split(OWN_TEXT)[0]}`);
  return baseLicence(plain) ? plain : undefined;
}
