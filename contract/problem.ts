// What goes wrong, as problem documents (RFC 9457) with a code and the next action.
import { z } from "zod";

export const Problem = z.object({ code: z.string(), message: z.string(), next: z.string() });
export type Problem = z.infer<typeof Problem>;

/** application/problem+json. `detail` is the sentence, `next` what to do. */
export const ProblemDocument = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string(),
  code: z.string(),
  next: z.string(),
});
export type ProblemDocument = z.infer<typeof ProblemDocument>;
