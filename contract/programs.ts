// Programs, described by how they treat fonts and never by a brand.
import { z } from "zod";
import { nameOf } from "./names.ts";
import { LIST_KINDS, OTHER_SCRIPTS, OUTLINE_FORMATS, PLAIN_LIST, SEARCHES, VARIABLE_AS } from "../core/menu/traits.ts";

export const ProgramKind = z.enum(["design", "office", "video", "cutting", "notes", "browser"]);
export type ProgramKind = z.infer<typeof ProgramKind>;

export const ProgramTraits = z.object({
  /** Folders and stores whose fonts it reads; the device's own fonts always count. */
  reads: z.array(z.enum(["me", "everyone", "profile", "own"])),
  /** always: notices changes while open. document: when a document is opened. start: when it starts. by-hand: what is loaded into it. */
  readsWhen: z.enum(["always", "document", "start", "by-hand"]),
  lists: z.enum(LIST_KINDS),
  /** The language whose names it shows and by whose rules it sorts, as an IETF tag. */
  language: z.string().max(20).default(PLAIN_LIST.language),
  search: z.enum(SEARCHES).default(PLAIN_LIST.search),
  variable: z.enum(VARIABLE_AS).default(PLAIN_LIST.variable),
  collections: z.boolean().default(PLAIN_LIST.collections),
  formats: z
    .array(z.enum(OUTLINE_FORMATS))
    .min(1)
    .default([...PLAIN_LIST.formats]),
  /** Whether it lists fonts with coloured glyphs, and fonts of symbols alone. */
  colour: z.boolean().default(PLAIN_LIST.colour),
  symbols: z.boolean().default(PLAIN_LIST.symbols),
  /** It draws as a browser does, and takes only what browsers take. */
  strict: z.boolean().default(PLAIN_LIST.strict),
  otherScripts: z.enum(OTHER_SCRIPTS).default(PLAIN_LIST.otherScripts),
  /** A font loaded into it by hand can be there again when it is next opened. */
  keeps: z.boolean().default(true),
  /** Draws a bold or italic of its own when the family has none. */
  fakesStyles: z.boolean(),
  /** It can turn on other letterforms of a font: small capitals, swashes, sets. */
  alternates: z.boolean().default(false),
  /** Sets right-to-left and joining scripts as they are read. */
  shapes: z.boolean().default(true),
  /** Draws a character its font lacks with another font; otherwise as an empty box. */
  fallsBack: z.boolean().default(true),
  /** Puts fonts into what it exports. */
  embeds: z.boolean().default(true),
});
export type ProgramTraits = z.infer<typeof ProgramTraits>;

/** What most programs do; kinds and single programs say where they differ. */
export const PLAIN_TRAITS: z.infer<typeof ProgramTraits> = {
  ...PLAIN_LIST,
  formats: [...PLAIN_LIST.formats],
  reads: ["me", "everyone"],
  readsWhen: "start",
  keeps: true,
  fakesStyles: false,
  alternates: false,
  shapes: true,
  fallsBack: true,
  embeds: true,
};
/** How programs of a kind mostly treat fonts; common practice, no source. A person sets right what is different. */
export const USUAL_TRAITS: Record<z.infer<typeof ProgramKind>, z.infer<typeof ProgramTraits>> = {
  design: { ...PLAIN_TRAITS, readsWhen: "always", variable: "instances", search: "anywhere", otherScripts: "after", alternates: true },
  office: { ...PLAIN_TRAITS, lists: "four-style", fakesStyles: true },
  video: { ...PLAIN_TRAITS, lists: "full-names", colour: false },
  cutting: { ...PLAIN_TRAITS, variable: "none", fallsBack: false },
  notes: { ...PLAIN_TRAITS, reads: ["me", "everyone", "profile"] },
  browser: { ...PLAIN_TRAITS, reads: ["own"], readsWhen: "by-hand", fakesStyles: true, collections: false, strict: true },
};

const PROGRAM_NAME_LENGTH = 60;
/** A program a person names. */
export const ProgramRequest = z.object({
  deviceId: z.number().int(),
  name: nameOf(PROGRAM_NAME_LENGTH),
  kind: ProgramKind,
  traits: ProgramTraits.extend({
    reads: ProgramTraits.shape.reads.min(1, "Tick at least one place it finds fonts in."),
    formats: ProgramTraits.shape.formats.unwrap().min(1, "Tick at least one kind of file it takes."),
  }),
});
/** Programs somebody uses, by kind, under the names they call them. */
export const ProgramNames = z.object({ names: z.partialRecord(ProgramKind, ProgramRequest.shape.name) });
export type ProgramNames = z.infer<typeof ProgramNames>;
export type ProgramRequest = z.infer<typeof ProgramRequest>;
/** What was learned of a program by looking. */
export const ProgramLearned = z.object({ readsWhen: z.enum(["always", "start"]).optional(), lists: ProgramTraits.shape.lists.optional() });

export const ProgramSummary = z.object({
  id: z.number().int(),
  deviceId: z.number().int(),
  name: z.string(),
  kind: ProgramKind,
  traits: ProgramTraits,
  /** Whether it is a practice program, which can be opened here. */
  practice: z.boolean(),
});
export type ProgramSummary = z.infer<typeof ProgramSummary>;
