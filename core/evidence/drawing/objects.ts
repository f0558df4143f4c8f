// Operators of pictures, forms, transparency groups, annotations and marked content (ISO 32000-1, 8.9, 8.10, 11.6.6, 12.5.5, 14.6).
import { areaOf, corners, inverse, times, UNMOVED } from "./geometry.ts";
import { OPS, type Pixels } from "./operators.ts";
import type { Operator } from "./plane.ts";
import { boxIn, colourOf, freshState, matrixIn } from "./state.ts";

/** A picture fills the unit square (8.9.4); a mask lets through what lies beside it. */
const picture =
  ({ mask }: { mask: boolean }): Operator =>
  (plane, [given]) => {
    plane.pictures++;
    const { state } = plane;
    const area = areaOf([corners(state.ctm, { x0: 0, y0: 0, x1: 1, y1: 1 })], false);
    const pixels = typeof given === "string" ? plane.source.pixels(given) : (given as Pixels | undefined);
    const back = inverse(state.ctm);
    const known = !mask && pixels && back ? { picture: { pixels, back } } : {};
    plane.paint(area, { colour: mask ? colourOf(state.fill) : undefined, alpha: state.fillAlpha, lets: mask, ...known });
  };
/** Many pictures in one operator: where each lies is not followed. */
const pictures: Operator = (plane) => {
  plane.pictures++;
  plane.overflown = true;
};

export const OBJECT_OPERATORS: readonly (readonly [number, Operator])[] = [
  [OPS.paintImageXObject, picture({ mask: false })],
  [OPS.paintInlineImageXObject, picture({ mask: false })],
  [OPS.paintImageMaskXObject, picture({ mask: true })],
  [OPS.paintSolidColorImageMask, picture({ mask: true })],
  [OPS.paintImageXObjectRepeat, pictures],
  [OPS.paintImageMaskXObjectRepeat, pictures],
  [OPS.paintInlineImageXObjectGroup, pictures],
  [OPS.paintImageMaskXObjectGroup, pictures],
  [
    OPS.paintFormXObjectBegin,
    (plane, args) => {
      plane.save();
      const matrix = matrixIn(args[0]);
      if (matrix) plane.state.ctm = times(plane.state.ctm, matrix);
      plane.clipToBox(boxIn(args[1]), plane.state.ctm);
    },
  ],
  [OPS.paintFormXObjectEnd, (plane) => plane.restore()],
  [
    OPS.beginGroup,
    (plane, args) => {
      const group = (args[0] ?? {}) as { matrix?: unknown; bbox?: unknown };
      plane.save();
      plane.clipToBox(boxIn(group.bbox), times(plane.state.ctm, matrixIn(group.matrix) ?? UNMOVED));
      plane.state.groupAlpha *= plane.state.fillAlpha;
      Object.assign(plane.state, { fillAlpha: 1, strokeAlpha: 1 });
    },
  ],
  [OPS.endGroup, (plane) => plane.restore()],
  [
    OPS.beginAnnotation,
    (plane, args) => {
      plane.save();
      plane.state = freshState();
      plane.clipToBox(boxIn(args[1]), UNMOVED);
      plane.state.ctm = times(matrixIn(args[2]) ?? UNMOVED, matrixIn(args[3]) ?? UNMOVED);
    },
  ],
  [OPS.endAnnotation, (plane) => plane.restore()],
  [OPS.beginMarkedContent, (plane) => void plane.layers.push(true)],
  [
    OPS.beginMarkedContentProps,
    (plane, args) => void plane.layers.push(args[0] !== "OC" || args[1] == null || plane.source.layerShows(args[1])),
  ],
  [OPS.endMarkedContent, (plane) => void plane.layers.pop()],
];
