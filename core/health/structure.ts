// Checks of the container and of tables that must agree with one another. What fails here, programs refuse.
import { listWords } from "../words/words.ts";
import { tableChecksum } from "../sfnt/checksum.ts";
import { HEAD_MAGIC } from "../sfnt/head.ts";
import { finding, type Check } from "./check.ts";
import { overlap, placesOf } from "./spans.ts";
import { browserRefusal } from "./strict/strict.ts";

const tablesInside: Check = (face) => {
  const outside = face.directory.tables.filter((record) => record.offset + (record.packedLength ?? record.length) > face.file.bytes.length);
  return outside
    .slice(0, 3)
    .map((record) => finding("table-outside", `The "${record.tag.trim()}" table reaches past the end of the file: the file is cut off.`));
};

const directory: Check = (face) => {
  const found = [];
  const tags = face.directory.tables.map((record) => record.tag);
  if (new Set(tags).size < tags.length) {
    found.push(finding("table-twice", "A table is listed twice."));
  }
  const strange = tags.find((tag) => !/^[\x20-\x7e]{4}$/.test(tag));
  if (strange !== undefined) {
    found.push(finding("table-tag", "A table's name holds bytes that no name may hold."));
  }
  // WOFF2 rebuilds its tables.
  if (face.file.container === "woff2") return found;
  if (face.file.container === "sfnt" && face.directory.tables.some((record) => record.offset % 4 !== 0)) {
    found.push(finding("table-alignment", "A table does not start at a multiple of four bytes."));
  }
  if (overlap(placesOf(face))) found.push(finding("table-overlap", "Two tables overlap."));
  return found;
};

const requiredTables: Check = (face) => {
  const missing = ["head", "hhea", "maxp", "hmtx", "cmap", "name"].filter((tag) => !face.has(tag));
  const found = missing.map((tag) => finding(tag === "name" ? "names-missing" : "table-missing", `The "${tag}" table is missing.`));
  if (face.outlines === "none") {
    found.push(finding("outlines-missing", "It holds no glyph outlines."));
  }
  if (face.outlines === "bitmap") {
    found.push(finding("outlines-bitmap", "It holds pictures of letters and no outlines."));
  }
  for (const tag of ["OS/2", "post"]) {
    if (face.has(tag)) continue;
    found.push(finding(tag === "post" ? "post-missing" : "os2-missing", `The ${tag} table is missing.`));
  }
  return found;
};

const headSane: Check = (face) => {
  const head = face.head;
  if (!head) return [];
  const found = [];
  if (head.magicNumber !== HEAD_MAGIC) {
    found.push(finding("head-magic", "The head table's mark is wrong: its bytes are damaged."));
  }
  if (head.unitsPerEm < 16 || head.unitsPerEm > 16384) {
    found.push(finding("units-per-em", `Its units per em are ${head.unitsPerEm}; 16 to 16384 are allowed.`));
  }
  if (face.outlines === "TrueType" && head.indexToLocFormat !== 0 && head.indexToLocFormat !== 1) {
    found.push(finding("loca-format", "It does not say where its glyphs lie."));
  }
  return found;
};

const glyphCounts: Check = (face) => {
  const glyphs = face.maxp?.numGlyphs;
  if (glyphs === undefined) return [];
  const found = [];
  if (glyphs === 0) found.push(finding("glyph-count", "It says that it holds no glyphs."));
  const metrics = face.hhea?.numberOfHMetrics ?? 0;
  const hmtxBytes = face.record("hmtx")?.length ?? 0;
  if (face.has("hmtx") && (metrics === 0 || metrics > glyphs || hmtxBytes < 4 * metrics + 2 * (glyphs - metrics))) {
    found.push(finding("metrics-count", "Its table of widths does not fit its number of glyphs."));
  }
  const drawn = face.outlines === "CFF" ? face.cff?.charStrings.count : undefined;
  if (drawn !== undefined && drawn !== glyphs) {
    found.push(finding("glyph-mismatch", `It says ${glyphs} glyphs and draws ${drawn}.`));
  }
  return found;
};

/** loca: one offset a glyph and one more, ascending, inside glyf. */
const locations: Check = (face) => {
  const glyphs = face.maxp?.numGlyphs;
  if (face.outlines !== "TrueType" || glyphs === undefined) return [];
  const glyfBytes = face.record("glyf")?.length ?? 0;
  const broken = (message: string) => [finding("loca", message)];
  const loca = face.loca;
  if (!loca) return broken("The table that says where glyphs lie is missing.");
  if (loca.glyphs < glyphs) return broken("The table that says where glyphs lie is too short.");
  let before = 0;
  for (let glyph = 0; glyph <= glyphs; glyph++) {
    const at = glyph < glyphs ? loca.start(glyph) : loca.end(glyphs - 1);
    if (at < before || at > glyfBytes) return broken("Glyphs lie outside their table or over one another.");
    before = at;
  }
  return [];
};

const checksums: Check = (face) => {
  // WOFF2 rebuilds tables, so the sums stored in it are its unpacker's.
  if (face.file.container === "woff2" || face.file.container === "collection") return [];
  // Where tables overlap nothing said of their bytes means anything, and summing each could take for ever.
  if (overlap(placesOf(face))) return [];
  const wrong = face.directory.tables.filter((record) => {
    // DSIG is written after everything else, so not all makers keep its sum.
    if (record.tag === "DSIG") return false;
    if (record.offset + (record.packedLength ?? record.length) > face.file.bytes.length) return false;
    const sum = tableChecksum(face.bytesOf(record));
    // head's sum is taken while the whole file's adjustment, which it holds, is still zero.
    const adjustment = record.tag === "head" ? (face.head?.checksumAdjustment ?? 0) : 0;
    return (sum - adjustment) >>> 0 !== record.checksum;
  });
  if (wrong.length === 0) return [];
  return [
    finding("checksum", `The stored sums of ${listWords(wrong.map((record) => `"${record.tag.trim()}"`))} do not match their bytes.`),
  ];
};

/** What browsers refuse, other programs may take. */
const browsers: Check = (face) => {
  const refusal = browserRefusal(face);
  if (!refusal) return [];
  const where = refusal.table === "" ? "" : `in its "${refusal.table.trim()}" table `;
  return [finding("browser-refused", `Browsers refuse it: ${where}${refusal.reason}.`)];
};

export const structureChecks: readonly Check[] = [
  tablesInside,
  directory,
  requiredTables,
  headSane,
  glyphCounts,
  locations,
  checksums,
  browsers,
];
