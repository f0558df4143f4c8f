// Office Open XML (ISO/IEC 29500-1): text (17), slides (19 and 21), sheets (18). Fonts come through slots by script, themes, styles with parents,
// placeholders, layouts and masters.
import { all, attribute, isElement, localName, parseMarkup, textOf, type Element } from "../markup.ts";
import { originFrom, type Origin } from "../origin.ts";
import { eotFont, unmixOffice } from "./held.ts";
import { bySlot, type Slot } from "./scripts.ts";
import { Gathered, type AskedDocument, type HeldFont } from "./text.ts";

export type Files = Readonly<Record<string, Uint8Array>>;
const MOST_PARENTS = 30;
const WHITE = /^(ff)?ffffff$/i;
const PALE = "perhaps in the colour of the paper";

const child = (element: Element | undefined, local: string): Element | undefined =>
  element?.children.find((one): one is Element => isElement(one) && localName(one) === local);
const childrenOf = (element: Element | undefined): Element[] => element?.children.filter(isElement) ?? [];
const value = (element: Element | undefined): string | undefined => attribute(element, "val");
const off = (text: string | undefined): boolean => text !== undefined && /^(0|false|none|off)$/.test(text);

/** Parts of a package, and what they point to (ISO/IEC 29500-2, 9.3). */
class Package {
  readonly files: Files;
  private readonly trees = new Map<string, Element | undefined>();
  constructor(files: Files) {
    this.files = files;
  }
  tree(path: string): Element | undefined {
    if (!this.trees.has(path)) this.trees.set(path, this.files[path] ? parseMarkup(this.files[path]) : undefined);
    return this.trees.get(path);
  }
  /** Targets by id, and by the last word of their type. */
  related(path: string): { id: string; type: string; target: string }[] {
    const [folder, name] = [path.slice(0, path.lastIndexOf("/") + 1), path.slice(path.lastIndexOf("/") + 1)];
    const tree = this.tree(`${folder}_rels/${name}.rels`);
    return (tree ? all(tree, "Relationship") : []).map((one) => {
      const target = attribute(one, "Target") ?? "";
      const type = (attribute(one, "Type") ?? "").replace(/^.*\//, "");
      return { id: attribute(one, "Id") ?? "", type, target: target.startsWith("/") ? target.slice(1) : joined(folder, target) };
    });
  }
  one(path: string, type: string): string | undefined {
    return this.related(path).find((one) => one.type === type)?.target;
  }
  named(pattern: RegExp): string[] {
    return Object.keys(this.files).filter((name) => pattern.test(name));
  }
}
function joined(folder: string, target: string): string {
  const parts = folder.split("/").filter(Boolean);
  for (const part of target.split("/")) {
    if (part === "..") parts.pop();
    else if (part !== "." && part !== "") parts.push(part);
  }
  return parts.join("/");
}

/** A theme's fonts (20.1.4.1.18 "fontScheme"). */
interface Theme {
  major: Record<"latin" | "ea" | "cs", string>;
  minor: Record<"latin" | "ea" | "cs", string>;
}
function themeOf(tree: Element | undefined): Theme {
  const fonts = (kind: string) => {
    const scheme = tree && all(tree, kind)[0];
    const face = (local: string) => attribute(child(scheme, local), "typeface") ?? "";
    return { latin: face("latin"), ea: face("ea"), cs: face("cs") };
  };
  return { major: fonts("majorFont"), minor: fonts("minorFont") };
}

const PROPERTY: Record<Slot, "latin" | "ea" | "cs"> = { ascii: "latin", hAnsi: "latin", eastAsia: "ea", cs: "cs" };

function readText(parts: Package): AskedDocument {
  const main = "word/document.xml";
  const theme = themeOf(parts.tree(parts.one(main, "theme") ?? parts.named(/^word\/theme\/.*\.xml$/)[0] ?? ""));
  const gathered = new Gathered();
  const declared: string[] = [];
  const held: HeldFont[] = [];
  const tablePath = "word/fontTable.xml";
  const fontTable = parts.tree(tablePath);
  const targets = new Map(parts.related(tablePath).map(({ id, target }) => [id, target]));
  for (const font of fontTable ? all(fontTable, "font") : []) {
    const family = attribute(font, "name") ?? "";
    declared.push(family);
    for (const one of childrenOf(font).filter((own) => /^embed/.test(localName(own)))) {
      const raw = parts.files[targets.get(attribute(one, "id") ?? "") ?? ""];
      const key = attribute(one, "fontKey") ?? "";
      held.push({
        family,
        bytes: raw ? (key === "" ? raw : unmixOffice(raw, key)) : null,
        weight: /Bold/.test(localName(one)) ? 700 : 400,
        italic: /Italic/.test(localName(one)),
      });
    }
  }
  const styleTree = parts.tree("word/styles.xml");
  const styles = new Map((styleTree ? all(styleTree, "style") : []).map((style) => [attribute(style, "styleId") ?? "", style]));
  const basic = styleTree ? child(child(child(childrenOf(styleTree)[0], "docDefaults"), "rPrDefault"), "rPr") : undefined;
  const standard = (type: string) =>
    [...styles.values()].find((style) => attribute(style, "type") === type && /^(1|true|on)$/.test(attribute(style, "default") ?? ""));
  const normal = attribute(standard("paragraph"), "styleId");
  const chain = (id: string | undefined): Element[] => {
    const found: Element[] = [];
    for (let at = id; at !== undefined && styles.has(at) && found.length < MOST_PARENTS; at = value(child(styles.get(at), "basedOn")))
      found.push(styles.get(at)!);
    return found;
  };
  const runProperties = (list: readonly Element[]) => list.flatMap((style) => child(style, "rPr") ?? []);
  /** The font of a slot: a theme's comes before a name (17.3.2.26). */
  const familyIn = (properties: Element | undefined, slot: Slot): string | undefined => {
    const fonts = child(properties, "rFonts");
    const themed = attribute(fonts, slot === "cs" ? "cstheme" : `${slot}Theme`);
    if (themed !== undefined) {
      const script = /Bidi$/.test(themed) ? "cs" : /EastAsia$/.test(themed) ? "ea" : "latin";
      return theme[/^major/.test(themed) ? "major" : "minor"][script];
    }
    return attribute(fonts, slot);
  };
  /** Toggles: styles of several kinds switch each other; what stands in the run itself decides (17.7.3). */
  const toggled = (direct: Element | undefined, kinds: readonly (readonly Element[])[], local: string): boolean => {
    const own = child(direct, local);
    if (own) return !off(value(own) ?? "1");
    return kinds.reduce((is, list) => {
      const found = list.map((one) => child(one, local)).find((one) => one !== undefined);
      return found && !off(value(found) ?? "1") ? !is : is;
    }, false);
  };
  const put = (
    text: string,
    direct: Element | undefined,
    character: readonly Element[],
    paragraph: readonly Element[],
    table: readonly Element[],
  ) => {
    const layers = [...(direct ? [direct] : []), ...character, ...paragraph, ...table, ...(basic ? [basic] : [])];
    const first = (local: string) => layers.map((one) => child(one, local)).find((one) => one !== undefined);
    const complex = (first("rtl") && !off(value(first("rtl")) ?? "1")) || (first("cs") && !off(value(first("cs")) ?? "1"));
    const has = (local: string) => toggled(direct, [character, paragraph, table], local);
    const shaded = ["highlight", "shd"].some((local) => {
      const one = first(local);
      return one !== undefined && !/^(none|nil|auto|ffffff)$/i.test(attribute(one, "fill") ?? value(one) ?? "none");
    });
    const size = Number(value(first("sz")) ?? 20);
    const hidden =
      has("vanish") || has("webHidden")
        ? "hidden"
        : size === 0
          ? "too small to be seen"
          : WHITE.test(value(first("color")) ?? "") && !shaded
            ? PALE
            : "";
    for (const [slot, part] of complex ? ([["cs", text]] as [Slot, string][]) : bySlot(text, false)) {
      const family = layers.map((one) => familyIn(one, slot)).find((name) => name !== undefined);
      const script = slot === "cs" ? "Cs" : "";
      gathered.add(
        part,
        { families: family === undefined ? [] : [family], weight: has(`b${script}`) ? 700 : 400, italic: has(`i${script}`) },
        hidden,
      );
    }
  };
  const numbering = parts.tree("word/numbering.xml");
  const bullet = (numbers: Element | undefined): { text: string; properties: Element | undefined } | undefined => {
    const id = value(child(numbers, "numId"));
    if (!numbering || id === undefined || id === "0") return undefined;
    const level = value(child(numbers, "ilvl")) ?? "0";
    const list = all(numbering, "num").find((one) => attribute(one, "numId") === id);
    const abstract = all(numbering, "abstractNum").find((one) => attribute(one, "abstractNumId") === value(child(list, "abstractNumId")));
    const own = childrenOf(abstract).find((one) => localName(one) === "lvl" && attribute(one, "ilvl") === level);
    const text = value(child(own, "lvlText")) ?? "";
    return { text: text.replace(/%\d/g, "1"), properties: child(own, "rPr") };
  };
  const walk = (element: Element, table: readonly Element[]): void => {
    const name = localName(element);
    // Of alternatives the first is what current programs draw (ISO/IEC 29500-3, "AlternateContent").
    if (name === "AlternateContent") {
      const chosen = child(element, "Choice") ?? child(element, "Fallback");
      return chosen ? walk(chosen, table) : undefined;
    }
    if (name === "tbl") {
      const own = runProperties(chain(value(child(child(element, "tblPr"), "tblStyle")) ?? attribute(standard("table"), "styleId")));
      for (const one of childrenOf(element)) walk(one, own);
      return;
    }
    if (name !== "p") {
      for (const one of childrenOf(element)) walk(one, table);
      return;
    }
    const properties = child(element, "pPr");
    const list = chain(value(child(properties, "pStyle")) ?? normal);
    const paragraph = runProperties(list);
    const mark = bullet(
      child(properties, "numPr") ?? list.map((style) => child(child(style, "pPr"), "numPr")).find((one) => one !== undefined),
    );
    if (mark && all(element, "t").length > 0) put(mark.text, mark.properties, [], paragraph, table);
    const runs = (inside: Element): void => {
      for (const one of childrenOf(inside)) {
        const local = localName(one);
        if (local === "del" || local === "moveFrom") continue;
        if (local !== "r") {
          if (local !== "pPr") runs(one);
          continue;
        }
        const direct = child(one, "rPr");
        const character = runProperties(chain(value(child(direct, "rStyle"))));
        for (const part of childrenOf(one)) {
          const what = localName(part);
          if (what === "t") put(textOf(part), direct, character, paragraph, table);
          else if (what === "sym") {
            const code = parseInt(attribute(part, "char") ?? "", 16);
            if (code > 0)
              gathered.add(String.fromCodePoint(code & 0x1fffff), {
                families: [attribute(part, "font") ?? ""],
                weight: 400,
                italic: false,
              });
          } else if (/^(drawing|pict|object|AlternateContent)$/.test(what)) walk(part, []);
        }
      }
    };
    runs(element);
  };
  const shown = (path: string | undefined, only?: (element: Element) => boolean) => {
    const tree = path === undefined ? undefined : parts.tree(path);
    for (const one of tree ? childrenOf(tree) : []) for (const inner of only ? childrenOf(one).filter(only) : [one]) walk(inner, []);
  };
  shown(main);
  const document = parts.tree(main)!;
  const byId = new Map(parts.related(main).map((one) => [one.id, one.target]));
  const even = parts.tree("word/settings.xml");
  for (const reference of [...all(document, "headerReference"), ...all(document, "footerReference")]) {
    // Pages on the left have their own only where the settings say so; the first page's, where the section does.
    const type = attribute(reference, "type");
    if (type === "even" && !(even && all(even, "evenAndOddHeaders").some((one) => !off(value(one) ?? "1")))) continue;
    if (type === "first" && !all(document, "titlePg").some((one) => !off(value(one) ?? "1"))) continue;
    shown(byId.get(attribute(reference, "id") ?? ""));
  }
  for (const [path, mark] of [
    ["word/footnotes.xml", "footnoteReference"],
    ["word/endnotes.xml", "endnoteReference"],
  ] as const) {
    const ids = new Set(all(document, mark).map((one) => attribute(one, "id")));
    shown(path, (note) => ids.has(attribute(note, "id")));
  }
  return { kind: "Office Open XML", texts: gathered.texts, declared, held, origin: originOf(parts) };
}

type Level = Element | undefined;
function readSlides(parts: Package): AskedDocument {
  const main = "ppt/presentation.xml";
  const presentation = parts.tree(main)!;
  const gathered = new Gathered();
  const declared: string[] = [];
  const byId = new Map(parts.related(main).map((one) => [one.id, one.target]));
  // ISO/IEC 29500-1, 19.2.1.9 "embeddedFont": one part for each of a family's four styles.
  const held = all(presentation, "embeddedFont").flatMap((one): HeldFont[] => {
    const family = attribute(child(one, "font"), "typeface") ?? "";
    return childrenOf(one)
      .filter((own) => /^(regular|bold|italic|boldItalic)$/.test(localName(own)))
      .map((own) => {
        const raw = parts.files[byId.get(attribute(own, "id") ?? "") ?? ""];
        const name = localName(own);
        return { family, bytes: raw ? eotFont(raw) : null, weight: /bold/i.test(name) ? 700 : 400, italic: /italic/i.test(name) };
      });
  });
  const levelsOf = (list: Element | undefined, level: number): Level[] => [
    child(child(list, `lvl${level + 1}pPr`), "defRPr"),
    child(child(list, "defPPr"), "defRPr"),
  ];
  const placeholder = (shape: Element | undefined): Element | undefined =>
    child(
      child(
        childrenOf(shape).find((one) => /^nv/.test(localName(one))),
        "nvPr",
      ),
      "ph",
    );
  const shapesIn = (path: string | undefined): Element[] => {
    const tree = path === undefined ? undefined : parts.tree(path);
    return tree ? all(tree, "sp") : [];
  };
  /** The shape of a layout or master that a placeholder follows (19.3.1.36): by number, else by kind. */
  const followed = (path: string | undefined, wanted: Element): Element | undefined => {
    const [index, type] = [attribute(wanted, "idx"), attribute(wanted, "type") ?? "obj"];
    const kind = (one: string) => (/^(ctrTitle|title)$/.test(one) ? "title" : /^(obj|subTitle|body)$/.test(one) ? "body" : one);
    const shapes = shapesIn(path).filter((shape) => placeholder(shape));
    return (
      shapes.find((shape) => index !== undefined && attribute(placeholder(shape), "idx") === index) ??
      shapes.find((shape) => kind(attribute(placeholder(shape), "type") ?? "obj") === kind(type))
    );
  };
  for (const reference of all(presentation, "sldId")) {
    const path = byId.get(attribute(reference, "id") ?? attribute(reference, "r:id") ?? "") ?? byId.get(reference.attributes["r:id"] ?? "");
    const slide = path === undefined ? undefined : parts.tree(path);
    if (!slide || path === undefined) continue;
    const hiddenSlide = off(attribute(childrenOf(slide)[0], "show"));
    const layout = parts.one(path, "slideLayout");
    const master = layout === undefined ? undefined : parts.one(layout, "slideMaster");
    const theme = themeOf(parts.tree((master && parts.one(master, "theme")) ?? parts.named(/^ppt\/theme\/.*\.xml$/)[0] ?? ""));
    const textStyles = master === undefined ? undefined : all(parts.tree(master) ?? slide, "txStyles")[0];
    const real = (name: string): string => {
      const found = /^\+(mj|mn)-(lt|ea|cs)$/.exec(name);
      return found
        ? theme[found[1] === "mj" ? "major" : "minor"][({ lt: "latin", ea: "ea", cs: "cs" } as const)[found[2] as "lt" | "ea" | "cs"]]
        : name;
    };
    const put = (body: Element | undefined, shape: Element | undefined) => {
      const own = placeholder(shape);
      const kind = attribute(own, "type") ?? (own ? "obj" : "");
      const group =
        own === undefined
          ? "otherStyle"
          : /title/i.test(kind)
            ? "titleStyle"
            : /^(obj|body|subTitle)$/.test(kind)
              ? "bodyStyle"
              : "otherStyle";
      const [inLayout, inMaster] = own ? [followed(layout, own), followed(master, own)] : [];
      for (const paragraph of childrenOf(body).filter((one) => localName(one) === "p")) {
        const level = Math.min(8, Number(attribute(child(paragraph, "pPr"), "lvl") ?? 0) || 0);
        const lists = [
          child(body, "lstStyle"),
          child(child(inLayout, "txBody"), "lstStyle"),
          child(child(inMaster, "txBody"), "lstStyle"),
          child(textStyles, group),
          child(childrenOf(presentation)[0], "defaultTextStyle"),
        ];
        for (const run of childrenOf(paragraph).filter((one) => /^(r|fld)$/.test(localName(one)))) {
          const layers = [child(run, "rPr"), ...lists.flatMap((list) => levelsOf(list, level))];
          const flag = (name: string) =>
            /^(1|true)$/.test(layers.map((one) => attribute(one, name)).find((one) => one !== undefined) ?? "");
          const fill = layers.map((one) => child(one, "solidFill")).find((one) => one !== undefined);
          const pale = WHITE.test(value(child(fill, "srgbClr")) ?? "") ? PALE : "";
          const hidden = hiddenSlide ? "on a hidden slide" : pale;
          for (const [slot, part] of bySlot(textOf(child(run, "t") ?? run), true)) {
            const face = layers.map((one) => attribute(child(one, PROPERTY[slot]), "typeface")).find((one) => one !== undefined);
            const family = real(face ?? `+mn-${{ latin: "lt", ea: "ea", cs: "cs" }[PROPERTY[slot]]}`);
            gathered.add(part, { families: family === "" ? [] : [family], weight: flag("b") ? 700 : 400, italic: flag("i") }, hidden);
          }
        }
      }
    };
    const walk = (element: Element, skip: boolean): void => {
      for (const one of childrenOf(element)) {
        const name = localName(one);
        if (name === "AlternateContent") walk(child(one, "Choice") ?? one, skip);
        else if (name === "sp") {
          if (!(skip && placeholder(one))) put(child(one, "txBody"), one);
        } else if (name === "tc") put(child(one, "txBody"), undefined);
        else walk(one, skip);
      }
    };
    walk(slide, false);
    // What stands on layout and master beside their placeholders is drawn on the slide too.
    const follows = (tree: Element | undefined) => !off(attribute(childrenOf(tree)[0], "showMasterSp"));
    if (layout !== undefined && follows(slide) && parts.tree(layout)) {
      walk(parts.tree(layout)!, true);
      if (master !== undefined && follows(parts.tree(layout)) && parts.tree(master)) walk(parts.tree(master)!, true);
    }
  }
  for (const name of Object.keys(parts.files).filter((one) => /^ppt\/theme\//.test(one))) {
    const { major, minor } = themeOf(parts.tree(name));
    declared.push(...Object.values(major), ...Object.values(minor));
  }
  return {
    kind: "Office Open XML",
    texts: gathered.texts,
    declared: [...new Set(declared.filter(Boolean))],
    held,
    origin: originOf(parts),
  };
}

function readSheets(parts: Package): AskedDocument {
  const main = "xl/workbook.xml";
  const tree = parts.tree("xl/styles.xml");
  const gathered = new Gathered();
  const sheetStyles = tree && childrenOf(tree)[0];
  const fontOf = (font: Element | undefined) => {
    const colour = child(font, "color");
    return {
      family: value(child(font, "name")) ?? value(child(font, "rFont")) ?? "",
      bold: child(font, "b") !== undefined && !off(value(child(font, "b"))),
      italic: child(font, "i") !== undefined && !off(value(child(font, "i"))),
      pale: WHITE.test(attribute(colour, "rgb") ?? ""),
    };
  };
  const fonts = childrenOf(child(sheetStyles, "fonts")).map(fontOf);
  const fills = childrenOf(child(sheetStyles, "fills")).map((fill) =>
    /^(none)?$/.test(attribute(child(fill, "patternFill"), "patternType") ?? ""),
  );
  const formats = childrenOf(child(sheetStyles, "cellXfs")).map((xf) => ({
    font: Number(attribute(xf, "fontId") ?? 0),
    fill: Number(attribute(xf, "fillId") ?? 0),
  }));
  const shared = parts.tree("xl/sharedStrings.xml");
  const strings = shared ? all(shared, "si") : [];
  const add = (text: string, font: ReturnType<typeof fontOf> | undefined, hidden: string, bare: boolean) => {
    if (!font) return;
    const families = font.family === "" ? [] : [font.family];
    gathered.add(
      text,
      { families, weight: font.bold ? 700 : 400, italic: font.italic },
      hidden !== "" ? hidden : font.pale && bare ? PALE : "",
    );
  };
  const byId = new Map(parts.related(main).map((one) => [one.id, one.target]));
  const workbook = parts.tree(main);
  const listed = (workbook ? all(workbook, "sheet") : []).map((sheet) => ({
    path: byId.get(attribute(sheet, "id") ?? "") ?? "",
    hidden: /hidden/i.test(attribute(sheet, "state") ?? "") ? "on a hidden sheet" : "",
  }));
  const paths = listed.some(({ path }) => parts.files[path])
    ? listed
    : parts.named(/^xl\/worksheets\/sheet\d+\.xml$/).map((path) => ({ path, hidden: "" }));
  for (const { path, hidden } of paths) {
    const sheet = parts.tree(path);
    if (!sheet) continue;
    const columns = all(sheet, "col")
      .filter((one) => /^(1|true)$/.test(attribute(one, "hidden") ?? ""))
      .map((one) => [Number(attribute(one, "min")), Number(attribute(one, "max"))] as const);
    for (const row of all(sheet, "row")) {
      const rowHidden = /^(1|true)$/.test(attribute(row, "hidden") ?? "");
      for (const cell of childrenOf(row).filter((one) => localName(one) === "c")) {
        const column = [...(/^[A-Z]+/.exec(attribute(cell, "r") ?? "")?.[0] ?? "")].reduce(
          (sum, one) => sum * 26 + one.charCodeAt(0) - 64,
          0,
        );
        const why =
          hidden || (rowHidden || columns.some(([from, to]) => column >= from && column <= to) ? "in a hidden row or column" : "");
        const format = formats[Number(attribute(cell, "s") ?? 0)];
        const [font, bare] = [fonts[format?.font ?? 0], fills[format?.fill ?? 0] ?? true];
        const kind = attribute(cell, "t");
        const text = textOf(child(cell, "v") ?? { name: "", attributes: {}, children: [] });
        const rich = kind === "s" ? strings[Number(text)] : kind === "inlineStr" ? child(cell, "is") : undefined;
        if (!rich) add(text, font, why, bare);
        for (const part of childrenOf(rich)) {
          const name = localName(part);
          if (name === "t") add(textOf(part), font, why, bare);
          else if (name === "r") {
            const own = child(part, "rPr");
            add(
              textOf(child(part, "t") ?? part),
              own ? { ...fontOf(own), family: value(child(own, "rFont")) ?? font?.family ?? "" } : font,
              why,
              bare,
            );
          }
        }
      }
    }
    // Headers and footers name fonts in their own text: &"Font,Style" (18.3.1.39).
    for (const line of ["oddHeader", "oddFooter", "evenHeader", "evenFooter", "firstHeader", "firstFooter"].flatMap((name) =>
      all(sheet, name),
    )) {
      for (const [, font = "", words = ""] of textOf(line).matchAll(/&"([^"&]*)"([^&]*)/g)) {
        const [family = "", style = ""] = font.split(",");
        add(
          words,
          { family: family === "-" ? "" : family, bold: /bold/i.test(style), italic: /italic|oblique/i.test(style), pale: false },
          hidden,
          true,
        );
      }
    }
    for (const { type, target } of parts.related(path)) {
      if (type !== "drawing") continue;
      const drawing = parts.tree(target);
      for (const run of drawing ? all(drawing, "r") : []) {
        const own = child(run, "rPr");
        const family = attribute(child(own, "latin"), "typeface") ?? "";
        const flag = (name: string) => /^(1|true)$/.test(attribute(own, name) ?? "");
        add(
          textOf(child(run, "t") ?? run),
          { family: family.startsWith("+") ? "" : family, bold: flag("b"), italic: flag("i"), pale: false },
          hidden,
          true,
        );
      }
    }
  }
  return {
    kind: "Office Open XML",
    texts: gathered.texts,
    declared: [...new Set(fonts.map(({ family }) => family))],
    held: [],
    origin: originOf(parts),
  };
}

function originOf(parts: Package): Origin {
  const text = (path: string, name: string) => {
    const tree = parts.tree(path);
    const [found] = tree ? all(tree, name) : [];
    return found ? textOf(found) : "";
  };
  const [core, app] = ["docProps/core.xml", "docProps/app.xml"];
  return originFrom(text(app, "Application"), text(core, "creator"), [text(core, "created"), text(core, "modified")]);
}

export function readOoxml(files: Files): AskedDocument {
  const parts = new Package(files);
  if (files["word/document.xml"]) return readText(parts);
  return files["ppt/presentation.xml"] ? readSlides(parts) : readSheets(parts);
}
