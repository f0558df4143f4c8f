// What OS/2 fsType says about putting the font into documents.

export type EmbeddingLevel = "installable" | "restricted" | "preview-and-print" | "editable";

export interface Embedding {
  level: EmbeddingLevel;
  /** Bit 8: only the whole font may be embedded, never a part of it. */
  noSubsetting: boolean;
  /** Bit 9: only bitmaps may be embedded. */
  bitmapOnly: boolean;
}

/**
 * Reads fsType (OpenType specification, OS/2, "fsType"). In versions 0 to 2 several of bits 1–3 may be set and
 * the least restrictive counts; from version 3 on they exclude each other, and the same reading is kept for
 * fonts that break the rule.
 */
export function readEmbedding(fsType: number): Embedding {
  const level: EmbeddingLevel =
    (fsType & 0x0008) !== 0
      ? "editable"
      : (fsType & 0x0004) !== 0
        ? "preview-and-print"
        : (fsType & 0x0002) !== 0
          ? "restricted"
          : "installable";
  return { level, noSubsetting: (fsType & 0x0100) !== 0, bitmapOnly: (fsType & 0x0200) !== 0 };
}
