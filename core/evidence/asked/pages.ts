// Pages and drawings: SVG, HTML, style sheets by themselves, and books made of them (EPUB 3).
import { ProblemError } from "../../problem.ts";
import { all, attribute, hasText, parseMarkup, textOf, type Element } from "../markup.ts";
import { originFrom, UNKNOWN_ORIGIN } from "../origin.ts";
import { unmixBook } from "./held.ts";
import { gatherStyled, readSheets } from "./styles.ts";
import { Gathered, GENERIC, type AskedDocument } from "./text.ts";

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
  const sheets = readSheets(all(root, "style").map(textOf), nowhere);
  const gathered = new Gathered();
  gatherStyled(root, sheets, gathered, { html: false });
  const [generator] = all(root, "generator").map(textOf);
  return { kind: "SVG", texts: gathered.texts, declared: sheets.declared, held: sheets.faces, origin: originFrom(generator ?? "", "", []) };
}

export function readHtml(bytes: Uint8Array): AskedDocument {
  const root = parseMarkup(bytes, true);
  const sheets = readSheets(all(root, "style").map(textOf), nowhere);
  const gathered = new Gathered();
  gatherStyled(root, sheets, gathered, { html: true });
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
  const sheets = readSheets([new TextDecoder().decode(bytes)], nowhere);
  const gathered = new Gathered();
  for (const { declarations } of sheets.rules) {
    const root: Element = { name: "", attributes: {}, children: [] };
    const style = declarations.map(({ property, value }) => `${property}:${value}`).join(";");
    root.children = [{ name: "x", attributes: { style }, children: ["-"], parent: root }];
    if (declarations.some(({ property }) => property === "font-family"))
      gatherStyled(root, { rules: [], faces: [], declared: [], unread: 0 }, gathered, { html: false });
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
  const fetchedFrom = (from: string) => (address: string) => {
    const path = calmly(() => resolved(from, address));
    const bytes = files[path];
    if (!bytes || locked.has(path)) return null;
    return mixed.has(path) ? unmixBook(bytes, identifier ? textOf(identifier) : "") : bytes;
  };
  const gathered = new Gathered();
  const found: AskedDocument = { kind: "EPUB", texts: [], declared: [], held: [], origin: UNKNOWN_ORIGIN };
  const read = new Map<string, ReturnType<typeof readSheets>>();
  const inSpine = new Set((book ? all(book, "itemref") : []).map((one) => attribute(one, "idref")));
  const listed = (book ? all(book, "item") : [])
    .filter((item) => inSpine.has(attribute(item, "id")))
    .map((item) => calmly(() => resolved(packagePath, attribute(item, "href") ?? "")));
  const pages = listed.some((path) => files[path]) ? listed : Object.keys(files).filter((name) => /\.x?html?$/i.test(name));
  for (const page of pages) {
    if (!files[page]) continue;
    const root = parseMarkup(files[page]);
    const linked = all(root, "link")
      .filter((one) => /stylesheet/i.test(attribute(one, "rel") ?? ""))
      .map((one) => calmly(() => resolved(page, attribute(one, "href") ?? "")));
    const parts = linked.flatMap((path) => {
      if (!files[path]) return [];
      if (!read.has(path)) read.set(path, readSheets([new TextDecoder().decode(files[path])], fetchedFrom(path)));
      return [read.get(path)!];
    });
    parts.push(readSheets(all(root, "style").map(textOf), fetchedFrom(page)));
    gatherStyled(root, { rules: parts.flatMap(({ rules }) => rules), faces: [], declared: [], unread: 0 }, gathered, { html: true });
    for (const one of parts) {
      for (const face of one.faces) if (!found.held.includes(face)) found.held.push(face);
      found.declared.push(...one.declared);
    }
  }
  const words = (name: string) => (book ? all(book, name).map(textOf)[0] : undefined) ?? "";
  const metas = book ? all(book, "meta") : [];
  const modified = metas.find((one) => attribute(one, "property") === "dcterms:modified");
  const generator = metas.find((one) => attribute(one, "name") === "generator");
  const origin = originFrom(attribute(generator, "content") ?? "", words("creator"), [words("date"), modified ? textOf(modified) : ""]);
  return { ...found, texts: gathered.texts, declared: [...new Set(found.declared)], origin };
}
