// Outlines of letters in every Debian font, against fontTools' own pens: the same areas and the same boxes.
import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { expect, test } from "@jest/globals";
import { attempt } from "../../core/problem.ts";
import { openContainer } from "../../core/sfnt/container.ts";
import { Face } from "../../core/sfnt/face.ts";
import { boxOf, signedAreas } from "../../core/sfnt/outline.ts";
import { corpusFonts } from "../load/corpus.ts";

const LETTERS = "AEHRSaegk08&éשق";
/** fontTools: pens.areaPen (signed area, curves exact) and pens.boundsPen.ControlBoundsPen. */
const SCRIPT = `
import sys, json
from fontTools.ttLib import TTFont
from fontTools.pens.areaPen import AreaPen
from fontTools.pens.boundsPen import ControlBoundsPen
for path in sys.stdin.read().split("\\n"):
    font = TTFont(path, fontNumber=0, lazy=True)
    if "glyf" not in font and "CFF " not in font: continue
    glyphs, cmap, out = font.getGlyphSet(), font.getBestCmap() or {}, {}
    for letter in ${JSON.stringify(LETTERS)}:
        name = cmap.get(ord(letter))
        if name is None: continue
        area, bounds = AreaPen(glyphs), ControlBoundsPen(glyphs)
        glyphs[name].draw(area); glyphs[name].draw(bounds)
        out[letter] = [area.value, bounds.bounds]
    print(json.dumps([path, out]))
`;

test("areas and boxes of letters", () => {
  const input = corpusFonts().join("\n");
  const lines = execFileSync("/usr/bin/python3", ["-c", SCRIPT], { input, encoding: "utf8", maxBuffer: 1 << 28 })
    .trim()
    .split("\n");
  let compared = 0;
  const wrong: string[] = [];
  for (const line of lines) {
    const [path, letters] = JSON.parse(line) as [string, Record<string, [area: number, box: [number, number, number, number] | null]>];
    const face = new Face(openContainer(readFileSync(path)), 0);
    for (const [letter, [area, box]] of Object.entries(letters)) {
      const result = attempt(() => face.outline(face.cmap!.glyph(letter.codePointAt(0)!))!, { code: "", message: "", next: "" });
      if (!result.ok) {
        wrong.push(`${path} ${letter}: ${result.problem.message}`);
        continue;
      }
      compared++;
      const sum = signedAreas(result.value).reduce((a, b) => a + b, 0);
      // fontTools rounds components' points to whole units; a unit along the edge of a letter is within this.
      if (Math.abs(sum - area) > 2 + 0.002 * Math.abs(area)) wrong.push(`${path} ${letter}: area ${sum}, not ${area}`);
      const found = boxOf(result.value);
      const [xMin, yMin, xMax, yMax] = box ?? [];
      const off = found ? Math.max(...[found.xMin - xMin!, found.yMin - yMin!, found.xMax - xMax!, found.yMax - yMax!].map(Math.abs)) : 0;
      if ((found === undefined) !== (box === null) || off > 1)
        wrong.push(`${path} ${letter}: box ${JSON.stringify(found)}, not ${JSON.stringify(box)}`);
    }
  }
  expect(wrong).toEqual([]);
  expect(compared).toBeGreaterThan(2000);
}, 180_000);
