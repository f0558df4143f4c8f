// How a line of letters is tilted: by the feet and heads of all of them.
import type { FlatBox } from "../faces/coverage-raster.ts";

const { PI, max, tan } = Math;

/** Tilts that are tried, in degrees to either side. */
const MOST_TILT = 16;
const TILT_STEP = 0.5;
/** How far from a line, in heights of a letter, a letter's foot or head may lie and count as standing on it. */
const ON_LINE = 0.05;
/** A line is level unless another tilt puts so many more feet and heads on lines, of all of them, and at least so many. */
const CLEARLY = 0.16;
const LEAST_MORE = 1.4;

/** How many of some heights lie on one line, each counted by how near it lies. */
function onOneLine(heights: readonly number[], within: number): number {
  let most = 0;
  for (const line of heights) {
    let sum = 0;
    for (const at of heights) sum += max(0, 1 - ((at - line) / within) ** 2);
    most = max(most, sum);
  }
  return most;
}

/**
 * The tilt of a line of letters, in radians: at it most of their feet stand on one line and most of their heads reach another, whatever hangs
 * below or stands out above. Level where nothing speaks clearly against it.
 */
export function tiltOf(group: readonly FlatBox[], high: number): number {
  const letters = group.filter(({ y0, y1 }) => y1 - y0 > 0.45 * high).slice(0, MOST_TILTED);
  if (letters.length < 4) return 0;
  const stand = (degrees: number): number => {
    const slope = tan((degrees * PI) / 180);
    const lifted = (y: number, { x0, x1 }: FlatBox) => y - slope * ((x0 + x1) / 2);
    const feet = letters.map((one) => lifted(one.y1, one));
    const heads = letters.map((one) => lifted(one.y0, one));
    return onOneLine(feet, ON_LINE * high) + onOneLine(heads, ON_LINE * high);
  };
  const level = stand(0);
  let best = { degrees: 0, stand: level };
  for (let degrees = -MOST_TILT; degrees <= MOST_TILT; degrees += TILT_STEP) {
    const one = stand(degrees);
    if (one > best.stand) best = { degrees, stand: one };
  }
  if (best.stand < level + max(LEAST_MORE, CLEARLY * 2 * letters.length)) return 0;
  for (let degrees = best.degrees - TILT_STEP; degrees <= best.degrees + TILT_STEP; degrees += TILT_STEP / 5) {
    const one = stand(degrees);
    if (one > best.stand) best = { degrees, stand: one };
  }
  return (best.degrees * PI) / 180;
}
const MOST_TILTED = 120;
