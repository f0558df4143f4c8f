// One face of a font file. Tables are read when first asked for and kept.
import { isBlankCharString, readCff } from "./cff.ts";
import { drawCharString } from "./charstring.ts";
import { Cmap, rangesOf } from "./cmap.ts";
import { type FaceDirectory, type FontFile, tableBytes, type TableRecord } from "./container.ts";
import { readFvar } from "./fvar.ts";
import { readGlyph } from "./glyf.ts";
import { readGsub } from "./gsub.ts";
import { readHead } from "./head.ts";
import { readHhea } from "./hhea.ts";
import { readHmtx } from "./hmtx.ts";
import { readLoca } from "./loca.ts";
import { readMaxp } from "./maxp.ts";
import { Names } from "./name.ts";
import { readOs2 } from "./os2.ts";
import type { Outline } from "./outline.ts";
import { readGlyphNames, readPost } from "./post.ts";
import { readStat } from "./stat.ts";
import { View } from "./view.ts";
import { ProblemError } from "../problem.ts";

export type ColourFormat = "COLR" | "SVG" | "CBDT" | "sbix";
export type Outlines = "TrueType" | "CFF" | "CFF2" | "bitmap" | "none";

export class Face {
  readonly index: number;
  readonly file: FontFile;
  readonly directory: FaceDirectory;
  private readonly kept = new Map<string, unknown>();

  constructor(file: FontFile, index: number) {
    const directory = file.faces[index];
    if (!directory) throw new ProblemError("font-face", `The file holds no face number ${index}.`, "Choose a face the file lists.");
    this.file = file;
    this.index = index;
    this.directory = directory;
  }

  record(tag: string): TableRecord | undefined {
    return this.directory.tables.find((table) => table.tag === tag);
  }
  has(tag: string): boolean {
    return this.record(tag) !== undefined;
  }
  /** A table's bytes, or undefined when the font has no such table. Throws when they lie outside the file. */
  table(tag: string): View | undefined {
    return this.keep(`table ${tag}`, () => {
      const record = this.record(tag);
      return record && new View(tableBytes(this.file, record), `"${tag}" table`, this.file.budget);
    });
  }

  /** The bytes of one record of the directory, which `table` shares. */
  bytesOf(record: TableRecord): Uint8Array {
    return record === this.record(record.tag) ? this.table(record.tag)!.bytes(0, record.length) : tableBytes(this.file, record);
  }

  get head() {
    return this.optional("head", readHead);
  }
  get hhea() {
    return this.optional("hhea", readHhea);
  }
  get maxp() {
    return this.optional("maxp", readMaxp);
  }
  get os2() {
    return this.optional("OS/2", readOs2);
  }
  get post() {
    return this.optional("post", readPost);
  }
  get fvar() {
    return this.optional("fvar", readFvar);
  }
  get stat() {
    return this.optional("STAT", readStat);
  }
  get names() {
    return this.optional("name", (view) => new Names(view));
  }
  get cmap() {
    return this.optional("cmap", (view) => new Cmap(view));
  }
  get gsub() {
    return this.optional("GSUB", readGsub);
  }
  /** Each glyph's name, as far as the font gives them: by number, "" where it gives none. */
  glyphNames(): string[] {
    const named = this.table("post");
    const names = named ? readGlyphNames(named) : [];
    return names.length > 0 ? names : (this.cff?.glyphNames() ?? []);
  }
  get hmtx() {
    const metrics = this.hhea?.numberOfHMetrics;
    return metrics === undefined ? undefined : this.optional("hmtx", (view) => readHmtx(view, metrics));
  }

  get loca() {
    const format = this.head?.indexToLocFormat;
    return format === undefined ? undefined : this.optional("loca", (view) => readLoca(view, format));
  }
  get cff() {
    return this.optional("CFF ", readCff);
  }

  /** Whether a glyph draws nothing. Glyphs of kinds that are not looked into count as drawing. */
  isBlank(glyph: number): boolean {
    if (this.has("glyf")) {
      const loca = this.loca;
      return loca !== undefined && glyph < loca.glyphs && loca.start(glyph) === loca.end(glyph);
    }
    const charStrings = this.cff?.charStrings;
    return charStrings !== undefined && glyph < charStrings.count && isBlankCharString(charStrings.object(glyph));
  }

  /**
   * A glyph's outline in font units; undefined where outlines are not read (pictures, CFF2). A variable font's is its
   * default. Throws a `ProblemError` when it is damaged.
   */
  outline(glyph: number): Outline | undefined {
    return this.keep(`outline ${glyph}`, () => this.draw(glyph));
  }
  private draw(glyph: number): Outline | undefined {
    if (this.has("glyf")) {
      const { loca } = this;
      const glyf = this.table("glyf");
      return loca && glyf && readGlyph(glyf, loca, glyph);
    }
    const { cff } = this;
    if (!cff || glyph >= cff.charStrings.count) return undefined;
    return drawCharString(cff.charStrings.object(glyph), cff.globalSubrs, cff.localSubrs(glyph));
  }

  /** In which ways it has coloured glyphs, by their tables. */
  get colour(): ColourFormat[] {
    const formats: [format: ColourFormat, tag: string][] = [
      ["COLR", "COLR"],
      ["SVG", "SVG "],
      ["CBDT", "CBDT"],
      ["sbix", "sbix"],
    ];
    return formats.filter(([, tag]) => this.has(tag)).map(([format]) => format);
  }

  /**
   * The characters as flat pairs of first and last code point, ascending. Control codes below U+0020, which many
   * fonts map to blank glyphs for old systems' sake, count only when their glyph draws something.
   */
  characterRanges(): number[] {
    return this.keep("characters", () => {
      const points: number[] = [];
      this.cmap?.each((codePoint, glyph) => {
        if (codePoint >= 0x20 || !this.isBlank(glyph)) points.push(codePoint);
      });
      return rangesOf(points);
    });
  }

  get outlines(): Outlines {
    if (this.has("CFF2")) return "CFF2";
    if (this.has("CFF ")) return "CFF";
    if (this.has("glyf") && (this.record("glyf")?.length ?? 0) > 0) return "TrueType";
    if (["EBDT", "CBDT", "sbix", "bdat"].some((tag) => this.has(tag))) return "bitmap";
    return this.has("glyf") ? "TrueType" : "none";
  }

  private optional<T>(tag: string, read: (view: View) => T): T | undefined {
    return this.keep(tag, () => {
      const view = this.table(tag);
      return view && read(view);
    });
  }
  private keep<T>(key: string, make: () => T): T {
    if (!this.kept.has(key)) this.kept.set(key, make());
    return this.kept.get(key) as T;
  }
}
