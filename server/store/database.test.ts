// What lies where the library should be, and is none that this program can go on with: said, and left as it was.
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, expect, test } from "@jest/globals";
import Database from "better-sqlite3";
import { ProblemError } from "../../core/problem.ts";
import { openDatabase } from "./database.ts";

let folder = "";
let path = "";
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "buvano-database-"));
  path = join(folder, "library.db");
});
afterEach(() => rmSync(folder, { recursive: true }));

/** The problem that opening comes to; the file is as it was before. */
function refused(): { code: string; next: string } {
  const before = readFileSync(path);
  try {
    openDatabase(path).close();
  } catch (error) {
    expect(error).toBeInstanceOf(ProblemError);
    expect(readFileSync(path).equals(before)).toBe(true);
    const { code, message, next } = (error as ProblemError).problem;
    expect(message).toContain(path);
    return { code, next };
  }
  return { code: "opened", next: "" };
}
const alter = (work: (db: InstanceType<typeof Database>) => void) => {
  const db = new Database(path);
  work(db);
  db.close();
};

test("a library of this program's is opened again and again", () => {
  openDatabase(path).close();
  expect(refused().code).toBe("opened");
});
test("one that a newer Buvano wrote is not touched", () => {
  openDatabase(path).close();
  alter((db) => db.pragma(`user_version = ${(db.pragma("user_version", { simple: true }) as number) + 1}`));
  expect(refused()).toEqual({ code: "library-newer", next: expect.stringMatching(/^Start that one/) });
});
test("another program's database is not touched, whatever version it says", () => {
  alter((db) => db.exec("CREATE TABLE plants (name TEXT)"));
  expect(refused().code).toBe("library-foreign");
  alter((db) => db.pragma("user_version = 3"));
  expect(refused().code).toBe("library-foreign");
});
test("what is no database at all is not touched", () => {
  writeFileSync(path, "Sow the early peas. ".repeat(500));
  expect(refused().code).toBe("library-foreign");
});
test("a damaged one says how to come back to a whole one", () => {
  openDatabase(path).close();
  const bytes = readFileSync(path);
  // The tables' names stand after the first hundred bytes (SQLite file format, 1.3 "The Database Header").
  bytes.fill(0xff, 100, 4096);
  writeFileSync(path, bytes);
  expect(refused()).toEqual({ code: "library-damaged", next: expect.stringMatching(/backup/) });
});
