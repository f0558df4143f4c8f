import { describe, expect, test } from "@jest/globals";
import * as fc from "fast-check";
import { claimOf, fontEnding, placedFileName, type Folder, type PlacedFile, type Slot, type Target, type WantedStyle } from "./files.ts";
import {
  changes,
  passcodes,
  planLike,
  planPlacing,
  planRemoving,
  planSwitching,
  planFiles,
  planUndo,
  type Choices,
  type Item,
  type Step,
} from "./plan.ts";
import type { Choice } from "./situations.ts";

/** Fonts 0 to 29: ten names, each in three files: two versions, and the newer one in the other format. */
const claim = (n: number) =>
  claimOf({
    sha256: String(n),
    family: `Furrow ${n % 10}`,
    style: "Regular",
    container: "sfnt",
    codepoints: 200,
    glyphs: 210,
    axes: [],
    outlines: n >= 20 ? "CFF" : "TrueType",
    revision: n < 10 ? 1 : 2,
    version: n < 10 ? "Version 1.0" : "Version 2.0",
    advances: [500, 510, 520, 530, 540, 550],
    drawings: "",
  });
const style = (n: number, more: Partial<WantedStyle> = {}): WantedStyle => ({
  styleId: n,
  name: `Furrow ${n % 10}`,
  postScriptName: n % 2 ? `Furrow-${n >> 2}` : "",
  sha256: String(n),
  original: `furrow-${n}.ttf`,
  family: `Furrow ${n % 10}`,
  ending: ".ttf",
  bytes: 10,
  refused: false,
  claim: claim(n),
  ...more,
});
const file = (n: number, folder: Folder, fileName = `${n}.ttf`, on = true): PlacedFile => ({
  fileName,
  folder,
  sha256: String(n),
  on,
  bytes: 10,
  since: "",
  claims: [claim(n)],
});
const target: Target = {
  slot: "me",
  takes: ["sfnt", "collection"],
  prefers: "otf",
  freeBytes: null,
  programs: [
    { name: "Letter Desk", reads: ["me", "everyone"] },
    { name: "Title Desk", reads: ["everyone"] },
  ],
};
const stepsOf = (items: readonly Item[]): Step[] => items.flatMap((item) => item.steps);

/** A device as its files, and what carrying steps out does to it; `watch` sees it after each step. */
function carryOut(
  files: readonly PlacedFile[],
  steps: readonly Step[],
  watch: (files: readonly PlacedFile[]) => void = () => {},
): PlacedFile[] {
  const after = [...files];
  for (const step of steps) {
    const at = after.findIndex((one) => one.folder === step.slot && one.fileName.toLowerCase() === step.fileName.toLowerCase());
    if (changes(step) && step.op !== "copy" && at < 0) throw new Error(`${step.fileName} is not there.`);
    if (step.op === "copy" && at >= 0) throw new Error(`${step.fileName} would be overwritten.`);
    if (step.op === "copy") after.push(file(Number(step.sha256), step.slot, step.fileName));
    if (step.op === "remove") after.splice(at, 1);
    if (step.op === "switch-on" || step.op === "switch-off") after[at] = { ...after[at]!, on: step.op === "switch-on" };
    watch(after);
  }
  return after;
}
const sorted = (files: readonly PlacedFile[]): string[] =>
  files.map((one) => `${one.folder}/${one.fileName}=${one.sha256} ${one.on ? "on" : "off"}`).sort();

const font = fc.integer({ min: 0, max: 29 });
const slots = fc.constantFrom<Slot>("me", "everyone");
const wanted = fc
  .uniqueArray(fc.record({ n: font, refused: fc.boolean(), held: fc.constantFrom(undefined, "lapsed", "uncleared") }), {
    selector: ({ n }) => n,
    maxLength: 12,
  })
  .map((list) =>
    list.map(({ n, refused, held }) => style(n, { refused, held: held && { why: held as "lapsed", sentence: "It is held back." } })),
  );
const device = fc
  .uniqueArray(
    fc.record({
      n: font,
      folder: fc.constantFrom<Folder>("me", "everyone", "built-in", "own"),
      name: fc.constantFrom("Furrow-1.ttf", "furrow-2.ttf", "Furrow-3.ttf", "x.ttf"),
      on: fc.boolean(),
    }),
    { selector: ({ folder, name }) => folder + name.toLowerCase(), maxLength: 8 },
  )
  .map((list) => list.map(({ n, folder, name, on }) => file(n, folder, name, on)));
const choices = fc
  .dictionary(
    fc.tuple(slots, font).map(([slot, n]) => `${slot}/${n}`),
    fc.constantFrom<Choice>("place", "leave", "switch-on", "move", "both", "replace", "remove"),
  )
  .map((said): Choices => said);

describe("placing", () => {
  test("reaches what is wanted, whatever is chosen: what is not left out is there and on, and its like was not lost", () => {
    fc.assert(
      fc.property(wanted, device, slots, choices, (styles, before, slot, said) => {
        const items = planPlacing(styles, before, { ...target, slot }, said);
        const after = carryOut(before, stepsOf(items));
        for (const [i, item] of items.entries()) {
          expect(item.choices).toContain(item.chosen);
          if (item.chosen === "leave") continue;
          expect(after.some((one) => one.folder === slot && one.sha256 === styles[i]!.sha256 && one.on)).toBe(true);
        }
        // Only replacing and moving take anything off.
        const out = items.filter((item) => item.chosen === "replace" || item.chosen === "move").flatMap((item) => item.steps);
        const gone = new Set(out.filter((step) => step.op === "remove").map((step) => `${step.slot}/${step.fileName}`));
        for (const one of before)
          if (!gone.has(`${one.folder}/${one.fileName}`))
            expect(after.some((x) => x.fileName === one.fileName && x.folder === one.folder)).toBe(true);
      }),
    );
  });
  test("done twice changes nothing", () => {
    fc.assert(
      fc.property(wanted, device, slots, (styles, before, slot) => {
        const after = carryOut(before, stepsOf(planPlacing(styles, before, { ...target, slot })));
        expect(stepsOf(planPlacing(styles, after, { ...target, slot })).filter(changes)).toEqual([]);
      }),
      { numRuns: 300 },
    );
  });
  test("never leaves a style missing that was there and wanted, at no step", () => {
    fc.assert(
      fc.property(wanted, device, slots, choices, (styles, before, slot, said) => {
        const names = new Set(styles.map((one) => one.claim.key));
        const on = (files: readonly PlacedFile[]) => new Set(files.filter((one) => one.on).flatMap((one) => one.claims.map((c) => c.key)));
        const there = [...on(before)].filter((key) => names.has(key));
        carryOut(before, stepsOf(planPlacing(styles, before, { ...target, slot }, said)), (now) => {
          for (const key of there) expect(on(now).has(key)).toBe(true);
        });
      }),
    );
  });
  test("and every other plan is restored by its undo", () => {
    fc.assert(
      fc.property(wanted, device, slots, choices, fc.boolean(), (styles, before, slot, said, on) => {
        const there = styles.map((one, i) => ({ style: one, slot: i % 2 ? ("me" as const) : slot, on: i % 3 > 0 }));
        for (const items of [
          planPlacing(styles, before, { ...target, slot }, said),
          planRemoving(styles, before),
          planSwitching(styles, before, on),
          planLike(there, before, target, {
            ...said,
            ...Object.fromEntries(before.map((one) => [`${one.folder}/${one.fileName}`, "remove" as const])),
          }),
          planFiles(
            before.filter((one) => one.folder === "me"),
            on ? "remove" : "switch-off",
            "Tidied.",
          ),
        ]) {
          const steps = stepsOf(items);
          expect(sorted(carryOut(carryOut(before, steps), planUndo(steps)))).toEqual(sorted(before));
        }
      }),
    );
  });

  const meets = (styles: WantedStyle[], there: PlacedFile[], more: Partial<Target> = {}) =>
    planPlacing(styles, there, { ...target, ...more }).map((item) => [item.situation, ...item.choices]);
  test.each<[string, WantedStyle[], PlacedFile[], Partial<Target>, (readonly string[])[]]>([
    ["nothing of it is there", [style(1)], [], {}, [["free", "place"]]],
    ["the same file is there", [style(1)], [file(1, "me")], {}, [["there", "keep"]]],
    ["it is there, turned off", [style(1)], [file(1, "me", "a.ttf", false)], {}, [["there-off", "switch-on", "leave"]]],
    ["it is in the other folder", [style(1)], [file(1, "everyone")], {}, [["elsewhere", "leave", "move", "both"]]],
    [
      "it is in the other folder, which a program does not read",
      [style(1)],
      [file(1, "me")],
      { slot: "everyone" },
      [["elsewhere", "move", "leave", "both"]],
    ],
    ["it came with the device", [style(1)], [file(1, "built-in")], {}, [["elsewhere", "leave", "both"]]],
    ["an older version is there", [style(11)], [file(1, "me")], {}, [["older-there", "replace", "leave", "both"]]],
    ["a newer version is there", [style(1)], [file(11, "me")], {}, [["newer-there", "leave", "replace", "both"]]],
    ["the other format is there", [style(21)], [file(11, "me")], {}, [["twin-there", "leave", "replace", "both"]]],
    [
      "another font goes by its name",
      [style(11, { claim: { ...claim(11), advances: [1, 2, 3, 4, 5, 6] } })],
      [file(1, "me")],
      {},
      [["same-names", "replace", "leave", "both"]],
    ],
    [
      "a font of the device goes by its name",
      [style(11, { claim: { ...claim(11), advances: [1, 2, 3, 4, 5, 6] } })],
      [file(1, "built-in")],
      {},
      [["same-names", "leave", "both"]],
    ],
    ["it is damaged", [style(1, { refused: true })], [], {}, [["damaged", "leave", "place"]]],
    ["its licence has ended", [style(1, { held: { why: "lapsed", sentence: "Over." } })], [], {}, [["lapsed", "leave", "place"]]],
    ["it is not cleared", [style(1, { held: { why: "uncleared", sentence: "No." } })], [], {}, [["uncleared", "leave", "place"]]],
    ["it is a web file", [style(1, { claim: { ...claim(1), container: "woff2" } })], [], {}, [["format", "leave"]]],
    [
      "both formats of a newer version are wanted",
      [style(11), style(21)],
      [file(1, "me")],
      {},
      [
        ["also-wanted", "leave", "replace", "both"],
        ["older-there", "replace", "leave", "both"],
      ],
    ],
    [
      "two drawings go by one name",
      [style(11), style(12, { claim: { ...claim(11), sha256: "12", advances: [1, 2, 3, 4, 5, 6] } })],
      [],
      {},
      [
        ["names-clash", "place", "leave"],
        ["names-clash", "place", "leave"],
      ],
    ],
    [
      "both formats are wanted",
      [style(11), style(21)],
      [],
      {},
      [
        ["also-wanted", "leave", "place"],
        ["free", "place"],
      ],
    ],
    [
      "two versions are wanted",
      [style(1), style(11)],
      [],
      {},
      [
        ["also-wanted", "leave", "place"],
        ["free", "place"],
      ],
    ],
    [
      "there is room for one",
      [style(1), style(2)],
      [],
      { freeBytes: 15 },
      [
        ["free", "place"],
        ["space", "leave", "place"],
      ],
    ],
  ])("when %s, recommends and offers", (_what, styles, there, more, expected) => {
    expect(meets(styles, there, more)).toEqual(expected);
  });
  test("a replacement goes in before the old one goes out, under a free name", () => {
    const [item] = planPlacing([style(11)], [file(1, "me", placedFileName(style(11)))], target);
    expect(item!.steps.map((step) => [step.op, step.fileName])).toEqual([
      ["copy", "Furrow-2-2.ttf"],
      ["remove", "Furrow-2.ttf"],
    ]);
  });
  test("a file's ending follows from what it is, not from what it was called", () => {
    const ending = (container: string, outlines: string) => fontEnding({ container, outlines });
    expect([ending("sfnt", "TrueType"), ending("sfnt", "CFF"), ending("sfnt", "CFF2")]).toEqual([".ttf", ".otf", ".otf"]);
    expect([ending("collection", "TrueType"), ending("collection", "CFF"), ending("woff2", "CFF")]).toEqual([".ttc", ".otc", ".woff2"]);
  });
  test("file names are plain, and never empty", () => {
    expect(placedFileName({ postScriptName: "Furrow-Bold", name: "", ending: ".otf" })).toBe("Furrow-Bold.otf");
    expect(placedFileName({ postScriptName: "CON", name: "", ending: ".ttf" })).toBe("font-CON.ttf");
    expect(placedFileName({ postScriptName: "../x", name: "", ending: ".ttf" })).toBe("x.ttf");
    expect(placedFileName({ postScriptName: "", name: "שביל", ending: ".ttf" })).toBe("font.ttf");
  });
});

test("removing takes every placed copy of what is named and nothing else", () => {
  fc.assert(
    fc.property(wanted, device, (styles, before) => {
      const named = new Set(styles.map((one) => one.sha256));
      const stays = (one: PlacedFile) => !named.has(one.sha256) || one.folder === "built-in" || one.folder === "own";
      expect(sorted(carryOut(before, stepsOf(planRemoving(styles, before))))).toEqual(sorted(before.filter(stays)));
    }),
  );
});
test("switching reaches what is wanted, moves no file, and twice changes nothing", () => {
  fc.assert(
    fc.property(wanted, device, fc.boolean(), (styles, before, on) => {
      const after = carryOut(before, stepsOf(planSwitching(styles, before, on)));
      const hashes = new Set(styles.map((one) => one.sha256));
      for (const one of after) if (hashes.has(one.sha256) && (one.folder === "me" || one.folder === "everyone")) expect(one.on).toBe(on);
      expect(after.length).toBe(before.length);
      expect(stepsOf(planSwitching(styles, after, on)).some(changes)).toBe(false);
    }),
  );
});
test("making a device like another: what is on there is here, what is off there or only here is left alone", () => {
  const there = [
    { style: style(1), slot: "me" as const, on: true },
    { style: style(12), slot: "everyone" as const, on: true },
    { style: style(3), slot: "me" as const, on: false },
  ];
  const before = [file(2, "everyone"), file(4, "me")];
  const items = planLike(there, before, target);
  expect(items.map((item) => [item.situation, item.chosen])).toEqual([
    ["free", "place"],
    ["off-there", "leave"],
    ["older-there", "replace"],
    ["only-here", "leave"],
  ]);
  expect(sorted(carryOut(before, stepsOf(items)))).toEqual(["everyone/Furrow-2.ttf=12 on", "me/4.ttf=4 on", "me/Furrow-0.ttf=1 on"]);
  const exact = planLike(there, before, target, { "me/4.ttf": "remove" });
  expect(sorted(carryOut(before, stepsOf(exact)))).not.toContain("me/4.ttf=4 on");
});
test("passcodes are counted once for folders together, and once a profile", () => {
  const steps = stepsOf(planPlacing([style(1), style(2), style(3)], [], { ...target, slot: "everyone" }));
  expect(passcodes(steps, ["everyone"], () => "")).toEqual({ asked: 1, fontByFont: 3 });
  expect(passcodes(steps, [], () => "")).toEqual({ asked: 0, fontByFont: 0 });
  const profile = steps.map((step) => ({ ...step, slot: "profile" as const }));
  expect(passcodes(profile, ["profile"], (step) => (step.sha256 === "1" ? "a" : "b"))).toEqual({ asked: 2, fontByFont: 3 });
});
