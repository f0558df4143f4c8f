// 'maxp': how many glyphs there are (OpenType specification, "maxp — Maximum Profile").
import { readLayout } from "./layout.ts";
import type { View } from "./view.ts";

const layout = [
  ["version", "u32"],
  ["numGlyphs", "u16"],
] as const;

export const readMaxp = (view: View) => readLayout(view, layout);
