// The brush: what lies under a stroke is no ink, however the frame stands; nothing else is touched.
import { expect, test } from "@jest/globals";
import { framedPart, type Frame, type Stroke } from "./framed.ts";

const [width, height] = [400, 200];
/** Letters' worth of ink everywhere, so that whatever is brushed away shows. */
const picture = { width, height, data: new Uint8ClampedArray(4 * width * height).fill(245) };
for (let y = 24; y < height - 24; y++)
  for (let x = 16; x < width - 16; x++) if ((x >> 3) % 2 === 0) picture.data.fill(20, 4 * (y * width + x), 4 * (y * width + x) + 3);

/** How far a point is from a stroke, point by point along it, in the picture's pixels. */
function distance([x, y]: readonly [number, number], points: Stroke["points"]): number {
  let nearest = Infinity;
  for (const [i, to] of points.entries()) {
    const from = points[i - 1] ?? to;
    for (let k = 0; k <= 150; k++) {
      const at = [from[0] + ((to[0] - from[0]) * k) / 150, from[1] + ((to[1] - from[1]) * k) / 150] as const;
      nearest = Math.min(nearest, Math.hypot(x - at[0], y - at[1]));
    }
  }
  return nearest;
}

const LEVEL: Frame = [
  [20, 30],
  [380, 30],
  [380, 170],
  [20, 170],
];
const FROM_THE_SIDE: Frame = [
  [40, 60],
  [370, 20],
  [390, 150],
  [30, 130],
];
test.each([
  ["level", LEVEL],
  ["seen from the side", FROM_THE_SIDE],
])("strokes in a frame that is %s take away what lies under them", (_what, frame) => {
  const strokes: Stroke[] = [
    { points: [[60, 80]], radius: 12 },
    {
      points: [
        [100, 60],
        [300, 130],
        [340, 60],
      ],
      radius: 5,
    },
  ];
  const before = framedPart(picture, frame)!;
  const after = framedPart(picture, frame, strokes)!;
  let [taken, wrong] = [0, 0];
  for (let y = 0; y < after.grey.height; y += 2) {
    for (let x = y % 3; x < after.grey.width; x += 3) {
      const i = y * after.grey.width + x;
      if (before.grey.ink[i] === 0) continue;
      const off = Math.min(...strokes.map(({ points, radius }) => distance(after.place(x + 0.5, y + 0.5), points) - radius));
      if (Math.abs(off) < 0.5) continue;
      if (after.grey.ink[i] === 0) taken++;
      if ((after.grey.ink[i] === 0) !== off < 0) wrong++;
    }
  }
  expect(taken).toBeGreaterThan(150);
  expect(wrong).toBe(0);
});
