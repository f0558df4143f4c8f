// Checks of what a face will do in programs: how it is listed, whether bold is faked, whether lines are clipped.
import { readEmbedding } from "../clearance/embedding.ts";
import { hasLatin } from "../coverage/text.ts";
import { faceNames } from "../family/names.ts";
import { NAME } from "../sfnt/name.ts";
import { FS_SELECTION } from "../sfnt/os2.ts";
import { AGAIN, finding, type Check } from "./check.ts";

const characters: Check = (face) => {
  const cmap = face.cmap;
  if (!cmap) return [];
  if (!cmap.chosen) {
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
  }
  const found = [];
  const glyphs = face.maxp?.numGlyphs ?? 0;
  let wild = 0;
  cmap.each((_, glyph) => {
    if (glyph >= glyphs) wild++;
  });
  if (wild > 0) {
    found.push(
      finding(
        "cmap-wild",
        "warn",
        `${wild} of its characters point at glyphs it does not have.`,
        "These characters show as boxes, or the font is refused.",
        AGAIN,
        "cmap",
      ),
    );
  }
  if (cmap.chosen.platform === 1) {
    found.push(
      finding(
        "cmap-old",
        "warn",
        "Its characters are listed in an old Mac way only.",
        "Accented letters may come out wrong, or nothing is drawn.",
        "Look for a newer version.",
        "cmap, Encoding records",
      ),
    );
  }
  const ranges = face.characterRanges();
  if (ranges.length === 0)
    return [...found, finding("characters-none", "warn", "It has no characters.", "No letter can be typed with it.", AGAIN, "cmap")];
  const lacks = (text: string) => [...text].filter((character) => cmap.glyph(character.codePointAt(0)!) === 0);
  if (!cmap.symbol && lacks(" ").length > 0) {
    found.push(
      finding(
        "space-missing",
        "note",
        "It has no space.",
        "Words may run together or be spaced by another font.",
        "Nothing, if you set single words.",
        "Recommendations for OpenType Fonts",
      ),
    );
  }
  if (hasLatin(ranges)) {
    const missing = lacks("abcdefghijklmnopqrstuvwxyz").length > 0 ? "small letters" : lacks("0123456789").length > 0 ? "figures" : "";
    if (missing) {
      found.push(
        finding(
          "basic-missing",
          "note",
          `Some ${missing} are missing.`,
          "Another font stands in for them, visibly.",
          "Try your own words before you choose it.",
          "Recommendations for OpenType Fonts",
        ),
      );
    }
  }
  return found;
};

const named: Check = (face) => {
  const names = face.names;
  if (!names) return [];
  const found = [];
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
  if (postScriptName === undefined) {
    found.push(
      finding(
        "name-postscript-missing",
        "note",
        "It has no PostScript name.",
        "Exported documents may name it oddly.",
        "Nothing, for everyday use.",
        "name, ID 6",
      ),
    );
  } else if (!/^[!-~]{1,63}$/.test(postScriptName) || /[[\](){}<>/%]/.test(postScriptName)) {
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
  if (names.outside > 0) {
    found.push(
      finding(
        "name-outside",
        "warn",
        "Some of its names lie outside their table.",
        "Programs may list it under another name, or refuse it.",
        AGAIN,
        "name",
      ),
    );
  }
  const { legacyFamily, legacyStyle } = faceNames(face, "");
  // Common practice, no source: old office programs cut names off after 31 characters.
  if (legacyFamily.length > 31 || legacyStyle.length > 31) {
    found.push(
      finding(
        "name-long",
        "note",
        "Its four-style name is longer than 31 characters.",
        "Old office programs may not list it.",
        "Nothing, in programs of today.",
        "name, ID 1",
      ),
    );
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
    found.push(
      finding(
        "style-flags",
        "warn",
        "It is marked regular and, at once, bold or italic.",
        "The bold and italic buttons may choose the wrong file.",
        "Look for a newer version.",
        "OS/2, fsSelection",
      ),
    );
  }
  const mac = face.head?.macStyle ?? 0;
  if (((selection & bold) !== 0) !== ((mac & 1) !== 0) || ((selection & italic) !== 0) !== ((mac & 2) !== 0)) {
    found.push(
      finding(
        "style-flags-differ",
        "warn",
        "Two of its tables disagree on whether it is bold or italic.",
        "Bold or italic may be faked, or doubled.",
        "Look for a newer version.",
        "head, macStyle",
      ),
    );
  }
  if (os2.usWeightClass < 1 || os2.usWeightClass > 1000) {
    found.push(
      finding(
        "weight-range",
        "warn",
        `Its weight is ${os2.usWeightClass}; 1 to 1000 are allowed.`,
        "Programs sort it to the wrong end of its family.",
        "Look for a newer version.",
        "OS/2, usWeightClass",
      ),
    );
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
    found.push(
      finding(
        "metrics-clip",
        "note",
        "Some glyphs are taller than the line it asks for.",
        "Tops or tails may be clipped in some programs.",
        "Try your words with accents; add line spacing where they are cut.",
        "OS/2, usWinAscent",
      ),
    );
  }
  if (hhea && hhea.ascender - hhea.descender <= 0) {
    found.push(
      finding(
        "metrics-line",
        "warn",
        "It asks for lines of no height.",
        "Lines will lie over one another.",
        "Look for a newer version.",
        "hhea, ascender",
      ),
    );
  }
  if (hmtx && cmap) {
    const zero = [..."AMaeno0"].filter((letter) => {
      const glyph = cmap.glyph(letter.codePointAt(0)!);
      return glyph !== 0 && hmtx.advanceUnits(glyph) === 0;
    });
    if (zero.length > 0) {
      found.push(
        finding(
          "advance-zero",
          "warn",
          `${zero.join(", ")} take no width.`,
          "Letters will lie over one another.",
          "Look for a newer version.",
          "hmtx",
        ),
      );
    }
  }
  if (face.outlines === "TrueType" && face.loca && face.loca.glyphs > 0 && face.isBlank(0)) {
    found.push(
      finding(
        "notdef-empty",
        "note",
        "Its sign for missing characters is blank.",
        "A missing character leaves a gap instead of a box.",
        "Proof-read for gaps.",
        "Recommendations for OpenType Fonts",
      ),
    );
  }
  return found;
};

const embedding: Check = (face) => {
  if (!face.os2) return [];
  const { level, noSubsetting, bitmapOnly } = readEmbedding(face.os2.fsType);
  const found = [];
  if (level === "restricted") {
    found.push(
      finding(
        "embedding-restricted",
        "note",
        "Its maker forbids embedding it in documents.",
        "Exports may swap it for another font or refuse.",
        "Ask its maker for wider permission.",
        "OS/2, fsType",
      ),
    );
  }
  if (noSubsetting || bitmapOnly) {
    found.push(
      finding(
        "embedding-limited",
        "note",
        "Its maker limits how it is embedded in documents.",
        "Exports may hold the whole font, or only pictures of it.",
        "Nothing, unless an export complains.",
        "OS/2, fsType",
      ),
    );
  }
  return found;
};

export const behaviourChecks: readonly Check[] = [characters, named, styleFlags, metrics, embedding];
