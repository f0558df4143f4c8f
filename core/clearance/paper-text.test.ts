import { expect, test } from "@jest/globals";
import { strToU8, zipSync } from "fflate";
import { PDFDocument, StandardFonts } from "pdf-lib";
import { decodeText, paperText, textOfPages } from "./paper-text.ts";

const words = "Free for personal use – no “sold” work.";
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const utf16 = (text: string, little: boolean, mark: boolean): Uint8Array => {
  const units = [...Array(text.length).keys()].map((i) => text.charCodeAt(i));
  if (mark) units.unshift(0xfeff);
  return Uint8Array.from(units.flatMap((unit) => (little ? [unit & 255, unit >> 8] : [unit >> 8, unit & 255])));
};

test.each<[string, Uint8Array]>([
  ["UTF-8", bytes(words)],
  ["UTF-8 with a mark", bytes(`\ufeff${words}`)],
  ["UTF-16, little end first, marked", utf16(words, true, true)],
  ["UTF-16, big end first, marked", utf16(words, false, true)],
  ["UTF-16, unmarked", utf16(words, true, false)],
  ["UTF-16, big end first, unmarked", utf16(words, false, false)],
  ["Windows-1252", Uint8Array.from([...words].map((one) => ({ "–": 0x96, "“": 0x93, "”": 0x94 })[one] ?? one.charCodeAt(0)))],
])("text in %s", (_what, encoded) => {
  expect(decodeText(encoded).replace("\ufeff", "")).toBe(words);
});

const RTF = String.raw`{\rtf1\ansi{\fonttbl{\f0 Some Face;}}{\*\generator x;}{\info{\title hidden}}\f0 Free for personal use \endash  no \ldblquote sold\rdblquote{} work.\par Caf\'e9 \u8217?s {\b bold} \{braces\}}`;
test("rich text: words, signs and escapes, and nothing of its tables", async () => {
  expect(await paperText("licence.rtf", bytes(RTF))).toEqual({ ok: true, value: { cut: false, text: `${words}\nCafé ’s bold {braces}` } });
});
test("HTML: what a reader sees", async () => {
  const html =
    "<!doctype html><title>Licence</title><style>p{}</style><p>Free &amp;\n  easy</p><script>alert(1)</script><ul><li>one<li>two</ul>";
  expect(await paperText("licence.html", bytes(html))).toMatchObject({
    ok: true,
    value: { text: expect.stringMatching(/^Licence\n+Free & easy\n+one\n+two$/) },
  });
});
test("PDF", async () => {
  const document = await PDFDocument.create();
  const font = await document.embedFont(StandardFonts.Helvetica);
  document.addPage().drawText("Free for personal use only.", { font });
  document.addPage().drawText("Second page.", { font });
  expect(await paperText("licence.pdf", await document.save())).toMatchObject({
    ok: true,
    value: { text: "Free for personal use only.\n\nSecond page." },
  });
});
test("a word processor's document", async () => {
  const w = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"';
  const docx = zipSync({
    "[Content_Types].xml": strToU8(
      '<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>',
    ),
    "_rels/.rels": strToU8(
      '<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>',
    ),
    "word/document.xml": strToU8(
      `<?xml version="1.0"?><w:document ${w}><w:body><w:p><w:r><w:t>Free for any use.</w:t></w:r></w:p></w:body></w:document>`,
    ),
  });
  expect(await paperText("licence.docx", docx)).toMatchObject({ ok: true, value: { text: "Free for any use." } });
});
test("what cannot be read is said", async () => {
  const scan = await PDFDocument.create();
  scan.addPage().drawRectangle({ x: 1, y: 1, width: 9, height: 9 });
  const cases: [string, Uint8Array][] = [
    ["scan.pdf", await scan.save()],
    ["empty.txt", new Uint8Array()],
    ["broken.pdf", bytes("%PDF-1.7 rubbish")],
    ["broken.docx", bytes("PK rubbish")],
    ["binary.txt", Uint8Array.from({ length: 200 }, (_, i) => (i * 37) % 9)],
    ["huge.txt", new Uint8Array(65 * 1024 * 1024)],
  ];
  const codes: string[] = [];
  for (const [path, content] of cases) {
    const read = await paperText(path, content);
    codes.push(read.ok ? "read" : read.problem.code);
  }
  expect(codes).toEqual(["paper-no-text", "paper-no-text", "paper-unreadable", "paper-unreadable", "paper-unreadable", "paper-too-large"]);
});
test("a long text is cut, and says so", async () => {
  const read = await paperText("long.txt", bytes("word ".repeat(300_000)));
  expect(read).toMatchObject({ ok: true, value: { cut: true } });
});

const specimen = (number: number) => `${number} ${"Wild fennel and seeds. ".repeat(20)}\n`;
test.each([
  ["first", 1],
  ["last", 200],
  ["somewhere between", 97],
])("of a long paper the %s page is read when it speaks of a licence, and the others stay in order", async (_, speaking) => {
  const page = (number: number) => (number === speaking ? "You may embed this font under its licence.\n" : specimen(number));
  const { text, cut } = await textOfPages(200, page, { pages: 400, characters: 20_000, ms: 60_000 });
  expect(cut).toBe(true);
  expect(text).toContain("embed this font");
  expect(text.length).toBeLessThanOrEqual(20_000);
  const numbers = text.split("\n").flatMap((line) => (/^\d+/.test(line) ? [parseInt(line)] : []));
  expect(numbers).toEqual([...numbers].sort((a, b) => a - b));
});

test("a paper within the bounds is read whole", async () => {
  const { text, cut } = await textOfPages(60, specimen, { pages: 400, characters: 1_000_000, ms: 60_000 });
  expect(cut).toBe(false);
  expect(text).toBe(Array.from({ length: 60 }, (_, i) => specimen(i + 1)).join(""));
});

test.each([
  ["pages", { pages: 30, characters: 1_000_000, ms: 60_000 }],
  ["characters", { pages: 400, characters: 3_000, ms: 60_000 }],
  ["time", { pages: 400, characters: 1_000_000, ms: -1 }],
])("it ends at its bound of %s and says so", async (_, bounds) => {
  let read = 0;
  const { cut } = await textOfPages(
    100,
    (number) => {
      read++;
      return specimen(number);
    },
    bounds,
  );
  expect(cut).toBe(true);
  expect(read).toBeLessThanOrEqual(30);
});

test("a long text without lines: its licence at the end is found, and it takes no long time", async () => {
  const long = `${"seed ".repeat(1_000_000)} Licensed for embedding.`;
  const read = await paperText("long.txt", strToU8(long));
  expect(read).toMatchObject({ ok: true, value: { cut: true } });
  expect(read.ok && read.value.text.endsWith("Licensed for embedding.")).toBe(true);
});
