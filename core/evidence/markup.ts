// Walking XML and HTML for evidence: elements by their local names, the text they hold, the fonts style sheets speak of.
import { parseDocument } from "htmlparser2";
import postcss from "postcss";

/** The part of a parsed tree that is looked at. */
export interface Element {
  name: string;
  attributes: Readonly<Record<string, string>>;
  children: Node[];
}
export type Node = Element | string;

interface Parsed {
  type: string;
  name?: string;
  attribs?: Record<string, string>;
  children?: Parsed[];
  data?: string;
}
const MOST_DEPTH = 200;

function convert(node: Parsed, depth: number): Node[] {
  if (node.type === "text" || node.type === "cdata")
    return node.data !== undefined ? [node.data] : (node.children ?? []).flatMap((child) => convert(child, depth));
  if (!node.name || depth > MOST_DEPTH) return [];
  const children = (node.children ?? []).flatMap((child) => convert(child, depth + 1));
  return [{ name: node.name, attributes: node.attribs ?? {}, children }];
}
const decode = (bytes: Uint8Array): string => new TextDecoder("utf-8").decode(bytes);

/** The tree of an XML document; of HTML with `html`, where names are lower case and elements may stay open. */
export function parseMarkup(bytes: Uint8Array, html = false): Element {
  const document = parseDocument(decode(bytes), { xmlMode: !html, decodeEntities: true }) as unknown as Parsed;
  return { name: "", attributes: {}, children: (document.children ?? []).flatMap((child) => convert(child, 0)) };
}

export const isElement = (node: Node): node is Element => typeof node !== "string";
export function* elementsOf(element: Element): Generator<Element> {
  for (const child of element.children) {
    if (!isElement(child)) continue;
    yield child;
    yield* elementsOf(child);
  }
}
export const localName = (element: Element): string => element.name.replace(/^.*:/, "");
export const all = (element: Element, local: string): Element[] => [...elementsOf(element)].filter((one) => localName(one) === local);
export const textOf = (element: Element): string => element.children.map((child) => (isElement(child) ? textOf(child) : child)).join("");
/** Text of an element's own, not of its children's. */
export const ownText = (element: Element): string => element.children.filter((child) => !isElement(child)).join("");

/** The first family of a `font-family` value that is a font and no generic name (CSS Fonts Module, "font-family"). */
export function firstFamily(value: string): string | undefined {
  const generic = /^(serif|sans-serif|monospace|cursive|fantasy|system-ui|math|emoji|inherit|initial|unset|ui-\w+)$/i;
  for (const part of value.match(/"[^"]*"|'[^']*'|[^,]+/g) ?? []) {
    const name = part
      .trim()
      .replace(/^(["'])(.*)\1$/, "$2")
      .trim();
    if (name !== "" && !generic.test(name)) return name;
  }
  return undefined;
}

export interface SheetFonts {
  /** Families the rules set text in, each with whether the rule makes it bold or italic. */
  used: { family: string; bold: boolean; italic: boolean }[];
  /** Families whose files are in the document, or beside it under these addresses. */
  held: { family: string; sources: string[] }[];
}

/** What follows the size, and the line height it may carry, in a `font` value. */
const AFTER_SIZE = /(?:^|\s)(?:[\d.]+(?:[a-z]+|%)|(?:x{1,2}-)?(?:small|large)|medium|smaller|larger)(?:\s*\/\s*[^\s,]+)?\s+(.+)$/i;
const isBold = (value: string): boolean => /bold/i.test(value) || Number(value) >= 600;
/** What declarations say of a font, as a style attribute or a rule holds them. */
export function fontOf(declarations: ReadonlyMap<string, string>): SheetFonts["used"][number] | undefined {
  const shorthand = declarations.get("font") ?? "";
  const family = firstFamily(declarations.get("font-family") ?? AFTER_SIZE.exec(shorthand)?.[1] ?? "");
  if (family === undefined) return undefined;
  const weight = declarations.get("font-weight") ?? /\b(bold|[6-9]00)\b/.exec(shorthand)?.[1] ?? "";
  const style = declarations.get("font-style") ?? shorthand;
  return { family, bold: isBold(weight), italic: /italic|oblique/i.test(style) };
}

/** Reads a style sheet; what is not a style sheet says nothing. */
export function readSheet(css: string): SheetFonts {
  const found: SheetFonts = { used: [], held: [] };
  let root: postcss.Root;
  try {
    root = postcss.parse(css);
  } catch {
    return found;
  }
  const declarations = (rule: postcss.Container): Map<string, string> => {
    const map = new Map<string, string>();
    rule.each((node) => {
      if (node.type === "decl") map.set(node.prop.toLowerCase(), node.value);
    });
    return map;
  };
  root.walkAtRules(/^font-face$/i, (rule) => {
    const own = declarations(rule);
    const family = firstFamily(own.get("font-family") ?? "");
    const sources = [...(own.get("src") ?? "").matchAll(/url\(\s*(["']?)(.*?)\1\s*\)/g)].map((match) => match[2]!);
    if (family !== undefined && sources.length > 0) found.held.push({ family, sources });
  });
  root.walkRules((rule) => {
    const font = fontOf(declarations(rule));
    if (font) found.used.push(font);
  });
  return found;
}
/** The declarations of a style attribute. */
export function readStyle(style: string): Map<string, string> {
  const map = new Map<string, string>();
  try {
    postcss.parse(`a{${style}}`).walkDecls((declaration) => void map.set(declaration.prop.toLowerCase(), declaration.value));
  } catch {
    // A broken attribute says nothing.
  }
  return map;
}
