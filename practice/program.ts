// A simulated program: it reads its device's font folders when its traits say so, lists, draws and exports.
import { othersFirst } from "../core/turns.ts";
import type { ProgramTraits } from "../contract/programs.ts";
import { FAKE, runPath } from "./engine/drawing.ts";
import { openProgramFonts, type ProgramFont } from "./engine/font.ts";
import { layOut, type Layout } from "./engine/layout.ts";
import type { SetText } from "./engine/pdf.ts";
import type { DeviceFile, PracticeDevice } from "./device.ts";

/** Name IDs (OpenType specification, name table). */
const ID = { family: 1, style: 2, full: 4, postScript: 6, typographicFamily: 16, typographicStyle: 17 };

interface ListedFont {
  font: ProgramFont;
  label: string;
  style: string;
  builtIn: boolean;
}

export interface TypedText {
  font: string;
  style: string;
  bold: boolean;
  italic: boolean;
  text: string;
  sizePt: number;
  widthPt: number;
}

export interface Drawing {
  widthPt: number;
  heightPt: number;
  runs: { path: string; text: string; drawnWith: string; how: "asked" | "fallback" | "box"; strokePt: number }[];
  fontFound: boolean;
  faked: ("bold" | "italic")[];
}

interface Composed {
  layout: Layout;
  found: boolean;
  faked: ("bold" | "italic")[];
}

/** The entry a program makes of a font, and the style under it. */
function label(font: ProgramFont, { lists, language }: ProgramTraits): { label: string; style: string } {
  const family = font.name(ID.typographicFamily, language) || font.name(ID.family, language);
  const { instance } = font;
  if (lists === "full-names") return { label: instance ? `${family} ${instance}` : font.name(ID.full) || family, style: "" };
  if (lists === "postscript-names") {
    const own = font.name(ID.postScript) || font.name(ID.full);
    return { label: instance ? `${own}_${instance.replace(/ /g, "")}` : own, style: "" };
  }
  if (instance) return { label: family, style: instance };
  if (lists === "four-style") return { label: font.name(ID.family, language) || family, style: font.name(ID.style) || "Regular" };
  return { label: family, style: font.name(ID.typographicStyle) || font.name(ID.style) || "Regular" };
}

/** A program that has been opened. Closing it is forgetting this object. */
export class OpenProgram {
  readonly name: string;
  readonly traits: ProgramTraits;
  private readonly device: PracticeDevice;
  /** Names its own store. */
  private readonly slug: string;
  private fonts: ListedFont[] = [];
  /** Loaded by hand since it was opened. */
  private readonly loaded: ListedFont[] = [];
  private read: readonly DeviceFile[] = [];

  private constructor(name: string, slug: string, traits: ProgramTraits, device: PracticeDevice) {
    this.name = name;
    this.slug = slug;
    this.traits = traits;
    this.device = device;
  }

  /** Starts the program: it reads the fonts that are there now. */
  static async start(name: string, slug: string, traits: ProgramTraits, device: PracticeDevice): Promise<OpenProgram> {
    const program = new OpenProgram(name, slug, traits, device);
    await program.readFonts();
    return program;
  }

  private async readFonts(): Promise<void> {
    const files = await this.device.visible(["built-in", ...this.traits.reads], this.slug);
    const fonts: ListedFont[] = [];
    for (const file of files) {
      for (const font of openProgramFonts(await file.read(), this.traits)) fonts.push(this.listed(font, file.folder === "built-in"));
    }
    this.read = files;
    this.fonts = [...fonts, ...this.loaded];
  }
  private listed(font: ProgramFont, builtIn: boolean): ListedFont {
    return { font, ...label(font, this.traits), builtIn };
  }
  /** Files it has read, as "folder/file name". */
  filesRead(): string[] {
    return this.read.map((file) => `${file.folder}/${file.fileName}`);
  }

  /**
   * Loads a font file by hand, for programs that keep a store of their own; `keep` puts it there for next time. Returns false when it
   * cannot use the file.
   */
  async load(fileName: string, bytes: Uint8Array, keep: boolean): Promise<boolean> {
    const loaded = openProgramFonts(bytes, this.traits).map((font) => this.listed(font, false));
    if (loaded.length === 0) return false;
    this.loaded.push(...loaded);
    this.fonts.push(...loaded);
    if (keep && this.traits.keeps) await this.device.keep(this.slug, fileName, bytes);
    return true;
  }

  /** The font list as the program shows it now. */
  async menu(): Promise<{ label: string; styles: string[] }[]> {
    if (this.traits.readsWhen === "always") await this.readFonts();
    const order = this.sorting();
    const labels = [...new Set(this.fonts.map((font) => font.label))];
    const last = (entry: string) =>
      this.traits.otherScripts === "after" && !this.fonts.some((one) => one.label === entry && one.font.latin);
    labels.sort((a, b) => Number(last(a)) - Number(last(b)) || order.compare(a, b));
    return labels.map((entry) => {
      const styles = new Set(this.fonts.filter((font) => font.label === entry).map((font) => font.style));
      return { label: entry, styles: this.traits.lists === "families" ? [...styles].sort(order.compare) : [] };
    });
  }

  /** The font the program takes for what was chosen, and what it must fake. */
  private pick(typed: TypedText): { font: ProgramFont | undefined; faked: ("bold" | "italic")[] } {
    const members = this.fonts.filter((font) => font.label === typed.font);
    if (members.length === 0) return { font: undefined, faked: [] };
    if (this.traits.lists !== "four-style") {
      const exact = members.find((member) => member.style === typed.style);
      const plain = members.find((member) => /^(regular|roman|book|normal)$/i.test(member.style));
      return { font: (exact ?? plain ?? members[0]!).font, faked: [] };
    }
    // Where several styles share a button, the one named so is reached: Regular before Medium.
    const named = (member: ListedFont) => /^(regular|bold|italic|bold italic)$/i.test(member.style);
    members.sort((a, b) => Number(named(b)) - Number(named(a)));
    const is = (member: ListedFont, what: RegExp) => what.test(member.style);
    const fits = (member: ListedFont, bold: boolean, italic: boolean) =>
      is(member, /bold/i) === bold && is(member, /italic|oblique/i) === italic;
    const tries: [bold: boolean, italic: boolean][] = [
      [typed.bold, typed.italic],
      [typed.bold, false],
      [false, typed.italic],
      [false, false],
    ];
    for (const [bold, italic] of tries) {
      const member = members.find((one) => fits(one, bold, italic));
      if (!member) continue;
      const faked: ("bold" | "italic")[] = [];
      if (this.traits.fakesStyles && typed.bold && !bold) faked.push("bold");
      if (this.traits.fakesStyles && typed.italic && !italic) faked.push("italic");
      return { font: member.font, faked };
    }
    return { font: members[0]!.font, faked: [] };
  }

  private async compose(typed: TypedText): Promise<Composed> {
    if (this.traits.readsWhen === "always") await this.readFonts();
    const { font, faked } = this.pick(typed);
    const fallbacks = this.fonts.filter((one) => one.builtIn).map((one) => one.font);
    // A plain style stands in before a bold or slanted one.
    const plain = (one: ProgramFont) => /^(regular|)$/i.test(one.name(ID.style));
    fallbacks.sort((a, b) => Number(plain(b)) - Number(plain(a)));
    // A program that does not fall back draws boxes; when it has not the font at all, its own first one stands in whole.
    const standIns = this.traits.fallsBack ? fallbacks : font ? [] : fallbacks.slice(0, 1);
    const layout = layOut(typed.text, font, standIns, typed.sizePt, typed.widthPt, this.traits.shapes);
    return { layout, found: font !== undefined, faked };
  }

  /** What the program draws for the typed text. */
  async draw(typed: TypedText): Promise<Drawing> {
    const { layout, found, faked } = await this.compose(typed);
    return {
      widthPt: layout.widthPt,
      heightPt: layout.heightPt,
      fontFound: found,
      faked,
      runs: layout.runs.map((run) => ({
        path: runPath(run, typed.sizePt, faked.includes("italic") && run.how === "asked"),
        text: run.text,
        drawnWith: run.font.name(ID.full) || run.font.name(ID.family),
        how: run.how,
        strokePt: faked.includes("bold") && run.how === "asked" ? typed.sizePt * FAKE.boldEm : 0,
      })),
    };
  }

  /** The rules of the language it is set to; a tag that is none stands for no language. */
  private sorting(): Intl.Collator {
    try {
      return new Intl.Collator(Intl.getCanonicalLocales(this.traits.language));
    } catch {
      return new Intl.Collator("und");
    }
  }

  /** What the search box leaves of the list. */
  async search(typed: string): Promise<string[]> {
    const wanted = typed.toLowerCase();
    const fits = (entry: string) => (this.traits.search === "anywhere" ? entry.includes(wanted) : entry.startsWith(wanted));
    return (await this.menu()).map((entry) => entry.label).filter((entry) => fits(entry.toLowerCase()));
  }

  /** The typed text as an SVG: text with its fonts in it where the program embeds, else text that only names them. */
  async exportSvg(typed: TypedText): Promise<string> {
    const { layout, faked } = await this.compose(typed);
    const { writeSvg } = await import("./engine/svg.ts");
    return writeSvg(layout, typed.sizePt, faked, this.traits.embeds);
  }

  /** The typed text as a PDF with embedded fonts. */
  exportPdf(typed: TypedText): Promise<Uint8Array> {
    return this.exportPage([typed]);
  }
  /** Several pieces of text, each in a font of its own, as one PDF. */
  async exportPage(lines: readonly TypedText[]): Promise<Uint8Array> {
    const pieces: SetText[] = [];
    for (const line of lines) {
      await othersFirst();
      const { layout, faked } = await this.compose(line);
      pieces.push({ layout, sizePt: line.sizePt, faked });
    }
    const { writePdf } = await import("./engine/pdf.ts");
    return writePdf(pieces, this.name);
  }
}
