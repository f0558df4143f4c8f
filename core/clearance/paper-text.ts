// The text of papers that come with fonts, whatever program wrote them. Decoding is done by well-kept packages; which
// one, and what is said when there is no text, is decided here.
import { Parser } from "htmlparser2";
import { fail, ok, type Result } from "../problem.ts";

/** Longer papers are shown up to here; no licence comes near. */
const MOST_CHARACTERS = 1_000_000;
/** Papers above this are not read at all. */
const MOST_BYTES = 64 * 1024 * 1024;

export interface PaperText {
  text: string;
  /** Whether the paper is longer than what is shown. */
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

function htmlText(html: string): string {
  let text = "";
  let unseen = 0;
  const parser = new Parser({
    onopentagname: (name) => {
      if (UNSEEN.has(name)) unseen++;
      if (BLOCKS.has(name)) text += "\n";
    },
    ontext: (words) => {
      if (unseen === 0) text += words.replace(/\s+/g, " ");
    },
    onclosetag: (name) => {
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

async function pdfText(bytes: Uint8Array): Promise<string> {
  const { getDocument } = await import("pdfjs-dist/legacy/build/pdf.mjs");
  const document = await getDocument({
    data: Uint8Array.from(bytes),
    isEvalSupported: false,
    useSystemFonts: false,
    disableFontFace: true,
    verbosity: 0,
  }).promise;
  let text = "";
  for (let number = 1; number <= document.numPages && text.length < MOST_CHARACTERS; number++) {
    const content = await (await document.getPage(number)).getTextContent();
    for (const item of content.items) if ("str" in item) text += item.str + (item.hasEOL ? "\n" : "");
    text += "\n\n";
  }
  await document.destroy();
  return text;
}

async function docxText(bytes: Uint8Array): Promise<string> {
  const { default: mammoth } = await import("mammoth");
  return (await mammoth.extractRawText({ buffer: Buffer.from(bytes) })).value;
}

const starts = (bytes: Uint8Array, words: string): boolean => new TextDecoder("latin1").decode(bytes.subarray(0, words.length)) === words;

async function read(path: string, bytes: Uint8Array): Promise<string> {
  if (starts(bytes, "%PDF-")) return pdfText(bytes);
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
  let text: string;
  try {
    text = await read(path, bytes);
  } catch {
    return fail(
      "paper-unreadable",
      "This paper is damaged or of a kind that cannot be read here.",
      "Open it in another program, and note what it says.",
    );
  }
  const tidy = text
    .replace(/\r\n?/g, "\n")
    .replace(/\0/g, "")
    .replace(/[ \t]+\n/g, "\n")
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
  return ok({ text: tidy.slice(0, MOST_CHARACTERS), cut: tidy.length > MOST_CHARACTERS });
}
