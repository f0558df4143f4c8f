// 'OS/2': weight, width, embedding, style flags (OpenType specification, "OS/2 — OS/2 and Windows Metrics Table").
import { layoutBytes, readLayout } from "./layout.ts";
import type { View } from "./view.ts";

// Version 0 as first published ended at usLastCharIndex; the typo and win metrics came with a later text of
// the same version, so both lengths exist in real files.
const first = [
  ["version", "u16"],
  ["xAvgCharWidth", "i16"],
  ["usWeightClass", "u16"],
  ["usWidthClass", "u16"],
  ["fsType", "u16"],
  ["ySubscriptXSize", "i16"],
  ["ySubscriptYSize", "i16"],
  ["ySubscriptXOffset", "i16"],
  ["ySubscriptYOffset", "i16"],
  ["ySuperscriptXSize", "i16"],
  ["ySuperscriptYSize", "i16"],
  ["ySuperscriptXOffset", "i16"],
  ["ySuperscriptYOffset", "i16"],
  ["yStrikeoutSize", "i16"],
  ["yStrikeoutPosition", "i16"],
  ["sFamilyClass", "i16"],
  ["panoseFamilyType", "u8"],
  ["panoseSerifStyle", "u8"],
  ["panoseWeight", "u8"],
  ["panoseProportion", "u8"],
  ["panoseContrast", "u8"],
  ["panoseStrokeVariation", "u8"],
  ["panoseArmStyle", "u8"],
  ["panoseLetterform", "u8"],
  ["panoseMidline", "u8"],
  ["panoseXHeight", "u8"],
  ["ulUnicodeRange1", "u32"],
  ["ulUnicodeRange2", "u32"],
  ["ulUnicodeRange3", "u32"],
  ["ulUnicodeRange4", "u32"],
  ["achVendID", "tag"],
  ["fsSelection", "u16"],
  ["usFirstCharIndex", "u16"],
  ["usLastCharIndex", "u16"],
] as const;

const lineMetrics = [
  ["sTypoAscender", "i16"],
  ["sTypoDescender", "i16"],
  ["sTypoLineGap", "i16"],
  ["usWinAscent", "u16"],
  ["usWinDescent", "u16"],
] as const;

const codePages = [
  ["ulCodePageRange1", "u32"],
  ["ulCodePageRange2", "u32"],
] as const;

const heights = [
  ["sxHeight", "i16"],
  ["sCapHeight", "i16"],
  ["usDefaultChar", "u16"],
  ["usBreakChar", "u16"],
  ["usMaxContext", "u16"],
] as const;

const opticalSize = [
  ["usLowerOpticalPointSize", "u16"],
  ["usUpperOpticalPointSize", "u16"],
] as const;

/** fsSelection bits (same section). */
export const FS_SELECTION = { italic: 1 << 0, bold: 1 << 5, regular: 1 << 6, useTypoMetrics: 1 << 7, wws: 1 << 8, oblique: 1 << 9 };

/** Reads the table; parts a version lacks, or a short table leaves out, are undefined. */
export function readOs2(view: View) {
  const start = readLayout(view, first);
  const parts = { from: layoutBytes(first) };
  const next = <const L extends Parameters<typeof readLayout>[1]>(layout: L, sinceVersion: number) => {
    const at = parts.from;
    parts.from += layoutBytes(layout);
    if (start.version < sinceVersion || view.length < parts.from) return undefined;
    return readLayout(view, layout, at);
  };
  return {
    ...start,
    lineMetrics: next(lineMetrics, 0),
    codePages: next(codePages, 1),
    heights: next(heights, 2),
    opticalSize: next(opticalSize, 5),
  };
}
