// What documents need: each font they use or ask for, and where it is.
import { z } from "zod";

/** On the device; on it and turned off; on the shelf; in a parcel; its family is at hand without this style; not at all; it has no name. */
export const NeedPlace = z.enum(["here", "off", "library", "parcel", "other-style", "nowhere", "unnamed"]);
export type NeedPlace = z.infer<typeof NeedPlace>;

export const Need = z.object({
  /** As the document calls it; empty when it gives it no name of its own. */
  name: z.string(),
  letters: z.number().int(),
  /** The beginning of the text set in it. */
  words: z.string(),
  pages: z.array(z.number().int()),
  /** The document carries what it uses of it. */
  carried: z.boolean(),
  /** Why none of its text shows; empty when some does. */
  hidden: z.string(),
  /** Families it takes where this is missing. */
  orElse: z.array(z.string()),
  place: NeedPlace,
  /** What it means, by its full name; empty when nothing is found. */
  found: z.string(),
  familyId: z.number().int().nullable(),
  parcelId: z.number().int().nullable(),
  sentence: z.string(),
});
export type Need = z.infer<typeof Need>;

export const DocumentNeeds = z.object({
  id: z.number().int(),
  name: z.string(),
  kind: z.string(),
  /** What wrote it, as it says; empty when it does not. */
  madeBy: z.string(),
  /** Pages at its end that were not looked at. */
  unread: z.number().int(),
  at: z.iso.datetime(),
  needs: z.array(Need),
});
export type DocumentNeeds = z.infer<typeof DocumentNeeds>;

/** Documents asked about, latest first, as they stand to one device. */
export const NeedsView = z.object({
  device: z.object({ id: z.number().int(), name: z.string() }).nullable(),
  documents: z.array(DocumentNeeds),
});
export type NeedsView = z.infer<typeof NeedsView>;
/** `device`: which one; the first when it is left out. */
export const NeedsQuery = z.object({ device: z.coerce.number().int().min(0).optional() });

/** What came of documents that were given: those that were read, and why others were not. */
export const DocumentsTaken = z.object({
  documentIds: z.array(z.number().int()),
  problems: z.array(z.object({ fileName: z.string(), message: z.string(), next: z.string() })),
});
export type DocumentsTaken = z.infer<typeof DocumentsTaken>;

/** What documents need, told once and not remembered. */
export const NeedsLook = NeedsView.extend({ problems: DocumentsTaken.shape.problems });
export type NeedsLook = z.infer<typeof NeedsLook>;

/** Places on a device what documents need and it lacks. */
export const NeedsPlanRequest = z.object({ documentIds: z.array(z.number().int()).min(1).max(100), deviceId: z.number().int() });
export type NeedsPlanRequest = z.infer<typeof NeedsPlanRequest>;
