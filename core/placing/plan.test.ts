import { expect, test } from "@jest/globals";
import * as fc from "fast-check";
import {
  changes,
  placedFileName,
  planPlacing,
  planRemoving,
  planSwitching,
  planUndo,
  type Account,
  type ObservedFile,
  type Step,
  type WantedStyle,
} from "./plan.ts";

const style = (n: number, refused = false): WantedStyle => ({
  styleId: n,
  name: `Furrow ${n}`,
  postScriptName: n % 2 ? `Furrow-${n >> 2}` : "",
  sha256: String(n),
  ending: ".ttf",
  bytes: 10,
  refused,
});

/** A device as its files, and what carrying steps out does to it. */
function carryOut(files: readonly ObservedFile[], steps: readonly Step[]): ObservedFile[] {
  const after = [...files];
  for (const step of steps) {
    const at = after.findIndex((file) => file.account === step.account && file.fileName.toLowerCase() === step.fileName.toLowerCase());
    if (step.op === "copy") {
      if (at >= 0) throw new Error(`${step.fileName} would be overwritten.`);
      after.push({ fileName: step.fileName, account: step.account, sha256: step.sha256, on: true });
    }
    if (step.op === "remove") {
      if (at < 0) throw new Error(`${step.fileName} is not there.`);
      after.splice(at, 1);
    }
    if (step.op === "switch-on" || step.op === "switch-off") {
      if (at < 0) throw new Error(`${step.fileName} is not there.`);
      after[at] = { ...after[at]!, on: step.op === "switch-on" };
    }
  }
  return after;
}
const sorted = (files: readonly ObservedFile[]): string[] =>
  files.map((file) => `${file.account}/${file.fileName}=${file.sha256} ${file.on ? "on" : "off"}`).sort();

const accounts = fc.constantFrom<Account>("me", "everyone");
const wanted = fc
  .uniqueArray(fc.tuple(fc.integer({ min: 0, max: 30 }), fc.boolean()), { selector: ([n]) => n, maxLength: 12 })
  .map((list) => list.map(([n, refused]) => style(n, refused)));
const device = fc
  .uniqueArray(
    fc.record({
      n: fc.integer({ min: 0, max: 30 }),
      account: accounts,
      name: fc.constantFrom("Furrow-1.ttf", "furrow-2.ttf", "Furrow-3.ttf", "x.ttf"),
    }),
    {
      selector: ({ account, name }) => account + name.toLowerCase(),
      maxLength: 6,
    },
  )
  .map((list) => list.map(({ n, account, name }): ObservedFile => ({ fileName: name, account, sha256: String(n), on: true })));

test("placing reaches what is wanted, overwrites nothing, and doing it twice changes nothing", () => {
  fc.assert(
    fc.property(wanted, device, accounts, (styles, before, account) => {
      const after = carryOut(before, planPlacing(styles, before, account));
      for (const one of styles) if (!one.refused) expect(after.some((file) => file.sha256 === one.sha256)).toBe(true);
      for (const file of before) expect(after).toContainEqual(file);
      expect(planPlacing(styles, after, account).filter((step) => step.op === "copy")).toEqual([]);
    }),
  );
});
test("undo restores what was there", () => {
  fc.assert(
    fc.property(wanted, device, accounts, (styles, before, account) => {
      for (const steps of [planPlacing(styles, before, account), planRemoving(styles, before)]) {
        expect(sorted(carryOut(carryOut(before, steps), planUndo(steps)))).toEqual(sorted(before));
      }
    }),
  );
});
test("removing takes every copy of what is named and nothing else", () => {
  fc.assert(
    fc.property(wanted, device, (styles, before) => {
      const after = carryOut(before, planRemoving(styles, before));
      const named = new Set(styles.map((one) => one.sha256));
      expect(sorted(after)).toEqual(sorted(before.filter((file) => !named.has(file.sha256))));
    }),
  );
});

test("file names are plain, and never empty", () => {
  expect(placedFileName({ postScriptName: "Furrow-Bold", name: "", ending: ".OTF" })).toBe("Furrow-Bold.otf");
  expect(placedFileName({ postScriptName: "../x", name: "", ending: ".ttf" })).toBe("x.ttf");
  expect(placedFileName({ postScriptName: "", name: "שביל", ending: ".ttf" })).toBe("font.ttf");
});
test("a second copy in the other folder, and a damaged file, are left out with the reason", () => {
  const there: ObservedFile[] = [{ fileName: "a.ttf", account: "everyone", sha256: "1", on: true }];
  expect(planPlacing([style(1), style(2, true)], there, "me").map((step) => [step.op, step.reason])).toEqual([
    ["leave", expect.stringContaining("listed twice")],
    ["leave", expect.stringContaining("damaged")],
  ]);
});

test("switching reaches what is wanted, moves no file, twice changes nothing, and is taken back by its undo", () => {
  fc.assert(
    fc.property(wanted, device, fc.array(fc.boolean(), { minLength: 6, maxLength: 6 }), fc.boolean(), (styles, files, states, on) => {
      const before = files.map((file, i) => ({ ...file, on: states[i]! }));
      const steps = planSwitching(styles, before, on);
      const after = carryOut(before, steps);
      const sums = new Set(styles.map((one) => one.sha256));
      for (const file of after) if (sums.has(file.sha256)) expect(file.on).toBe(on);
      expect(after.length).toBe(before.length);
      expect(planSwitching(styles, after, on).some(changes)).toBe(false);
      expect(sorted(carryOut(after, planUndo(steps)))).toEqual(sorted(before));
    }),
  );
});
