// Licences that end: terms in calendar days, as people count them.

/** A day as ISO 8601, "2026-02-28". */
export type Day = string;

/** Until a day, that day included; or so many days from the day a style is placed, that day counted as the first. */
export type Term = { until: Day } | { days: number };

/** Common practice, no source: a warning two weeks before a licence ends. */
const WARN_DAYS = 14;

const MS_A_DAY = 86_400_000;
/** Calendar days since 1970-01-01; in UTC every day has the same length, so neither leap days nor clock changes can shift it. */
const numberOf = (day: Day): number => Math.round(Date.parse(`${day}T00:00:00Z`) / MS_A_DAY);

export const isDay = (text: string): boolean =>
  /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(`${text}T00:00:00Z`)) && addDays(text, 0) === text;
export const addDays = (day: Day, days: number): Day => new Date((numberOf(day) + days) * MS_A_DAY).toISOString().slice(0, 10);
/** How many days later `b` is than `a`. */
export const daysBetween = (a: Day, b: Day): number => numberOf(b) - numberOf(a);

/** The calendar day a moment falls on where the person is. `timeZone` is an IANA name. */
export function dayAt(moment: Date, timeZone: string): Day {
  const parts = new Intl.DateTimeFormat("en", { timeZone, year: "numeric", month: "2-digit", day: "2-digit" }).formatToParts(moment);
  const part = (type: string) => parts.find((one) => one.type === type)!.value;
  return `${part("year")}-${part("month")}-${part("day")}`;
}

/** The last day a term allows; undefined while it has not begun. A pack of 180 days lasts through day 180 and has lapsed on day 181. */
export const lastDay = (term: Term, placedOn: Day | undefined): Day | undefined =>
  "until" in term ? term.until : placedOn && addDays(placedOn, term.days - 1);

export type TermState =
  | { state: "not-begun"; days: number }
  | { state: "running" | "ending"; last: Day; left: number }
  | { state: "over"; last: Day; since: number };

/** How a term stands on `today`. `left` counts today and the last day: on the last day it is 1. `since` is 1 on the day after. */
export function termState(term: Term, placedOn: Day | undefined, today: Day): TermState {
  const last = lastDay(term, placedOn);
  if (last === undefined) return { state: "not-begun", days: "days" in term ? term.days : 0 };
  const left = daysBetween(today, last) + 1;
  if (left <= 0) return { state: "over", last, since: 1 - left };
  return { state: left <= WARN_DAYS ? "ending" : "running", last, left };
}

export interface ReadTerm {
  term: Term;
  sentence: string;
}

const MONTHS = ["january", "february", "march", "april", "may", "june", "july", "august", "september", "october", "november", "december"];
const CONTEXT = /\b(licen[cs]es?|valid|lasts?|expires?|ends?|use[ds]?|until|through|term|period|pack|subscription|trial|rent(al|ed)?)\b/i;
/** A word at the end of a span that makes it something else: a date of making, an age. */
const NOT_A_TERM = /\b(refund|money back|return|reply|answer|respond|ago|since|updated|support|within \d+ days of purchase)\b/i;

/** A time limit a sentence speaks of; undefined when it speaks of none. Phrasings: common practice, no source. */
export function readTerm(sentence: string): ReadTerm | undefined {
  if (!CONTEXT.test(sentence) || NOT_A_TERM.test(sentence)) return undefined;
  const until =
    /\b(?:until|through|till|expires?(?: on)?|ends?(?: on)?|valid (?:to|until)|by)\s+(?:the )?(?:end of )?(?:(\d{4})-(\d{2})-(\d{2})|(\d{1,2})(?:st|nd|rd|th)?(?: of)? ([a-z]+),? (\d{4})|([a-z]+) (\d{1,2})(?:st|nd|rd|th)?,? (\d{4}))/i.exec(
      sentence,
    );
  if (until) {
    const [, y, m, d, day1, month1, year1, month2, day2, year2] = until;
    const month = (name: string | undefined) => MONTHS.indexOf((name ?? "").toLowerCase()) + 1;
    const [year, mon, day] = y
      ? [y, Number(m), Number(d)]
      : year1
        ? [year1, month(month1), Number(day1)]
        : [year2!, month(month2), Number(day2)];
    const iso = `${year}-${String(mon).padStart(2, "0")}-${String(day).padStart(2, "0")}`;
    if (isDay(iso)) return { term: { until: iso }, sentence };
  }
  const span = /\b(\d{1,4})[ -]?(days?|weeks?|months?|years?)\b/i.exec(sentence);
  if (!span) return undefined;
  // Months and years are counted as packs count them: 30 and 365 days. Common practice, no source.
  const unit = { d: 1, w: 7, m: 30, y: 365 }[span[2]![0]!.toLowerCase() as "d" | "w" | "m" | "y"];
  const days = Number(span[1]) * unit;
  return days >= 1 && days <= 36_500 ? { term: { days }, sentence } : undefined;
}
