/** Who made a file, with what, and when; empty where it does not say. */
export interface Origin {
  producer: string;
  creator: string;
  /** ISO 8601; the later of made and changed. */
  at: string;
}
export const UNKNOWN_ORIGIN: Origin = { producer: "", creator: "", at: "" };
const isoDate = (text: string): string => {
  const date = new Date(text);
  return text === "" || Number.isNaN(date.getTime()) ? "" : date.toISOString();
};
/** Of names and dates as a document gives them. */
export const originFrom = (producer: string, creator: string, dates: readonly string[]): Origin => ({
  producer: producer.trim().slice(0, 200),
  creator: creator.trim().slice(0, 200),
  at: dates.map(isoDate).sort().at(-1) ?? "",
});
