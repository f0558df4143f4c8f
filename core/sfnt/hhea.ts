// 'hhea': horizontal line metrics (OpenType specification, "hhea — Horizontal Header Table"). Values in font units.
import { readLayout } from "./layout.ts";
import type { View } from "./view.ts";

const layout = [
  ["majorVersion", "u16"],
  ["minorVersion", "u16"],
  ["ascender", "i16"],
  ["descender", "i16"],
  ["lineGap", "i16"],
  ["advanceWidthMax", "u16"],
  ["minLeftSideBearing", "i16"],
  ["minRightSideBearing", "i16"],
  ["xMaxExtent", "i16"],
  ["caretSlopeRise", "i16"],
  ["caretSlopeRun", "i16"],
  ["caretOffset", "i16"],
  ["reserved0", "i16"],
  ["reserved1", "i16"],
  ["reserved2", "i16"],
  ["reserved3", "i16"],
  ["metricDataFormat", "i16"],
  ["numberOfHMetrics", "u16"],
] as const;

export const readHhea = (view: View) => readLayout(view, layout);
