// What happened, with its way back for as long as there is one.
import { z } from "zod";

export const HistoryEvent = z.object({
  id: z.number().int(),
  at: z.iso.datetime(),
  kind: z.string(),
  sentence: z.string(),
  /** It can be taken back; a plan is taken back where it is shown, as that may ask for a passcode. */
  undo: z.object({ planId: z.number().int().optional() }).nullable(),
  /** It was taken back. */
  undone: z.boolean().default(false),
});
export type HistoryEvent = z.infer<typeof HistoryEvent>;
