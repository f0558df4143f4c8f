// What documents that name fonts ask for: the slots, themes, styles, cascades and embedded fonts of the published formats, each with the truth
// that follows from the section named beside it. Text, slides and pages are written by docx, PptxGenJS and by hand.
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { createRequire } from "node:module";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, expect, test } from "@jest/globals";
import { Document, Footer, LevelFormat, Packer, Paragraph, TextRun } from "docx";
import { unzipSync, zipSync } from "fflate";
import type PptxGenJS from "pptxgenjs";
import { WantedFont } from "../../core/evidence/drawing/programs.ts";
import { judgeEvidence, readEvidence } from "../../core/evidence/read.ts";
import type { EvidenceState } from "../../core/evidence/verdict.ts";
import { inspectFont } from "../../core/inspect.ts";

const Deck = createRequire(import.meta.url)("pptxgenjs") as typeof PptxGenJS;
const LATO = "/usr/share/fonts/truetype/lato/Lato";
const [REGULAR, BOLD, HEBREW] = [`${LATO}-Regular.ttf`, `${LATO}-Bold.ttf`, "/usr/share/fonts/truetype/culmus/FrankRuehlCLM-Medium.ttf"];
const CABIN = "/usr/share/fonts/opentype/cabin/Cabin-Regular.otf";
const dir = mkdtempSync(join(tmpdir(), "buvano-asked-"));
afterAll(() => rmSync(dir, { recursive: true }));
const bytesOf = (path: string) => new Uint8Array(readFileSync(path));
const utf8 = (text: string) => new TextEncoder().encode(text);
const zip = (files: Record<string, string | Uint8Array>) =>
  zipSync(Object.fromEntries(Object.entries(files).map(([name, body]) => [name, typeof body === "string" ? utf8(body) : body])));

interface Case {
  name: string;
  bytes: () => Promise<Uint8Array> | Uint8Array;
  file: string;
  answers: EvidenceState[];
  wanted?: string;
  words?: string;
}
const CASES: Case[] = [];
const add = (file: string, name: string, bytes: Case["bytes"], answers: EvidenceState[], more: Partial<Case> = {}) =>
  CASES.push({ file, name, bytes, answers, ...more });

// Pages: CSS Cascading and Inheritance, CSS Fonts Module.
const page = (head: string, body: string) => utf8(`<!doctype html><html><head>${head}</head><body>${body}</body></html>`);
const html = (name: string, head: string, body: string, answers: EvidenceState[], more: Partial<Case> = {}) =>
  add("a.html", name, () => page(head, body), answers, more);
const data = (path: string, type = "font/ttf") => `url(data:${type};base64,${Buffer.from(bytesOf(path)).toString("base64")})`;
const face = (source: string, more = "") => `<style>@font-face{font-family:Lato;src:${source};${more}} p{font-family:Lato}</style>`;
html("a rule that matches", "<style>p{font-family:Lato}</style>", "<p>Wild fennel", ["asked-for"]);
html("a rule that matches nothing", "<style>.x{font-family:Lato} p{font-family:Cabin}</style>", "<p>Wild fennel", ["not-in-it"]);
html("a later rule wins", "<style>p{font-family:Lato} p{font-family:Cabin}</style>", "<p>Wild fennel", ["not-in-it"]);
html("the more specific rule wins", "<style>p.a{font-family:Lato} p{font-family:Cabin}</style>", "<p class=a>Wild fennel", ["asked-for"]);
html("an important one wins", "<style>p{font-family:Lato!important} p.a{font-family:Cabin}</style>", "<p class=a>Wild fennel", [
  "asked-for",
]);
html("inherited", "<style>body{font-family:Lato}</style>", "<div><p>Wild <b>", ["asked-for"]);
html("a heading is bold by itself", "<style>body{font-family:Lato}</style>", "<h1>Wild fennel</h1>", ["asked-for"], { wanted: BOLD });
html("a heading is not the regular", "<style>body{font-family:Lato}</style>", "<h1>Wild fennel</h1>", ["not-in-it"]);
html("the shorthand", "<style>p{font: bold 2em/1.2 'Lato', serif}</style>", "<p>Wild fennel", ["asked-for"], { wanted: BOLD });
html("the shorthand sets the weight back", "<style>p{font-weight:bold; font: 12px Lato}</style>", "<p>Wild fennel", ["asked-for"]);
html("second in its list", "<style>p{font-family:Cabin, Lato}</style>", "<p>Wild fennel", ["cannot-tell"]);
html("a generic family", "<style>p{font-family:sans-serif}</style>", "<p>Wild fennel", ["cannot-tell"]);
html("no font at all", "", "<p>Wild fennel", ["cannot-tell"]);
html("not shown", "<style>p{font-family:Lato;display:none} b{font-family:Cabin}</style>", "<p>Wild</p><b>x</b>", ["not-in-it"]);
html("hidden, in a part that shows", "<style>p{font-family:Lato;visibility:hidden}</style>", "<p>Wild<p style='visibility:visible'>x", [
  "asked-for",
]);
html("white", "<style>p{font-family:Lato;color:#fff}</style>", "<p>Wild fennel", ["cannot-tell"]);
html("for print alone", "<style>@media print{p{font-family:Lato}} p{font-weight:400}</style>", "<p style='font-family:Cabin'>Wild", [
  "not-in-it",
]);
html("a custom property", "<style>:root{--f:Lato} p{font-family:var(--f)}</style>", "<p>Wild fennel", ["asked-for"]);
html("the old element", "", "<p><font face='Lato'>Wild fennel</font>", ["asked-for"]);
html("declared, not used", face("local(Lato)"), "<b style='font-family:Cabin'>x</b>", ["not-in-it"]);
html("its file in the page", face(data(REGULAR)), "<p>Wild fennel", ["seen"]);
html("its file in the page, the words asked for", face(data(REGULAR)), "<p>Wild fennel", ["seen"], { words: "Wild fennel" });
html("its file in the page, other words", face(data(REGULAR)), "<p>Wild fennel", ["cannot-tell"], { words: "Quick zebra" });
html("another font's file under its name", face(data(CABIN)), "<p>Wild fennel", ["swapped"]);
html("its bold's file under its name", face(data(BOLD)), "<p>Wild fennel", ["swapped"]);
html("an empty address", face("url('')"), "<p>Wild fennel", ["asked-for"]);
html("a file that is not there", face("url(c.ttf)"), "<p>Wild fennel", ["asked-for"]);
html("an empty file", face("url(data:font/ttf;base64,)"), "<p>Wild fennel", ["asked-for"]);
html("a file that is no font", face("url(data:font/ttf;base64,AAAA)"), "<p>Wild fennel", ["asked-for"]);
html("its file, letters it has not", face(data(REGULAR)), "<p>Wild שביל", ["cannot-tell"]);
html("its file for other letters (unicode-range)", face(data(REGULAR), "unicode-range:U+400-4FF"), "<p>Wild fennel", [
  "cannot-tell",
  "asked-for",
]);
html("its file for bold text only", face(data(BOLD), "font-weight:700"), "<p>Wild fennel", ["asked-for"]);
add("a.css", "a style sheet", () => utf8("p{font-family:Lato}"), ["asked-for"]);
html("its file in it, after what is installed", face(`local("Lato"), ${data(REGULAR)}`), "<p>Wild fennel", ["asked-for"]);
html("its file in it, before what is installed", face(`${data(REGULAR)}, local("Lato")`), "<p>Wild fennel", ["seen"]);
html("only what is installed", face(`local("Lato Regular")`), "<p>Wild fennel", ["asked-for"]);
add("a.css", "a style sheet that only declares it", () => utf8(`@font-face{font-family:Lato;src:${data(REGULAR)}}`), ["not-in-it"]);

// Drawings: SVG 2, "Text".
const svg = (name: string, body: string, answers: EvidenceState[], more: Partial<Case> = {}) =>
  add("a.svg", name, () => utf8(`<svg xmlns="http://www.w3.org/2000/svg">${body}</svg>`), answers, more);
svg("a presentation attribute", '<text font-family="Lato">Wild</text>', ["asked-for"]);
svg("a rule before the attribute", '<style>text{font-family:Cabin}</style><text font-family="Lato">Wild</text>', ["not-in-it"]);
svg("from the group", '<g font-family="Lato" font-weight="700"><text><tspan>Wild</tspan></text></g>', ["asked-for"], { wanted: BOLD });
svg("defined and not drawn", '<defs><text font-family="Lato">Wild</text></defs><text font-family="Cabin">x</text>', ["not-in-it"]);
svg("its file in it", `<style>@font-face{font-family:Lato;src:${data(REGULAR)}}</style><text style="font-family:Lato">Wild</text>`, [
  "seen",
]);

// Text by docx.
const docx = (name: string, make: () => Document, answers: EvidenceState[], more: Partial<Case> = {}) =>
  add("a.docx", name, async () => new Uint8Array(await Packer.toBuffer(make())), answers, more);
const written = (children: Paragraph[], styles = {}) => new Document({ styles, sections: [{ children }] });
const run = (options: object) => new Paragraph({ children: [new TextRun({ text: "Wild fennel", ...options })] });
docx("a run", () => written([run({ font: "Lato" })]), ["asked-for"]);
docx("a bold run", () => written([run({ font: "Lato", bold: true })]), ["asked-for"], { wanted: BOLD });
docx("a bold run is not the regular", () => written([run({ font: "Lato", bold: true })]), ["not-in-it"]);
docx("the document's defaults (17.7.5)", () => written([run({})], { default: { document: { run: { font: "Lato" } } } }), ["asked-for"]);
docx("a hidden run (17.3.2.41)", () => written([run({ font: "Lato", vanish: true }), run({ font: "Cabin" })]), ["not-in-it"]);
docx("a white run", () => written([run({ font: "Lato", color: "FFFFFF" })]), ["cannot-tell"]);
docx(
  "the complex slot for Hebrew (17.3.2.26)",
  () =>
    written([
      new Paragraph({ children: [new TextRun({ text: "שביל", font: { ascii: "Cabin", hAnsi: "Cabin", cs: "Frank Ruehl CLM" } })] }),
    ]),
  ["asked-for"],
  { wanted: HEBREW },
);
docx("the complex slot is not for Latin", () => written([run({ font: { ascii: "Cabin", hAnsi: "Cabin", cs: "Lato" } })]), ["not-in-it"]);
docx(
  "a footer",
  () =>
    new Document({
      sections: [{ children: [run({ font: "Cabin" })], footers: { default: new Footer({ children: [run({ font: "Lato" })] }) } }],
    }),
  ["asked-for"],
);
docx(
  "a list's mark (17.9)",
  () =>
    new Document({
      numbering: {
        config: [{ reference: "a", levels: [{ level: 0, format: LevelFormat.BULLET, text: "o", style: { run: { font: "Lato" } } }] }],
      },
      sections: [
        { children: [new Paragraph({ numbering: { reference: "a", level: 0 }, children: [new TextRun({ text: "x", font: "Cabin" })] })] },
      ],
    }),
  ["asked-for"],
);
/** The least a document has, for what that library does not write. */
const raw = (body: string, more: Record<string, string | Uint8Array> = {}) =>
  zip({
    "[Content_Types].xml": "<Types/>",
    "word/document.xml": `<w:document xmlns:w="w" xmlns:r="r"><w:body>${body}</w:body></w:document>`,
    ...more,
  });
const para = (properties: string, text = "Wild fennel") => `<w:p><w:r><w:rPr>${properties}</w:rPr><w:t>${text}</w:t></w:r></w:p>`;
const theme =
  '<a:theme xmlns:a="a"><a:fontScheme><a:majorFont><a:latin typeface="Lato"/></a:majorFont><a:minorFont><a:latin typeface="Cabin"/></a:minorFont></a:fontScheme></a:theme>';
add(
  "a.docx",
  "a theme's font before a name (17.3.2.26)",
  () => raw(para('<w:rFonts w:asciiTheme="minorHAnsi" w:ascii="Lato"/>'), { "word/theme/theme1.xml": theme }),
  ["not-in-it"],
);
add(
  "a.docx",
  "a theme's font",
  () => raw(para('<w:rFonts w:asciiTheme="majorHAnsi" w:ascii="Cabin"/>'), { "word/theme/theme1.xml": theme }),
  ["asked-for"],
);
add("a.docx", "a symbol (17.3.3.30)", () => raw('<w:p><w:r><w:sym w:font="Lato" w:char="0041"/></w:r></w:p>'), ["asked-for"]);
add(
  "a.docx",
  "what was deleted",
  () =>
    raw(
      `<w:p><w:del><w:r><w:rPr><w:rFonts w:ascii="Lato"/></w:rPr><w:delText>x</w:delText></w:r></w:del></w:p>${para('<w:rFonts w:ascii="Cabin"/>')}`,
    ),
  ["not-in-it"],
);
const toggles =
  '<w:styles xmlns:w="w"><w:style w:type="paragraph" w:styleId="P"><w:rPr><w:rFonts w:ascii="Lato"/><w:b/></w:rPr></w:style><w:style w:type="character" w:styleId="C"><w:rPr><w:b/></w:rPr></w:style></w:styles>';
add(
  "a.docx",
  "two styles' bold switch each other off (17.7.3)",
  () =>
    raw('<w:p><w:pPr><w:pStyle w:val="P"/></w:pPr><w:r><w:rPr><w:rStyle w:val="C"/></w:rPr><w:t>Wild</w:t></w:r></w:p>', {
      "word/styles.xml": toggles,
    }),
  ["asked-for"],
);
const note = (id: string) =>
  `<w:endnotes xmlns:w="w"><w:endnote w:id="2">${para('<w:rFonts w:ascii="Lato"/>')}</w:endnote></w:endnotes>${id}`;
add(
  "a.docx",
  "an endnote that is referred to",
  () => raw(`<w:p><w:r><w:endnoteReference w:id="2"/></w:r></w:p>`, { "word/endnotes.xml": note("") }),
  ["asked-for"],
);
add("a.docx", "an endnote nothing refers to", () => raw(para('<w:rFonts w:ascii="Cabin"/>'), { "word/endnotes.xml": note("") }), [
  "not-in-it",
]);
/** Mixes a font with a key as the standard says (17.8.1): the 16 bytes of the key, from its end, twice over the first 32. */
const KEY = "{1DB0A1C2-3D4E-5F60-7182-93A4B5C6D7E8}";
function mixed(path: string): Uint8Array {
  const key = [...Buffer.from(KEY.replace(/[{}-]/g, ""), "hex")].reverse();
  return bytesOf(path).map((byte, i) => (i < 32 ? byte ^ key[i % 16]! : byte));
}
const carrying = (file: Uint8Array | undefined, family = "Lato") => ({
  "word/fontTable.xml": `<w:fonts xmlns:w="w" xmlns:r="r"><w:font w:name="${family}"><w:embedRegular r:id="r1" w:fontKey="${KEY}"/></w:font></w:fonts>`,
  "word/_rels/fontTable.xml.rels": '<Relationships><Relationship Id="r1" Type="x/font" Target="fonts/font1.odttf"/></Relationships>',
  ...(file ? { "word/fonts/font1.odttf": file } : {}),
});
const asking = para('<w:rFonts w:ascii="Lato"/>');
add("a.docx", "its file in the document (17.8.1)", () => raw(asking, carrying(mixed(REGULAR))), ["seen"]);
add("a.docx", "another's file under its name", () => raw(asking, carrying(mixed(CABIN))), ["swapped"]);
add("a.docx", "its file is missing", () => raw(asking, carrying(undefined)), ["asked-for"]);
add("a.docx", "its file is empty", () => raw(asking, carrying(new Uint8Array(0))), ["asked-for"]);
add("a.docx", "its file in the document, and no text in it", () => raw(para('<w:rFonts w:ascii="Cabin"/>'), carrying(mixed(REGULAR))), [
  "not-in-it",
]);
add(
  "a.docx",
  "its file in the document, bold text",
  () => raw(para('<w:rFonts w:ascii="Lato"/><w:b/>'), carrying(mixed(REGULAR))),
  ["asked-for"],
  { wanted: BOLD },
);

// Slides by PptxGenJS.
const slides = (
  name: string,
  make: (deck: PptxGenJS) => void,
  answers: EvidenceState[],
  more: Partial<Case> = {},
  change?: (files: Record<string, Uint8Array>) => void,
) =>
  add(
    "a.pptx",
    name,
    async () => {
      const deck = new Deck();
      make(deck);
      const made = new Uint8Array((await deck.write({ outputType: "nodebuffer" })) as Buffer);
      if (!change) return made;
      const files = unzipSync(made);
      change(files);
      return zipSync(files);
    },
    answers,
    more,
  );
const replaced = (files: Record<string, Uint8Array>, pattern: RegExp, change: (text: string) => string) => {
  for (const name of Object.keys(files)) if (pattern.test(name)) files[name] = utf8(change(new TextDecoder().decode(files[name])));
};
slides("a text of its own", (deck) => void deck.addSlide().addText("Wild fennel", { fontFace: "Lato" }), ["asked-for"]);
slides("a bold text", (deck) => void deck.addSlide().addText("Wild fennel", { fontFace: "Lato", bold: true }), ["asked-for"], {
  wanted: BOLD,
});
slides(
  "the theme's font",
  (deck) => {
    deck.theme = { bodyFontFace: "Lato" };
    deck.addSlide().addText("Wild fennel", {});
  },
  ["asked-for"],
);
slides(
  "a hidden slide",
  (deck) => {
    deck.addSlide().addText("Wild", { fontFace: "Cabin" });
    const slide = deck.addSlide();
    slide.hidden = true;
    slide.addText("Wild", { fontFace: "Lato" });
  },
  ["not-in-it"],
);
slides("a table", (deck) => void deck.addSlide().addTable([[{ text: "Wild", options: { fontFace: "Lato" } }]]), ["asked-for"]);
slides(
  "the master's text beside its placeholders",
  (deck) => {
    deck.defineSlideMaster({ title: "M", objects: [{ text: { text: "Wild", options: { fontFace: "Lato" } } }] });
    deck.addSlide({ masterName: "M" }).addText("x", { fontFace: "Cabin" });
  },
  ["asked-for"],
);
slides(
  "the presentation's text style",
  (deck) => void deck.addSlide().addText("Wild fennel", {}),
  ["asked-for"],
  {},
  (files) =>
    replaced(files, /ppt\/slideMasters\/slideMaster1\.xml$/, (text) =>
      text.replace(
        /<p:otherStyle>[\s\S]*<\/p:otherStyle>/,
        '<p:otherStyle><a:lvl1pPr><a:defRPr><a:latin typeface="Lato"/></a:defRPr></a:lvl1pPr></p:otherStyle>',
      ),
    ),
);

// Text by odfpy, with what that library sets by attribute.
const odt = (name: string, script: string, answers: EvidenceState[], more: Partial<Case> = {}) =>
  add(
    "a.odt",
    name,
    () => {
      const path = join(dir, "a.odt");
      const head = `
import sys
from odf.opendocument import OpenDocumentText
from odf.style import Style, TextProperties, FontFace, ParagraphProperties, MasterPage, Footer, PageLayout
from odf.text import P, Span, Note, NoteBody, NoteCitation
d = OpenDocumentText()
for n, f in (("F1", "Lato"), ("F2", "Cabin"), ("F3", "Frank Ruehl CLM")): d.fontfacedecls.addElement(FontFace(name=n, fontfamily="'%s'" % f))
def style(name, parent=None, family="paragraph", common=False, **props):
    s = Style(name=name, family=family, parentstylename=parent) if parent else Style(name=name, family=family)
    s.addElement(TextProperties(**props)); (d.styles if common else d.automaticstyles).addElement(s)
`;
      execFileSync("/usr/bin/python3", ["-c", `${head}\n${script}\nd.save(sys.argv[1])`, path]);
      return bytesOf(path);
    },
    answers,
    more,
  );
odt("a paragraph's style", `style("A", fontname="F1")\nd.text.addElement(P(stylename="A", text="Wild fennel"))`, ["asked-for"]);
odt(
  "a parent's font, bold of its own",
  `style("A", common=True, fontname="F1")\nstyle("B", "A", fontweight="bold")\nd.text.addElement(P(stylename="B", text="Wild"))`,
  ["asked-for"],
  { wanted: BOLD },
);
odt(
  "the complex slot for Hebrew",
  `style("A", fontname="F2", fontnamecomplex="F3")\nd.text.addElement(P(stylename="A", text="שביל"))`,
  ["asked-for"],
  { wanted: HEBREW },
);
odt(
  "the complex slot is not for Latin",
  `style("A", fontname="F2", fontnamecomplex="F1")\nd.text.addElement(P(stylename="A", text="Wild"))`,
  ["not-in-it"],
);
odt(
  "hidden text (20.184)",
  `style("A", fontname="F1", display="none")\nstyle("B", fontname="F2")\nd.text.addElement(P(stylename="A", text="Wild"))\nd.text.addElement(P(stylename="B", text="x"))`,
  ["not-in-it"],
);
odt("declared alone", `style("B", fontname="F2")\nd.text.addElement(P(stylename="B", text="x"))`, ["not-in-it"]);
odt(
  "a span",
  `style("A", fontname="F2")\nstyle("S", family="text", fontname="F1")\np = P(stylename="A", text="x "); p.addElement(Span(stylename="S", text="Wild")); d.text.addElement(p)`,
  ["asked-for"],
);
odt(
  "a footnote",
  `style("A", fontname="F2")\nstyle("S", fontname="F1")\np = P(stylename="A", text="x"); n = Note(id="n1", noteclass="footnote"); n.addElement(NoteCitation(text="1")); b = NoteBody(); b.addElement(P(stylename="S", text="Wild")); n.addElement(b); p.addElement(n); d.text.addElement(p)`,
  ["asked-for"],
);

// Sheets: the fonts of cells, hidden rows and sheets (18.3).
const sheet = (rows: string, more = "", state = "") =>
  zip({
    "[Content_Types].xml": "<Types/>",
    "xl/workbook.xml": `<workbook xmlns:r="r"><sheets><sheet name="A" sheetId="1" r:id="r1"${state}/></sheets></workbook>`,
    "xl/_rels/workbook.xml.rels":
      '<Relationships><Relationship Id="r1" Type="x/worksheet" Target="worksheets/sheet1.xml"/></Relationships>',
    "xl/styles.xml":
      '<styleSheet><fonts><font><name val="Cabin"/></font><font><name val="Lato"/></font><font><b/><name val="Lato"/></font></fonts><cellXfs><xf fontId="0"/><xf fontId="1"/><xf fontId="2"/></cellXfs></styleSheet>',
    "xl/worksheets/sheet1.xml": `<worksheet>${more}<sheetData>${rows}</sheetData></worksheet>`,
  });
const cell = (style: number, column = "A") => `<c r="${column}1" s="${style}" t="inlineStr"><is><t>Wild</t></is></c>`;
add("a.xlsx", "a cell", () => sheet(`<row>${cell(1)}</row>`), ["asked-for"]);
add("a.xlsx", "a bold cell", () => sheet(`<row>${cell(2)}</row>`), ["asked-for"], { wanted: BOLD });
add("a.xlsx", "a hidden row", () => sheet(`<row hidden="1">${cell(1)}</row><row>${cell(0)}</row>`), ["not-in-it"]);
add("a.xlsx", "a hidden column", () => sheet(`<row>${cell(0)}${cell(1, "B")}</row>`, '<cols><col min="2" max="2" hidden="1"/></cols>'), [
  "not-in-it",
]);
add("a.xlsx", "a hidden sheet", () => sheet(`<row>${cell(1)}</row>`, "", ' state="hidden"'), ["not-in-it", "cannot-tell"]);
add("a.xlsx", "an empty cell", () => sheet(`<row><c r="A1" s="1"/>${cell(0, "B")}</row>`), ["not-in-it"]);

// Books and subtitles.
const book = (css: string, files: Record<string, Uint8Array>, body = "<p>Wild fennel</p>") =>
  zip({
    mimetype: "application/epub+zip",
    "META-INF/container.xml": '<container><rootfiles><rootfile full-path="b/p.opf"/></rootfiles></container>',
    "b/p.opf":
      '<package unique-identifier="i"><metadata><dc:identifier xmlns:dc="d" id="i">urn:x</dc:identifier></metadata><manifest><item id="a" href="a.xhtml"/></manifest><spine><itemref idref="a"/></spine></package>',
    "b/a.xhtml": `<html><head><link rel="stylesheet" href="s/a.css"/></head><body>${body}</body></html>`,
    "b/s/a.css": css,
    ...files,
  });
const bookCss = "@font-face{font-family:Lato;src:url(../f/a.ttf)} p{font-family:Lato}";
add("a.epub", "its file in the book", () => book(bookCss, { "b/f/a.ttf": bytesOf(REGULAR) }), ["seen"]);
add("a.epub", "another's file in the book", () => book(bookCss, { "b/f/a.ttf": bytesOf(CABIN) }), ["swapped"]);
add("a.epub", "a file of that name elsewhere", () => book(bookCss, { "b/g/a.ttf": bytesOf(REGULAR) }), ["asked-for"]);
add("a.epub", "a sheet no page links", () => book("p{font-family:Cabin}", { "b/s/b.css": utf8(bookCss), "b/f/a.ttf": bytesOf(REGULAR) }), [
  "not-in-it",
]);
const ass = (styles: string, text: string, more = "") =>
  utf8(
    `[Script Info]\nTitle: x\n\n[V4+ Styles]\nFormat: Name, Fontname, Fontsize, Bold, Italic\n${styles}\n${more}\n[Events]\nFormat: Layer, Start, End, Style, Text\nDialogue: 0,0:00:00.00,0:00:01.00,A,${text}\n`,
  );
add("a.ass", "a spoken style", () => ass("Style: A,Lato,48,0,0", "Wild, fennel"), ["asked-for"]);
add("a.ass", "a style nobody speaks", () => ass("Style: A,Cabin,48,0,0\nStyle: B,Lato,48,0,0", "Wild"), ["not-in-it"]);
add("a.ass", "a font in the line", () => ass("Style: A,Cabin,48,0,0", "x {\\fnLato\\b1}Wild"), ["asked-for"], { wanted: BOLD });
add("a.ass", "a drawing in the line", () => ass("Style: A,Lato,48,0,0", "{\\p1}m 0 0 l 10 10{\\p0}"), ["not-in-it", "cannot-tell"]);

html("a font of nobody's naming beside a declared one", face("local(Lato)"), "<i>x</i>", ["cannot-tell"]);
test("there are cases of every kind", () => expect(CASES.length).toBeGreaterThan(90));
test.each(CASES.map((one) => [one.file, one.name, one] as const))(
  "%s, %s",
  async (file, _name, { bytes, answers, wanted = REGULAR, words = "" }) => {
    const read = await readEvidence(file, await bytes());
    if (!read.ok) throw new Error(read.problem.message);
    const inspected = inspectFont(bytesOf(wanted), "font");
    if (!inspected.ok) throw new Error(inspected.problem.message);
    const verdict = await judgeEvidence(read.value, inspected.value[0]!, new WantedFont({ bytes: bytesOf(wanted), face: 0 }), words);
    expect(`${answers.includes(verdict.state) ? answers[0] : verdict.state}: ${verdict.reason}`).toBe(`${answers[0]}: ${verdict.reason}`);
  },
);
