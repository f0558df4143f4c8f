// The font list of a program, predicted from its traits: which entries, in which order, and how each style is reached.
import type { MenuTraits } from "./traits.ts";

export interface MenuFont {
  id: string;
  family: string;
  style: string;
  legacyFamily: string;
  legacyStyle: string;
  fullName: string;
  postScriptName: string;
  /** sfnt, collection, woff or woff2. */
  container: string;
  /** Family names in other languages, by IETF tag. */
  otherNames: readonly { language: string; family: string }[];
  /** Names of the styles a variable font names itself; empty for others. */
  instances: readonly string[];
  variable: boolean;
  outlines: "ttf" | "otf";
  /** It has the Latin alphabet. */
  latin: boolean;
  /** It holds symbols and no alphabet. */
  symbols: boolean;
  /** It has coloured glyphs. */
  colour: boolean;
  /** Why browsers refuse it, as a sentence; empty when they take it. */
  refusedByBrowsers: string;
  /** The entry a person found it under in this program; it stands before what its names say. */
  listedAs?: string;
}

/** One line a font adds to a list: the entry, and the style under it. */
export interface MenuLine {
  label: string;
  style: string;
}

export interface MenuPlace {
  menuName: string;
  /** Which style of the entry, or which buttons, reach it; empty when the entry is enough. */
  within: string;
  /** Up to two entries before and after, nearest last and first. */
  before: string[];
  after: string[];
  /** Shortest text that leaves only this entry in the search box; the whole name when none does. */
  type: string;
  /** The style that is reached in its place, because they share a button; empty otherwise. */
  standsBehind: string;
  /** Other fonts that claim the same place. */
  clashes: string[];
}

const collators = new Map<string, Intl.Collator>();
/**
 * Font lists are sorted by the Unicode collation algorithm, in which case and accents come last, with the rules of the language whose names
 * are shown (CLDR); an unknown tag has the root's order.
 */
function collatorOf(language: string): Intl.Collator {
  let known = collators.get(language);
  if (!known) {
    try {
      known = new Intl.Collator(language || "und");
    } catch {
      known = new Intl.Collator("und");
    }
    collators.set(language, known);
  }
  return known;
}

/** Labels' places in a language's order, worked out once for many lists; equal ones keep the order they came in. */
export function orderOf(labels: Iterable<string>, language = "en"): ReadonlyMap<string, number> {
  return new Map([...new Set(labels)].sort(collatorOf(language).compare).map((label, i) => [label, i]));
}

function familyIn(font: MenuFont, language: string): string | undefined {
  if (language === "en" || language === "") return undefined;
  const exact = font.otherNames.find((one) => one.language === language);
  return (exact ?? font.otherNames.find((one) => one.language.split("-")[0] === language.split("-")[0]))?.family;
}

/** Why a program would not list a font at all; empty when it would. */
export function refusal(font: MenuFont, traits: MenuTraits): string {
  if (font.container === "woff" || font.container === "woff2") return "It takes no files for web pages.";
  if (font.container === "collection" && !traits.collections) return "It takes no collections.";
  if (font.variable && traits.variable === "none") return "It takes no variable fonts.";
  if (!traits.formats.includes(font.outlines)) return `It takes no .${font.outlines} files.`;
  if (font.colour && !traits.colour) return "It takes no coloured fonts.";
  if (traits.strict && font.refusedByBrowsers !== "") return font.refusedByBrowsers;
  if (font.symbols && !traits.symbols) return "It takes no fonts of symbols.";
  return "";
}

/** A font as a program would take it that refuses it as it is: where it would stand in the list. */
export const asTaken = (font: MenuFont, traits: MenuTraits): MenuFont =>
  refusal(font, traits) === ""
    ? font
    : {
        ...font,
        container: "sfnt",
        variable: false,
        colour: false,
        symbols: false,
        refusedByBrowsers: "",
        outlines: traits.formats[0] ?? font.outlines,
      };

const styleUnder = (font: MenuFont, { lists }: MenuTraits): string =>
  lists === "families" ? font.style : lists === "four-style" ? font.legacyStyle : "";

/** The ways of listing by which a font would stand under a name; the way a program is thought to list is left out. */
export function waysToList(font: MenuFont, name: string, traits: MenuTraits): MenuTraits["lists"][] {
  const { listedAs: _, ...plain } = font;
  return LISTS.filter((lists) => lists !== traits.lists && linesOf(plain, { ...traits, lists }).some(({ label }) => label === name));
}
const LISTS = ["families", "four-style", "full-names", "postscript-names"] as const;

/** What a program makes of a font; nothing when it does not take it. */
export function linesOf(font: MenuFont, traits: MenuTraits): MenuLine[] {
  if (refusal(font, traits) !== "") return [];
  if (font.listedAs !== undefined) return [{ label: font.listedAs, style: styleUnder(font, traits) }];
  const local = familyIn(font, traits.language);
  const named = font.variable && traits.variable === "instances" ? font.instances : [];
  if (named.length > 0) {
    const family = local ?? font.family;
    return named.map((instance) => {
      if (traits.lists === "full-names") return { label: `${family} ${instance}`, style: "" };
      if (traits.lists === "postscript-names") return { label: `${font.postScriptName}_${instance.replace(/ /g, "")}`, style: "" };
      return { label: family, style: instance };
    });
  }
  switch (traits.lists) {
    case "four-style":
      return [{ label: local ?? font.legacyFamily, style: font.legacyStyle }];
    case "full-names":
      return [{ label: font.fullName, style: "" }];
    case "postscript-names":
      return [{ label: font.postScriptName || font.fullName, style: "" }];
    case "families":
      return [{ label: local ?? font.family, style: font.style }];
  }
}

export function buttonsOf(legacyStyle: string): { bold: boolean; italic: boolean } {
  const style = legacyStyle.toLowerCase();
  return { bold: style.includes("bold"), italic: /italic|oblique/.test(style) };
}
const buttonWords = (legacyStyle: string): string => {
  const { bold, italic } = buttonsOf(legacyStyle);
  return [bold && "Bold", italic && "Italic"].filter(Boolean).join(" and ");
};
/** Styles whose name is that of a button are reached by it before others that share it, such as Medium. */
const namedSo = (style: string): boolean => /^(regular|bold|italic|bold italic)$/i.test(style);

interface Entry {
  label: string;
  lines: { font: MenuFont; style: string }[];
}

interface Lowered {
  sorted: string[];
  at: Map<string, number>;
  text: string;
  starts: number[];
}

export class Menu {
  private readonly traits: MenuTraits;
  private readonly byLabel = new Map<string, Entry>();
  /** All entries in the program's order, each once. */
  readonly entries: readonly string[];
  private readonly at = new Map<string, number>();

  /** `order` may be handed in where many lists share their labels and their language. */
  constructor(fonts: readonly MenuFont[], traits: MenuTraits, order?: ReadonlyMap<string, number>) {
    this.traits = traits;
    for (const font of fonts) {
      for (const { label, style } of linesOf(font, traits)) {
        const entry = this.byLabel.get(label);
        if (entry) entry.lines.push({ font, style });
        else this.byLabel.set(label, { label, lines: [{ font, style }] });
      }
    }
    const labels = [...this.byLabel.keys()];
    const inOrder = order ? labels.sort((a, b) => order.get(a)! - order.get(b)!) : labels.sort(collatorOf(traits.language).compare);
    this.entries = traits.otherScripts === "after" ? this.latinFirst(inOrder) : inOrder;
    for (const [i, label] of this.entries.entries()) this.at.set(label, i);
  }

  /** The styles under an entry, each once, in order. */
  stylesOf(label: string): string[] {
    if (this.traits.lists !== "families") return [];
    return [...new Set(this.byLabel.get(label)?.lines.map((line) => line.style))].sort(collatorOf(this.traits.language).compare);
  }

  /** Where a font of this list stands; undefined when the program does not list it. */
  place(font: MenuFont): MenuPlace | undefined {
    const [line] = linesOf(font, this.traits);
    const entry = line && this.byLabel.get(line.label);
    if (!line || !entry) return undefined;
    const { lists } = this.traits;
    const at = this.at.get(line.label)!;
    const others = entry.lines.filter((one) => one.font.id !== font.id);
    const sameButtons = (style: string) => buttonWords(style) === buttonWords(line.style);
    const before =
      lists === "four-style" && !namedSo(line.style) ? others.find((one) => sameButtons(one.style) && namedSo(one.style)) : undefined;
    const clashing = others.filter((one) => one.style === line.style);
    return {
      menuName: line.label,
      within: lists === "four-style" ? buttonWords(line.style) : line.style,
      before: this.entries.slice(Math.max(0, at - 2), at),
      after: this.entries.slice(at + 1, at + 3),
      type: this.shortest(line.label),
      standsBehind: before?.font.fullName ?? "",
      clashes: [...new Set(clashing.map((one) => one.font.fullName))],
    };
  }

  /** An entry is as Latin as any of its fonts. */
  private latinFirst(inOrder: readonly string[]): string[] {
    const [latin, others]: [string[], string[]] = [[], []];
    for (const label of inOrder) (this.byLabel.get(label)!.lines.some((line) => line.font.latin) ? latin : others).push(label);
    return [...latin, ...others];
  }

  /**
   * Entries in lower case, in code points' order: those that begin alike stand together. `text` holds them all, a line each, with where
   * each begins. Made when first asked for.
   */
  private get lowered(): Lowered {
    if (!this.lower) {
      const sorted = this.entries.map((entry) => entry.toLowerCase()).sort();
      const starts: number[] = [];
      let length = 0;
      for (const entry of sorted) {
        starts.push(length);
        length += entry.length + 1;
      }
      this.lower = { sorted, at: new Map(sorted.map((entry, i) => [entry, i])), text: sorted.join("\n"), starts };
    }
    return this.lower;
  }
  private lower: Lowered | undefined;

  private shortest(label: string): string {
    const own = label.toLowerCase();
    const characters = [...label];
    const { sorted, at, text, starts } = this.lowered;
    const i = at.get(own)!;
    // Two entries that differ in case only cannot be told apart by typing.
    if (sorted[i - 1] === own) return label;
    if (this.traits.search === "beginning") {
      const beside = [sorted[i - 1], sorted[i + 1]].filter((entry) => entry !== undefined);
      for (let length = 1; length < characters.length; length++) {
        const part = characters.slice(0, length).join("");
        if (part.trim() === part && !beside.some((other) => other.startsWith(part.toLowerCase()))) return part;
      }
      return label;
    }
    const [first, end] = [starts[i]!, starts[i]! + own.length];
    const elsewhere = (typed: string): boolean => {
      const found = text.indexOf(typed);
      return found !== -1 && (found < first || text.indexOf(typed, end) !== -1);
    };
    for (let length = 1; length < characters.length; length++) {
      for (let start = 0; start + length <= characters.length; start++) {
        const part = characters.slice(start, start + length).join("");
        if (part.trim() === part && !elsewhere(part.toLowerCase())) return part;
      }
    }
    return label;
  }
}

/** What a person does in the program to reach the style, in order. */
export function findingSteps(
  program: string,
  place: MenuPlace,
  traits: Pick<MenuTraits, "lists"> & { readsWhen: "always" | "document" | "start" | "by-hand"; keeps?: boolean },
  reopen: boolean,
): string[] {
  const steps: string[] = [];
  if (traits.readsWhen === "by-hand")
    steps.push(
      traits.keeps === false
        ? `Load the font's file into ${program}, each time it is opened.`
        : `Load the font's file into ${program}, and have it kept for next time.`,
    );
  if (reopen) {
    steps.push(
      traits.readsWhen === "document"
        ? `Close the document in ${program} and open it again.`
        : `Close ${program} completely and open it again.`,
    );
  }
  steps.push(`Open the font list and type “${place.type}”.`);
  steps.push(`Choose “${place.menuName}”.`);
  if (place.within && traits.lists === "four-style") steps.push(`Turn on ${place.within}.`);
  if (place.within && traits.lists === "families") steps.push(`Choose the style “${place.within}”.`);
  if (place.standsBehind)
    steps.push(`This program reaches ${place.standsBehind} there instead; use a program with full families for this style.`);
  return steps;
}
