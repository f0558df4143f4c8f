// Backups: made while a library is used, read back, brought back elsewhere with every row, file and Seen; what is damaged or missing is said, and leaves
// nothing half-done.
import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  utimesSync,
  writeFileSync,
} from "node:fs";
import { execFileSync } from "node:child_process";
import { randomBytes } from "node:crypto";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, expect, test } from "@jest/globals";
import { zipSync } from "fflate";
import { BackupState } from "../../contract/backup.ts";
import { FamilyPage } from "../../contract/families.ts";
import { PlanView } from "../../contract/placing.ts";
import { Board } from "../../contract/sightings.ts";
import { diskFault } from "../../core/disk/faults.ts";
import { ProblemError } from "../../core/problem.ts";
import { backUp } from "../../server/backup/backup.ts";
import { restore } from "../../server/backup/restore.ts";
import { Trial } from "./trial.ts";

let trial: Trial;
let dir: string;
let place: string;
beforeEach(async () => {
  dir = mkdtempSync(join(tmpdir(), "buvano-backup-"));
  place = join(dir, "other disk");
  trial = new Trial();
  await trial.start();
});
afterEach(async () => {
  await trial.end();
  rmSync(dir, { recursive: true });
});
const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => "done",
    (error: unknown) => (error instanceof ProblemError ? error.problem.code : String(error)),
  );
const DAY = new Date("2026-03-01T10:00:00Z");
const later = (n: number) => new Date(DAY.getTime() + n * 1000);
const post = async (path: string, body: object = {}) => (await trial.api().post(`/api${path}`).send(body).expect(200)).body as unknown;

/** Trellis Fair on the shelf, placed and seen in Poster Desk. */
async function lived(): Promise<void> {
  const [familyId] = await trial.shelve(await trial.bring("trellis-fair.zip"));
  const plan = PlanView.parse(await post("/plans", { deviceId: 1, action: "place", familyIds: [familyId] }));
  await post(`/plans/${plan.id}/do`);
  await post("/practice/2/open");
  const [style] = trial.parts.library.stylesOf(familyId!);
  await post(`/cells/${style!.id}/2/look`, { saw: "there", who: "Mara" });
}
const board = async () =>
  Board.parse(await trial.json("/api/board")).rows.map(({ name, cells }) => [name, cells.map(({ state }) => state)]);
const families = async () => FamilyPage.parse(await trial.json("/api/families")).families.map(({ name }) => name);

test("a library comes back elsewhere as it was, with what was seen", async () => {
  await lived();
  const [seen, names] = [await board(), await families()];
  expect(JSON.stringify(seen)).toContain("seen");
  const made = await backUp(trial.dataDir, place, DAY);
  expect(made).toMatchObject({ name: "buvano-backup-2026-03-01T100000.zip", added: made.files });
  const back = join(dir, "new machine", "library");
  expect(await restore(place, back)).toMatchObject({ from: made.name, files: made.files });
  // Nothing of the old one is needed.
  await trial.restart(() => {
    rmSync(trial.dataDir, { recursive: true });
    cpSync(back, trial.dataDir, { recursive: true });
  });
  expect([await families(), await board()]).toEqual([names, seen]);
});

test("the next one holds only what is new, also while the library is written to", async () => {
  await lived();
  const first = await backUp(trial.dataDir, place, DAY);
  const bringing = trial.bring("garden-note.zip");
  const during = await backUp(trial.dataDir, place, later(1));
  await trial.shelve(await bringing);
  const last = await backUp(trial.dataDir, place, later(2));
  expect([during.added < first.added, last.added < first.added, last.files > first.files]).toEqual([true, true, true]);
  for (const [i, name] of [first.name, during.name, last.name].entries()) {
    const to = join(dir, `back ${i}`);
    expect((await restore(join(place, name), to)).from).toBe(name);
    expect(existsSync(join(to, "library.db"))).toBe(true);
  }
  // One that is made again at once has nothing to add, and a name of its own.
  const same = await backUp(trial.dataDir, place, later(2));
  expect([same.added, same.name]).toEqual([0, "buvano-backup-2026-03-01T100002-1.zip"]);
});

test("what is damaged, missing, foreign or in the way is said, and nothing is half-written", async () => {
  await lived();
  const first = await backUp(trial.dataDir, place, DAY);
  const second = await backUp(trial.dataDir, place, later(1));
  const to = join(dir, "back");
  const zip = (name: string) => join(place, name);
  const whole = readFileSync(zip(first.name));
  // A byte in the middle of what is packed.
  const damaged = Buffer.from(whole);
  damaged[Math.floor(whole.length / 2)]! ^= 0xff;
  writeFileSync(zip(first.name), damaged);
  expect(await codeOf(restore(place, to))).toBe("backup-damaged");
  writeFileSync(zip(first.name), whole.subarray(0, whole.length - 200));
  expect(await codeOf(restore(place, to))).toBe("backup-damaged");
  // Nothing is left to one that cannot be read: the next holds all of it.
  const third = await backUp(trial.dataDir, join(dir, "other disk"), later(2));
  expect(third.added).toBe(first.added);
  rmSync(zip(third.name));
  writeFileSync(zip("buvano-backup-2026-03-01T100009.zip"), zipSync({ "buvano-backup.json": new TextEncoder().encode("no manifest") }));
  expect(await codeOf(restore(zip("buvano-backup-2026-03-01T100009.zip"), to))).toBe("backup-none");
  rmSync(zip("buvano-backup-2026-03-01T100009.zip"));
  rmSync(zip(first.name));
  expect(await codeOf(restore(zip(second.name), to))).toBe("backup-incomplete");
  writeFileSync(zip(first.name), whole);
  expect(await codeOf(restore(zip("none.zip"), to))).toBe("backup-none");
  expect(await codeOf(restore(dir, to))).toBe("backup-none");
  mkdirSync(to);
  writeFileSync(join(to, "mine.txt"), "x");
  expect(await codeOf(restore(place, to))).toBe("restore-not-empty");
  rmSync(to, { recursive: true });
  expect(readdirSync(dir).sort()).toEqual(["other disk"]);
  expect(await codeOf(backUp(join(dir, "nowhere"), place, DAY))).toBe("backup-no-library");
  expect(await codeOf(backUp(trial.dataDir, join(trial.dataDir, "backups"), DAY))).toBe("backup-place");
  expect(readdirSync(place).sort()).toEqual([first.name, second.name]);
  expect(statSync(zip(second.name)).size).toBeLessThan(whole.length);
  expect((await restore(place, to)).from).toBe(second.name);
});

test("on a disk that is full it says so, and leaves nothing; what a killed one left is swept after a day", async () => {
  await lived();
  mkdirSync(place);
  // Room for the copy of the database, and not for this.
  writeFileSync(join(trial.dataDir, "files", "large"), randomBytes(4_000_000));
  execFileSync("mount", ["-t", "tmpfs", "-o", "size=3m", "tmpfs", place]);
  try {
    const told = await backUp(trial.dataDir, place, DAY).catch((error: unknown) => diskFault(error)?.problem.code ?? String(error));
    expect([told, readdirSync(place)]).toEqual(["disk-full", []]);
  } finally {
    execFileSync("umount", [place]);
  }
  const left = (name: string, hours: number) => {
    writeFileSync(join(place, name), "x");
    const at = new Date(Date.now() - hours * 3_600_000);
    utimesSync(join(place, name), at, at);
  };
  left(".buvano-backup-1.part", 30);
  left(".buvano-backup-1.part.db", 30);
  left(".buvano-backup-2.part", 1);
  const { name } = await backUp(trial.dataDir, place, DAY);
  expect(readdirSync(place).sort()).toEqual([".buvano-backup-2.part", name]);
});

test("over HTTP: made, remembered, reminded of; what is wrong is said; originals are let go and had back", async () => {
  await lived();
  const state = async () => BackupState.parse(await trial.json("/api/backup"));
  const reminder = async () => ((await trial.json("/api/today")) as { backup: string }).backup;
  expect([(await state()).last, await reminder()]).toEqual([null, ""]);
  const day = (n: number) => (trial.now = () => new Date(Date.now() + n * 86_400_000));
  day(8);
  expect(await reminder()).toBe("There is no backup of this library yet.");
  const refused = async (folder: string) => (await trial.api().post("/api/backup").send({ folder }).expect(422)).body as { code: string };
  expect((await refused("backups")).code).toBe("backup-folder");
  expect((await refused(join(trial.dataDir, "inside"))).code).toBe("backup-place");
  expect((await state()).problem?.code).toBe("backup-place");
  const made = BackupState.parse(await post("/backup", { folder: place }));
  expect(made).toMatchObject({
    folder: place,
    due: false,
    going: false,
    problem: null,
    last: { name: expect.stringMatching(/^buvano-backup-/) },
  });
  expect(readdirSync(place)).toEqual([made.last!.name]);
  day(8 + 31);
  expect(await reminder()).toMatch(/^The last backup is 31 days old, of /);
  await post("/settings", { backupRemindDays: 0 });
  expect(await reminder()).toBe("");
  expect((await restore(place, join(dir, "back"))).rows).toBeGreaterThan(20);
  // Nothing waits in the parcel any more: what it arrived as can go.
  const { originals } = await state();
  expect([originals.ids.length, originals.bytes > 1000]).toEqual([1, true]);
  expect(BackupState.parse(await post("/backup/originals", { ids: originals.ids, cleared: true })).originals.ids).toEqual([]);
  expect(BackupState.parse(await post("/backup/originals", { ids: originals.ids, cleared: false })).originals).toEqual(originals);
});
