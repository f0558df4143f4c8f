// Known licences: what each allows, how papers name it in words, and which variant a paper means.
import { USES, type Answer, type Use } from "./uses.ts";

type Said = Exclude<Answer, "not-stated">;

export interface KnownLicence {
  /** SPDX identifier. */
  id: string;
  /** What is understood of it, in a sentence of our own. */
  meaning: string;
  answers: Partial<Record<Use, Said>>;
}

const every = (answer: Said): KnownLicence["answers"] => Object.fromEntries(USES.map((use) => [use, answer]));
const only = (answer: Said, ...uses: Use[]): KnownLicence["answers"] => Object.fromEntries(uses.map((use) => [use, answer]));

const OPEN = "An open font licence: every use of the letters is free; the font files keep their licence when passed on.";
const PERMISSIVE = "Every use is free; the notice stays with the font files when they are passed on.";
const DEDICATED = "Given to the public: every use is free.";
const CREDIT = "Every use is free as long as its maker is credited.";
const COPYLEFT = "Letters may be used for anything; whether embedding the font in a document is free of conditions is not stated.";
const NO_MONEY = "Free without money, with credit; not for sold work or for clients.";

/** By SPDX identifier, whole. */
const rows: readonly (readonly [ids: RegExp, meaning: string, answers: KnownLicence["answers"]])[] = [
  [/^(OFL-1\.[01]|\w+-font-1\.0|Bitstream-Vera|Arphic-1999|IPA|ParaType-Free-Font-1\.3)$/, OPEN, every("yes")],
  [
    /^(Apache-2\.0|MIT(-0)?|X11|ISC|BSD-[23]-Clause|0BSD|Bitstream-Charter|mplus|Baekmuk|\w+-Utopia|Lucida-Bitmap-Fonts|Knuth-CTAN|Wsuipa|\w+-Glyph|FSFAP|LPPL-1\.([012]|3[ac]))$/,
    PERMISSIVE,
    every("yes"),
  ],
  [/^(CC0-1\.0|Unlicense|WTFPL)$/, DEDICATED, every("yes")],
  [/^CC-BY(-SA)?-[34]\.0$/, CREDIT, every("credit")],
  [
    /^CC-BY-ND-4\.0$/,
    "Free with credit; whether setting words with it counts as changing it is not stated.",
    only("credit", "own", "given-away"),
  ],
  [/^CC-BY-NC(-3\.0|-4\.0|-SA-4\.0|-ND-4\.0)$/, NO_MONEY, { ...only("credit", "own", "given-away"), ...only("no", "sold", "client") }],
  [/^(A?GPL-3\.0-only|GPL-2\.0-only|LGPL-(2\.1|3\.0)-only)$/, COPYLEFT, only("yes", "own", "given-away", "sold", "client", "video")],
  [
    /^GPL-2\.0-with-font-exception$/,
    "Every use of the letters is free, embedding in documents included.",
    only("yes", "own", "given-away", "sold", "client", "document", "video"),
  ],
];

/** What is understood of a licence, by its SPDX identifier; undefined for one that is not known here. */
export function knownLicence(id: string): KnownLicence | undefined {
  const row = rows.find(([ids]) => ids.test(id));
  return row && { id, meaning: row[1], answers: row[2] };
}

/**
 * Licences that repeat most of a known one and change its terms. They are recognised so as not to be taken for it; what they allow is left
 * to a person.
 */
export const LOOKALIKES: readonly string[] = (
  "JSON MIT-STK MIT-Click X11-swapped ECL-2.0 ImageMagick CC-BY-NC-SA-3.0 BSD-2-Clause-Views BSD-3-Clause-No-Nuclear-License-2014 " +
  "BSD-3-Clause-Attribution AGPL-1.0-only FSL-1.1-MIT"
).split(" ");

/** The texts to recognise, out of a list of licences by SPDX identifier. */
export const textsToKnow = (list: Readonly<Record<string, { licenseText: string }>>): { id: string; text: string }[] =>
  Object.entries(list)
    .filter(([id]) => knownLicence(id) !== undefined || LOOKALIKES.includes(id))
    .map(([id, { licenseText }]) => ({ id, text: licenseText }));

/** Ways papers name a licence without its text; the first that fits counts. Names and addresses are the licences' own. */
const MENTIONS: readonly (readonly [named: RegExp, id: string])[] = [
  [/\bCC0\b|creativecommons\.org\/publicdomain\/zero/i, "CC0-1.0"],
  [/\bOFL[- ]?1\.0\b|open font licen[cs]e[, ]*(\(OFL\)[, ]*)?(version|v\.?) ?1\.0/i, "OFL-1.0"],
  [/\bOFL([- ]?1\.1)?\b|\bopen font licen[cs]e\b|scripts\.sil\.org\/OFL|openfontlicen[cs]e\.org/i, "OFL-1.1"],
  [/apache[- ]licen[cs]e[, ]*(version )?2|apache\.org\/licenses\/LICENSE-2\.0|\bApache-2\.0\b/i, "Apache-2.0"],
  [/creativecommons\.org\/licenses\/by-nc-nd|\bCC[- ]BY[- ]NC[- ]ND\b|attribution-?non-?commercial-?no-?deriv\w*/i, "CC-BY-NC-ND-4.0"],
  [/creativecommons\.org\/licenses\/by-nc-sa|\bCC[- ]BY[- ]NC[- ]SA\b|attribution-?non-?commercial-?share-?alike/i, "CC-BY-NC-SA-4.0"],
  [/creativecommons\.org\/licenses\/by-nc|\bCC[- ]BY[- ]NC\b|creative commons attribution[- ]?non-?commercial/i, "CC-BY-NC-4.0"],
  [/creativecommons\.org\/licenses\/by-nd|\bCC[- ]BY[- ]ND\b|creative commons attribution[- ]?no-?deriv\w*/i, "CC-BY-ND-4.0"],
  [/creativecommons\.org\/licenses\/by-sa|\bCC[- ]BY[- ]SA\b|creative commons attribution[- ]?share-?alike/i, "CC-BY-SA-4.0"],
  [/creativecommons\.org\/licenses\/by\b|\bCC[- ]BY\b|creative commons attribution\b/i, "CC-BY-4.0"],
  [
    /\bGPL[- v]*[23]?(\.0)?\+? ?(with|\+) ?(the )?font[- ]exception|general public licen[cs]e[^.]{0,200}?font (embedding )?exception/i,
    "GPL-2.0-with-font-exception",
  ],
  [/\bLGPL\b|lesser general public licen[cs]e/i, "LGPL-3.0-only"],
  [/\bGPL[- v]*3|general public licen[cs]e[, ]*(\(GPL\)[, ]*)?(version|v\.?) ?3/i, "GPL-3.0-only"],
  [/\bGPL\b|\bGPL[- v]*2|general public licen[cs]e/i, "GPL-2.0-only"],
  [/latex project public licen[cs]e|\bLPPL\b/i, "LPPL-1.3c"],
  [/\bMIT licen[cs]e\b|\bexpat licen[cs]e\b|^license: (MIT|Expat)$/i, "MIT"],
  [/\bunlicense\b/i, "Unlicense"],
  [/\bWTFPL\b/i, "WTFPL"],
];

/** Words that take a named licence back, shortly before it and in the same sentence. */
const NOT_UNDER = /\b(not|no longer|never|instead of|unlike|except)\b[^.]*$/i;
const SHORTLY = 55;

/** The licence a sentence says the font is under; undefined when it names none, or names one to deny it. */
export function mentionedLicence(sentence: string): string | undefined {
  for (const [named, id] of MENTIONS) {
    const match = named.exec(sentence);
    if (match) return NOT_UNDER.test(sentence.slice(Math.max(0, match.index - SHORTLY), match.index)) ? undefined : id;
  }
  return undefined;
}

/** The font exception of the GNU licences stands beside their text (published by its makers as an added permission). */
const FONT_EXCEPTION = /\bas a special exception\b[\s\S]{0,80}\bif you create a document which uses this font\b/i;
const RESERVED_NAME = /\breserved font names?\b/i;
const LATER = /\bany later version\b/i;

/**
 * Which variant of a licence a paper means, from what it says beside the text: reserved font names for the open font licence, "or any later
 * version" and the font exception for the GNU ones. `beside` is the paper without the licence's own text.
 */
export function variantOf(id: string, beside: string): string {
  if (id === "OFL-1.0" || id === "OFL-1.1") {
    if (/\bwithout reserved font name\b|\bno reserved font name\b/i.test(beside)) return `${id}-no-RFN`;
    return RESERVED_NAME.test(beside) ? `${id}-RFN` : id;
  }
  if (/^(A|L)?GPL-.*-only$/.test(id)) {
    if (FONT_EXCEPTION.test(beside.replace(/\s+/g, " "))) return id === "GPL-2.0-only" ? "GPL-2.0-with-font-exception" : id;
    return LATER.test(beside) ? id.replace("-only", "-or-later") : id;
  }
  return id;
}

/** The licence a variant is read as. */
export function baseLicence(id: string): KnownLicence | undefined {
  const base = id.replace(/-(no-)?RFN$/, "").replace(/-or-later$/, "-only");
  return knownLicence(base);
}
