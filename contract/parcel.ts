// Parcels: what was downloaded, what is in it, how far unpacking is.
import { z } from "zod";
import { Finding, SpecimenText, StyleName, Verdict } from "./style.ts";
import { Problem } from "./problem.ts";

export const EntryKind = z.enum(["font", "web font", "paper", "preview", "design source", "archive", "junk"]);
export type EntryKind = z.infer<typeof EntryKind>;

export const ParcelState = z.enum(["waiting", "unpacking", "ready", "failed"]);
export type ParcelState = z.infer<typeof ParcelState>;

export const ParcelProgress = z.object({
  entriesDone: z.number().int(),
  entriesTotal: z.number().int().nullable(),
  bytesDone: z.number().int(),
});
export type ParcelProgress = z.infer<typeof ParcelProgress>;

export const ParcelSummary = z.object({
  id: z.number().int(),
  name: z.string(),
  bytes: z.number().int(),
  state: ParcelState,
  progress: ParcelProgress.nullable(),
  problem: Problem.nullable(),
  arrivedAt: z.iso.datetime(),
  counts: z.partialRecord(EntryKind, z.number().int()),
  families: z.number().int(),
  styles: z.number().int(),
  shelvedStyles: z.number().int(),
  /** Styles that are whole and not on the shelf yet. */
  shelvableStyles: z.number().int(),
  troubles: z.number().int(),
});
export type ParcelSummary = z.infer<typeof ParcelSummary>;

export const ParcelStyle = StyleName.extend({
  ...SpecimenText.shape,
  /** Names one face: sha-256 of its file and its number in it. */
  sha256: z.string(),
  face: z.number().int(),
  path: z.string(),
  weight: z.number(),
  italic: z.boolean(),
  codepoints: z.number().int(),
  container: z.string(),
  verdict: Verdict,
  findings: z.array(Finding),
  shelved: z.boolean(),
  /** Left in the parcel because its twin is taken; empty otherwise. */
  twin: z.string(),
  /** How it stands to what the library has under the same name; empty when there is nothing. */
  known: z.string(),
});
export type ParcelStyle = z.infer<typeof ParcelStyle>;

export const ParcelEntry = z.object({
  path: z.string(),
  kind: EntryKind,
  reason: z.string(),
  bytes: z.number().int(),
  sha256: z.string(),
  problem: Problem.nullable(),
});
export type ParcelEntry = z.infer<typeof ParcelEntry>;

export const ParcelDetail = ParcelSummary.extend({
  drawers: z.array(z.object({ family: z.string(), notes: z.array(z.string()), styles: z.array(ParcelStyle) })),
  entries: z.array(ParcelEntry),
  /** Some style comes in both formats, so that there is something to choose. */
  hasTwins: z.boolean(),
});
export type ParcelDetail = z.infer<typeof ParcelDetail>;

/** Unpacking again, with a password for locked archives. */
export const RetryRequest = z.object({ password: z.string().max(500).optional() });

/** What to shelve: everything that is whole when `faces` is left out. */
export const ShelveRequest = z.object({
  faces: z.array(z.object({ sha256: z.string(), face: z.number().int() })).optional(),
});
export const ShelveResult = z.object({ shelved: z.number().int(), familyIds: z.array(z.number().int()), left: z.number().int() });
export type ShelveResult = z.infer<typeof ShelveResult>;
