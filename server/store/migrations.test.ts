// A library written by an older Buvano is brought up to date with everything in it; one written by a newer one is left alone.
import { WHOLE_SHELF } from "./families/shelf-list.ts";
import { mkdirSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { createRequire } from "node:module";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gunzipSync } from "node:zlib";
import { afterAll, expect, test } from "@jest/globals";
import Database from "better-sqlite3";
import { textsToKnow } from "../../core/clearance/licences.ts";
import { readFont, readPaper } from "../../core/clearance/read.ts";
import { LicenceRecogniser } from "../../core/clearance/spdx.ts";
import type { StatedLicence } from "../../core/inspect.ts";
import { makeParts, thisMachine } from "../parts.ts";
import { renewalOf } from "../../tests/api/views.ts";
import { ClearanceStore } from "./clearance/clearance.ts";
import { JobStore } from "./jobs/jobs.ts";
import { openDatabase } from "./database.ts";
import { LibraryStore } from "./families/families.ts";
import { ParcelStore } from "./parcels/parcels.ts";
import { ProgramStore } from "./devices/programs.ts";
import { SettingsStore } from "./settings/settings.ts";
import { SightingStore } from "./sightings/sightings.ts";

const dir = mkdtempSync(join(tmpdir(), "buvano-migrations-"));
afterAll(() => rmSync(dir, { recursive: true }));
const migration = (name: string): string => readFileSync(join(process.cwd(), "server", "store", "migrations", name), "utf8");

/** A library as the first two versions of the schema hold it. */
function oldLibrary(path: string): void {
  const db = new Database(path);
  db.exec(migration("001-first.sql"));
  db.exec(migration("002-settings.sql"));
  db.pragma("user_version = 2");
  db.exec(`
    INSERT INTO parcels (id, name, bytes, state, arrived_at) VALUES (1, 'furrow.zip', 10, 'ready', '2026-01-01T00:00:00.000Z');
    INSERT INTO parcel_files (parcel_id, name, stored_as, bytes) VALUES (1, 'furrow.zip', 'a', 10);
    INSERT INTO parcel_entries (parcel_id, path, kind, reason, bytes, sha256) VALUES (1, 'a.ttf', 'font', 'x', 5, 'aa'), (1, 'a.txt', 'paper', 'x', 5, 'bb');
    INSERT INTO faces (sha256, face, family, style, legacy_family, legacy_style, full_name, postscript_name, weight, width, italic, codepoints, container, bytes, verdict, record)
      VALUES ('aa', 0, 'Furrow', 'Regular', 'Furrow', 'Regular', 'Furrow', 'Furrow-Regular', 400, 5, 0, 1, 'sfnt', 5, 'sound', '{"face":0,"family":"Furrow","style":"Regular","ranges":[65,65],"findings":[]}');
    INSERT INTO families (id, key, name) VALUES (1, 'furrow', 'Furrow');
    INSERT INTO styles (family_id, sha256, face, parcel_id, file_name, shelved_at) VALUES (1, 'aa', 0, 1, 'a.ttf', '2026-01-01T00:00:00.000Z');
    INSERT INTO devices (id, slug, name, kind) VALUES (1, 'laptop', 'Workshop laptop', 'laptop');
    INSERT INTO programs (id, device_id, slug, name, kind, traits) VALUES (1, 1, 'letter-desk', 'Letter Desk', 'office', '{"reads":["me"],"readsWhen":"start","lists":"four-style","fakesStyles":true}');
    INSERT INTO sightings (id, style_id, program_id, result, instead, sentence, file_name, file_sha256, fonts, at)
      VALUES (1, 1, 1, 'seen', '[]', 'The export embeds Furrow.', 'a.pdf', 'cc', '[]', '2026-01-02T00:00:00.000Z');
    INSERT INTO settings (key, value) VALUES ('twinFormat', '"ttf"');
  `);
  db.close();
}

test("an older library keeps parcels, shelf and choices, and gains what is new", () => {
  const path = join(dir, "old.db");
  oldLibrary(path);
  const db = openDatabase(path);
  expect(db.pragma("user_version", { simple: true })).toBe(23);
  const parcels = new ParcelStore(db);
  expect(parcels.all()).toMatchObject([{ name: "furrow.zip", cleared_at: null, removed_at: null }]);
  expect(parcels.papers(1)).toEqual([{ path: "a.txt", sha256: "bb" }]);
  expect(parcels.fontPaths(1)).toEqual([{ parcelId: 1, paths: ["a.ttf"] }]);
  const library = new LibraryStore(db);
  expect(library.family(1)).toEqual({ id: 1, name: "Furrow", pinned: false });
  // What older readers did not look for stands at its neutral value, and the file is known to want reading again.
  expect(library.stylesOf(1)[0]!.record).toMatchObject({ family: "Furrow", capitals: "none", otherNames: [], advances: [] });
  expect(library.outdatedFiles(10)).toEqual([{ sha256: "aa", bytes: 5, name: "Furrow" }]);
  // What was seen stays seen, and programs described before take and list what they did.
  const [sighting] = new SightingStore(db).ofCell(1, 1);
  expect(sighting).toMatchObject({ result: "seen", means: "file", who: "", sentence: "The export embeds Furrow.", kept: false, pages: [] });
  // A sighting that is taken back counts no more, and what shows it is renewed.
  const sightings = new SightingStore(db);
  db.exec("DELETE FROM stale_families");
  sightings.takeBack(1, "2026-01-03T00:00:00.000Z");
  expect([sightings.ofCell(1, 1), sightings.latestOf(1).size, sightings.takenBack(1)]).toEqual([[], 0, true]);
  expect(db.prepare("SELECT family_id, parts FROM stale_families").all()).toEqual([{ family_id: 1, parts: 4 }]);
  sightings.takeBack(1, null);
  expect(sightings.latestOf(1).get(1)?.result).toBe("seen");
  const { traits, own } = new ProgramStore(db).get(1)!;
  expect([own, traits.lists, traits.formats, traits.otherScripts, traits.keeps]).toEqual([
    false,
    "four-style",
    ["ttf", "otf"],
    "among",
    true,
  ]);
  expect(new SettingsStore(db).get()).toMatchObject({ twinFormat: "ttf", watchedFolder: null, limits: { depth: 3 } });
  expect([new ClearanceStore(db).licences(1), new JobStore(db).all()]).toEqual([[], []]);
  db.close();
  // Opened again, nothing is done twice.
  openDatabase(path).close();
});

test("a library of a newer Buvano is refused, and not touched", () => {
  const path = join(dir, "new.db");
  const db = new Database(path);
  db.pragma("user_version = 99");
  db.close();
  const before = readFileSync(path);
  expect(() => openDatabase(path)).toThrow("written by a newer Buvano");
  expect(readFileSync(path).equals(before)).toBe(true);
});

test("a library names itself once and for all", () => {
  const path = join(dir, "id.db");
  const db = openDatabase(path);
  const id = new SettingsStore(db).libraryId();
  expect([id, new SettingsStore(db).libraryId()]).toEqual([expect.stringMatching(/^[0-9a-f-]{36}$/), id]);
  // It is no choice of anybody's.
  expect(new SettingsStore(db).get()).not.toHaveProperty("libraryId");
  db.close();
  const again = openDatabase(path);
  expect(new SettingsStore(again).libraryId()).toBe(id);
  again.close();
});

test("of a family's licences and corrections those count that stand", () => {
  const db = openDatabase(join(dir, "clearance.db"));
  db.exec("INSERT INTO families (id, key, name) VALUES (1, 'furrow', 'Furrow'), (2, 'meadow', 'Meadow')");
  const store = new ClearanceStore(db);
  const licence = {
    kind: "commercial" as const,
    answers: { sold: "yes" as const },
    seats: null,
    boughtOn: null,
    priceMinor: null,
    currency: "",
    orderNumber: "",
    note: "",
    term: { days: 30 },
  };
  const first = store.addLicence(1, licence, null, "2026-01-01");
  store.addLicence(2, { ...licence, term: { until: "2026-12-31" } }, null, "2026-01-01");
  expect([1, 2].map((id) => [id, store.licences(id)[0]!.term, store.licences(id)[0]!.placedOn])).toEqual([
    [1, { days: 30 }, null],
    [2, { until: "2026-12-31" }, null],
  ]);
  store.beginTerms([1], "2026-02-01");
  store.beginTerms([1], "2026-03-01");
  expect(store.licence(first)!.placedOn).toBe("2026-02-01");
  store.removeLicence(first, "2026-02-02");
  expect(store.licences(1)).toEqual([]);
  store.removeLicence(first, null);
  expect(store.licences(1)).toHaveLength(1);
  store.correct(1, "sold", "no", "a", "2026-01-01");
  store.correct(1, "sold", "yes", "b", "2026-01-02");
  store.correct(1, "web", "no", "c", "2026-01-03");
  store.correct(1, "web", null, "", "2026-01-04");
  expect(store.corrections(1)).toEqual([{ use: "sold", answer: "yes", note: "b", at: "2026-01-02" }]);
  db.close();
});

test("a job keeps its families when it is changed, forgets those that are gone, and comes back when its removal is undone", () => {
  const db = openDatabase(join(dir, "jobs.db"));
  db.exec("INSERT INTO families (id, key, name) VALUES (1, 'furrow', 'Furrow'), (2, 'meadow', 'Meadow')");
  const store = new JobStore(db);
  const job = { name: "Markers", uses: ["sold" as const], languages: ["en"], words: "Rye", familyIds: [2, 1, 99], deviceIds: [1] };
  const id = store.put(job, "2026-01-01");
  expect(store.get(id)).toEqual({ ...job, id, familyIds: [1, 2] });
  store.put({ ...job, name: "Labels", familyIds: [2] }, "2026-01-02", id);
  expect(store.all().map((one) => [one.id, one.name, one.familyIds])).toEqual([[id, "Labels", [2]]]);
  db.exec("DELETE FROM families WHERE id = 2");
  expect(store.get(id)!.familyIds).toEqual([]);
  store.remove(id, "2026-01-03");
  expect([store.get(id), store.all()]).toEqual([undefined, []]);
  store.remove(id, null);
  expect(store.get(id)!.name).toBe("Labels");
  db.close();
});

test("a whole library of the version before loses nothing, and its lists come out as that version showed them", async () => {
  const fixture = (name: string) => readFileSync(join(process.cwd(), "tests", "fixtures", "library-7", name));
  const dataDir = join(dir, "whole");
  mkdirSync(dataDir);
  const old = new Database(join(dataDir, "library.db"));
  old.pragma("foreign_keys = OFF");
  old.exec(gunzipSync(fixture("library.sql.gz")).toString());
  old.pragma("user_version = 7");
  const tables = old.prepare("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%'").pluck().all() as string[];
  const columns = new Map(
    tables.map((table) => [table, (old.pragma(`table_info(${table})`) as { name: string }[]).map((one) => one.name).join()]),
  );
  /** What is called otherwise since. */
  const renamed: Record<string, string> = { surprises: "external_changes" };
  const rows = (db: Database.Database, nameOf = (table: string) => table) =>
    Object.fromEntries(
      tables.map((table) => [table, db.prepare(`SELECT ${columns.get(table)} FROM ${nameOf(table)} ORDER BY 1, 2`).all()]),
    );
  const before = rows(old);
  old.close();

  const nowhere = { webDir: undefined, workerDir: "", builtInFonts: undefined };
  const parts = await makeParts({ dataDir, ...nowhere, now: () => new Date("2026-11-26T08:00:00Z"), ...thisMachine() });
  // Practice devices were there without being asked for; they stay.
  expect(rows(parts.db, (table) => renamed[table] ?? table)).toEqual({ ...before, settings: [{ key: "practice", value: "true" }] });

  // What the version before worked out of texts at each start is read once: here as its worker would.
  const known = new LicenceRecogniser(
    textsToKnow(createRequire(import.meta.url)("spdx-license-list/full") as Parameters<typeof textsToKnow>[0]),
  );
  for (const one of [...parts.readings.next(false, 500), ...parts.readings.next(true, 500)]) {
    const text = parts.readings.paperText(one.key)?.text ?? "";
    parts.readings.put(one.id, one.kind === "font" ? readFont(JSON.parse(one.source) as StatedLicence, known) : readPaper(text, known));
  }
  const { renewal } = renewalOf(parts);
  await renewal.settle();
  interface Shown {
    families: {
      name: string;
      trail: { key: string; words: string }[];
      at: string | null;
      styles: number;
      pinned: boolean;
      uses: [string, string][];
    }[];
    board: { rows: { name: string; cells: { programId: number; state: string }[] }[] };
    parcels: { name: string; styles: number; shelvedStyles: number; shelvableStyles: number; troubles: number }[];
  }
  const shown = JSON.parse(fixture("expected.json").toString()) as Shown;
  // What was seen is counted since.
  const uncounted = (one: { key: string; state: string; words: string }) =>
    one.key === "seen" && /^Seen in [1-9]/.test(one.words) ? { key: "seen", state: "done", words: "Seen" } : one;
  const all = parts.shelf.ids(WHOLE_SHELF, 0, 100).map((id) => parts.familyViews.family(id)!);
  expect(
    all.map((row) => [
      row.name,
      row.stuckAt,
      row.styles,
      row.pinned,
      row.trail.map(uncounted),
      row.clearance.uses.map((one) => [one.use, one.answer]),
    ]),
  ).toEqual(shown.families.map((row) => [row.name, row.at, row.styles, row.pinned, row.trail, row.uses]));
  for (const [i, row] of shown.board.rows.entries()) {
    const cells = new Map(parts.cellViews.familyCells(all[i]!.familyId).map((cell) => [cell.programId, cell.state]));
    expect([row.name, row.cells.map((cell) => cells.get(cell.programId) ?? "not-here")]).toEqual([
      row.name,
      row.cells.map((cell) => cell.state),
    ]);
  }
  expect(parts.parcelViews.parcels(undefined, 0, 100).rows).toMatchObject(
    shown.parcels.map(({ name, styles, shelvedStyles, shelvableStyles, troubles }) => ({
      name,
      styles,
      shelvedStyles,
      shelvableStyles,
      troubles,
    })),
  );
  parts.db.close();
}, 60_000);
