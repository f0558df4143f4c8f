declare module "bidi-js" {
  interface Levels {
    levels: Uint8Array;
    paragraphs: { start: number; end: number; level: number }[];
  }
  interface Bidi {
    getEmbeddingLevels(text: string, direction?: "ltr" | "rtl" | "auto"): Levels;
  }
  export default function bidiFactory(): Bidi;
}
