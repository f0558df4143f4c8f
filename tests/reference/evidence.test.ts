// The evidence reader against pdffonts (poppler-utils), on pages printed by Chromium with and without the font installed
// for that user.
import { readFileSync } from "node:fs";
import { describe, expect, test } from "@jest/globals";
import { judgeFonts } from "../../core/evidence/judge.ts";
import { readPdf } from "../../core/evidence/pdf.ts";
import { inspectFont } from "../../core/inspect.ts";
import { pdffonts, printPage } from "./chromium.ts";

async function judged(font: string, installed: boolean) {
  const bytes = readFileSync(font);
  const inspected = inspectFont(bytes, "font");
  if (!inspected.ok) throw new Error(inspected.problem.message);
  const style = inspected.value[0]!;
  const css = `font-weight: ${style.weight}; font-style: ${style.italic ? "italic" : "normal"}`;
  const words = style.ranges.includes(0x5d0) ? "שביל הזרעים" : "Wild fennel";
  const { pdf, done } = printPage(style.family, words, installed ? [font] : [], css);
  try {
    const read = await readPdf(readFileSync(pdf));
    if (!read.ok) throw new Error(read.problem.message);
    const judge = pdffonts(pdf);
    expect(read.value.fonts.length).toBe(judge.length);
    // pdffonts gives Type 3 fonts no name, though their descriptors hold one.
    for (const { name, embedded } of judge)
      if (name !== "[none]") expect(read.value.fonts).toContainEqual(expect.objectContaining({ name, embedded }));
    const nameless = judge.filter((one) => one.name === "[none]").length;
    expect(read.value.fonts.filter((one) => one.type === "Type 3").length).toBe(nameless);
    return { style, verdict: judgeFonts(read.value.fonts, style) };
  } finally {
    done();
  }
}

describe.each([
  "/usr/share/fonts/opentype/cabin/Cabin-Regular.otf",
  "/usr/share/fonts/opentype/cabin/Cabin-BoldItalic.otf",
  "/usr/share/fonts/truetype/lato/Lato-Light.ttf",
  "/usr/share/fonts/truetype/culmus/DavidCLM-Medium.otf",
])("%s", (font) => {
  test("installed: seen", async () => {
    const { verdict } = await judged(font, true);
    expect(verdict).toMatchObject({ ok: true, value: { result: "seen" } });
  }, 90_000);
  test("not installed: swapped, naming the stand-in", async () => {
    const { verdict } = await judged(font, false);
    expect(verdict).toMatchObject({ ok: true, value: { result: "swapped" } });
    if (!verdict.ok) return;
    expect(verdict.value.instead.length).toBeGreaterThan(0);
    for (const name of verdict.value.instead) expect(name).toMatch(/^DejaVu/);
  }, 90_000);
});
