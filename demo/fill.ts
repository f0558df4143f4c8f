// Brings the demo's downloads into an empty library the way a visitor would: through the same requests.
import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import { DeviceSummary } from "../contract/device.ts";
import { FamilyPage } from "../contract/family.ts";
import type { JobRequest } from "../contract/job.ts";
import { ParcelPage, ParcelSummary } from "../contract/parcel.ts";

/** Left on Today as it arrived, so that a visitor has something to shelve. */
const LEFT_TO_SHELVE = new Set(["fernhollow-text-family.zip", "fernhollow-broken-download.zip", "hedgerow-web.zip", "trail-bundle.zip"]);

async function settled(base: string, id: number): Promise<ParcelSummary> {
  for (;;) {
    const parcel = ParcelSummary.parse(await (await fetch(`${base}/api/parcels/${id}`)).json());
    if (parcel.state === "ready" || parcel.state === "failed") return parcel;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

interface DemoJob {
  name: string;
  uses: JobRequest["uses"];
  words: string;
  languages: string[];
  families: string[];
  devices: string[];
}
const JOBS: readonly DemoJob[] = [
  {
    name: "Plant markers for the shop",
    uses: ["sold"],
    words: "Wild fennel 4.50",
    languages: ["en"],
    families: ["Trellis Fair", "Tendril Script", "Seedbox Block"],
    devices: ["Workshop laptop"],
  },
  {
    name: "Opening poster",
    uses: ["given-away"],
    words: "Spring opening, 14 March",
    languages: ["en"],
    families: ["Almanac Field", "Frostbloom"],
    devices: ["Office desktop"],
  },
  {
    name: "Volunteer notes",
    uses: ["own", "document"],
    words: "שביל הזרעים Seed Walk",
    languages: ["en", "he"],
    families: ["Shvil Text", "Garden Note"],
    devices: ["Office desktop"],
  },
  { name: "Sponsor board", uses: ["client"], words: "With thanks", languages: ["en"], families: ["Almanac Field"], devices: [] },
];

async function makeJobs(base: string): Promise<void> {
  const { families } = FamilyPage.parse(await (await fetch(`${base}/api/families?limit=500`)).json());
  const devices = DeviceSummary.array().parse(await (await fetch(`${base}/api/devices`)).json());
  const idsOf = (names: readonly string[], all: readonly { id: number; name: string }[]) =>
    all.filter((one) => names.includes(one.name)).map((one) => one.id);
  for (const { families: wanted, devices: on, ...job } of JOBS) {
    const request: JobRequest = { ...job, familyIds: idsOf(wanted, families), deviceIds: idsOf(on, devices) };
    await fetch(`${base}/api/jobs`, { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(request) });
  }
}

/** Does nothing when the library holds parcels already. */
export async function fillDemo(base: string, downloads: string): Promise<void> {
  const there = ParcelPage.parse(await (await fetch(`${base}/api/parcels`)).json());
  if (there.total > 0) return;
  for (const name of (await readdir(downloads)).sort()) {
    const form = new FormData();
    form.append("file", new Blob([new Uint8Array(await readFile(join(downloads, name)))]), name);
    const sent = ParcelSummary.parse(await (await fetch(`${base}/api/parcels`, { method: "POST", body: form })).json());
    const parcel = await settled(base, sent.id);
    if (parcel.state !== "ready" || LEFT_TO_SHELVE.has(name)) continue;
    await fetch(`${base}/api/parcels/${parcel.id}/shelve`, { method: "POST", headers: { "content-type": "application/json" }, body: "{}" });
  }
  await makeJobs(base);
}
