// Writes set text as SVG (W3C SVG 1.1, "Text" and "Fonts"): one text element a run, its font as a CSS font face with its bytes in it.
import { escaped as xml } from "../../core/words/markup.ts";
import { FAKE } from "./drawing.ts";
import type { ProgramFont } from "./font.ts";
import type { Layout } from "./layout.ts";
import { subsetFont } from "../../core/bench/subset.ts";

const n = (value: number): string => String(Math.round(value * 100) / 100);
const familyOf = (font: ProgramFont): string =>
  font.instance ? `${font.name(16) || font.name(1)} ${font.instance}` : font.name(4) || font.name(1);

async function fontFace(font: ProgramFont, glyphs: ReadonlySet<number>): Promise<string> {
  const bytes = await subsetFont(font.bytes, glyphs, font.variations);
  const type = new TextDecoder("latin1").decode(font.bytes.subarray(0, 4)) === "OTTO" ? "font/otf" : "font/ttf";
  const source = `url(data:${type};base64,${Buffer.from(bytes).toString("base64")})`;
  return `@font-face { font-family: "${familyOf(font).replace(/["\\]/g, "\\$&")}"; src: ${source}; }`;
}

/** The whole drawing as one SVG document, sizes in points. */
export async function writeSvg(layout: Layout, sizePt: number, faked: readonly string[], embeds: boolean): Promise<string> {
  const fonts = [...new Set(layout.runs.map((run) => run.font))];
  const faces: string[] = [];
  for (const font of embeds ? fonts : []) {
    faces.push(
      await fontFace(font, new Set(layout.runs.filter((run) => run.font === font).flatMap((run) => run.glyphs.map((glyph) => glyph.id)))),
    );
  }
  const runs = layout.runs
    .filter((run) => run.text.trim() !== "")
    .map((run) => {
      const asked = run.how === "asked";
      const bold = faked.includes("bold") && asked ? ` stroke="#000" stroke-width="${n(sizePt * FAKE.boldEm)}"` : "";
      const family = xml(`'${familyOf(run.font).replace(/['\\]/g, "\\$&")}'`);
      return `<text x="${n(run.x)}" y="${n(run.baseline)}" font-family="${family}" font-size="${n(sizePt)}"${bold}>${xml(run.text)}</text>`;
    });
  const style = faces.length > 0 ? `\n<style>${xml(faces.join("\n"))}</style>` : "";
  const box = `0 0 ${n(layout.widthPt)} ${n(layout.heightPt)}`;
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${box}" width="${n(layout.widthPt)}pt" height="${n(layout.heightPt)}pt">${style}\n${runs.join("\n")}\n</svg>\n`;
}
