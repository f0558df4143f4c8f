// Pulling the plug again and again while 36 archives arrive: afterwards nothing is lost and nothing doubled.
import { createHash } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import { basename, join } from "node:path";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { ParcelDetail, ParcelPage, ShelveResult, type ParcelSummary } from "../../contract/parcels.ts";
import { makeParts, thisMachine, type Parts } from "../../server/parts.ts";
import { allViews, rebuilt, renewalOf } from "../api/views.ts";
import { amount } from "../amount.ts";
import { corpusZips } from "../load/corpus.ts";
import { ROOT, TestServer } from "./server.ts";

const KILLS = amount(20);
/** Moments from the first to the last part of the time between two kills, each once, in an order that mixes early and late. */
const STRIDE = 7;
const moment = (kill: number): number => ((kill * STRIDE) % KILLS) / KILLS;
/** So long after the one before, at most; the first archives are sent and unpacked within it. */
const APART_MS = 270;

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
}, 240_000);
afterAll(() => server?.stop());

/** A line of its own for each question: this process blocks for seconds while it hashes, and a kept line would be closed meanwhile. */
const ask = async (path: string): Promise<unknown> =>
  (await fetch(`${server.address}/api${path}`, { headers: { connection: "close" } })).json();
const parcels = async (): Promise<ParcelSummary[]> => ParcelPage.parse(await ask("/parcels?limit=200")).parcels;

/** Sends an archive; true once the server said that it has it. */
async function send(zip: string): Promise<boolean> {
  const form = new FormData();
  form.append("file", new Blob([new Uint8Array(readFileSync(zip))]), basename(zip));
  try {
    const response = await fetch(`${server.address}/api/parcels`, { method: "POST", body: form });
    await response.json();
    return response.ok;
  } catch {
    return false;
  }
}

test("kills while archives arrive", async () => {
  const zips = corpusZips(join(ROOT, "build", "bench-corpus"));
  const waiting = [...zips];
  const acknowledged = new Set<string>();
  let kills = 0;
  while (kills < KILLS || waiting.length > 0) {
    const killed =
      kills < KILLS ? new Promise((resolve) => setTimeout(resolve, 20 + moment(kills) * APART_MS)).then(() => server.kill()) : undefined;
    let alive = true;
    void killed?.then(() => (alive = false));
    while (alive && waiting.length > 0) {
      const zip = waiting[0]!;
      // An archive counts as sent only when the server said so, as a person would see it; else it is dropped again.
      if (!(await send(zip))) break;
      acknowledged.add(basename(zip));
      waiting.shift();
    }
    if (killed) {
      await killed;
      kills++;
      await server.run();
      // What had arrived just before the plug was pulled is there although nobody heard of it.
      const there = new Set((await parcels()).map((one) => one.name));
      while (waiting.length > 0 && there.has(basename(waiting[0]!))) acknowledged.add(basename(waiting.shift()!));
    }
  }
  // What was being unpacked when the plug was pulled waits for somebody to try it again, and is whole then.
  let byHand = 0;
  for (const end = Date.now() + 60_000; (await parcels()).some((one) => one.state !== "ready");) {
    if (Date.now() > end) throw new Error("Some parcels were never unpacked.");
    for (const { id, problem } of (await parcels()).filter((one) => one.state === "failed")) {
      expect(problem!.code).toBe("unpack-interrupted");
      const tried = await fetch(`${server.address}/api/parcels/${id}/retry`, {
        method: "POST",
        headers: { "content-type": "application/json", connection: "close" },
        body: "{}",
      });
      expect(tried.status).toBe(200);
      byHand++;
    }
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  // At most two are unpacked at once.
  expect(byHand).toBeLessThanOrEqual(2 * KILLS);
  const all = await parcels();
  expect(all.map((one) => one.name).sort()).toEqual(zips.map((zip) => basename(zip)).sort());
  expect([...acknowledged].sort()).toEqual(zips.map((zip) => basename(zip)).sort());

  // Every stored file is whole: its name is the digest of its bytes; every entry has its file; nothing is left over.
  const root = join(server.dataDir, "files");
  const stored = new Set(
    readdirSync(root, { recursive: true, withFileTypes: true })
      .filter((one) => one.isFile())
      .map((one) => join(one.parentPath, one.name)),
  );
  for (const path of stored) expect(createHash("sha256").update(readFileSync(path)).digest("hex")).toBe(basename(path));
  const hashes = new Set([...stored].map((path) => basename(path)));
  for (const one of all) {
    const detail = ParcelDetail.parse(await ask(`/parcels/${one.id}`));
    expect(detail.entries.length).toBe(detail.counts.font);
    for (const entry of detail.entries) expect(hashes.has(entry.sha256)).toBe(true);
  }
  expect(readdirSync(join(root, "unfinished"))).toEqual([]);
  expect(readdirSync(join(server.dataDir, "incoming")).length).toBe(zips.length);
}, 240_000);

/** The library as the last server left it, with nobody else at it. */
async function opened<T>(work: (parts: Parts) => Promise<T>): Promise<T> {
  const nowhere = { webDir: undefined, workerDir: "", builtInFonts: undefined };
  const parts = await makeParts({ dataDir: server.dataDir, ...nowhere, now: () => new Date(), ...thisMachine() });
  try {
    return await work(parts);
  } finally {
    parts.db.close();
  }
}

test("kills while rows are being renewed: afterwards every row is right, or marked and renewed", async () => {
  const post = (path: string, body: unknown = {}) =>
    fetch(`${server.address}/api${path}`, {
      method: "POST",
      headers: { "content-type": "application/json", connection: "close" },
      body: JSON.stringify(body),
    });
  let marked = 0;
  // How long after asking the plug is pulled at most: longer after one that came too early, shorter after one too late, so that a slow machine
  // is hit in the middle as well.
  let withinMs = 60;
  const all = await parcels();
  for (const [i, parcel] of all.entries()) {
    // A part of them will do, once the plug was pulled in the middle.
    if (i >= amount(all.length) && marked > 0) break;
    // Shelving marks families, parcels and names; the plug is pulled before, while or after they are renewed.
    const answer = post(`/parcels/${parcel.id}/shelve`).then(
      (response) => response.json(),
      () => undefined,
    );
    await new Promise((resolve) => setTimeout(resolve, ((i % 3) / 3) * withinMs));
    await server.kill();
    const shelved = ShelveResult.safeParse(await answer);
    withinMs *= shelved.success ? 0.7 : 1.5;
    await opened(async (parts) => {
      if (shelved.success) for (const id of shelved.data.familyIds) expect(parts.library.briefsOf(id).length).toBeGreaterThan(0);
      if (!parts.stale.isFresh()) marked++;
    });
    await server.run();
  }
  await server.kill();
  await opened(async (parts) => {
    const { renewal } = renewalOf(parts);
    await renewal.settle();
    expect(allViews(parts)).toEqual(await rebuilt(parts, renewal));
    expect(parts.familyViews.familyCount()).toBeGreaterThan(0);
  });
  // The plug was pulled in the middle at least now and then.
  expect(marked).toBeGreaterThan(0);
}, 240_000);
