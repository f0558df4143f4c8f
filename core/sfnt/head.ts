// 'head': the font's global values (OpenType specification, "head — Font Header Table").
import { readLayout } from "./layout.ts";
import type { View } from "./view.ts";

const layout = [
  ["majorVersion", "u16"],
  ["minorVersion", "u16"],
  ["fontRevision", "fixed"],
  ["checksumAdjustment", "u32"],
  ["magicNumber", "u32"],
  ["flags", "u16"],
  ["unitsPerEm", "u16"],
  ["created", "longDateTime"],
  ["modified", "longDateTime"],
  ["xMin", "i16"],
  ["yMin", "i16"],
  ["xMax", "i16"],
  ["yMax", "i16"],
  ["macStyle", "u16"],
  ["lowestRecPPEM", "u16"],
  ["fontDirectionHint", "i16"],
  ["indexToLocFormat", "i16"],
  ["glyphDataFormat", "i16"],
] as const;

export const HEAD_MAGIC = 0x5f0f3cf5;
export const readHead = (view: View) => readLayout(view, layout);
