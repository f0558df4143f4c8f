// Walking XML and HTML for evidence: elements by their local names, the text they hold.
import { Parser } from "htmlparser2";
import { ProblemError } from "../problem.ts";

/** The part of a parsed tree that is looked at. */
export interface Element {
  name: string;
  attributes: Readonly<Record<string, string>>;
  children: Node[];
  /** The root has none. */
  parent?: Element;
}
export type Node = Element | string;

/** No document that a person made is nested deeper, or made of more parts. */
const MOST_DEPTH = 500;
const MOST_NODES = 600_000;
/** What a part of a document may hold, in bytes. */
const MOST_BYTES = 24 * 1024 * 1024;

/** Of a document that is not read to its end; `limit` is the name people are told. */
export const tooMuch = (limit: string): ProblemError =>
  new ProblemError(
    "evidence-too-large",
    `This document is larger or more entangled than is read (limit “${limit}”).`,
    "Give a shorter one: a page is enough.",
  );

const decode = (bytes: Uint8Array): string => new TextDecoder("utf-8").decode(bytes);

/** The tree of an XML document; of HTML with `html`, where names are lower case and elements may stay open. */
export function parseMarkup(bytes: Uint8Array, html = false): Element {
  if (bytes.length > MOST_BYTES) throw tooMuch("Document");
  const root: Element & { attributes: Record<string, string> } = { name: "", attributes: {}, children: [] };
  const open = [root];
  let nodes = 0;
  const parser = new Parser(
    {
      onopentag: (name, attributes) => {
        if (open.length > MOST_DEPTH) throw tooMuch("Nesting");
        if (++nodes > MOST_NODES) throw tooMuch("Parts of a document");
        const element = { name, attributes, children: [], parent: open.at(-1)! };
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
function* elementsOf(element: Element): Generator<Element> {
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
/** An attribute by its local name, or by its whole one. */
export function attribute(element: Element | undefined, name: string): string | undefined {
  if (!element) return undefined;
  const whole = element.attributes[name];
  if (whole !== undefined || name.includes(":")) return whole;
  for (const key of Object.keys(element.attributes))
    if (key.endsWith(name) && key[key.length - name.length - 1] === ":") return element.attributes[key];
  return undefined;
}
export const all = (element: Element, local: string): Element[] => [...elementsOf(element)].filter((one) => localName(one) === local);
export const textOf = (element: Element): string => element.children.map((child) => (isElement(child) ? textOf(child) : child)).join("");
/** Text of an element's own, not of its children's. */
export const ownText = (element: Element): string => element.children.filter((child) => !isElement(child)).join("");
