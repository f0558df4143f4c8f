// After any changes in any order, every row of every view is what making them from nothing computes.
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, expect, test } from "@jest/globals";
import fc from "fast-check";
import { USUAL_TRAITS, type ProgramKind } from "../../contract/programs.ts";
import { NOTHING_READ, type TextFacts } from "../../core/clearance/read.ts";
import { USES } from "../../core/clearance/uses.ts";
import { inspectFont, type Inspection } from "../../core/inspect.ts";
import { builtInFont } from "../../tests/api/trial.ts";
import { makeParts, thisMachine, type Parts } from "../parts.ts";
import type { Folder } from "../../contract/devices.ts";
import { amount } from "../../tests/amount.ts";
import { allViews, rebuilt, renewalOf } from "../../tests/api/views.ts";

const RUNS = 40;
const CHANGES = 60;
const seed = Number(process.env["VIEWS_SEED"] ?? 20261126);

let dir: string;
let parts: Parts;
let daysOn = 0;
beforeEach(async () => {
  daysOn = 0;
  dir = mkdtempSync(join(tmpdir(), "buvano-views-"));
  const now = () => new Date(Date.parse("2026-03-01T10:00:00Z") + daysOn * 86_400_000);
  parts = await makeParts({ dataDir: dir, webDir: undefined, workerDir: "", builtInFonts: undefined, now, ...thisMachine() });
});
afterEach(() => {
  parts.db.close();
  rmSync(dir, { recursive: true });
});

const [base] = (inspectFont(readFileSync(builtInFont("WrenSmall-Regular.ttf")), "Wren") as { ok: true; value: Inspection[] }).value as [
  Inspection,
];
const NAMES = ["Furrow", "Furrow Text", "Meadow", "Old Barn Serif", "Old Barn Sarif", "Seedbox"];
const STYLES = ["Regular", "Bold", "Italic"];
const FOLDERS: readonly Folder[] = ["me", "everyone", "built-in", "own"];

/** A face by its number: the same number is the same file. */
function face(n: number, reader = 0): { sha256: string; record: Inspection } {
  const family = NAMES[n % NAMES.length]!;
  const style = STYLES[Math.floor(n / NAMES.length) % STYLES.length]!;
  const record: Inspection = {
    ...base,
    family,
    style,
    fullName: `${family} ${style}`,
    legacyFamily: family,
    legacyStyle: style,
    postScriptName: `${family}-${style}`,
    weight: style === "Bold" ? 700 : 400,
    italic: style === "Italic",
    verdict: n % 7 === 0 ? "refused" : n % 5 === 0 ? "usable" : "sound",
    revision: 1 + (n % 3),
    version: `Version ${1 + (n % 3)}`,
    outlines: n % 2 ? "CFF" : "TrueType",
    ranges: n % 4 === 0 ? [0x5d0, 0x5ea] : base.ranges,
    recordVersion: base.recordVersion + reader,
    stated: { ...base.stated, licence: `Licence ${n % 3}` },
  };
  return { sha256: String(n).padStart(64, "0"), record };
}
const paper = (n: number): string => `p${n}`.padStart(64, "f");
const saying = (use: (typeof USES)[number], answer: "yes" | "no" | "credit"): TextFacts => ({
  ...NOTHING_READ,
  statements: [{ answers: { [use]: answer }, sentence: `It says ${answer}.`, place: { kind: "paper", line: 1 } }],
});

const number = fc.nat(17);
const small = fc.nat(5);
/** Each change is a plain value, so that a failing run prints as it is. */
const often = <T>(arbitrary: fc.Arbitrary<T>) => ({ arbitrary, weight: 6 });
const change = fc.oneof(
  often(fc.record({ do: fc.constant("arrive" as const), n: number, paper: fc.nat(3), parcel: small })),
  often(fc.record({ do: fc.constant("shelve" as const), n: number, parcel: small })),
  fc.record({ do: fc.constant("remove" as const), family: small }),
  fc.record({ do: fc.constant("bring-back" as const), family: small }),
  fc.record({ do: fc.constant("tag" as const), family: small, tag: fc.constantFrom("Spring", "Sign"), on: fc.boolean() }),
  fc.record({ do: fc.constant("pin" as const), family: small, on: fc.boolean() }),
  fc.record({ do: fc.constant("join" as const), family: small, other: small }),
  fc.record({ do: fc.constant("part" as const), family: small }),
  fc.record({
    do: fc.constant("correct" as const),
    family: small,
    use: fc.constantFrom(...USES),
    answer: fc.constantFrom("yes", "no", null),
  }),
  fc.record({ do: fc.constant("leave-out" as const), paper: small, answer: fc.constantFrom("yes", "no", "credit"), out: fc.boolean() }),
  fc.record({ do: fc.constant("licence" as const), family: small, days: fc.constantFrom(2, 30, null), placed: fc.boolean() }),
  fc.record({ do: fc.constant("unlicence" as const), id: small, on: fc.boolean() }),
  fc.record({ do: fc.constant("job" as const), families: fc.array(small, { maxLength: 3 }), use: fc.constantFrom(...USES), id: fc.nat(2) }),
  fc.record({ do: fc.constant("unjob" as const), id: small, on: fc.boolean() }),
  often(
    fc.record({
      do: fc.constant("observe" as const),
      device: fc.nat(1),
      n: number,
      folder: fc.constantFrom(...FOLDERS),
      on: fc.boolean(),
      name: small,
    }),
  ),
  fc.record({ do: fc.constant("vanish" as const), device: fc.nat(1), name: small }),
  fc.record({
    do: fc.constant("program" as const),
    device: fc.nat(1),
    kind: fc.constantFrom(...(Object.keys(USUAL_TRAITS) as ProgramKind[])),
  }),
  fc.record({ do: fc.constant("unprogram" as const), id: small, on: fc.boolean() }),
  often(fc.record({ do: fc.constant("open" as const), id: small, updated: fc.boolean() })),
  fc.record({ do: fc.constant("see" as const), n: number, program: small, result: fc.constantFrom("seen", "swapped", "not-there") }),
  fc.record({
    do: fc.constant("read" as const),
    paper: fc.nat(3),
    use: fc.constantFrom(...USES),
    answer: fc.constantFrom("yes", "no", "credit"),
  }),
  fc.record({ do: fc.constant("read-font" as const), n: fc.nat(2), answer: fc.constantFrom("yes", "no", "credit") }),
  fc.record({ do: fc.constant("learn" as const), n: number }),
  fc.record({ do: fc.constant("twins" as const), format: fc.constantFrom("otf", "ttf") }),
  fc.record({ do: fc.constant("leave" as const), device: fc.nat(1), on: fc.boolean() }),
  fc.record({ do: fc.constant("day" as const), days: fc.nat(20) }),
);
type Change = typeof change extends fc.Arbitrary<infer C> ? C : never;

function apply(one: Change): void {
  const { library, parcels, clearance, jobs, observed, programs, sightings, readings, settings, db } = parts;
  const at = parts.now();
  const someFamily = (n: number) =>
    (db.prepare("SELECT id FROM families ORDER BY id LIMIT 1 OFFSET ?").pluck().get(n) as number | undefined) ?? -1;
  const exists = (table: string, id: number) => db.prepare(`SELECT 1 FROM ${table} WHERE id = ?`).get(id) !== undefined;
  switch (one.do) {
    case "arrive": {
      const { sha256, record } = face(one.n);
      while (!exists("parcels", one.parcel + 1)) parcels.add("a.zip", [], at);
      library.addFaces(sha256, 10, [record]);
      parcels.addEntry(one.parcel + 1, { path: `a/${one.n}.ttf`, kind: "font", reason: "", bytes: 10, sha256, problem: null });
      parcels.addEntry(one.parcel + 1, { path: "a/x.txt", kind: "paper", reason: "", bytes: 10, sha256: paper(one.paper), problem: null });
      return parcels.setState(one.parcel + 1, "ready");
    }
    case "shelve": {
      const { sha256, record } = face(one.n);
      if (exists("parcels", one.parcel + 1) && library.record(sha256, 0))
        library.shelve({ sha256, face: 0, family: record.family }, one.parcel + 1, `${one.n}.ttf`, at);
      return;
    }
    case "remove":
      return library.setRemoved(library.styleIdsOf([someFamily(one.family)]), at);
    case "bring-back": {
      const ids = db.prepare("SELECT id FROM shelved_styles WHERE family_id = ?").pluck().all(someFamily(one.family)) as number[];
      return library.setRemoved(ids, null);
    }
    case "tag":
      return void parts.tags.set(one.tag, [someFamily(one.family)], one.on);
    case "pin":
      return library.setPinned(someFamily(one.family), one.on);
    case "join": {
      const [family, other] = [someFamily(one.family), someFamily(one.other)];
      if (family !== other && family > 0 && other > 0) db.transaction(() => library.join(other, family))();
      return;
    }
    case "part": {
      const [spelling] = library.spellings(someFamily(one.family));
      if (spelling) db.transaction(() => library.part(spelling.key))();
      return;
    }
    case "correct":
      if (someFamily(one.family) > 0) clearance.correct(someFamily(one.family), one.use, one.answer, "", at);
      return;
    case "leave-out":
      clearance.leaveOut(paper(one.paper), `It says ${one.answer}.`, one.out, at);
      return;
    case "licence": {
      const kind = one.placed ? ("commercial" as const) : ("time-limited" as const);
      const request = { kind, answers: { sold: "yes" as const }, seats: null, boughtOn: null, priceMinor: null };
      const rest = { currency: "", orderNumber: "", note: "", term: one.days === null ? null : { days: one.days } };
      if (someFamily(one.family) > 0)
        clearance.addLicence(someFamily(one.family), { ...request, ...rest }, one.placed ? at.slice(0, 10) : null, at);
      return;
    }
    case "unlicence":
      return clearance.removeLicence(one.id + 1, one.on ? null : at);
    case "job": {
      const job = { name: `Job ${one.id}`, uses: [one.use], languages: [], words: "", deviceIds: [] };
      jobs.put({ ...job, familyIds: one.families.map(someFamily) }, at, exists("jobs", one.id + 1) ? one.id + 1 : undefined);
      return;
    }
    case "unjob":
      return jobs.remove(one.id + 1, one.on ? null : at);
    case "observe": {
      const fileName = one.folder === "own" ? `own-0/${one.name}.ttf` : `${one.name}.ttf`;
      const row = {
        folder: one.folder,
        fileName,
        sha256: face(one.n).sha256,
        on: one.on,
        visible: one.on,
        since: at,
        stamp: at,
        bytes: 10,
      };
      return observed.enter(one.device + 1, [], [row]);
    }
    case "vanish": {
      const there = observed.on(one.device + 1).filter((row) => row.fileName === `${one.name}.ttf`);
      return observed.enter(one.device + 1, there, []);
    }
    case "program": {
      const count = db.prepare("SELECT count(*) FROM programs").pluck().get() as number;
      if (count < 5) programs.put({ deviceId: one.device + 1, name: "P", kind: one.kind, traits: USUAL_TRAITS[one.kind] }, `own-${count}`);
      return;
    }
    case "unprogram":
      return programs.remove(one.id + 1, one.on ? null : at);
    case "open":
      return one.updated ? programs.setUpdated(one.id + 1, at) : programs.setOpened(one.id + 1, at);
    case "see": {
      const style = library.styleOfFace(face(one.n).sha256, 0);
      if (!style || !exists("programs", one.program + 1)) return;
      const rest = {
        means: "eye" as const,
        doubted: false,
        who: "",
        instead: [],
        sentence: "",
        fileName: "",
        fileSha256: "",
        madeBy: "",
        letters: 0,
        pages: [],
        fonts: [],
        at,
      };
      sightings.add({ styleId: style.id, programId: one.program + 1, result: one.result as "seen", ...rest });
      return;
    }
    case "read": {
      const id = db.prepare("SELECT id FROM readings WHERE key = ?").pluck().get(paper(one.paper)) as number | undefined;
      if (id !== undefined) readings.put(id, saying(one.use, one.answer as "yes"));
      return;
    }
    case "read-font": {
      const id = db.prepare("SELECT id FROM readings WHERE kind = 'font' ORDER BY id LIMIT 1 OFFSET ?").pluck().get(one.n) as
        number | undefined;
      const facts = saying("own", one.answer as "yes");
      if (id !== undefined)
        readings.put(id, { ...facts, statements: facts.statements.map((said) => ({ ...said, place: { kind: "name-field", id: 13 } })) });
      return;
    }
    case "learn": {
      // A newer reader finds that the font is another style.
      const { sha256, record } = face(one.n, 1);
      if (library.record(sha256, 0)) library.addFaces(sha256, 10, [{ ...record, style: "Black", weight: 900, verdict: "sound" }]);
      return;
    }
    case "twins":
      return settings.set({ twinFormat: one.format as "otf" });
    case "leave":
      return parts.devices.setRemoved(one.device + 1, one.on ? null : at);
    case "day":
      daysOn += one.days;
      return clearance.markTimed();
  }
}

test("any changes, in any order", async () => {
  const { renewal } = renewalOf(parts);
  const filled = new Set<string>();
  for (const slug of ["a", "b"]) parts.devices.ensureDevice(slug, slug, "laptop", "practice");
  await fc.assert(
    fc.asyncProperty(fc.array(change, { minLength: CHANGES, maxLength: CHANGES }), fc.nat(), async (changes, pause) => {
      for (const [i, one] of changes.entries()) {
        apply(one);
        // Sometimes views follow at once, sometimes after several changes, sometimes half-way.
        if ((i + pause) % 7 === 0) await renewal.settle();
        else if ((i + pause) % 3 === 0) {
          renewal.poke();
          await new Promise(setImmediate);
        }
      }
      await renewal.settle();
      const kept = allViews(parts);
      for (const [table, rows] of Object.entries(kept)) if (rows.length > 0) filled.add(table);
      expect(kept).toEqual(await rebuilt(parts, renewal));
    }),
    { numRuns: amount(RUNS), seed, endOnFailure: true },
  );
  // Every view had rows to be wrong in.
  expect([...filled].sort()).toEqual(Object.keys(allViews(parts)).sort());
}, 120_000);

test("a program that comes concerns what lies on its device, and nothing else; one that is given files by hand concerns all", async () => {
  const { renewal } = renewalOf(parts);
  for (const slug of ["a", "b"]) parts.devices.ensureDevice(slug, slug, "laptop", "practice");
  for (const n of [0, 4, 8]) {
    apply({ do: "arrive", n, paper: 0, parcel: 0 });
    apply({ do: "shelve", n, parcel: 0 });
  }
  apply({ do: "observe", device: 0, n: 0, folder: "me", on: true, name: 0 });
  await renewal.settle();
  const marked = () => parts.db.prepare("SELECT count(*) FROM stale_families").pluck().get();
  expect(parts.familyViews.familyCount()).toBe(3);
  apply({ do: "program", device: 0, kind: "office" });
  expect(marked()).toBe(1);
  await renewal.settle();
  apply({ do: "program", device: 1, kind: "office" });
  expect(marked()).toBe(0);
  const byHand = (Object.keys(USUAL_TRAITS) as ProgramKind[]).find((kind) => USUAL_TRAITS[kind].readsWhen === "by-hand")!;
  apply({ do: "program", device: 1, kind: byHand });
  expect(marked()).toBe(3);
  await renewal.settle();
  expect(allViews(parts)).toEqual(await rebuilt(parts, renewal));
});
