// Whether browsers, and programs built on them, take a font. They hand it to a sanitizer first, which refuses the whole font over one
// table that does not fit; other programs pass over many such faults. The depth is that of the sanitizer browsers ship, as its Debian
// package opentype-sanitizer has it: tests/reference/browsers.test.ts asks it about the same bytes.
import { attempt } from "../../problem.ts";
import type { Face } from "../../sfnt/face.ts";
import { overlap, placesOf } from "../spans.ts";
import * as basics from "./basics.ts";
import { checkCff, checkCff2 } from "./cff.ts";
import { checkCharacters } from "./cmap.ts";
import { checkDefinitions } from "./gdef.ts";
import { checkGlyphs, checkLocations } from "./glyphs.ts";
import { checkPositions } from "./gpos.ts";
import { checkSubstitutions } from "./gsub.ts";
import { Layout } from "./layout.ts";
import { Refusal, Strict } from "./reader.ts";
import { checkVariations } from "./variations.ts";

/** Why browsers refuse a font. `table` is empty when it is no single table's fault. */
export interface BrowserRefusal {
  table: string;
  /** The end of a sentence: "a lookup points to the wrong place". */
  reason: string;
}

const REQUIRED = ["maxp", "head", "OS/2", "cmap", "hhea", "hmtx", "name", "post"];
/** What browsers unpack at most of a web font (the sanitizer's own bound). */
const MOST_UNPACKED = 300 * 1024 * 1024;

/** The directory: WOFF is held to more (WOFF 1.0, sections 3 to 6), and unpacked WOFF2 is a plain font. */
function checkDirectory(face: Face): BrowserRefusal | undefined {
  const { tables, flavour } = face.directory;
  const { bytes, container } = face.file;
  const no = (reason: string, table = ""): BrowserRefusal => ({ table, reason });
  if (!["\0\x01\0\0", "OTTO", "true"].includes(flavour)) return no("its first bytes are unknown to them");
  if (tables.length >= 4096) return no("it lists too many tables");
  let unpacked = 0;
  for (const { tag, offset, length, packedLength = length } of tables) {
    if (offset % 4 !== 0) return no("it does not begin at a multiple of four bytes", tag);
    if (offset >= bytes.length || packedLength < 1 || length < packedLength) return no("it has an impossible place or length", tag);
    const end = offset + packedLength;
    if ((container === "woff" ? (end + 3) & ~3 : end) > bytes.length) return no("it reaches past the end of the file", tag);
    unpacked += length;
  }
  if (unpacked > MOST_UNPACKED) return no("it unpacks to too much");
  return overlap(placesOf(face)) ? no("two of its tables overlap") : undefined;
}

/** Why browsers refuse a face; undefined when they take it. Throws the budget's `ProblemError` on a font that causes endless work. */
export function browserRefusal(face: Face): BrowserRefusal | undefined {
  const wrong = checkDirectory(face);
  if (wrong) return wrong;
  const { budget } = face.file;
  const kept = new Map<string, Strict | undefined>();
  /** The last one listed of that name, as browsers take it. */
  const table = (tag: string): Strict | undefined => {
    if (!kept.has(tag)) {
      const record = face.directory.tables.findLast((one) => one.tag === tag);
      const read = record && attempt(() => face.bytesOf(record), { code: "", message: "", next: "" });
      if (read && !read.ok) throw new Refusal("it cannot be unpacked");
      kept.set(tag, read && new Strict(read.value, budget));
    }
    return kept.get(tag);
  };
  let at = "";
  /** Runs a check on a table that is there. */
  const on = <T>(tag: string, check: (t: Strict) => T): T | undefined => {
    at = tag;
    const t = table(tag);
    return t && check(t);
  };
  try {
    for (const tag of REQUIRED) {
      at = tag;
      if (!table(tag)) throw new Refusal("it is missing");
    }
    const glyphs = on("maxp", basics.checkProfile)!;
    const { longOffsets, fixedWidths } = on("head", basics.checkHead)!;
    on("OS/2", basics.checkOs2);
    on("cmap", (t) => checkCharacters(t, glyphs));
    const widths = on("hhea", (t) => basics.checkMetricsHead(t, glyphs, false))!;
    on("hmtx", (t) => basics.checkMetrics(t, widths, glyphs));
    on("name", basics.checkNames);
    on("post", (t) => basics.checkPost(t, glyphs));
    const places = on("loca", (t) => checkLocations(t, glyphs, longOffsets));
    on("glyf", (t) => (places ? checkGlyphs(t, places) : t.fail("the table that says where glyphs lie is missing")));
    on("CFF ", (t) => checkCff(t, glyphs));
    on("VDMX", basics.checkVerticalDeviceMetrics);
    on("hdmx", (t) => basics.checkHorizontalDeviceMetrics(t, glyphs, fixedWidths));
    on("gasp", basics.checkGasp);
    for (const tag of ["cvt ", "fpgm", "prep"]) on(tag, (t) => basics.checkProgram(t, tag));
    on("LTSH", (t) => basics.checkThresholds(t, glyphs));
    on("VORG", basics.checkVerticalOrigins);
    on("kern", basics.checkKern);
    at = "fvar";
    const axes = checkVariations(table, glyphs);
    on("CFF2", (t) => checkCff2(t, glyphs, axes));
    const markSets = on("GDEF", (t) => checkDefinitions(new Layout(t, glyphs, { axes })));
    on("GPOS", (t) => checkPositions(new Layout(t, glyphs, { axes, markSets })));
    on("GSUB", (t) => checkSubstitutions(new Layout(t, glyphs, { axes, markSets })));
    const heights = on("vhea", (t) => basics.checkMetricsHead(t, glyphs, true));
    on("vmtx", (t) => (heights === undefined ? t.fail("what it depends on is missing") : basics.checkMetrics(t, heights, glyphs)));
    on("MATH", basics.checkMath);
    at = "";
    const drawn = (table("glyf") && table("loca")) ?? table("CFF ") ?? table("CFF2") ?? (table("CBDT") && table("CBLC"));
    if (!drawn) throw new Refusal("it holds nothing that they draw");
    return undefined;
  } catch (error) {
    if (error instanceof Refusal) return { table: at, reason: error.message };
    throw error;
  }
}
