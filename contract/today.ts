// What to do next, grouped by the station where families are stuck.
import { z } from "zod";
import { StationKey } from "./style.ts";

export const TodayGroup = z.object({
  station: StationKey,
  families: z.array(z.object({ id: z.number().int(), name: z.string(), words: z.string() })),
  total: z.number().int(),
});
export const Today = z.object({ families: z.number().int(), groups: z.array(TodayGroup) });
export type Today = z.infer<typeof Today>;
