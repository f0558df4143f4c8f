// Lettering drawn by FreeType (by way of Pillow and of ImageMagick) and Cairo in the fonts of the Debian packages of these checks, matched among all of
// them. Published work on recognising fonts in photographs gives about 80 % within five of 2,383, words unknown (from memory). `npm run bench match`
// does the same with every font package of Debian, and tells those looked at while the limits were found from an unseen third.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { singleFonts } from "../load/corpus.ts";
import type { MeasuredScript } from "../../core/matching/faces/alphabet.ts";
import { alikeFaces } from "../../core/matching/answer/alike.ts";
import {
  areKin,
  counterparts,
  breathe,
  drawnInScript,
  drawnLettering,
  isUnseen,
  matched,
  measuredCorpus,
  type Answer,
  type Corpus,
  type Lettering,
} from "./match-cases.ts";
import { amount } from "../amount.ts";

const dir = mkdtempSync(join(tmpdir(), "buvano-lettering-"));
let corpus: Corpus;
let screens: Lettering[];
let photos: Lettering[];
beforeAll(async () => {
  corpus = await measuredCorpus(singleFonts());
  screens = await drawnLettering(corpus, isUnseen, amount(30), false, join(dir, "screens"));
  photos = await drawnLettering(corpus, isUnseen, amount(25), true, join(dir, "photos"));
}, 240_000);
afterAll(() => rmSync(dir, { recursive: true }));

const all = async (cases: readonly Lettering[], typed: boolean, absent: boolean): Promise<Answer[]> => {
  const answers: Answer[] = [];
  for (const one of cases) {
    await breathe();
    answers.push(await matched(corpus, one, typed, absent));
  }
  return answers;
};
const share = (answers: readonly Answer[], most: number): number =>
  answers.filter(({ place }) => place >= 0 && place < most).length / answers.length;
const sure = (answers: readonly Answer[]): Answer[] =>
  answers.filter(({ candidates }) => candidates.ok && candidates.value[0]?.verdict === "it");

test("there are fonts to look among", () => {
  expect(corpus.fonts.length).toBeGreaterThan(150);
  expect(screens.length).toBeGreaterThanOrEqual(amount(27));
  expect(photos.length).toBeGreaterThanOrEqual(amount(20));
});
test("screenshots with known words: the true font is first, and never another is said to be it", async () => {
  const answers = await all(screens, true, false);
  expect(share(answers, 1)).toBeGreaterThanOrEqual(0.92);
  expect(share(answers, 5)).toBeGreaterThanOrEqual(0.95);
  expect(sure(answers).length).toBeGreaterThan(answers.length / 3);
  expect(sure(answers).filter(({ place }) => place !== 0)).toEqual([]);
}, 240_000);
test("with the true font taken out, nothing is said to be it", async () => {
  expect(sure(await all(screens, true, true))).toEqual([]);
}, 240_000);
test("screenshots without words: within the first five", async () => {
  expect(share(await all(screens, false, false), 5)).toBeGreaterThanOrEqual(0.8);
}, 240_000);
test("photos: within the first five", async () => {
  const answers = await all(photos, true, false);
  expect(share(answers, 5)).toBeGreaterThanOrEqual(0.85);
  expect(sure(answers).filter(({ place }) => place !== 0)).toEqual([]);
}, 240_000);
test.each([
  ["hebrew", "גינת פרחים"],
  ["cyrillic", "Садовая тропа"],
  ["greek", "Κήπος λουλουδιών"],
  ["arabic", "حديقة الورود"],
] satisfies [MeasuredScript, string][])(
  "words in %s are matched as well",
  async (script, words) => {
    const cases = drawnInScript(corpus, script, words, amount(10), join(dir, script));
    expect(cases.length).toBeGreaterThan(1);
    const answers = await all(cases, true, false);
    expect(share(answers, 1)).toBe(1);
    expect(sure(answers).filter(({ place }) => place !== 0)).toEqual([]);
  },
  120_000,
);
test("versions of one design under several names are each other's nearest", () => {
  const { fonts, index } = corpus;
  const asked = fonts.flatMap((_, i) => (index.has(i, "latin") && counterparts(corpus, i).length > 0 ? [i] : []));
  const right = asked.filter((i) => {
    const [nearest] = alikeFaces(index, i, (face) => fonts[face]!.family === fonts[i]!.family);
    return nearest !== undefined && areKin(fonts[i]!, fonts[nearest.face]!);
  });
  expect(asked.length).toBeGreaterThanOrEqual(10);
  expect(right.length / asked.length).toBeGreaterThanOrEqual(0.85);
}, 120_000);
