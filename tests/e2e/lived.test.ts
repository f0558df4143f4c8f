// The demo as a visitor finds it: in the middle of the work, with every state to be seen; a library of somebody's own is left alone.
import { existsSync } from "node:fs";
import { rm } from "node:fs/promises";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { DeviceSummary } from "../../contract/devices.ts";
import { HistoryEvent } from "../../contract/history.ts";
import { JobSummary } from "../../contract/jobs.ts";
import { ParcelPage } from "../../contract/parcels.ts";
import { Board } from "../../contract/sightings.ts";
import { Today } from "../../contract/today.ts";
import { isDemo, liveIn } from "../../demo/live.ts";
import { Browser, PHONE } from "./browser.ts";
import { TestServer } from "./server.ts";
import { downloads } from "./world.ts";

let server: TestServer;
const start = async (clockDays: number) => {
  await server.run(clockDays);
  return { address: server.address, stop: () => server.kill("SIGTERM") };
};
beforeAll(async () => {
  server = await TestServer.start();
  await server.kill("SIGTERM");
  await rm(server.dataDir, { recursive: true });
  await liveIn(server.dataDir, downloads, start);
  await server.run();
}, 240_000);
afterAll(() => server?.stop());
const get = async (path: string): Promise<unknown> => (await fetch(`${server.address}/api${path}`)).json();

test("it shows every state a sighting can be in, some parcels in trouble, jobs half ready", async () => {
  const { rows } = Board.parse(await get("/board?limit=200"));
  const states = new Set(rows.flatMap((row) => row.cells.map((cell) => cell.state)));
  expect([...states].toSorted()).toEqual(["due", "lapsed", "load-by-hand", "not-here", "off", "reopen", "seen", "swapped"]);
  const { parcels } = ParcelPage.parse(await get("/parcels?waits=yes"));
  expect(parcels.some((parcel) => parcel.state === "failed") && parcels.some((parcel) => parcel.troubles > 0)).toBe(true);
  const jobs = JobSummary.array().parse(await get("/jobs"));
  expect(jobs.some((job) => job.readyFamilies > 0) && jobs.some((job) => job.readyFamilies < job.familyIds.length)).toBe(true);
  const devices = DeviceSummary.array().parse(await get("/devices"));
  expect(devices.some((device) => device.trouble.duplicates > 0)).toBe(true);
  // What people did through Buvano is no external change.
  expect(devices.every((device) => device.trouble.externalChanges === 0 && device.trouble.unseen === 0)).toBe(true);
});
test("its history goes back some weeks, and what is to be done is one line each", async () => {
  const events = HistoryEvent.array().parse(await get("/history/undoable"));
  const days = events.map((event) => (Date.now() - Date.parse(event.at)) / 86_400_000);
  expect(Math.max(...days)).toBeGreaterThan(5);
  expect(Math.min(...days)).toBeGreaterThan(-0.01);
  const { tasks, terms } = Today.parse(await get("/today"));
  expect(new Set(tasks.map((task) => task.state))).toEqual(new Set(["swapped", "reopen", "due"]));
  expect(terms.some((term) => term.over)).toBe(true);
});
test("a library that holds something is not touched, and is none of the demo's", async () => {
  const held = async () => ({ ...Today.parse(await get("/today")), renewing: null });
  const before = await held();
  await server.kill("SIGTERM");
  await liveIn(server.dataDir, downloads, start);
  await server.run();
  expect(await held()).toEqual(before);
  expect(isDemo(server.dataDir)).toBe(true);
  const own = await TestServer.start();
  try {
    expect([isDemo(own.dataDir), existsSync(own.dataDir)]).toEqual([false, true]);
    expect((await fetch(`${own.address}/api/demo/put-back`, { method: "POST" })).status).toBe(404);
  } finally {
    await own.stop();
  }
}, 240_000);
test("Today shows it", async () => {
  const browser = await Browser.start(PHONE);
  try {
    await browser.open(server.address);
    await browser.find("tasks");
    await browser.find("terms");
    expect(await browser.words()).toContain("Reopen Letter Desk");
  } finally {
    await browser.quit();
  }
}, 240_000);
