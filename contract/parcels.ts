// Parcels: what was downloaded, what is in it, how far unpacking is.
import { z } from "zod";
import { ENTRY_KINDS } from "../core/archive/kinds.ts";
import { ClearanceView } from "./clearance.ts";
import { Finding, SpecimenText, StyleName, Verdict } from "./styles.ts";
import { Problem } from "./problem.ts";

export const EntryKind = z.enum(ENTRY_KINDS);
export type EntryKind = z.infer<typeof EntryKind>;

export const ParcelState = z.enum(["waiting", "unpacking", "ready", "failed"]);
export type ParcelState = z.infer<typeof ParcelState>;

/** A style found while the rest of its parcel is still being unpacked. */
export const EarlyStyle = StyleName.extend({ ...SpecimenText.shape, sha256: z.string(), face: z.number().int(), verdict: Verdict });
export type EarlyStyle = z.infer<typeof EarlyStyle>;

export const ParcelProgress = z.object({
  /** The first few styles found. */
  found: z.array(EarlyStyle),
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
  /** Web fonts that may be unwrapped and are not yet. */
  unwrappableStyles: z.number().int(),
  troubles: z.number().int(),
  /** Papers that are still being read. */
  beingRead: z.number().int(),
  /** The archive it came as was put aside to be deleted; it can still be had back. */
  cleared: z.boolean(),
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
  /** Archive, file and menu name side by side, when they differ; empty otherwise. */
  names: z.string(),
  /** For web fonts: whether it may be unwrapped to an installable file, and why not. Null for other fonts. */
  unwrap: z.object({ allowed: z.boolean(), reason: z.string() }).nullable(),
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

/** A part of the list: parcels that wait for somebody, those that do not, or all. */
export const ParcelQuery = z.object({
  waits: z.enum(["yes", "no"]).optional(),
  from: z.coerce.number().int().min(0).default(0),
  limit: z.coerce.number().int().min(1).max(2000).default(20),
});
export const ParcelPage = z.object({ total: z.number().int(), parcels: z.array(ParcelSummary) });
/** IDs of parcels that hold something to shelve. */
export const ParcelIds = z.object({ ids: z.array(z.number().int()) });
export type ParcelPage = z.infer<typeof ParcelPage>;

export const ParcelDetail = ParcelSummary.extend({
  drawers: z.array(
    z.object({
      family: z.string(),
      notes: z.array(z.string()),
      /** What is wrong with the family as a whole. */
      remarks: z.array(Finding),
      /** Another family, here or on the shelf, whose name seems to mean this one too. */
      /** What its fonts and papers allow; null in what is not shown in full. */
      clearance: ClearanceView.nullable(),
      alike: z.array(
        z.object({
          name: z.string(),
          reason: z.string(),
          shelved: z.boolean(),
          /** Once both are on the shelf: the family the other is filed under, and that other. */
          join: z.object({ id: z.number().int(), name: z.string(), otherId: z.number().int(), otherName: z.string() }).nullable(),
        }),
      ),
      styles: z.array(ParcelStyle),
    }),
  ),
  entries: z.array(ParcelEntry),
  /** Some style comes in both formats, so that there is something to choose. */
  hasTwins: z.boolean(),
});
export type ParcelDetail = z.infer<typeof ParcelDetail>;

/** Unpacking again, with a password for locked archives. */
export const RetryRequest = z.object({ password: z.string().max(500).optional() });

/** Web fonts to unwrap, by the digests of their files. */
export const UnwrapRequest = z.object({
  files: z
    .array(z.string().regex(/^[0-9a-f]{64}$/))
    .min(1)
    .max(500),
});

/** Several parcels at once. */
export const ShelveManyRequest = z.object({ ids: z.array(z.number().int()).min(1).max(5000) });
/** What to shelve: everything that is whole when `faces` is left out. */
export const ShelveRequest = z.object({
  faces: z.array(z.object({ sha256: z.string(), face: z.number().int() })).optional(),
});
export const ShelveResult = z.object({
  shelved: z.number().int(),
  familyIds: z.array(z.number().int()),
  /** Styles of the parcel that stay in it. */
  left: z.number().int(),
  parcels: z.number().int(),
  /** Parcels that are not unpacked, or hold nothing to shelve. */
  passedOver: z.number().int(),
  /** Takes it back; null when nothing was new. */
  historyId: z.number().int().nullable(),
});
export type ShelveResult = z.infer<typeof ShelveResult>;
