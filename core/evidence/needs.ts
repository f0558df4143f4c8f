// What a document needs: each font its text is drawn in or asks for, and which of the fonts at hand it means.
import type { AskedDocument } from "./asked/text.ts";
import { GENERIC } from "./asked/text.ts";
import type { PdfDrawing } from "./drawing/document.ts";
import type { DrawnLetter } from "./drawing/letters.ts";
import { pagesOf, shortly } from "./judge-pdf.ts";
import { settingName, type NeededFont } from "./meant.ts";
import { bareName, plainly } from "./names.ts";
import type { Evidence } from "./read.ts";

/** Names that tell no font: what writers call a font that has none, or that they made themselves. */
const NAMELESS = /^(f|g|c|tt|t|r|ft|font|type3|cidfont|truetype|subset|unnamed|noname|untitled|bitmap)?[\d_-]*$/i;

function drawnNeeds({ fonts, letters }: PdfDrawing): NeededFont[] {
  const keysOf = new Map<string, { name: string; carried: boolean; keys: Set<string> }>();
  for (const { key, name, embedded } of fonts) {
    const bare = bareName(name);
    const own = NAMELESS.test(bare) ? "" : bare;
    // Nameless ones are one font each.
    const id = own === "" ? key : `${plainly(own)}|${embedded}`;
    const known = keysOf.get(id);
    if (known) known.keys.add(key);
    else keysOf.set(id, { name: own, carried: embedded, keys: new Set([key]) });
  }
  const ofKey = new Map<string, DrawnLetter[]>();
  for (const letter of letters) {
    const known = ofKey.get(letter.font);
    if (known) known.push(letter);
    else ofKey.set(letter.font, [letter]);
  }
  return [...keysOf.values()].flatMap(({ name, carried, keys }): NeededFont[] => {
    const all = [...keys].flatMap((key) => ofKey.get(key) ?? []);
    // Of a font that is not carried nobody knows that its space is blank.
    const own = all.filter(({ why, text }) => why !== "blank" && !/^\s+$/.test(text));
    if (own.length === 0) return [];
    const showing = own.filter(({ shows }) => shows !== "no");
    const told = showing.length > 0 ? showing : own;
    const pages = pagesOf(told);
    const spaced = all.filter(({ why, page }) => page === pages[0] && (why === "blank" || why === told[0]?.why));
    const base = { name, carried, setting: null, orElse: [], pages, words: shortly(spaced) };
    return [{ ...base, letters: told.length, hidden: showing.length > 0 ? "" : "not seen on any page" }];
  });
}

function askedNeeds({ kind, texts, held }: AskedDocument): NeededFont[] {
  const found = new Map<string, NeededFont>();
  const shown = [...texts].sort((a, b) => Number(a.hidden !== "") - Number(b.hidden !== ""));
  for (const { families, weight, italic, letters, sample, hidden } of shown) {
    const [family, ...rest] = families.filter((one) => !GENERIC.test(one));
    // Text in no font, or first in one of the program's own choice, needs none.
    if (family === undefined || families[0] !== family) continue;
    const name = settingName(family, { weight, italic });
    const id = plainly(name);
    const known = found.get(id);
    if (known) {
      known.letters += hidden === known.hidden && kind !== "CSS" ? letters : 0;
      for (const one of rest) if (!known.orElse.includes(one)) known.orElse.push(one);
      continue;
    }
    const carried = held.some((one) => plainly(one.family) === plainly(family) && one.bytes !== null && one.bytes.length > 0);
    // A style sheet sets no text by itself.
    const set = kind === "CSS" ? { letters: 0, words: "" } : { letters, words: sample.trim() };
    found.set(id, { name, setting: { family, weight, italic }, orElse: rest, carried, ...set, pages: [], hidden });
  }
  return [...found.values()];
}

/** Every font a document sets text in, the one with the most letters first. */
export function needsOf(evidence: Evidence): NeededFont[] {
  const needs = evidence.drawn ? drawnNeeds(evidence.drawn) : askedNeeds(evidence.asked);
  return needs.sort((a, b) => Number(a.hidden !== "") - Number(b.hidden !== "") || b.letters - a.letters);
}
