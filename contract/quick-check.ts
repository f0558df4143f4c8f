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

/** Styles on one page. */
export const MOST_ON_PAGE = 120;
/** Families, or styles, a check can be narrowed to; they stand in the address. */
export const MOST_CHECKED = 400;
const idList = (most: number) =>
  z
    .string()
    .regex(/^\d+(,\d+)*$/)
    .transform((text) => text.split(",").map(Number))
    .pipe(z.array(z.number().int()).max(most));
/** Only what is not checked yet of these families, or of these styles; everything when both are left out. */
export const CheckedOnly = z.object({ families: idList(MOST_CHECKED).optional(), styles: idList(MOST_CHECKED).optional() });
export type CheckedOnly = z.infer<typeof CheckedOnly>;
/** The styles that stand on the page; those that are not checked yet when it is left out. */
export const OnPage = z.object({ styles: idList(MOST_ON_PAGE).optional() });
/** `sure`: record what may not belong to this program too. */
export const CheckQuery = OnPage.extend({ sure: z.enum(["0", "1"]).default("0") });

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
