// The practice room's typesetting against hb-shape (HarfBuzz's own tool): the same glyphs at the same places.
import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { expect, test } from "@jest/globals";
import { openProgramFont } from "../../practice/engine/font.ts";
import { layOut } from "../../practice/engine/layout.ts";

const SIZE = 50;

test.each([
  ["/usr/share/fonts/opentype/cabin/Cabin-Regular.otf", "AVATAR officially"],
  ["/usr/share/fonts/truetype/lato/Lato-BlackItalic.ttf", "Type To Wave"],
  ["/usr/share/fonts/opentype/ebgaramond/EBGaramond12-Regular.otf", "fjord ffi Qu"],
  ["/usr/share/fonts/truetype/culmus/FrankRuehlCLM-Medium.ttf", "שָׁלוֹם"],
])("%s: %s", (path, text) => {
  const judge = JSON.parse(execFileSync("hb-shape", ["--output-format=json", "--no-glyph-names", path, text], { encoding: "utf8" })) as {
    g: number;
    ax: number;
    dx: number;
    dy: number;
  }[];
  const font = openProgramFont(readFileSync(path))!;
  const { runs } = layOut(text, font, [font], SIZE, 5000);
  const glyphs = runs.flatMap((run) => run.glyphs);
  expect(glyphs.map((glyph) => glyph.id)).toEqual(judge.map((one) => one.g));
  const scale = SIZE / font.unitsPerEm;
  let pen = 0;
  for (const [i, one] of judge.entries()) {
    const start = runs.find((run) => run.glyphs.includes(glyphs[i]!))!.x - runs[0]!.x;
    expect(glyphs[i]!.x + start).toBeCloseTo((pen + one.dx) * scale, 3);
    expect(glyphs[i]!.y).toBeCloseTo(one.dy * scale, 3);
    expect(glyphs[i]!.advance).toBeCloseTo(one.ax * scale, 3);
    pen += one.ax;
  }
});
