// What a PDF shows drawn, on files crafted after ISO 32000-1: each of the ways a font can be in a file and not on its pages, or on its pages and
// not in its name. The truth of each follows from the standard's section named beside it.
import { readFileSync } from "node:fs";
import { expect, test } from "@jest/globals";
import { drawPdf } from "../../core/evidence/drawing/document.ts";
import { WantedFont } from "../../core/evidence/drawing/programs.ts";
import { judgePdf } from "../../core/evidence/judge-pdf.ts";
import type { EvidenceState } from "../../core/evidence/verdict.ts";
import { inspectFont } from "../../core/inspect.ts";
import { CraftedPdf } from "./crafted-pdf.ts";

const LATO = "/usr/share/fonts/truetype/lato/Lato";
const [REGULAR, BOLD, ITALIC] = [`${LATO}-Regular.ttf`, `${LATO}-Bold.ttf`, `${LATO}-Italic.ttf`];
const SERIF = "/usr/share/fonts/opentype/linux-libertine/LinLibertine_R.otf";
const CABIN = "/usr/share/fonts/opentype/cabin/Cabin-Regular.otf";
const bytesOf = (path: string) => new Uint8Array(readFileSync(path));
const wantedOf = (path: string) => {
  const inspected = inspectFont(bytesOf(path), "font");
  if (!inspected.ok) throw new Error(inspected.problem.message);
  return { record: inspected.value[0]!, font: new WantedFont({ bytes: bytesOf(path), face: 0 }) };
};

interface Made {
  bytes: Uint8Array;
  wanted?: string;
  words?: string;
}
type Maker = () => Made;
const TEXT = "Wild fennel";
const OTHER = "Opening in May";
/** A page with the wanted font as F and another as G. */
function page(
  content: (show: (text: string) => string, other: (text: string) => string) => string,
  {
    more = "",
    resources = "",
    name = "AAAAAA+Lato-Regular",
    program,
    path = REGULAR,
    outer,
    withoutUnicode,
    setUp,
  }: {
    more?: string;
    resources?: string;
    name?: string;
    program?: Uint8Array | null;
    path?: string;
    outer?: string;
    withoutUnicode?: boolean;
    setUp?: (pdf: CraftedPdf, fonts: string, show: (text: string) => string) => string;
  } = {},
): Uint8Array {
  const pdf = new CraftedPdf();
  const f = pdf.font(path, {
    name,
    ...(program === undefined ? {} : { program }),
    ...(outer ? { outer } : {}),
    ...(withoutUnicode ? { withoutUnicode } : {}),
  });
  const g = pdf.font(CABIN, { name: "BBBBBB+Cabin-Regular" });
  const fonts = `/Font<</F ${f.id} 0 R/G ${g.id} 0 R>>`;
  const extra = setUp?.(pdf, fonts, f.show) ?? "";
  pdf.page(content(f.show, g.show), `${fonts}${resources}${extra}`, more);
  return pdf.bytes();
}
const line = (shown: string, before = "", font = "F", size = 24) => `${before} BT /${font} ${size} Tf 40 150 Td ${shown} Tj ET`;
const otherLine = (g: (text: string) => string) => `BT 0 g /G 24 Tf 40 60 Td ${g(OTHER)} Tj ET`;
const state = (content: string) => `/ExtGState<</E<<${content}>>>>`;

// [what, how it is made, what may be answered]. The first answer is the best one.
const CASES: [string, Maker, EvidenceState[]][] = [
  ["plain (9.4.3)", () => ({ bytes: page((f) => line(f(TEXT))) }), ["seen"]],
  ["plain with its words", () => ({ bytes: page((f) => line(f(TEXT))), words: TEXT }), ["seen"]],
  ["plain, other words asked for", () => ({ bytes: page((f) => line(f(TEXT))), words: "Quick zebra" }), ["cannot-tell"]],
  ["in the resources, never selected (7.8.3)", () => ({ bytes: page((_, g) => otherLine(g)) }), ["not-in-it"]],
  ["selected, not shown", () => ({ bytes: page((_, g) => `BT /F 24 Tf ET ${otherLine(g)}`) }), ["not-in-it"]],
  ["spaces alone", () => ({ bytes: page((f, g) => `${line(f("   "))} ${otherLine(g)}`) }), ["not-in-it"]],
  ["an empty string", () => ({ bytes: page((f, g) => `${line(f(""))} ${otherLine(g)}`) }), ["not-in-it"]],
  ["invisible (9.3.6, mode 3)", () => ({ bytes: page((f, g) => `${line(f(TEXT), "3 Tr")} 0 Tr ${otherLine(g)}`) }), ["not-in-it"]],
  ["white on paper", () => ({ bytes: page((f, g) => `${line(f(TEXT), "1 g")} ${otherLine(g)}`) }), ["not-in-it"]],
  ["white in CMYK on paper", () => ({ bytes: page((f, g) => `${line(f(TEXT), "0 0 0 0 k")} ${otherLine(g)}`) }), ["not-in-it"]],
  ["red on red", () => ({ bytes: page((f, g) => `0.8 0 0 rg 0 100 400 150 re f ${line(f(TEXT))} ${otherLine(g)}`) }), ["not-in-it"]],
  ["clipped away (8.5.4)", () => ({ bytes: page((f, g) => `q 0 0 10 10 re W n ${line(f(TEXT))} Q ${otherLine(g)}`) }), ["not-in-it"]],
  [
    "clipped away by a triangle",
    () => ({
      bytes: page(
        (f, g) =>
          `q 0 0 m 400 0 l 400 300 l h 300 0 m 400 0 l 400 50 l h W n ${`BT /F 24 Tf 10 250 Td ${f(TEXT)} Tj ET`} Q ${otherLine(g)}`,
      ),
    }),
    ["not-in-it"],
  ],
  ["clipped by an empty path", () => ({ bytes: page((f, g) => `q 0 0 m W n ${line(f(TEXT))} Q ${otherLine(g)}`) }), ["not-in-it"]],
  ["off the page", () => ({ bytes: page((f, g) => `BT /F 24 Tf 900 150 Td ${f(TEXT)} Tj ET ${otherLine(g)}`) }), ["not-in-it"]],
  [
    "outside the crop box (14.11.2)",
    () => ({ bytes: page((f, g) => `${line(f(TEXT))} ${otherLine(g)}`, { more: "/CropBox[0 0 400 100]" }) }),
    ["not-in-it"],
  ],
  ["size 0", () => ({ bytes: page((f, g) => `${line(f(TEXT), "", "F", 0)} ${otherLine(g)}`) }), ["not-in-it"]],
  ["a fifth of a point", () => ({ bytes: page((f, g) => `${line(f(TEXT), "", "F", 0.2)} ${otherLine(g)}`) }), ["not-in-it"]],
  ["stretched to nothing (9.3.4)", () => ({ bytes: page((f, g) => `${line(f(TEXT), "0 Tz")} 100 Tz ${otherLine(g)}`) }), ["not-in-it"]],
  ["a matrix of nothing", () => ({ bytes: page((f, g) => `q 0 0 0 0 40 40 cm ${line(f(TEXT))} Q ${otherLine(g)}`) }), ["not-in-it"]],
  ["painted over in white", () => ({ bytes: page((f, g) => `${line(f(TEXT))} 1 g 20 130 300 60 re f ${otherLine(g)}`) }), ["not-in-it"]],
  [
    "painted over by a wide line",
    () => ({ bytes: page((f, g) => `${line(f(TEXT))} 60 w 1 G 0 160 m 400 160 l S ${otherLine(g)}`) }),
    ["not-in-it"],
  ],
  [
    "painted over by a shading",
    () => ({
      bytes: page((f) => `${line(f(TEXT))} /S sh`, {
        resources:
          "/Shading<</S<</ShadingType 2/ColorSpace/DeviceGray/Coords[0 0 400 0]/Function<</FunctionType 2/Domain[0 1]/C0[0]/C1[1]/N 1>>/Extend[true true]>>>>",
      }),
    }),
    ["not-in-it", "cannot-tell"],
  ],
  ["painted over in part", () => ({ bytes: page((f) => `${line(f(TEXT))} 1 g 80 130 300 60 re f`), words: TEXT }), ["cannot-tell"]],
  [
    "transparent (11.6.4.4)",
    () => ({ bytes: page((f, g) => `q /E gs ${line(f(TEXT))} Q ${otherLine(g)}`, { resources: state("/ca 0") }) }),
    ["not-in-it"],
  ],
  [
    "behind a soft mask",
    () => ({
      bytes: page((f) => `q /E gs ${line(f(TEXT))} Q`, {
        setUp: (pdf) =>
          state(`/SMask<</S/Luminosity/G ${pdf.form("0 g 0 0 400 300 re f", "", "/Group<</S/Transparency/CS/DeviceGray>>")} 0 R>>`),
      }),
    }),
    ["cannot-tell", "not-in-it"],
  ],
  [
    "in a group drawn transparent",
    () => ({
      bytes: page((_, g) => `q /E gs /X Do Q ${otherLine(g)}`, {
        resources: state("/ca 0"),
        setUp: (pdf, fonts, show) => `/XObject<</X ${pdf.form(line(show(TEXT)), fonts, "/Group<</S/Transparency>>")} 0 R>>`,
      }),
    }),
    ["not-in-it"],
  ],
  ["in a layer switched off (8.11)", () => ({ bytes: layered(false) }), ["not-in-it"]],
  ["in a layer switched on", () => ({ bytes: layered(true) }), ["seen"]],
  [
    "in a form never invoked (8.10)",
    () => ({
      bytes: page((_, g) => otherLine(g), { setUp: (pdf, fonts, show) => `/XObject<</X ${pdf.form(line(show(TEXT)), fonts)} 0 R>>` }),
    }),
    ["not-in-it"],
  ],
  [
    "in a form",
    () => ({
      bytes: page(() => "/X Do", { setUp: (pdf, fonts, show) => `/XObject<</X ${pdf.form(line(show(TEXT)), fonts)} 0 R>>` }),
    }),
    ["seen"],
  ],
  [
    "in a form in a form, both moved",
    () => ({
      bytes: page(() => "/Y Do", {
        setUp: (pdf, fonts, show) => {
          const inner = pdf.form(line(show(TEXT)), fonts, "/Matrix[0.5 0 0 0.5 10 10]");
          return `/XObject<</Y ${pdf.form("q 1 0 0 1 40 40 cm /X Do Q", `/XObject<</X ${inner} 0 R>>`)} 0 R>>`;
        },
      }),
    }),
    ["seen"],
  ],
  [
    "in a form moved off its own box",
    () => ({
      bytes: page((_, g) => `/X Do ${otherLine(g)}`, {
        setUp: (pdf, fonts, show) => `/XObject<</X ${pdf.form(line(show(TEXT), "1 0 0 1 900 0 cm"), fonts)} 0 R>>`,
      }),
    }),
    ["not-in-it"],
  ],
  [
    "left behind by an update (7.5.6)",
    () => {
      const pdf = new CraftedPdf();
      const f = pdf.font(REGULAR, { name: "AAAAAA+Lato-Regular" });
      const g = pdf.font(CABIN, { name: "BBBBBB+Cabin-Regular" });
      const fonts = `/Font<</F ${f.id} 0 R/G ${g.id} 0 R>>`;
      const id = pdf.page(line(f.show(TEXT)), fonts);
      const contents = id - 1;
      return { bytes: pdf.updated(contents, { dict: "", stream: otherLine(g.show) }) };
    },
    ["not-in-it"],
  ],
  [
    "the regular called “Family,Bold”, bold wanted",
    () => ({ bytes: page((f) => line(f(TEXT)), { name: "Lato,Bold" }), wanted: BOLD }),
    ["swapped"],
  ],
  ["the regular called “Family,Bold”, regular wanted", () => ({ bytes: page((f) => line(f(TEXT)), { name: "Lato,Bold" }) }), ["seen"]],
  ["another design under the name", () => ({ bytes: page((f) => line(f(TEXT)), { path: CABIN }) }), ["swapped"]],
  ["another design, of PostScript outlines, under the name", () => ({ bytes: page((f) => line(f(TEXT)), { path: SERIF }) }), ["swapped"]],
  ["another style under the name", () => ({ bytes: page((f) => line(f(TEXT)), { path: BOLD }) }), ["swapped"]],
  ["an altered copy under the name", () => ({ bytes: page((f) => line(f(TEXT)), { program: altered() }) }), ["swapped"]],
  ["an empty program", () => ({ bytes: page((f) => line(f(TEXT)), { program: new Uint8Array(0) }) }), ["cannot-tell", "asked-for"]],
  [
    "a program that is no font",
    () => ({ bytes: page((f) => line(f(TEXT)), { program: new TextEncoder().encode("no font at all, ".repeat(20)) }) }),
    ["cannot-tell", "asked-for"],
  ],
  ["not embedded (9.6.4)", () => ({ bytes: page((f) => line(f(TEXT)), { program: null, name: "Lato-Regular" }) }), ["asked-for"]],
  [
    "its name with the CMap's (9.7.6)",
    () => ({ bytes: page((f) => line(f(TEXT)), { outer: "AAAAAA+Lato-Regular-Identity-H" }) }),
    ["seen"],
  ],
  ["a random name", () => ({ bytes: page((f) => line(f(TEXT)), { name: "QX7731-0" }) }), ["seen"]],
  ["a mangled name", () => ({ bytes: page((f) => line(f(TEXT)), { name: "MSTT31c2a8" }) }), ["seen"]],
  ["no characters said for its codes", () => ({ bytes: page((f) => line(f(TEXT)), { withoutUnicode: true }) }), ["seen"]],
  [
    "PostScript outlines",
    () => ({ bytes: page((f) => line(f(TEXT)), { path: SERIF, name: "AAAAAA+LinLibertineO" }), wanted: SERIF }),
    ["seen"],
  ],
  ["the regular for the bold", () => ({ bytes: page((f) => line(f(TEXT))), wanted: BOLD }), ["swapped"]],
  ["the regular for the italic, with the words", () => ({ bytes: page((f) => line(f(TEXT))), wanted: ITALIC, words: TEXT }), ["swapped"]],
  ["another font for it, with the words", () => ({ bytes: page((_, g) => line(g(TEXT), "", "G")), words: TEXT }), ["swapped"]],
  ["bold by stroking (9.3.6, mode 2)", () => ({ bytes: page((f) => line(f(TEXT), "2 Tr 0.8 w")) }), ["faked"]],
  ["bold by drawing twice", () => ({ bytes: page((f) => `${line(f(TEXT))} BT /F 24 Tf 40.5 150 Td ${f(TEXT)} Tj ET`) }), ["faked"]],
  ["slanted by the matrix", () => ({ bytes: page((f) => `BT /F 24 Tf 1 0 0.2 1 40 150 Tm ${f(TEXT)} Tj ET`) }), ["faked"]],
  [
    "slanted by the page's matrix, italic wanted",
    () => ({ bytes: page((f) => `q 1 0 0.3 1 0 0 cm ${line(f(TEXT))} Q`), wanted: ITALIC }),
    ["faked", "swapped"],
  ],
  ["outlined letters", () => ({ bytes: page((f) => line(f(TEXT), "1 Tr 0.5 w")) }), ["seen"]],
  [
    "a shadow beneath in another colour",
    () => ({ bytes: page((f) => `BT 0.6 g /F 24 Tf 41 149 Td ${f(TEXT)} Tj ET 0 g ${line(f(TEXT))}`) }),
    ["seen"],
  ],
  ["white on a dark box", () => ({ bytes: page((f) => `0.2 g 0 100 400 150 re f ${line(f(TEXT), "1 g")}`) }), ["seen"]],
  ["white on a dark picture", () => ({ bytes: page((f) => `${picture("00")} ${line(f(TEXT), "1 g")}`) }), ["seen"]],
  [
    "white on a white picture",
    () => ({ bytes: page((f, g) => `${picture("ff")} ${line(f(TEXT), "1 g")} ${otherLine(g)}`) }),
    ["not-in-it"],
  ],
  [
    "under a picture",
    () => ({ bytes: page((f, g) => `${line(f(TEXT))} q 400 0 0 200 0 100 cm ${bits("a0")} Q ${otherLine(g)}`) }),
    ["not-in-it"],
  ],
  [
    "with a highlight multiplied over it (11.3.5)",
    () => ({
      bytes: page((f) => `${line(f(TEXT))} q /E gs 1 1 0 rg 20 130 300 60 re f Q`, { resources: state("/BM/Multiply") }),
    }),
    ["seen", "cannot-tell"],
  ],
  ["underlined afterwards", () => ({ bytes: page((f) => `${line(f(TEXT))} 40 145 130 1.5 re f`) }), ["seen"]],
  ["on a rotated page (7.7.3.3)", () => ({ bytes: page((f) => line(f(TEXT)), { more: "/Rotate 90" }) }), ["seen"]],
  ["of negative size", () => ({ bytes: page((f) => `BT /F -24 Tf -1 0 0 -1 40 150 Tm ${f(TEXT)} Tj ET`) }), ["seen"]],
  ["inside a clip it fits", () => ({ bytes: page((f) => `q 0 100 400 120 re W n ${line(f(TEXT))} Q`) }), ["seen"]],
  [
    "inside a round clip",
    () => ({ bytes: page((f) => `q 0 160 m 0 400 400 400 400 160 c 400 -100 0 -100 0 160 c W n ${line(f(TEXT))} Q`) }),
    ["seen"],
  ],
  [
    "as a clip for a shading (9.3.6, mode 7)",
    () => ({ bytes: page((f) => `q ${line(f(TEXT), "7 Tr")} 0 100 400 100 re f Q`) }),
    ["cannot-tell", "seen"],
  ],
  [
    "set by a graphics state (8.4.5)",
    () => {
      const pdf = new CraftedPdf();
      const f = pdf.font(REGULAR, { name: "AAAAAA+Lato-Regular" });
      pdf.page(`/E gs BT 40 150 Td ${f.show(TEXT)} Tj ET`, state(`/Font[${f.id} 0 R 24]`));
      return { bytes: pdf.bytes() };
    },
    ["seen"],
  ],
  ["in an annotation's appearance (12.5.5)", () => ({ bytes: annotated("/Subtype/FreeText/DA(/F 24 Tf)/Contents(x)") }), ["seen"]],
  [
    "in a hidden annotation (12.5.3)",
    () => ({ bytes: annotated("/Subtype/FreeText/F 2/DA(/F 24 Tf)/Contents(x)") }),
    ["not-in-it", "cannot-tell"],
  ],
  ["in a form field's appearance (12.7)", () => ({ bytes: annotated("/Subtype/Widget/FT/Tx/T(a)/V(x)/DA(/F 24 Tf)", true) }), ["seen"]],
  [
    "in a tiling pattern (8.7.3)",
    () => ({
      bytes: page(() => "/Pattern cs /P scn 0 0 400 300 re f", {
        setUp: (pdf, fonts, show) =>
          `/Pattern<</P ${pdf.add({ dict: `/PatternType 1/PaintType 1/TilingType 1/BBox[0 0 400 300]/XStep 400/YStep 300/Resources<<${fonts}>>`, stream: line(show(TEXT)) })} 0 R>>`,
      }),
    }),
    ["seen"],
  ],
  ["Type 3 without a name (9.6.5), its outlines", () => ({ bytes: typeThree(REGULAR) }), ["seen"]],
  ["Type 3 without a name, another's outlines", () => ({ bytes: typeThree(CABIN) }), ["not-in-it"]],
  ["Type 3 of pictures", () => ({ bytes: typeThree(undefined) }), ["cannot-tell"]],
  [
    "outlines beside a page number in another font",
    () => ({
      bytes: page((_, g) => `${outlines(TEXT)} BT /G 9 Tf 200 20 Td ${g("1")} Tj ET`),
    }),
    ["cannot-tell"],
  ],
  ["outlines alone", () => ({ bytes: page(() => outlines(TEXT)) }), ["cannot-tell"]],
  ["one letter that many fonts share", () => ({ bytes: page((f) => line(f("l"))) }), ["cannot-tell"]],
  ["nothing at all", () => ({ bytes: page(() => "") }), ["cannot-tell"]],
  [
    "the words in another font, another line in it",
    () => ({
      bytes: page((f, g) => `${line(g(TEXT), "", "G")} BT /F 24 Tf 40 60 Td ${f(".")} Tj ET`),
      words: TEXT,
    }),
    ["swapped"],
  ],
  [
    "vertical space before, several strings (9.4.3, TJ)",
    () => ({
      bytes: page((f) => `BT /F 24 Tf 14 TL 40 250 Td T* [${f("Wild")} -500 ${f("fen")} 20 ${f("nel")}] TJ T* ${f(TEXT)} ' ET`),
      words: TEXT,
    }),
    ["seen"],
  ],
];

function layered(on: boolean): Uint8Array {
  const pdf = new CraftedPdf();
  const f = pdf.font(REGULAR, { name: "AAAAAA+Lato-Regular" });
  const g = pdf.font(CABIN, { name: "BBBBBB+Cabin-Regular" });
  const layer = pdf.add("<</Type/OCG/Name(Layer)>>");
  pdf.catalog = `/OCProperties<</OCGs[${layer} 0 R]/D<</${on ? "ON" : "OFF"}[${layer} 0 R]>>>>`;
  pdf.page(
    `/OC /L BDC ${line(f.show(TEXT))} EMC ${otherLine(g.show)}`,
    `/Font<</F ${f.id} 0 R/G ${g.id} 0 R>>/Properties<</L ${layer} 0 R>>`,
  );
  return pdf.bytes();
}
function annotated(what: string, field = false): Uint8Array {
  const pdf = new CraftedPdf();
  const f = pdf.font(REGULAR, { name: "AAAAAA+Lato-Regular" });
  const fonts = `/Font<</F ${f.id} 0 R>>`;
  const appearance = pdf.form(`BT /F 24 Tf 4 8 Td ${f.show(TEXT)} Tj ET`, fonts);
  const annotation = pdf.add(`<</Type/Annot/Rect[40 100 340 300]${what}/AP<</N ${appearance} 0 R>>>>`);
  if (field) pdf.catalog = `/AcroForm<</Fields[${annotation} 0 R]/DR<<${fonts}>>>>`;
  pdf.page("", "", `/Annots[${annotation} 0 R]`);
  return pdf.bytes();
}
const bits = (value: string) => `BI /W 1 /H 1 /CS /G /BPC 8 /F /AHx ID ${value}> EI`;
const picture = (value: string) => `q 400 0 0 300 0 0 cm ${bits(value)} Q`;

/** Outlines of words as path operators. */
function outlines(words: string, path = REGULAR): string {
  const font = new WantedFont({ bytes: bytesOf(path), face: 0 });
  return [...words].map((one, i) => `q 24 0 0 24 ${40 + i * 14} 150 cm ${pathOf(font, one)} f Q`).join(" ");
}
function pathOf(font: WantedFont, character: string): string {
  const shape = font.shapeOf(character);
  return (shape?.polygons ?? [])
    .map(
      (polygon) =>
        `${polygon.map(([x, y], i) => `${x.toFixed(5)} ${y.toFixed(5)} ${i === 0 ? "m" : i % 9 === 0 ? "l" : "l"}`).join(" ")} h`,
    )
    .join(" ");
}
/** A Type 3 font whose procedures draw outlines, or pictures. */
function typeThree(path: string | undefined): Uint8Array {
  const pdf = new CraftedPdf();
  const letters = [...new Set(TEXT.replace(" ", ""))];
  const font = path && new WantedFont({ bytes: bytesOf(path), face: 0 });
  const procedures = letters.map((one, i) =>
    pdf.add({
      dict: "",
      stream: `0.6 0 0 -0.3 1 1 d1 ${font ? `${pathOf(font, one)} f` : `q 0.5 0 0 0.7 0 0 cm BI /W 8 /H 1 /IM true /BPC 1 /F /AHx ID ${(i * 31 + 7).toString(16).padStart(2, "0")}> EI Q`}`,
    }),
  );
  const code = (one: string) => (65 + letters.indexOf(one)).toString(16);
  const id = pdf.add(
    `<</Type/Font/Subtype/Type3/FontBBox[0 -0.3 1 1]/FontMatrix[1 0 0 1 0 0]/FirstChar 65/LastChar ${64 + letters.length}/Widths[${letters.map(() => "0.6").join(" ")}]/Encoding<</Differences[65 ${letters.map((_, i) => `/g${i}`).join(" ")}]>>/CharProcs<<${procedures.map((one, i) => `/g${i} ${one} 0 R`).join("")}>>/Resources<<>>>>`,
  );
  pdf.page(`BT /F 24 Tf 40 150 Td <${[...TEXT.replace(" ", "")].map(code).join("")}> Tj ET`, `/Font<</F ${id} 0 R>>`);
  return pdf.bytes();
}
/** The file with the outline of its "e" moved: a copy somebody altered. */
function altered(): Uint8Array {
  const bytes = bytesOf(REGULAR).slice();
  const view = new DataView(bytes.buffer);
  const table = (tag: string) => {
    for (let at = 12; ; at += 16) if (Buffer.from(bytes.subarray(at, at + 4)).toString("latin1") === tag) return view.getUint32(at + 8);
  };
  const font = new WantedFont({ bytes, face: 0 });
  const glyph = font.glyphOf("e");
  const long = view.getInt16(table("head") + 50) === 1;
  const offset = long ? view.getUint32(table("loca") + 4 * glyph) : 2 * view.getUint16(table("loca") + 2 * glyph);
  // The first point's place is stored after the flags; moving the glyph's box alone changes nothing, so its composite of points is turned
  // around: the sign of one flag's short vector (glyf, "Simple Glyph Description", X_IS_SAME_OR_POSITIVE_X_SHORT_VECTOR).
  const at = table("glyf") + offset;
  const contours = view.getInt16(at);
  const instructions = view.getUint16(at + 10 + 2 * contours);
  const flags = at + 12 + 2 * contours + instructions;
  for (let i = 2; i < 8; i++)
    if (bytes[flags + i]! & 2) {
      bytes[flags + i]! ^= 16;
      return bytes;
    }
  throw new Error("No short vector was found.");
}

test.each(CASES)("%s", async (_what, make, answers) => {
  const { bytes, wanted = REGULAR, words = "" } = make();
  const drawn = await drawPdf(bytes);
  if (!drawn.ok) throw new Error(drawn.problem.message);
  const { record, font } = wantedOf(wanted);
  const verdict = judgePdf(drawn.value, record, font, words);
  expect(`${answers.includes(verdict.state) ? answers[0] : verdict.state}: ${verdict.reason}`).toBe(`${answers[0]}: ${verdict.reason}`);
});
