// Evidence files of every kind: which fonts their text is set in, what they hold of them, and what is said of those that tell nothing.
import { readFileSync } from "node:fs";
import { deflateSync } from "node:zlib";
import { describe, expect, test } from "@jest/globals";
import { zipSync } from "fflate";
import { hasLargeStream } from "../archive/pdf-streams.ts";
import { inspectFont } from "../inspect.ts";
import { Effort } from "./asked/effort.ts";
import { eotFont } from "./asked/held.ts";
import { familiesIn, readSheets } from "./asked/styles.ts";
import { makeProbe, PROBE_KINDS, type ProbeStyle } from "./probe.ts";
import { TELLING_WORDS } from "./telling.ts";
import { WantedFont } from "./drawing/programs.ts";
import { judgeEvidence, readEvidence } from "./read.ts";

const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text);
const zip = (files: Record<string, string | Uint8Array>) =>
  zipSync(Object.fromEntries(Object.entries(files).map(([name, held]) => [name, typeof held === "string" ? utf8(held) : held])));
async function fonts(name: string, bytes: Uint8Array | string): Promise<[name: string, embedded: boolean][]> {
  const read = await readEvidence(name, typeof bytes === "string" ? utf8(bytes) : bytes);
  if (!read.ok) throw new Error(read.problem.code);
  return read.value.fonts.map((font) => [font.name, font.embedded]);
}
const problem = async (name: string, bytes: Uint8Array | string): Promise<string> => {
  const read = await readEvidence(name, typeof bytes === "string" ? utf8(bytes) : bytes);
  return read.ok ? "none" : read.problem.code;
};

describe("a style sheet", () => {
  test.each([
    ["'Wild Fennel', serif", ["Wild Fennel", "serif"]],
    ["serif, Furrow", ["serif", "Furrow"]],
    ['"A, B", C', ["A, B", "C"]],
    ["Wild\\26 Fennel", ["Wild&Fennel"]],
  ])("font-family: %s", (value, families) => expect(familiesIn(value)).toEqual(families));
  test("names what it brings along, by weight and slant", () => {
    const sheets = readSheets(
      ["@font-face { font-family: Meadow; font-weight: bold; src: url(m.woff2); unicode-range: U+20-7E } b { color: red }"],
      () => null,
      new Effort(),
    );
    expect(sheets.faces).toEqual([
      { family: "Meadow", weight: 700, italic: false, installedFirst: false, bytes: null, ranges: [[0x20, 0x7e]] },
    ]);
    expect(readSheets(["p { font-family: 'unclosed"], () => null, new Effort()).declared).toEqual([]);
  });
});

describe("what a document may cost", () => {
  const effort = () => new Effort();
  test.each([
    ["rules", "a{font-family:x}".repeat(100_001)],
    ["rules within rules", "@media all{".repeat(101)],
    ["declarations", `a{font-family:${"x,".repeat(400_001)}}`],
    ["words of style sheets", `${"a ".repeat(2_000_001)}{font-family:x}`],
    ["a selector", `${"a ".repeat(6000)}{font-family:x}`],
    ["faces declared", "@font-face{font-family:a;src:url(a)}".repeat(4001)],
  ])("is bounded: %s", (limit, css) => {
    expect(() => readSheets([css], () => null, effort())).toThrow(`limit “${limit}”`);
  });
  test("elements by rules are counted over all pages of a document", async () => {
    const page = `<html><style>${"p{font-family:a}".repeat(1000)}</style>${"<p>a</p>".repeat(4000)}</html>`;
    const read = await readEvidence("page.html", new TextEncoder().encode(page));
    expect(read).toMatchObject({
      ok: false,
      problem: { code: "evidence-too-large", message: expect.stringContaining("“elements by rules”") },
    });
  });
  test("fonts that stand in a sheet are one word, however long", () => {
    const sheet = `@font-face{font-family:a;src:url(data:font/woff2;base64,${"AB+/".repeat(1_500_000)})}`;
    expect(readSheets([sheet], () => null, effort()).faces).toHaveLength(1);
  });
  test("rules that name other classes and names cost nothing", async () => {
    const rules = Array.from({ length: 20_000 }, (_, i) => `.c${i} p.d${i}{font-family:a${i}}`).join("");
    const page = `<html><style>${rules}</style><div class="c7">${'<p class="D7 d8">a</p><p class="x d7">b</p>'.repeat(3000)}</div></html>`;
    const read = await readEvidence("page.html", new TextEncoder().encode(page));
    const shown = read.ok ? read.value.asked!.texts.filter(({ hidden }) => hidden === "") : [];
    expect(shown.map(({ families, letters }) => [families, letters])).toEqual([
      [[], 3000],
      [["a7"], 3000],
    ]);
  });
});

describe("an SVG", () => {
  test("names fonts by attribute, style and rule, and may hold them", async () => {
    const style =
      "<style>@font-face { font-family: 'Furrow'; src: url(data:font/ttf;base64,AA==) } .a { font-family: Meadow } text.b { font-family: Vale }</style>";
    const svg = `<svg xmlns="http://www.w3.org/2000/svg">${style}<text font-family="Furrow" font-weight="bold">x</text><g style="font-family:'Quince'"><text><tspan>y</tspan></text></g><text font-family="Unused"> </text></svg>`;
    expect(await fonts("a.svg", svg)).toEqual([
      ["Furrow Bold", true],
      ["Quince", false],
    ]);
  });
  test("with its letters as outlines says so", async () => {
    expect(await problem("a.svg", '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0h1"/></svg>')).toBe("svg-outlines");
    expect(await fonts("a.svg", "<svg><text>plain</text></svg>")).toEqual([]);
  });
});

test("a web page, an EPUB and a style sheet", async () => {
  expect(
    await fonts(
      "a.html",
      "<!doctype html><style>h1{font-family:Furrow}</style><h1>x</h1><p style='font:12px Meadow'>y<font face=Quince>z</font>",
    ),
  ).toEqual([
    // A heading is bold unless a sheet says otherwise.
    ["Furrow Bold", false],
    ["Meadow", false],
    ["Quince", false],
  ]);
  const book = {
    mimetype: "application/epub+zip",
    "OEBPS/css/a.css": "@font-face{font-family:Furrow;src:url('../fonts/f.otf')} p{font-family:Furrow}",
    "OEBPS/fonts/f.otf": "OTTO",
    "OEBPS/a.xhtml":
      "<html><head><link rel='stylesheet' href='css/a.css'/></head><body><p>x</p><p style='font-family:Meadow'>y</p></body></html>",
  };
  expect(await fonts("a.epub", zip(book))).toEqual([
    ["Furrow", true],
    ["Meadow", false],
  ]);
  expect(await fonts("a.css", "p{font-family:Furrow}")).toEqual([["Furrow", false]]);
});

test("subtitles: fonts of spoken styles and of single lines, and those in the file", async () => {
  const ass = `[Script Info]\nTitle: x\n\n[V4+ Styles]\nFormat: Name, Fontname, Bold, Italic\nStyle: A,Furrow,-1,0\nStyle: Unused,Never,0,0\n\n[Fonts]\nfontname: Furrow_0.ttf\nABCD\n\n[Events]\nFormat: Layer, Start, End, Style, Text\nDialogue: 0,0:00:00.00,0:00:01.00,A,x {\\fnMeadow\\b0}y\n`;
  expect(await fonts("a.ass", ass)).toEqual([
    ["Furrow Bold", true],
    ["Meadow", false],
  ]);
});

test("slides and sheets (ISO/IEC 29500): runs with their own typeface, the theme's font, cells by their format", async () => {
  const a = "http://schemas.openxmlformats.org/drawingml/2006/main";
  const slides = {
    "[Content_Types].xml": "<Types/>",
    "ppt/presentation.xml": `<p:presentation xmlns:p="p" xmlns:r="r"><p:sldIdLst><p:sldId id="256" r:id="r1"/></p:sldIdLst><p:embeddedFontLst><p:embeddedFont><p:font typeface="Furrow"/></p:embeddedFont></p:embeddedFontLst></p:presentation>`,
    "ppt/_rels/presentation.xml.rels": `<Relationships><Relationship Id="r1" Type="x/slide" Target="slides/slide1.xml"/></Relationships>`,
    "ppt/theme/theme1.xml": `<a:theme xmlns:a="${a}"><a:fontScheme><a:majorFont><a:latin typeface="Big"/></a:majorFont><a:minorFont><a:latin typeface="Meadow"/></a:minorFont></a:fontScheme></a:theme>`,
    "ppt/slides/slide1.xml": `<p:sld xmlns:p="p" xmlns:a="${a}"><p:sp><p:txBody><a:p><a:r><a:rPr b="1"><a:latin typeface="Furrow"/></a:rPr><a:t>x</a:t></a:r><a:r><a:t>y</a:t></a:r><a:r><a:rPr><a:latin typeface="Never"/></a:rPr><a:t> </a:t></a:r></a:p></p:txBody></p:sp></p:sld>`,
  };
  expect(await fonts("a.pptx", zip(slides))).toEqual([
    ["Furrow Bold", false],
    ["Meadow", false],
  ]);
});

test("fonts in slides lie in a file of their own, as they are or mixed; what is compressed is there and cannot be opened", async () => {
  const font = new Uint8Array(readFileSync("build/demo/built-in/AsterPlain-Regular.ttf"));
  const eot = (flags: number, body: Uint8Array): Uint8Array => {
    const bytes = new Uint8Array(120 + body.length);
    const view = new DataView(bytes.buffer);
    [bytes.length, body.length, 0x20001, flags].forEach((value, i) => view.setUint32(4 * i, value, true));
    view.setUint16(34, 0x504c, true);
    bytes.set(body, 120);
    return bytes;
  };
  expect(eotFont(eot(0, font))).toEqual(font);
  expect(
    eotFont(
      eot(
        0x10000000,
        font.map((byte) => byte ^ 0x50),
      ),
    ),
  ).toEqual(font);
  for (const other of [eot(4, font), font, new Uint8Array(10)]) expect(eotFont(other)).toEqual(other);
  const slides = (embedded: Uint8Array) => ({
    "[Content_Types].xml": "<Types/>",
    "ppt/presentation.xml": `<p:presentation xmlns:p="p" xmlns:r="r"><p:sldIdLst><p:sldId id="256" r:id="r1"/></p:sldIdLst><p:embeddedFontLst><p:embeddedFont><p:font typeface="Aster Plain"/><p:regular r:id="r2"/></p:embeddedFont></p:embeddedFontLst></p:presentation>`,
    "ppt/_rels/presentation.xml.rels": `<Relationships><Relationship Id="r1" Type="x/slide" Target="slides/slide1.xml"/><Relationship Id="r2" Type="x/font" Target="fonts/font1.fntdata"/></Relationships>`,
    "ppt/slides/slide1.xml": `<p:sld xmlns:p="p" xmlns:a="a"><p:sp><p:txBody><a:p><a:r><a:rPr><a:latin typeface="Aster Plain"/></a:rPr><a:t>Wild fennel</a:t></a:r></a:p></p:txBody></p:sp></p:sld>`,
    "ppt/fonts/font1.fntdata": embedded,
  });
  const inspected = inspectFont(font, "AsterPlain-Regular");
  const judged = async (embedded: Uint8Array) => {
    const read = await readEvidence("a.pptx", zip(slides(embedded)));
    if (!read.ok || !inspected.ok) throw new Error("not read");
    return (await judgeEvidence(read.value, inspected.value[0]!, new WantedFont({ bytes: font, face: 0 }))).state;
  };
  expect([await judged(eot(0, font)), await judged(eot(4, font))]).toEqual(["seen", "asked-for"]);
});

test("a stream of a PDF that unpacks to more than is read is told before anything parses it, packed twice as well", () => {
  const pdf = (dictionary: string, data: Uint8Array) =>
    Buffer.concat([utf8(`%PDF-1.4\n1 0 obj << ${dictionary} /Length ${data.length} >>\nstream\n`), data, utf8("\nendstream endobj\n")]);
  const once = deflateSync(new Uint8Array(100_000));
  expect(hasLargeStream(pdf("/Filter /FlateDecode", once), 99_999)).toBe(true);
  expect(hasLargeStream(pdf("/Filter /FlateDecode", once), 100_000)).toBe(false);
  expect(hasLargeStream(Buffer.concat([pdf("", new Uint8Array(9)), pdf("/Filter [/FlateDecode /Fl]", deflateSync(once))]), 99_999)).toBe(
    true,
  );
  expect(hasLargeStream(pdf("/Subtype /Image /Filter /FlateDecode", once), 99_999)).toBe(false);
  for (const other of ["", "stream", "no PDF", "stream endstream stream"]) expect(hasLargeStream(utf8(other), 10)).toBe(false);
});

describe("what tells nothing", () => {
  test.each<[string, string, Uint8Array | string, string]>([
    ["an archive of other things", "a.zip", zip({ "a.txt": "x" }), "evidence-unknown"],
    ["a broken office document", "a.docx", utf8("PK\x03\x04 cut off"), "evidence-damaged"],
    ["a locked office document", "a.docx", new Uint8Array([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1]), "evidence-locked"],
    ["a picture", "a.png", new Uint8Array([0x89, 0x50, 0x4e, 0x47]), "evidence-unknown"],
    ["plain text", "a.txt", "only words", "evidence-unknown"],
    ["nothing", "a.svg", "", "evidence-unknown"],
    ["a PDF cut off", "a.pdf", "%PDF-1.7 cut off", "pdf-damaged"],
    [
      "an OpenDocument with a password",
      "a.odt",
      zip({
        mimetype: "application/vnd.oasis.opendocument.text",
        "META-INF/manifest.xml": "<manifest:encryption-data/>",
        "content.xml": "x",
      }),
      "evidence-locked",
    ],
  ])("%s", async (_what, name, bytes, code) => expect(await problem(name, bytes)).toBe(code));
});

describe("a probe document", () => {
  const styles: ProbeStyle[] = [
    { menuName: "Furrow & Co", bold: true, italic: false, fullName: "Furrow & Co Bold", words: TELLING_WORDS, rightToLeft: false },
    { menuName: "Shvil", bold: false, italic: true, fullName: "Shvil Italic", words: "שביל הזרעים", rightToLeft: true },
  ];
  test.each(PROBE_KINDS.filter((kind) => kind !== "txt" && kind !== "rtf"))(
    "as %s sets each style by its menu name, as the reader finds it",
    async (kind) => {
      const found = (await fonts(`probe.${kind}`, makeProbe(kind, "Fonts to look for", styles))).map(([name]) => name);
      expect(found).toEqual(expect.arrayContaining(["Furrow & Co Bold", "Shvil Italic"]));
    },
  );
  test("as RTF and plain text names them too", () => {
    const text = (kind: "rtf" | "txt") => new TextDecoder().decode(makeProbe(kind, "Fonts", styles));
    expect(text("rtf")).toContain("{\\f1\\fnil Furrow & Co;}");
    expect(text("rtf")).toContain("\\u1513?");
    expect(text("txt")).toContain("Choose “Furrow & Co”, turn on Bold, for:");
  });
});
