// Facts on their way into the database: what cannot be stored fails for whoever brought it, and for nobody else.
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, expect, test } from "@jest/globals";
import { inspectFont } from "../../../core/inspect.ts";
import { builtInFont } from "../../../tests/api/trial.ts";
import { openDatabase } from "../../store/database.ts";
import { faceFacts, type FaceFacts } from "../../store/families/faces.ts";
import { LibraryStore } from "../../store/families/families.ts";
import { FactWriter } from "./writer.ts";

const dir = mkdtempSync(join(tmpdir(), "buvano-writer-"));
const db = openDatabase(join(dir, "library.db"));
afterAll(() => {
  db.close();
  rmSync(dir, { recursive: true });
});

const inspected = inspectFont(readFileSync(builtInFont("WrenSmall-Regular.ttf")), "WrenSmall-Regular");
if (!inspected.ok) throw new Error(inspected.problem.message);
const [record] = inspected.value;
const named = (name: string): string => Buffer.from(name).toString("hex").padEnd(64, "0");
const facts = (name: string): FaceFacts => faceFacts(named(name), 10, record!);
/** The database takes no face without a name. */
const broken = (name: string): FaceFacts => {
  const good = facts(name);
  return { ...good, columns: { ...good.columns, family: null as never } };
};

test("one that cannot be stored takes along what its own bringer put, and others' faces are all there", async () => {
  const library = new LibraryStore(db);
  const writer = new FactWriter({ db, library });
  const [first, faulty, last] = [writer.begin(), writer.begin(), writer.begin()];
  const many = (who: string): FaceFacts[] => Array.from({ length: 30 }, (_, i) => facts(`${who}${i}`));
  first.put(many("a"));
  faulty.put([facts("b0"), broken("b1"), facts("b2")]);
  last.put(many("c"));
  const ends = await Promise.allSettled([first.stored(), faulty.stored(), last.stored()]);
  expect(ends.map(({ status }) => status)).toEqual(["fulfilled", "rejected", "fulfilled"]);
  const there = (name: string) => library.record(named(name), 0) !== undefined;
  expect(["a", "c"].flatMap((who) => many(who).map((_, i) => there(`${who}${i}`))).every(Boolean)).toBe(true);
  expect(there("b1")).toBe(false);
});

test("a face is stored with its names and its characters", () => {
  const library = new LibraryStore(db);
  library.putFaces([facts("d")]);
  expect(library.record(named("d"), 0)).toEqual(record);
  expect(library.rangesOf(named("d"), 0)).toEqual(record!.ranges);
  const names = db.prepare("SELECT plain FROM face_names WHERE sha256 = ? ORDER BY 1").pluck().all(named("d"));
  expect(names).toEqual(expect.arrayContaining([expect.stringContaining("wren")]));
});
