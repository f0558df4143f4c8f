// What the pages of a PDF draw. The file is parsed by pdf.js; what its operators mean for each letter is found out here.
import type { PDFDocumentProxy, PDFPageProxy } from "pdfjs-dist/legacy/build/pdf.mjs";
import { hasLargeStream } from "../../archive/pdf-streams.ts";
import { fail, ok, type Result } from "../../problem.ts";
import type { Origin } from "../origin.ts";
import type { DrawnLetter } from "./letters.ts";
import { OPS, type Operators, type Pixels } from "./operators.ts";
import { drawPage } from "./page.ts";
import { PageTooLarge, type PageFont } from "./plane.ts";
import { embeddedProgram, type ParsedFont, type Program } from "./programs.ts";

export interface PdfFont {
  /** Its name without the tag of a subset. */
  name: string;
  /** The document carries a program for it that can be opened. */
  embedded: boolean;
  subset: boolean;
  /** "TrueType", "CFF", "Type 1", "Type 3" or what the PDF says. */
  type: string;
}
export interface DrawnFont extends PdfFont {
  key: string;
  program: Program | undefined;
}
export interface PdfDrawing {
  pages: number;
  /** Pages beyond these were not looked at. */
  read: number;
  fonts: DrawnFont[];
  letters: DrawnLetter[];
  /** Filled paths that letters turned into outlines look like, and pictures. */
  shapes: number;
  pictures: number;
  origin: Origin;
}

const MOST_PAGES = 60;
const MOST_LETTERS = 200_000;
/** Larger pictures are left out by the parser: what they would lie on or under is not told by its colour then. */
const MOST_PICTURE_PIXELS = 40_000_000;
const SUBSET_TAG = /^[A-Z]{6}\+/;
const DAMAGED = fail("pdf-damaged", "This PDF is damaged and cannot be read.", "Export it again from the program.");

const typeOf = (font: ParsedFont): string => {
  if (font.isType3Font) return "Type 3";
  const said = `${font.subtype ?? ""} ${font.type ?? ""}`;
  if (/Type1C|CIDFontType0C|OpenType/.test(said)) return "CFF";
  if (/TrueType|CIDFontType2/.test(said)) return "TrueType";
  return /Type1/.test(said) ? "Type 1" : (font.type ?? "unknown");
};

class Fonts {
  readonly known = new Map<string, { face: PageFont; drawn: DrawnFont }>();
  find(key: string, page: PDFPageProxy): PageFont | undefined {
    let known = this.known.get(key);
    if (!known && page.commonObjs.has(key)) this.known.set(key, (known = this.read(key, page.commonObjs.get(key) as ParsedFont, page)));
    return known?.face;
  }
  private read(key: string, font: ParsedFont, page: PDFPageProxy): { face: PageFont; drawn: DrawnFont } {
    const program = embeddedProgram(font, (glyph) => {
      const id = `${key}_path_${glyph}`;
      return page.commonObjs.has(id) ? String(page.commonObjs.get(id)) : undefined;
    });
    const name = font.name ?? "";
    const drawn = {
      key,
      program,
      name: name.replace(SUBSET_TAG, ""),
      subset: SUBSET_TAG.test(name),
      embedded: program !== undefined,
      type: typeOf(font),
    };
    const face: PageFont = {
      // Widths come in units of this, whatever the file's own are.
      matrix: font.fontMatrix ?? [0.001, 0, 0, 0.001, 0, 0],
      vertical: font.vertical === true,
      verticalDefault: font.defaultVMetrics ?? [-1000, 500, 880],
      ink: (glyph, procedure) => {
        if (!program) return null;
        const shape = program.shape(font.isType3Font ? (procedure ?? "") : glyph);
        return shape && shape.box;
      },
    };
    return { face, drawn };
  }
}

/** "D:20261126144229+01'00'" (ISO 32000-1, 7.9.4) as ISO 8601; empty when it is no date. */
export function pdfDate(text: unknown): string {
  const found = /^D:(\d{4})(\d\d)?(\d\d)?(\d\d)?(\d\d)?(\d\d)?(?:([+-])(\d\d)'?(\d\d)?|Z)?/.exec(typeof text === "string" ? text : "");
  if (!found) return "";
  const [, year = "", month = "01", day = "01", hour = "00", minute = "00", second = "00", sign, hours = "00", minutes = "00"] = found;
  const zone = sign ? `${sign}${hours}:${minutes}` : "Z";
  const date = new Date(`${year}-${month}-${day}T${hour}:${minute}:${second}${zone}`);
  return Number.isNaN(date.getTime()) ? "" : date.toISOString();
}

async function originOf(document: PDFDocumentProxy): Promise<Origin> {
  const info = (await document.getMetadata().catch(() => undefined))?.info as Record<string, unknown> | undefined;
  const word = (value: unknown) => (typeof value === "string" ? value.slice(0, 200).trim() : "");
  const dates = [pdfDate(info?.["CreationDate"]), pdfDate(info?.["ModDate"])].sort();
  return { producer: word(info?.["Producer"]), creator: word(info?.["Creator"]), at: dates.at(-1) ?? "" };
}

/** Pictures arrive after the operators that show them. */
async function pixelsOf(page: PDFPageProxy, operators: Operators): Promise<Map<string, Pixels>> {
  const found = new Map<string, Pixels>();
  for (let i = 0; i < operators.fnArray.length; i++) {
    if (operators.fnArray[i] !== OPS.paintImageXObject) continue;
    const [id] = operators.argsArray[i] as [string];
    if (found.has(id)) continue;
    const store = id.startsWith("g_") ? page.commonObjs : page.objs;
    const pixels = await new Promise<Pixels | null>((resolve) => {
      store.get(id, resolve as (data: unknown) => void);
    });
    if (pixels) found.set(id, pixels);
  }
  return found;
}

/**
 * Reads what a PDF's pages draw. Problems: "not-a-pdf", "pdf-locked", "pdf-damaged", "pdf-large".
 */
export async function drawPdf(bytes: Uint8Array): Promise<Result<PdfDrawing>> {
  const head = new TextDecoder("latin1").decode(bytes.subarray(0, 1024));
  if (!head.includes("%PDF-")) return fail("not-a-pdf", "This file is not a PDF.", "Export a PDF from the program and give that.");
  if (hasLargeStream(bytes))
    return fail(
      "pdf-large",
      "A part of this PDF unpacks to more than is read (limit “Stream”).",
      "Give a simpler one: a page with the words is enough.",
    );
  const { getDocument, AnnotationMode } = await import("pdfjs-dist/legacy/build/pdf.mjs");
  const loading = getDocument({
    data: Uint8Array.from(bytes),
    isEvalSupported: false,
    useSystemFonts: false,
    disableFontFace: true,
    fontExtraProperties: true,
    verbosity: 0,
    maxImageSize: MOST_PICTURE_PIXELS,
    enableXfa: false,
    useWorkerFetch: false,
    isOffscreenCanvasSupported: false,
  });
  try {
    const document = await loading.promise;
    const layers = await document.getOptionalContentConfig();
    const fonts = new Fonts();
    const drawing: PdfDrawing = {
      pages: document.numPages,
      read: 0,
      fonts: [],
      letters: [],
      shapes: 0,
      pictures: 0,
      origin: await originOf(document),
    };
    for (let number = 1; number <= Math.min(document.numPages, MOST_PAGES); number++) {
      const page = await document.getPage(number);
      const operators = (await page.getOperatorList({ annotationMode: AnnotationMode.ENABLE })) as unknown as Operators;
      const pixels = await pixelsOf(page, operators);
      const drawn = drawPage({
        number,
        view: page.view,
        operators,
        font: (key) => fonts.find(key, page),
        layerShows: (group) => Boolean(layers.isVisible(group as Parameters<typeof layers.isVisible>[0])),
        pixels: (id) => pixels.get(id),
      });
      for (const letter of drawn.letters) drawing.letters.push(letter);
      drawing.shapes += drawn.shapes;
      drawing.pictures += drawn.pictures;
      drawing.read = number;
      page.cleanup();
      if (drawing.letters.length > MOST_LETTERS) break;
    }
    drawing.fonts = [...fonts.known.values()].map(({ drawn }) => drawn);
    return ok(drawing);
  } catch (error) {
    if (error instanceof PageTooLarge) {
      return fail(
        "pdf-large",
        "A page of this PDF draws more than is read (limit “Page”).",
        "Give a simpler one: a page with the words is enough.",
      );
    }
    if (error instanceof Error && error.name === "PasswordException")
      return fail("pdf-locked", "This PDF is locked with a password.", "Export it again without a password.");
    return DAMAGED;
  } finally {
    await loading.destroy().catch(() => undefined);
  }
}
