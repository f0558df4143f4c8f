import { describe, expect, test } from "@jest/globals";
import { plainName, plainProse } from "./plain.ts";
import { withoutEnds } from "./trim.ts";

describe("a name", () => {
  test.each([
    ["Sprig\nBold\r\n", "Sprig Bold"],
    ["\u0000\u0007Sprig\u001b", "Sprig"],
    ["Sprig\u202egnp.exe", "Sprig gnp.exe"],
    ["\u2067\u200f", ""],
    ["half \ud800 of a pair", "half \ufffd of a pair"],
    // Joiners belong to the spelling of many scripts.
    ["می\u200cخواهم", "می\u200cخواهم"],
    ["क\u094d\u200dष", "क\u094d\u200dष"],
    ["\u{1F600} ok", "\u{1F600} ok"],
  ])("%j is %j", (given, plain) => expect(plainName(given)).toBe(plain));
  test("is cut where no list could show it", () => expect(plainName("a".repeat(5000)).length).toBe(200));
  test("stays what it is when cleaned again", () => {
    for (const name of ["a\u0000 b", " \u202e x", "\ud800"]) expect(plainName(plainName(name))).toBe(plainName(name));
  });
});

test("prose keeps its lines and loses what turns it around", () => {
  expect(plainProse("one\n\ttwo\r\nthree\u0000four\u202efive")).toBe("one\n\ttwo\r\nthree four five");
});

test("ends are taken off in time that grows with the text alone", () => {
  expect(withoutEnds("--a-b--", "-")).toBe("a-b");
  expect(withoutEnds("---", "-")).toBe("");
  expect(withoutEnds("", "-")).toBe("");
});
