// Where a program will list a style, from the program's traits and the fonts it will find.

export interface MenuFont {
  id: string;
  family: string;
  style: string;
  legacyFamily: string;
  legacyStyle: string;
  fullName: string;
}

export interface MenuTraits {
  lists: "families" | "four-style" | "full-names";
  readsWhen: "always" | "start" | "by-hand";
}

export interface MenuPlace {
  menuName: string;
  /** Which style of the entry, or which buttons, reach it; empty when the entry is enough. */
  within: string;
  /** Up to two entries before and after, nearest last and first. */
  before: string[];
  after: string[];
  /** Shortest beginning of the name that no other entry shares; the whole name when there is none. */
  type: string;
}

// Font lists are sorted by the Unicode collation algorithm's root order, in which case and accents come last.
const collator = new Intl.Collator("und");

/** The entry a program files a font under. */
export function menuLabel(font: MenuFont, lists: MenuTraits["lists"]): string {
  if (lists === "four-style") return font.legacyFamily;
  return lists === "full-names" ? font.fullName : font.family;
}

function within(font: MenuFont, lists: MenuTraits["lists"]): string {
  if (lists === "full-names") return "";
  if (lists === "families") return font.style;
  const style = font.legacyStyle.toLowerCase();
  const buttons = [style.includes("bold") && "Bold", /italic|oblique/.test(style) && "Italic"].filter(Boolean);
  return buttons.join(" and ");
}

/** All entries of a program's font list, in its order, each once. */
export function menuEntries(fonts: readonly MenuFont[], lists: MenuTraits["lists"]): string[] {
  return [...new Set(fonts.map((font) => menuLabel(font, lists)))].sort(collator.compare);
}

function shortestBeginning(label: string, entries: readonly string[]): string {
  const others = entries.filter((entry) => entry !== label).map((entry) => entry.toLowerCase());
  const characters = [...label];
  for (let length = 1; length < characters.length; length++) {
    const start = characters.slice(0, length).join("");
    if (start.trim() === start && !others.some((other) => other.startsWith(start.toLowerCase()))) return start;
  }
  return label;
}

/** Predicts where `font` stands among `fonts` (everything the program will find, `font` included). */
export function predictPlace(font: MenuFont, fonts: readonly MenuFont[], lists: MenuTraits["lists"]): MenuPlace {
  const entries = menuEntries(fonts, lists);
  const menuName = menuLabel(font, lists);
  const at = entries.indexOf(menuName);
  return {
    menuName,
    within: within(font, lists),
    before: entries.slice(Math.max(0, at - 2), at),
    after: entries.slice(at + 1, at + 3),
    type: shortestBeginning(menuName, entries),
  };
}

/** What a person does in the program to reach the style, in order. */
export function findingSteps(program: string, place: MenuPlace, traits: MenuTraits, reopen: boolean): string[] {
  const steps: string[] = [];
  if (traits.readsWhen === "by-hand") steps.push(`Load the font's file into ${program}, and have it kept for next time.`);
  if (reopen) steps.push(`Close ${program} completely and open it again.`);
  steps.push(`Open the font list and type “${place.type}”.`);
  steps.push(`Choose “${place.menuName}”.`);
  if (place.within && traits.lists === "four-style") steps.push(`Switch on ${place.within}.`);
  if (place.within && traits.lists === "families") steps.push(`Choose the style “${place.within}”.`);
  return steps;
}
