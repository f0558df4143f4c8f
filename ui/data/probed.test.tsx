// What a device reports of its own fonts: a browser that hides them denies nothing, and thousands are reported in portions.
import { MyAnswers } from "../../contract/pairing.ts";
import { answersOf, inPortions, type Probed } from "./probed.ts";

const found = (...all: Probed[]) => all.map((probed, i) => ({ sha256: String(i).padStart(64, "0"), probed }));
const answers = (all: Probed[], seenBefore = false) => answersOf(found(...all), seenBefore).map(({ answer }) => answer);

test("a browser in which no installed font was ever seen cannot tell", () => {
  expect(answers(["unknown", "unknown", "cannot-tell"])).toEqual(["cannot-tell", "cannot-tell", "cannot-tell"]);
});
test("one that shows a font, now or before, is believed about the others", () => {
  expect(answers(["there", "unknown"])).toEqual(["there", "not-there"]);
  expect(answers(["other", "unknown"])).toEqual(["not-there", "not-there"]);
  expect(answers(["unknown"], true)).toEqual(["not-there"]);
});
test("thousands of answers are sent in portions that are taken", () => {
  const portions = inPortions(answersOf(found(...Array<Probed>(1850).fill("there")), false));
  expect(portions.map((portion) => MyAnswers.parse({ answers: portion }).answers.length)).toEqual([400, 400, 400, 400, 250]);
  expect(inPortions([])).toEqual([]);
});
