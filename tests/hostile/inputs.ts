// Files made to stop, fill or slow whatever reads them, each generated here: what it attacks is said beside it.
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { deflateSync, crc32, gzipSync } from "node:zlib";
import { zipSync } from "fflate";
import { assembleSfnt } from "../../core/sfnt/assemble.ts";
import { openContainer, tableBytes } from "../../core/sfnt/container.ts";

export interface Hostile {
  /** What it attacks. */
  name: string;
  fileName: string;
  bytes: Uint8Array;
}

const TRUETYPE = join(process.cwd(), "build", "demo", "built-in", "AsterPlain-Regular.ttf");
const CFF = "/usr/share/fonts/opentype/cabin/Cabin-Regular.otf";

const text = (words: string): Uint8Array => new TextEncoder().encode(words);
const u16 = (...values: number[]): number[] => values.flatMap((value) => [(value >> 8) & 0xff, value & 0xff]);
const u32 = (...values: number[]): number[] =>
  values.flatMap((value) => [(value >>> 24) & 0xff, (value >> 16) & 0xff, (value >> 8) & 0xff, value & 0xff]);

function tablesOf(path: string): { flavour: string; tables: Map<string, Uint8Array> } {
  const file = openContainer(readFileSync(path));
  const face = file.faces[0]!;
  return { flavour: face.flavour, tables: new Map(face.tables.map((record) => [record.tag, Uint8Array.from(tableBytes(file, record))])) };
}
/** A whole font with some tables of its own. */
function fontWith(path: string, own: Record<string, Uint8Array>): Uint8Array {
  const { flavour, tables } = tablesOf(path);
  for (const [tag, bytes] of Object.entries(own)) tables.set(tag, bytes);
  return assembleSfnt(flavour, tables);
}

/** An INDEX of CFF (Technical Note 5176, section 5) with four-byte offsets. */
function index(objects: readonly Uint8Array[]): Uint8Array {
  if (objects.length === 0) return Uint8Array.from([0, 0]);
  let at = 1;
  const offsets = [at, ...objects.map((object) => (at += object.length))];
  return Buffer.concat([Uint8Array.from([...u16(objects.length), 4, ...offsets.flatMap((offset) => u32(offset))]), ...objects]);
}
const long = (value: number): number[] => [29, ...u32(value)];

/** A CFF font all of whose glyphs are one program, with global subroutines. */
function cffFont(glyph: Uint8Array, global: readonly Uint8Array[]): Uint8Array {
  const glyphs = new DataView(tablesOf(CFF).tables.get("maxp")!.buffer).getUint16(4);
  const head = Uint8Array.from([1, 0, 4, 4]);
  const name = index([text("Hostile")]);
  const strings = index([]);
  const subroutines = index(global);
  const topAt = head.length + name.length;
  const topLength = index([Uint8Array.from([...long(0), 17])]).length;
  const charStringsAt = topAt + topLength + strings.length + subroutines.length;
  const top = index([Uint8Array.from([...long(charStringsAt), 17])]);
  const charStrings = index(Array.from({ length: glyphs }, () => glyph));
  return fontWith(CFF, { "CFF ": Buffer.concat([head, name, top, strings, subroutines, charStrings]) });
}

/** Each glyph calls one subroutine of a million numbers over and over: operators are few, numbers are not. */
const endlessNumbers = (): Uint8Array => {
  const call = [139 - 107 + 0, 29];
  return cffFont(Uint8Array.from([...Array.from({ length: 20_000 }, () => call).flat(), 14]), [new Uint8Array(1_000_000).fill(139)]);
};
/** Subroutines that call others twice each, ten deep and more. */
const doubling = (): Uint8Array => {
  const subroutine = (number: number) => Uint8Array.from([139 + number - 107, 29, 139 + number - 107, 29, 139 + number - 107, 29, 11]);
  const all = Array.from({ length: 10 }, (_, i) => (i === 9 ? new Uint8Array(60_000).fill(139) : subroutine(i + 1)));
  return cffFont(Uint8Array.from([139 - 107, 29, 14]), all);
};

/** A glyph put together from 250 others, each of which is put together from 250. */
function composites(): Uint8Array {
  const { flavour, tables } = tablesOf(TRUETYPE);
  const maxp = new DataView(tables.get("maxp")!.buffer);
  const glyphs = maxp.getUint16(4);
  const parts = (glyph: number) => [
    ...u16(0xffff, 0, 0, 100, 100),
    ...Array.from({ length: 250 }, (_, i) => [...u16(i < 249 ? 0x22 : 0x02, glyph), 0, 0]).flat(),
  ];
  // A simple glyph of 60,000 points that all lie in one place.
  const points = 60_000;
  const simple = [...u16(1, 0, 0, 0, 0, points - 1, 0), ...Array.from({ length: Math.floor(points / 256) }, () => [0x39, 255]).flat()];
  while (simple.length % 4 !== 0) simple.push(0x31);
  const bodies = Array.from({ length: glyphs }, (_, glyph) => (glyph === 0 ? simple : glyph === 1 ? parts(0) : parts(1)));
  const glyf: number[] = [];
  const loca: number[] = [0];
  for (const body of bodies) {
    glyf.push(...body, ...Array.from({ length: (4 - (body.length % 4)) % 4 }, () => 0));
    loca.push(glyf.length);
  }
  tables.set("glyf", Uint8Array.from(glyf));
  tables.set("loca", Uint8Array.from(loca.flatMap((offset) => u32(offset))));
  new DataView(tables.get("head")!.buffer).setInt16(50, 1);
  return assembleSfnt(flavour, tables);
}

/** So many name records that all share one long text; `id` may be one for all, or one for each. */
function manyNames(id: (i: number) => number, length = 60_000, count = 5000): Uint8Array {
  const storage = 6 + 12 * count;
  const bytes = new Uint8Array(Math.min(65_535, storage) + 65_000);
  bytes.set(u16(0, count, Math.min(storage, 65_535)), 0);
  for (let i = 0; i < count; i++) bytes.set(u16(3, 1, 0x409, id(i), length, i % 2000), 6 + 12 * i);
  bytes.fill(0x41, storage);
  return bytes;
}
/** A control character, a line break and marks that turn text around in every name. */
function oddNames(name = "Evil\n}\u0000\u0007\u202E</style><b>:x;=1+1"): Uint8Array {
  const utf16 = Uint8Array.from([...name].flatMap((sign) => u16(sign.charCodeAt(0))));
  const ids = [1, 2, 4, 6, 16, 17];
  const records = ids.flatMap((id) => u16(3, 1, 0x409, id, utf16.length, 0));
  return Uint8Array.from([...u16(0, ids.length, 6 + 12 * ids.length), ...records, ...utf16]);
}

/** A variable font of 8,000 named styles whose names are one long text. */
function manyInstances(): Uint8Array {
  const [axes, instances] = [2, 8000];
  const fvar = [
    ...u16(1, 0, 16, 2, axes, 20, instances, 4 + 4 * axes),
    ...Array.from({ length: axes }, (_, i) => [...text(i ? "wdth" : "wght"), ...u32(0, 0, 0x10000), ...u16(0, 256)]).flat(),
    ...Array.from({ length: instances }, (_, i) => [...u16(256 + (i % 4000), 0), ...u32(0, 0)]).flat(),
  ];
  return fontWith(TRUETYPE, { fvar: Uint8Array.from(fvar), name: manyNames((i) => (i < 30 ? i : 256 + i)) });
}

/** A directory of many tables that are all the whole file. */
function overlapping(tables: number): Uint8Array {
  const body = new Uint8Array(2_000_000);
  const head = [0, 1, 0, 0, ...u16(tables, 0, 0, 0)];
  const records = Array.from({ length: tables }, (_, i) => [
    ...text(`t${String(i).padStart(3, "0").slice(-3)}`),
    ...u32(0, 0, body.length),
  ]);
  return Buffer.concat([Uint8Array.from([...head, ...records.flat()]), body]);
}

/** WOFF: so many tables, each unpacking to so much from next to nothing. */
function woffBomb(tables: number, each: number): Uint8Array {
  const packed = deflateSync(new Uint8Array(each), { level: 9 });
  const directory = 44 + 20 * tables;
  const records = Array.from({ length: tables }, (_, i) => [
    ...text(["head", "hhea", "hmtx", "maxp", "name", "post", "cmap", "OS/2", "glyf", "loca"][i] ?? `t${String(i).padStart(3, "0")}`),
    // All of them the same bytes, beyond the first ten; those lie apart.
    ...u32(directory + (i < 10 ? i : 0) * packed.length, packed.length, each, 0),
  ]);
  const bodies = Buffer.concat(Array.from({ length: Math.min(10, tables) }, () => packed));
  const total = directory + bodies.length;
  const head = [
    ...text("wOFF"),
    0,
    1,
    0,
    0,
    ...u32(total),
    ...u16(tables, 0),
    ...u32(12 + 16 * tables + tables * each),
    ...u16(1, 0),
    ...u32(0, 0, 0, 0, 0),
  ];
  return Buffer.concat([Uint8Array.from([...head, ...records.flat()]), bodies]);
}

/** A collection of many faces that share one list of every second character. */
function collection(faces: number): Uint8Array {
  const groups = 100_000;
  const cmap = new Uint8Array(12 + 16 + 12 * groups);
  cmap.set([...u16(0, 1, 3, 10), ...u32(12), ...u16(12, 0), ...u32(16 + 12 * groups, 0, groups)], 0);
  const view = new DataView(cmap.buffer);
  for (let i = 0; i < groups; i++) {
    view.setUint32(28 + 12 * i, 0x20 + 2 * i);
    view.setUint32(32 + 12 * i, 0x20 + 2 * i);
    view.setUint32(36 + 12 * i, 1);
  }
  const { tables } = tablesOf(TRUETYPE);
  tables.set("cmap", cmap);
  const whole = assembleSfnt("\0\x01\0\0", tables);
  const directory = 12 + 16 * tables.size;
  const head = [
    ...text("ttcf"),
    ...u32(0x10000, faces),
    ...Array.from({ length: faces }, (_, i) => u32(12 + 4 * faces + i * directory)).flat(),
  ];
  const shift = head.length + faces * directory;
  const directories = Array.from({ length: faces }, () => {
    const own = Uint8Array.from(whole.subarray(0, directory));
    const records = new DataView(own.buffer);
    for (let i = 0; i < tables.size; i++) records.setUint32(12 + 16 * i + 8, records.getUint32(12 + 16 * i + 8) - directory + shift);
    return own;
  });
  return Buffer.concat([Uint8Array.from(head), ...directories, whole.subarray(directory)]);
}

/** GSUB whose lookups all lead to the same long list of rules. */
function sharedLookups(): Uint8Array {
  const [lookups, rules] = [4000, 20_000];
  const list = [...u16(lookups), ...Array.from({ length: lookups }, () => u16(2 + 2 * lookups)).flat()];
  const subtables = 12_000;
  const lookup = [...u16(1, 0, subtables), ...Array.from({ length: subtables }, (_, i) => u16(6 + 2 * subtables + (i % 1000))).flat()];
  const body = Array.from({ length: rules }, () => u16(2)).flat();
  return fontWith(TRUETYPE, { GSUB: Uint8Array.from([...u16(1, 0, 0, 0, 10), ...list, ...lookup, ...body]) });
}

export function hostileFonts(): Hostile[] {
  return [
    { name: "a charstring that piles up numbers without end", fileName: "numbers.otf", bytes: endlessNumbers() },
    { name: "subroutines that call one another thrice, ten deep", fileName: "doubling.otf", bytes: doubling() },
    { name: "composites of composites", fileName: "composites.ttf", bytes: composites() },
    { name: "5,000 name records of one ID over one text", fileName: "names.ttf", bytes: fontWith(TRUETYPE, { name: manyNames(() => 1) }) },
    {
      name: "5,000 name records of their own IDs over one text",
      fileName: "ids.ttf",
      bytes: fontWith(TRUETYPE, { name: manyNames((i) => i) }),
    },
    { name: "8,000 instances by long names", fileName: "instances.ttf", bytes: manyInstances() },
    { name: "1,000 tables over one another", fileName: "overlap.ttf", bytes: overlapping(1000) },
    { name: "65,000 tables", fileName: "tables.ttf", bytes: overlapping(65_000) },
    { name: "WOFF of 30 tables of 64 MB", fileName: "bomb.woff", bytes: woffBomb(30, 64 * 1024 * 1024) },
    { name: "WOFF of 30 tables of the same bytes", fileName: "shared.woff", bytes: woffBomb(30, 3 * 1024 * 1024) },
    { name: "a collection of 350 faces with 100,000 characters each", fileName: "faces.ttc", bytes: collection(350) },
    { name: "GSUB of 4,000 lookups in one place", fileName: "lookups.ttf", bytes: sharedLookups() },
    { name: "names of control characters", fileName: "odd.ttf", bytes: fontWith(TRUETYPE, { name: oddNames() }) },
  ];
}

/** A whole font that bears a name of one's own. */
export const namedFont = (name: string): Uint8Array => fontWith(TRUETYPE, { name: oddNames(name) });

/** A font that is whole, for archives that need one. */
export const wholeFont = (): Uint8Array => readFileSync(TRUETYPE);

function packed(command: string, args: readonly string[], input: Uint8Array): Uint8Array {
  const dir = mkdtempSync(join(tmpdir(), "buvano-packed-"));
  try {
    writeFileSync(join(dir, "zeros"), input);
    return execFileSync(command, args, { cwd: dir, maxBuffer: 2 ** 28 });
  } finally {
    rmSync(dir, { recursive: true });
  }
}
function sevenZip(input: Uint8Array): Uint8Array {
  const dir = mkdtempSync(join(tmpdir(), "buvano-packed-"));
  try {
    writeFileSync(join(dir, "zeros.ttf"), input);
    execFileSync("7z", ["a", "bomb.7z", "zeros.ttf"], { cwd: dir, stdio: "ignore" });
    return readFileSync(join(dir, "bomb.7z"));
  } finally {
    rmSync(dir, { recursive: true });
  }
}

export function hostileArchives(): Hostile[] {
  const font = wholeFont();
  const zeros = new Uint8Array(100 * 1024 * 1024);
  // Many entries, each just below what one may unpack to.
  const many = zipSync(
    Object.fromEntries(Array.from({ length: 400 }, (_, i) => [`f${i}.ttf`, [new Uint8Array(1), { level: 0 as const }]])),
  );
  const nested = (depth: number, inner: Uint8Array): Uint8Array =>
    depth === 0
      ? inner
      : zipSync(Object.fromEntries(Array.from({ length: 10 }, (_, i) => [`${i}.zip`, [nested(depth - 1, inner), { level: 9 as const }]])));
  const bomb = zipSync({ "a.ttf": [new Uint8Array(15 * 1024 * 1024), { level: 9 }] });
  return [
    { name: "a zip of one entry of 100 MB", fileName: "one.zip", bytes: zipSync({ "a.ttf": [zeros, { level: 9 }], "b.ttf": font }) },
    { name: "zips in zips, ten by ten", fileName: "nested.zip", bytes: nested(2, bomb) },
    { name: "gzip of 100 MB", fileName: "bomb.ttf.gz", bytes: gzipSync(zeros, { level: 9 }) },
    { name: "bzip2 of 100 MB", fileName: "bomb.ttf.bz2", bytes: packed("bzip2", ["-c", "zeros"], zeros) },
    { name: "xz of 100 MB", fileName: "bomb.ttf.xz", bytes: packed("xz", ["-c", "zeros"], zeros) },
    { name: "7z of 100 MB", fileName: "bomb.7z", bytes: sevenZip(zeros) },
    { name: "a zip of 400 entries", fileName: "many.zip", bytes: many },
    { name: "a zip of 4,000 papers and 40 families", fileName: "papers.zip", bytes: manyPapers() },
  ];
}

function manyPapers(): Uint8Array {
  const { flavour, tables } = tablesOf(TRUETYPE);
  const files: Record<string, Uint8Array> = {};
  for (let i = 0; i < 40; i++) {
    const family = Uint8Array.from([...`Many ${i}`].flatMap((sign) => u16(sign.charCodeAt(0))));
    tables.set(
      "name",
      Uint8Array.from([...u16(0, 2, 30), ...u16(3, 1, 0x409, 1, family.length, 0), ...u16(3, 1, 0x409, 4, family.length, 0), ...family]),
    );
    files[`f${i}.ttf`] = assembleSfnt(flavour, tables);
  }
  for (let i = 0; i < 4000; i++)
    files[`p${i}.txt`] = text(`Paper ${i}. This font is free for personal use. Commercial use requires a licence. Do not sell it.`);
  return zipSync(files, { level: 1 });
}

/** A PDF of forms, each of which draws the one before twice. */
function nestedForms(depth: number): Uint8Array {
  const objects: string[] = [];
  const stream = (dict: string, body: string) => `<< ${dict} /Length ${body.length} >>\nstream\n${body}\nendstream`;
  objects[1] = "<< /Type /Catalog /Pages 2 0 R >>";
  objects[2] = "<< /Type /Pages /Kids [3 0 R] /Count 1 >>";
  objects[3] = `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 100 100] /Contents 4 0 R /Resources << /XObject << /X 6 0 R >> /Font << /F 5 0 R >> >> >>`;
  objects[4] = stream("", "/X Do /X Do");
  objects[5] = "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>";
  for (let i = 0; i < depth; i++) {
    const last = i === depth - 1;
    const resources = last ? "/Resources << /Font << /F 5 0 R >> >>" : `/Resources << /XObject << /X ${7 + i} 0 R >> >>`;
    objects[6 + i] = stream(
      `/Type /XObject /Subtype /Form /BBox [0 0 100 100] ${resources}`,
      last ? "BT /F 9 Tf (personal use only) Tj ET" : "/X Do /X Do",
    );
  }
  let out = "%PDF-1.4\n";
  const at: number[] = [];
  objects.forEach((object, i) => {
    at[i] = out.length;
    out += `${i} 0 obj\n${object}\nendobj\n`;
  });
  const xref = out.length;
  out += `xref\n0 ${objects.length}\n0000000000 65535 f \n${at
    .slice(1)
    .map((offset) => `${String(offset).padStart(10, "0")} 00000 n \n`)
    .join("")}trailer << /Size ${objects.length} /Root 1 0 R >>\nstartxref\n${xref}\n%%EOF`;
  return text(out);
}

/** A word-processing document whose text unpacks to so many bytes. */
const bigDocx = (bytes: number): Uint8Array =>
  zipSync({
    "[Content_Types].xml": text("<Types/>"),
    "word/document.xml": [
      text(`<w:document xmlns:w="x"><w:body><w:p><w:r><w:t>${"a ".repeat(bytes / 2)}</w:t></w:r></w:p></w:body></w:document>`),
      { level: 9 },
    ],
  });

export function hostilePapers(): Hostile[] {
  return [
    { name: "200 kB of spaces", fileName: "spaces.txt", bytes: text(" ".repeat(200_000) + "x") },
    { name: "3 million spaces", fileName: "more.txt", bytes: text(" ".repeat(3_000_000) + "x") },
    { name: "tabs and line ends", fileName: "lines.txt", bytes: text("\t \n".repeat(300_000)) },
    { name: "the ambiguous repetition", fileName: "only.txt", bytes: text(`personal${" , personal".repeat(22)} x`) },
    { name: "200 kB of one word", fileName: "word.txt", bytes: text("personal ".repeat(22_000)) },
    { name: "200 kB of lists", fileName: "lists.txt", bytes: text("personal, and/or commercial, ".repeat(7000)) },
    { name: "brackets and quotes", fileName: "quotes.txt", bytes: text('“("'.repeat(60_000)) },
    { name: "not only … but", fileName: "but.txt", bytes: text("not only not just ".repeat(12_000)) },
    { name: "give font files files", fileName: "files.txt", bytes: text(`give ${"font files ".repeat(20_000)}`) },
    { name: "a licence over and over", fileName: "licence.txt", bytes: text(`${MIT}\n`.repeat(190)) },
    {
      name: "20,000 questions",
      fileName: "questions.txt",
      bytes: text(numbered(20_000, (n) => `## May I sell it ${n} times?\nYes, ${n} times.\n`)),
    },
    { name: "a copyright file of 3,000 stanzas", fileName: "copyright", bytes: text(stanzas(3000)) },
    {
      name: "a copyright file of one pattern after another",
      fileName: "copyright",
      bytes: text(stanzas(1, "*a*b*c*d*e*f".repeat(20_000))),
    },
    { name: "licences named without end", fileName: "names.txt", bytes: text("GPL or OFL and MIT, ".repeat(10_000)) },
    { name: "mail quoted in mail", fileName: "mail.txt", bytes: text(`${"> ".repeat(2000)}commercial use\n`.repeat(50)) },
    {
      name: "20,000 entries of changes",
      fileName: "changes.txt",
      bytes: text(numbered(20_000, (n) => `1.${n}: not for commercial use of ${n}\n`)),
    },
    { name: "Japanese without a stop", fileName: "ja.txt", bytes: text("商用利用は個人利用".repeat(20_000)) },
    {
      name: "10,000 German sentences",
      fileName: "de.txt",
      bytes: text(numbered(10_000, (n) => `Kommerzielle Nutzung ist für ${n} nicht gestattet. `)),
    },
    { name: "200,000 elements left open", fileName: "open.html", bytes: text(`<html>${"<b>".repeat(200_000)}x`) },
    { name: "a page of a million tags", fileName: "tags.html", bytes: text(`<html>${"<p>a</p>".repeat(400_000)}`) },
    { name: "forms in forms, doubled 16 times", fileName: "forms.pdf", bytes: nestedForms(16) },
    { name: "forms in forms, doubled 40 times", fileName: "deep.pdf", bytes: nestedForms(40) },
    { name: "docx of 80 MB", fileName: "big.docx", bytes: bigDocx(80 * 1024 * 1024) },
    {
      name: "rich text of a million groups",
      fileName: "groups.rtf",
      bytes: text(`{\\rtf1 ${"{".repeat(500_000)}x${"}".repeat(500_000)}}`),
    },
  ];
}

const numbered = (count: number, one: (n: number) => string): string => Array.from({ length: count }, (_, n) => one(n)).join("");
const stanzas = (count: number, files = ""): string =>
  `Format: https://www.debian.org/doc/packaging-manuals/copyright-format/1.0/\n\n${numbered(count, (n) => `Files: ${files}*-${n}.ttf *\nCopyright: somebody\nLicense: GPL-2+ or OFL-1.1 and MIT\n Use ${n} is not commercial.\n\n`)}`;
const MIT = readFileSync(join(process.cwd(), "node_modules", "zod", "LICENSE"), "utf8");

export function hostileEvidence(): Hostile[] {
  const odt = (content: string): Uint8Array =>
    zipSync({ mimetype: [text("application/vnd.oasis.opendocument.text"), { level: 0 }], "content.xml": [text(content), { level: 9 }] });
  const body = (inner: string) =>
    `<office:document-content><office:body><office:text>${inner}</office:text></office:body></office:document-content>`;
  const lying = Uint8Array.from(
    zipSync({ mimetype: [text("application/epub+zip"), { level: 0 }], "a.html": [new Uint8Array(30 * 1024 * 1024), { level: 9 }] }),
  );
  const view = new DataView(lying.buffer);
  const central = Buffer.from(lying).lastIndexOf("PK\x01\x02", undefined, "latin1");
  view.setUint32(central + 24, 100, true);
  return [
    {
      name: "ODT of 100,000 spans",
      fileName: "spans.odt",
      bytes: odt(body(`<text:p>${"<text:span>a</text:span>".repeat(100_000)}</text:p>`)),
    },
    { name: "ODT nested 100,000 deep", fileName: "deep.odt", bytes: odt(body(`${"<text:p>".repeat(100_000)}a`)) },
    { name: "ODT of 80 MB", fileName: "large.odt", bytes: odt(body(`<text:p>${"a".repeat(80 * 1024 * 1024)}</text:p>`)) },
    { name: "a zip that lies about its sizes", fileName: "lies.epub", bytes: lying },
    { name: "a page of 200,000 elements left open", fileName: "open.html", bytes: text(`<html>${"<b>".repeat(200_000)}x`) },
    {
      name: "a page nested 400 deep with styles",
      fileName: "nested.html",
      bytes: text(`<html>${"<div style='font-family:a'>".repeat(400)}${"<p>a</p>".repeat(50_000)}`),
    },
    {
      name: "a style sheet of url( without end",
      fileName: "urls.css",
      bytes: text(`@font-face{font-family:a;src:${"url(l".repeat(50_000)}}`),
    },
    { name: "a subtitle file of brackets", fileName: "brackets.ass", bytes: text(`[Script Info]\n[V4+ Styles]\n${"[\n".repeat(300_000)}`) },
    { name: "PDF of forms in forms", fileName: "forms.pdf", bytes: nestedForms(40) },
    { name: "PDF of a page of 200 MB in two kilobytes", fileName: "stream.pdf", bytes: swollenPdf("BT /F 9 Tf (a) Tj ET ") },
    {
      name: "a book of one page listed 200 times, by 4,000 rules",
      fileName: "again.epub",
      bytes: book({ pages: 1, listed: 200, rules: 4000, paragraphs: 4500 }),
    },
    {
      name: "a book of 4,900 pages by 1,000 rules",
      fileName: "pages.epub",
      bytes: book({ pages: 4900, listed: 1, rules: 1000, paragraphs: 1 }),
    },
    { name: "a style sheet of 800,000 rules", fileName: "rules.css", bytes: text("a{font-family:x}".repeat(800_000)) },
    { name: "a style sheet of one selector", fileName: "selector.css", bytes: text(`${"a ".repeat(6_400_000)}{font-family:x}`) },
    { name: "a style sheet of rules in rules", fileName: "rules-in-rules.css", bytes: text("a{".repeat(6_400_000)) },
    { name: "a style sheet of a million families", fileName: "families.css", bytes: text(`a{font-family:${"x,".repeat(1_000_000)}}`) },
    {
      name: "subtitles of two million columns",
      fileName: "columns.ass",
      bytes: text(`[Script Info]\n[Events]\nFormat: ${"x,".repeat(2_000_000)}Text\n${"Dialogue: a,b\n".repeat(1_200_000)}`),
    },
  ];
}
/** A PDF whose page draws the same over and over: 200 MB, packed twice. */
function swollenPdf(drawn: string): Uint8Array {
  const content = deflateSync(deflateSync(Buffer.alloc(200 * 1024 * 1024, drawn), { level: 9 }), { level: 9 });
  const head = [
    "%PDF-1.4",
    "1 0 obj << /Type /Catalog /Pages 2 0 R >> endobj",
    "2 0 obj << /Type /Pages /Kids [3 0 R] /Count 1 >> endobj",
    "3 0 obj << /Type /Page /Parent 2 0 R /MediaBox [0 0 100 100] /Contents 4 0 R /Resources << /Font << /F 5 0 R >> >> >> endobj",
    "5 0 obj << /Type /Font /Subtype /Type1 /BaseFont /Helvetica >> endobj",
    `4 0 obj << /Filter [/FlateDecode /FlateDecode] /Length ${content.length} >> stream\n`,
  ].join("\n");
  return Buffer.concat([text(head), content, text("\nendstream endobj\ntrailer << /Size 6 /Root 1 0 R >>\n%%EOF")]);
}
function book({ pages, listed, rules, paragraphs }: { pages: number; listed: number; rules: number; paragraphs: number }): Uint8Array {
  const page = text(`<html><head><link rel="stylesheet" href="a.css"/></head><body>${"<p>a</p>".repeat(paragraphs)}</body></html>`);
  const items = numbered(pages * listed, (n) => `<item id="i${n}" href="p${n % pages}.html"/><itemref idref="i${n}"/>`);
  return zipSync({
    mimetype: [text("application/epub+zip"), { level: 0 }],
    "META-INF/container.xml": text(`<container><rootfiles><rootfile full-path="b.opf"/></rootfiles></container>`),
    "b.opf": text(`<package>${items}</package>`),
    "a.css": text("p{font-family:a}\n".repeat(rules)),
    ...Object.fromEntries(Array.from({ length: pages }, (_, n) => [`p${n}.html`, page])),
  });
}

function png(width: number, height: number, data: Uint8Array, more: { interlaced?: boolean; twice?: [number, number] } = {}): Uint8Array {
  const chunk = (type: string, body: Uint8Array): Uint8Array => {
    const typed = Buffer.concat([text(type), body]);
    return Buffer.concat([Uint8Array.from(u32(body.length)), typed, Uint8Array.from(u32(crc32(typed)))]);
  };
  const header = (w: number, h: number) => chunk("IHDR", Uint8Array.from([...u32(w, h), 8, 0, 0, 0, more.interlaced ? 1 : 0]));
  return Buffer.concat([
    Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10]),
    header(width, height),
    ...(more.twice ? [header(...more.twice)] : []),
    chunk("IDAT", deflateSync(data, { level: 1 })),
    chunk("IEND", new Uint8Array()),
  ]);
}
export function hostilePictures(): Hostile[] {
  const noise = (width: number, height: number): Uint8Array => {
    const data = new Uint8Array((width + 1) * height);
    let state = 7;
    for (let i = 0; i < data.length; i++) {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      data[i] = i % (width + 1) === 0 ? 0 : state >>> 24;
    }
    return data;
  };
  return [
    { name: "two headers", fileName: "two.png", bytes: png(10, 10, new Uint8Array(110), { twice: [30_000, 30_000] }) },
    {
      name: "an interlaced picture that unpacks to 100 MB",
      fileName: "interlaced.png",
      bytes: png(20, 20, new Uint8Array(100 * 1024 * 1024), { interlaced: true }),
    },
    { name: "40 million pixels of noise", fileName: "noise40.png", bytes: png(8000, 5000, noise(8000, 5000)) },
    { name: "16 million pixels of noise", fileName: "noise.png", bytes: png(4000, 4000, noise(4000, 4000)) },
    { name: "16 million blank pixels", fileName: "blank.png", bytes: png(4000, 4000, new Uint8Array(4001 * 4000)) },
    { name: "a picture of one column", fileName: "column.png", bytes: png(1, 16_000_000, new Uint8Array(2 * 16_000_000)) },
    { name: "a picture of one row", fileName: "row.png", bytes: png(16_000_000, 1, new Uint8Array(1 + 16_000_000)) },
    { name: "a picture of half a line", fileName: "stripes.png", bytes: png(4000, 4000, stripes(4000, 4000)) },
    {
      name: "a JPEG of 60,000 by 60,000",
      fileName: "large.jpg",
      bytes: Uint8Array.from([0xff, 0xd8, 0xff, 0xc0, ...u16(17), 8, ...u16(60_000, 60_000), 3, 1, 17, 0, 2, 17, 0, 3, 17, 0, 0xff, 0xd9]),
    },
  ];
}
const stripes = (width: number, height: number): Uint8Array => {
  const data = new Uint8Array((width + 1) * height);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) data[y * (width + 1) + 1 + x] = y % 100 < 60 && x % 3 ? 255 : 0;
  return data;
};
