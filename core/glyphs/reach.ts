// What a face can draw, and how each glyph is reached: by a character, or by a feature on certain letters. What the font's rules promise
// is shaped before it is said: only what really appears counts.
import * as hb from "harfbuzzjs";
import type { Face } from "../sfnt/face.ts";
import { BY_THEMSELVES } from "./by-themselves.ts";
import type { Choices, Feature, Gsub, Rule } from "../sfnt/gsub.ts";

/** A way to a glyph: write `input` with these features on. */
export interface Way {
  /** Feature tags, in the order they work; none when it appears by itself. */
  features: readonly string[];
  /** Which of a feature's alternatives, from 1; 1 where there is but one. */
  value: number;
  input: string;
  /** The language the text must be in (BCP 47), where the font draws it for that alone. */
  language?: string | undefined;
}

export interface GlyphReach {
  glyph: number;
  /** The font's own name for it; "" where it gives none. */
  name: string;
  /** Characters that draw it, ascending. */
  codePoints: readonly number[];
  /** Ways besides its characters, the plainest first. */
  ways: readonly Way[];
}

/** Everything there is for a letter, in one list: other features say better what it is. */
const LIST_OF_ALL = "aalt";

const MOST_WAYS_EACH = 6;
const MOST_CLAIMS = 120_000;
/** Ways to one glyph that are tried in vain at one step. */
const MOST_FAILED = 12;
const MOST_INPUT = 64;
/** How often what was reached leads on: a letter taken apart, then joined, then changed by its neighbours. */
const STEPS = 4;

/** Zero width joiner: stands for a letter that joins (Unicode Standard, section 23.2). */
const JOINER = "\u200D";
/** Forms that letters take only when joined, and on which sides (OpenType specification, "init", "medi", "fina"). */
const JOINED: Readonly<Record<string, [before: string, after: string]>> = {
  init: ["", JOINER],
  medi: [JOINER, JOINER],
  fina: [JOINER, ""],
};

interface Claim extends Way {
  glyph: number;
}

/** Characters by glyph; from the font's own map, ascending. */
function charactersOf(face: Face): Map<number, number[]> {
  const found = new Map<number, number[]>();
  face.cmap?.each((codePoint, glyph) => {
    if (glyph === 0) return;
    const there = found.get(glyph);
    if (there) there.push(codePoint);
    else found.set(glyph, [codePoint]);
  });
  for (const codePoints of found.values()) codePoints.sort((a, b) => a - b);
  return found;
}

/** The character a glyph is best written by: no control character, rather no compatibility or private one. */
function written(codePoints: readonly number[]): string | undefined {
  const usable = codePoints.filter((code) => code >= 0x20 && !(code >= 0x7f && code < 0xa0) && !(code >= 0xd800 && code < 0xe000));
  const plain = usable.find((code) => String.fromCodePoint(code).normalize("NFKC") === String.fromCodePoint(code) && code < 0xe000);
  const best = plain ?? usable[0];
  return best === undefined ? undefined : String.fromCodePoint(best);
}

/** How a glyph is written at a certain step: the text, and the features it took. */
interface Written {
  text: string;
  features: readonly string[];
}

class Claims {
  readonly found: Claim[] = [];
  private readonly known: ReadonlyMap<number, readonly Written[]>;
  constructor(known: ReadonlyMap<number, readonly Written[]>) {
    this.known = known;
  }
  get full(): boolean {
    return this.found.length >= MOST_CLAIMS;
  }

  /** One glyph of each place, the first that can be written. */
  private sample(places: readonly Choices[]): Written[] | undefined {
    const found: Written[] = [];
    for (const choices of places) {
      const one = choices.find((glyph) => this.known.has(glyph));
      if (one === undefined) return undefined;
      found.push(this.known.get(one)![0]!);
    }
    return found;
  }
  add(glyph: number, { tag, language }: Wanted, value: number, places: readonly Choices[]): void {
    const parts = this.sample(places);
    if (!parts || this.full) return;
    const joined = parts.map(({ text }) => text).join("");
    const [before, after] = JOINED[tag] ?? ["", ""];
    const input = `${before}${joined}${after}`.replaceAll(JOINER + JOINER, "");
    if (input === "" || [...input].length > MOST_INPUT) return;
    const features = [...new Set([...parts.flatMap((part) => part.features), ...(BY_THEMSELVES.has(tag) ? [] : [tag])])];
    this.found.push({ glyph, features, value, input, language });
  }
}

/** What a rule makes of certain glyphs at a place, for a rule that is applied within another. */
function madeOf(rules: readonly Rule[], choices: Choices): { from: number; to: number; value: number }[] {
  const wanted = new Set(choices);
  return rules.flatMap((rule) => {
    if (rule.kind === "context" || rule.kind === "reverse" || rule.kind === "ligature") return [];
    return wanted.has(rule.from) ? rule.to.map((to, i) => ({ from: rule.from, to, value: rule.kind === "alternate" ? i + 1 : 1 })) : [];
  });
}

function claim(gsub: Gsub, tag: Wanted, rules: readonly Rule[], claims: Claims): void {
  for (const rule of rules) {
    if (claims.full) return;
    switch (rule.kind) {
      case "single":
      case "multiple":
        for (const to of rule.to) claims.add(to, tag, 1, [[rule.from]]);
        break;
      case "alternate":
        rule.to.forEach((to, i) => claims.add(to, tag, i + 1, [[rule.from]]));
        break;
      case "ligature":
        claims.add(
          rule.to,
          tag,
          1,
          rule.from.map((glyph) => [glyph]),
        );
        break;
      case "reverse":
        claims.add(rule.to, tag, 1, [...rule.before, [rule.from], ...rule.after]);
        break;
      case "context":
        for (const { at, lookup } of rule.nested) {
          const place = rule.input[at];
          if (!place) continue;
          const around = (own: number) => [...rule.before, ...rule.input.map((one, i) => (i === at ? [own] : one)), ...rule.after];
          for (const { from, to, value } of madeOf(gsub.rules(lookup), place)) claims.add(to, tag, value, around(from));
          // A ligature made within: its first glyphs are those of the rule.
          for (const inner of gsub.rules(lookup)) {
            if (inner.kind !== "ligature" || !inner.from.every((glyph, i) => rule.input[at + i]?.includes(glyph))) continue;
            const places = rule.input.map((one, i) => (i >= at && i < at + inner.from.length ? [inner.from[i - at]!] : one));
            claims.add(inner.to, tag, 1, [...rule.before, ...places, ...rule.after]);
          }
        }
    }
  }
}

/** A feature, and the language it is for where it is not for all. */
interface Wanted {
  tag: string;
  language?: string | undefined;
}
/** Each feature once, or once a language, with the lookups it has in any script. */
function merged(features: readonly Feature[]): { wanted: Wanted; lookups: number[] }[] {
  const found = new Map<string, { wanted: Wanted; lookups: Set<number> }>();
  const add = (wanted: Wanted, lookups: readonly number[]) => {
    const key = `${wanted.tag} ${wanted.language ?? ""}`;
    const there = found.get(key) ?? { wanted, lookups: new Set() };
    for (const lookup of lookups) there.lookups.add(lookup);
    found.set(key, there);
  };
  for (const { tag, lookups, languages } of features) {
    if (languages.length === 0) add({ tag }, lookups);
    else for (const language of languages) add({ tag, language: hb.otTagToLanguage(language.padEnd(4)) }, lookups);
  }
  return [...found.values()].map(({ wanted, lookups }) => ({ wanted, lookups: [...lookups].sort((a, b) => a - b) }));
}

/** Shapes text with features on; HarfBuzz's settings for a whole text. */
class Shaper {
  readonly font: hb.Font;
  constructor(bytes: Uint8Array, index: number) {
    this.font = new hb.Font(new hb.Face(new hb.Blob(bytes), index));
  }
  glyphs({ input, features, value, language }: Way): number[] {
    const buffer = new hb.Buffer();
    buffer.addText(input);
    buffer.guessSegmentProperties();
    if (language !== undefined) buffer.setLanguage(language);
    hb.shape(
      this.font,
      buffer,
      features.map((tag, i) => new hb.Feature(tag, i === features.length - 1 ? value : 1)),
    );
    return buffer.getGlyphInfos().map((info) => info.codepoint);
  }
}

const plainness = (way: Way): number =>
  (way.features.includes(LIST_OF_ALL) ? 100 : 0) + 10 * way.features.length + [...way.input].length + way.value / 100;

const sameSetting = (one: Way, other: Way): boolean =>
  one.features.join() === other.features.join() && one.value === other.value && one.language === other.language;

/** The way as it really works: without what it does not need; undefined when the glyph does not appear. */
function proven(shaper: Shaper, glyph: number, way: Way): Way | undefined {
  const bare = { ...way, features: [], value: 1 };
  const plain = { ...bare, language: undefined };
  return [plain, bare, way]
    .flatMap((one) => [one, { ...one, input: `${one.input}${JOINER}` }])
    .find((one) => shaper.glyphs(one).includes(glyph));
}

/**
 * Every glyph of a face in glyph order. `bytes` are those of the whole file the face is in. A glyph without characters or ways is one nothing here was seen to reach.
 */
export function reachOf(face: Face, bytes: Uint8Array): GlyphReach[] {
  const characters = charactersOf(face);
  const names = face.glyphNames();
  const count = face.maxp?.numGlyphs ?? 0;
  const { gsub } = face;
  const ways = new Map<number, Way[]>();
  if (gsub) {
    const shaper = new Shaper(bytes, face.index);
    const known = new Map<number, Written[]>();
    for (const [glyph, codePoints] of characters) {
      const text = written(codePoints);
      if (text !== undefined) known.set(glyph, [{ text, features: [] }]);
    }
    const features = merged(gsub.features);
    for (let step = 0; step < STEPS; step++) {
      const claims = new Claims(known);
      for (const { wanted, lookups } of features) for (const lookup of lookups) claim(gsub, wanted, gsub.rules(lookup), claims);
      const fresh = new Map<number, Written[]>();
      const failed = new Map<number, number>();
      for (const { glyph, ...whole } of claims.found.sort((a, b) => plainness(a) - plainness(b))) {
        const there = ways.get(glyph) ?? [];
        // A plainer way is known, or another way over more features: it tells nothing new.
        if (there.length >= MOST_WAYS_EACH || (step > 0 && there.length > 0) || there.some(({ features: none }) => none.length === 0))
          continue;
        if ((failed.get(glyph) ?? 0) >= MOST_FAILED) continue;
        const way = proven(shaper, glyph, whole);
        if (!way) failed.set(glyph, (failed.get(glyph) ?? 0) + 1);
        if (!way || there.some((one) => sameSetting(one, way))) continue;
        ways.set(glyph, [...there, way]);
        if (!known.has(glyph) && !fresh.has(glyph) && way.language === undefined)
          fresh.set(glyph, [{ text: way.input, features: way.features }]);
      }
      for (const [glyph, how] of fresh) known.set(glyph, how);
    }
  }
  return Array.from({ length: count }, (_, glyph) => {
    const found = (ways.get(glyph) ?? []).filter(
      (way, _, all) => !way.features.includes(LIST_OF_ALL) || all.every((other) => other.features.includes(LIST_OF_ALL)),
    );
    return { glyph, name: names[glyph] ?? "", codePoints: characters.get(glyph) ?? [], ways: found };
  });
}
