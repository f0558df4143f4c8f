// What OS/2 fsType says about putting the font into documents.

export type EmbeddingLevel = "installable" | "restricted" | "preview-and-print" | "editable";

export interface Embedding {
  level: EmbeddingLevel;
  /** Bit 8: only the whole font may be embedded, never a part of it. */
  noSubsetting: boolean;
  /** Bit 9: only bitmaps may be embedded. */
  bitmapOnly: boolean;
}

const RESTRICTED = 0x0002;
const PREVIEW_AND_PRINT = 0x0004;
const EDITABLE = 0x0008;
const NO_SUBSETTING = 0x0100;
const BITMAP_ONLY = 0x0200;

/**
 * Reads fsType (OpenType specification, OS/2, "fsType"). In versions 0 to 2 several of bits 1 to 3 may be set and the least
 * restrictive counts. From version 3 on they exclude each other; a font that breaks the rule is read the same way, as the specification
 * has programs do for older fonts. Bits 8 and 9 exist from version 2 on.
 */
export function readEmbedding(fsType: number, os2Version = 4): Embedding {
  const level: EmbeddingLevel =
    (fsType & EDITABLE) !== 0
      ? "editable"
      : (fsType & PREVIEW_AND_PRINT) !== 0
        ? "preview-and-print"
        : (fsType & RESTRICTED) !== 0
          ? "restricted"
          : "installable";
  const later = os2Version >= 2;
  return { level, noSubsetting: later && (fsType & NO_SUBSETTING) !== 0, bitmapOnly: later && (fsType & BITMAP_ONLY) !== 0 };
}
