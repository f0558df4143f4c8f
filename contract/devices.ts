// Devices and what they were seen to hold.
import { z } from "zod";
import { HistoryEvent } from "./history.ts";
import { ProgramSummary } from "./programs.ts";

export const Account = z.enum(["me", "everyone"]);
export type Account = z.infer<typeof Account>;
/** Where a placed font lies. */
export const Slot = z.enum(["me", "everyone", "profile"]);
export type Slot = z.infer<typeof Slot>;
export const Folder = z.enum(["me", "everyone", "profile", "built-in", "own"]);
export type Folder = z.infer<typeof Folder>;
export const DeviceKind = z.enum(["laptop", "desktop", "tablet", "phone"]);
export type DeviceKind = z.infer<typeof DeviceKind>;
/** practice: simulated. computer: the one Buvano runs on. paired: another one on the network. */
export const DeviceSort = z.enum(["practice", "computer", "paired"]);
export type DeviceSort = z.infer<typeof DeviceSort>;

/** What wants looking at on a device, as counts. */
const DeviceTrouble = z.object({
  duplicates: z.number().int(),
  off: z.number().int(),
  /** There and on, and programs do not get to see it. */
  unseen: z.number().int(),
  outdated: z.number().int(),
  lapsed: z.number().int(),
  /** What happened behind Buvano's back and nobody looked at yet. */
  externalChanges: z.number().int(),
});
type DeviceTrouble = z.infer<typeof DeviceTrouble>;

export const DeviceSummary = z.object({
  id: z.number().int(),
  name: z.string(),
  kind: DeviceKind,
  sort: DeviceSort,
  /** Where fonts can be placed on it. */
  slots: z.array(Slot),
  /** Whether single fonts can be turned on and off. */
  switches: z.boolean(),
  /** A person carries steps out on the device itself. */
  byHand: z.boolean(),
  /** Fonts placed on it, built-in ones left out. */
  placedFonts: z.number().int(),
  builtInFonts: z.number().int(),
  observedAt: z.iso.datetime().nullable(),
  /** Why it could not be looked at just now; null when it could. */
  problem: z.object({ code: z.string(), message: z.string(), next: z.string() }).nullable(),
  trouble: DeviceTrouble,
  programs: z.array(ProgramSummary),
});
export type DeviceSummary = z.infer<typeof DeviceSummary>;

export const DeviceFont = z.object({
  fileName: z.string(),
  folder: Folder,
  on: z.boolean(),
  /** Programs can find it: it is on, and the device's font cache knows it. */
  visible: z.boolean(),
  family: z.string(),
  style: z.string(),
  /** Null when the library does not hold this file. */
  familyId: z.number().int().nullable(),
  styleId: z.number().int().nullable(),
  /** The first of its family in the list. */
  first: z.boolean(),
  /** What is the matter with it, as sentences. */
  remarks: z.array(z.string()),
});
export type DeviceFont = z.infer<typeof DeviceFont>;

export const ExternalChange = z.object({
  id: z.number().int(),
  how: z.enum(["appeared", "vanished", "changed", "switched-on", "switched-off"]),
  folder: Folder,
  fileName: z.string(),
  name: z.string(),
  at: z.iso.datetime(),
  /** It is there and the library does not have it. */
  adoptable: z.boolean(),
});
export type ExternalChange = z.infer<typeof ExternalChange>;

/** What can be made difficult on a practice device, and its passcode. */
export const PracticeState = z.object({
  passcode: z.string(),
  away: z.boolean(),
  readOnly: z.boolean(),
  locksOpenFonts: z.boolean(),
  full: z.boolean(),
});
export type PracticeState = z.infer<typeof PracticeState>;
export const PracticeStateChange = PracticeState.omit({ passcode: true }).partial();
export type PracticeStateChange = z.infer<typeof PracticeStateChange>;

/** A part of the fonts placed on a device, those with a remark first. */
export const DeviceFonts = z.object({ total: z.number().int(), from: z.number().int(), fonts: z.array(DeviceFont) });
export type DeviceFonts = z.infer<typeof DeviceFonts>;
const numeric = z.coerce.number().int().min(0);
export const DeviceFontsQuery = z.object({
  q: z.string().max(200).default(""),
  from: numeric.default(0),
  limit: numeric.max(500).default(100),
});

export const DeviceDetail = DeviceSummary.extend({
  ...DeviceFonts.shape,
  /** Families of the fonts that came with it. */
  builtInFamilies: z.array(z.string()),
  externalChanges: z.array(ExternalChange),
  practiceState: PracticeState.nullable(),
  /** Styles that were handed over and that nobody has carried out there yet, by name. */
  waiting: z.array(z.string()),
  /** What was done there lately, with its way back. */
  history: z.array(HistoryEvent),
});
export type DeviceDetail = z.infer<typeof DeviceDetail>;

/** A look at a device: how many fonts it held before and now, and what happened meanwhile. */
export const Rescan = z.object({ before: z.number().int(), after: z.number().int(), found: z.array(ExternalChange) });
export type Rescan = z.infer<typeof Rescan>;

/** Files to take into the library, by where they lie; all that it does not have when none are named. */
export const AdoptRequest = z.object({
  files: z
    .array(z.object({ folder: Folder, fileName: z.string().max(1000) }))
    .max(5000)
    .optional(),
});
export const Adopted = z.object({ parcelId: z.number().int(), styles: z.number().int() });
export type Adopted = z.infer<typeof Adopted>;

const DuplicateFile = z.object({
  folder: Folder,
  fileName: z.string(),
  where: z.string(),
  version: z.string(),
  changedAt: z.iso.datetime(),
  characters: z.number().int(),
  bytes: z.number().int(),
  outlines: z.string(),
  on: z.boolean(),
  sha256: z.string(),
  /** It can be taken off or turned off from here. */
  movable: z.boolean(),
  /** How its letters differ from those of the one to keep; empty for that one. */
  drawn: z.string(),
});
export const DuplicateGroup = z.object({
  key: z.string(),
  family: z.string(),
  style: z.string(),
  how: z.enum(["same-file", "versions", "twins", "names"]),
  files: z.array(DuplicateFile),
  /** Which of them to keep: its place in `files`. */
  keep: z.number().int(),
  reason: z.string(),
  /** More than one is on. */
  inTheWay: z.boolean(),
});
export type DuplicateGroup = z.infer<typeof DuplicateGroup>;

/** Families of two devices side by side. */
export const Comparison = z.object({
  deviceName: z.string(),
  otherName: z.string(),
  rows: z.array(z.object({ family: z.string(), here: z.number().int(), there: z.number().int() })),
  onlyThere: z.number().int(),
  onlyHere: z.number().int(),
  both: z.number().int(),
});
export type Comparison = z.infer<typeof Comparison>;

/** A tablet's profiles, as the tablet itself shows them. */
export const TabletProfiles = z.object({
  deviceName: z.string(),
  passcode: z.string(),
  profiles: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      description: z.string(),
      organisation: z.string(),
      fonts: z.array(z.string()),
      state: z.enum(["waiting", "allowed", "installed"]),
    }),
  ),
});
export type TabletProfiles = z.infer<typeof TabletProfiles>;
export const ProfileAct = z.object({ act: z.enum(["allow", "refuse", "install", "remove"]), passcode: z.string().max(100).default("") });
export type ProfileAct = z.infer<typeof ProfileAct>;
