// Evidence of any kind a program writes: told apart by its bytes, read for what it draws or asks for.
import { SmallZipFault, unpackSmallZip } from "../archive/small-zip.ts";
import { attempt, fail, ok, ProblemError, type Result } from "../problem.ts";
import { readOdf } from "./asked/odf.ts";
import { readOoxml } from "./asked/ooxml.ts";
import { readCss, readEpub, readHtml, readSvg } from "./asked/pages.ts";
import { readSubtitles } from "./asked/subtitles.ts";
import { GENERIC, type AskedDocument } from "./asked/text.ts";
import type { PdfDrawing, PdfFont } from "./drawing/document.ts";
import type { WantedFont } from "./drawing/programs.ts";
import { judgeAsked } from "./judge-asked.ts";
import { settingName, type MeantStyle } from "./meant.ts";
import { judgePdf } from "./judge-pdf.ts";
import { plainly } from "./names.ts";
import type { Origin } from "./origin.ts";
import type { Verdict } from "./verdict.ts";

/** A PDF shows what was drawn; every other document what is asked for. */
export type Evidence = {
  /** What kind of file it is, in words. */
  kind: string;
  /** Fonts its letters are set in, hidden ones too. */
  fonts: PdfFont[];
  origin: Origin;
} & ({ drawn: PdfDrawing; asked?: undefined } | { asked: AskedDocument; drawn?: undefined });

const MOST_UNPACKED_BYTES = 64 * 1024 * 1024;
const MOST_ENTRIES = 5000;
const AGAIN = "Export it again from the program.";

const latin = (bytes: Uint8Array): string => new TextDecoder("latin1").decode(bytes.subarray(0, 4096));

function unpack(bytes: Uint8Array): Readonly<Record<string, Uint8Array>> {
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

function readZip(bytes: Uint8Array): AskedDocument {
  const files = unpack(bytes);
  const type = new TextDecoder().decode(files["mimetype"] ?? new Uint8Array()).trim();
  if (type.startsWith("application/vnd.oasis.opendocument")) {
    if (files["META-INF/manifest.xml"] && /encryption-data/.test(new TextDecoder().decode(files["META-INF/manifest.xml"])))
      throw new ProblemError("evidence-locked", "This document is locked with a password.", "Save it again without a password.");
    return readOdf(files);
  }
  if (type === "application/epub+zip" || files["META-INF/container.xml"]) return readEpub(files);
  if (files["[Content_Types].xml"]) return readOoxml(files);
  throw new ProblemError("evidence-unknown", "This archive is no document that can be read.", "Give a PDF, an SVG, or an office document.");
}

/** Each font asked for once; its name with the style that is asked of it. */
function askedFonts({ texts, held, kind }: AskedDocument): PdfFont[] {
  const found = new Map<string, PdfFont>();
  for (const text of texts) {
    const family = text.families.find((one) => !GENERIC.test(one));
    if (family === undefined) continue;
    const name = settingName(family, text);
    const embedded = held.some((one) => plainly(one.family) === plainly(family) && one.bytes !== null && one.bytes.length > 0);
    found.set(name, { name, embedded, subset: false, type: kind });
  }
  return [...found.values()];
}

const UNREADABLE = { code: "evidence-damaged", message: "This file is damaged and cannot be read.", next: AGAIN };

/**
 * Reads what a file draws or asks for. Problems: those of PDF, "svg-outlines", "evidence-damaged", "evidence-locked", "evidence-too-large",
 * "evidence-unknown".
 */
export async function readEvidence(fileName: string, bytes: Uint8Array): Promise<Result<Evidence>> {
  const head = latin(bytes);
  if (head.slice(0, 1024).includes("%PDF-")) {
    // Loaded when first wanted: reading PDF is a lot of code.
    const { drawPdf } = await import("./drawing/document.ts");
    const drawn = await drawPdf(bytes);
    return drawn.ok ? ok({ kind: "PDF", fonts: drawnFonts(drawn.value), origin: drawn.value.origin, drawn: drawn.value }) : drawn;
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
    if (/<svg[\s>]/i.test(head) && !/<html[\s>]/i.test(head)) return readSvg(bytes);
    if (/^\s*(\uFEFF|ï»¿)?\[Script Info\]/i.test(head)) return readSubtitles(new TextDecoder().decode(bytes));
    if (/<(!doctype html|html|head|body|p|div|span|style)[\s>]/i.test(head)) return readHtml(bytes);
    if (/\.css$/i.test(fileName)) return readCss(bytes);
    if (/\.pdf$/i.test(fileName))
      throw new ProblemError("not-a-pdf", "This file is not a PDF.", "Export a PDF from the program and give that.");
    throw new ProblemError(
      "evidence-unknown",
      "This is no kind of file that tells which font was used.",
      "Give a PDF, an SVG, a web page, an office document, an EPUB or a subtitle file.",
    );
  }, UNREADABLE);
  if (!read.ok) return read;
  const asked = read.value;
  return ok({ kind: asked.kind, fonts: askedFonts(asked), origin: asked.origin, asked });
}

/** Fonts with letters on the pages; several keys of one font are one. */
function drawnFonts({ fonts, letters }: PdfDrawing): PdfFont[] {
  const used = new Set(letters.filter(({ why }) => why !== "blank").map(({ font }) => font));
  const found = new Map<string, PdfFont>();
  for (const { key, name, embedded, subset, type } of fonts) {
    const id = `${name}|${type}|${embedded}`;
    if (used.has(key)) found.set(id, { name, embedded, subset: subset || (found.get(id)?.subset ?? false), type });
  }
  return [...found.values()];
}

/** What evidence says of one style; `words` are known to be set in it, or empty. */
export async function judgeEvidence(evidence: Evidence, style: MeantStyle, wanted: WantedFont, words = ""): Promise<Verdict> {
  if (evidence.drawn) return judgePdf(evidence.drawn, style, wanted, words);
  return judgeAsked(evidence.asked, style, wanted, words);
}
