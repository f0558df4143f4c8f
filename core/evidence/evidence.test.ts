// Names that lead to a style, and what is said of a PDF that shows nothing; what pages draw is checked in tests/reference.
import { describe, expect, test } from "@jest/globals";
import { PDFDocument, StandardFonts } from "pdf-lib";
import { foreign, olderThan } from "./belonging.ts";
import { drawPdf, pdfDate } from "./drawing/document.ts";
import { kinOf, type WantedName } from "./names.ts";
import { readEvidence } from "./read.ts";

const wanted: WantedName = {
  family: "Furrow",
  style: "Bold",
  legacyFamily: "Furrow",
  legacyStyle: "Bold",
  fullName: "Furrow Bold",
  postScriptName: "Furrow-Bold",
};
const regular: WantedName = { ...wanted, style: "Regular", legacyStyle: "Regular", fullName: "Furrow", postScriptName: "Furrow-Regular" };

describe("a font's name", () => {
  test.each(["Furrow-Bold", "FurrowBold", "Furrow,Bold", "Furrow Bold", "furrow-bold", "ABCDEF+Furrow-Bold", "Furrow-Bold-Identity-H"])(
    "%s leads to the style",
    (name) => expect(kinOf(name, wanted)).toBe("style"),
  );
  test.each(["Furrow", "Furrow-BoldItalic", "Furrow-Regular"])("%s leads to the family", (name) =>
    expect(kinOf(name, wanted)).toBe("family"),
  );
  test.each(["Aster-Bold", "", "Bold"])("“%s” leads nowhere", (name) => expect(kinOf(name, wanted)).toBe("none"));
  test("the family's name alone stands for its regular style", () => expect(kinOf("Furrow", regular)).toBe("style"));
});

describe("reading a PDF", () => {
  async function pdf(build: (document: PDFDocument) => Promise<void>): Promise<Uint8Array> {
    const document = await PDFDocument.create();
    await build(document);
    return document.save();
  }
  test("finds the fonts of pages and forms with their letters, each once, and what made the file", async () => {
    const inner = await PDFDocument.create();
    const times = await inner.embedFont(StandardFonts.TimesRoman);
    inner.addPage().drawText("inside a form", { font: times });
    const bytes = await pdf(async (document) => {
      document.setCreator("Furrow Desk");
      document.setProducer("x");
      document.setModificationDate(new Date("2026-04-01T10:00:00Z"));
      document.setCreationDate(new Date("2026-03-01T10:00:00Z"));
      const page = document.addPage();
      page.drawText("on the page", { font: await document.embedFont(StandardFonts.Helvetica) });
      document.addPage().drawText("again", { font: await document.embedFont(StandardFonts.Helvetica) });
      const [form] = await document.embedPdf(await inner.save());
      page.drawPage(form!);
    });
    const read = await readEvidence("a.pdf", bytes);
    if (!read.ok || !read.value.drawn) throw new Error("It was not read.");
    expect(read.value.fonts.map((one) => [one.name, one.embedded]).sort()).toEqual([
      ["Helvetica", false],
      ["Times-Roman", false],
    ]);
    expect(read.value.origin).toMatchObject({ creator: "Furrow Desk", at: "2026-04-01T10:00:00.000Z" });
    expect(read.value.drawn.pages).toBe(2);
    const words = read.value.drawn.letters.map(({ text, page }) => `${text}${page}`).join("");
    expect(words).toContain("a2g2a2i2n2");
  });
  test("says what is wrong with everything else", async () => {
    const codes: string[] = [];
    for (const bytes of [new TextEncoder().encode("%PDF-1.7\nrubbish"), new TextEncoder().encode("hello")]) {
      const read = await drawPdf(bytes);
      codes.push(read.ok ? "none" : read.problem.code);
    }
    expect(codes).toEqual(["pdf-damaged", "not-a-pdf"]);
  });
  test.each([
    ["D:20261126144229+01'00'", "2026-11-26T13:42:29.000Z"],
    ["D:20261126144229Z", "2026-11-26T14:42:29.000Z"],
    ["D:2026", "2026-01-01T00:00:00.000Z"],
    ["D:20269926", ""],
    ["yesterday", ""],
  ])("the date %s", (text, date) => expect(pdfDate(text)).toBe(date));
});

describe("whether a file belongs here", () => {
  test("one made well before the font came does not; one that does not say may", () => {
    expect(olderThan("2026-03-01T10:00:00Z", "2026-03-02T10:00:00Z")).toBe(true);
    expect(olderThan("2026-03-02T09:59:00Z", "2026-03-02T10:00:00Z")).toBe(false);
    expect(olderThan("", "2026-03-02T10:00:00Z")).toBe(false);
  });
  test("versions of one program are one program", () => {
    expect(foreign("Furrow Desk 7.2", "Furrow Desk 6")).toBe(false);
    expect(foreign("Furrow Desk, drawing library 1.16", "Furrow Desk")).toBe(false);
    expect(foreign("Meadow Press", "Furrow Desk")).toBe(true);
    expect(foreign("", "Furrow Desk")).toBe(false);
  });
});
