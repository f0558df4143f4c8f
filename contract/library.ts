// How the library itself is: what is wrong with where it is kept, for every screen.
import { z } from "zod";
import { Problem } from "./problem.ts";

export const LibraryState = z.object({
  /** Why it cannot be written to at the moment; null when it can. */
  problem: Problem.nullable(),
  /** It holds the demo's world, which can be put back as it was. */
  demo: z.boolean(),
});
export type LibraryState = z.infer<typeof LibraryState>;

/** What looking for files of the library that are gone brought. */
export const MissingFound = z.object({ sentence: z.string() });
