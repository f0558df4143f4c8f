// One style: names, health, where it stands on the trail.
import { z } from "zod";
import { STATION_KEYS, STATION_STATES } from "../core/family/stations.ts";

export const Verdict = z.enum(["sound", "usable", "refused"]);
export type Verdict = z.infer<typeof Verdict>;

export const Finding = z.object({
  code: z.string(),
  level: z.enum(["stop", "warn", "note"]),
  message: z.string(),
  meaning: z.string(),
  next: z.string(),
  standard: z.string(),
});
export type Finding = z.infer<typeof Finding>;

/** How a specimen is set. */
export const SpecimenText = z.object({
  rightToLeft: z.boolean(),
  /** Characters of the font's own, for fonts without Latin letters; empty otherwise. */
  sample: z.string(),
  /** The sample stands for the font whatever the words are. */
  signsOnly: z.boolean().optional(),
});

export const StyleName = z.object({ family: z.string(), style: z.string(), fullName: z.string() });

/** The five stations of a family's trail. */
export const StationKey = z.enum(STATION_KEYS);
export type StationKey = z.infer<typeof StationKey>;
export const Station = z.object({
  key: StationKey,
  /** done: confirmed. remark: done, with something to know. stuck: needs a decision. open: not reached. */
  state: z.enum(STATION_STATES),
  words: z.string(),
});
export type Station = z.infer<typeof Station>;
