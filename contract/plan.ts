// Plans: what placing or taking off would do, step by step, before it is done.
import { z } from "zod";
import { Account } from "./device.ts";
import { Problem } from "./problem.ts";

export const PlanAction = z.enum(["place", "remove", "switch-on", "switch-off"]);
export type PlanAction = z.infer<typeof PlanAction>;

export const PlanRequest = z.object({
  deviceId: z.number().int(),
  action: PlanAction,
  account: Account.default("me"),
  familyIds: z.array(z.number().int()).min(1).max(500),
});
export type PlanRequest = z.input<typeof PlanRequest>;

export const PlanStep = z.object({
  op: z.enum(["copy", "keep", "leave", "remove", "switch-on", "switch-off"]),
  styleId: z.number().int(),
  styleName: z.string(),
  fileName: z.string(),
  account: Account,
  bytes: z.number().int(),
  reason: z.string(),
  state: z.enum(["waiting", "done", "failed"]),
  problem: Problem.nullable(),
});
export type PlanStep = z.infer<typeof PlanStep>;

export const PlanView = z.object({
  id: z.number().int(),
  deviceId: z.number().int(),
  deviceName: z.string(),
  action: PlanAction,
  account: Account,
  families: z.array(z.object({ id: z.number().int(), name: z.string() })),
  state: z.enum(["drawn", "done", "undone", "failed"]),
  steps: z.array(PlanStep),
  /** What each program on the device will need afterwards. */
  programs: z.array(z.object({ programId: z.number().int(), name: z.string(), need: z.string() })),
  fontsBefore: z.number().int(),
  fontsAfter: z.number().int(),
  folder: z.string(),
  /** What to know before it is carried out: uses its fonts are not cleared for, licences that ended. */
  warnings: z.array(z.string()),
});
export type PlanView = z.infer<typeof PlanView>;
