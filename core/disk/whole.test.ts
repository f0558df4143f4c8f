// A file is whole or not there.
import { mkdtemp, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fillWhole, isUnfinished, writeWhole } from "./whole.ts";

let dir: string;
beforeEach(async () => {
  dir = await mkdtemp(join(tmpdir(), "whole-"));
});
afterEach(() => rm(dir, { recursive: true }));

test("folders are made on the way, an older file is replaced, and nothing else stays behind", async () => {
  const target = join(dir, "a", "b.txt");
  await writeWhole(target, Buffer.from("first"));
  await writeWhole(target, Buffer.from("second"));
  expect(await readFile(target, "utf8")).toBe("second");
  expect(await readdir(join(dir, "a"))).toEqual(["b.txt"]);
});

test("what fails half-way leaves the older file and no part", async () => {
  const target = join(dir, "b.txt");
  await writeWhole(target, Buffer.from("older"));
  let meanwhile: string[] = [];
  const failing = fillWhole(target, async (path) => {
    await writeFile(path, "half");
    meanwhile = await readdir(dir);
    throw new Error("no room");
  });
  await expect(failing).rejects.toThrow("no room");
  expect(meanwhile.filter((name) => isUnfinished(name))).toHaveLength(1);
  expect(await readdir(dir)).toEqual(["b.txt"]);
  expect(await readFile(target, "utf8")).toBe("older");
});

test("only our own unfinished names are known as such", () => {
  expect(isUnfinished("/fonts/.buvano-0f8fad5b-d9cb-469f-a165-70867728950e.part")).toBe(true);
  expect(isUnfinished("/fonts/.0f8fad5b-d9cb-469f-a165-70867728950e.part")).toBe(false);
  expect(isUnfinished("/fonts/Somebody.part")).toBe(false);
  expect(isUnfinished("/fonts/.part")).toBe(false);
});
