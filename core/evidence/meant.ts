// Which style a name in a document means: by family, weight and slant where the document asks for it so, by the whole name where it was drawn.
import type { Setting } from "./asked/text.ts";
import { kinOf, plainly, spellings, type WantedName } from "./names.ts";

export interface MeantStyle extends WantedName {
  weight: number;
  italic: boolean;
  /** Of a variable font, where they are known: one without a weight axis has its one weight. */
  axes?: readonly { tag: string; min: number; max: number }[];
}

/** Weights that a document with two buttons calls bold. */
export const BOLD = 600;
const regular = (style: string): boolean => /^(regular|normal|roman|book|text|plain|medium|)$/i.test(style.trim());
/** The buttons of a four-style family's style. */
function buttonsOf(legacyStyle: string): { bold: boolean; italic: boolean } | undefined {
  const words = legacyStyle.toLowerCase().split(/[\s-]+/);
  const [bold, italic] = [words.includes("bold"), words.some((word) => /^(italic|oblique)$/.test(word))];
  return bold || italic || regular(legacyStyle) ? { bold, italic } : undefined;
}

/** Whether a family name with weight and slant is this style. */
export function asksFor(family: string, { weight, italic }: Omit<Setting, "families">, style: MeantStyle): "style" | "family" | "no" {
  const own = plainly(family);
  if (own === "") return "no";
  const bold = weight >= BOLD;
  const buttons = buttonsOf(style.legacyStyle);
  if (own === plainly(style.legacyFamily)) {
    if (buttons && bold === buttons.bold && italic === buttons.italic) return "style";
    if (plainly(style.legacyFamily) !== plainly(style.family)) return "family";
  }
  if (own === plainly(style.family)) {
    // Of a family with many weights, the one that is nearest is meant (CSS Fonts Module, "Font style matching"); two buttons mean two weights.
    const near =
      Math.abs(style.weight - weight) <= 50 || (weight === 700 && style.weight === 700) || (weight === 400 && style.weight === 400);
    if (near && italic === style.italic) return "style";
    const axis = style.axes?.find(({ tag }) => tag === "wght");
    const reaches = style.axes ? axis !== undefined && weight >= axis.min && weight <= axis.max : style.instances?.length;
    if (reaches && italic === style.italic) return "style";
    return "family";
  }
  if (
    (own === plainly(style.fullName) || own === plainly(style.postScriptName)) &&
    !(bold && style.weight < BOLD) &&
    !(italic && !style.italic)
  )
    return "style";
  return kinOf(family, style) === "none" ? "no" : "family";
}

/** A setting as people say it: "Aster Bold Italic". */
export const settingName = (family: string, { weight, italic }: Omit<Setting, "families">): string =>
  [family, weight >= BOLD ? "Bold" : weight !== 400 && weight !== 500 && weight > 0 ? String(weight) : "", italic && "Italic"]
    .filter(Boolean)
    .join(" ");

/** A font a document sets text in. */
export interface NeededFont {
  /** As the document calls it, with the style it asks for; empty when it gives no name of its own. */
  name: string;
  /** Of a font that is asked for; null of one that is drawn. */
  setting: { family: string; weight: number; italic: boolean } | null;
  /** Families it takes where that is missing, in the order of trying. */
  orElse: string[];
  /** The document carries it, or the part it uses, and shows it wherever it is opened. */
  carried: boolean;
  letters: number;
  /** The beginning of the text set in it. */
  words: string;
  /** From 1; empty where the document has none, or does not tell. */
  pages: number[];
  /** Why none of its text shows; empty when some does. */
  hidden: string;
}

/** Fewer letters of a name may begin anything. */
const LEAST_FAMILY = 3;
/** The names under which fonts are looked up that a need may mean, as `plainly` writes them. */
export function lookupsOf({ name, setting }: NeededFont): string[] {
  if (setting) return [...new Set([plainly(setting.family), plainly(name)])].filter(Boolean);
  // A family's name begins those of its styles.
  const own = [...plainly(name)];
  return own.flatMap((_, i) => (i + 1 >= LEAST_FAMILY || i + 1 === own.length ? [own.slice(0, i + 1).join("")] : []));
}
/** A style as documents may mean it; families are called otherwise in other languages. */
type Meant = MeantStyle & { otherFamilies?: readonly string[] };

/** The names a font is looked up by. */
export function lookedUpBy(style: Meant): Set<string> {
  const families = [style.family, style.legacyFamily, ...(style.otherFamilies ?? [])];
  return new Set([...spellings(style), ...families.map(plainly)].filter(Boolean));
}

/** Whether a need means a style, or another of its family. */
export function meant(need: NeededFont, style: Meant): "style" | "family" | "no" {
  const { name, setting } = need;
  const as = (one: MeantStyle): "style" | "family" | "no" => {
    if (setting) return asksFor(setting.family, setting, one);
    const kin = kinOf(name, one);
    return kin === "none" ? "no" : kin;
  };
  const found = as(style);
  if (found !== "no") return found;
  for (const family of style.otherFamilies ?? []) {
    const other = as({ ...style, family, legacyFamily: family });
    if (other !== "no") return other;
  }
  return "no";
}
