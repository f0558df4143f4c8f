// Devices and what they were seen to hold.
import { z } from "zod";
import { ProgramSummary } from "./program.ts";

export const Account = z.enum(["me", "everyone"]);
export type Account = z.infer<typeof Account>;

export const DeviceSummary = z.object({
  id: z.number().int(),
  name: z.string(),
  kind: z.enum(["laptop", "desktop", "tablet"]),
  practice: z.boolean(),
  /** Fonts placed on it, built-in ones left out. */
  placedFonts: z.number().int(),
  builtInFonts: z.number().int(),
  observedAt: z.iso.datetime().nullable(),
  programs: z.array(ProgramSummary),
});
export type DeviceSummary = z.infer<typeof DeviceSummary>;

export const DeviceFont = z.object({
  fileName: z.string(),
  account: z.enum(["me", "everyone", "built-in"]),
  on: z.boolean(),
  family: z.string(),
  style: z.string(),
  /** Null when the library does not hold this file. */
  familyId: z.number().int().nullable(),
  styleId: z.number().int().nullable(),
});
export type DeviceFont = z.infer<typeof DeviceFont>;

export const DeviceDetail = DeviceSummary.extend({ fonts: z.array(DeviceFont) });
export type DeviceDetail = z.infer<typeof DeviceDetail>;
