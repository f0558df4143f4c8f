import { describe, expect, test } from "@jest/globals";
import { PDFDocument, PDFName, StandardFonts } from "pdf-lib";
import { judgeFonts, type WantedName } from "./judge.ts";
import { readPdf, type PdfFont } from "./pdf.ts";

const wanted: WantedName = {
  family: "Furrow",
  style: "Bold",
  legacyFamily: "Furrow",
  legacyStyle: "Bold",
  fullName: "Furrow Bold",
  postScriptName: "Furrow-Bold",
};
const regular: WantedName = { ...wanted, style: "Regular", legacyStyle: "Regular", fullName: "Furrow", postScriptName: "Furrow-Regular" };
const font = (name: string, embedded = true): PdfFont => ({ name, embedded, subset: true, type: "TrueType" });

describe("judging a document's fonts", () => {
  test.each(["Furrow-Bold", "FurrowBold", "Furrow,Bold", "Furrow Bold", "furrow-bold"])("%s is the wanted style", (name) => {
    expect(judgeFonts([font("Aster"), font(name)], wanted)).toMatchObject({ ok: true, value: { result: "seen" } });
  });
  test.each(["Furrow", "Furrow-BoldItalic", "Furrow-Regular", "Aster-Bold"])("%s is another", (name) => {
    expect(judgeFonts([font(name)], wanted)).toMatchObject({ ok: true, value: { result: "swapped", instead: [name] } });
  });
  test("the family's name alone stands for its regular style", () => {
    expect(judgeFonts([font("Furrow")], regular)).toMatchObject({ ok: true, value: { result: "seen" } });
  });
  test("a name without the font proves nothing", () => {
    expect(judgeFonts([font("Furrow-Bold", false)], wanted)).toMatchObject({ ok: false, problem: { code: "evidence-named-only" } });
  });
});

describe("reading a PDF", () => {
  async function pdf(build: (document: PDFDocument) => Promise<void>): Promise<Uint8Array> {
    const document = await PDFDocument.create();
    await build(document);
    return document.save();
  }
  test("finds fonts on pages and inside forms, each once", async () => {
    const inner = await PDFDocument.create();
    const times = await inner.embedFont(StandardFonts.TimesRoman);
    inner.addPage().drawText("inside a form", { font: times });
    const bytes = await pdf(async (document) => {
      const page = document.addPage();
      page.drawText("on the page", { font: await document.embedFont(StandardFonts.Helvetica) });
      document.addPage().drawText("again", { font: await document.embedFont(StandardFonts.Helvetica) });
      const [form] = await document.embedPdf(await inner.save());
      page.drawPage(form!);
    });
    const read = await readPdf(bytes);
    expect(read).toMatchObject({ ok: true, value: { pages: 2 } });
    if (!read.ok) return;
    expect(read.value.fonts.map((one) => one.name).sort()).toEqual(["Helvetica", "Times-Roman"]);
    expect(read.value.fonts.every((one) => !one.embedded)).toBe(true);
  });
  test("says what is wrong with everything else", async () => {
    const outlines = await pdf(async (document) => void document.addPage().drawLine({ start: { x: 0, y: 0 }, end: { x: 9, y: 9 } }));
    const locked = await pdf(async (document) => {
      document.addPage();
      document.context.trailerInfo.Encrypt = document.context.register(document.context.obj({ Filter: "Standard", V: 1 }));
      document.catalog.set(PDFName.of("Lang"), PDFName.of("en"));
    });
    const codes: string[] = [];
    for (const bytes of [outlines, locked, new TextEncoder().encode("%PDF-1.7\nrubbish"), new TextEncoder().encode("hello")]) {
      const read = await readPdf(bytes);
      codes.push(read.ok ? "none" : read.problem.code);
    }
    expect(codes).toEqual(["pdf-no-fonts", "pdf-locked", "pdf-damaged", "not-a-pdf"]);
  });
});
