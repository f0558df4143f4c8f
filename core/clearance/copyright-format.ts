// Debian's machine-readable copyright file ("Machine-readable debian/copyright file", version 1.0, published with Debian Policy): which
// licence each file of a package is under. Paragraphs of fields; the last "Files" paragraph that matches a file counts.
import { licenceByShortName } from "./licence-names.ts";

interface Stanza {
  /** Patterns of file names: * and ? stand for any characters, slashes included. */
  files: string[];
  /** The licence as it is named: "GPL-2+ or OFL-1.1". */
  licence: string;
  /** What stands under the name, without the format's own indenting. */
  text: string;
  /** Of the "License" field, counted from 1. */
  line: number;
}

export interface CopyrightFile {
  stanzas: Stanza[];
  /** Texts of licences by their short names, in small letters. */
  texts: ReadonlyMap<string, LicenceText>;
}

interface LicenceText {
  text: string;
  /** What the packager remarks on it. */
  comment: string;
  /** Of the "License" field, counted from 1. */
  line: number;
}

interface Field {
  name: string;
  value: string;
  /** Of the field's first line, counted from 1. */
  line: number;
}

const FORMAT = /^Format(-Specification)?:\s*\S*(copyright-format|dep5|DEP-?5|copyright\/dep|CopyrightFormat)/im;
const FIELD = /^([A-Za-z][A-Za-z-]{0,40}):[ \t]?(.*)$/;
/** Files of the packaging are never fonts' own. */
const OF_PACKAGING = /^debian\//;

function* paragraphs(text: string): Generator<Field[]> {
  let fields: Field[] = [];
  for (const [i, line] of text.split("\n").entries()) {
    if (line.trim() === "") {
      if (fields.length > 0) yield fields;
      fields = [];
      continue;
    }
    const field = FIELD.exec(line);
    if (field) fields.push({ name: field[1]!.toLowerCase(), value: field[2]!, line: i + 1 });
    else if (fields.length > 0) fields.at(-1)!.value += `\n${line.replace(/^[ \t]/, "").replace(/^\.$/, "")}`;
  }
  if (fields.length > 0) yield fields;
}

/** Reads such a file; undefined when it is none. */
export function readCopyrightFile(text: string): CopyrightFile | undefined {
  if (!FORMAT.test(text.slice(0, 2000))) return undefined;
  const stanzas: Stanza[] = [];
  const texts = new Map<string, LicenceText>();
  for (const fields of paragraphs(text)) {
    const field = (name: string) => fields.find((one) => one.name === name);
    const licence = field("license");
    const files = field("files");
    if (!licence) continue;
    const [name = "", ...rest] = licence.value.split("\n");
    const under = rest.join("\n");
    if (files) stanzas.push({ files: files.value.split(/\s+/).filter(Boolean), licence: name.trim(), text: under, line: licence.line });
    const short = name.trim().toLowerCase();
    if (under.trim() !== "" && !texts.has(short))
      texts.set(short, { text: under, comment: field("comment")?.value ?? "", line: licence.line });
  }
  return stanzas.length > 0 ? { stanzas, texts } : undefined;
}

/** Endings of what fonts are made from, or shipped as. */
const FONT_LIKE = /\.(ttf|otf|ttc|otc|woff2?|sfd|sfdir|ufo|glyphs|vfb|vfc|ttx|pfb|pfa|bdf|pcf|designspace|\*)$/i;
const FONT_FOLDER = /(^|\/)(fonts?|ttf|otf|truetype|opentype|sources?|sfd)\/\*?$/i;

/** Whether a pattern speaks of a font that now lies at `path`: packages are put together from sources that lie elsewhere. */
function matches(pattern: string, path: string): boolean {
  if (pattern === "*") return true;
  if (OF_PACKAGING.test(pattern)) return false;
  const name = path.slice(path.lastIndexOf("/") + 1);
  const last = pattern.slice(pattern.lastIndexOf("/") + 1);
  if (glob(pattern, path)) return true;
  if (last !== "*" && last !== "") {
    // The same name with another ending is what the font was made from.
    const stem = (file: string) => file.replace(/\.[^.]*$/, "");
    if (FONT_LIKE.test(last)) return glob(stem(last), stem(name));
    return !last.includes(".") && last.includes("*") && last.length > 2 ? glob(last, name) : last === name;
  }
  const folder = pattern.replace(/\/?\*?$/, "");
  return FONT_FOLDER.test(pattern) || `/${path}`.includes(`/${folder}/`);
}

/** Glob of the format: * and ? only; each * takes the next place where what follows it stands. */
function glob(pattern: string, text: string): boolean {
  let [p, t, star, mark] = [0, 0, -1, 0];
  while (t < text.length) {
    const sign = pattern[p];
    if (sign === "*") {
      star = p++;
      mark = t;
    } else if (sign !== undefined && (sign === "?" || sign === text[t])) {
      p++;
      t++;
    } else if (star >= 0) {
      p = star + 1;
      t = ++mark;
    } else return false;
  }
  while (pattern[p] === "*") p++;
  return p === pattern.length;
}

/** Which of several lists of patterns speak of fonts at `paths`: for each font the last that matches, as the format says. */
export function stanzasFor(files: readonly (readonly string[])[], paths: readonly string[]): Set<number> {
  const found = new Set<number>();
  for (const path of paths) {
    const last = files.findLastIndex((patterns) => patterns.some((pattern) => matches(pattern, path)));
    if (last >= 0) found.add(last);
  }
  return found;
}

const tidy = (words: string): string => words.replace(/\s+/g, " ").trim();
/** The names in "GPL-2+ and (MIT or Expat)", each by itself. */
export const namesOf = (named: string): string[] => tidy(named).split(/,? (?:and|or) |, /i);

/**
 * A licence as named in a stanza, by SPDX identifier: names joined by "or" are a choice, by "and" or a comma all count. `textOf` gives what
 * stands under a short name, `recognise` the licence of a text. Names that are not known are left out, of a choice too: the reader chooses.
 */
export function licencesOf(named: string, textOf: (short: string) => string, recognise: (text: string) => string | undefined): string[] {
  const all = tidy(named).split(/,? and |, (?!or )/i);
  return all.flatMap((part) => {
    const choices = part.split(/,? or | ?\| ?/i).flatMap((name) => {
      const text = textOf(name) || textOf(part) || textOf(named);
      return licenceByShortName(name, text) ?? recognise(text) ?? [];
    });
    return choices.length === 0 ? [] : [[...new Set(choices)].join(" OR ")];
  });
}
