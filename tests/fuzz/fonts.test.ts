// Thousands of damaged fonts: none crashes or hangs the reader, and what ots-sanitize refuses is never called sound.
import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, expect, test } from "@jest/globals";
import * as fc from "fast-check";
import { inspectFont } from "../../core/inspect.ts";
import { loadWoff2 } from "../../core/sfnt/woff2.ts";
import { effort, within } from "../hostile/effort.ts";
import { amount, runSeed } from "../amount.ts";

const dir = mkdtempSync(join(tmpdir(), "buvano-fuzz-"));
afterAll(() => rmSync(dir, { recursive: true }));

const packed = join(process.cwd(), "node_modules", "@fontsource", "petrona", "files");
const whole = [
  "/usr/share/fonts/opentype/cabin/Cabin-Regular.otf",
  "/usr/share/fonts/truetype/culmus/ShofarRegular.ttf",
  "/usr/share/fonts/opentype/lobster/lobster.otf",
  "/usr/share/fonts/truetype/fork-awesome/forkawesome-webfont.ttf",
  join(packed, "petrona-latin-400-normal.woff"),
  join(packed, "petrona-latin-400-normal.woff2"),
].flatMap((path) => {
  try {
    return [Uint8Array.from(readFileSync(path))];
  } catch {
    return [];
  }
});
test("there are whole fonts to damage", () => expect(whole.length).toBeGreaterThanOrEqual(5));

const seed = runSeed();

/** A cut, and up to eight bytes set, half of them in the first 2 kB where the directories are. */
const damage = fc.record({
  font: fc.nat(whole.length - 1),
  cut: fc.option(fc.double({ min: 0, max: 1, noNaN: true }), { freq: 3 }),
  bytes: fc.array(fc.record({ at: fc.double({ min: 0, max: 1, noNaN: true }), near: fc.boolean(), value: fc.nat(255) }), { maxLength: 8 }),
});
function damaged({
  font,
  cut,
  bytes,
}: {
  font: number;
  cut: number | null;
  bytes: { at: number; near: boolean; value: number }[];
}): Uint8Array {
  const copy = Uint8Array.from(whole[font]!);
  for (const { at, near, value } of bytes) copy[Math.floor(at * (near ? 2000 : copy.length - 1))] = value;
  return cut === null ? copy : copy.subarray(0, Math.floor(copy.length * cut));
}

test("no crash, none takes two seconds of computing", async () => {
  const unpackWoff2 = await loadWoff2();
  let slowest = 0;
  fc.assert(
    fc.property(damage, (how) => {
      const bytes = damaged(how);
      const spent = effort();
      const result = inspectFont(bytes, "damaged", unpackWoff2);
      slowest = Math.max(slowest, spent());
      if (!result.ok) expect(result.problem.message).toMatch(/\.$/);
    }),
    { numRuns: amount(3000), seed },
  );
  expect([slowest, within(slowest, 2000)]).toEqual([slowest, true]);
}, 180_000);

test("what ots-sanitize refuses is never sound", () => {
  const path = join(dir, "damaged");
  let refused = 0;
  fc.assert(
    fc.property(
      damage.filter(({ font }) => font < 4),
      (how) => {
        const bytes = damaged(how);
        writeFileSync(path, bytes);
        if (spawnSync("ots-sanitize", [path, "/dev/null"], { stdio: "ignore" }).status === 0) return;
        refused++;
        const result = inspectFont(bytes, "damaged");
        if (result.ok) expect(result.value.map((face) => face.verdict)).not.toContain("sound");
      },
    ),
    { numRuns: amount(600), seed },
  );
  expect(refused).toBeGreaterThan(50);
}, 180_000);
