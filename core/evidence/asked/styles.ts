// Style sheets over a tree of elements: which rule wins, what is inherited (CSS Cascading and Inheritance, CSS Fonts Module).
import { compile, type Options } from "css-select";
import { isTraversal, parse as parseSelector, type Selector } from "css-what";
import postcss from "postcss";
import { remembered } from "../../words/remembered.ts";
import { Effort } from "./effort.ts";
import { isElement, localName, ownText, tooMuch, type Element, type Node } from "../markup.ts";
import { dataBytes } from "./held.ts";
import { GENERIC, type Gathered, type HeldFont, type Setting } from "./text.ts";

interface Declared {
  property: string;
  value: string;
  important: boolean;
}
interface Rule {
  /** What an element must have for it to match at all: "#id", ".class", a name in lower case, or "*". */
  key: string;
  matches: (element: Element) => boolean;
  specificity: number;
  declarations: readonly Declared[];
}
export interface Sheets {
  rules: RuleIndex;
  faces: HeldFont[];
  /** Families any rule or face names. */
  declared: string[];
  /** Rules with fonts whose selector is not understood. */
  unread: number;
}

/** No selector a person or a framework writes is longer. */
const MOST_SELECTOR = 10_000;
/** Families tried one after another. */
const MOST_FAMILIES = 100;
/** Values and attributes remembered as read. */
const MOST_REMEMBERED = 5000;

const PROPERTIES = /^(font|font-family|font-weight|font-style|font-size|display|visibility|color|fill|opacity|--.+)$/i;

const some = (nodes: readonly Node[], test: (element: Element) => boolean | undefined): boolean =>
  nodes.some((node) => isElement(node) && (test(node) === true || some(node.children, test)));
const adapter: NonNullable<Options<Node, Element>["adapter"]> = {
  isTag: isElement,
  existsOne: (test, nodes) => some(nodes, (element) => test(element)),
  getAttributeValue: (element, name) => element.attributes[name],
  getChildren: (node) => (isElement(node) ? node.children : []),
  getName: (element) => element.name,
  getParent: (node) => (isElement(node) && node.parent?.name !== "" ? (node.parent ?? null) : null),
  getSiblings: (node) => (isElement(node) ? (node.parent?.children ?? [node]) : [node]),
  getText: (node) => (isElement(node) ? ownText(node) : node),
  hasAttrib: (element, name) => element.attributes[name] !== undefined,
  removeSubsets: (nodes) => nodes,
  findAll: () => [],
  findOne: () => null,
};

/** Ids, then classes, attributes and pseudo-classes, then names (Selectors Level 3, "Calculating a selector's specificity"). */
function specificityOf(selector: string): number {
  const bare = selector.replace(/\[[^[\]]*\]/g, ".x").replace(/:not\(|\)/g, " ");
  const count = (pattern: RegExp) => (bare.match(pattern) ?? []).length;
  return count(/#[\w-]/g) * 10_000 + (count(/\.[\w-]/g) + count(/(?<!:):[a-z-]/g)) * 100 + count(/(^|[\s>+~])[a-z]/gi) + count(/::[a-z-]/g);
}

/** What the last part of a selector asks of an element itself. */
function keyOf(selector: readonly Selector[]): string {
  const last = selector.slice(selector.findLastIndex((one) => isTraversal(one)) + 1);
  let key = "*";
  for (const one of last) {
    if (one.type === "attribute" && one.name === "id" && one.action === "equals") return `#${one.value}`;
    if (one.type === "attribute" && one.name === "class" && one.action === "element") key = `.${one.value}`;
    if (one.type === "tag" && key === "*") key = one.name.toLowerCase();
  }
  return key.startsWith(".") ? key.toLowerCase() : key;
}

/** Rules by what an element must have: each element is held against those it may match. */
class RuleIndex {
  private readonly byKey = new Map<string, { rule: Rule; order: number }[]>();
  /** In the order of the sheet. */
  readonly all: Rule[] = [];
  add(rule: Rule): void {
    const there = this.byKey.get(rule.key);
    const ranked = { rule, order: this.all.push(rule) };
    if (there) there.push(ranked);
    else this.byKey.set(rule.key, [ranked]);
  }
  /** Those an element may match, in the order of the sheets. */
  for(element: Element): Rule[] {
    const classes = element.attributes["class"]?.toLowerCase().split(/\s+/) ?? [];
    const keys = new Set(["*", element.name.toLowerCase(), `#${element.attributes["id"] ?? ""}`, ...classes.map((one) => `.${one}`)]);
    const found = [...keys].flatMap((key) => this.byKey.get(key) ?? []);
    return found.sort((a, b) => a.order - b.order).map(({ rule }) => rule);
  }
}

/** Families of a `font-family` value, in order, without quotes; generic ones too. */
export function familiesIn(value: string): string[] {
  return (value.match(/"[^"]*"|'[^']*'|[^,]+/g) ?? []).slice(0, MOST_FAMILIES).map((part) =>
    part
      .trim()
      .replace(/^(["'])(.*)\1$/, "$2")
      .replace(/\\([0-9a-f]{1,6})\s?/gi, (_, hex: string) => String.fromCodePoint(Math.min(parseInt(hex, 16), 0x10ffff)))
      .replace(/\\(.)/g, "$1")
      .replace(/\s+/g, " ")
      .trim(),
  );
}

const SIZE = /^(?:calc\(.*|[\d.]+(?:[a-z]+|%)?|(?:x{1,3}-)?(?:small|large)|medium|smaller|larger)$/i;
/** The parts of a `font` value (CSS Fonts Module, "font"). */
function shorthand(value: string): Map<string, string> {
  const found = new Map<string, string>();
  const words = value
    .trim()
    .replace(/\s+/g, " ")
    .replace(/ ?\/ ?/g, "/")
    .split(" ");
  const at = words.findIndex((word, i) => i < 6 && SIZE.test(word.split("/")[0]!) && !/^[1-9]00$|^1000$/.test(word));
  if (at < 0 || at + 1 >= words.length) return found;
  const before = words.slice(0, at);
  found.set("font-weight", before.find((word) => /^(bold|bolder|lighter|[1-9]\d{0,3})$/i.test(word)) ?? "normal");
  found.set("font-style", before.find((word) => /^(italic|oblique)/i.test(word)) ?? "normal");
  found.set("font-size", words[at]!.split("/")[0]!);
  found.set("font-family", words.slice(at + 1).join(" "));
  return found;
}
function expanded(declarations: readonly Declared[]): Declared[] {
  return declarations.flatMap((one) => {
    if (one.property !== "font") return [one];
    if (/^(inherit|initial|unset)$/i.test(one.value.trim())) return [];
    return [...shorthand(one.value)].map(([property, value]) => ({ property, value, important: one.important }));
  });
}
const declarationsOf = (container: postcss.Container): Declared[] => {
  const found: Declared[] = [];
  container.each((node) => {
    if (node.type === "decl" && PROPERTIES.test(node.prop))
      found.push({
        property: node.prop === "fill" ? "color" : node.prop.toLowerCase(),
        value: node.value,
        important: node.important === true,
      });
  });
  return expanded(found);
};

function rangesIn(value: string): [number, number][] | undefined {
  const ranges = value.split(",").flatMap((part): [number, number][] => {
    const found = /^\s*U\+([0-9a-f?]{1,6})(?:-([0-9a-f]{1,6}))?\s*$/i.exec(part);
    if (!found) return [];
    return [[parseInt(found[1]!.replaceAll("?", "0"), 16), parseInt(found[2] ?? found[1]!.replaceAll("?", "f"), 16)]];
  });
  return ranges.length > 0 ? ranges : undefined;
}
const weightIn = (value: string): number | undefined => {
  const word = value.trim().toLowerCase();
  if (word === "bold") return 700;
  if (word === "normal") return 400;
  const number = Number(word);
  return number >= 1 && number <= 1000 ? number : undefined;
};

/** Reads style sheets. `fetched` finds what an address that is no data address points to. */
export function readSheets(texts: readonly string[], fetched: (address: string) => Uint8Array | null, effort: Effort): Sheets {
  const sheets: Sheets = { rules: new RuleIndex(), faces: [], declared: [], unread: 0 };
  for (const text of texts) {
    effort.sheet(text);
    let root: postcss.Root;
    try {
      root = postcss.parse(text);
    } catch {
      continue;
    }
    root.walkAtRules(/^font-face$/i, (rule) => {
      effort.face();
      const own = new Map<string, string>();
      rule.each((node) => {
        if (node.type === "decl") own.set(node.prop.toLowerCase(), node.value);
      });
      const [family = ""] = familiesIn(own.get("font-family") ?? "");
      const source = own.get("src") ?? "";
      const installed = source.search(/\blocal\(/i);
      const addresses = [...source.matchAll(/url\(\s{0,9}(?:"([^"]*)"|'([^']*)'|([^"'\s)][^)]*)?)/g)].map((match) =>
        (match[1] ?? match[2] ?? match[3] ?? "").trim(),
      );
      if (family === "" || addresses.length === 0) return;
      const bytes = addresses
        .map((address) => (address === "" ? null : (dataBytes(address) ?? fetched(address))))
        .find((one) => one !== null);
      sheets.declared.push(family);
      sheets.faces.push({
        family,
        weight: weightIn(own.get("font-weight") ?? "normal"),
        italic: /italic|oblique/i.test(own.get("font-style") ?? ""),
        installedFirst: installed >= 0 && installed < source.search(/\burl\(/i),
        bytes: bytes ?? null,
        ranges: rangesIn(own.get("unicode-range") ?? ""),
      });
    });
    root.walkRules((rule) => {
      const outer = rule.parent;
      if (outer?.type === "atrule") {
        const at = outer as postcss.AtRule;
        if (/^(font-face|keyframes|-webkit-keyframes|page)$/i.test(at.name)) return;
        if (/^media$/i.test(at.name) && /(^|[\s,])(print|speech)\b/i.test(at.params) && !/screen|all/i.test(at.params)) return;
      }
      const declarations = declarationsOf(rule);
      if (declarations.length === 0) return;
      for (const { property, value } of declarations)
        if (property === "font-family") sheets.declared.push(...familiesIn(value).filter((family) => !GENERIC.test(family)));
      for (const selector of rule.selectors) {
        // What a person does with the pointer, and what stands before and after, is another matter.
        if (/:(hover|focus|active|visited|target|before|after|first-line|first-letter|placeholder|selection|marker)/i.test(selector))
          continue;
        if (selector.length > MOST_SELECTOR) throw tooMuch("a selector");
        try {
          const parsed = parseSelector(selector);
          const matches = compile<Node, Element>(parsed, { adapter, xmlMode: false }) as (element: Element) => boolean;
          sheets.rules.add({ key: keyOf(parsed[0] ?? []), matches, specificity: specificityOf(selector), declarations });
        } catch {
          sheets.unread++;
        }
      }
    });
  }
  return sheets;
}

interface Computed extends Setting {
  hidden: string;
  /** Custom properties. */
  own: ReadonlyMap<string, string>;
  colour: string;
}
const START: Computed = { families: [], weight: 400, italic: false, hidden: "", own: new Map(), colour: "" };
/** What browsers set before any sheet (HTML Living Standard, "Rendering"). */
const BOLD = /^(b|strong|th|h[1-6])$/;
const ITALIC = /^(i|em|cite|dfn|var|address)$/;
const FIXED = /^(pre|code|kbd|samp|tt|listing|plaintext|xmp)$/;
const UNSHOWN =
  /^(head|script|style|title|template|noscript|meta|link|datalist|metadata|desc|defs|symbol|clippath|mask|iframe|object|option)$/;
/** Colours that may be the paper's, or none: white and what is wholly transparent. */
function white(colour: string): boolean {
  const name = colour.trim().toLowerCase();
  if (/^(white|transparent|#fff|#fffe|#ffff|#ffffff)$/.test(name)) return true;
  const parts = /^rgba?\(([^()]*)\)$/
    .exec(name)?.[1]
    ?.split(/[\s,/]/)
    .filter((part) => part !== "");
  if (!parts || parts.length < 3) return false;
  const [red, green, blue, alpha = 1] = parts.map(Number);
  return alpha === 0 || (alpha === 1 && red === 255 && green === 255 && blue === 255);
}

/** The declarations of a style attribute. */
function inline(style: string): readonly Declared[] {
  if (style === "") return [];
  try {
    const [rule] = postcss.parse(`a{${style}}`).nodes;
    return rule?.type === "rule" ? declarationsOf(rule) : [];
  } catch {
    return [];
  }
}

/** Computes how each element's own text is to be set, and gathers it. */
export function gatherStyled(
  root: Element,
  sheets: readonly Sheets[],
  gathered: Gathered,
  { html, effort }: { html: boolean; effort: Effort },
): void {
  const ownOf = remembered(inline, MOST_REMEMBERED);
  const namesIn = remembered(familiesIn, MOST_REMEMBERED);
  const walk = (element: Element, given: Computed, used = false): void => {
    const name = localName(element).toLowerCase();
    const declared: { one: Declared; rank: number; order: number }[] = [];
    let order = 0;
    const take = (list: readonly Declared[], specificity: number) => {
      for (const one of list) declared.push({ one, rank: specificity + (one.important ? 1e9 : 0), order: order++ });
    };
    if (html) {
      const preset = (property: string, value: string) => take([{ property, value, important: false }], -2);
      if (BOLD.test(name)) preset("font-weight", name === "b" || name === "strong" ? "bolder" : "bold");
      if (ITALIC.test(name)) preset("font-style", "italic");
      if (FIXED.test(name)) preset("font-family", "monospace");
      if (element.attributes["hidden"] !== undefined) preset("display", "none");
      if (name === "font" && element.attributes["face"]) preset("font-family", element.attributes["face"]);
    }
    // Presentation attributes count for less than any rule (SVG 2, "Presentation attributes").
    take(
      expanded(
        Object.entries(element.attributes)
          .filter(([key]) => /^(font|font-family|font-weight|font-style|font-size|display|visibility|opacity)$/.test(key) || key === "fill")
          .map(([property, value]) => ({ property: property === "fill" ? "color" : property, value, important: false })),
      ),
      -1,
    );
    const possible = sheets.flatMap(({ rules }) => rules.for(element));
    effort.match(possible.length + sheets.length);
    for (const rule of possible) if (rule.matches(element)) take(rule.declarations, rule.specificity);
    take(ownOf(element.attributes["style"] ?? ""), 1e6);
    effort.take(declared.length);
    declared.sort((a, b) => a.rank - b.rank || a.order - b.order);
    let own: Map<string, string> | undefined;
    const set = new Map<string, string>();
    for (const { one } of declared) {
      if (!one.property.startsWith("--")) set.set(one.property, one.value);
      else {
        if (!own) effort.match(given.own.size);
        (own ??= new Map(given.own)).set(one.property, one.value);
      }
    }
    const known: ReadonlyMap<string, string> = own ?? given.own;
    const value = (property: string): string | undefined => {
      const found = set
        .get(property)
        ?.replace(/var\(\s*(--[\w-]+)\s*(?:,([^()]*))?\)/g, (_, name: string, otherwise?: string) => known.get(name) ?? otherwise ?? "");
      return found === undefined || /^\s*(inherit|unset|revert)\s*$/i.test(found) ? undefined : found.trim();
    };
    const computed: Computed = { ...given, own: known };
    const family = value("font-family");
    if (family !== undefined) computed.families = /^initial$/i.test(family) ? [] : namesIn(family);
    const weight = value("font-weight");
    if (weight !== undefined) {
      if (/^bolder$/i.test(weight)) computed.weight = given.weight < 350 ? 400 : given.weight < 550 ? 700 : 900;
      else if (/^lighter$/i.test(weight)) computed.weight = given.weight < 550 ? 100 : given.weight < 750 ? 400 : 700;
      else computed.weight = weightIn(weight) ?? given.weight;
    }
    const style = value("font-style");
    if (style !== undefined) computed.italic = /^(italic|oblique)/i.test(style);
    const size = value("font-size");
    const colour = value("color");
    if (colour !== undefined) computed.colour = colour;
    if (value("display") === "none" || (UNSHOWN.test(name) && !used)) computed.hidden = "not shown";
    else if (given.hidden === "" && value("visibility") !== undefined && /hidden|collapse/i.test(value("visibility")!))
      computed.hidden = "hidden";
    else if (Number(value("opacity") ?? 1) === 0) computed.hidden = "transparent";
    else if (size !== undefined && /^0+(\.0+)?([a-z%]+)?$/i.test(size)) computed.hidden = "too small to be seen";
    if (value("visibility") === "visible" && computed.hidden === "hidden") computed.hidden = "";
    const pale = computed.hidden === "" && white(computed.colour) ? "perhaps in the colour of the paper" : computed.hidden;
    for (const node of element.children) {
      if (isElement(node)) walk(node, computed);
      else if (node.trim() !== "") gathered.add(node, computed, pale);
    }
  };
  for (const node of root.children) if (isElement(node)) walk(node, START);
}
