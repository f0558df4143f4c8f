// Documents written by other hands' libraries (odfpy, python-docx, openpyxl, EbookLib): the fonts found are those their writers set. Probe
// documents are read back by the same libraries.
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, expect, test } from "@jest/globals";
import { makeProbe } from "../../core/evidence/probe.ts";
import { readEvidence } from "../../core/evidence/read.ts";

const dir = mkdtempSync(join(tmpdir(), "buvano-documents-"));
afterAll(() => rmSync(dir, { recursive: true }));
const python = (script: string, ...args: string[]): string =>
  execFileSync("/usr/bin/python3", ["-c", script, ...args], { encoding: "utf8" });
async function found(path: string): Promise<string[]> {
  const read = await readEvidence(path, readFileSync(path));
  if (!read.ok) throw new Error(read.problem.message);
  return read.value.fonts.map((font) => font.name).sort();
}

test("OpenDocument text by odfpy: a style, its parent, a span; what is declared and unused does not count", async () => {
  const path = join(dir, "a.odt");
  python(
    `
import sys
from odf.opendocument import OpenDocumentText
from odf.style import Style, TextProperties, FontFace
from odf.text import P, Span
d = OpenDocumentText()
for n in ("F1", "F2", "F3", "F4"):
    d.fontfacedecls.addElement(FontFace(name=n, fontfamily="'%s'" % {"F1": "Furrow", "F2": "Meadow", "F3": "Never", "F4": "Quince"}[n]))
base = Style(name="Base", family="paragraph"); base.addElement(TextProperties(fontname="F1")); d.styles.addElement(base)
child = Style(name="Child", family="paragraph", parentstylename="Base"); child.addElement(TextProperties(fontweight="bold")); d.automaticstyles.addElement(child)
span = Style(name="T1", family="text"); span.addElement(TextProperties(fontname="F2", fontstyle="italic")); d.automaticstyles.addElement(span)
unused = Style(name="Un", family="paragraph"); unused.addElement(TextProperties(fontname="F3")); d.automaticstyles.addElement(unused)
p = P(stylename="Child", text="bold words "); p.addElement(Span(stylename="T1", text="slanted")); d.text.addElement(p)
d.text.addElement(P(stylename="Base", text="plain")); d.text.addElement(P(stylename="Un", text=""))
d.save(sys.argv[1])`,
    path,
  );
  expect(await found(path)).toEqual(["Furrow", "Furrow Bold", "Meadow Bold Italic"]);
});

test("Office Open XML text by python-docx: runs, a character style, the paragraph's style", async () => {
  const path = join(dir, "a.docx");
  python(
    `
import sys
from docx import Document
from docx.enum.style import WD_STYLE_TYPE
d = Document()
d.styles["Normal"].font.name = "Furrow"
s = d.styles.add_style("Note", WD_STYLE_TYPE.CHARACTER); s.font.name = "Quince"
p = d.add_paragraph("normal ")
r = p.add_run("own"); r.font.name = "Meadow"; r.font.bold = True; r.font.italic = True
p.add_run("styled", style="Note")
d.save(sys.argv[1])`,
    path,
  );
  expect(await found(path)).toEqual(["Furrow", "Meadow Bold Italic", "Quince"]);
});

test("a sheet by openpyxl: the fonts of cells that hold something", async () => {
  const path = join(dir, "a.xlsx");
  python(
    `
import sys
from openpyxl import Workbook
from openpyxl.styles import Font
w = Workbook(); s = w.active
s["A1"] = "x"; s["A1"].font = Font(name="Furrow", bold=True)
s["A2"] = 4.5; s["A2"].font = Font(name="Meadow", italic=True)
s["A3"].font = Font(name="Never")
w.save(sys.argv[1])`,
    path,
  );
  expect(await found(path)).toEqual(["Furrow Bold", "Meadow Italic"]);
});

test("an EPUB by EbookLib: its sheet's font lies in the book, its page's does not", async () => {
  const path = join(dir, "a.epub");
  python(
    `
import sys
from ebooklib import epub
b = epub.EpubBook(); b.set_identifier("x"); b.set_title("x"); b.set_language("en")
css = epub.EpubItem(uid="css", file_name="style/a.css", media_type="text/css", content="@font-face{font-family:Furrow;src:url(../fonts/f.otf)} p{font-family:Furrow}")
font = epub.EpubItem(uid="f", file_name="fonts/f.otf", media_type="font/otf", content=b"OTTO")
c = epub.EpubHtml(title="One", file_name="one.xhtml"); c.content = "<p>x <span style='font-family: Meadow'>y</span></p>"; c.add_item(css)
for i in (css, font, c): b.add_item(i)
b.spine = [c]; b.toc = []; b.add_item(epub.EpubNcx()); b.add_item(epub.EpubNav())
epub.write_epub(sys.argv[1], b)`,
    path,
  );
  const read = await readEvidence(path, readFileSync(path));
  expect(read).toMatchObject({ ok: true });
  if (read.ok)
    expect(read.value.fonts.map((font) => [font.name, font.embedded])).toEqual([
      ["Furrow", true],
      ["Meadow", false],
    ]);
});

test("probe documents are documents to those libraries, with the fonts where they belong", () => {
  const styles = [
    { menuName: "Furrow & Co", bold: true, italic: false, fullName: "Furrow & Co Bold", words: "Wild שביל", rightToLeft: false },
  ];
  for (const kind of ["odt", "docx"] as const) writeFileSync(join(dir, `probe.${kind}`), makeProbe(kind, "Fonts", styles));
  const docx = python(
    `
import sys
from docx import Document
for p in Document(sys.argv[1]).paragraphs:
    for r in p.runs: print(r.font.name, r.font.bold, r.text)`,
    join(dir, "probe.docx"),
  );
  expect(docx).toContain("Furrow & Co True Wild שביל");
  const odt = python(
    `
import sys
from odf.opendocument import load
from odf.style import TextProperties
d = load(sys.argv[1])
for e in (d.automaticstyles, d.contentautomaticstyles) if hasattr(d, "contentautomaticstyles") else (d.automaticstyles,):
    for t in e.getElementsByType(TextProperties): print(t.getAttribute("fontname"), t.getAttribute("fontweight"))
from odf import teletype
from odf.text import P
for p in d.text.getElementsByType(P): print(teletype.extractText(p))`,
    join(dir, "probe.odt"),
  );
  expect(odt).toContain("Furrow & Co bold");
  expect(odt).toContain("Wild שביל");
});
