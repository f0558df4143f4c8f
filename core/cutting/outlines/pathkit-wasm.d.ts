declare module "pathkit-wasm" {
  export interface PathKitPath {
    moveTo(x: number, y: number): PathKitPath;
    lineTo(x: number, y: number): PathKitPath;
    quadTo(cx: number, cy: number, x: number, y: number): PathKitPath;
    cubicTo(ax: number, ay: number, bx: number, by: number, x: number, y: number): PathKitPath;
    setFillType(type: unknown): void;
    close(): PathKitPath;
    stroke(options: { width: number; cap: unknown; join: unknown; miter_limit: number }): PathKitPath | null;
    simplify(): PathKitPath | null;
    op(other: PathKitPath, op: unknown): PathKitPath | null;
    transform(...matrix: number[]): PathKitPath;
    toCmds(): number[][];
    delete(): void;
  }
  export interface PathKit {
    NewPath(): PathKitPath;
    StrokeCap: Record<"ROUND" | "SQUARE" | "BUTT", unknown>;
    StrokeJoin: Record<"ROUND" | "MITER" | "BEVEL", unknown>;
    PathOp: Record<"UNION" | "DIFFERENCE" | "INTERSECT", unknown>;
    FillType: Record<"WINDING" | "EVENODD", unknown>;
    MOVE_VERB: number;
    LINE_VERB: number;
    QUAD_VERB: number;
    CONIC_VERB: number;
    CUBIC_VERB: number;
    CLOSE_VERB: number;
  }
  export default function init(options: { wasmBinary: Uint8Array }): Promise<PathKit>;
}
