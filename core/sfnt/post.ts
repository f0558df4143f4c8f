// 'post': italic angle, underline and the fixed-pitch note (OpenType specification, "post — PostScript Table").
import { readLayout } from "./layout.ts";
import type { View } from "./view.ts";

const layout = [
  ["version", "u32"],
  ["italicAngle", "fixed"],
  ["underlinePosition", "i16"],
  ["underlineThickness", "i16"],
  ["isFixedPitch", "u32"],
] as const;

export type Post = ReturnType<typeof readPost>;
export const readPost = (view: View) => readLayout(view, layout);
