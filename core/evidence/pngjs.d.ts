// The part of pngjs that is used; the package carries no types of its own.
declare module "pngjs" {
  export class PNG {
    constructor(options: { width: number; height: number; fill?: boolean });
    width: number;
    height: number;
    /** RGBA, eight bits each. */
    data: Uint8Array;
    static bitblt(from: PNG, to: PNG, x: number, y: number, width: number, height: number, toX: number, toY: number): void;
    static readonly sync: { read(bytes: Uint8Array): PNG; write(png: PNG): Buffer };
  }
}
