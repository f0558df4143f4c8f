// Pixels that hang together: the regions of a picture.
import type { FlatBox } from "../faces/coverage-raster.ts";

const { floor, max, min } = Math;

export interface Region {
  /** What its pixels are labelled with, from 1 upwards. */
  label: number;
  /** In whole pixels. */
  box: FlatBox;
  /** In pixels. */
  area: number;
}

/**
 * The regions of pixels for which `is` holds, one after another; each pixel of them is labelled in `labels`, which must be 0 where it may belong to one.
 * Regions meet at sides, or also at corners.
 */
export function* regionsOf(
  labels: Int32Array,
  width: number,
  is: (at: number) => boolean,
  corners: boolean,
): Generator<Region, void, undefined> {
  const height = labels.length / width;
  const stack: number[] = [];
  let label = 0;
  for (let from = 0; from < labels.length; from++) {
    if (labels[from] !== 0 || !is(from)) continue;
    label++;
    const box = { x0: width, y0: height, x1: 0, y1: 0 };
    let area = 0;
    labels[from] = label;
    stack.push(from);
    while (stack.length > 0) {
      const at = stack.pop()!;
      const [x, y] = [at % width, floor(at / width)];
      area++;
      box.x0 = min(box.x0, x);
      box.x1 = max(box.x1, x + 1);
      box.y0 = min(box.y0, y);
      box.y1 = max(box.y1, y + 1);
      for (let dy = -1; dy <= 1; dy++) {
        for (let dx = -1; dx <= 1; dx++) {
          if (!corners && dx !== 0 && dy !== 0) continue;
          const [nx, ny] = [x + dx, y + dy];
          if (nx < 0 || ny < 0 || nx >= width || ny >= height) continue;
          const next = ny * width + nx;
          if (labels[next] !== 0 || !is(next)) continue;
          labels[next] = label;
          stack.push(next);
        }
      }
    }
    yield { label, box, area };
  }
}
