// Days and moments, said one way everywhere: 27 November 2026, 13:16.

const DAY = { day: "numeric", month: "long", year: "numeric" } as const;

/** The day of a moment (ISO 8601), where the reader is. */
export const dayOf = (iso: string): string => new Date(iso).toLocaleDateString("en-GB", DAY);
/** A moment with its time of day, where the reader is. */
export const momentOf = (iso: string): string =>
  `${dayOf(iso)}, ${new Date(iso).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}`;
/** A calendar day (YYYY-MM-DD), wherever the reader is. */
export const dayWords = (day: string): string => new Date(`${day}T00:00:00Z`).toLocaleDateString("en-GB", { ...DAY, timeZone: "UTC" });
