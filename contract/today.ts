// What to do next, grouped by the station where families are stuck.
import { z } from "zod";
import { StationKey } from "./style.ts";

export const TodayGroup = z.object({
  station: StationKey,
  families: z.array(z.object({ id: z.number().int(), name: z.string(), words: z.string() })),
  total: z.number().int(),
});
/** A licence that ends soon or has ended, and where its family is still on. */
export const TodayTerm = z.object({
  familyId: z.number().int(),
  name: z.string(),
  over: z.boolean(),
  words: z.string(),
  devices: z.array(z.object({ id: z.number().int(), name: z.string() })),
});
export type TodayTerm = z.infer<typeof TodayTerm>;
export const Today = z.object({ families: z.number().int(), groups: z.array(TodayGroup), terms: z.array(TodayTerm) });
export type Today = z.infer<typeof Today>;
