// Known licences: what each allows, what it leaves open, and what it means in a sentence a person can act on.
import { stricter, USES, type Answer, type Use } from "./uses.ts";

type Said = Exclude<Answer, "not-stated">;

export interface KnownLicence {
  /** SPDX identifier. */
  id: string;
  /** What is understood of it, in a sentence of our own. */
  meaning: string;
  answers: Partial<Record<Use, Said>>;
  /** Uses it leaves open: nothing weaker than it, such as embedding bits, can answer them. */
  open: readonly Use[];
}

const every = (answer: Said): KnownLicence["answers"] => Object.fromEntries(USES.map((use) => [use, answer]));
const only = (answer: Said, ...uses: Use[]): KnownLicence["answers"] => Object.fromEntries(uses.map((use) => [use, answer]));

const OPEN = "Free for everything, also things you sell; the font files themselves may not be sold alone.";
const PERMISSIVE = "Free for everything, also things you sell; its notice stays with the font files when they are passed on.";
const DEDICATED = "Given to the public: free for everything, also things you sell.";
const CREDIT = "Free for everything, also things you sell, as long as its maker is credited.";
const SHARE_ALIKE =
  "Free with credit, also for things you sell; whether a document or web page that carries the font must be shared under the same licence is not stated.";
const NO_MONEY = "Free without money, with credit; not for sold work or for clients.";
const COPYLEFT =
  "Letters may be used for anything, also things you sell; a document or web page that carries the font itself may have to come under this licence, which does not say so either way.";
const LETTERS_FREE =
  "Free for everything made with the letters, documents included; a web page hands the font itself on, and then its licence and source go with it.";

/** By SPDX identifier, whole. */
const rows: readonly (readonly [ids: RegExp, meaning: string, answers: KnownLicence["answers"], open?: readonly Use[]])[] = [
  [/^(OFL-1\.[01]|\w+-font-1\.0|Bitstream-Vera|Arphic-1999|IPA|ParaType-Free-Font-1\.3)$/, OPEN, every("yes")],
  [
    /^(Apache-2\.0|MIT(-0)?|X11|ISC|BSD-[23]-Clause|0BSD|Bitstream-Charter|mplus|Baekmuk|\w+-Utopia|Lucida-Bitmap-Fonts|Knuth-CTAN|Wsuipa|\w+-Glyph|FSFAP|LPPL-1\.([012]|3[ac])|Artistic-[12]\.0|MPL-[12]\.[01]|EPL-[12]\.0)$/,
    PERMISSIVE,
    every("yes"),
  ],
  [/^(CC0-1\.0|Unlicense|WTFPL)$/, DEDICATED, every("yes")],
  [/^CC-BY-[1234]\.[05]$/, CREDIT, every("credit")],
  [/^CC-BY-SA-[1234]\.[05]$/, SHARE_ALIKE, only("credit", "own", "given-away", "sold", "client", "video"), ["document", "web"]],
  [
    /^CC-BY-ND-[1234]\.[05]$/,
    "Free with credit; whether setting words with it counts as changing it is not stated.",
    only("credit", "own", "given-away"),
    ["sold", "client", "document", "video", "web"],
  ],
  [
    /^CC-BY-NC(-SA|-ND)?-[1234]\.[05]$/,
    NO_MONEY,
    { ...only("credit", "own", "given-away"), ...only("no", "sold", "client") },
    ["document", "video", "web"],
  ],
  [/^L?A?GPL-[123]\.[01]-(only|or-later)$/, COPYLEFT, only("yes", "own", "given-away", "sold", "client", "video"), ["document", "web"]],
  [
    /^L?GPL-[123]\.[01]-(only|or-later) WITH Font-exception-2\.0$/,
    LETTERS_FREE,
    only("yes", "own", "given-away", "sold", "client", "document", "video"),
    ["web"],
  ],
];

/** Under an old name of the list this is the text of the licence with its exception. */
const OLD_NAMES: Readonly<Record<string, string>> = { "GPL-2.0-with-font-exception": "GPL-2.0-only WITH Font-exception-2.0" };
/** The name that counts, of those the list has for one licence. */
export const currentName = (id: string): string => OLD_NAMES[id] ?? id;

function knownOne(id: string): KnownLicence | undefined {
  const name = currentName(id);
  const row = rows.find(([ids]) => ids.test(name));
  return row && { id, meaning: row[1], answers: row[2], open: row[3] ?? [] };
}

/**
 * What is understood of a licence, by its SPDX identifier, or of a choice between several ("OFL-1.1 OR MIT"), where the wider counts.
 * Undefined for one that is not known here.
 */
export function knownLicence(id: string): KnownLicence | undefined {
  const parts = id.split(" OR ");
  if (parts.length === 1) return knownOne(id);
  const known = parts.flatMap((part) => baseLicence(part) ?? []);
  if (known.length === 0) return undefined;
  const answers: KnownLicence["answers"] = {};
  const meanings = new Set(known.map((one) => one.meaning));
  for (const use of USES) {
    const said = known.flatMap((one) => one.answers[use] ?? []);
    const wider = said.reduce<Said | undefined>(
      (best, one) => (best === undefined || stricter(best, one) === best ? one : best),
      undefined,
    );
    if (wider) answers[use] = wider;
  }
  const widest = known.find((one) => USES.every((use) => one.answers[use] === answers[use]));
  return {
    id,
    meaning: meanings.size === 1 ? known[0]!.meaning : `You may choose the licence. ${widest?.meaning ?? known[0]!.meaning}`,
    answers,
    open: USES.filter((use) => answers[use] === undefined && known.some((one) => one.open.includes(use))),
  };
}

/** The licence a variant is read as: reserved names change what a changed font may be called, and nothing else. */
export const baseLicence = (id: string): KnownLicence | undefined => knownLicence(id.replace(/-(no-)?RFN$/, ""));

/**
 * Licences that repeat most of a known one and change its terms. They are recognised so as not to be taken for it; what they allow is left
 * to a person.
 */
const LOOKALIKES: readonly string[] = (
  "JSON MIT-STK MIT-Click X11-swapped ECL-2.0 ImageMagick BSD-2-Clause-Views BSD-3-Clause-No-Nuclear-License-2014 " +
  "BSD-3-Clause-Attribution AGPL-1.0-only FSL-1.1-MIT"
).split(" ");

/** Texts that others repeat nearly whole, or that are the same as one that is listed: these licences are known by their names alone. */
const BY_NAME_ALONE = /-or-later$|^(GPL-1|Artistic|MPL|EPL)/;

/** The texts to recognise, out of a list of licences by SPDX identifier. */
export const textsToKnow = (list: Readonly<Record<string, { licenseText: string }>>): { id: string; text: string }[] =>
  Object.entries(list)
    .filter(([id]) => LOOKALIKES.includes(id) || (knownLicence(id) !== undefined && !BY_NAME_ALONE.test(id)))
    .map(([id, { licenseText }]) => ({ id, text: licenseText }));
