// Brings the demo's downloads into a test server by its own API, so that screens have something to show.
import { execFileSync } from "node:child_process";
import { copyFile, readdir, readFile, rename, rm, writeFile } from "node:fs/promises";
import { existsSync } from "node:fs";
import { join } from "node:path";
import { fillDemo } from "../../demo/fill.ts";
import { FamilyPage } from "../../contract/families.ts";
import { ParcelPage } from "../../contract/parcels.ts";
import { PlanView } from "../../contract/placing.ts";
import { EvidenceAnswer } from "../../contract/sightings.ts";
import { ROOT, TestServer } from "./server.ts";

export const downloads = join(ROOT, "build", "demo", "downloads");

async function post(server: TestServer, path: string, body: unknown = {}): Promise<unknown> {
  const response = await fetch(`${server.address}/api${path}`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify(body),
  });
  if (!response.ok) throw new Error(`${path}: ${await response.text()}`);
  return response.json();
}

export interface World {
  /** Parcels by the name of their archive. */
  parcels: Record<string, number>;
  /** A job with a family that is not cleared for it. */
  jobId: number;
  /** A family whose paper speaks of an end. */
  lapsingId: number;
  familyId: number;
  planId: number;
  /** A plan that waits for a person at the tablet. */
  handedId: number;
  styleId: number;
}

/** What was told of a library that lies ready, in its own folder. */
const NOTE = "told.json";
/**
 * A library that takes a while to make is made once for a run of all tests (BUVANO_RUN names its folder) and copied for every file that wants it; a file
 * that runs by itself makes its own. What `make` tells of it is kept beside it.
 */
async function ready<T>(name: string, make: (server: TestServer) => Promise<T>): Promise<{ server: TestServer; told: T }> {
  const run = process.env["BUVANO_RUN"];
  if (run === undefined) {
    const server = await TestServer.start();
    return { server, told: await make(server) };
  }
  const library = join(run, name);
  if (!existsSync(library)) {
    const server = await TestServer.start();
    const told = (await make(server)) ?? null;
    await server.kill("SIGTERM");
    // With times to the nanosecond, by which devices know what they have looked at.
    const own = `${library}.${process.pid}`;
    execFileSync("cp", ["-a", server.dataDir, own]);
    // Whoever was quicker has made the same.
    await writeFile(join(own, NOTE), JSON.stringify(told));
    await rename(own, library).catch(() => rm(own, { recursive: true }));
    await server.stop();
  }
  return { server: await TestServer.start(true, library), told: JSON.parse(await readFile(join(library, NOTE), "utf8")) as T };
}
/** A server whose library holds the demo's downloads. */
export const startFilled = async (): Promise<TestServer> =>
  (await ready("filled-library", (server) => fillDemo(server.address, downloads))).server;
/** The same in the middle of some work. */
export const startWorld = async (): Promise<{ server: TestServer; world: World }> => {
  const { server, told } = await ready("world-library", makeWorld);
  // Programs are closed when a server ends.
  await post(server, "/practice/1/open");
  return { server, world: told };
};

/** The demo's library; one family placed on Workshop laptop, seen in Letter Desk, a plan for another drawn. */
export async function makeWorld(server: TestServer): Promise<World> {
  if ((await readdir(downloads)).length === 0) throw new Error("The demo's downloads are missing.");
  await fillDemo(server.address, downloads);
  const { families } = FamilyPage.parse(await (await fetch(`${server.address}/api/families`)).json());
  const { parcels: arrived } = ParcelPage.parse(await (await fetch(`${server.address}/api/parcels`)).json());
  const parcels = Object.fromEntries(arrived.map((parcel) => [parcel.name, parcel.id]));
  const id = (name: string) => families.find((family) => family.name === name)!.id;
  const plan = PlanView.parse(await post(server, "/plans", { deviceId: 1, action: "place", familyIds: [id("Trellis Fair")] }));
  await post(server, `/plans/${plan.id}/do`);
  await post(server, "/practice/1/open");
  const styleId = plan.items[0]!.steps[0]!.styleId!;
  const typed = { font: "Trellis Fair", text: "Opening Day", sizePt: 32 };
  const pdf = await fetch(`${server.address}/api/practice/1/pdf`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify(typed),
  });
  const form = new FormData();
  form.append("file", await pdf.blob(), "Letter-Desk-Trellis-Fair.pdf");
  const given = await fetch(`${server.address}/api/cells/${styleId}/1/evidence?words=Opening+Day`, { method: "POST", body: form });
  const { state, sighting } = EvidenceAnswer.parse(await given.json());
  if (!sighting) throw new Error(`The export was not taken: ${state}.`);
  const drawn = PlanView.parse(
    await post(server, "/plans", {
      deviceId: 1,
      account: "everyone",
      action: "place",
      familyIds: [id("Trellis Fair"), id("Seedbox Block")],
    }),
  );
  // A copy that somebody put there by hand, and a profile that waits on the tablet.
  const practice = join(server.dataDir, "practice", "workshop-laptop");
  await copyFile(join(practice, "me", "TrellisFair-Regular.ttf"), join(practice, "everyone", "Trellis Fair (copy).ttf"));
  await fetch(`${server.address}/api/devices/1`);
  const handed = PlanView.parse(await post(server, "/plans", { deviceId: 3, action: "place", familyIds: [id("Garden Note")] }));
  await post(server, `/plans/${handed.id}/do`);
  // A leaflet somebody sent, whose fonts are in several places.
  const leaflet = ["Trellis Fair", "Fernhollow Text", "Garden Note", "Missing Meadow", "Aster Plain"]
    .map((family) => `<p style="font-family: '${family}'">Sow the early peas</p>`)
    .join("");
  const sent = new FormData();
  sent.append("file", new Blob([`<!doctype html><meta charset="utf-8"><body>${leaflet}</body>`]), "spring-leaflet.html");
  const taken = await fetch(`${server.address}/api/documents`, { method: "POST", body: sent });
  if (!taken.ok) throw new Error(`The leaflet was not taken: ${await taken.text()}`);
  return { parcels, handedId: handed.id, jobId: 1, lapsingId: id("Frostbloom"), familyId: id("Trellis Fair"), planId: drawn.id, styleId };
}
