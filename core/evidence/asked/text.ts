// What documents that name fonts ask for: text, and the font each piece of it is to be set in.
import type { Origin } from "../origin.ts";

/** How a piece of text is to be set. */
export interface Setting {
  /** In the order of trying (CSS Fonts Module, "font-family"); empty when the document does not say. */
  families: readonly string[];
  /** 1 to 1000; 400 is regular, 700 bold. */
  weight: number;
  italic: boolean;
}
export interface AskedText extends Setting {
  characters: Set<string>;
  /** Letters counted, spaces not. */
  letters: number;
  /** The beginning of it. */
  sample: string;
  /** Empty when it shows; else why it does not. */
  hidden: string;
}
/** A font the document carries, or says to. */
export interface HeldFont {
  family: string;
  /** Undefined where the document does not say. */
  weight?: number | undefined;
  italic?: boolean | undefined;
  /** What is installed is taken before it (CSS Fonts Module, "src": the first that can be had, `local()` among them). */
  installedFirst?: boolean;
  /** Null when what it points to is not there, or cannot be unpacked. */
  bytes: Uint8Array | null;
  /** Code points it is for (CSS Fonts Module, "unicode-range"). */
  ranges?: readonly (readonly [number, number])[] | undefined;
}
export interface AskedDocument {
  kind: string;
  texts: AskedText[];
  /** Families that are named somewhere, used or not. */
  declared: string[];
  held: HeldFont[];
  origin: Origin;
}

const SAMPLE = 60;
const MOST_SETTINGS = 2000;

/** Gathers text by its setting. */
export class Gathered {
  private readonly found = new Map<string, AskedText>();
  add(text: string, setting: Setting, hidden = ""): void {
    const families = setting.families.filter((family) => family !== "");
    const key = `${families.join("\n")}|${setting.weight}|${setting.italic}|${hidden}`;
    let known = this.found.get(key);
    if (!known) {
      if (this.found.size >= MOST_SETTINGS) return;
      const { weight, italic } = setting;
      this.found.set(key, (known = { families, weight, italic, hidden, characters: new Set(), letters: 0, sample: "" }));
    }
    for (const character of text) {
      if (!known.characters.has(character)) {
        if (/[\s\p{Cf}\p{Cc}]/u.test(character)) continue;
        known.characters.add(character);
      }
      known.letters++;
    }
    if (known.sample.length < SAMPLE) known.sample = `${known.sample}${text}`.replace(/\s+/g, " ").slice(0, SAMPLE);
  }
  get texts(): AskedText[] {
    return [...this.found.values()].filter(({ letters }) => letters > 0);
  }
}

export const GENERIC =
  /^(serif|sans-serif|monospace|cursive|fantasy|system-ui|math|emoji|fangsong|inherit|initial|unset|revert|ui-[a-z]+|-[a-z-]+)$/i;
