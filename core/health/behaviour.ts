// Checks of what a face will do in programs: how it is listed, whether bold is faked, whether lines are clipped.
import { listWords } from "../words/words.ts";
import { readEmbedding } from "../clearance/embedding.ts";
import { hasLatin } from "../coverage/text.ts";
import { faceNames } from "../family/names.ts";
import { parseStyleWords } from "../family/style-words.ts";
import { weightClass } from "../family/traits.ts";
import { attempt } from "../problem.ts";
import { NAME } from "../sfnt/name.ts";
import { FS_SELECTION } from "../sfnt/os2.ts";
import { finding, type Check } from "./check.ts";

const characters: Check = (face) => {
  const cmap = face.cmap;
  if (!cmap) return [];
  if (!cmap.chosen) {
    return [finding("cmap-unreadable", "Its table of characters has no part that programs read.")];
  }
  const found = [];
  const glyphs = face.maxp?.numGlyphs ?? 0;
  let wild = 0;
  cmap.each((_, glyph) => {
    if (glyph >= glyphs) wild++;
  });
  if (wild > 0) {
    found.push(finding("cmap-wild", `${wild} of its characters point at glyphs it does not have.`));
  }
  if (cmap.chosen.platform === 1) {
    found.push(finding("cmap-old", "Its characters are listed in an old Mac way only."));
  }
  const ranges = face.characterRanges();
  if (ranges.length === 0) return [...found, finding("characters-none", "It has no characters.")];
  const lacks = (text: string) => [...text].filter((character) => cmap.glyph(character.codePointAt(0)!) === 0);
  if (!cmap.symbol && lacks(" ").length > 0) {
    found.push(finding("space-missing", "It has no space."));
  }
  if (hasLatin(ranges)) {
    const missing = lacks("abcdefghijklmnopqrstuvwxyz").length > 0 ? "small letters" : lacks("0123456789").length > 0 ? "figures" : "";
    if (missing) {
      found.push(finding("basic-missing", `Some ${missing} are missing.`));
    }
  }
  return found;
};

const named: Check = (face) => {
  const names = face.names;
  if (!names) return [];
  const found = [];
  if (!names.get(NAME.family) && !names.get(NAME.typographicFamily)) {
    found.push(finding("name-family", "It gives itself no family name."));
  }
  const postScriptName = names.get(NAME.postScriptName);
  if (postScriptName === undefined) {
    found.push(finding("name-postscript-missing", "It has no PostScript name."));
  } else if (!/^[!-~]{1,63}$/.test(postScriptName) || /[[\](){}<>/%]/.test(postScriptName)) {
    found.push(finding("name-postscript", `Its PostScript name “${postScriptName}” holds characters that are not allowed there.`));
  }
  if (names.outside > 0) {
    found.push(finding("name-outside", "Some of its names lie outside their table."));
  }
  const { legacyFamily, legacyStyle } = faceNames(face, "");
  // Common practice, no source: old office programs cut names off after 31 characters.
  if (legacyFamily.length > 31 || legacyStyle.length > 31) {
    found.push(finding("name-long", "Its four-style name is longer than 31 characters."));
  }
  return found;
};

const styleFlags: Check = (face) => {
  const os2 = face.os2;
  if (!os2) return [];
  const found = [];
  const { italic, bold, regular } = FS_SELECTION;
  const selection = os2.fsSelection;
  if ((selection & regular) !== 0 && (selection & (italic | bold)) !== 0) {
    found.push(finding("style-flags", "It is marked regular and, at once, bold or italic."));
  }
  const mac = face.head?.macStyle ?? 0;
  if (((selection & bold) !== 0) !== ((mac & 1) !== 0) || ((selection & italic) !== 0) !== ((mac & 2) !== 0)) {
    found.push(finding("style-flags-differ", "Two of its tables disagree on whether it is bold or italic."));
  }
  if (os2.usWeightClass < 1 || os2.usWeightClass > 1000) {
    found.push(finding("weight-range", `Its weight is ${os2.usWeightClass}; 1 to 1000 are allowed.`));
  } else {
    const said = parseStyleWords(faceNames(face, "").style).weight;
    // A step of the scale is 100; the specification's names leave room for half a step.
    // "Regular" is also what a face of a single weight is called, however heavy.
    if (said !== undefined && said !== 400 && Math.abs(said - weightClass(face)) > 150 && face.fvar === undefined) {
      found.push(finding("weight-words", `Its style is named for weight ${said}, and its weight is ${weightClass(face)}.`));
    }
  }
  return found;
};

const metrics: Check = (face) => {
  const { head, hhea, os2, hmtx, cmap } = face;
  const found = [];
  const lines = os2?.lineMetrics;
  // A little more is common and harmless: one accent on a capital. A tenth of the em is seen.
  const room = (head?.unitsPerEm ?? 0) / 10;
  if (head && lines && (lines.usWinAscent < head.yMax - room || lines.usWinDescent < -head.yMin - room)) {
    found.push(finding("metrics-clip", "Some glyphs are taller than the line it asks for."));
  }
  if (hhea && hhea.ascender - hhea.descender <= 0) {
    found.push(finding("metrics-line", "It asks for lines of no height."));
  }
  if (hmtx && hhea) {
    let negative = 0;
    // Advances are unsigned; a small negative one stands there as a huge one.
    for (let glyph = 0; glyph < hhea.numberOfHMetrics; glyph++) if (hmtx.advanceUnits(glyph) > 0x7fff) negative++;
    if (negative > 0) found.push(finding("advance-negative", `${negative} of its glyphs take a negative width.`));
  }
  if (hmtx && cmap) {
    const zero = [..."AMaeno0"].filter((letter) => {
      const glyph = cmap.glyph(letter.codePointAt(0)!);
      return glyph !== 0 && hmtx.advanceUnits(glyph) === 0;
    });
    if (zero.length > 0) {
      found.push(finding("advance-zero", `${listWords(zero)} take no width.`));
    }
  }
  if ((face.outlines === "TrueType" || face.outlines === "CFF") && (face.maxp?.numGlyphs ?? 0) > 0 && face.isBlank(0)) {
    found.push(finding("notdef-empty", "Its sign for missing characters is blank."));
  }
  return found;
};

const embedding: Check = (face) => {
  if (!face.os2) return [];
  const { level, noSubsetting, bitmapOnly } = readEmbedding(face.os2.fsType);
  const found = [];
  if (level === "restricted") {
    found.push(finding("embedding-restricted", "Its maker forbids embedding it in documents."));
  }
  if (noSubsetting || bitmapOnly) {
    found.push(finding("embedding-limited", "Its maker limits how it is embedded in documents."));
  }
  return found;
};

/** The letters everyone tries first are drawn once; one that cannot be drawn tells of damage no table's length shows. */
const outlines: Check = (face) => {
  const { cmap } = face;
  if (!cmap || (face.outlines !== "TrueType" && face.outlines !== "CFF")) return [];
  const broken = [..."AEHRaeghn08אشक"].filter((letter) => {
    const glyph = cmap.glyph(letter.codePointAt(0)!);
    if (glyph === 0) return false;
    return !attempt(() => face.outline(glyph), UNDRAWN).ok;
  });
  return broken.length > 0 ? [finding("outline-damaged", `The outlines of ${listWords(broken)} are damaged.`)] : [];
};
const UNDRAWN = { code: "outline-damaged", message: "An outline is damaged.", next: "Download the font again." };

const colour: Check = (face) =>
  face.colour.length > 0 ? [finding("colour-only", `Its glyphs are coloured (${listWords(face.colour)}).`)] : [];

export const behaviourChecks: readonly Check[] = [characters, named, styleFlags, metrics, embedding, outlines, colour];
