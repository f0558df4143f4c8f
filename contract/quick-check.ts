// A quick check: all styles due in a program, asked of it by one page and answered by one exported file.
import { z } from "zod";
import { EVIDENCE_STATES } from "../core/evidence/verdict.ts";

export const QuickCheck = z.object({
  programId: z.number().int(),
  programName: z.string(),
  deviceName: z.string(),
  /** It can be had to draw them at once, in the practice room. */
  practice: z.boolean(),
  /** It has to be opened again first. */
  reopen: z.boolean(),
  /** How many styles are due in it; the first of them are on one page. */
  total: z.number().int(),
  styles: z.array(z.object({ styleId: z.number().int(), familyId: z.number().int(), name: z.string(), menuName: z.string() })),
});
export type QuickCheck = z.infer<typeof QuickCheck>;

/** `sure`: record what may not belong to this program too. */
export const CheckQuery = z.object({ sure: z.enum(["0", "1"]).default("0") });

export const QuickAnswer = z.object({
  /** One for each style that was due, in the order of the page. */
  answers: z.array(
    z.object({
      styleId: z.number().int(),
      familyId: z.number().int(),
      name: z.string(),
      state: z.enum(EVIDENCE_STATES),
      reason: z.string(),
      /** It was recorded. */
      recorded: z.boolean(),
    }),
  ),
  /** What has to be answered before the rest is recorded; empty when nothing has. */
  question: z.string(),
});
export type QuickAnswer = z.infer<typeof QuickAnswer>;
