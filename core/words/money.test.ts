// Sums of money.
import { expect, test } from "@jest/globals";
import { digitsOf, minorOf, money } from "./money.ts";

test("a sum is read with a point or a comma, in its currency's smallest unit", () => {
  expect(minorOf("18", "EUR")).toBe(1800);
  expect(minorOf("18.5", "EUR")).toBe(1850);
  expect(minorOf(" 18,05 ", "EUR")).toBe(1805);
  expect(minorOf("1200", "JPY")).toBe(1200);
  expect(minorOf("1.234", "KWD")).toBe(1234);
  expect(minorOf("0.29", "EUR")).toBe(29);
  expect(minorOf("18.00", "JPY")).toBe(18);
});
test("what is no sum of that currency is not guessed at", () => {
  for (const text of ["", "free", "-3", "1.234.5", "1e3", "12.345"]) expect(minorOf(text, "EUR")).toBeNaN();
  expect(minorOf("12.5", "JPY")).toBeNaN();
});
test("it is shown as people write it", () => {
  expect(money(1800, "EUR")).toBe("€18.00");
  expect(money(1200, "JPY")).toBe("¥1,200");
  expect(digitsOf("no")).toBe(2);
});
