// Jobs: what fonts are wanted for, and how each family stands to it.
import { z } from "zod";
import { nameOf, nameOrNothing } from "./names.ts";
import { Answer, TermView, Use } from "./clearance.ts";
import { Specimen } from "./families.ts";

/** So many families are wanted for one job. */
const MOST_WANTED = 5000;
const ids = z.array(z.number().int()).max(MOST_WANTED);
export const JobRequest = z.object({
  name: nameOf(120),
  uses: z.array(Use).min(1),
  languages: z.array(z.string().regex(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/)).max(30),
  words: z.string().max(2000),
  familyIds: ids,
  deviceIds: ids,
});
export type JobRequest = z.infer<typeof JobRequest>;

const ROLE_LENGTH = 60;
/** What a family is for in the job. */
export const RoleRequest = z.object({ familyId: z.number().int(), role: nameOrNothing(ROLE_LENGTH) });
export type RoleRequest = z.infer<typeof RoleRequest>;
/** Families to be wanted for a job from now on, or no longer. */
export const JobFamiliesRequest = z.object({ ids: z.array(z.number().int()).min(1).max(MOST_WANTED), wanted: z.boolean() });
export const JobFamiliesChanged = z.object({ changed: z.array(z.number().int()) });

export const JobSummary = JobRequest.extend({
  id: z.number().int(),
  /** Families that are cleared, draw the words, are placed and seen; and how many there are. */
  readyFamilies: z.number().int(),
  warnings: z.number().int(),
});
export type JobSummary = z.infer<typeof JobSummary>;

export const JobFamily = z.object({
  id: z.number().int(),
  name: z.string(),
  specimen: Specimen,
  coversText: z.boolean(),
  cleared: z.enum(["yes", "credit", "no", "not-stated"]),
  clearedWords: z.string(),
  uses: z.array(z.object({ use: Use, answer: Answer, reason: z.string() })),
  term: TermView.nullable(),
  /** What it is for in the job; empty when nobody said. */
  role: z.string(),
  /** Whether it does its part of the job's languages and words, and which. */
  draws: z.object({ good: z.boolean(), words: z.string() }),
  placed: z.array(z.object({ deviceId: z.number().int(), name: z.string(), placed: z.boolean() })),
  seen: z.boolean(),
  seenWords: z.string(),
  creditLine: z.string(),
  warnings: z.array(z.string()),
});
export type JobFamily = z.infer<typeof JobFamily>;

export const JobDetail = JobSummary.extend({
  families: z.array(JobFamily),
  /** For each language of the job the families that set it, by name. */
  whoSets: z.array(z.object({ language: z.string(), families: z.array(z.string()) })),
  /** Ready to paste; empty when no licence asks for one. */
  creditLines: z.array(z.string()),
  /** Styles decided on at the bench, and those considered beside them, with their sheet. */
  choices: z.array(z.object({ sheetId: z.number().int(), family: z.string(), style: z.string(), chosen: z.boolean() })),
});
export type JobDetail = z.infer<typeof JobDetail>;

export const Language = z.object({ tag: z.string(), name: z.string() });
export type Language = z.infer<typeof Language>;
