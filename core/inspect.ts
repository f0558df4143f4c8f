// One record a face: everything Buvano knows from the bytes of a font file alone.
import { readEmbedding, type EmbeddingLevel } from "./clearance/embedding.ts";
import { capitalsKind, type CapitalsKind } from "./family/capitals.ts";
import { tellingAdvances } from "./family/kinship.ts";
import { faceNames, otherFamilyNames, type FaceNames } from "./family/names.ts";
import { tellingDrawings } from "./family/telling.ts";
import { parseStyleWords, type StyleWords } from "./family/style-words.ts";
import { isBold, isItalic, isMonospaced, weightClass, widthClass } from "./family/traits.ts";
import { examine } from "./health/checks.ts";
import { verdictOf, type Finding, type Verdict } from "./health/finding.ts";
import { attempt, ProblemError, type Result } from "./problem.ts";
import { countRanges } from "./sfnt/cmap.ts";
import { openContainer, type Container, type Woff2Unpacker } from "./sfnt/container.ts";
import { Face, type ColourFormat, type Outlines } from "./sfnt/face.ts";
import { NAME } from "./sfnt/name.ts";

interface Axis {
  tag: string;
  name: string;
  min: number;
  default: number;
  max: number;
}

/** A style a variable font names itself: where on its axes it lies. */
interface Instance {
  name: string;
  /** Values by axis tag. */
  at: Record<string, number>;
}

/** What the font says of its licence (name IDs 0, 7, 13, 14; OS/2 fsType and its table's version). */
export interface StatedLicence {
  copyright: string;
  trademark: string;
  licence: string;
  licenceUrl: string;
  fsType: number;
  os2Version: number;
}

/** Counts up when a record gains a fact, so that records written before are made anew. */
export const RECORD_VERSION = 6;

export interface Inspection extends FaceNames {
  recordVersion: number;
  face: number;
  container: Container;
  outlines: Outlines;
  /** usWeightClass, 1–1000. */
  weight: number;
  /** usWidthClass, 1–9. */
  width: number;
  italic: boolean;
  bold: boolean;
  monospaced: boolean;
  symbol: boolean;
  /** How many characters. */
  codepoints: number;
  /** The characters as flat pairs of first and last code point, ascending. */
  ranges: number[];
  axes: Axis[];
  instances: Instance[];
  /** Names of single points on its axes, from STAT. */
  axisValues: { tag: string; name: string; value: number }[];
  colour: ColourFormat[];
  /** What its style's name says. */
  styleWords: StyleWords;
  /** Its Latin letters draw nothing: they are there to make signs by ligatures. */
  blankLetters: boolean;
  /** The range of sizes in points it is drawn for (OS/2 version 5), or its "opsz" axis; null when it does not say. */
  opticalPt: [from: number, to: number] | null;
  capitals: CapitalsKind;
  /** Family names in other languages, by IETF tag. */
  otherNames: { language: string; family: string }[];
  stated: StatedLicence;
  /** Who drew and who makes it (name IDs 9 and 8), as far as it says. */
  makers: string[];
  embedding: EmbeddingLevel;
  /** head.fontRevision. */
  revision: number;
  /** Widths that tell fonts apart (core/family/kinship.ts). */
  advances: number[];
  /** Some of its drawings (core/family/telling.ts). */
  drawings: string;
  glyphs: number;
  unitsPerEm: number;
  verdict: Verdict;
  findings: Finding[];
}

const UNREADABLE = {
  code: "font-unreadable",
  message: "This font file cannot be read.",
  next: "Download it again; if it stays like this, ask whoever made it for a mended copy.",
};

/** A value from tables that may be damaged: the damage is a finding of its own, here the neutral value serves. */
function calm<T>(read: () => T, neutral: T): T {
  const result = attempt(read, UNREADABLE);
  return result.ok ? result.value : neutral;
}

function axesOf(face: Face): Axis[] {
  return (face.fvar?.axes ?? []).map((axis) => ({
    tag: axis.tag,
    name: face.names?.get(axis.nameId) ?? axis.tag,
    min: axis.min,
    default: axis.default,
    max: axis.max,
  }));
}

function instancesOf(face: Face): Instance[] {
  const { fvar, names } = face;
  return (fvar?.instances ?? []).map((instance) => ({
    name: names?.get(instance.nameId) ?? "",
    at: Object.fromEntries(instance.coordinates.map((value, i) => [fvar!.axes[i]!.tag, value])),
  }));
}

function axisValuesOf(face: Face): Inspection["axisValues"] {
  return (face.stat?.values ?? []).map(({ tag, nameId, value }) => ({ tag, name: face.names?.get(nameId) ?? "", value }));
}

/** OS/2 usLowerOpticalPointSize and usUpperOpticalPointSize are in twentieths of a point. */
function opticalPtOf(face: Face): Inspection["opticalPt"] {
  const size = face.os2?.opticalSize;
  if (size && size.usUpperOpticalPointSize > 0) {
    const upper = size.usUpperOpticalPointSize === 0xffff ? Infinity : size.usUpperOpticalPointSize / 20;
    return [size.usLowerOpticalPointSize / 20, Math.min(upper, 1000)];
  }
  const axis = face.fvar?.axes.find(({ tag }) => tag === "opsz");
  return axis ? [axis.min, axis.max] : null;
}

/** Latin letters that stand for glyphs without ink, every one that is looked at. */
function hasBlankLetters(face: Face): boolean {
  const glyphs = [..."aehnorst"].map((letter) => face.cmap?.glyph(letter.codePointAt(0)!) ?? 0).filter((glyph) => glyph > 0);
  return glyphs.length > 0 && glyphs.every((glyph) => face.isBlank(glyph));
}

function statedBy(face: Face): StatedLicence {
  const text = (id: number) => calm(() => face.names?.get(id) ?? "", "").slice(0, 20_000);
  return {
    copyright: text(NAME.copyright),
    trademark: text(NAME.trademark),
    licence: text(NAME.licence),
    licenceUrl: text(NAME.licenceUrl),
    fsType: calm(() => face.os2?.fsType ?? 0, 0),
    os2Version: calm(() => face.os2?.version ?? 0, 0),
  };
}

/** What a name of a person or a workshop is cut to. */
const LONGEST_MAKER = 200;
const makersOf = (face: Face): string[] => [
  ...new Set(
    [NAME.designer, NAME.manufacturer]
      .map((id) =>
        calm(() => face.names?.get(id) ?? "", "")
          .trim()
          .slice(0, LONGEST_MAKER),
      )
      .filter(Boolean),
  ),
];

function inspectFace(face: Face, fallbackName: string): Inspection {
  const findings = examine(face);
  const names = faceNames(face, fallbackName);
  const ranges = calm(() => face.characterRanges(), []);
  return {
    recordVersion: RECORD_VERSION,
    face: face.index,
    container: face.file.container,
    outlines: face.outlines,
    ...names,
    weight: calm(() => weightClass(face), 400),
    width: calm(() => widthClass(face), 5),
    italic: calm(() => isItalic(face, names), false),
    bold: calm(() => isBold(face), false),
    monospaced: calm(() => isMonospaced(face), false),
    symbol: calm(() => face.cmap?.symbol ?? false, false),
    codepoints: countRanges(ranges),
    ranges,
    axes: calm(() => axesOf(face), []),
    instances: calm(() => instancesOf(face), []),
    axisValues: calm(() => axisValuesOf(face), []),
    colour: face.colour,
    styleWords: parseStyleWords(names.style),
    opticalPt: calm(() => opticalPtOf(face), null),
    blankLetters: calm(() => hasBlankLetters(face), false),
    capitals: calm(() => capitalsKind(face), "none"),
    otherNames: calm(() => otherFamilyNames(face), []),
    stated: statedBy(face),
    makers: makersOf(face),
    embedding: calm(() => readEmbedding(face.os2?.fsType ?? 0).level, "installable"),
    revision: calm(() => face.head?.fontRevision ?? 0, 0),
    advances: calm(() => tellingAdvances(face), []),
    drawings: calm(() => tellingDrawings(face, ranges), ""),
    glyphs: calm(() => face.maxp?.numGlyphs ?? 0, 0),
    unitsPerEm: calm(() => face.head?.unitsPerEm ?? 0, 0),
    verdict: verdictOf(findings),
    findings,
  };
}

/** What the records of one file's faces may hold together, in numbers and names. Faces may share tables, records do not. */
const MOST_RECORDED = 300_000;
const tooMuchRecorded = () =>
  new ProblemError(
    "font-record-limit",
    "This font lists more characters and styles than any font has (limit “What a font says of itself”).",
    "Leave it out, or ask whoever made it for a mended copy.",
  );

function sizeOf({ ranges, instances, axes, axisValues, findings, otherNames }: Inspection): number {
  const named = [...instances, ...axes, ...axisValues].reduce((sum, { name }) => sum + name.length, 0);
  return ranges.length + named + instances.length * axes.length + 3 * axisValues.length + 10 * findings.length + otherNames.length;
}

/**
 * Inspects every face of a font file. The result is a problem when not even the names can be read.
 * `fallbackName` is the file's name without its ending.
 */
export function inspectFont(bytes: Uint8Array, fallbackName: string, unpackWoff2?: Woff2Unpacker): Result<Inspection[]> {
  return attempt(() => {
    const file = openContainer(bytes, unpackWoff2);
    let room = MOST_RECORDED;
    return file.faces.map((_, index) => {
      const record = inspectFace(new Face(file, index), fallbackName);
      if ((room -= sizeOf(record)) < 0) throw tooMuchRecorded();
      return record;
    });
  }, UNREADABLE);
}
