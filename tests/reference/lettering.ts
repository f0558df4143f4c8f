// Pictures of words in a font file, drawn by another hand (draw_lettering.py).
import { execFileSync } from "node:child_process";
import { join } from "node:path";
import type { Frame } from "../../core/matching/picture/framed.ts";

export interface Drawn {
  path: string;
  /** Around the words, as a person would draw it. */
  frame: [[number, number], [number, number], [number, number], [number, number]] & Frame;
}
let count = 0;
export function drawWords(
  dir: string,
  wanted: readonly { font: string; words: string; photo: boolean; size?: number; seed?: number }[],
): Drawn[] {
  const input = wanted.map(({ font, words, photo, size = 90, seed = 5 }) => ({
    path: font,
    words,
    photo,
    size,
    seed,
    renderer: "pillow",
    out: join(dir, `words-${count++}.${photo ? "jpg" : "png"}`),
  }));
  const lines = execFileSync("/usr/bin/python3", ["tests/reference/draw_lettering.py"], { input: JSON.stringify(input), encoding: "utf8" });
  return lines
    .trim()
    .split("\n")
    .map((line) => {
      const { out, frame, error } = JSON.parse(line) as { out: string; frame?: Drawn["frame"]; error?: string };
      if (!frame) throw new Error(error);
      return { path: out, frame };
    });
}
