// Layout tables made at random by their specification (OpenType, "OpenType Layout Common Table Formats", GSUB, GPOS, GDEF, cmap), some of
// their numbers wrong: kinds of lookups that fonts at hand do not have.
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { assembleSfnt } from "../../core/sfnt/assemble.ts";
import { openContainer, tableBytes } from "../../core/sfnt/container.ts";

/** Numbers of 16 bits, and tables they point to; one of four bytes where a table says so. */
type Item = number | Part | { far: Part };
type Part = readonly Item[];

const file = openContainer(readFileSync(join(process.cwd(), "build", "demo", "built-in", "AsterPlain-Regular.ttf")));
const face = file.faces[0]!;
const BASE = new Map(face.tables.map((record) => [record.tag, Uint8Array.from(tableBytes(file, record))]));
const GLYPHS = new DataView(BASE.get("maxp")!.buffer).getUint16(4);

export class LayoutMaker {
  private readonly random: () => number;
  constructor(random: () => number) {
    this.random = random;
  }
  private below(most: number): number {
    return Math.floor(this.random() * most);
  }
  private chance(of: number): boolean {
    return this.random() < of;
  }
  private some<T>(make: (i: number) => T, most = 4): T[] {
    return Array.from({ length: 1 + this.below(most) }, (_, i) => make(i));
  }
  private glyph(): number {
    return this.below(GLYPHS);
  }
  private glyphs(most = 6): number[] {
    return [...new Set(this.some(() => this.glyph(), most))].sort((a, b) => a - b);
  }

  private coverage(glyphs: readonly number[]): Part {
    if (this.chance(0.6)) return [1, glyphs.length, ...glyphs];
    return [2, glyphs.length, ...glyphs.flatMap((glyph, i) => [glyph, glyph, i])];
  }
  private classes(most = 3): Part {
    if (this.chance(0.5)) {
      const from = this.below(GLYPHS - 4);
      return [1, from, ...((list) => [list.length, ...list])(this.some(() => this.below(most + 1)))];
    }
    const glyphs = this.glyphs();
    return [2, glyphs.length, ...glyphs.flatMap((glyph) => [glyph, glyph, this.below(most + 1)])];
  }
  private records(lookups: number): number[] {
    const list = this.some(() => [this.below(2), this.below(lookups)], 2);
    return [list.length, ...list.flat()];
  }
  /** Contexts: format 3, whose parts are coverages, or 1, whose parts are glyphs; with what stands before and after, or without. */
  private context(lookups: number, chained: boolean): Part {
    const covers = () => ((list) => [list.length, ...list])(this.some(() => this.coverage(this.glyphs()), 3));
    if (this.chance(0.5)) {
      if (chained) return [3, ...covers(), ...covers(), ...covers(), ...this.records(lookups)];
      const [count, ...parts] = covers();
      const [records, ...rest] = this.records(lookups);
      return [3, count!, records!, ...parts, ...rest];
    }
    const first = this.glyphs();
    const sets = first.map((): Part => {
      const rules = this.some((): Part => {
        const input = this.glyphs(3);
        const listed = (list: readonly number[]) => [list.length, ...list];
        const [records, ...rest] = this.records(lookups);
        return chained
          ? [...listed(this.glyphs(2)), input.length + 1, ...input, ...listed(this.glyphs(2)), records!, ...rest]
          : [input.length + 1, records!, ...input, ...rest];
      }, 2);
      return [rules.length, ...rules];
    });
    return [1, this.coverage(first), sets.length, ...sets];
  }

  private substitution(type: number, lookups: number): Part {
    const glyphs = this.glyphs();
    const sets = (make: () => Item[]): Part => {
      const all = glyphs.map((): Part => make());
      return [1, this.coverage(glyphs), all.length, ...all];
    };
    const list = () => ((own) => [own.length, ...own])(this.some(() => this.glyph()));
    if (type === 1)
      return this.chance(0.5)
        ? [1, this.coverage(glyphs), this.below(3)]
        : [2, this.coverage(glyphs), glyphs.length, ...glyphs.map(() => this.glyph())];
    if (type === 2 || type === 3) return sets(list);
    if (type === 4)
      return sets(() => {
        const ligatures = this.some((): Part => {
          const parts = this.glyphs(3);
          return [this.glyph(), parts.length + 1, ...parts];
        }, 2);
        return [ligatures.length, ...ligatures];
      });
    if (type === 8) {
      const covers = () => ((own) => [own.length, ...own])(this.some(() => this.coverage(this.glyphs()), 2));
      return [1, this.coverage(glyphs), ...covers(), ...covers(), glyphs.length, ...glyphs.map(() => this.glyph())];
    }
    return this.context(lookups, type === 6);
  }

  private value(format: number): Item[] {
    return Array.from({ length: 8 }, (_, bit) => bit)
      .filter((bit) => (format & (1 << bit)) !== 0)
      .map((bit): Item => (bit < 4 ? this.below(200) : this.chance(0.5) ? 0 : [12, 13, 1, 0x4000]));
  }
  private anchor(): Part {
    const kind = this.below(3);
    return kind === 0 ? [1, 10, 10] : kind === 1 ? [2, 10, 10, this.below(3)] : [3, 10, 10, [12, 13, 1, 0x4000], 0];
  }
  private marks(classes: number): Part {
    const all = this.some(() => [this.below(classes), this.anchor()] as Item[]);
    return [all.length, ...all.flat()];
  }
  private position(type: number, lookups: number): Part {
    const glyphs = this.glyphs();
    const format = this.below(0x100);
    if (type === 1)
      return this.chance(0.5)
        ? [1, this.coverage(glyphs), format, ...this.value(format)]
        : [2, this.coverage(glyphs), format, glyphs.length, ...glyphs.flatMap(() => this.value(format))];
    if (type === 2) {
      const small = format & 0x0f;
      if (this.chance(0.5)) {
        const sets = glyphs.map((): Part => {
          const seconds = this.glyphs();
          return [seconds.length, ...seconds.flatMap((second) => [second, ...this.value(small), ...this.value(4)])];
        });
        return [1, this.coverage(glyphs), small, 4, sets.length, ...sets];
      }
      const cells = Array.from({ length: 4 * 4 }, () => [...this.value(small), ...this.value(4)]).flat();
      return [2, this.coverage(glyphs), small, 4, this.classes(3), this.classes(3), 4, 4, ...cells];
    }
    if (type === 3)
      return [
        1,
        this.coverage(glyphs),
        glyphs.length,
        ...glyphs.flatMap((): Item[] => [this.anchor(), this.chance(0.3) ? 0 : this.anchor()]),
      ];
    if (type === 4 || type === 6) {
      const classes = 1 + this.below(3);
      const bases = this.some(() => Array.from({ length: classes }, () => this.anchor()));
      return [1, this.coverage(glyphs), this.coverage(this.glyphs()), classes, this.marks(classes), [bases.length, ...bases.flat()]];
    }
    if (type === 5) {
      const classes = 1 + this.below(2);
      const ligatures = this.some((): Part => {
        const parts = this.some(() => Array.from({ length: classes }, (): Item => (this.chance(0.3) ? 0 : this.anchor())), 2);
        return [parts.length, ...parts.flat()];
      });
      return [1, this.coverage(glyphs), this.coverage(this.glyphs()), classes, this.marks(classes), [ligatures.length, ...ligatures]];
    }
    return this.context(lookups, type === 8);
  }

  private layout(extension: number, types: readonly number[], subtable: (type: number, lookups: number) => Part): Part {
    const count = 1 + this.below(4);
    const lookups = Array.from({ length: count }, (): Part => {
      const type = types[this.below(types.length)]!;
      const extended = this.chance(0.2);
      const parts = this.some((): Part => (extended ? [1, type, { far: subtable(type, count) }] : subtable(type, count)), 2);
      return [extended ? extension : type, this.chance(0.2) ? 8 : 0, parts.length, ...parts];
    });
    const features = this.some((): Part => [0, 1, this.below(count)]);
    const tag = (text: string) => [(text.charCodeAt(0) << 8) | text.charCodeAt(1), (text.charCodeAt(2) << 8) | text.charCodeAt(3)];
    const language = (): Part => [0, this.chance(0.7) ? 0xffff : this.below(features.length), 1, this.below(features.length)];
    const script = (): Part => (this.chance(0.5) ? [language(), 0] : [language(), 1, ...tag("DEU "), language()]);
    const scripts: Item[] = this.chance(0.5) ? [1, ...tag("latn"), script()] : [2, ...tag("DFLT"), script(), ...tag("latn"), script()];
    return [1, 0, scripts, [features.length, ...features.flatMap((feature) => [...tag("liga"), feature])], [lookups.length, ...lookups]];
  }
  private definitions(): Part {
    const glyphs = this.glyphs();
    const points = glyphs.map((): Part => [2, 1, 2 + this.below(3)]);
    const carets = glyphs.map((): Part => {
      const values = this.some((): Part => (this.chance(0.5) ? [1, 100] : [2, 1]), 2);
      return [values.length, ...values];
    });
    const sets = this.some(() => ({ far: this.coverage(this.glyphs()) }), 2);
    const head: Item[] = [
      this.classes(4),
      this.chance(0.5) ? 0 : [this.coverage(glyphs), points.length, ...points],
      this.chance(0.5) ? 0 : [this.coverage(glyphs), carets.length, ...carets],
      this.chance(0.5) ? 0 : this.classes(2),
    ];
    return this.chance(0.5) ? [1, 0, ...head] : [1, 2, ...head, [1, sets.length, ...sets]];
  }
  private characters(): Part {
    const runs = this.some((i) => 0x40 + 0x20 * i + this.below(8), 5);
    const ends = [...runs.map((from) => from + 3), 0xffff];
    const starts = [...runs, 0xffff];
    const deltas = [...runs.map((from) => (this.below(GLYPHS - 4) - from) & 0xffff), 1];
    const log = Math.floor(Math.log2(ends.length));
    const count = ends.length;
    const segments = [
      4,
      16 + 8 * count,
      0,
      2 * count,
      2 << log,
      log,
      2 * count - (2 << log),
      ...ends,
      0,
      ...starts,
      ...deltas,
      ...ends.map(() => 0),
    ];
    const groups = runs.flatMap((from) => [0, from, 0, from + 3, 0, this.below(GLYPHS - 4)]);
    const wide = [12, 0, 0, 16 + 12 * runs.length, 0, 0, 0, runs.length, ...groups];
    return this.chance(0.5) ? [0, 1, 3, 1, { far: segments }] : [0, 2, 3, 1, { far: segments }, 3, 10, { far: wide }];
  }

  /** Bytes of a table whose parts follow it; a few numbers are wrong. */
  private written(part: Part, wrong: number): number[] {
    const size = part.reduce<number>((sum, item) => sum + (typeof item === "object" && "far" in item ? 4 : 2), 0);
    const own: number[] = [];
    const rest: number[] = [];
    const put = (value: number) => {
      const spoilt = this.chance(wrong) ? [value + 1, value - 1, this.below(65_536), 0, 0xffff, value + 0x100][this.below(6)]! : value;
      own.push((spoilt >> 8) & 0xff, spoilt & 0xff);
    };
    for (const item of part) {
      if (typeof item === "number") {
        put(item);
        continue;
      }
      const far = "far" in item;
      if (far) put(0);
      put(size + rest.length);
      for (const byte of this.written(far ? item.far : item, wrong)) rest.push(byte);
    }
    return [...own, ...rest];
  }

  /** A font with one such table, two at times. */
  font(): Uint8Array {
    const tables = new Map(BASE);
    for (const tag of ["GSUB", "GPOS", "GDEF"]) tables.delete(tag);
    const makers: [tag: string, make: () => Part][] = [
      ["GSUB", () => this.layout(7, [1, 2, 3, 4, 5, 6, 8], (type, lookups) => this.substitution(type, lookups))],
      ["GPOS", () => this.layout(9, [1, 2, 3, 4, 5, 6, 7, 8], (type, lookups) => this.position(type, lookups))],
      ["GDEF", () => this.definitions()],
      ["cmap", () => this.characters()],
    ];
    for (let i = 0; i < 1 + this.below(2); i++) {
      const [tag, make] = makers[this.below(makers.length)]!;
      tables.set(tag, Uint8Array.from(this.written(make(), this.chance(0.4) ? 0 : 0.006)));
    }
    return assembleSfnt(face.flavour, tables);
  }
}
