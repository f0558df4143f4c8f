// Evidence of any kind a program writes: told apart by its bytes, read for the fonts its text is set in.
import { SmallZipFault, unpackSmallZip } from "../archive/small-zip.ts";
import { attempt, fail, ok, ProblemError, type Result } from "../problem.ts";
import {
  all,
  elementsOf,
  fontOf,
  hasText,
  localName,
  parseMarkup,
  readSheet,
  readStyle,
  textOf,
  type Element,
  type SheetFonts,
} from "./markup.ts";
import { asFonts, readOfficeOpenXml, readOpenDocument, type Files } from "./office.ts";
import type { PdfFont } from "./pdf.ts";

export interface Evidence {
  /** What kind of file it is, in words. */
  kind: string;
  fonts: PdfFont[];
}

const MOST_UNPACKED_BYTES = 64 * 1024 * 1024;
const MOST_ENTRIES = 5000;
const AGAIN = "Export it again from the program.";

const latin = (bytes: Uint8Array): string => new TextDecoder("latin1").decode(bytes.subarray(0, 4096));

function unpack(bytes: Uint8Array): Files {
  try {
    return unpackSmallZip(bytes, { entries: MOST_ENTRIES, bytes: MOST_UNPACKED_BYTES });
  } catch (error) {
    if (error instanceof SmallZipFault && error.why === "large")
      throw new ProblemError(
        "evidence-too-large",
        "This document unpacks to more than is read (limit “Unpacked document”).",
        "Give a shorter one: a page is enough.",
      );
    throw new ProblemError("evidence-damaged", "This document is damaged and cannot be read.", AGAIN);
  }
}

/** Fonts of pages and drawings: families the sheets and attributes name; held ones have their bytes in the document. */
function styled(sheets: readonly SheetFonts[], attributes: SheetFonts["used"], held: (source: string) => boolean, type: string): PdfFont[] {
  const here = new Set(
    sheets.flatMap((sheet) => sheet.held.filter((one) => one.sources.some(held)).map((one) => one.family.toLowerCase())),
  );
  return asFonts([...sheets.flatMap((sheet) => sheet.used), ...attributes], here, type);
}
const inside = (source: string): boolean => source.startsWith("data:");

/** Attributes that set a font on elements that hold text (SVG 1.1, "font-family" as a presentation attribute). */
function attributeFonts(root: Element): SheetFonts["used"] {
  return [...elementsOf(root)].flatMap((element) => {
    if (!hasText(element) || localName(element) === "style") return [];
    const declarations = readStyle(element.attributes["style"] ?? "");
    for (const name of ["font-family", "font-weight", "font-style"]) {
      const value = element.attributes[name];
      if (value !== undefined && !declarations.has(name)) declarations.set(name, value);
    }
    if (localName(element) === "font" && element.attributes["face"]) declarations.set("font-family", element.attributes["face"]);
    return fontOf(declarations) ?? [];
  });
}

function readSvg(bytes: Uint8Array): Evidence {
  const root = parseMarkup(bytes);
  const text = all(root, "text").filter(hasText);
  if (text.length === 0) {
    throw new ProblemError(
      "svg-outlines",
      "This drawing holds no text: its letters were turned into outlines.",
      "Export it again with text kept as text.",
    );
  }
  const sheets = all(root, "style").map((style) => readSheet(textOf(style)));
  return { kind: "SVG", fonts: styled(sheets, attributeFonts(root), inside, "SVG") };
}
function readHtml(bytes: Uint8Array): Evidence {
  const root = parseMarkup(bytes, true);
  const sheets = all(root, "style").map((style) => readSheet(textOf(style)));
  return { kind: "HTML", fonts: styled(sheets, attributeFonts(root), inside, "HTML") };
}

/** EPUB 3: style sheets and pages of the package; fonts lie beside them. */
function readEpub(files: Files): Evidence {
  const names = Object.keys(files);
  const sheets: SheetFonts[] = [];
  const attributes: SheetFonts["used"] = [];
  for (const name of names) {
    if (/\.css$/i.test(name)) sheets.push(readSheet(new TextDecoder().decode(files[name])));
    if (/\.x?html?$/i.test(name)) {
      const root = parseMarkup(files[name]!);
      sheets.push(...all(root, "style").map((style) => readSheet(textOf(style))));
      attributes.push(...attributeFonts(root));
    }
  }
  const held = (source: string) =>
    inside(source) || names.some((name) => name.endsWith(source.replace(/^(\.\.?\/)+/, "").split(/[?#]/)[0]!));
  return { kind: "EPUB", fonts: styled(sheets, attributes, held, "EPUB") };
}

/** Subtitle files that name fonts in styles and in the lines themselves ("\fn"), and may carry them in a [Fonts] part; from memory. */
function readSubtitles(text: string): Evidence {
  const lines = text.split(/\r?\n/);
  const section = (name: string): string[] => {
    const start = lines.findIndex((line) => line.trim().toLowerCase() === `[${name.toLowerCase()}]`);
    if (start < 0) return [];
    const end = lines.findIndex((line, i) => i > start && line.startsWith("["));
    return lines.slice(start + 1, end < 0 ? undefined : end);
  };
  const styles = [...section("V4+ Styles"), ...section("V4 Styles")];
  const columns = (styles.find((line) => /^Format:/i.test(line)) ?? "")
    .replace(/^Format:/i, "")
    .split(",")
    .map((one) => one.trim().toLowerCase());
  const value = (cells: readonly string[], column: string) => cells[columns.indexOf(column)]?.trim() ?? "";
  const named = new Map<string, SheetFonts["used"][number]>();
  for (const line of styles.filter((one) => /^Style:/i.test(one))) {
    const cells = line.replace(/^Style:/i, "").split(",");
    const flag = (column: string) => Number(value(cells, column)) !== 0 && value(cells, column) !== "";
    named.set(value(cells, "name"), { family: value(cells, "fontname").replace(/^@/, ""), bold: flag("bold"), italic: flag("italic") });
  }
  const held = new Set(
    section("Fonts").flatMap((line) => {
      const [, name] = /^fontname:(.+)\.\w+$/i.exec(line.trim()) ?? [];
      return (
        name
          ?.trim()
          .replace(/_[BI0-9]+$/i, "")
          .toLowerCase() ?? []
      );
    }),
  );
  const spoken = section("Events")
    .filter((line) => /^Dialogue:/i.test(line))
    .flatMap((line) => {
      const cells = line.replace(/^Dialogue:/i, "").split(",");
      const own = named.get(cells[3]?.trim() ?? "");
      const inLine = [...line.matchAll(/\\fn([^\\}]+)/g)].map((match) => ({ family: match[1]!.trim(), bold: false, italic: false }));
      return [...(own ? [own] : []), ...inLine];
    });
  return {
    kind: "subtitles",
    fonts: asFonts(
      spoken.filter((one) => one.family !== ""),
      held,
      "subtitles",
    ),
  };
}

function readZip(bytes: Uint8Array): Evidence {
  const files = unpack(bytes);
  const type = new TextDecoder().decode(files["mimetype"] ?? new Uint8Array()).trim();
  if (type.startsWith("application/vnd.oasis.opendocument")) {
    if (files["META-INF/manifest.xml"] && /encryption-data/.test(new TextDecoder().decode(files["META-INF/manifest.xml"])))
      throw new ProblemError("evidence-locked", "This document is locked with a password.", "Save it again without a password.");
    return { kind: "OpenDocument", fonts: readOpenDocument(files).fonts };
  }
  if (type === "application/epub+zip" || files["META-INF/container.xml"]) return readEpub(files);
  if (files["[Content_Types].xml"]) return { kind: "Office Open XML", fonts: readOfficeOpenXml(files).fonts };
  throw new ProblemError("evidence-unknown", "This archive is no document that can be read.", "Give a PDF, an SVG, or an office document.");
}

const UNREADABLE = { code: "evidence-damaged", message: "This file is damaged and cannot be read.", next: AGAIN };

/**
 * Reads which fonts a file's text is set in. Problems: those of PDF, "svg-outlines", "evidence-damaged", "evidence-locked",
 * "evidence-too-large", "evidence-no-fonts", "evidence-unknown".
 */
export async function readEvidence(fileName: string, bytes: Uint8Array): Promise<Result<Evidence>> {
  const head = latin(bytes);
  if (head.slice(0, 1024).includes("%PDF-")) {
    // Loaded when first wanted: reading PDF is a lot of code.
    const { readPdf } = await import("./pdf.ts");
    const read = await readPdf(bytes);
    return read.ok ? ok({ kind: "PDF", fonts: read.value.fonts }) : read;
  }
  // Office documents with a password are no zip but a compound file ([MS-CFB], its signature).
  if (head.startsWith("\xd0\xcf\x11\xe0"))
    return fail(
      "evidence-locked",
      "This document is locked with a password, or of an older kind.",
      "Save it as a newer document without a password.",
    );
  const read = attempt(() => {
    if (head.startsWith("PK")) return readZip(bytes);
    if (/<svg[\s>]/i.test(head)) return readSvg(bytes);
    if (/^\s*(\uFEFF|ï»¿)?\[Script Info\]/i.test(head)) return readSubtitles(new TextDecoder().decode(bytes));
    if (/<(!doctype html|html|head|body|p|div|span|style)[\s>]/i.test(head)) return readHtml(bytes);
    if (/\.css$/i.test(fileName)) return { kind: "CSS", fonts: styled([readSheet(new TextDecoder().decode(bytes))], [], inside, "CSS") };
    if (/\.pdf$/i.test(fileName))
      throw new ProblemError("not-a-pdf", "This file is not a PDF.", "Export a PDF from the program and give that.");
    throw new ProblemError(
      "evidence-unknown",
      "This is no kind of file that tells which font was used.",
      "Give a PDF, an SVG, a web page, an office document, an EPUB or a subtitle file.",
    );
  }, UNREADABLE);
  if (!read.ok) return read;
  if (read.value.fonts.length === 0) {
    return fail(
      "evidence-no-fonts",
      "This file sets no text in a font it names.",
      "Choose the font in the program, type something, and export again.",
    );
  }
  return read;
}
