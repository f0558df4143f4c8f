// A command's own folder: gone when it ends by a signal; what a killed one left is swept by the next, and that of a running one is not.
import { spawn } from "node:child_process";
import { existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, expect, test } from "@jest/globals";
import { zipSync } from "fflate";

const cli = join(process.cwd(), "build", "node", "cli.mjs");
let temporary: string;
let archive: string;
beforeEach(() => {
  temporary = mkdtempSync(join(tmpdir(), "buvano-own-"));
  archive = join(temporary, "many.zip");
  // Enough to be at it when the signal comes.
  const text = new TextEncoder().encode("You may use this font for whatever you like, at home and at work. ".repeat(3000));
  writeFileSync(archive, zipSync(Object.fromEntries(Array.from({ length: 60 }, (_, i) => [`${i}.txt`, text])), { level: 0 }));
});
afterEach(() => rmSync(temporary, { recursive: true }));

const begin = () => spawn(process.execPath, [cli, "clear", archive], { env: { ...process.env, TMPDIR: temporary }, stdio: "ignore" });
const folders = () => readdirSync(temporary).filter((name) => name.startsWith("buvano-cli-"));
const endOf = (child: ReturnType<typeof begin>) =>
  new Promise<[number | null, string | null]>((resolve) => child.on("exit", (...how) => resolve(how)));
async function working(): Promise<void> {
  for (let i = 0; folders().length === 0 && i < 1000; i++) await new Promise((resolve) => setTimeout(resolve, 10));
  expect(folders()).toHaveLength(1);
}

test("ended by a signal, it leaves nothing", async () => {
  const child = begin();
  const ended = endOf(child);
  await working();
  child.kill("SIGTERM");
  expect([await ended, folders()]).toEqual([[143, null], []]);
});
test("killed, it leaves its folder, which the next one sweeps; that of one that runs stays", async () => {
  const child = begin();
  const ended = endOf(child);
  await working();
  child.kill("SIGKILL");
  await ended;
  expect(folders()).toHaveLength(1);
  const running = join(temporary, `buvano-cli-${process.pid}-x`);
  mkdirSync(running);
  expect(await endOf(begin())).toEqual([expect.any(Number), null]);
  expect([folders(), existsSync(running)]).toEqual([[`buvano-cli-${process.pid}-x`], true]);
});
