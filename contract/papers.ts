// The text of a paper that came with fonts.
import { z } from "zod";

export const PaperText = z.object({
  path: z.string(),
  parcelId: z.number().int(),
  parcelName: z.string(),
  text: z.string(),
  /** The paper is longer than what is shown. */
  cut: z.boolean(),
});
export type PaperText = z.infer<typeof PaperText>;
