// Plans: what placing, moving, switching or taking off would do, step by step, before it is done.
import { z } from "zod";
import { Account, Folder, Slot } from "./devices.ts";
import { Problem } from "./problem.ts";

const PlanAction = z.enum(["place", "remove", "switch-on", "switch-off", "like", "tidy"]);
type PlanAction = z.infer<typeof PlanAction>;

/** So many families are placed by one plan. */
const MOST_PLACED = 5000;

/** How fonts are spread over a tablet's profiles: all in one, one for each family, one for each style. */
export const ProfilesBy = z.enum(["together", "family", "style"]);
export type ProfilesBy = z.infer<typeof ProfilesBy>;

const FileRef = z.object({ folder: Folder, fileName: z.string().max(1000) });

export const PlanRequest = z.object({
  deviceId: z.number().int(),
  action: PlanAction,
  account: Account.default("me"),
  familyIds: z.array(z.number().int()).max(MOST_PLACED).default([]),
  /** Of these families only these styles; all of them when it is left out. */
  styleIds: z.array(z.number().int()).max(MOST_PLACED).optional(),
  /** Instead of families: those of a job. */
  jobId: z.number().int().optional(),
  /** For "like": the device to make this one like. */
  fromDeviceId: z.number().int().optional(),
  /** Single files to take off or to turn on or off, whatever is in them; for "tidy", and instead of families. */
  files: z.array(FileRef).max(5000).optional(),
  tidyBy: z.enum(["remove", "switch-off"]).optional(),
  /** For tablets. Left out, several families go together, and so does everything on a paired device. */
  profiles: ProfilesBy.optional(),
});
export type PlanRequest = z.input<typeof PlanRequest>;
export type PlanWanted = z.output<typeof PlanRequest>;

export const PlanChoice = z.enum(["place", "keep", "leave", "switch-on", "move", "both", "replace", "remove"]);
export type PlanChoice = z.infer<typeof PlanChoice>;
export const Situation = z.enum([
  "free",
  "there",
  "there-off",
  "elsewhere",
  "older-there",
  "newer-there",
  "twin-there",
  "same-names",
  "also-wanted",
  "names-clash",
  "damaged",
  "lapsed",
  "uncleared",
  "format",
  "space",
  "only-here",
  "off-there",
]);
export type Situation = z.infer<typeof Situation>;

export const PlanStep = z.object({
  op: z.enum(["copy", "keep", "leave", "remove", "switch-on", "switch-off"]),
  /** Null for files the library does not have. */
  styleId: z.number().int().nullable(),
  styleName: z.string(),
  fileName: z.string(),
  /** What the style's file was called when it came; empty when that is not known. */
  original: z.string().default(""),
  slot: Slot,
  bytes: z.number().int(),
  reason: z.string(),
  /** handed: the device was given what it needs, and a person carries it out there. */
  state: z.enum(["waiting", "handed", "done", "failed"]),
  problem: Problem.nullable(),
});
export type PlanStep = z.infer<typeof PlanStep>;

export const PlanItem = z.object({
  key: z.string(),
  /** The family its style belongs to in the library; empty when to none. */
  family: z.string().default(""),
  situation: Situation,
  /** The first one is recommended. */
  choices: z.array(PlanChoice),
  chosen: PlanChoice,
  steps: z.array(PlanStep),
});
export type PlanItem = z.infer<typeof PlanItem>;

/** doing: it was interrupted, or is under way. handed: it waits for a person at the device. */
export const PlanState = z.enum(["drawn", "doing", "handed", "done", "undone", "failed"]);
export type PlanState = z.infer<typeof PlanState>;

export const PlanView = z.object({
  id: z.number().int(),
  deviceId: z.number().int(),
  deviceName: z.string(),
  deviceSort: z.enum(["practice", "computer", "paired"]),
  action: PlanAction,
  account: Account,
  families: z.array(z.object({ id: z.number().int(), name: z.string() })),
  /** For "like": the other device's name; empty otherwise. */
  fromName: z.string(),
  state: PlanState,
  items: z.array(PlanItem),
  /** What each program on the device will need afterwards. */
  programs: z.array(
    z.object({
      programId: z.number().int(),
      name: z.string(),
      need: z.string(),
      /** What a person does there next; null when nothing. */
      next: z.enum(["check", "reopen", "load"]).nullable(),
    }),
  ),
  fontsBefore: z.number().int(),
  fontsAfter: z.number().int(),
  folder: z.string(),
  /** How often a passcode will be asked for, and how often it would be font by font. */
  passcodes: z.object({ asked: z.number().int(), fontByFont: z.number().int() }),
  /** The passcode must be sent along: steps change a guarded folder. */
  needsPasscode: z.boolean(),
  /** The passcode of a practice device, which nobody can know otherwise; empty for others. */
  practicePasscode: z.string(),
  /** What a person does on the device itself, in order; empty when Buvano does it all. */
  byHand: z.array(z.string()),
  /** What to know before it is carried out: uses its fonts are not cleared for, licences that ended. */
  warnings: z.array(z.string()),
});
export type PlanView = z.infer<typeof PlanView>;

/** Chooses otherwise for one item, or for all that meet the same situation. */
export const ChooseRequest = z.object({ key: z.string().max(1200), choice: PlanChoice, all: z.boolean().default(false) });
export type ChooseRequest = z.infer<typeof ChooseRequest>;
export const CarryOutRequest = z.object({ passcode: z.string().max(100).optional() });
export type CarryOutRequest = z.infer<typeof CarryOutRequest>;
