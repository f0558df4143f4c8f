// What faces draw: features by name, glyphs found by word, which styles draw a character. Facts are read once, in a thread, and kept.
import { promisify } from "node:util";
import { gunzip } from "node:zlib";
import type { Draws, FeatureView, GlyphPage, GlyphView, SignsFound } from "../../../contract/bench.ts";
import { charactersOf } from "../../../core/coverage/text.ts";
import { BY_THEMSELVES } from "../../../core/glyphs/by-themselves.ts";
import { featureName, isChoice, waySentence } from "../../../core/glyphs/feature-names.ts";
import { GLYPH_FACTS_VERSION, GlyphFinder, reachFrom, recordOf, type FeatureFact, type GlyphFact } from "../../../core/glyphs/glyphs.ts";
import type { GlyphReach } from "../../../core/glyphs/reach.ts";
import { plainWords } from "../../../core/symbols/words.ts";
import { asked } from "../../../core/symbols/search.ts";
import { isOfKind, LANGUAGE_OF, scriptName, type GlyphKind } from "../../../core/symbols/kinds.ts";
import { signLists } from "../../../core/symbols/lists.ts";
import { blockOf, isPrivate, unicodeName, type SignLists } from "../../../core/symbols/symbols.ts";
import { othersFirst } from "../../../core/turns.ts";
import { Fault, notFound } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import type { StyleBrief } from "../../store/families/families.ts";
import { rangesHold } from "../../store/families/faces.ts";
import type { WorkPool } from "../../work/pool.ts";
import { TaskLost } from "../../work/threads.ts";

type Uses = Pick<Parts, "bench" | "library" | "devices" | "files" | "programs">;

/** Faces whose glyphs are held ready to be searched. */
const HELD = 4;
/** A face that took its thread along so often is given up. */
const MOST_ATTEMPTS = 2;
const MOST_ASKED = 12;
const STYLES_NAMED = 40;
/** Styles whose characters are looked at between two pauses. */
const STYLES_TOGETHER = 400;
const MOST_ALIKE = 60;
/** Signs of Unicode asked about in every style, and signs shown. */
const MOST_SIGNS = 24;
const SIGNS_SHOWN = 40;
const WITHOUT_CHARACTER = "Without a character";

interface Drawing {
  of: { total: number; first: number[] }[];
  members: { styleId: number; holds: boolean[] }[];
}

interface Asking {
  find: string;
  block?: string | undefined;
  script?: string | undefined;
  kind?: GlyphKind | undefined;
  from: number;
  limit: number;
}

/** How many of each, in the order they are first met. */
function counted(names: readonly (string | undefined)[]): { name: string; count: number }[] {
  const counts = new Map<string, number>();
  for (const name of names) if (name !== undefined) counts.set(name, (counts.get(name) ?? 0) + 1);
  return [...counts].map(([name, count]) => ({ name, count }));
}

interface Open {
  glyphs: GlyphReach[];
  finder: GlyphFinder;
  features: FeatureFact[];
  /** The block of each glyph, in glyph order. */
  blocks: string[];
  /** Glyphs in the order people expect: by character, then those without. */
  order: GlyphReach[];
  counted: Pick<GlyphPage, "blocks" | "scripts">;
  /** Whose words for signs it is searched by. */
  languages: readonly string[];
}

export class GlyphService {
  private readonly uses: Uses;
  private readonly pool: Pick<WorkPool, "readGlyphs" | "alikeGlyphs" | "findSigns">;
  private readonly open = new Map<string, Promise<Open>>();
  private lists: Promise<SignLists> | undefined;
  private reading: Promise<void> | undefined;
  private closed = false;
  constructor(uses: Uses, pool: Pick<WorkPool, "readGlyphs" | "alikeGlyphs" | "findSigns">) {
    this.uses = uses;
    this.pool = pool;
  }

  private signs(): Promise<SignLists> {
    return (this.lists ??= signLists(["en"]));
  }

  private async read(sha256: string, face: number): Promise<{ features: string; glyphs: Uint8Array }> {
    const { bench, files } = this.uses;
    const known = bench.glyphFacts(sha256, face, GLYPH_FACTS_VERSION);
    if (known) return known;
    const unread = {
      code: "glyphs-unread",
      message: "The glyphs of this font cannot be listed: reading its rules takes more than it should.",
      next: "Use its characters by typing them; its other forms are not known here.",
    };
    if (!(await files.has(sha256))) {
      throw new Fault(404, {
        code: "file-gone",
        message: "The file of this font is not in the library's folder any more.",
        next: "Bring it in again; until then its glyphs cannot be listed.",
      });
    }
    if (bench.beginGlyphs(sha256, face, GLYPH_FACTS_VERSION) > MOST_ATTEMPTS) throw new Fault(422, unread);
    try {
      const found = await this.pool.readGlyphs(files.path(sha256), face);
      bench.putGlyphs(sha256, face, found.features, found.glyphs, found.named);
      return found;
    } catch (error) {
      if (error instanceof TaskLost && error.why === "closed") throw error;
      throw new Fault(422, unread);
    }
  }

  private async load({ sha256, face, brief: { scripts } }: StyleBrief): Promise<Open> {
    const languages = ["en", ...scripts.flatMap((script) => LANGUAGE_OF[script] ?? [])];
    const [{ features, glyphs: packed }, lists] = [await this.read(sha256, face), await signLists(languages)];
    const facts = JSON.parse((await promisify(gunzip)(packed)).toString("utf8")) as GlyphFact[];
    const glyphs = facts.map(reachFrom);
    const first = (glyph: GlyphReach): number => glyph.codePoints[0] ?? Infinity;
    const order = [...glyphs].sort((a, b) => (first(a) === first(b) ? a.glyph - b.glyph : first(a) - first(b)));
    const blockAt = (code: number) => (isPrivate(code) ? "The font's own signs" : blockOf(lists, code));
    const blocks = glyphs.map(({ codePoints: [code] }) => (code === undefined ? WITHOUT_CHARACTER : blockAt(code)));
    return {
      glyphs,
      blocks,
      order,
      languages,
      finder: new GlyphFinder(glyphs, lists, languages),
      features: JSON.parse(features) as FeatureFact[],
      counted: {
        blocks: counted(order.map(({ glyph }) => blocks[glyph])),
        scripts: counted(order.map(({ codePoints: [code] }) => scriptName(code))),
      },
    };
  }
  private opened(styleId: number): Promise<Open> {
    const style = this.uses.library.styleBrief(styleId);
    if (!style) throw notFound("style");
    const key = `${style.sha256}#${style.face}`;
    const held = this.open.get(key) ?? this.load(style);
    this.open.delete(key);
    this.open.set(key, held);
    held.catch(() => this.open.delete(key));
    if (this.open.size > HELD) this.open.delete(this.open.keys().next().value!);
    return held;
  }

  async features(styleId: number): Promise<{ features: FeatureView[] }> {
    const { features } = await this.opened(styleId);
    return { features: features.filter(({ tag }) => isChoice(tag)).map((one) => this.feature(one)) };
  }
  /** Programs that can switch letterforms, from their traits; nothing that appears by itself needs one. */
  private feature({ tag, own, values }: FeatureFact): FeatureView {
    const { able, others } = this.ableTo();
    const byItself = BY_THEMSELVES.has(tag);
    return {
      tag,
      own,
      values,
      byItself,
      name: featureName(tag, own),
      programs: byItself ? [] : able,
      others: byItself ? 0 : others,
    };
  }

  /** Programs that can switch letterforms, by name, and how many cannot. */
  private ableTo(): { able: string[]; others: number } {
    const programs = this.uses.programs.all();
    const able = programs.filter(({ traits }) => traits.alternates && traits.shapes);
    return { able: [...new Set(able.map(({ name }) => name))], others: programs.length - able.length };
  }

  private view(reach: GlyphReach, open: Open, lists: SignLists): GlyphView {
    const { words, unicodeName: unicode } = recordOf(reach, lists, open.languages);
    const names = new Map(open.features.map(({ tag, own }) => [tag, featureName(tag, own)]));
    return {
      glyph: reach.glyph,
      name: reach.name,
      codePoints: [...reach.codePoints],
      words: words.slice(0, 24),
      title: unicode ?? (words[0] || reach.name || `Glyph ${reach.glyph}`),
      block: open.blocks[reach.glyph]!,
      ways: reach.ways.map((way) => ({ ...way, features: [...way.features], sentence: waySentence(way, names) })),
    };
  }
  async glyphs(styleId: number, query: Asking): Promise<GlyphPage> {
    const [open, lists] = [await this.opened(styleId), await this.signs()];
    const found = await this.find(styleId, query.find, open);
    const { block, script, kind } = query;
    const fitting = found.filter(
      ({ glyph, codePoints: [code] }) =>
        (block === undefined || open.blocks[glyph] === block) &&
        (script === undefined || scriptName(code) === script) &&
        (kind === undefined || (code !== undefined && isOfKind(code, kind))),
    );
    return {
      total: fitting.length,
      all: open.glyphs.length,
      from: query.from,
      glyphs: fitting.slice(query.from, query.from + query.limit).map((reach) => this.view(reach, open, lists)),
      ...open.counted,
      programs: this.ableTo().able,
    };
  }

  private async find(styleId: number, search: string, open: Open): Promise<readonly GlyphReach[]> {
    const what = asked(search);
    if (what.kind === "nothing") return open.order;
    if (what.kind !== "glyph" || !what.alike) return open.finder.find(search);
    const { sha256, face } = this.uses.library.styleBrief(styleId)!;
    const order = await this.pool.alikeGlyphs(this.uses.files.path(sha256), face, what.glyph, MOST_ALIKE);
    return order.flatMap((glyph) => open.glyphs[glyph] ?? []);
  }

  /** Reads the glyphs of symbol fonts on the shelf, so that their signs are found by word; one after another, in the background. */
  poke(): void {
    this.reading ??= this.readSymbols().finally(() => (this.reading = undefined));
  }
  private async readSymbols(): Promise<void> {
    for (;;) {
      const next = this.closed ? undefined : this.uses.bench.unreadSymbols(GLYPH_FACTS_VERSION, MOST_ATTEMPTS);
      if (!next) return;
      await this.read(next.sha256, next.face).catch(() => {});
    }
  }
  close(): void {
    this.closed = true;
  }

  /** Signs by word in all styles at once: what fonts call their own, then Unicode's that some style draws. */
  async signsByWord(text: string): Promise<SignsFound> {
    const words = plainWords(text).slice(0, MOST_ASKED);
    if (words.length === 0) return { signs: [] };
    const { bench, library } = this.uses;
    const lists = await this.signs();
    const named = (styleId: number) => {
      const { brief, familyId } = library.styleBrief(styleId)!;
      return { styleId, familyId, family: brief.family, style: brief.style };
    };
    const own = bench
      .signsNamed(words, SIGNS_SHOWN)
      .map(({ code, words: title, styleId }) => ({ codePoint: code, title, total: 1, style: named(styleId) }));
    const codePoints = await this.pool.findSigns(words, MOST_SIGNS);
    const drawing = await this.drawing(codePoints, undefined);
    const drawn = codePoints.flatMap((codePoint, i) => {
      const { total, first } = drawing.of[i]!;
      return first[0] === undefined ? [] : [{ codePoint, title: unicodeName(lists, codePoint), total, style: named(first[0]) }];
    });
    return { signs: [...own, ...drawn].slice(0, SIGNS_SHOWN) };
  }

  /** Which styles of the library draw each of these characters, and which of a family do not. */
  async draws(text: string, familyId: number | undefined): Promise<Draws> {
    const lists = await this.signs();
    const { library } = this.uses;
    const wanted = charactersOf(text).slice(0, MOST_ASKED);
    const codePoints = wanted.map((character) => character.codePointAt(0)!);
    const { of, members } = await this.drawing(codePoints, familyId);
    return {
      characters: wanted.map((character, i) => {
        const { total, first } = of[i]!;
        return {
          character,
          codePoint: codePoints[i]!,
          title: unicodeName(lists, codePoints[i]!),
          total,
          styles: first.map((styleId) => {
            const { brief, familyId: its } = library.styleBrief(styleId)!;
            return { styleId, familyId: its, family: brief.family, style: brief.style };
          }),
          members: members.map(({ styleId, holds }) => ({ styleId, style: library.styleBrief(styleId)!.brief.style, draws: holds[i]! })),
        };
      }),
    };
  }

  /** For each character how many styles draw it, and the first of them; and which of a family's do. A few hundred styles at a time. */
  private async drawing(codePoints: readonly number[], familyId: number | undefined): Promise<Drawing> {
    const found: Drawing = { of: codePoints.map(() => ({ total: 0, first: [] })), members: [] };
    for (let last = 0; ; await othersFirst()) {
      const rows = this.uses.bench.rangesAfter(last, STYLES_TOGETHER);
      for (const { styleId, familyId: its, ranges } of rows) {
        const holds = rangesHold(ranges, codePoints);
        holds.forEach((held, i) => {
          const one = found.of[i]!;
          if (held && one.total++ < STYLES_NAMED) one.first.push(styleId);
        });
        if (its === familyId) found.members.push({ styleId, holds });
      }
      if (rows.length < STYLES_TOGETHER) return found;
      last = rows.at(-1)!.styleId;
    }
  }
}
