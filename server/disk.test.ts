// A disk that is full and has room again, and a library another program holds: what was to be written is, once and in the end.
import { existsSync, mkdtempSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, expect, jest, test } from "@jest/globals";
import { DiskWatch } from "./disk.ts";
import { patiently } from "./patience.ts";

const fault = (code: string): Error => Object.assign(new Error(code), { code });
let dir: string;
let disk: DiskWatch;
beforeEach(() => {
  dir = mkdtempSync(join(tmpdir(), "buvano-disk-"));
  jest.useFakeTimers();
  disk = new DiskWatch(dir);
  disk.keepBallast();
});
afterEach(() => {
  disk.close();
  jest.useRealTimers();
  rmSync(dir, { recursive: true, force: true });
});

test("what is no fault of the disk is not taken for one", () => {
  expect(disk.report(new Error("out of nowhere"))).toBe(false);
  expect(disk.problem).toBeNull();
  expect(() => disk.attempt(() => JSON.parse("{"))).toThrow(SyntaxError);
});

test("a full disk is told once, what was to be written waits, and all is well after the next look", () => {
  const told: (string | null)[] = [];
  disk.onChange = () => told.push(disk.problem?.code ?? null);
  let full = true;
  let written = 0;
  const work = () => {
    if (full) throw fault("ENOSPC");
    written++;
  };
  disk.attempt(work);
  disk.attempt(work);
  // Tried once more in the room that is kept for that.
  expect([told, written, readdirSync(dir)]).toEqual([["disk-full"], 0, []]);
  jest.advanceTimersByTime(3000);
  expect([told, written]).toEqual([["disk-full"], 0]);
  full = false;
  jest.advanceTimersByTime(3000);
  // The same work waits once, however often it was asked for.
  expect([told, written, existsSync(join(dir, "room-to-open"))]).toEqual([["disk-full", null], 1, true]);
  jest.advanceTimersByTime(30_000);
  expect([told.length, written]).toEqual([2, 1]);
});

test("what fits into the room that was kept is done at once", () => {
  let tries = 0;
  disk.attempt(() => {
    if (++tries === 1) throw fault("ENOSPC");
  });
  expect([tries, disk.problem?.code, readdirSync(dir)]).toEqual([2, "disk-full", []]);
  jest.advanceTimersByTime(3000);
  expect([disk.problem, readdirSync(dir)]).toEqual([null, ["room-to-open"]]);
});

test("a library that is busy is tried again, so long and no longer; another fault at once", async () => {
  jest.useRealTimers();
  let tries = 0;
  const busyFor = (times: number) => () => {
    if (++tries <= times) throw fault("SQLITE_BUSY");
    return tries;
  };
  expect(await patiently(busyFor(2), { forMs: 5000, everyMs: 1 })).toBe(3);
  tries = 0;
  await expect(patiently(busyFor(1e9), { forMs: 20, everyMs: 1 })).rejects.toThrow("SQLITE_BUSY");
  expect(tries).toBeGreaterThan(1);
  tries = 0;
  await expect(
    patiently(() => {
      tries++;
      throw fault("ENOSPC");
    }),
  ).rejects.toThrow("ENOSPC");
  expect(tries).toBe(1);
});
