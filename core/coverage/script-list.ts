// The scripts fonts are found by.

export const SCRIPTS = [
  "latin",
  "greek",
  "cyrillic",
  "hebrew",
  "arabic",
  "devanagari",
  "armenian",
  "georgian",
  "thai",
  "hangul",
  "kana",
  "han",
] as const;
export type Script = (typeof SCRIPTS)[number];
