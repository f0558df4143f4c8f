// Words laid over a picture to parts of a pixel: drawn by this project's own filler at known places, sizes and weights.
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, test } from "@jest/globals";
import type { Point } from "./drawing/geometry.ts";
import { fitWords, patchOf, setWords, withoutUnderline } from "./fit.ts";
import { fillPolygons, type Grey } from "./raster.ts";

const own = (name: string) => new Uint8Array(readFileSync(join(process.cwd(), "build", "demo", "built-in", name)));
const words = setWords(own("AsterPlain-Regular.ttf"), 0, "Garden 27")!;
const EM = 72;
const [WIDTH, HEIGHT] = [700, 160];
/** Draws the words with each letter moved, and says where their ink lies. */
function drawn(move: (letter: number) => readonly [number, number], scale: readonly [number, number] = [EM, EM]) {
  const polygons = words.letters.flatMap(({ polygons: outlines }, i) => {
    const [dx, dy] = move(i);
    return outlines.map((one) => one.map(([x, y]): Point => [40 + dx + x * scale[0], 110 + dy + y * scale[1]]));
  });
  const grey = fillPolygons(polygons, WIDTH, HEIGHT);
  return { grey, line: inkBox(grey) };
}
function inkBox({ width, ink }: Grey) {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -1, -1];
  ink.forEach((value, i) => {
    if (value < 0.3) return;
    [x0, x1] = [Math.min(x0, i % width), Math.max(x1, i % width)];
    [y0, y1] = [Math.min(y0, Math.floor(i / width)), Math.max(y1, Math.floor(i / width))];
  });
  return { x: x0, y: y0, width: x1 + 1 - x0, height: y1 + 1 - y0 };
}

describe("words in a picture", () => {
  test("drawn as they are lie on their edges", () => {
    const { grey, line } = drawn(() => [0.3, 0.4]);
    const fit = fitWords(patchOf(grey, line), words, false)!;
    expect(fit.rms).toBeLessThan(0.08);
    expect([Math.abs(fit.bias) < 0.02, Math.abs(fit.scale - EM) < 0.5, fit.unexplained]).toEqual([true, true, 0]);
  });
  test("each letter may stand where a program rounds it to", () => {
    const { grey, line } = drawn((i) => [i % 2 === 0 ? 0 : 0.7, 0]);
    expect(fitWords(patchOf(grey, line), words, false)!.rms).toBeLessThan(0.12);
  });
  test("set apart they lie on their edges only when that is allowed", () => {
    const { grey, line } = drawn((i) => [4 * i, 0]);
    const close = fitWords(patchOf(grey, line), words, false);
    const spaced = fitWords(patchOf(grey, line), words, true)!;
    expect(close === undefined || close.rms > 0.5).toBe(true);
    expect([spaced.rms < 0.12, Math.abs(spaced.spacing * EM - 4) < 0.3]).toEqual([true, true]);
  });
  test("squeezed they are seen to be squeezed", () => {
    const { grey, line } = drawn(() => [0, 0], [EM * 0.95, EM]);
    const fit = fitWords(patchOf(grey, line), words, false);
    expect(fit === undefined || Math.abs(fit.stretch - 0.95) < 0.02).toBe(true);
  });
  test("an underline is left out of account", () => {
    const { grey, line } = drawn(() => [0, 0]);
    for (let y = line.y + line.height + 4; y < line.y + line.height + 8; y++)
      for (let x = line.x; x < line.x + line.width; x++) grey.ink[y * WIDTH + x] = 1;
    const whole = patchOf(grey, inkBox(grey));
    expect(fitWords(withoutUnderline(whole)!, words, false)!.rms).toBeLessThan(0.1);
    expect(withoutUnderline(patchOf(drawn(() => [0, 0]).grey, line))).toBeUndefined();
  });
});
