// Probe documents: one page in an open format that sets each wanted style by its menu name, with a line that a substitute would visibly
// change. Opened in a program and exported again, it is evidence for all of them.
import { plainName } from "../words/plain.ts";
import { escaped as xml } from "../words/markup.ts";
import { zipSync } from "fflate";

export const PROBE_KINDS = ["odt", "docx", "rtf", "svg", "html", "ass", "txt"] as const;
export type ProbeKind = (typeof PROBE_KINDS)[number];
export const PROBE_TYPES: Record<ProbeKind, string> = {
  odt: "application/vnd.oasis.opendocument.text",
  docx: "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
  rtf: "application/rtf",
  svg: "image/svg+xml",
  html: "text/html",
  ass: "text/plain",
  txt: "text/plain",
};

export interface ProbeStyle {
  /** The name the program lists it under, and the buttons that reach it. */
  menuName: string;
  bold: boolean;
  italic: boolean;
  fullName: string;
  /** Words in its own script. */
  words: string;
  rightToLeft: boolean;
}

const NOTE = "If two lines below look alike though their names differ, the program drew another font in the place of one.";

const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text);
const HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n';

/** OpenDocument text (ISO/IEC 26300): the type comes first and unpacked. */
function odt(title: string, styles: readonly ProbeStyle[]): Uint8Array {
  const ns =
    'xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:style="urn:oasis:names:tc:opendocument:xmlns:style:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" xmlns:fo="urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0" xmlns:svg="urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0"';
  const faces = [...new Set(styles.map((style) => style.menuName))].map(
    (name) => `<style:font-face style:name="${xml(name)}" svg:font-family="${xml(`'${name}'`)}"/>`,
  );
  const automatic = styles.map((style, i) => {
    const name = xml(style.menuName);
    const weight = style.bold ? "bold" : "normal";
    const slant = style.italic ? "italic" : "normal";
    const complex = `style:font-name-complex="${name}" style:font-weight-complex="${weight}" style:font-style-complex="${slant}"`;
    const direction = style.rightToLeft ? ' style:writing-mode="rl-tb"' : "";
    return `<style:style style:name="P${i}" style:family="paragraph"><style:paragraph-properties${direction}/><style:text-properties style:font-name="${name}" fo:font-size="24pt" fo:font-weight="${weight}" fo:font-style="${slant}" ${complex}/></style:style>`;
  });
  const lines = styles.map(
    (style, i) => `<text:p>${xml(style.fullName)}</text:p><text:p text:style-name="P${i}">${xml(style.words)}</text:p>`,
  );
  const content = `${HEAD}<office:document-content ${ns} office:version="1.2"><office:font-face-decls>${faces.join("")}</office:font-face-decls><office:automatic-styles>${automatic.join("")}</office:automatic-styles><office:body><office:text><text:p>${xml(title)}</text:p><text:p>${xml(NOTE)}</text:p>${lines.join("")}</office:text></office:body></office:document-content>`;
  const entry = (path: string, type: string) => `<manifest:file-entry manifest:full-path="${path}" manifest:media-type="${type}"/>`;
  const manifest = `${HEAD}<manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.2">${entry("/", PROBE_TYPES.odt)}${entry("content.xml", "text/xml")}</manifest:manifest>`;
  return zipSync({
    mimetype: [utf8(PROBE_TYPES.odt), { level: 0 }],
    "content.xml": utf8(content),
    "META-INF/manifest.xml": utf8(manifest),
  });
}

/** Office Open XML text (ISO/IEC 29500): the fewest parts a document has. */
function docx(title: string, styles: readonly ProbeStyle[]): Uint8Array {
  const run = (text: string, properties = "") =>
    `<w:r>${properties ? `<w:rPr>${properties}</w:rPr>` : ""}<w:t xml:space="preserve">${xml(text)}</w:t></w:r>`;
  const lines = styles.map((style) => {
    const name = xml(style.menuName);
    const flags = `${style.bold ? "<w:b/><w:bCs/>" : ""}${style.italic ? "<w:i/><w:iCs/>" : ""}`;
    const fonts = `<w:rFonts w:ascii="${name}" w:hAnsi="${name}" w:cs="${name}"/>`;
    const right = style.rightToLeft;
    const set = run(style.words, `${fonts}${flags}<w:sz w:val="48"/><w:szCs w:val="48"/>${right ? "<w:rtl/>" : ""}`);
    return `<w:p>${run(style.fullName)}</w:p><w:p>${right ? "<w:pPr><w:bidi/></w:pPr>" : ""}${set}</w:p>`;
  });
  const main = "http://schemas.openxmlformats.org/wordprocessingml/2006/main";
  const packaged = "http://schemas.openxmlformats.org/package/2006";
  return zipSync({
    "[Content_Types].xml": utf8(
      `${HEAD}<Types xmlns="${packaged}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/word/document.xml" ContentType="${PROBE_TYPES.docx}.main+xml"/></Types>`,
    ),
    "_rels/.rels": utf8(
      `${HEAD}<Relationships xmlns="${packaged}/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>`,
    ),
    "word/document.xml": utf8(
      `${HEAD}<w:document xmlns:w="${main}"><w:body><w:p>${run(title)}</w:p><w:p>${run(NOTE)}</w:p>${lines.join("")}<w:sectPr/></w:body></w:document>`,
    ),
  });
}

/** RTF: characters above ASCII as signed UTF-16 numbers; from memory. */
function rtf(title: string, styles: readonly ProbeStyle[]): string {
  const escape = (text: string) =>
    [...Array(text.length).keys()]
      .map((i) => {
        const code = text.charCodeAt(i);
        if (code < 32) return " ";
        if (code > 126) return `\\u${code > 32767 ? code - 65536 : code}?`;
        return /[\\{}]/.test(text[i]!) ? `\\${text[i]}` : text[i]!;
      })
      .join("");
  const table = styles.map((style, i) => `{\\f${i + 1}\\fnil ${escape(style.menuName)};}`).join("");
  const lines = styles.map((style, i) => {
    const flags = `${style.bold ? "\\b" : ""}${style.italic ? "\\i" : ""}`;
    return `{\\pard\\f0\\fs22 ${escape(style.fullName)}\\par}\n{\\pard${style.rightToLeft ? "\\rtlpar" : ""}\\f${i + 1}\\fs48${flags} ${escape(style.words)}\\par}`;
  });
  return `{\\rtf1\\ansi\\deff0{\\fonttbl{\\f0\\fswiss Sans;}${table}}\n{\\pard\\f0\\fs22 ${escape(title)}\\par}\n{\\pard\\f0\\fs22 ${escape(NOTE)}\\par}\n${lines.join("\n")}\n}`;
}

const css = (style: ProbeStyle): string =>
  // A line break would end the name and begin a rule (CSS Syntax Module Level 3, "Consume a string token").
  `font-family: '${style.menuName.replace(/[\n\r\f]+/g, " ").replace(/['\\]/g, "\\$&")}'; font-weight: ${style.bold ? "bold" : "normal"}; font-style: ${style.italic ? "italic" : "normal"}`;

function svg(title: string, styles: readonly ProbeStyle[]): string {
  const lines = styles.map((style, i) => {
    const y = 80 + i * 70;
    const at = style.rightToLeft ? 'x="760" direction="rtl"' : 'x="40"';
    return `<text x="40" y="${y}" font-family="sans-serif" font-size="12">${xml(style.fullName)}</text>\n<text ${at} y="${y + 40}" style="${xml(css(style))}" font-size="36">${xml(style.words)}</text>`;
  });
  return `${HEAD}<svg xmlns="http://www.w3.org/2000/svg" width="800" height="${100 + styles.length * 70}">\n<text x="40" y="36" font-family="sans-serif" font-size="14">${xml(title)}. ${xml(NOTE)}</text>\n${lines.join("\n")}\n</svg>\n`;
}
function html(title: string, styles: readonly ProbeStyle[]): string {
  const lines = styles.map(
    (style) =>
      `<p>${xml(style.fullName)}</p>\n<p dir="auto" style="${xml(css(style))}; font-size: 36px; margin: 0 0 24px">${xml(style.words)}</p>`,
  );
  return `<!doctype html>\n<html lang="en">\n<meta charset="utf-8">\n<title>${xml(title)}</title>\n<p>${xml(title)}. ${xml(NOTE)}</p>\n${lines.join("\n")}\n</html>\n`;
}
/** A subtitle file with one style and one line for each, six seconds long; from memory. */
function ass(title: string, styles: readonly ProbeStyle[]): string {
  const plain = (text: string) => text.replace(/[,{}\\\r\n]/g, " ");
  const clock = (seconds: number) =>
    `${Math.floor(seconds / 3600)}:${String(Math.floor(seconds / 60) % 60).padStart(2, "0")}:${String(seconds % 60).padStart(2, "0")}.00`;
  const flag = (on: boolean) => (on ? "-1" : "0");
  const defined = styles.map((style, i) => `Style: S${i},${plain(style.menuName)},48,${flag(style.bold)},${flag(style.italic)}`);
  const spoken = styles.map(
    (style, i) => `Dialogue: 0,${clock(i * 6)},${clock(i * 6 + 6)},S${i},,0,0,0,,${plain(style.words)}\\N${plain(style.fullName)}`,
  );
  return `[Script Info]\nTitle: ${plain(title)}\nScriptType: v4.00+\n\n[V4+ Styles]\nFormat: Name, Fontname, Fontsize, Bold, Italic\n${defined.join("\n")}\n\n[Events]\nFormat: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text\n${spoken.join("\n")}\n`;
}
function txt(title: string, styles: readonly ProbeStyle[]): string {
  const lines = styles.map((style) => {
    const buttons = [style.bold && "Bold", style.italic && "Italic"].filter(Boolean).join(" and ");
    return `Choose “${plainName(style.menuName)}”${buttons ? `, turn on ${buttons}` : ""}, for:\n${style.words}\n`;
  });
  return `${title}\n${NOTE}\n\n${lines.join("\n")}`;
}

/** The probe document as a file's bytes. */
export function makeProbe(kind: ProbeKind, title: string, styles: readonly ProbeStyle[]): Uint8Array {
  if (kind === "odt") return odt(title, styles);
  if (kind === "docx") return docx(title, styles);
  return utf8({ rtf, svg, html, ass, txt }[kind](title, styles));
}
