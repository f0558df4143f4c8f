// The kinds of face fonts are found by.

export const FACE_KINDS = ["text", "symbols", "variable", "colour", "monospaced", "capitals", "outlined"] as const;
export type FaceKind = (typeof FACE_KINDS)[number];
