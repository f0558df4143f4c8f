// Which fonts a PDF holds (ISO 32000-1, 9.6 "Simple fonts" to 9.9 "Embedded font programs"). The file is parsed by
// pdf-lib; walking pages to their fonts is done here.
import { PDFArray, PDFDict, PDFDocument, PDFName, PDFRawStream, PDFStream, type PDFObject } from "pdf-lib";
import { fail, ok, type Result } from "../problem.ts";

export interface PdfFont {
  /** BaseFont without its subset tag. */
  name: string;
  embedded: boolean;
  subset: boolean;
  /** "TrueType", "CFF", "Type 1", "Type 3" or what the PDF says. */
  type: string;
}

export interface PdfEvidence {
  pages: number;
  fonts: PdfFont[];
}

const SUBSET_TAG = /^[A-Z]{6}\+/;
const name = (dict: PDFDict, key: string): string | undefined => dict.lookupMaybe(PDFName.of(key), PDFName)?.decodeText();
const dictOf = (object: PDFObject | undefined): PDFDict | undefined =>
  object instanceof PDFDict ? object : object instanceof PDFStream ? object.dict : undefined;

/** The descriptor holds the embedded font program under one of three keys (ISO 32000-1, table 122). */
function program(descriptor: PDFDict | undefined): "TrueType" | "CFF" | "Type 1" | undefined {
  if (!descriptor) return undefined;
  if (descriptor.has(PDFName.of("FontFile2"))) return "TrueType";
  if (descriptor.has(PDFName.of("FontFile"))) return "Type 1";
  return descriptor.has(PDFName.of("FontFile3")) ? "CFF" : undefined;
}

/**
 * Type 3 fonts draw each glyph in the PDF itself; browsers write CFF outlines that way. They need no BaseFont, but a
 * tagged PDF's descriptor names the font they were made from (9.8.1, table 122).
 */
function readFont(font: PDFDict): PdfFont {
  const subtype = name(font, "Subtype") ?? "unknown";
  const descendant = dictOf(font.lookupMaybe(PDFName.of("DescendantFonts"), PDFArray)?.lookup(0));
  const holder = descendant ?? font;
  const descriptor = dictOf(holder.lookup(PDFName.of("FontDescriptor")));
  const embeddedAs = program(descriptor);
  const baseFont =
    name(font, "BaseFont") ?? name(holder, "BaseFont") ?? (descriptor && name(descriptor, "FontName")) ?? name(font, "Name") ?? "";
  const type = subtype === "Type3" ? "Type 3" : (embeddedAs ?? (subtype === "Type1" ? "Type 1" : subtype));
  return {
    name: baseFont.replace(SUBSET_TAG, ""),
    embedded: embeddedAs !== undefined || subtype === "Type3",
    subset: SUBSET_TAG.test(baseFont),
    type,
  };
}

/** Collects the fonts of a resource dictionary and of the forms and patterns it draws. */
function collect(resources: PDFDict | undefined, seen: Set<PDFObject>, found: Map<string, PdfFont>): void {
  if (!resources || seen.has(resources)) return;
  seen.add(resources);
  const fonts = dictOf(resources.lookup(PDFName.of("Font")));
  for (const key of fonts?.keys() ?? []) {
    const font = dictOf(fonts!.lookup(key));
    if (!font || seen.has(font)) continue;
    seen.add(font);
    const read = readFont(font);
    const id = `${read.name}|${read.type}|${read.embedded}`;
    const before = found.get(id);
    found.set(id, before ? { ...read, subset: before.subset || read.subset } : read);
    collect(dictOf(font.lookup(PDFName.of("Resources"))), seen, found);
  }
  for (const group of ["XObject", "Pattern"]) {
    const drawn = dictOf(resources.lookup(PDFName.of(group)));
    for (const key of drawn?.keys() ?? []) {
      const object = drawn!.lookup(key);
      if (object instanceof PDFRawStream || object instanceof PDFStream)
        collect(dictOf(object.dict.lookup(PDFName.of("Resources"))), seen, found);
    }
  }
}

/** Resources are inherited from the page tree (ISO 32000-1, 7.7.3.4). */
function pageResources(page: PDFDict): PDFDict | undefined {
  const visited = new Set<PDFDict>();
  for (let node: PDFDict | undefined = page; node && !visited.has(node); node = dictOf(node.lookup(PDFName.of("Parent")))) {
    visited.add(node);
    const resources = dictOf(node.lookup(PDFName.of("Resources")));
    if (resources) return resources;
  }
  return undefined;
}

/**
 * Reads which fonts a PDF's pages use. Problems: "not-a-pdf", "pdf-locked", "pdf-damaged", "pdf-no-fonts" (its text is
 * outlines or a picture).
 */
export async function readPdf(bytes: Uint8Array): Promise<Result<PdfEvidence>> {
  const head = new TextDecoder("latin1").decode(bytes.subarray(0, 1024));
  if (!head.includes("%PDF-")) return fail("not-a-pdf", "This file is not a PDF.", "Export a PDF from the program and give that.");
  let document: PDFDocument;
  try {
    document = await PDFDocument.load(bytes, { ignoreEncryption: true, updateMetadata: false, throwOnInvalidObject: false });
  } catch {
    return fail("pdf-damaged", "This PDF is damaged and cannot be read.", "Export it again from the program.");
  }
  if (document.isEncrypted) return fail("pdf-locked", "This PDF is locked with a password.", "Export it again without a password.");
  const found = new Map<string, PdfFont>();
  const seen = new Set<PDFObject>();
  let pages: number;
  try {
    const all = document.getPages();
    pages = all.length;
    for (const page of all) collect(pageResources(page.node), seen, found);
  } catch {
    return fail("pdf-damaged", "This PDF is damaged and cannot be read.", "Export it again from the program.");
  }
  if (found.size === 0) {
    return fail(
      "pdf-no-fonts",
      "This PDF names no font: its text was turned into outlines or is a picture.",
      "Export it again with text kept as text, so that it can be told which font was used.",
    );
  }
  return ok({ pages, fonts: [...found.values()] });
}
