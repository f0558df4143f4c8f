// The package's main file is no module Node.js can import names from; its other one is.
declare module "maxrects-packer/dist/maxrects-packer.mjs" {
  export interface PackedRectangle {
    x: number;
    y: number;
    width: number;
    height: number;
    /** Turned by a quarter. */
    rot?: boolean;
  }
  export interface PackingOptions {
    smart?: boolean;
    pot?: boolean;
    square?: boolean;
    allowRotation?: boolean;
    tag?: boolean;
    border?: number;
  }
  export class MaxRectsPacker {
    constructor(width: number, height: number, padding: number, options: PackingOptions);
    addArray(rectangles: PackedRectangle[]): void;
    readonly bins: { rects: PackedRectangle[] }[];
  }
}
