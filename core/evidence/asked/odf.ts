// OpenDocument (ISO/IEC 26300-1): text, slides, sheets and drawings. Styles are found by family and name, ask their parents, then the family's
// default; each names fonts for three kinds of script (20.182 to 20.186).
import { all, attribute, isElement, localName, parseMarkup, textOf, type Element } from "../markup.ts";
import { originFrom, UNKNOWN_ORIGIN, type Origin } from "../origin.ts";
import { bySlot } from "./scripts.ts";
import { Gathered, type AskedDocument, type HeldFont } from "./text.ts";

type Files = Readonly<Record<string, Uint8Array>>;
interface OwnStyle {
  parent: string | undefined;
  text: Element | undefined;
  background: boolean;
}
const SUFFIX = { ascii: "", hAnsi: "", eastAsia: "-asian", cs: "-complex" } as const;
const unquoted = (name: string): string => name.trim().replace(/^(["'])(.*)\1$/, "$2");
const MOST_PARENTS = 30;

/** Which style an element's own text takes, by the attribute that names it. */
const FAMILIES: Record<string, string> = {
  p: "paragraph",
  h: "paragraph",
  span: "text",
  a: "text",
  "table-cell": "table-cell",
  "covered-table-cell": "table-cell",
};

export function readOdf(files: Files): AskedDocument {
  const parsed = (path: string) => (files[path] ? [parseMarkup(files[path])] : []);
  const [styleTree, content] = [parsed("styles.xml"), parsed("content.xml")];
  const trees = [...styleTree, ...content];
  const faces = new Map<string, string>();
  const held: HeldFont[] = [];
  for (const face of trees.flatMap((tree) => all(tree, "font-face"))) {
    const family = unquoted(attribute(face, "font-family") ?? "");
    faces.set(attribute(face, "name") ?? "", family);
    for (const uri of all(face, "font-face-uri")) {
      const href = (attribute(uri, "href") ?? "").replace(/^\.\//, "");
      const [weight, slant] = [attribute(face, "font-weight"), attribute(face, "font-style")];
      held.push({
        family,
        bytes: href === "" ? null : (files[href] ?? null),
        weight: weight === undefined ? undefined : isBold(weight) ? 700 : 400,
        italic: slant === undefined ? undefined : slant !== "normal",
      });
    }
  }
  const styles = new Map<string, OwnStyle>();
  for (const tree of trees) {
    for (const style of [...all(tree, "style"), ...all(tree, "default-style")]) {
      const family = attribute(style, "family") ?? "";
      const name = localName(style) === "default-style" ? "" : (attribute(style, "name") ?? "");
      const child = (local: string) => style.children.find((one): one is Element => isElement(one) && localName(one) === local);
      const ground = ["paragraph-properties", "table-cell-properties", "graphic-properties", "text-properties"].some((local) => {
        const colour = attribute(child(local), "background-color") ?? attribute(child(local), "fill-color");
        return colour !== undefined && !/^(transparent|#fff(fff)?)$/i.test(colour);
      });
      styles.set(`${family} ${name}`, {
        parent: attribute(style, "parent-style-name"),
        text: child("text-properties"),
        background: ground,
      });
    }
  }
  const chain = (family: string, name: string): OwnStyle[] => {
    const found: OwnStyle[] = [];
    for (let at: string | undefined = name; at !== undefined && found.length < MOST_PARENTS;) {
      const style: OwnStyle | undefined = styles.get(`${family} ${at}`);
      if (!style) break;
      found.push(style);
      at = style.parent;
    }
    return found;
  };
  const gathered = new Gathered();
  /** `layers`: styles that apply, the nearest first. */
  const put = (text: string, layers: readonly OwnStyle[]) => {
    const value = (key: string) => layers.map((style) => attribute(style.text, key)).find((one) => one !== undefined);
    const white = /^#fff(fff)?$/i.test(value("color") ?? "") && !layers.some((style) => style.background);
    const hidden = value("display") === "none" ? "hidden" : white ? "perhaps in the colour of the paper" : "";
    for (const [slot, part] of bySlot(text, true)) {
      const end = SUFFIX[slot];
      const named = layers.flatMap((style): string[] => {
        const name = attribute(style.text, `font-name${end}`);
        if (name !== undefined) return [faces.get(name) ?? name];
        const family = attribute(style.text, `font-family${end}`);
        return family === undefined ? [] : [unquoted(family)];
      });
      const [weight, slant] = [value(`font-weight${end}`), value(`font-style${end}`)];
      const family = named[0];
      gathered.add(
        part,
        {
          families: family === undefined ? [] : [family],
          weight: weight !== undefined && isBold(weight) ? 700 : 400,
          italic: slant === "italic" || slant === "oblique",
        },
        hidden,
      );
    }
  };
  const defaultOf = (family: string) => chain(family, "");
  const walk = (element: Element, layers: readonly OwnStyle[], base: string): void => {
    const name = localName(element);
    if (/^(annotation|tracked-changes|forms|sequence-decls|variable-decls|list-style|page-layout|tracked-changes)$/.test(name)) return;
    let own = layers;
    const styled = attribute(element, "style-name");
    const family =
      FAMILIES[name] ??
      (element.name.startsWith("draw:") ? (attribute(element, "presentation:style-name") ? "presentation" : "graphic") : undefined);
    if (family !== undefined) {
      const named = attribute(element, "draw:text-style-name");
      own = [...(named === undefined ? [] : chain("paragraph", named)), ...(styled === undefined ? [] : chain(family, styled)), ...layers];
      if (name === "table-cell" && styled === undefined) own = [...chain(family, "Default"), ...layers];
    }
    if (name === "s" || name === "tab") return;
    // A cell's value and a paragraph's words are text of the element's own.
    for (const child of element.children) {
      if (isElement(child)) walk(child, own, base);
      else if (
        child.trim() !== "" &&
        /^(p|h|span|a|title|page-number|date|time|ruby-base|ruby-text|note-citation|sequence|bookmark-ref|text-input|placeholder)$/.test(
          name,
        )
      )
        put(child, [...own, ...defaultOf(base)]);
    }
  };
  const kind = content.flatMap((tree) => all(tree, "body")).flatMap((body) => body.children.filter(isElement).map(localName))[0] ?? "text";
  const base = kind === "spreadsheet" ? "table-cell" : kind === "text" ? "paragraph" : "graphic";
  for (const body of content.flatMap((tree) => all(tree, "body"))) walk(body, [], base);
  // Headers, footers and master pages, where they are in use.
  const masters = styleTree.flatMap((tree) => all(tree, "master-page"));
  const used = new Set(content.flatMap((tree) => [...all(tree, "page")].map((page) => attribute(page, "master-page-name"))));
  for (const master of masters) {
    if (kind === "presentation" && !used.has(attribute(master, "name"))) continue;
    for (const part of master.children.filter(isElement)) {
      // What a master's placeholders say is shown on no page.
      if (attribute(part, "presentation:placeholder") === "true" || /^(notes)$/.test(localName(part))) continue;
      if (attribute(part, "presentation:class") !== undefined && localName(part) === "frame") continue;
      walk(part, [], base);
    }
  }
  // Marks before list items.
  const listed = new Set(content.flatMap((tree) => all(tree, "list").map((list) => attribute(list, "style-name"))));
  for (const list of trees.flatMap((tree) => all(tree, "list-style"))) {
    if (!listed.has(attribute(list, "name"))) continue;
    const [bullet] = all(list, "list-level-style-bullet");
    const properties = bullet?.children.find((one): one is Element => isElement(one) && localName(one) === "text-properties");
    if (bullet && properties) put(attribute(bullet, "bullet-char") ?? "", [{ parent: undefined, text: properties, background: false }]);
  }
  return { kind: "OpenDocument", texts: gathered.texts, declared: [...new Set(faces.values())], held, origin: originOf(files) };
}
const isBold = (weight: string): boolean => weight === "bold" || Number(weight) >= 600;

function originOf(files: Files): Origin {
  if (!files["meta.xml"]) return UNKNOWN_ORIGIN;
  const meta = parseMarkup(files["meta.xml"]);
  const text = (name: string) => all(meta, name).map(textOf)[0] ?? "";
  return originFrom(text("generator"), "", [text("creation-date"), text("date")]);
}
