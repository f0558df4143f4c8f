// What is worth knowing of a family before it is used: layers, capitals, symbols, variable fonts, other names.
import type { Inspection } from "../inspect.ts";
import { CAPITALS_WORDS } from "./capitals.ts";
import { areLayers, layerStem, type Kin } from "./kinship.ts";
import { areSymbolSiblings, codePointWords, isSymbolFont } from "./symbols.ts";

type Member = Inspection & Kin;

const list = (names: Iterable<string>): string => [...new Set(names)].join(", ");

/** Everything that came together, looked through once for what belongs to what. */
export class Company {
  private readonly stems = new Map<string, Member[]>();
  private readonly symbols: readonly Member[];
  constructor(all: readonly Member[]) {
    for (const one of all) {
      const stem = layerStem(one);
      const there = this.stems.get(stem);
      if (there) there.push(one);
      else this.stems.set(stem, [one]);
    }
    this.symbols = all.filter((one) => isSymbolFont(one.ranges));
  }
  /** Styles made to be laid over one of `faces`. */
  layersOf(faces: readonly Member[]): Member[] {
    const stems = new Set(faces.map(layerStem));
    return [...stems].flatMap((stem) => (this.stems.get(stem) ?? []).filter((other) => faces.some((face) => areLayers(face, other))));
  }
  siblingsOf(face: Member): Member[] {
    return this.symbols.filter((other) => areSymbolSiblings(face, other));
  }
}

/** Sentences about `faces`, one family's styles; `company` is everything that came with it, itself included. */
export function familyNotes(faces: readonly Member[], company = new Company(faces)): string[] {
  const notes: string[] = [];
  const layers = list(company.layersOf(faces).map((other) => other.fullName));
  if (layers) notes.push(`Made to be laid over ${layers}, in another colour: letter by letter as wide.`);
  for (const words of new Set(faces.map((face) => CAPITALS_WORDS[face.capitals]))) if (words) notes.push(words);
  for (const face of faces.filter((one) => isSymbolFont(one.ranges)).slice(0, 3)) {
    notes.push(`Symbols at ${codePointWords(face.ranges)}${faces.length > 1 ? ` in ${face.style}` : ""}.`);
    const siblings = list(company.siblingsOf(face).map((other) => other.fullName));
    if (siblings) notes.push(`Its symbols are not in ${siblings}: pasted there, they are empty boxes.`);
  }
  for (const face of faces.filter((one) => one.axes.length > 0).slice(0, 2)) {
    const axes = face.axes.map((axis) => `${axis.name.toLowerCase()} ${axis.min} to ${axis.max}`).join(", ");
    const named = face.instances.length > 0 ? `; ${face.instances.length} named styles` : "";
    notes.push(`Variable: ${axes}${named}.`);
  }
  const sizes = new Set(faces.flatMap((face) => face.styleWords.opticalSize ?? []));
  if (sizes.size > 0) notes.push(`Drawn for sizes of their own: ${list(sizes)}.`);
  const others = new Map(faces.flatMap((face) => face.otherNames.map((one) => [one.language, one.family] as const)));
  for (const [language, name] of [...others].slice(0, 3)) notes.push(`Called “${name}” in programs set to ${languageName(language)}.`);
  return notes;
}

const languages = new Intl.DisplayNames("en", { type: "language" });
const languageName = (tag: string): string => languages.of(tag) ?? tag;

/** The names a style goes by, when they differ: in its archive, as a file, and what programs list. */
export function differingNames(fileName: string, archiveName: string, family: string): string {
  const plain = (name: string) =>
    name
      .toLowerCase()
      .replace(/\.[a-z0-9]{2,5}$/, "")
      .replace(/[^\p{L}\p{N}]/gu, "");
  const menu = plain(family);
  const unlike = (name: string) => !plain(name).includes(menu) && !menu.includes(plain(name));
  if (!unlike(fileName)) return "";
  return `The file is called ${fileName}${archiveName !== "" && archiveName !== fileName ? `, the archive ${archiveName}` : ""}; programs list it as ${family}.`;
}

/** Names of usWidthClass (OpenType specification, OS/2). */
const WIDTHS = [
  "",
  "ultra-condensed",
  "extra-condensed",
  "condensed",
  "semi-condensed",
  "",
  "semi-expanded",
  "expanded",
  "extra-expanded",
  "ultra-expanded",
];

/** What a style's name and tables say besides weight: width, the sizes it is drawn for, named styles, colour, its four-style names. */
export function styleFacts(record: Inspection): string[] {
  const { width, opticalPt, styleWords, instances, colour, legacyFamily, legacyStyle, family, style } = record;
  const facts: string[] = [];
  if (WIDTHS[width]) facts.push(WIDTHS[width]);
  if (opticalPt) facts.push(`for ${opticalPt[0]} to ${opticalPt[1]} pt`);
  else if (styleWords.opticalSize) facts.push(`for ${styleWords.opticalSize} sizes`);
  if (instances.length > 0)
    facts.push(
      `named styles ${instances
        .slice(0, 4)
        .map((one) => one.name)
        .join(", ")}${instances.length > 4 ? " …" : ""}`,
    );
  if (colour.length > 0) facts.push(`coloured (${colour.join(", ")})`);
  if (legacyFamily !== family || legacyStyle !== style) facts.push(`with four styles: ${legacyFamily}, ${legacyStyle}`);
  return facts;
}
