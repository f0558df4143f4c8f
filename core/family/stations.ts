// The five stations of a family's trail.

export const STATION_KEYS = ["in", "sound", "cleared", "placed", "seen"] as const;
export type StationKey = (typeof STATION_KEYS)[number];

/** done: confirmed. remark: done, with something to know. stuck: needs a decision. open: not reached. */
export const STATION_STATES = ["done", "remark", "stuck", "open"] as const;

export interface Station {
  key: StationKey;
  state: (typeof STATION_STATES)[number];
  words: string;
}
