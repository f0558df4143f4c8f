// Everything that may arrive, through the running server: it is refused or taken in within seconds, memory stays bounded, others are answered
// meanwhile, nothing is left over, and the server lives and starts again at once.
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { zipSync } from "fflate";
import { ShelveResult } from "../../contract/parcels.ts";
import { FamilyDetail } from "../../contract/families.ts";
import { within } from "./effort.ts";
import { hostileArchives, hostileEvidence, hostileFonts, hostilePapers, hostilePictures, wholeFont, type Hostile } from "./inputs.ts";
import { Watched, type Seen } from "./watch.ts";

/** The whole of a parcel, its papers included. */
const PARCEL_MS = 10_000;
const EVIDENCE_MS = 6000;
const GROWTH_MIB = 300;
/** With what workers take, which end by themselves at more than they may (server/work/pool.ts: 850 MiB to 2 GB). */
const WITH_WORKERS_MIB = 800;
/** Others are answered within a tenth of a second; a single hiccup of the machine is borne. */
const MOST_LONG_WAITS = 2;
const LONGEST_WAIT_MS = 400;

const ARCHIVES = hostileArchives();
const EVIDENCE = hostileEvidence();

let watched: Watched;
let cell = "";
const api = async (path: string, body?: object): Promise<unknown> =>
  (
    await fetch(
      `${watched.server.address}/api${path}`,
      body && { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(body) },
    )
  ).json();

beforeAll(async () => {
  watched = await Watched.start();
  await watched.parcel({ name: "", fileName: "whole.ttf", bytes: wholeFont() });
  const { familyIds } = ShelveResult.parse(await api("/parcels/1/shelve", {}));
  const { styleList } = FamilyDetail.parse(await api(`/families/${familyIds[0]}`));
  cell = `/cells/${styleList[0]!.id}/1`;
}, 60_000);
afterAll(() => watched?.server.stop());

const report: [string, Seen][] = [];
async function attack(input: Hostile, work: (input: Hostile) => Promise<Seen>, mostMs: number): Promise<Seen> {
  const seen = await work(input);
  report.push([input.name, seen]);
  const { ms, longestWaitMs, longWaits, growthMib, withWorkersMib, outcome } = seen;
  const kept = {
    time: within(ms, mostMs),
    memory: growthMib <= GROWTH_MIB && withWorkersMib <= WITH_WORKERS_MIB,
    others: longWaits <= MOST_LONG_WAITS && within(longestWaitMs, LONGEST_WAIT_MS),
    alive: watched.alive,
    leftovers: watched.leftovers(),
    fault: outcome === "fault" || outcome.includes("unpack-failed"),
  };
  expect([input.name, seen, kept]).toEqual([
    input.name,
    seen,
    { time: true, memory: true, others: true, alive: true, leftovers: [], fault: false },
  ]);
  return seen;
}
afterAll(() => {
  for (const [name, { ms, longestWaitMs, longWaits, growthMib, withWorkersMib, outcome }] of report)
    process.stderr.write(
      `${name}: ${Math.round(ms)} ms, ${Math.round(growthMib)} MiB (with workers ${Math.round(withWorkersMib)}), others waited ${Math.round(longestWaitMs)} ms (${longWaits}); ${outcome}\n`,
    );
});

test.each(hostileFonts().map((input) => [input.name, input] as const))(
  "a font: %s",
  async (_name, input) => {
    await attack(input, (one) => watched.parcel(one), PARCEL_MS);
  },
  120_000,
);
test.each(ARCHIVES.map((input) => [input.name, input] as const))(
  "an archive: %s",
  async (_name, input) => {
    await attack(input, (one) => watched.parcel(one), PARCEL_MS);
  },
  120_000,
);
test.each(hostilePapers().map((input) => [input.name, input] as const))(
  "a paper: %s",
  async (_name, input) => {
    const bytes = zipSync({ "font.ttf": wholeFont(), [input.fileName]: input.bytes }, { level: 1 });
    await attack({ ...input, fileName: "paper.zip", bytes }, (one) => watched.parcel(one), PARCEL_MS);
  },
  120_000,
);
test.each(EVIDENCE.map((input) => [input.name, input] as const))(
  "evidence: %s",
  async (_name, input) => {
    await attack(input, (one) => watched.evidence(one, cell, false), EVIDENCE_MS);
  },
  120_000,
);
test.each(hostilePictures().map((input) => [input.name, input] as const))(
  "a picture: %s",
  async (_name, input) => {
    await attack(input, (one) => watched.evidence(one, cell, true), EVIDENCE_MS);
  },
  120_000,
);

test("downloads that take long do not stop the others", async () => {
  const stuck = ARCHIVES.find(({ fileName }) => fileName === "bomb.7z");
  const others = Array.from({ length: 3 }, (_, i) => ({ name: `other ${i}`, fileName: `other${i}.ttf`, bytes: wholeFont() }));
  const begun = performance.now();
  const waiting = [watched.parcel(stuck!), watched.parcel(stuck!)];
  await Promise.all(others.map((one) => watched.parcel(one)));
  expect(within(performance.now() - begun, PARCEL_MS)).toBe(true);
  await Promise.all(waiting);
}, 120_000);

test("a good file is answered while hostile ones are read", async () => {
  const stuck = EVIDENCE.find(({ name }) => name === "PDF of forms in forms")!;
  const waiting = [watched.evidence(stuck, cell, false), watched.evidence(stuck, cell, false)];
  await new Promise((resolve) => setTimeout(resolve, 300));
  const text = new TextEncoder().encode("<p style=\"font-family: 'Aster Plain'\">Words</p>");
  const { outcome } = await watched.evidence({ name: "good", fileName: "good.html", bytes: text }, cell, false);
  let left = waiting.length;
  for (const one of waiting) void one.then(() => left--);
  await new Promise((resolve) => setTimeout(resolve, 0));
  const answered = [outcome, left];
  await Promise.all(waiting);
  // They were still being read when it was answered.
  expect(answered).toEqual(["taken", 2]);
}, 60_000);

test("after all of it the server starts again in two seconds, and says the same", async () => {
  const before = await api("/parcels?limit=200");
  await watched.server.kill();
  const begun = performance.now();
  await watched.server.run();
  const readyMs = performance.now() - begun;
  expect(await api("/parcels?limit=200")).toEqual(before);
  expect([readyMs, within(readyMs, 2000)]).toEqual([readyMs, true]);
}, 60_000);
