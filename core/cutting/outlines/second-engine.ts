// The second engine: joins curves as they are, in WebAssembly. Used where the first one does not pass its check.
import type { PathKit, PathKitPath } from "pathkit-wasm";
import { areaOf, turnedContour, type Contour, type Segment } from "./curve.ts";
import type { Filled } from "./engines.ts";
import { insideOf } from "./inside.ts";

/** Loads the engine once; undefined where it cannot be had. */
export type SecondEngine = () => Promise<PathKit | undefined>;

/** The engine is at its best with about a thousand units to the em. */
const EM_UNITS = 1000;

function pathOf(kit: PathKit, contours: Filled, scale: number): PathKitPath {
  const path = kit.NewPath();
  for (const contour of contours) {
    const [first] = contour;
    if (!first) continue;
    path.moveTo(first[0]! * scale, first[1]! * scale);
    for (const s of contour) {
      const v = s.map((value) => value * scale);
      if (v.length === 4) path.lineTo(v[2]!, v[3]!);
      else if (v.length === 6) path.quadTo(v[2]!, v[3]!, v[4]!, v[5]!);
      else path.cubicTo(v[2]!, v[3]!, v[4]!, v[5]!, v[6]!, v[7]!);
    }
    path.close();
  }
  path.setFillType(kit.FillType.WINDING);
  return path;
}

function contoursFrom(kit: PathKit, path: PathKitPath, scale: number): Contour[] | undefined {
  const contours: Contour[] = [];
  let segments: Segment[] = [];
  let [x, y, startX, startY] = [0, 0, 0, 0];
  const close = () => {
    if (x !== startX || y !== startY) segments.push([x, y, startX, startY]);
    if (segments.length > 1 || segments.some((s) => s.length > 4)) contours.push(segments);
    segments = [];
    [x, y] = [startX, startY];
  };
  for (const [verb, ...values] of path.toCmds()) {
    const v = values.map((value) => value / scale);
    if (verb === kit.MOVE_VERB) {
      if (segments.length > 0) close();
      [x, y, startX, startY] = [v[0]!, v[1]!, v[0]!, v[1]!];
    } else if (verb === kit.CLOSE_VERB) close();
    else if (verb === kit.LINE_VERB || verb === kit.QUAD_VERB || verb === kit.CUBIC_VERB) {
      segments.push([x, y, ...v]);
      [x, y] = [v.at(-2)!, v.at(-1)!];
    } else return undefined;
  }
  if (segments.length > 0) close();
  return contours;
}

/** Its results are filled by even-odd: turns every contour the way its depth asks for. */
function orderly(contours: readonly Contour[]): Contour[] {
  return contours.map((contour, i) => {
    const [x, y] = [contour[0]![0]!, contour[0]![1]!];
    const depth = contours.filter((other, k) => k !== i && insideOf(other, x, y)).length;
    return areaOf(contour) > 0 === (depth % 2 === 0) ? contour : turnedContour(contour);
  });
}

/** Letters put together; `emMm` millimetres an em. Undefined when the engine gives up. */
export function unitedBySecond(kit: PathKit, letters: readonly Filled[], emMm: number): Contour[] | undefined {
  const scale = EM_UNITS / emMm;
  const held: PathKitPath[] = [];
  const hold = (path: PathKitPath): PathKitPath => {
    held.push(path);
    return path;
  };
  try {
    const all = hold(kit.NewPath());
    for (const letter of letters) {
      // Every letter by its own winding.
      const one = hold(pathOf(kit, letter, scale));
      if (one.simplify() === null || all.op(one, kit.PathOp.UNION) === null) return undefined;
    }
    const contours = contoursFrom(kit, all, scale);
    return contours && orderly(contours);
  } finally {
    for (const path of held) path.delete();
  }
}
