// Days and moments in words.
import { expect, test } from "@jest/globals";
import { dayOf, dayWords, momentOf } from "./dates.ts";

test("days and moments are said one way", () => {
  const local = new Date(2026, 10, 7, 9, 5).toISOString();
  expect([dayOf(local), momentOf(local)]).toEqual(["7 November 2026", "7 November 2026, 09:05"]);
});
test("a calendar day is that day wherever it is read", () => {
  expect(dayWords("2026-03-01")).toBe("1 March 2026");
  expect(dayWords("2026-12-31")).toBe("31 December 2026");
});
