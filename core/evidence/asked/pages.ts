// Pages and drawings: SVG, HTML, style sheets by themselves, and books made of them (EPUB 3).
import { ProblemError } from "../../problem.ts";
import { all, attribute, hasText, parseMarkup, textOf, tooMuch, type Element } from "../markup.ts";
import { originFrom, UNKNOWN_ORIGIN } from "../origin.ts";
import { unmixBook } from "./held.ts";
import { Effort } from "./effort.ts";
import { gatherStyled, readSheets, type Sheets } from "./styles.ts";
import { Gathered, GENERIC, type AskedDocument, type HeldFont } from "./text.ts";

/** Pages of a book; the longest have some hundred. */
const MOST_PAGES = 2000;

type Files = Readonly<Record<string, Uint8Array>>;
const nowhere = () => null;

export function readSvg(bytes: Uint8Array): AskedDocument {
  const root = parseMarkup(bytes);
  if (!all(root, "text").some(hasText)) {
    throw new ProblemError(
      "svg-outlines",
      "This drawing holds no text: its letters were turned into outlines.",
      "Export it again with text kept as text.",
    );
  }
  const effort = new Effort();
  const sheets = readSheets(all(root, "style").map(textOf), nowhere, effort);
  const gathered = new Gathered();
  gatherStyled(root, [sheets], gathered, { html: false, effort });
  const [generator] = all(root, "generator").map(textOf);
  return { kind: "SVG", texts: gathered.texts, declared: sheets.declared, held: sheets.faces, origin: originFrom(generator ?? "", "", []) };
}

export function readHtml(bytes: Uint8Array): AskedDocument {
  const root = parseMarkup(bytes, true);
  const effort = new Effort();
  const sheets = readSheets(all(root, "style").map(textOf), nowhere, effort);
  const gathered = new Gathered();
  gatherStyled(root, [sheets], gathered, { html: true, effort });
  const generator = all(root, "meta").find((one) => /^generator$/i.test(attribute(one, "name") ?? ""));
  return {
    kind: "HTML",
    texts: gathered.texts,
    declared: sheets.declared,
    held: sheets.faces,
    origin: originFrom(attribute(generator, "content") ?? "", "", []),
  };
}

/** A style sheet by itself sets no text: what its rules name is asked for wherever it is used. */
export function readCss(bytes: Uint8Array): AskedDocument {
  const effort = new Effort();
  const sheets = readSheets([new TextDecoder().decode(bytes)], nowhere, effort);
  const gathered = new Gathered();
  for (const { declarations } of sheets.rules.all) {
    const root: Element = { name: "", attributes: {}, children: [] };
    const style = declarations.map(({ property, value }) => `${property}:${value}`).join(";");
    root.children = [{ name: "x", attributes: { style }, children: ["-"], parent: root }];
    if (declarations.some(({ property }) => property === "font-family")) gatherStyled(root, [], gathered, { html: false, effort });
  }
  return {
    kind: "CSS",
    texts: gathered.texts,
    declared: sheets.declared.filter((one) => !GENERIC.test(one)),
    held: [],
    origin: UNKNOWN_ORIGIN,
  };
}

const resolved = (from: string, address: string): string => {
  const parts = from.split("/").slice(0, -1);
  for (const part of decodeURIComponent(address.split(/[?#]/)[0] ?? "").split("/")) {
    if (part === "..") parts.pop();
    else if (part !== "." && part !== "") parts.push(part);
  }
  return parts.join("/");
};
const calmly = (read: () => string): string => {
  try {
    return read();
  } catch {
    return "";
  }
};

/** Pages with the sheets each of them links; fonts lie in the book, some of them mixed with its identifier. */
export function readEpub(files: Files): AskedDocument {
  const container = files["META-INF/container.xml"] ? parseMarkup(files["META-INF/container.xml"]) : undefined;
  const packagePath =
    (container ? all(container, "rootfile").map((one) => attribute(one, "full-path") ?? "") : []).find((path) => files[path]) ?? "";
  const book = files[packagePath] ? parseMarkup(files[packagePath]) : undefined;
  const [main] = book ? all(book, "package") : [];
  const identifier = (book ? all(book, "identifier") : []).find((one) => attribute(one, "id") === attribute(main, "unique-identifier"));
  const mixed = new Set<string>();
  const locked = new Set<string>();
  if (files["META-INF/encryption.xml"]) {
    for (const one of all(parseMarkup(files["META-INF/encryption.xml"]), "EncryptedData")) {
      const path = attribute(all(one, "CipherReference")[0], "URI") ?? "";
      const method = attribute(all(one, "EncryptionMethod")[0], "Algorithm") ?? "";
      (method === "http://www.idpf.org/2008/embedding" ? mixed : locked).add(path);
    }
  }
  const unmixed = new Map<string, Uint8Array | null>();
  const fetchedFrom = (from: string) => (address: string) => {
    const path = calmly(() => resolved(from, address));
    const bytes = files[path];
    if (!bytes || locked.has(path)) return null;
    if (!mixed.has(path)) return bytes;
    // Once for each font: many faces may point to one.
    const known = unmixed.get(path) ?? unmixBook(bytes, identifier ? textOf(identifier) : "");
    unmixed.set(path, known);
    return known;
  };
  const gathered = new Gathered();
  const effort = new Effort();
  const held = new Set<HeldFont>();
  const declared = new Set<string>();
  const take = (sheets: Sheets): Sheets => {
    for (const face of sheets.faces) held.add(face);
    for (const one of sheets.declared) declared.add(one);
    return sheets;
  };
  const read = new Map<string, Sheets>();
  const inSpine = new Set((book ? all(book, "itemref") : []).map((one) => attribute(one, "idref")));
  const listed = (book ? all(book, "item") : [])
    .filter((item) => inSpine.has(attribute(item, "id")))
    .map((item) => calmly(() => resolved(packagePath, attribute(item, "href") ?? "")));
  const pages = listed.some((path) => files[path]) ? listed : Object.keys(files).filter((name) => /\.x?html?$/i.test(name));
  if (new Set(pages).size > MOST_PAGES) throw tooMuch("pages of a book");
  // A page is read once, however often it is listed; so is a sheet that it links again.
  for (const page of new Set(pages)) {
    if (!files[page]) continue;
    const root = parseMarkup(files[page]);
    const linked = new Set(
      all(root, "link")
        .filter((one) => /stylesheet/i.test(attribute(one, "rel") ?? ""))
        .map((one) => calmly(() => resolved(page, attribute(one, "href") ?? ""))),
    );
    const sheets = [...linked].flatMap((path) => {
      if (!files[path]) return [];
      const known = read.get(path) ?? take(readSheets([new TextDecoder().decode(files[path])], fetchedFrom(path), effort));
      read.set(path, known);
      return [known];
    });
    const own = take(readSheets(all(root, "style").map(textOf), fetchedFrom(page), effort));
    gatherStyled(root, [...sheets, own], gathered, { html: true, effort });
  }
  const words = (name: string) => (book ? all(book, name).map(textOf)[0] : undefined) ?? "";
  const metas = book ? all(book, "meta") : [];
  const modified = metas.find((one) => attribute(one, "property") === "dcterms:modified");
  const generator = metas.find((one) => attribute(one, "name") === "generator");
  const origin = originFrom(attribute(generator, "content") ?? "", words("creator"), [words("date"), modified ? textOf(modified) : ""]);
  return { kind: "EPUB", texts: gathered.texts, declared: [...declared], held: [...held], origin };
}
