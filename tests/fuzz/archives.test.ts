// Thousands of damaged archives: none crashes, hangs, leaves anything behind, names a path outside, or eats memory.
import { execFileSync } from "node:child_process";
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, expect, test } from "@jest/globals";
import * as fc from "fast-check";
import { DEFAULT_LIMITS } from "../../core/archive/limits.ts";
import { unpackArchive } from "../../core/archive/unpack.ts";
import { ProblemError } from "../../core/problem.ts";
import { effort, within } from "../hostile/effort.ts";
import { amount, runSeed } from "../amount.ts";

const dir = mkdtempSync(join(tmpdir(), "buvano-fuzz-archives-"));
afterAll(() => rmSync(dir, { recursive: true }));

const src = join(dir, "src");
mkdirSync(join(src, "deep"), { recursive: true });
writeFileSync(join(src, "font.otf"), readFileSync("/usr/share/fonts/opentype/cabin/Cabin-Regular.otf").subarray(0, 20_000));
writeFileSync(join(src, "deep", "read me.txt"), "Free for any use.\n".repeat(200));
const made = (name: string, command: string, args: string[]): [string, Uint8Array] => {
  execFileSync(command, [...args, join(dir, name), "font.otf", "deep"], { cwd: src, stdio: "ignore" });
  return [name, Uint8Array.from(readFileSync(join(dir, name)))];
};
const quick = [made("a.zip", "zip", ["-qr"]), made("a.tar", "bsdtar", ["-cf"]), made("a.tar.gz", "bsdtar", ["-czf"])];
const slow = [made("a.7z", "7z", ["a"]), made("a.tar.xz", "bsdtar", ["-cJf"]), made("b.zip", "7z", ["a", "-tzip", "-mm=Deflate64"])];

const seed = runSeed();

const damage = (archives: number) =>
  fc.record({
    archive: fc.nat(archives - 1),
    cut: fc.option(fc.double({ min: 0, max: 1, noNaN: true }), { freq: 3 }),
    bytes: fc.array(
      fc.record({ at: fc.double({ min: 0, max: 1, noNaN: true }), where: fc.constantFrom("start", "end", "any"), value: fc.nat(255) }),
      { maxLength: 8 },
    ),
  });
type Damage = { archive: number; cut: number | null; bytes: { at: number; where: string; value: number }[] };

function damaged(whole: Uint8Array, { cut, bytes }: Damage): Uint8Array {
  const copy = Uint8Array.from(whole);
  for (const { at, where, value } of bytes) {
    const span = Math.min(400, copy.length - 1);
    const place = where === "start" ? at * span : where === "end" ? copy.length - 1 - at * span : at * (copy.length - 1);
    copy[Math.floor(place)] = value;
  }
  return cut === null ? copy : copy.subarray(0, Math.floor(copy.length * cut));
}

/** What one may cost at most, on the machine the bounds of hostile files were set on. */
const LONGEST_MS = 2000;
let slowest = 0;
async function attemptIt(name: string, bytes: Uint8Array): Promise<void> {
  const path = join(dir, `damaged-${name}`);
  const staging = join(dir, "staging");
  writeFileSync(path, bytes);
  const spent = effort();
  try {
    const entries = await unpackArchive(path, name, {
      limits: { ...DEFAULT_LIMITS, totalBytes: 64 * 1024 * 1024, entryBytes: 32 * 1024 * 1024 },
      staging,
      sink: async (_entry, content) => {
        for await (const chunk of content) void chunk;
        return { sha256: "" };
      },
    });
    for (const entry of entries) {
      if (entry.problem) expect(entry.problem.message).toMatch(/\.$/);
      // What has no problem is written below the parcel's folder, whatever its name was.
      else expect([entry.path, /^([/\\]|[a-zA-Z]:)|(^|\/)\.\.(\/|$)|[\u0000-\u001f]/.test(entry.path)]).toEqual([entry.path, false]);
    }
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
    expect(error.problem.message).toMatch(/\.$/);
  }
  slowest = Math.max(slowest, spent());
  expect(existsSync(staging) ? readdirSync(staging) : []).toEqual([]);
}

test("zip and tar, three thousand times: no memory is lost", async () => {
  let runs = 0;
  let settled = 0;
  const attempts = amount(3000);
  // By then the reader's code and its buffers are loaded; what grows from there on would go on growing.
  const warm = Math.ceil(attempts / 3);
  await fc.assert(
    fc.asyncProperty(damage(quick.length), async (how) => {
      const [name, whole] = quick[how.archive]!;
      await attemptIt(name, damaged(whole, how));
      if (++runs === warm) settled = process.memoryUsage().rss;
    }),
    { numRuns: attempts, seed },
  );
  expect(settled).toBeGreaterThan(0);
  expect(process.memoryUsage().rss - settled).toBeLessThan(200 * 1024 * 1024);
}, 240_000);

test("7z, xz and other methods", async () => {
  await fc.assert(
    fc.asyncProperty(damage(slow.length), async (how) => {
      const [name, whole] = slow[how.archive]!;
      await attemptIt(name, damaged(whole, how));
    }),
    { numRuns: amount(150), seed },
  );
}, 240_000);

test("none took two seconds of computing, and nothing lies beside what was there", () => {
  expect([slowest, within(slowest, LONGEST_MS)]).toEqual([slowest, true]);
  expect(readdirSync(dir).filter((name) => !/^(src|staging|damaged-|[ab]\.)/.test(name))).toEqual([]);
});
