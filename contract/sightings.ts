// Predictions of where a style will be listed, and evidence of what was seen.
import { z } from "zod";
import { nameOrNothing } from "./names.ts";
import { EVIDENCE_STATES } from "../core/evidence/verdict.ts";
import { SIGHTING_STATES } from "../core/menu/state.ts";
import { ProgramTraits } from "./programs.ts";

export const SightingState = z.enum(SIGHTING_STATES);
export type SightingState = z.infer<typeof SightingState>;

/** A style in a program: whether it should be there, and under which name. */
export const BriefPrediction = z.object({
  styleId: z.number().int(),
  styleName: z.string(),
  programId: z.number().int(),
  programName: z.string(),
  deviceId: z.number().int(),
  deviceName: z.string(),
  state: SightingState,
  /** Why it is in this state, as a sentence. */
  reason: z.string(),
  /** Why the program does not list it at all, as a sentence; empty where it would. */
  refusal: z.string(),
  menuName: z.string(),
  /** Which style of the menu entry, or which buttons, reach it; empty when the entry is enough. */
  within: z.string(),
});
export type BriefPrediction = z.infer<typeof BriefPrediction>;

export const Prediction = BriefPrediction.extend({
  listed: z.boolean(),
  before: z.array(z.string()),
  after: z.array(z.string()),
  /** Shortest text that, typed into the font box, leaves only this entry. */
  type: z.string(),
  /** The style that is reached in its place because they share a button; empty otherwise. */
  standsBehind: z.string(),
  /** Other fonts that claim the same place in the list. */
  clashes: z.array(z.string()),
  steps: z.array(z.string()),
});
export type Prediction = z.infer<typeof Prediction>;

export const EvidenceFont = z.object({
  name: z.string(),
  embedded: z.boolean(),
  subset: z.boolean(),
  type: z.string(),
});
export type EvidenceFont = z.infer<typeof EvidenceFont>;

export const SightingResult = z.enum(["seen", "swapped", "faked", "asked-for", "not-there"]);
export type SightingResult = z.infer<typeof SightingResult>;

export const Sighting = z.object({
  id: z.number().int(),
  styleId: z.number().int(),
  styleName: z.string(),
  programId: z.number().int(),
  programName: z.string(),
  deviceName: z.string(),
  result: SightingResult,
  /** From a file the program wrote or a picture of it, by somebody's eye, or from the device itself. */
  means: z.enum(["file", "eye", "device"]),
  who: z.string(),
  instead: z.array(z.string()),
  sentence: z.string(),
  fileName: z.string(),
  fonts: z.array(EvidenceFont),
  at: z.iso.datetime(),
  /** What wrote the file, as the file says; empty when it does not. */
  madeBy: z.string(),
  /** Letters of the style that show, and the pages they stand on, from 1. */
  letters: z.number().int(),
  pages: z.array(z.number().int()),
  /** The file is kept and can be opened. */
  kept: z.boolean(),
});
export type Sighting = z.infer<typeof Sighting>;

/** What an exported file says of a style in a program. */
export const EvidenceAnswer = z.object({
  styleId: z.number().int(),
  styleName: z.string(),
  state: z.enum(EVIDENCE_STATES),
  reason: z.string(),
  /** What to do, where something is open; empty otherwise. */
  next: z.string(),
  instead: z.array(z.string()),
  fonts: z.array(EvidenceFont),
  /** What has to be answered before it is recorded; empty when nothing has. */
  question: z.string(),
  /** What was recorded; null when it does not tell, or was not recorded yet. */
  sighting: Sighting.nullable(),
});
export type EvidenceAnswer = z.infer<typeof EvidenceAnswer>;
/** `sure`: record it though it may not belong here. */
export const EvidenceQuery = z.object({ words: z.string().trim().max(200).default(""), sure: z.enum(["0", "1"]).default("0") });

/** One style in one program, with what to know before it is used. */
const MENU_NAME_LENGTH = 200;
/** The name a person found a style under in a program; empty takes a correction back. */
export const NameRequest = z.object({ name: nameOrNothing(MENU_NAME_LENGTH) });
export type NameRequest = z.infer<typeof NameRequest>;
/** Another way of listing that would explain the name. */
export const NameLearnt = z.object({ suggests: ProgramTraits.shape.lists.nullable() });

export const Cell = Prediction.extend({
  /** Its name there was corrected by hand. */
  nameLearnt: z.boolean(),
  familyId: z.number().int(),
  /** The program can be opened in the practice room. */
  practice: z.boolean(),
  readsWhen: ProgramTraits.shape.readsWhen,
  /** Jobs it is wanted for and not cleared for; a licence that has ended. */
  warnings: z.array(z.string()),
  /** What was seen before, latest first; the last few. */
  earlier: z.array(Sighting),
});
export type Cell = z.infer<typeof Cell>;

/** What a picture of known words shows. */
export const PictureResult = z.object({
  /** What was recorded; null when it cannot be told. */
  sighting: Sighting.nullable(),
  sentence: z.string(),
  /** The likeliest fonts, best first. */
  scores: z.array(z.object({ name: z.string(), score: z.number() })),
  width: z.number().int(),
  height: z.number().int(),
  /** A frame around the words, as SVG path data in its pixels. */
  frame: z.string(),
  /** The likeliest font's outlines over the picture, as SVG path data in its pixels. */
  overlay: z.string(),
});
export type PictureResult = z.infer<typeof PictureResult>;

/** Takes a sighting back, or puts it back. */
export const TakeBackRequest = z.object({ back: z.boolean() });
export type TakeBackRequest = z.infer<typeof TakeBackRequest>;

/** What somebody saw: not listed, listed and drawn as it should be, or drawn wrongly. */
export const LookRequest = z.object({
  saw: z.enum(["there", "not-there", "wrong"]),
  who: nameOrNothing(60).default(""),
  /** What is known of the device speaks against it, and it was there all the same; or the program was reopened before. */
  despite: z.enum(["", "sure", "reopened"]).default(""),
});
export type LookRequest = z.infer<typeof LookRequest>;
/** What was noted; or what has to be answered before: what speaks against it. */
export const LookAnswer = z.object({ question: z.string(), sighting: Sighting.nullable() });
export type LookAnswer = z.infer<typeof LookAnswer>;

/** So many cells of the board are acted on at once. */
export const MOST_CELLS = 5000;
export const CellKey = z.object({ styleId: z.number().int(), programId: z.number().int() });
export type CellKey = z.infer<typeof CellKey>;
export const CellKeys = z.object({ cells: z.array(CellKey) });
/** The same seen in many cells. */
export const LookManyRequest = LookRequest.extend({ cells: z.array(CellKey).min(1).max(MOST_CELLS) });
export const LookedMany = z.object({
  sentence: z.string(),
  /** Takes all of it back; null when nothing was noted. */
  historyId: z.number().int().nullable(),
  /** Cells that were left out, because what is known of their devices speaks against it; and what does, of the first. */
  doubted: z.array(CellKey),
  question: z.string(),
});
export type LookedMany = z.infer<typeof LookedMany>;

/** Why a style is not where it should be, the likeliest reason first. */
export const Diagnosis = z.object({
  styleId: z.number().int(),
  programId: z.number().int(),
  deviceId: z.number().int(),
  familyId: z.number().int(),
  reasons: z.array(
    z.object({
      code: z.string(),
      reason: z.string(),
      because: z.string(),
      test: z.string(),
      fix: z.string(),
      act: z.enum(["place", "switch-on", "look-again", "reopen", "load", "renew", "duplicates"]).nullable(),
    }),
  ),
  /** Where to place it so that the program finds it. */
  account: z.enum(["me", "everyone"]),
});
export type Diagnosis = z.infer<typeof Diagnosis>;

export const BoardBy = z.enum(["families", "styles"]);
export type BoardBy = z.infer<typeof BoardBy>;
const numeric = z.coerce.number().int().min(0);
/** What is asked of the board: programs of one device, families of one job or a single one, rows that hold a state; a part of the rows. */
export const BoardQuery = z.object({
  by: BoardBy.default("families"),
  device: numeric.optional(),
  job: numeric.optional(),
  family: numeric.optional(),
  state: SightingState.optional(),
  /** Only this program's column. */
  program: numeric.optional(),
  from: numeric.default(0),
  limit: numeric.max(200).default(60),
});
export type BoardQuery = z.infer<typeof BoardQuery>;
/** The board: one row a family or a style, one cell a program. */
export const Board = z.object({
  /** Every device with programs. */
  devices: z.array(z.object({ id: z.number().int(), name: z.string() })),
  programs: z.array(
    z.object({ id: z.number().int(), name: z.string(), deviceId: z.number().int(), deviceName: z.string(), practice: z.boolean() }),
  ),
  /** Rows that fit, and families on the shelf. */
  total: z.number().int(),
  families: z.number().int(),
  from: z.number().int(),
  rows: z.array(
    z.object({
      familyId: z.number().int(),
      name: z.string(),
      /** Null where a row stands for a whole family. */
      styleId: z.number().int().nullable(),
      cells: z.array(
        z.object({
          programId: z.number().int(),
          state: SightingState,
          styleId: z.number().int(),
          /** Where the row stands for a family: how many of its styles were seen there, of those that are there. */
          seen: z.number().int(),
          listed: z.number().int(),
        }),
      ),
    }),
  ),
});
export type Board = z.infer<typeof Board>;
