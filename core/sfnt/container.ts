// The file around the tables: a single font, a collection, or a font packed for web pages
// (OpenType specification, "Organization of an OpenType Font"; W3C WOFF 1.0; W3C WOFF 2.0).
import { inflateSync } from "node:zlib";
import { ProblemError } from "../problem.ts";
import { sizeWords } from "../words/words.ts";
import { ReadingBudget, shortBytes, View } from "./view.ts";

export type Container = "sfnt" | "collection" | "woff" | "woff2";

export interface TableRecord {
  tag: string;
  checksum: number;
  /** From the file's start; for WOFF, of the packed bytes. */
  offset: number;
  /** Unpacked length. */
  length: number;
  /** Packed length, when the table is compressed on its own. */
  packedLength?: number;
}

export interface FaceDirectory {
  /** First four bytes of the font: 0x00010000, "OTTO", "true", "typ1". */
  flavour: string;
  tables: TableRecord[];
}

export interface FontFile {
  container: Container;
  bytes: Uint8Array;
  faces: FaceDirectory[];
  /** What reading all its faces may take together. */
  budget: ReadingBudget;
}

/** Undoes the packing of WOFF 2.0; handed in because it is asynchronous to load and costs memory. */
export type Woff2Unpacker = (bytes: Uint8Array) => Uint8Array;

const SFNT_FLAVOURS = new Set(["\0\x01\0\0", "OTTO", "true", "typ1"]);
/** No real collection comes near this; a count above it is damage. */
const MOST_FACES = 1024;
/** No real font has a tenth of it. */
const MOST_TABLES = 1024;
/** What the tables of a web font may unpack to in all; the largest fonts of whole East Asian scripts take a third of it. */
const MOST_UNPACKED_BYTES = 96 * 1024 * 1024;

const tooMuchUnpacked = (): ProblemError =>
  new ProblemError(
    "font-unpacked-limit",
    `This web font unpacks to more than ${sizeWords(MOST_UNPACKED_BYTES)} (limit “Unpacked font”).`,
    "Leave it out, or look for the same font as .ttf or .otf.",
  );

function notAFont(found: string): ProblemError {
  return new ProblemError(
    "not-a-font",
    `This is not a font file: ${found}.`,
    "Look for a file that ends in .ttf or .otf, or for the archive it came in.",
  );
}

/** Other font formats that are met in downloads, told apart by their first bytes. */
function explainOther(view: View): ProblemError {
  const head = new TextDecoder("latin1").decode(view.bytes(0, Math.min(view.length, 512)));
  const old = (kind: string) =>
    new ProblemError(
      "font-format-old",
      `This is ${kind}, which today's programs no longer take.`,
      "Ask whoever made it for the same font as .ttf or .otf.",
    );
  if (/^%!(PS-\w+Font-|FontType1)/.test(head) || head.startsWith("\x80\x01")) return old("a Type 1 font (.pfb)");
  if (head.startsWith("StartFontMetrics")) return old("the measurements of a Type 1 font (.afm), not a font,");
  // Printer Font Metrics: version 0x0100, then the file's own size, both little-endian (from memory).
  if (view.data.byteLength > 117 && view.data.getUint16(0, true) === 0x100 && view.data.getUint32(2, true) === view.length)
    return old("the measurements of a Type 1 font (.pfm), not a font,");
  if (head.charCodeAt(34) === 0x4c && head.charCodeAt(35) === 0x50 && view.length > 80)
    return old("a font for web pages of an old kind (.eot)");
  if (/<svg[\s>]/i.test(head) || (/^\s*<\?xml/.test(head) && /svg/i.test(head))) return old("an SVG font or drawing");
  if (view.length > 256 && view.u32(0) === 0x100) return old("a font in a resource fork (.dfont)");
  return notAFont("its first bytes are those of no font format");
}

/**
 * Reads the directory of a font file; table contents are left alone.
 * Throws a `ProblemError` ("not-a-font", "font-format-old", "font-truncated", "font-directory").
 */
export function openContainer(bytes: Uint8Array, unpackWoff2?: Woff2Unpacker): FontFile {
  if (bytes.length === 0) throw notAFont("it is empty");
  const view = new View(bytes, "table directory");
  if (view.length < 12) throw notAFont(`it holds only ${view.length} bytes`);
  const tag = view.tag(0);
  const { budget } = view;
  if (SFNT_FLAVOURS.has(tag)) return { container: "sfnt", bytes, faces: [readDirectory(view, 0)], budget };
  if (tag === "ttcf") return { container: "collection", bytes, faces: readCollection(view), budget };
  if (tag === "wOFF") return { container: "woff", bytes, faces: [readWoff(view)], budget };
  if (tag === "wOF2") {
    // What the file says of itself; the unpacker holds to it (WOFF 2.0, section 4, "totalSfntSize").
    if (view.length >= 20 && view.u32(16) > MOST_UNPACKED_BYTES) throw tooMuchUnpacked();
    if (!unpackWoff2)
      throw new ProblemError("woff2-unpacker", "This font is packed for web pages and cannot be unpacked here.", "Report this as a fault.");
    let unpacked: Uint8Array;
    try {
      unpacked = unpackWoff2(bytes);
    } catch {
      throw new ProblemError("woff2-damaged", "This web font cannot be unpacked: its packed data is damaged.", "Download it again.");
    }
    return { ...openContainer(unpacked), container: "woff2" };
  }
  throw explainOther(view);
}

function readDirectory(view: View, at: number): FaceDirectory {
  const flavour = view.tag(at);
  const numTables = view.u16(at + 4);
  if (numTables === 0) throw new ProblemError("font-directory", "The font lists no tables at all.", "Download it again.");
  if (numTables > MOST_TABLES) throw tooManyTables(numTables);
  const tables: TableRecord[] = [];
  for (let i = 0; i < numTables; i++) {
    const record = at + 12 + 16 * i;
    tables.push({ tag: view.tag(record), checksum: view.u32(record + 4), offset: view.u32(record + 8), length: view.u32(record + 12) });
  }
  return { flavour, tables };
}

const tooManyTables = (tables: number): ProblemError =>
  new ProblemError(
    "font-directory",
    `The font says it holds ${tables} tables; no font has more than ${MOST_TABLES} (limit “Tables”).`,
    "Leave it out, or download it again.",
  );

/** "Font Collections": TTC header, then one directory a face; faces share tables. */
function readCollection(view: View): FaceDirectory[] {
  const numFonts = view.u32(8);
  if (numFonts === 0 || numFonts > MOST_FACES) {
    throw new ProblemError("font-directory", `The collection says it holds ${numFonts} fonts.`, "Download it again.");
  }
  return Array.from({ length: numFonts }, (_, i) => readDirectory(view, view.u32(12 + 4 * i)));
}

/** WOFF 1.0, section 3 "WOFF Header" and section 4 "Table Directory". */
function readWoff(view: View): FaceDirectory {
  const numTables = view.u16(12);
  const flavour = view.tag(4);
  const tables: TableRecord[] = [];
  // Readers must refuse a wrong length and a reserved field that is not zero (section 3).
  if (!SFNT_FLAVOURS.has(flavour) || view.u32(8) !== view.length || view.u16(14) !== 0 || numTables === 0) {
    throw new ProblemError("woff-damaged", "The head of this web font is damaged, or the file is cut off.", "Download it again.");
  }
  if (numTables > MOST_TABLES) throw tooManyTables(numTables);
  let unpacked = 0;
  for (let i = 0; i < numTables; i++) {
    const at = 44 + 20 * i;
    tables.push({
      tag: view.tag(at),
      offset: view.u32(at + 4),
      packedLength: view.u32(at + 8),
      length: view.u32(at + 12),
      checksum: view.u32(at + 16),
    });
    if ((unpacked += view.u32(at + 12)) > MOST_UNPACKED_BYTES) throw tooMuchUnpacked();
  }
  return { flavour, tables };
}

/** The bytes of one table, a view on the file where it is stored plainly. Throws when they lie outside the file. */
export function tableBytes(file: FontFile, table: TableRecord): Uint8Array {
  const stored = table.packedLength ?? table.length;
  if (table.offset + stored > file.bytes.length) throw shortBytes(`"${table.tag}" table`);
  const bytes = file.bytes.subarray(table.offset, table.offset + stored);
  if (table.packedLength === undefined || table.packedLength === table.length) return bytes;
  const damaged = new ProblemError("woff-damaged", `The "${table.tag}" table of this web font cannot be unpacked.`, "Download it again.");
  try {
    const unpacked = inflateSync(bytes, { maxOutputLength: table.length });
    if (unpacked.length === table.length) return unpacked;
  } catch {
    // Told below in words.
  }
  throw damaged;
}
