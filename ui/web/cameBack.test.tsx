// The way to a page: gone back to, or come to afresh.
import { cameBackTo, goingBack } from "./cameBack.ts";

test("a page gone back to says so however late and often its screen is made; others begin afresh", () => {
  expect([cameBackTo("/families"), cameBackTo("/family/1")]).toEqual([false, false]);
  goingBack();
  // Its own screen, and the same once more after its code has come.
  expect([cameBackTo("/families"), cameBackTo("/families")]).toEqual([true, true]);
  expect([cameBackTo("/family/1"), cameBackTo("/families")]).toEqual([false, false]);
});
