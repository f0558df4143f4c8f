// Which fonts office documents set their text in: OpenDocument (ISO/IEC 26300) and Office Open XML (ISO/IEC 29500), for text, slides and
// sheets. Only fonts that letters are set in count; what is merely declared does not.
import type { PdfFont } from "./pdf.ts";
import { all, elementsOf, hasText, isElement, localName, ownText, parseMarkup, type Element } from "./markup.ts";

export type Files = Readonly<Record<string, Uint8Array>>;
interface Used {
  family: string;
  bold: boolean;
  italic: boolean;
}

/** A family and its buttons as one name, as fonts are named. */
export const styleName = ({ family, bold, italic }: Used): string => [family, bold && "Bold", italic && "Italic"].filter(Boolean).join(" ");

/** Each name once; `held` are families whose files the document carries. */
export function asFonts(used: readonly Used[], held: ReadonlySet<string>, type: string): PdfFont[] {
  const found = new Map<string, PdfFont>();
  for (const one of used) {
    const name = styleName(one);
    found.set(name, { name, embedded: held.has(one.family.toLowerCase()), subset: false, type });
  }
  return [...found.values()];
}

const parsed = (files: Files, path: string): Element | undefined => (files[path] ? parseMarkup(files[path]) : undefined);
const attribute = (element: Element | undefined, local: string): string | undefined => {
  const key = Object.keys(element?.attributes ?? {}).find((name) => name.replace(/^.*:/, "") === local);
  return key === undefined ? undefined : element!.attributes[key];
};

/** OpenDocument: styles name font faces (16.2 "style:text-properties"), text names styles; a style without a font asks its parent. */
export function readOpenDocument(files: Files): { fonts: PdfFont[]; declared: string[] } {
  const trees = ["styles.xml", "content.xml"].flatMap((path) => parsed(files, path) ?? []);
  const faces = new Map<string, string>();
  const held = new Set<string>();
  for (const face of trees.flatMap((tree) => all(tree, "font-face"))) {
    const family = (attribute(face, "font-family") ?? "").replace(/^'(.*)'$/, "$1");
    faces.set(attribute(face, "name") ?? "", family);
    const source = all(face, "font-face-uri").map((uri) => attribute(uri, "href") ?? "");
    if (source.some((href) => files[href.replace(/^\.\//, "")])) held.add((faces.get(attribute(face, "name") ?? "") ?? "").toLowerCase());
  }
  interface Style {
    parent: string | undefined;
    family: string | undefined;
    bold: boolean | undefined;
    italic: boolean | undefined;
  }
  const styles = new Map<string, Style>();
  for (const style of trees.flatMap((tree) => [...all(tree, "style"), ...all(tree, "default-style")])) {
    const text = style.children.find((child): child is Element => isElement(child) && localName(child) === "text-properties");
    const name = attribute(text, "font-name");
    const weight = attribute(text, "font-weight");
    const slant = attribute(text, "font-style");
    styles.set(attribute(style, "name") ?? `default ${attribute(style, "family") ?? ""}`, {
      parent: attribute(style, "parent-style-name"),
      family: (name !== undefined ? (faces.get(name) ?? name) : undefined) ?? attribute(text, "font-family")?.replace(/^'(.*)'$/, "$1"),
      bold: weight === undefined ? undefined : weight === "bold" || Number(weight) >= 600,
      italic: slant === undefined ? undefined : slant !== "normal",
    });
  }
  const resolve = (name: string | undefined, given: Used): Used => {
    const chain: Style[] = [];
    for (let at = name, n = 0; at !== undefined && n < 30; at = styles.get(at)?.parent, n++)
      if (styles.has(at)) chain.push(styles.get(at)!);
    const first = <K extends keyof Style>(key: K) => chain.find((style) => style[key] !== undefined)?.[key];
    return { family: first("family") ?? given.family, bold: first("bold") ?? given.bold, italic: first("italic") ?? given.italic };
  };
  const used: Used[] = [];
  const walk = (element: Element, given: Used): void => {
    const name = attribute(element, "style-name");
    const own = name === undefined ? given : resolve(name, given);
    if (ownText(element).trim() !== "" && own.family !== "") used.push(own);
    for (const child of element.children) if (isElement(child)) walk(child, own);
  };
  const standard = styles.get("default paragraph") ?? styles.get("default graphic") ?? styles.get("default table-cell");
  const basic: Used = { family: standard?.family ?? "", bold: standard?.bold ?? false, italic: standard?.italic ?? false };
  for (const body of trees.flatMap((tree) => all(tree, "body"))) walk(body, basic);
  return { fonts: asFonts(used, held, "OpenDocument"), declared: [...new Set(faces.values())] };
}

const on = (element: Element | undefined): boolean =>
  element !== undefined && !/^(0|false|none|off)$/.test(attribute(element, "val") ?? "");
const child = (element: Element | undefined, local: string): Element | undefined =>
  element?.children.find((one): one is Element => isElement(one) && localName(one) === local);
/** The fonts of a theme (20.1.4.1.18 "fontScheme"), for names such as "+mn-lt" and "minorHAnsi". */
function themeFonts(files: Files, path: string): (name: string) => string {
  const theme = Object.keys(files).find((name) => name.startsWith(path));
  const tree = theme === undefined ? undefined : parsed(files, theme);
  const latin = (kind: string) => attribute(child(tree && all(tree, kind)[0], "latin"), "typeface") ?? "";
  const [major, minor] = [latin("majorFont"), latin("minorFont")];
  return (name) => (/^\+mj|^major/.test(name) ? major : /^\+mn|^minor/.test(name) ? minor : name);
}

/** Word processing: runs (17.3.2) name fonts, else their style, else the document's defaults. */
function readText(files: Files): { fonts: PdfFont[]; declared: string[] } {
  const theme = themeFonts(files, "word/theme/");
  const fontTable = parsed(files, "word/fontTable.xml");
  const held = new Set<string>();
  const declared: string[] = [];
  for (const font of fontTable ? all(fontTable, "font") : []) {
    const name = attribute(font, "name") ?? "";
    declared.push(name);
    if (font.children.some((one) => isElement(one) && /^embed/.test(localName(one)))) held.add(name.toLowerCase());
  }
  const styleTree = parsed(files, "word/styles.xml");
  const fontIn = (properties: Element | undefined): string | undefined => {
    const fonts = child(properties, "rFonts");
    const name = attribute(fonts, "ascii") ?? attribute(fonts, "hAnsi") ?? attribute(fonts, "cs") ?? attribute(fonts, "asciiTheme");
    return name === undefined ? undefined : theme(name);
  };
  const styles = new Map((styleTree ? all(styleTree, "style") : []).map((style) => [attribute(style, "styleId") ?? "", style]));
  const basic = styleTree ? fontIn(child(all(styleTree, "rPrDefault")[0], "rPr")) : undefined;
  const normal = [...styles.values()].find(
    (style) => attribute(style, "type") === "paragraph" && on(style) && attribute(style, "default") === "1",
  );
  const chain = (id: string | undefined): Element[] => {
    const found: Element[] = [];
    for (let at = id, n = 0; at !== undefined && styles.has(at) && n < 30; at = attribute(child(styles.get(at), "basedOn"), "val"), n++) {
      const properties = child(styles.get(at), "rPr");
      if (properties) found.push(properties);
    }
    return found;
  };
  const used: Used[] = [];
  for (const path of Object.keys(files).filter((name) => /^word\/(document|header\d*|footer\d*|footnotes)\.xml$/.test(name))) {
    for (const paragraph of all(parsed(files, path)!, "p")) {
      const own = attribute(child(child(paragraph, "pPr"), "pStyle"), "val") ?? (normal && attribute(normal, "styleId"));
      for (const run of all(paragraph, "r")) {
        if (all(run, "t").every((text) => !hasText(text))) continue;
        const properties = child(run, "rPr");
        const all_ = [...(properties ? [properties] : []), ...chain(attribute(child(properties, "rStyle"), "val")), ...chain(own)];
        const family = all_.map(fontIn).find((name) => name !== undefined && name !== "") ?? basic;
        const has = (local: string) => on(all_.map((one) => child(one, local)).find((one) => one !== undefined));
        if (family) used.push({ family, bold: has("b"), italic: has("i") });
      }
    }
  }
  return { fonts: asFonts(used, held, "Office Open XML"), declared };
}

/** Slides: runs with their own typeface (21.1.2.3), else the theme's body font. */
function readSlides(files: Files): { fonts: PdfFont[]; declared: string[] } {
  const theme = themeFonts(files, "ppt/theme/");
  const presentation = parsed(files, "ppt/presentation.xml");
  const held = new Set(
    (presentation ? all(presentation, "embeddedFont") : []).map((one) => (attribute(child(one, "font"), "typeface") ?? "").toLowerCase()),
  );
  const used: Used[] = [];
  for (const path of Object.keys(files).filter((name) => /^ppt\/slides\/slide\d+\.xml$/.test(name))) {
    for (const run of all(parsed(files, path)!, "r")) {
      if (!hasText(child(run, "t") ?? run)) continue;
      const properties = child(run, "rPr");
      const family = theme(attribute(child(properties, "latin"), "typeface") ?? "+mn-lt");
      const flag = (name: string) => /^(1|true)$/.test(attribute(properties, name) ?? "");
      if (family) used.push({ family, bold: flag("b"), italic: flag("i") });
    }
  }
  return { fonts: asFonts(used, held, "Office Open XML"), declared: [] };
}

/** Sheets: cells name a format, formats name a font by number (18.8). */
function readSheets(files: Files): { fonts: PdfFont[]; declared: string[] } {
  const tree = parsed(files, "xl/styles.xml");
  if (!tree) return { fonts: [], declared: [] };
  const fonts = (child(all(tree, "styleSheet")[0], "fonts") ?? tree).children.filter(isElement).map((font) => ({
    family: attribute(child(font, "name"), "val") ?? "",
    bold: on(child(font, "b")),
    italic: on(child(font, "i")),
  }));
  const formats = all(tree, "cellXfs")
    .flatMap((one) => one.children.filter(isElement))
    .map((xf) => Number(attribute(xf, "fontId") ?? 0));
  const used: Used[] = [];
  for (const path of Object.keys(files).filter((name) => /^xl\/worksheets\/sheet\d+\.xml$/.test(name))) {
    for (const cell of [...elementsOf(parsed(files, path)!)].filter((one) => localName(one) === "c")) {
      if (!hasText(cell)) continue;
      const font = fonts[formats[Number(attribute(cell, "s") ?? 0)] ?? 0];
      if (font?.family) used.push(font);
    }
  }
  return { fonts: asFonts(used, new Set(), "Office Open XML"), declared: fonts.map((font) => font.family) };
}

export function readOfficeOpenXml(files: Files): { fonts: PdfFont[]; declared: string[] } {
  if (files["word/document.xml"]) return readText(files);
  return files["ppt/presentation.xml"] ? readSlides(files) : readSheets(files);
}
