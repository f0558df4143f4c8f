// Families in the library.
import { z } from "zod";
import { nameOf } from "./names.ts";
import { MANNER_PATTERN } from "../core/matching/faces/manner-steps.ts";
import { Use } from "./clearance.ts";
import { Folder } from "./devices.ts";
import { HistoryEvent } from "./history.ts";
import { SCRIPTS } from "../core/coverage/script-list.ts";
import { FACE_KINDS } from "../core/family/kind-list.ts";
import { BriefPrediction, Sighting } from "./sightings.ts";
import { Finding, SpecimenText, Station, StationKey, StyleName, Verdict } from "./styles.ts";

/** What a specimen needs to be drawn in the font itself. */
export const Specimen = SpecimenText.extend({ sha256: z.string(), face: z.number().int(), container: z.string() });
export type Specimen = z.infer<typeof Specimen>;

export const FamilySummary = z.object({
  id: z.number().int(),
  name: z.string(),
  pinned: z.boolean(),
  styles: z.number().int(),
  specimen: Specimen,
  trail: z.array(Station),
  /** The first station that is not done. */
  at: StationKey.nullable(),
  /** Whether the family draws every character of the text asked about. */
  coversText: z.boolean(),
});
export type FamilySummary = z.infer<typeof FamilySummary>;

export const Script = z.enum(SCRIPTS);
export type Script = z.infer<typeof Script>;
export const FaceKind = z.enum(FACE_KINDS);
export type FaceKind = z.infer<typeof FaceKind>;

const numeric = z.coerce.number().int().min(0);
/**
 * By name, the latest first, what is in trouble first, or the likest to one family (`like`) first. What is searched for comes best fit first when
 * no order is asked for.
 */
const FAMILY_SORTS = ["name", "newest", "trouble", "likeness"] as const;
export const FamilySort = z.enum(FAMILY_SORTS);
export type FamilySort = z.infer<typeof FamilySort>;
const Tag = z.object({ id: z.number().int(), name: z.string() });
export const FamilyQuery = z.object({
  search: z.string().max(200).optional(),
  text: z.string().max(500).optional(),
  at: StationKey.optional(),
  covers: z.enum(["yes"]).optional(),
  pinned: z.enum(["yes"]).optional(),
  script: Script.optional(),
  kind: FaceKind.optional(),
  tag: numeric.optional(),
  sort: FamilySort.optional(),
  like: numeric.optional(),
  /** Cleared for all uses of a job. */
  job: numeric.optional(),
  /** Cleared for a use. */
  use: Use.optional(),
  /** Of this manner: "weight:3,slant:0". */
  manner: z.string().regex(MANNER_PATTERN).optional(),
  from: numeric.optional(),
  limit: numeric.max(500).optional(),
});
export type FamilyQuery = z.infer<typeof FamilyQuery>;

/** A part of the list: `total` families fit the query, `all` are on the shelf. */
export const FamilyPage = z.object({
  total: z.number().int(),
  all: z.number().int(),
  from: z.number().int(),
  /** Nothing has exactly the words searched for: these come close. */
  near: z.boolean(),
  families: z.array(FamilySummary),
});
export type FamilyPage = z.infer<typeof FamilyPage>;

/** How many families each filter would leave, the others standing as they are. */
export const FamilyCounts = z.object({
  total: z.number().int(),
  at: z.partialRecord(StationKey, z.number().int()),
  pinned: z.number().int(),
  covers: z.number().int(),
  scripts: z.partialRecord(Script, z.number().int()),
  kinds: z.partialRecord(FaceKind, z.number().int()),
  uses: z.partialRecord(Use, z.number().int()),
  jobs: z.array(z.object({ id: z.number().int(), name: z.string(), families: z.number().int() })),
  tags: z.array(Tag.extend({ families: z.number().int() })),
});
export type FamilyCounts = z.infer<typeof FamilyCounts>;

/** So many families are acted on at once. */
export const MOST_CHOSEN = 20_000;
const ChosenIds = z.array(z.number().int()).min(1).max(MOST_CHOSEN);
export const FamilyIds = z.object({ ids: z.array(z.number().int()) });
/** Several families at once: what is to be known before something is done with them. */
export const ChosenRequest = z.object({ ids: ChosenIds });
export const ChosenFamilies = z.object({
  families: z.number().int(),
  styles: z.number().int(),
  pinned: z.number().int(),
  /** The styles that stand for the first of them. */
  mains: z.array(z.object({ sha256: z.string(), face: z.number().int(), family: z.string(), style: z.string() })),
  tags: z.array(Tag.extend({ families: z.number().int() })),
  /** Where some of them are, and where they could be: files on and off. */
  devices: z.array(
    z.object({ id: z.number().int(), name: z.string(), on: z.number().int(), off: z.number().int(), switches: z.boolean() }),
  ),
});
export type ChosenFamilies = z.infer<typeof ChosenFamilies>;
const TAG_LENGTH = 40;
export const TagName = nameOf(TAG_LENGTH);
export const NewTag = z.object({ tag: TagName });
export const FamilyAct = z.discriminatedUnion("act", [
  z.object({ act: z.literal("pin"), ids: ChosenIds, on: z.boolean() }),
  z.object({ act: z.literal("tag"), ids: ChosenIds, tag: TagName, on: z.boolean() }),
  z.object({ act: z.literal("remove"), ids: ChosenIds }),
]);
export type FamilyAct = z.infer<typeof FamilyAct>;
/** Which families it changed, and what takes it back. */
export const FamilyActed = z.object({ sentence: z.string(), changed: z.array(z.number().int()), historyId: z.number().int().nullable() });
export type FamilyActed = z.infer<typeof FamilyActed>;

export const PinRequest = z.object({ pinned: z.boolean() });
export const JoinRequest = z.object({ otherId: z.number().int() });
export const PartRequest = z.object({ key: z.string().max(300) });

export const StyleDetail = StyleName.extend({
  id: z.number().int(),
  sha256: z.string(),
  face: z.number().int(),
  container: z.string(),
  legacyFamily: z.string(),
  legacyStyle: z.string(),
  postScriptName: z.string(),
  version: z.string(),
  weight: z.number(),
  italic: z.boolean(),
  codepoints: z.number().int(),
  bytes: z.number().int(),
  outlines: z.string(),
  /** What else its name and tables say: width, optical size, named styles of a variable font, colour. */
  facts: z.array(z.string()),
  embedding: z.string(),
  fileName: z.string(),
  verdict: Verdict,
  findings: z.array(Finding),
});
export type StyleDetail = z.infer<typeof StyleDetail>;

export const PlacementView = z.object({
  deviceId: z.number().int(),
  deviceName: z.string(),
  folder: Folder,
  on: z.boolean(),
  /** Programs get to see it. */
  visible: z.boolean(),
  styles: z.number().int(),
  observedAt: z.iso.datetime(),
});
export type PlacementView = z.infer<typeof PlacementView>;

const PaperView = z.object({
  path: z.string(),
  parcelId: z.number().int(),
  parcelName: z.string(),
  sha256: z.string(),
  bytes: z.number().int(),
});
type PaperView = z.infer<typeof PaperView>;

export const FamilyDetail = FamilySummary.extend({
  /** So many of its papers are still being read. */
  beingRead: z.number().int(),
  tags: z.array(Tag),
  styleList: z.array(StyleDetail),
  /** What is wrong with the family as a whole. */
  remarks: z.array(Finding),
  /** Files of it that are gone, as a sentence; empty when none is. */
  missing: z.string(),
  notes: z.array(z.string()),
  /** Other spellings a person said mean this family. */
  spellings: z.array(z.object({ key: z.string(), name: z.string() })),
  /** Families whose names seem to mean this one too. */
  alike: z.array(z.object({ id: z.number().int(), name: z.string(), reason: z.string() })),
  placements: z.array(PlacementView),
  /** Its main style in every program, and how many of its styles were seen there, of those that are there. */
  predictions: z.array(BriefPrediction.extend({ seen: z.number().int(), listed: z.number().int() })),
  sightings: z.array(Sighting),
  /** Devices that were handed some of its styles, where nobody has carried that out yet. */
  waiting: z.array(z.object({ deviceId: z.number().int(), deviceName: z.string(), styles: z.number().int() })),
  papers: z.array(PaperView),
  history: z.array(HistoryEvent),
});
export type FamilyDetail = z.infer<typeof FamilyDetail>;
