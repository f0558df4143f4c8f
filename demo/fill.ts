// Brings the demo's downloads into an empty library the way a visitor would: through the same requests.
import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import { DeviceSummary } from "../contract/devices.ts";
import { FamilyPage } from "../contract/families.ts";
import { plainLayer, StylePage, type BenchLine, type SheetBody } from "../contract/bench.ts";
import { JobSummary, type JobRequest } from "../contract/jobs.ts";
import { ParcelPage, ParcelSummary } from "../contract/parcels.ts";

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
  /** What some of the families are for. */
  roles?: Record<string, string>;
}
const JOBS: readonly DemoJob[] = [
  {
    name: "Plant markers for the shop",
    uses: ["sold"],
    words: "Wild fennel 4.50",
    languages: ["en"],
    families: ["Trellis Fair", "Tendril Script", "Seedbox Block"],
    devices: ["Workshop laptop"],
    roles: { "Tendril Script": "plant names", "Seedbox Block": "prices" },
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
    roles: { "Shvil Text": "Hebrew text", "Garden Note": "English notes" },
  },
  { name: "Sponsor board", uses: ["client"], words: "With thanks", languages: ["en"], families: ["Almanac Field"], devices: [] },
];

export async function makeJobs(base: string): Promise<void> {
  const { families } = FamilyPage.parse(await (await fetch(`${base}/api/families?limit=500`)).json());
  const devices = DeviceSummary.array().parse(await (await fetch(`${base}/api/devices`)).json());
  const idsOf = (names: readonly string[], all: readonly { id: number; name: string }[]) =>
    all.filter((one) => names.includes(one.name)).map((one) => one.id);
  for (const { families: wanted, devices: on, roles = {}, ...job } of JOBS) {
    const request: JobRequest = { ...job, familyIds: idsOf(wanted, families), deviceIds: idsOf(on, devices) };
    const post = (path: string, body: object) =>
      fetch(`${base}/api${path}`, { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(body) });
    const { id } = JobSummary.parse(await (await post("/jobs", request)).json());
    for (const [name, role] of Object.entries(roles)) await post(`/jobs/${id}/role`, { familyId: idsOf([name], families)[0], role });
  }
}

type Layer = [family: string, style: string, colour: string, made?: BenchLine["layers"][number]["made"]];
interface DemoSheet {
  name: string;
  job: string;
  lines: { text: string; mm: number; layers: Layer[] }[];
}
/** Sheets in the middle of the work: candidates for a poster, a face over its shade, two scripts beside one another. */
const SHEETS: readonly DemoSheet[] = [
  {
    name: "Leaflet in two languages",
    job: "Volunteer notes",
    lines: [
      { text: "שביל הזרעים", mm: 12, layers: [["Shvil Text", "Regular", "#1d1a16"]] },
      { text: "Seed Walk", mm: 12, layers: [["Garden Note", "Regular", "#1b6a5d"]] },
    ],
  },
  {
    name: "Shop sign, two colours",
    job: "Plant markers for the shop",
    lines: [
      {
        text: "WILD FENNEL",
        mm: 14,
        layers: [
          ["Seedbox Block Shade", "Regular", "#d9a514"],
          ["Seedbox Block", "Regular", "#1b6a5d"],
        ],
      },
      {
        text: "Fennel",
        mm: 20,
        layers: [
          ["Tendril Script", "Regular", "#d9a514", { kind: "contour", mm: 1 }],
          ["Tendril Script", "Regular", "#1d1a16"],
        ],
      },
    ],
  },
  {
    name: "Poster title",
    job: "Opening poster",
    lines: [
      { text: "Spring opening", mm: 13, layers: [["Almanac Field", "Bold", "#1d1a16"]] },
      { text: "Spring opening", mm: 13, layers: [["Trellis Fair", "Regular", "#1d1a16"]] },
      { text: "Spring opening", mm: 13, layers: [["Frostbloom", "Regular", "#2f4a8a"]] },
    ],
  },
];

export async function makeSheets(base: string): Promise<void> {
  const { styles } = StylePage.parse(await (await fetch(`${base}/api/bench/styles?limit=500`)).json());
  const jobs = JobSummary.array().parse(await (await fetch(`${base}/api/jobs`)).json());
  for (const { name, job, lines } of SHEETS) {
    const body: SheetBody = {
      name,
      ground: "#ffffff",
      jobId: jobs.find((one) => one.name === job)?.id ?? null,
      lines: lines.map(({ text, mm, layers }, i) => {
        const drawn = layers.flatMap(([family, style, colour, made = { kind: "none" }]) => {
          const found = styles.find((one) => one.family === family && one.style === style);
          return found ? [{ ...plainLayer(found, colour), made }] : [];
        });
        const line = { id: `line-${i + 1}`, text, size: { of: "em" as const, value: mm, unit: "mm" as const } };
        return { letterSpacing: 0, lineSpacing: 1000, direction: "auto" as const, ...line, layers: drawn };
      }),
    };
    await fetch(`${base}/api/bench/sheets`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ name, body }),
    });
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
  await makeSheets(base);
}
