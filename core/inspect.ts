// One record a face: everything Buvano knows from the bytes of a font file alone.
import { readEmbedding, type EmbeddingLevel } from "./clearance/embedding.ts";
import { tellingAdvances } from "./family/kinship.ts";
import { faceNames, type FaceNames } from "./family/names.ts";
import { isBold, isItalic, isMonospaced, weightClass, widthClass } from "./family/traits.ts";
import { examine } from "./health/checks.ts";
import { verdictOf, type Finding, type Verdict } from "./health/finding.ts";
import { attempt, type Result } from "./problem.ts";
import { countRanges } from "./sfnt/cmap.ts";
import { openContainer, type Container, type Woff2Unpacker } from "./sfnt/container.ts";
import { Face, type Outlines } from "./sfnt/face.ts";

export interface Axis {
  tag: string;
  name: string;
  min: number;
  default: number;
  max: number;
}

export interface Inspection extends FaceNames {
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
  embedding: EmbeddingLevel;
  /** head.fontRevision. */
  revision: number;
  /** Widths that tell fonts apart (core/family/kinship.ts). */
  advances: number[];
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

function inspectFace(face: Face, fallbackName: string): Inspection {
  const findings = examine(face);
  const names = faceNames(face, fallbackName);
  const ranges = calm(() => face.characterRanges(), []);
  return {
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
    embedding: calm(() => readEmbedding(face.os2?.fsType ?? 0).level, "installable"),
    revision: calm(() => face.head?.fontRevision ?? 0, 0),
    advances: calm(() => tellingAdvances(face), []),
    glyphs: calm(() => face.maxp?.numGlyphs ?? 0, 0),
    unitsPerEm: calm(() => face.head?.unitsPerEm ?? 0, 0),
    verdict: verdictOf(findings),
    findings,
  };
}

/**
 * Inspects every face of a font file. The result is a problem when not even the names can be read.
 * `fallbackName` is the file's name without its ending.
 */
export function inspectFont(bytes: Uint8Array, fallbackName: string, unpackWoff2?: Woff2Unpacker): Result<Inspection[]> {
  return attempt(() => {
    const file = openContainer(bytes, unpackWoff2);
    return file.faces.map((_, index) => inspectFace(new Face(file, index), fallbackName));
  }, UNREADABLE);
}
