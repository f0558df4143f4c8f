// A family's trail: what was seen is counted, by program and by style.
import { expect, test } from "@jest/globals";
import { seenStation, whereStuck, type Standing } from "./trail.ts";

const standing = (styleId: number, programId: number, state: Standing["state"]): Standing => ({ styleId, programId, state });

test("one style seen speaks for itself alone", () => {
  const some = [standing(1, 1, "seen"), standing(2, 1, "due"), standing(1, 2, "reopen"), standing(2, 2, "reopen")];
  expect(seenStation(some)).toEqual({ key: "seen", state: "remark", words: "Seen in 1 of 2 programs, 1 of 2 styles" });
  expect(whereStuck([seenStation(some)])).toBeNull();
});
test("all styles seen everywhere they are is all there is to see", () => {
  expect(seenStation([standing(1, 1, "seen"), standing(2, 1, "seen")])).toEqual({
    key: "seen",
    state: "done",
    words: "Seen in 1 of 1 program",
  });
});
test("a style that is swapped holds the family up, whatever else was seen", () => {
  const some = [standing(1, 1, "seen"), standing(2, 1, "swapped"), standing(1, 2, "seen")];
  expect(seenStation(some)).toEqual({ key: "seen", state: "stuck", words: "Swapped in 1 of 2 programs, seen in 2" });
  expect(seenStation([standing(1, 3, "swapped")]).words).toBe("Swapped in 1 of 1 program");
});
test("what nobody looked for, or must be reopened first, waits", () => {
  expect(seenStation([standing(1, 1, "reopen"), standing(1, 2, "due")]).words).toBe("Reopen the program");
  expect(seenStation([standing(1, 1, "due")]).words).toBe("Not looked for yet");
  expect(seenStation([]).state).toBe("open");
});
