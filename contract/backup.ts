// Backups: where they go, the last one, and what the library keeps that could be let go.
import { z } from "zod";
import { Problem } from "./problem.ts";
import { BackupMade } from "./settings.ts";

export const BackupState = z.object({
  /** Where backups go, on the computer Buvano runs on; null before the first. */
  folder: z.string().nullable(),
  /** A reminder after so many days without one; 0 for none. */
  remindDays: z.number().int(),
  last: BackupMade.nullable(),
  /** The last one is older than was chosen, or there is none though there is something to lose. */
  due: z.boolean(),
  going: z.boolean(),
  /** Why the last one that was begun failed; null when it did not. */
  problem: Problem.nullable(),
  /** Downloads as they arrived, of parcels that wait for nobody: their fonts and papers are kept anyway. */
  originals: z.object({ ids: z.array(z.number().int()), bytes: z.number().int() }),
});
export type BackupState = z.infer<typeof BackupState>;

const FOLDER_LENGTH = 4000;
export const BackupRequest = z.object({ folder: z.string().trim().min(1).max(FOLDER_LENGTH) });
export type BackupRequest = z.infer<typeof BackupRequest>;
/** Lets originals go, or takes that back while they are there. */
export const OriginalsRequest = z.object({ ids: z.array(z.number().int()).min(1).max(100_000), cleared: z.boolean() });
