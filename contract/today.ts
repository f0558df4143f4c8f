// What to do next, grouped by the station where families are stuck.
import { z } from "zod";
import { StationKey } from "./styles.ts";

const TodayGroup = z.object({
  station: StationKey,
  families: z.array(z.object({ id: z.number().int(), name: z.string(), words: z.string() })),
  total: z.number().int(),
});
/** What is to be done in one program, and with how many families. */
export const TodayTask = z.object({
  programId: z.number().int(),
  programName: z.string(),
  deviceName: z.string(),
  state: z.enum(["swapped", "reopen", "due"]),
  families: z.number().int(),
});
export type TodayTask = z.infer<typeof TodayTask>;
/** A licence that ends soon or has ended, and where its family is still on. */
export const TodayTerm = z.object({
  familyId: z.number().int(),
  name: z.string(),
  over: z.boolean(),
  words: z.string(),
  devices: z.array(z.object({ id: z.number().int(), name: z.string() })),
});
export type TodayTerm = z.infer<typeof TodayTerm>;
/** What goes on behind the lists: texts and fonts being read for the first time or anew, rows being renewed. */
const Renewing = z.object({
  /** Texts that were never read. */
  unread: z.number().int(),
  /** Texts and fonts an older Buvano read; what it found is shown until they are read anew. */
  anew: z.number().int(),
  fonts: z.number().int(),
  /** Rows of lists that are not up to date yet. */
  rows: z.number().int(),
});
export const Today = z.object({
  /** Parcels on the list, families on the shelf, and fonts placed on devices. */
  parcels: z.number().int(),
  families: z.number().int(),
  placed: z.number().int(),
  groups: z.array(TodayGroup),
  tasks: z.array(TodayTask),
  terms: z.array(TodayTerm),
  renewing: Renewing,
  /** Why a backup should be made, as a sentence; empty when none is due. */
  backup: z.string(),
  /** Files of the library that are gone, as a sentence; empty when none is. */
  missing: z.string(),
});
export type Today = z.infer<typeof Today>;
