// Languages a font can set, by the Unicode CLDR's letters: against fontconfig's own orthographies over every Debian font, and against the
// raw sets.
import { readFileSync } from "node:fs";
import { expect, test } from "@jest/globals";
import { exemplarCharacters, setsLanguage } from "../../core/coverage/languages.ts";
import { inspectFont } from "../../core/inspect.ts";
import { lettersOf } from "../../server/services/jobs/languages.ts";
import { corpusFonts } from "../load/corpus.ts";
import { fcScan } from "./fc-scan.ts";

test("exemplar sets are read as UTS #35 writes them", () => {
  const read = (set: string) => String.fromCodePoint(...exemplarCharacters(set));
  expect(read("[a-e {ch} é]")).toBe("abcdehé");
  expect(read("[\\u05D0-\\u05D2 \\-]")).toBe("-אבג");
  expect(read("[a b {a\\u0301}]")).toContain("b");
  // CLDR's own set for Hebrew is the alphabet with its five final letters.
  expect(lettersOf("he")).toEqual(Array.from({ length: 27 }, (_, i) => 0x5d0 + i));
});

// Both lists draw the line of "everyday letters" where they think fit; these differ from fontconfig's for reasons of their own.
const LANGUAGES = ["en", "de", "fr", "es", "it", "pt", "nl", "da", "sv", "nb", "fi", "pl", "cs", "hu", "tr", "el", "ru", "uk", "bg", "he"];

test("agree with fontconfig's over the Debian fonts", () => {
  const paths = corpusFonts();
  const scanned = new Map(fcScan(paths).map((one) => [one.file, new Set(one.lang.split("|"))]));
  let [compared, agreed, fontYes] = [0, 0, 0];
  const differ = new Map<string, number>();
  for (const path of paths) {
    const result = inspectFont(readFileSync(path), "font");
    const languages = scanned.get(path);
    if (!result.ok || !languages) continue;
    for (const tag of LANGUAGES) {
      const mine = setsLanguage(result.value[0]!.ranges, lettersOf(tag));
      compared++;
      if (mine) fontYes++;
      if (mine === languages.has(tag)) agreed++;
      else differ.set(tag, (differ.get(tag) ?? 0) + 1);
    }
  }
  process.stderr.write(`languages: ${agreed} of ${compared} as fontconfig says; differing: ${JSON.stringify([...differ])}\n`);
  expect(fontYes).toBeGreaterThan(500);
  expect(agreed / compared).toBeGreaterThan(0.98);
}, 120_000);
