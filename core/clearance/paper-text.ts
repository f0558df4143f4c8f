// The text of papers that come with fonts, whatever program wrote them. Decoding is done by well-kept packages; which
// one, and what is said when there is no text, is decided here.
import { Parser } from "htmlparser2";
import { hasLargeStream } from "../archive/pdf-streams.ts";
import { unpackSmallZip } from "../archive/small-zip.ts";
import { fail, ok, type Result } from "../problem.ts";

/** Of longer papers so much is read and kept. */
const MOST_CHARACTERS = 1_000_000;
/** A licence stands at a paper's beginning or end, mostly; these pages are read first. */
const OUTER_PAGES = 12;
const MOST_PAGES = 400;
const MOST_MS = 30_000;
/** A page of a paper without pages, in characters. */
const PAGE_CHARACTERS = 4000;
/** Words that pages about licences have, in the languages papers come in (common practice, no source). */
const SPEAKS =
  /licen[cszç]|lizenz|licentie|лиценз|copyright|©|\bEULA\b|\bOFL\b|permi(t|ss)|embed|einbett|terms of use|nutzungs|許諾|ライセンス/i;
/** Papers above this are not read at all. */
const MOST_BYTES = 64 * 1024 * 1024;

export interface PaperText {
  text: string;
  /** Whether the paper is longer than what was read; what is left out stands between its first and its last pages. */
  cut: boolean;
}

/**
 * Decodes plain text: byte order marks and UTF-16 without one are recognised, then UTF-8, then Windows-1252, in which
 * every byte is a character (WHATWG Encoding Standard).
 */
export function decodeText(bytes: Uint8Array): string {
  const [a, b, c] = bytes;
  if (a === 0xff && b === 0xfe) return new TextDecoder("utf-16le").decode(bytes);
  if (a === 0xfe && b === 0xff) return new TextDecoder("utf-16be").decode(bytes);
  if (a === 0xef && b === 0xbb && c === 0xbf) return new TextDecoder("utf-8").decode(bytes);
  // Latin text in UTF-16 has a zero in every other byte.
  const sample = bytes.subarray(0, 512);
  const zeros = (odd: 0 | 1) => sample.filter((byte, i) => i % 2 === odd && byte === 0).length;
  if (zeros(1) > sample.length / 4) return new TextDecoder("utf-16le").decode(bytes);
  if (zeros(0) > sample.length / 4) return new TextDecoder("utf-16be").decode(bytes);
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return decode1252(bytes);
  }
}

/** Bytes 0x80 to 0x9F of Windows-1252 (WHATWG Encoding Standard, index-windows-1252); Node.js decodes them as Latin-1. */
const C1 = "€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ";

const decode1252 = (bytes: Uint8Array): string =>
  new TextDecoder("latin1").decode(bytes).replace(/[\u0080-\u009f]/g, (character) => C1.charAt(character.charCodeAt(0) - 0x80));

const BLOCKS = new Set([
  "p",
  "div",
  "br",
  "li",
  "h1",
  "h2",
  "h3",
  "h4",
  "h5",
  "h6",
  "tr",
  "section",
  "article",
  "title",
  "pre",
  "blockquote",
]);
const UNSEEN = new Set(["script", "style", "template", "noscript"]);

/** Elements open at once. */
const MOST_OPEN = 2000;

function htmlText(html: string): string {
  let text = "";
  let unseen = 0;
  let open = 0;
  const parser = new Parser({
    onopentagname: (name) => {
      // Each element that stays open is gone through at every other one.
      if (++open > MOST_OPEN) throw new Error("Elements are nested deeper than in any page.");
      if (UNSEEN.has(name)) unseen++;
      if (BLOCKS.has(name)) text += "\n";
    },
    ontext: (words) => {
      if (unseen === 0) text += words.replace(/\s+/g, " ");
    },
    onclosetag: (name) => {
      open--;
      if (UNSEEN.has(name)) unseen--;
      if (BLOCKS.has(name) && name !== "br") text += "\n";
    },
  });
  parser.end(html);
  return text;
}

/** Groups of a rich text file whose contents are not text of the paper. */
const RTF_HIDDEN = /^\\(\*|fonttbl|colortbl|stylesheet|info|pict|object|header|footer|generator|themedata|datastore|listtable)/;

/** Rich Text Format 1.9: control words, groups, \'hh bytes in Windows-1252 and \uN characters. */
function rtfText(rtf: string): string {
  const token = /\\'([0-9a-fA-F]{2})|\\([a-z]+)(-?\d+)? ?|\\([^a-z])|([{}])|([^\\{}\r\n]+)/g;
  let text = "";
  let hidden = 0;
  let skip = 0;
  const groups: { hidden: boolean; fallback: number }[] = [];
  let fallback = 1;
  for (const match of rtf.matchAll(token)) {
    const [, byte, word, value, symbol, brace, plain] = match;
    if (brace === "{") {
      const hides = RTF_HIDDEN.test(rtf.slice(match.index + 1, match.index + 30));
      groups.push({ hidden: hides, fallback });
      if (hides) hidden++;
    } else if (brace === "}") {
      const group = groups.pop();
      if (group?.hidden) hidden--;
      fallback = group?.fallback ?? 1;
    } else if (hidden > 0) continue;
    else if (byte !== undefined) {
      if (skip > 0) skip--;
      else text += decode1252(Uint8Array.of(parseInt(byte, 16)));
    } else if (word !== undefined) {
      if (word === "par" || word === "line" || word === "row") text += "\n";
      else if (word === "tab" || word === "cell") text += "\t";
      else if (word === "uc") fallback = Number(value ?? 1);
      else if (word === "u") {
        text += String.fromCharCode(Number(value) & 0xffff);
        skip = fallback;
      } else if (word === "emdash") text += "—";
      else if (word === "endash") text += "–";
      else if (word === "rquote") text += "’";
      else if (word === "lquote") text += "‘";
      else if (word === "ldblquote") text += "“";
      else if (word === "rdblquote") text += "”";
    } else if (symbol !== undefined) {
      if (symbol === "~") text += "\u00a0";
      else if ("{}\\".includes(symbol)) text += symbol;
    } else if (plain !== undefined) {
      text += plain.slice(skip);
      skip = Math.max(0, skip - plain.length);
    }
  }
  return text;
}

/** What a long paper's pages may take together. */
export interface PageBounds {
  pages: number;
  characters: number;
  ms: number;
}
const BOUNDS: PageBounds = { pages: MOST_PAGES, characters: MOST_CHARACTERS, ms: MOST_MS };

/**
 * The text of a paper of `count` pages, in their order. Its first pages are read first, then its last, then those between; once half of
 * the characters are taken, of these only the ones that speak of a licence. Reading ends at whichever bound comes first.
 */
export async function textOfPages(
  count: number,
  page: (number: number) => string | Promise<string>,
  bounds: PageBounds = BOUNDS,
): Promise<PaperText> {
  const all = Array.from({ length: count }, (_, i) => i + 1);
  const outer = new Set([...all.slice(0, OUTER_PAGES), ...all.slice(OUTER_PAGES).slice(-OUTER_PAGES)]);
  const order = [...outer, ...all.filter((number) => !outer.has(number))];
  const until = performance.now() + bounds.ms;
  const kept = new Map<number, string>();
  let characters = 0;
  let cut = false;
  for (const [read, number] of order.entries()) {
    if (read >= bounds.pages || characters >= bounds.characters || performance.now() > until) return { text: joined(kept), cut: true };
    const text = await page(number);
    const passedOver = !outer.has(number) && characters + text.length > bounds.characters / 2 && !SPEAKS.test(text);
    // One page may not take what the paper's end needs.
    const most = Math.min(bounds.characters - characters, Math.ceil(bounds.characters / 4));
    if (passedOver || text.length > most) cut = true;
    if (passedOver) continue;
    kept.set(number, text.slice(0, most));
    characters += Math.min(text.length, most);
  }
  return { text: joined(kept), cut };
}
const joined = (pages: ReadonlyMap<number, string>): string =>
  [...pages]
    .sort(([a], [b]) => a - b)
    .map(([, text]) => text)
    .join("");

/** A long text as pages that end with a line, where lines are no longer than a page. */
function pagesOf(text: string): string[] {
  const pages: string[] = [];
  for (let at = 0; at < text.length;) {
    const most = text.slice(at, at + PAGE_CHARACTERS);
    const page = most.slice(0, most.lastIndexOf("\n") + 1) || most;
    pages.push(page);
    at += page.length;
  }
  return pages;
}

async function pdfText(bytes: Uint8Array): Promise<PaperText> {
  const { getDocument } = await import("pdfjs-dist/legacy/build/pdf.mjs");
  const document = await getDocument({
    data: Uint8Array.from(bytes),
    isEvalSupported: false,
    useSystemFonts: false,
    disableFontFace: true,
    verbosity: 0,
  }).promise;
  try {
    return await textOfPages(document.numPages, async (number) => {
      const page = await document.getPage(number);
      const { items } = await page.getTextContent();
      page.cleanup();
      return items.map((item) => ("str" in item ? item.str + (item.hasEOL ? "\n" : "") : "")).join("") + "\n\n";
    });
  } finally {
    await document.destroy();
  }
}

const DOCX_BOUNDS = { entries: 2000, bytes: 16 * 1024 * 1024 };

/** Text of a word-processing document (ISO/IEC 29500-1, 17.3): paragraphs, tabs and breaks; what was deleted and kept as a change is not its text. */
function docxText(bytes: Uint8Array): string {
  const { "word/document.xml": document } = unpackSmallZip(bytes, DOCX_BOUNDS, (name) => name === "word/document.xml");
  if (!document) throw new Error("There is no text part in it.");
  let text = "";
  let inText = false;
  const parser = new Parser(
    {
      onopentagname: (name) => {
        if (name === "w:t") inText = true;
        else if (name === "w:tab") text += "\t";
        else if (name === "w:br" || name === "w:cr") text += "\n";
      },
      ontext: (words) => {
        if (inText) text += words;
      },
      onclosetag: (name) => {
        if (name === "w:t") inText = false;
        else if (name === "w:p") text += "\n\n";
      },
    },
    { xmlMode: true, decodeEntities: true },
  );
  parser.write(new TextDecoder().decode(document));
  parser.end();
  return text;
}

const starts = (bytes: Uint8Array, words: string): boolean => new TextDecoder("latin1").decode(bytes.subarray(0, words.length)) === words;

async function read(path: string, bytes: Uint8Array): Promise<PaperText> {
  if (starts(bytes, "%PDF-")) return pdfText(bytes);
  const text = await plainText(path, bytes);
  if (text.length <= MOST_CHARACTERS) return { text, cut: false };
  const pages = pagesOf(text);
  return textOfPages(pages.length, (number) => pages[number - 1]!, { ...BOUNDS, pages: Infinity });
}

async function plainText(path: string, bytes: Uint8Array): Promise<string> {
  if (/\.docx$/i.test(path) && starts(bytes, "PK")) return docxText(bytes);
  const text = decodeText(bytes);
  if (text.startsWith("{\\rtf")) return rtfText(text);
  if (/\.html?$/i.test(path) || /^\s*<(!doctype html|html)/i.test(text)) return htmlText(text);
  return text;
}

/**
 * Reads a paper. Problems: "paper-too-large", "paper-unreadable" (damaged, or a kind nobody reads here), "paper-no-text"
 * (a scan or an empty file).
 */
export async function paperText(path: string, bytes: Uint8Array): Promise<Result<PaperText>> {
  if (bytes.length > MOST_BYTES)
    return fail("paper-too-large", "This paper is too large to be read here.", "Open it in another program, and note what it says.");
  if (starts(bytes, "%PDF-") && hasLargeStream(bytes))
    return fail(
      "paper-too-large",
      "A part of this paper unpacks to more than is read (limit “Stream”).",
      "Open it in another program, and note what it says.",
    );
  let found: PaperText;
  try {
    found = await read(path, bytes);
  } catch {
    return fail(
      "paper-unreadable",
      "This paper is damaged or of a kind that cannot be read here.",
      "Open it in another program, and note what it says.",
    );
  }
  const tidy = found.text
    .replace(/\r\n?/g, "\n")
    .replace(/\0/g, "")
    .split("\n")
    .map((line) => line.trimEnd())
    .join("\n")
    .replace(/\n{3,}/g, "\n\n")
    .trim();
  if (tidy === "")
    return fail(
      "paper-no-text",
      "There is no text in this paper: it is empty, or a scanned picture.",
      "Look at it in another program, and note what it says.",
    );
  if (/[\u0001-\u0008\u000e-\u001a]/.test(tidy.slice(0, 1000))) {
    return fail(
      "paper-unreadable",
      "This paper is damaged or of a kind that cannot be read here.",
      "Open it in another program, and note what it says.",
    );
  }
  return ok({ text: tidy, cut: found.cut });
}
