declare module "opentype.js" {
  interface Path {
    moveTo(x: number, y: number): void;
    lineTo(x: number, y: number): void;
    quadraticCurveTo(cx: number, cy: number, x: number, y: number): void;
    closePath(): void;
  }
  const opentype: {
    Path: new () => Path;
    Glyph: new (options: { name: string; unicode?: number; advanceWidth: number; path: Path }) => object;
    Font: new (options: Record<string, unknown>) => { toArrayBuffer(): ArrayBuffer };
  };
  export default opentype;
}
