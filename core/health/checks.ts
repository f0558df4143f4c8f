// Judges one face. Each check yields at most a few findings; none throws: a table that cannot be read is a finding.
import { tableChecksum } from "../sfnt/checksum.ts";
import { tableBytes } from "../sfnt/container.ts";
import type { Face } from "../sfnt/face.ts";
import { HEAD_MAGIC } from "../sfnt/head.ts";
import { NAME } from "../sfnt/name.ts";
import { ProblemError } from "../problem.ts";
import type { Finding, FindingLevel } from "./finding.ts";

const AGAIN = "Download it again; if it stays like this, ask whoever made it for a mended copy.";
const REFUSED = "Programs will refuse it or show boxes.";

function finding(code: string, level: FindingLevel, message: string, meaning: string, next: string, standard: string): Finding {
  return { code, level, message, meaning, next, standard: `OpenType specification, ${standard}` };
}

type Check = (face: Face) => Finding[];

const tablesInside: Check = (face) => {
  const found: Finding[] = [];
  for (const record of face.directory.tables) {
    const stored = record.packedLength ?? record.length;
    if (record.offset + stored <= face.file.bytes.length) continue;
    found.push(
      finding(
        "table-outside",
        "stop",
        `The "${record.tag.trim()}" table reaches past the end of the file: the file is cut off.`,
        REFUSED,
        AGAIN,
        "Table Directory",
      ),
    );
  }
  return found.slice(0, 3);
};

const requiredTables: Check = (face) => {
  const missing = ["head", "hhea", "maxp", "hmtx", "cmap", "name"].filter((tag) => !face.has(tag));
  const found = missing.map((tag) =>
    finding(
      "table-missing",
      "stop",
      `The "${tag}" table is missing.`,
      tag === "name" ? "It cannot be listed in any font menu." : REFUSED,
      AGAIN,
      "Required Tables",
    ),
  );
  if (face.outlines === "none") {
    found.push(finding("outlines-missing", "stop", "It holds no glyph outlines.", "Nothing can be drawn with it.", AGAIN, "Font Tables"));
  }
  if (!face.has("OS/2")) {
    found.push(
      finding(
        "os2-missing",
        "warn",
        "The OS/2 table is missing.",
        "Office programs may not list it, and bold may be faked.",
        "Look for a newer version.",
        "Required Tables",
      ),
    );
  }
  return found;
};

const headSane: Check = (face) => {
  const head = face.head;
  if (!head) return [];
  const found: Finding[] = [];
  if (head.magicNumber !== HEAD_MAGIC) {
    found.push(
      finding("head-magic", "stop", "The head table's mark is wrong: its bytes are damaged.", REFUSED, AGAIN, "head, magicNumber"),
    );
  }
  if (head.unitsPerEm < 16 || head.unitsPerEm > 16384) {
    found.push(
      finding(
        "units-per-em",
        "stop",
        `Its units per em are ${head.unitsPerEm}; 16 to 16384 are allowed.`,
        REFUSED,
        AGAIN,
        "head, unitsPerEm",
      ),
    );
  }
  return found;
};

const checksums: Check = (face) => {
  if (face.file.container !== "sfnt") return [];
  const wrong = face.directory.tables.filter((record) => {
    // head holds the whole file's adjustment inside itself and DSIG is signed after it, so neither sum is kept by all makers.
    if (record.tag === "head" || record.tag === "DSIG") return false;
    if (record.offset + record.length > face.file.bytes.length) return false;
    return tableChecksum(tableBytes(face.file, record)) !== record.checksum;
  });
  if (wrong.length === 0) return [];
  return [
    finding(
      "checksum",
      "warn",
      `The stored sums of ${wrong.map((record) => `"${record.tag.trim()}"`).join(", ")} do not match their bytes.`,
      "It may have been edited carelessly or damaged on the way; most programs do not check.",
      "Compare it with a fresh download.",
      "Calculating checksums",
    ),
  ];
};

const characters: Check = (face) => {
  const cmap = face.cmap;
  if (!cmap) return [];
  if (cmap.chosen) return [];
  return [
    finding(
      "cmap-unreadable",
      "stop",
      "Its table of characters has no part that programs read.",
      "No letter can be typed with it.",
      AGAIN,
      "cmap, Encoding records",
    ),
  ];
};

const named: Check = (face) => {
  const names = face.names;
  if (!names) return [];
  const found: Finding[] = [];
  if (!names.get(NAME.family) && !names.get(NAME.typographicFamily)) {
    found.push(
      finding(
        "name-family",
        "warn",
        "It gives itself no family name.",
        "Programs list it under its file name, or not at all.",
        "Ask for a named version.",
        "name, ID 1",
      ),
    );
  }
  const postScriptName = names.get(NAME.postScriptName);
  if (postScriptName !== undefined && !/^[!-~]{1,63}$/.test(postScriptName.replace(/[[\](){}<>/%]/g, " "))) {
    found.push(
      finding(
        "name-postscript",
        "warn",
        `Its PostScript name “${postScriptName}” holds characters that are not allowed there.`,
        "Exports and cutting programs may lose the font.",
        "Look for a newer version.",
        "name, ID 6",
      ),
    );
  }
  return found;
};

/** Every check, in the order findings are shown. */
const checks: readonly Check[] = [tablesInside, requiredTables, headSane, characters, named, checksums];

/** Runs all checks on a face; a check that cannot read its table reports that instead. */
export function examine(face: Face): Finding[] {
  const found: Finding[] = [];
  for (const check of checks) {
    try {
      found.push(...check(face));
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      const { code, message, next } = error.problem;
      if (!found.some((one) => one.code === "table-outside" || one.message === message)) {
        found.push(finding(code, "stop", message, REFUSED, next, "Organization of an OpenType Font"));
      }
    }
  }
  return found;
}
