// What became of a plan.
import { describe, expect, test } from "@jest/globals";
import type { Step } from "./plan.ts";
import { isStepDone, planSentence, programNeed } from "./outcome.ts";

test.each<[Step["op"], { on: boolean } | undefined, boolean]>([
  ["keep", undefined, true],
  ["leave", undefined, true],
  ["copy", undefined, false],
  ["copy", { on: false }, true],
  ["remove", { on: true }, false],
  ["remove", undefined, true],
  ["switch-on", { on: true }, true],
  ["switch-on", { on: false }, false],
  ["switch-on", undefined, false],
  ["switch-off", { on: false }, true],
  ["switch-off", { on: true }, false],
])("the step %p with %p there: done is %p", (op, there, done) => {
  expect(isStepDone({ op }, there)).toBe(done);
});

describe("what a program needs", () => {
  const need = (readsWhen: "by-hand" | "start" | "always", reads: ("me" | "everyone")[], gains: boolean) =>
    programNeed({ name: "Poster Desk", traits: { readsWhen, reads } }, gains, new Set(["me"]));
  test("it reads no folder, another folder, at its start, or at once", () => {
    expect(need("by-hand", ["me"], true)).toMatch(/by hand/);
    expect(need("start", ["everyone"], true)).toMatch(/does not read this folder/);
    expect(need("start", ["me"], true)).toMatch(/open it again/);
    expect(need("always", ["me"], true)).toMatch(/notices/);
    expect(need("always", ["me"], false)).toMatch(/drops/);
  });
});

test("the history counts what was done, and nothing else", () => {
  const step = (op: "copy" | "remove" | "switch-off", state = "done", slot: "me" | "everyone" = "me") => ({ op, slot, state });
  expect(planSentence([step("copy"), step("copy"), step("copy", "failed"), step("remove")], "Shed laptop", false)).toBe(
    "2 files placed on Shed laptop, for me; 1 file taken off Shed laptop.",
  );
  expect(planSentence([step("switch-off", "done", "everyone")], "Shed laptop", true)).toBe("Undone: 1 file turned off on Shed laptop.");
  expect(planSentence([step("copy", "waiting")], "Shed laptop", false)).toBe("Nothing changed on Shed laptop.");
});
