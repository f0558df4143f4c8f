// The bench: kept sheets of live lines, what is known of the styles on them, glyphs, and decisions.
import { z } from "zod";
import { nameOf } from "./names.ts";
import { FamilyQuery } from "./families.ts";
import { GLYPH_KINDS } from "../core/symbols/kinds.ts";
import { DIRECTIONS, LETTERS_OF, MOST_TEXT, SIZE_OF, UNIT_MM, type Unit } from "../core/bench/line.ts";

const Sha256 = z.string().regex(/^[0-9a-f]{64}$/);
const Colour = z.string().regex(/^#[0-9a-f]{6}$/);
const Tag = z.string().regex(/^[\x20-\x7e]{4}$/);

/** A style by its bytes, with the names it had when it was chosen: it stays named when it leaves the library. */
export const BenchStyle = z.object({
  sha256: Sha256,
  face: z.number().int().min(0).max(0xffff),
  family: z.string().max(200),
  style: z.string().max(200),
});
export type BenchStyle = z.infer<typeof BenchStyle>;

const Made = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("none") }),
  z.object({ kind: z.literal("contour"), mm: z.number().min(0).max(100) }),
  z.object({ kind: z.literal("shadow"), mm: z.number().min(0).max(100), degrees: z.number().min(0).max(360) }),
]);
export const BenchLayer = z.object({
  style: BenchStyle,
  features: z.record(Tag, z.number().int().min(0).max(999)),
  axes: z.record(Tag, z.number()),
  colour: Colour,
  dx: z.number().min(-5000).max(5000),
  dy: z.number().min(-5000).max(5000),
  letters: z.enum(LETTERS_OF),
  made: Made,
});
export type BenchLayer = z.infer<typeof BenchLayer>;

const UNITS = Object.keys(UNIT_MM) as [Unit, ...Unit[]];
const BenchSize = z.object({ of: z.enum(SIZE_OF), value: z.number().gt(0).max(20_000), unit: z.enum(UNITS) });
type BenchSize = z.infer<typeof BenchSize>;

/** A live line: its layers from the lowest to the topmost. */
export const BenchLine = z.object({
  id: z.string().min(1).max(40),
  text: z.string().max(MOST_TEXT),
  size: BenchSize,
  letterSpacing: z.number().min(-500).max(5000),
  lineSpacing: z.number().min(300).max(5000),
  direction: z.enum(DIRECTIONS),
  layers: z.array(BenchLayer).min(1).max(8),
});
export type BenchLine = z.infer<typeof BenchLine>;

/** The ink of a layer nobody gave a colour. */
const INK = "#1d1a16";
/** A layer as it begins: the style as it is. */
export const plainLayer = ({ sha256, face, family, style }: BenchStyle, colour = INK): BenchLayer => ({
  style: { sha256, face, family, style },
  features: {},
  axes: {},
  colour,
  dx: 0,
  dy: 0,
  letters: "all",
  made: { kind: "none" },
});
/** A line as it begins: words in one style. */
export const plainLine = (id: string, text: string, style: BenchStyle): BenchLine => ({
  id,
  text,
  size: { of: "em", value: 36, unit: "pt" },
  letterSpacing: 0,
  lineSpacing: 1000,
  direction: "auto",
  layers: [plainLayer(style)],
});

const MOST_LINES = 200;
/** What is kept of a sheet at each step. */
export const SheetBody = z.object({
  name: nameOf(120),
  jobId: z.number().int().nullable(),
  ground: Colour,
  lines: z.array(BenchLine).max(MOST_LINES),
});
export type SheetBody = z.infer<typeof SheetBody>;
/** `from` is the step the change was made on: a change made elsewhere meanwhile is not written over. */
export const SheetChange = z.object({ body: SheetBody, from: z.number().int() });

export const SheetSummary = z.object({
  id: z.number().int(),
  name: z.string(),
  jobId: z.number().int().nullable(),
  jobName: z.string().nullable(),
  lines: z.number().int(),
  /** The first words on it, and the families. */
  words: z.string(),
  families: z.array(z.string()),
  changedAt: z.iso.datetime(),
});
export type SheetSummary = z.infer<typeof SheetSummary>;

/** What is known of a style on a sheet, or of one that was picked. */
export const StyleFacts = z.object({
  sha256: Sha256,
  face: z.number().int(),
  /** It is in the library. */
  there: z.boolean(),
  styleId: z.number().int().nullable(),
  familyId: z.number().int().nullable(),
  family: z.string(),
  style: z.string(),
  weight: z.number().int(),
  rightToLeft: z.boolean(),
  coloured: z.boolean(),
  axes: z.array(z.object({ tag: z.string(), name: z.string(), min: z.number(), default: z.number(), max: z.number() })),
  instances: z.array(z.object({ name: z.string(), at: z.record(z.string(), z.number()) })),
  /** Bold and italic of the family as files of their own: the styles, null where a program would have to fake them. */
  bold: BenchStyle.nullable(),
  italic: BenchStyle.nullable(),
  /** What its capitals are drawn as, in words; "" where there is nothing to say. */
  capitals: z.string(),
  /** Styles made to be laid over or under it. */
  layers: z.array(BenchStyle),
  /** For the sheet's job; "" without one. */
  clearance: z.string(),
  creditLine: z.string(),
  price: z.string(),
  embedding: z.string(),
});
export type StyleFacts = z.infer<typeof StyleFacts>;

export const Decision = z.object({
  lineId: z.string(),
  style: BenchStyle,
  chosen: z.boolean(),
});
export type Decision = z.infer<typeof Decision>;

export const SheetDetail = z.object({
  id: z.number().int(),
  /** Counts up with every change, also with one taken back. */
  step: z.number().int(),
  body: SheetBody,
  jobName: z.string().nullable(),
  changedAt: z.iso.datetime(),
  canUndo: z.boolean(),
  canRedo: z.boolean(),
  styles: z.array(StyleFacts),
  decisions: z.array(Decision),
  /** Lines that were cut, each with its latest cut. */
  cuts: z.array(z.object({ lineId: z.string(), colours: z.number().int(), families: z.array(z.string()), at: z.iso.datetime() })),
});
export type SheetDetail = z.infer<typeof SheetDetail>;

export const SheetMake = z.object({
  name: nameOf(120),
  copyOf: z.number().int().optional(),
  body: SheetBody.optional(),
});
export const ProofRequest = z.object({ kind: z.enum(["pdf", "png", "html"]), paper: z.enum(["a4", "letter"]) });
export type ProofRequest = z.infer<typeof ProofRequest>;
export const StepRequest = z.object({ back: z.boolean() });
export const RemoveRequest = z.object({ removed: z.boolean() });
/** The chosen style of one line, and those considered beside it. */
export const DecideRequest = z.object({ lineId: z.string().max(40), chosen: BenchStyle, considered: z.array(BenchStyle).max(20) });

/** A style of the library, by its number. */
export const StyleHead = BenchStyle.extend({ styleId: z.number().int(), familyId: z.number().int() });
export type StyleHead = z.infer<typeof StyleHead>;

/** What a style's feature does, as people call it. */
export const FeatureView = z.object({
  tag: z.string(),
  name: z.string(),
  /** The font's own name for it, or of each of its alternatives. */
  own: z.string(),
  values: z.array(z.string()),
  /** On unless turned off. */
  byItself: z.boolean(),
  /** Programs that can switch it, by name, and how many cannot. */
  programs: z.array(z.string()),
  others: z.number().int(),
});
export type FeatureView = z.infer<typeof FeatureView>;
export const StyleFeatures = z.object({ features: z.array(FeatureView) });

export const GlyphView = z.object({
  glyph: z.number().int(),
  name: z.string(),
  codePoints: z.array(z.number().int()),
  /** What it is called: Unicode's name, else the font's own. */
  title: z.string(),
  words: z.array(z.string()),
  block: z.string(),
  ways: z.array(
    z.object({
      features: z.array(z.string()),
      value: z.number().int(),
      input: z.string(),
      language: z.string().optional(),
      sentence: z.string(),
    }),
  ),
});
export type GlyphView = z.infer<typeof GlyphView>;
export const GlyphQuery = z.object({
  find: z.string().max(200).default(""),
  block: z.string().max(100).optional(),
  script: z.string().max(40).optional(),
  kind: z.enum(GLYPH_KINDS).optional(),
  from: z.coerce.number().int().min(0).default(0),
  limit: z.coerce.number().int().min(1).max(500).default(120),
});
/** `total` glyphs fit; `blocks` are all the face has, with how many of each. */
export const GlyphPage = z.object({
  total: z.number().int(),
  all: z.number().int(),
  from: z.number().int(),
  glyphs: z.array(GlyphView),
  blocks: z.array(z.object({ name: z.string(), count: z.number().int() })),
  scripts: z.array(z.object({ name: z.string(), count: z.number().int() })),
  /** Programs that can switch a feature on. */
  programs: z.array(z.string()),
});
export type GlyphPage = z.infer<typeof GlyphPage>;

/** Which styles draw a character: `total` in all, the first of them; and those of the family asked about. */
export const DrawsQuery = z.object({ text: z.string().min(1).max(40), family: z.coerce.number().int().optional() });
export const Draws = z.object({
  characters: z.array(
    z.object({
      character: z.string(),
      codePoint: z.number().int(),
      title: z.string(),
      total: z.number().int(),
      styles: z.array(z.object({ styleId: z.number().int(), familyId: z.number().int(), family: z.string(), style: z.string() })),
      /** Of the family asked about: which draw it, and which would show an empty box. */
      members: z.array(z.object({ styleId: z.number().int(), style: z.string(), draws: z.boolean() })),
    }),
  ),
});
export type Draws = z.infer<typeof Draws>;

/** Signs by word, in all styles at once; `style` draws it, `total` do. */
export const SignsFound = z.object({
  signs: z.array(
    z.object({
      codePoint: z.number().int(),
      title: z.string(),
      total: z.number().int(),
      style: z.object({ styleId: z.number().int(), familyId: z.number().int(), family: z.string(), style: z.string() }),
    }),
  ),
});
export type SignsFound = z.infer<typeof SignsFound>;
export const SignsQuery = z.object({ find: z.string().max(200) });

/** Filters of a list of families; with `letter`, a code point, in the order of how it is drawn, the likest to the style `like` ("sha256#face") first. */
export const StyleQuery = FamilyQuery.extend({
  letter: z.coerce.number().int().min(1).max(0x10ffff).optional(),
  like: z.string().max(80).default(""),
});

/** Styles of the library in list order, for a quick look through all of them. */
export const StylePage = z.object({
  total: z.number().int(),
  from: z.number().int(),
  styles: z.array(
    BenchStyle.extend({ styleId: z.number().int(), familyId: z.number().int(), rightToLeft: z.boolean(), coversText: z.boolean() }),
  ),
});
export type StylePage = z.infer<typeof StylePage>;
