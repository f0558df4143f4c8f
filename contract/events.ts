// What the server tells the app by server-sent events.
import { z } from "zod";
import { ParcelProgress } from "./parcels.ts";

export const ServerEvent = z.discriminatedUnion("topic", [
  z.object({
    topic: z.enum([
      "parcels",
      "families",
      "devices",
      "sightings",
      "practice",
      "clearance",
      "jobs",
      "pairing",
      "library",
      "documents",
      "bench",
      "matches",
    ]),
  }),
  /** How far a plan that is being carried out is, in steps. */
  z.object({ topic: z.literal("plan"), planId: z.number().int(), done: z.number().int(), total: z.number().int() }),
  /** How far something is that is done with very many at once. */
  z.object({ topic: z.literal("acting"), done: z.number().int(), total: z.number().int() }),
  /** How many of the likeliest fonts were laid over a picture. */
  z.object({ topic: z.literal("match"), matchId: z.number().int(), done: z.number().int(), of: z.number().int() }),
  z.object({ topic: z.literal("progress"), parcelId: z.number().int(), progress: ParcelProgress }),
]);
export type ServerEvent = z.infer<typeof ServerEvent>;
