// Every third of the forty fonts of relatives.ts; `npm run bench pictures` judges all of them.
import { basename } from "node:path";
import { beforeAll, expect, test } from "@jest/globals";
import { isRight, isWrong, judgeRelatives, RELATIVES, RENDERERS, type Told } from "./relatives.ts";

let told: Told[];
beforeAll(() => {
  told = judgeRelatives(RELATIVES.filter((_, i) => i % 3 === 1));
}, 300_000);

test.each(RENDERERS)("pictures by %s are told, and never wrongly", (renderer) => {
  const own = told.filter((one) => one.renderer === renderer);
  expect(own.length).toBe(39);
  const wrong = own.filter(isWrong).map(({ kind, font, shown }) => `${kind}: ${basename(font)} as ${basename(shown!)}`);
  expect(wrong).toEqual([]);
  expect(own.filter(isRight).length / own.length).toBeGreaterThanOrEqual(0.93);
});
