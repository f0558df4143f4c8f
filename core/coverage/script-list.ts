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
/** What each is called in English. */
export const SCRIPT_NAMES: Record<Script, string> = {
  latin: "Latin",
  greek: "Greek",
  cyrillic: "Cyrillic",
  hebrew: "Hebrew",
  arabic: "Arabic",
  devanagari: "Devanagari",
  armenian: "Armenian",
  georgian: "Georgian",
  thai: "Thai",
  hangul: "Korean",
  kana: "Japanese",
  han: "Chinese characters",
};
export type Script = (typeof SCRIPTS)[number];
