// Lets the demo's world live for some weeks before a visitor comes: each phase runs a server whose clock stands that many days back, and does
// through its requests what people at Fernhollow Seed Walk did. Nothing is written into the library by other means; only the practice
// devices' files are dated to the day of their phase.
import { existsSync, readFileSync } from "node:fs";
import { mkdir, readdir, readFile, rm, stat, utimes, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { DeviceSummary } from "../contract/devices.ts";
import { FamilyPage } from "../contract/families.ts";
import { ParcelSummary } from "../contract/parcels.ts";
import { PlanView, type PlanChoice } from "../contract/placing.ts";
import { QuickAnswer } from "../contract/quick-check.ts";
import { makeJobs, makeSheets } from "./fill.ts";

const DAY_MS = 86_400_000;
const HOUR_MS = 3_600_000;

/** Starts a server whose clock is so many days ahead; negative: behind. */
export type Start = (clockDays: number) => Promise<{ address: string; stop: () => Promise<void> }>;

/** What somebody does through the server's requests. */
class Hands {
  readonly base: string;
  private readonly downloads: string;
  constructor(base: string, downloads: string) {
    this.base = base;
    this.downloads = downloads;
  }
  async get(path: string): Promise<unknown> {
    return (await fetch(`${this.base}/api${path}`)).json();
  }
  async post(path: string, body: unknown = {}): Promise<unknown> {
    const headers = { "content-type": "application/json" };
    const response = await fetch(`${this.base}/api${path}`, { method: "POST", headers, body: JSON.stringify(body) });
    if (!response.ok) throw new Error(`${path}: ${await response.text()}`);
    return response.json();
  }
  /** Brings in downloads and waits until they are unpacked; `shelve` takes everything whole of them. */
  async bring(names: readonly string[], shelve: boolean): Promise<void> {
    for (const name of names) {
      const form = new FormData();
      form.append("file", new Blob([new Uint8Array(await readFile(join(this.downloads, name)))]), name);
      const sent = ParcelSummary.parse(await (await fetch(`${this.base}/api/parcels`, { method: "POST", body: form })).json());
      let parcel = sent;
      while (parcel.state !== "ready" && parcel.state !== "failed") {
        await new Promise((resolve) => setTimeout(resolve, 50));
        parcel = ParcelSummary.parse(await this.get(`/parcels/${sent.id}`));
      }
      if (shelve) await this.post(`/parcels/${sent.id}/shelve`);
    }
  }
  async families(names: readonly string[]): Promise<number[]> {
    const { families } = FamilyPage.parse(await this.get("/families?limit=500"));
    return names.map((name) => families.find((one) => one.name === name)!.id);
  }
  async device(name: string): Promise<DeviceSummary> {
    return DeviceSummary.array()
      .parse(await this.get("/devices"))
      .find((one) => one.name === name)!;
  }
  async program(device: string, name: string): Promise<number> {
    return (await this.device(device)).programs.find((one) => one.name === name)!.id;
  }
  /** Draws a plan and carries it out; `choice` is taken wherever it is offered. */
  async plan(
    device: string,
    action: "place" | "switch-off",
    names: readonly string[],
    account: "me" | "everyone" = "me",
    choice?: PlanChoice,
  ) {
    const { id: deviceId } = await this.device(device);
    let plan = PlanView.parse(await this.post("/plans", { deviceId, action, account, familyIds: await this.families(names) }));
    if (choice)
      for (const item of plan.items)
        if (item.choices.includes(choice))
          plan = PlanView.parse(await this.post(`/plans/${plan.id}/choose`, { key: item.key, choice, all: false }));
    return PlanView.parse(await this.post(`/plans/${plan.id}/do`, plan.needsPasscode ? { passcode: plan.practicePasscode } : {}));
  }
  /** Has a practice program draw everything that waits there, and takes what it exports. */
  async check(device: string, program: string): Promise<void> {
    QuickAnswer.parse(await this.post(`/programs/${await this.program(device, program)}/check/practise`));
  }
  async act(act: object): Promise<void> {
    await this.post("/families/act", act);
  }
}

const ONE = ["Almanac Field (complete).zip", "garden-note.zip", "shvil-hebrew.zip", "trellis-fair.zip"];
const TWO = ["Seedbox-Layered.zip", "seedmarks.zip", "tendril_script_free.zip", "winter-pack.zip"];
/** Left on Today as they arrived, so that a visitor has something to do. */
const LAST = [
  "fernhollow-broken-download.zip",
  "hedgerow-web.zip",
  "trail-bundle.zip",
  "cellar-key-locked.zip",
  "fernhollow-text-family.zip",
];

const PHASES: readonly { daysAgo: number; do: (hands: Hands) => Promise<void> }[] = [
  {
    // The leaflet is begun: text faces for the office, seen where they are set.
    daysAgo: 24,
    do: async (hands) => {
      await hands.bring(ONE, true);
      await hands.plan("Office desktop", "place", ["Almanac Field", "Garden Note", "Shvil Text"]);
      await hands.check("Office desktop", "Letter Desk");
      await hands.act({ act: "pin", ids: await hands.families(["Garden Note"]), on: true });
      await hands.act({ act: "tag", ids: await hands.families(["Garden Note", "Shvil Text", "Almanac Field"]), tag: "leaflet", on: true });
    },
  },
  {
    // The workshop: faces to be cut, signs, a seasonal pack whose term begins.
    daysAgo: 17,
    do: async (hands) => {
      await hands.bring(TWO, true);
      const [frost] = await hands.families(["Frostbloom"]);
      const until = new Date(Date.now() - 2 * DAY_MS).toISOString().slice(0, 10);
      await hands.post(`/families/${frost}/licences`, {
        kind: "time-limited",
        answers: { own: "yes", "given-away": "yes" },
        seats: 1,
        boughtOn: null,
        priceMinor: null,
        currency: "",
        orderNumber: "",
        note: "The winter pack, for the poster.",
        term: { until },
      });
      await hands.plan("Workshop laptop", "place", [
        "Seedbox Block",
        "Seedbox Block Shade",
        "Seedmarks One",
        "Seedmarks Two",
        "Trellis Fair",
        "Tendril Script",
        "Frostbloom",
      ]);
      await hands.check("Workshop laptop", "Poster Desk");
      await hands.act({ act: "tag", ids: await hands.families(["Seedbox Block", "Seedbox Block Shade"]), tag: "signs", on: true });
      await makeJobs(hands.base);
      await makeSheets(hands.base);
    },
  },
  {
    // What goes wrong in a workshop: a second copy, a face turned off, a title in another font than was asked for.
    daysAgo: 6,
    do: async (hands) => {
      await hands.plan("Workshop laptop", "place", ["Trellis Fair"], "everyone", "both");
      await hands.plan("Workshop laptop", "switch-off", ["Seedbox Block Shade"]);
      await hands.plan("Office desktop", "place", ["Trellis Fair"], "everyone");
      await hands.check("Office desktop", "Title Desk");
      const title = await hands.program("Office desktop", "Title Desk");
      const { styleList } = (await hands.get(`/families/${(await hands.families(["Trellis Fair"]))[0]}`)) as {
        styleList: { id: number }[];
      };
      await hands.post(`/cells/${styleList[0]!.id}/${title}/look`, { saw: "wrong", who: "Mira" });
      await hands.check("Workshop laptop", "Cutting Desk");
    },
  },
  {
    // Yesterday: one more family, and nobody has reopened anything since.
    daysAgo: 1,
    do: async (hands) => {
      await hands.bring(LAST, false);
      await hands.plan("Office desktop", "place", ["Shvil Hand", "Tendril Script"]);
      await hands.plan("Workshop laptop", "place", ["Almanac Field"]);
      await hands.plan("Greenhouse tablet", "place", ["Garden Note"]);
      const leaflet = ["Trellis Fair", "Fernhollow Text", "Garden Note", "Missing Meadow"]
        .map((family) => `<p style="font-family: '${family}'">Sow the early peas</p>`)
        .join("");
      const form = new FormData();
      form.append("file", new Blob([`<!doctype html><meta charset="utf-8"><body>${leaflet}</body>`]), "spring-leaflet.html");
      await fetch(`${hands.base}/api/documents`, { method: "POST", body: form });
    },
  },
  {
    // This morning somebody looked at every device.
    daysAgo: 0,
    do: async (hands) => {
      for (const { id, sort } of DeviceSummary.array().parse(await hands.get("/devices")))
        if (sort === "practice") await hands.post(`/devices/${id}/rescan`);
    },
  },
];

/** Dates what a phase wrote on the practice devices to an hour before the phase's own moment. */
async function date(dataDir: string, since: number, daysAgo: number): Promise<void> {
  const practice = join(dataDir, "practice");
  for (const entry of await readdir(practice, { recursive: true, withFileTypes: true })) {
    if (!entry.isFile() || !/\.(ttf|otf|ttc)$/i.test(entry.name)) continue;
    const path = join(entry.parentPath, entry.name);
    if ((await stat(path)).mtimeMs < since) continue;
    const then = new Date(Date.now() - daysAgo * DAY_MS - HOUR_MS);
    await utimes(path, then, then);
  }
}

/** Lies in a library the demo made, which alone may be thrown away, and says whether it was finished. */
const MARK = "made-by-the-demo";
const [BEGUN, FINISHED] = [
  "The demo is making this library.\n",
  "The demo made this library; it is thrown away when the demo is put back.\n",
];
const marked = (dataDir: string): string | undefined => {
  const path = join(dataDir, MARK);
  return existsSync(path) ? readFileSync(path, "utf8") : undefined;
};
/** Whether a library holds the demo's world and nothing that a person brought. */
export const isDemo = (dataDir: string): boolean => marked(dataDir) === FINISHED;

/** Makes the demo's library in `dataDir`; one that is there already is not touched, unless it is one the demo did not finish. */
export async function liveIn(dataDir: string, downloads: string, start: Start): Promise<void> {
  if (marked(dataDir) === BEGUN) await rm(dataDir, { recursive: true });
  if (existsSync(join(dataDir, "library.db"))) return;
  await mkdir(dataDir, { recursive: true });
  await writeFile(join(dataDir, MARK), BEGUN);
  for (const { daysAgo, do: work } of PHASES) {
    const server = await start(-daysAgo);
    const since = Date.now() - 1000;
    try {
      await work(new Hands(server.address, downloads));
    } finally {
      await server.stop();
    }
    await date(dataDir, since, daysAgo);
  }
  await writeFile(join(dataDir, MARK), FINISHED);
}
