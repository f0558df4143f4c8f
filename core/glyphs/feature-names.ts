// OpenType features by names people know, and the sentence that leads to a glyph.
import { BY_THEMSELVES } from "./by-themselves.ts";
import type { Way } from "./reach.ts";

/** Plain names of registered features that change letterforms (OpenType specification, "Registered features"; the plain words are ours). */
const NAMES: Readonly<Record<string, string>> = {
  aalt: "All alternatives",
  afrc: "Fractions, upright",
  c2pc: "Petite capitals from capitals",
  c2sc: "Small capitals from capitals",
  calt: "Letters that fit their neighbours",
  case: "Marks that fit capitals",
  clig: "Ligatures where they fit",
  cswh: "Swashes where they fit",
  dlig: "Decorative ligatures",
  dnom: "Figures below a fraction bar",
  expt: "Expert forms",
  falt: "Letters that end a line",
  fina: "Letters at the end of a word",
  frac: "Fractions",
  fwid: "Full widths",
  half: "Half letters",
  halt: "Half widths",
  hist: "Historical letters",
  hkna: "Kana for lines across",
  hlig: "Historical ligatures",
  hwid: "Half-width letters",
  init: "Letters at the beginning of a word",
  isol: "Letters by themselves",
  ital: "Italic letters",
  jp78: "Japanese letters of 1978",
  jp83: "Japanese letters of 1983",
  jp90: "Japanese letters of 1990",
  jp04: "Japanese letters of 2004",
  liga: "Ligatures",
  lnum: "Lining figures",
  locl: "Letters of a language",
  medi: "Letters within a word",
  mgrk: "Mathematical Greek",
  nalt: "Notes around figures",
  numr: "Figures above a fraction bar",
  onum: "Old-style figures",
  ordn: "Ordinals",
  ornm: "Ornaments",
  pcap: "Petite capitals",
  pnum: "Figures of their own widths",
  pwid: "Letters of their own widths",
  rand: "Letters by chance",
  rlig: "Ligatures the script needs",
  ruby: "Letters for small notes",
  salt: "Alternatives",
  sinf: "Figures low, for formulas",
  smcp: "Small capitals",
  smpl: "Simplified letters",
  subs: "Low figures and letters",
  sups: "High figures and letters",
  swsh: "Swashes",
  titl: "Letters for titles",
  tnum: "Figures of one width",
  trad: "Traditional letters",
  unic: "One height for both cases",
  vert: "Letters for lines downwards",
  vrt2: "Turned letters for lines downwards",
  zero: "Zero with a mark",
};

/** A feature's plain name: "Small capitals"; of sets and variants by their number, with the font's own name after it. */
export function featureName(tag: string, own = ""): string {
  const set = /^(ss|cv)(\d\d)$/.exec(tag);
  const plain = set ? `${set[1] === "ss" ? "Set" : "Variant"} ${Number(set[2])}` : (NAMES[tag] ?? `Feature “${tag.trim()}”`);
  return own === "" ? plain : `${plain}: ${own}`;
}

/** Features of positions, of scripts and of layout: nothing a person chooses. */
const NOT_CHOSEN = new Set(
  "kern mark mkmk ccmp dist curs abvm blwm cpsp palt vpal vkrn valt vhal opbd lfbd rtbd rvrn size aalt locl".split(" "),
);
/** Whether a feature is one a person would switch: forms that a script needs are always on. */
export const isChoice = (tag: string): boolean =>
  !NOT_CHOSEN.has(tag) && (!BY_THEMSELVES.has(tag) || tag === "liga" || tag === "clig" || tag === "calt");

/** How to get a glyph: "Write a, turn on Set 2." */
export function waySentence({ features, value, input, language }: Way, names: ReadonlyMap<string, string>): string {
  // Joiners stand for letters at its sides.
  const joins = [input.startsWith("\u200D"), input.endsWith("\u200D")];
  const bare = input.replaceAll("\u200D", "");
  const where =
    joins[0] && joins[1]
      ? " between letters that join"
      : joins[0]
        ? " after a letter that joins"
        : joins[1]
          ? " before a letter that joins"
          : "";
  const text = language === undefined ? "" : `, in text marked as ${languageWord(language)}`;
  const written = `Write ${bare}${where}${text}`;
  if (features.length === 0) return `${written}. It appears by itself.`;
  const named = features.map((tag) => names.get(tag) ?? featureName(tag));
  const last = named.at(-1)!;
  const chosen = value > 1 ? `${last}, number ${value}` : last;
  const list = [...named.slice(0, -1), chosen].join(" and ");
  return `${written}, turn on ${list}.`;
}

const languageWord = (tag: string): string => {
  try {
    return new Intl.DisplayNames(["en"], { type: "language" }).of(tag) ?? tag;
  } catch {
    return tag;
  }
};
