// Walking XML and HTML for evidence: elements by their local names, the text they hold, the fonts style sheets speak of.
import { Parser } from "htmlparser2";
import postcss from "postcss";
import { ProblemError } from "../problem.ts";

/** The part of a parsed tree that is looked at. */
export interface Element {
  name: string;
  attributes: Readonly<Record<string, string>>;
  children: Node[];
}
export type Node = Element | string;

/** No document that a person made is nested deeper, or made of more parts. */
const MOST_DEPTH = 500;
const MOST_NODES = 600_000;
/** What a part of a document may hold, in bytes. */
const MOST_BYTES = 24 * 1024 * 1024;

const tooMuch = (limit: string): ProblemError =>
  new ProblemError(
    "evidence-too-large",
    `This document is larger or more entangled than is read (limit “${limit}”).`,
    "Give a shorter one: a page is enough.",
  );

const decode = (bytes: Uint8Array): string => new TextDecoder("utf-8").decode(bytes);

/** The tree of an XML document; of HTML with `html`, where names are lower case and elements may stay open. */
export function parseMarkup(bytes: Uint8Array, html = false): Element {
  if (bytes.length > MOST_BYTES) throw tooMuch("Document");
  const root: { name: string; attributes: Record<string, string>; children: Node[] } = { name: "", attributes: {}, children: [] };
  const open = [root];
  let nodes = 0;
  const parser = new Parser(
    {
      onopentag: (name, attributes) => {
        if (open.length > MOST_DEPTH) throw tooMuch("Nesting");
        if (++nodes > MOST_NODES) throw tooMuch("Parts of a document");
        const element = { name, attributes, children: [] };
        open.at(-1)!.children.push(element);
        open.push(element);
      },
      ontext: (text) => {
        if (++nodes > MOST_NODES) throw tooMuch("Parts of a document");
        open.at(-1)!.children.push(text);
      },
      onclosetag: () => void open.pop(),
    },
    { xmlMode: !html, decodeEntities: true },
  );
  parser.write(decode(bytes));
  parser.end();
  return root;
}

export const isElement = (node: Node): node is Element => typeof node !== "string";
/** All elements inside, in the order they begin. */
export function* elementsOf(element: Element): Generator<Element> {
  const stack: Element[] = [];
  const push = (one: Element) => {
    for (let i = one.children.length - 1; i >= 0; i--) {
      const child = one.children[i]!;
      if (isElement(child)) stack.push(child);
    }
  };
  push(element);
  for (let next = stack.pop(); next; next = stack.pop()) {
    yield next;
    push(next);
  }
}
const holding = new WeakMap<Element, boolean>();
/** Whether an element holds any text but spaces, in itself or deeper. */
export function hasText(element: Element): boolean {
  const known = holding.get(element);
  if (known !== undefined) return known;
  const holds = element.children.some((child) => (isElement(child) ? hasText(child) : child.trim() !== ""));
  holding.set(element, holds);
  return holds;
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

const SIZE = /^(?:[\d.]+(?:[a-z]+|%)|(?:x{1,2}-)?(?:small|large)|medium|smaller|larger)$/i;
/** What follows the size, and the line height it may carry, in a `font` value. */
function afterSize(value: string): string | undefined {
  const words = value
    .trim()
    .replace(/ ?\/ ?/g, "/")
    .split(" ");
  const at = words.findIndex((word) => SIZE.test(word.split("/")[0]!));
  return at >= 0 && at + 1 < words.length ? words.slice(at + 1).join(" ") : undefined;
}
const isBold = (value: string): boolean => /bold/i.test(value) || Number(value) >= 600;
/** What declarations say of a font, as a style attribute or a rule holds them. */
export function fontOf(declarations: ReadonlyMap<string, string>): SheetFonts["used"][number] | undefined {
  const shorthand = (declarations.get("font") ?? "").replace(/\s+/g, " ");
  const family = firstFamily(declarations.get("font-family") ?? afterSize(shorthand) ?? "");
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
    const sources = [...(own.get("src") ?? "").matchAll(/url\(\s{0,9}(?:"([^"]*)"|'([^']*)'|([^"'\s)][^)]*)?)/g)].map((match) =>
      (match[1] ?? match[2] ?? match[3] ?? "").trim(),
    );
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
