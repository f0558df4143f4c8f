// A fifth of the forty fonts of relatives.ts; all of them in `npm run test:long`, and by `npm run bench pictures`.
import { basename } from "node:path";
import { beforeAll, expect, test } from "@jest/globals";
import { lot } from "../amount.ts";
import { isRight, isWrong, judgeRelatives, RELATIVES, RENDERERS, type Told } from "./relatives.ts";

let told: Told[];
beforeAll(() => {
  told = judgeRelatives(lot(RELATIVES));
}, 300_000);

test.each(RENDERERS)("pictures by %s are told, and never wrongly", (renderer) => {
  const own = told.filter((one) => one.renderer === renderer);
  expect(own.length).toBe(3 * lot(RELATIVES).length);
  const wrong = own.filter(isWrong).map(({ kind, font, shown }) => `${kind}: ${basename(font)} as ${basename(shown!)}`);
  expect(wrong).toEqual([]);
  expect(own.filter(isRight).length / own.length).toBeGreaterThanOrEqual(0.93);
});
