// A library of 20,000 styles asked over HTTP as the interface asks, in a process of its own: lists, searches, Today, the board, pages; also
// right after changes; and how it starts again.
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { zipSync } from "fflate";
import { Board } from "../../contract/sightings.ts";
import { DeviceDetail } from "../../contract/devices.ts";
import { FamilyDetail, FamilyPage } from "../../contract/families.ts";
import { ParcelDetail, ParcelPage, ParcelSummary } from "../../contract/parcels.ts";
import { PlanView } from "../../contract/placing.ts";
import { Today } from "../../contract/today.ts";
import { makeParts, thisMachine } from "../../server/parts.ts";
import { renewalOf } from "../api/views.ts";
import { corpusFonts } from "./corpus.ts";
import { clientOf, p95, percentile, runServer, type Running } from "./running.ts";
import { fillDevices, fillShelf, giveFiles, STYLES } from "./shelf.ts";

const ASKED = 120;
const CHANGES = 40;
const words = encodeURIComponent("Wild fennel, 4.50");

/** Makes the library's folder. Returns how long its rows took to be made from nothing. */
export async function makeLibrary(workerDir: string, dataDir: string, placed: number): Promise<number> {
  const builtInFonts = join(workerDir, "..", "demo", "built-in");
  const parts = await makeParts({ dataDir, webDir: undefined, workerDir, builtInFonts, now: () => new Date(), ...thisMachine() });
  const fonts = corpusFonts();
  fillShelf(parts, fonts);
  await fillDevices(
    parts,
    builtInFonts,
    fonts.find((path) => path.endsWith(".ttf"))!,
    placed,
  );
  giveFiles(parts, fonts);
  const start = performance.now();
  await renewalOf(parts).renewal.settle();
  const took = performance.now() - start;
  parts.db.close();
  return took;
}

interface Question {
  name: string;
  path: (i: number) => string;
  check: (body: unknown) => unknown;
}

/** Brings archives of one font each, every one with other bytes after its last table; the parcels' numbers. */
async function bringSome(archives: number, address: string): Promise<number[]> {
  const font = readFileSync(corpusFonts().find((path) => path.endsWith(".ttf"))!);
  const ids: number[] = [];
  for (let i = 0; i < archives; i++) {
    const form = new FormData();
    const zip = zipSync({ "font.ttf": Buffer.concat([font, Buffer.alloc(4 * (i + 1))]) }, { level: 0 });
    form.append("file", new Blob([Uint8Array.from(zip)]), `download-${i}.zip`);
    ids.push(ParcelSummary.parse(await (await fetch(`${address}/api/parcels`, { method: "POST", body: form })).json()).id);
  }
  for (const id of ids)
    while (ParcelDetail.parse(await (await fetch(`${address}/api/parcels/${id}`)).json()).state !== "ready")
      await new Promise((resolve) => setTimeout(resolve, 50));
  return ids;
}

export async function benchLibrary(workerDir: string, print: (line: string) => void): Promise<void> {
  const dataDir = mkdtempSync(join(tmpdir(), "buvano-bench-library-"));
  const made = await makeLibrary(workerDir, dataDir, STYLES);
  print(
    `a library of ${STYLES} styles, all placed on one of 3 devices with 10 programs: every row made from nothing in ${(made / 1000).toFixed(1)} s`,
  );
  const starts: number[] = [];
  let server: Running | undefined;
  for (let i = 0; i < 3; i++) {
    await server?.stop();
    const start = performance.now();
    server = await runServer(workerDir, dataDir);
    FamilyPage.parse(await (await fetch(`${server.address}/api/families?limit=50&text=${words}`)).json());
    starts.push(performance.now() - start);
  }
  if (!server) throw new Error("No server.");
  print(`  started again: first list after ${starts.map((ms) => ms.toFixed(0)).join(", ")} ms`);
  const { address } = server;
  // It looks at its devices meanwhile, twenty thousand files among them.
  await new Promise((resolve) => setTimeout(resolve, 4000));
  const begun = await server.loop();
  print(`  while it looks at its devices the event loop is held up at most ${begun.maxMs.toFixed(0)} ms, p99 ${begun.p99Ms.toFixed(0)} ms`);
  const { get, post } = clientOf(address);
  const took = async ({ path, check }: Question, i: number): Promise<number> => {
    const start = performance.now();
    const text = await (await fetch(`${address}/api${path(i)}`)).text();
    const ms = performance.now() - start;
    check(JSON.parse(text));
    return ms;
  };
  const families = FamilyPage.parse(await get("/families?limit=500")).families;
  const { total } = FamilyPage.parse(await get("/families?limit=1"));
  print(`  ${total} families`);
  const list = (name: string, query: (i: number) => string): Question => ({
    name,
    path: (i) => `/families?limit=50&${query(i).includes("text=") ? "" : `text=${words}&`}${query(i)}`,
    check: (body) => FamilyPage.parse(body),
  });
  const lists: Question[] = [
    list("list, any part", (i) => `from=${(i * 50) % total}`),
    list("search by name", (i) => `search=${["no", "sans", "lato", "serif 1", "zz"][i % 5]}`),
    list("covers my words", (i) => `covers=yes&text=${encodeURIComponent(["Wild fennel", "שלום", "Привет", "नमस्ते", "Ωμέγα"][i % 5]!)}`),
    list("stuck at", (i) => `at=${["sound", "cleared", "placed", "seen"][i % 4]}`),
    list("script", (i) => `script=${["latin", "hebrew", "arabic", "thai"][i % 4]}`),
    list("kind", (i) => `kind=${["text", "symbols", "variable", "monospaced"][i % 4]}`),
    list("cleared for a use", (i) => `use=${["own", "sold", "client", "web"][i % 4]}`),
    list("pinned", () => "pinned=yes"),
    { name: "Today", path: () => "/today", check: (body) => Today.parse(body) },
    { name: "parcels", path: (i) => `/parcels?waits=no&from=${(i * 20) % 900}`, check: (body) => ParcelPage.parse(body) },
    { name: "board of families", path: (i) => `/board?from=${(i * 60) % total}`, check: (body) => Board.parse(body) },
    { name: "board of styles", path: (i) => `/board?by=styles&from=${(i * 60) % STYLES}`, check: (body) => Board.parse(body) },
    {
      name: "board by state",
      path: (i) => `/board?state=${["seen", "reopen", "due", "not-here"][i % 4]}`,
      check: (body) => Board.parse(body),
    },
  ];
  const pages: Question[] = [
    {
      name: "a family's page",
      path: (i) => `/families/${families[i % families.length]!.id}?text=${words}`,
      check: (body) => FamilyDetail.parse(body),
    },
    { name: `a device's page, ${STYLES} styles placed`, path: () => "/devices/1", check: (body) => DeviceDetail.parse(body) },
  ];
  for (const question of [...lists, ...pages]) {
    const times: number[] = [];
    for (let i = 0; i < (question.path(0).startsWith("/devices") ? 20 : ASKED); i++) times.push(await took(question, i));
    print(`  ${question.name}: p95 ${p95(times).toFixed(1)} ms`);
  }
  const asking = await server.loop();
  print(`  meanwhile the event loop was held up at most ${asking.maxMs.toFixed(0)} ms, p99 ${asking.p99Ms.toFixed(0)} ms`);
  const toShelve = await bringSome(CHANGES, address);
  // Right after each change every kind of list is asked for once.
  const changes: [name: string, work: (i: number) => Promise<unknown>][] = [
    ["a pin", (i) => post(`/families/${families[i]!.id}/pin`, { pinned: i % 2 === 0 })],
    ["a correction", (i) => post(`/families/${families[i]!.id}/clearance`, { use: "sold", answer: i % 2 ? "yes" : "no", note: "" })],
    ["a shelving", (i) => post(`/parcels/${toShelve[i]}/shelve`, {})],
    [
      "a sighting",
      async (i) => {
        const { styleList } = FamilyDetail.parse(await get(`/families/${families[i]!.id}`));
        await post(`/cells/${styleList[0]!.id}/1/look`, { saw: "there", who: "", despite: "sure" });
      },
    ],
    [
      "a placing",
      async (i) => {
        const plan = PlanView.parse(await post("/plans", { deviceId: 2, action: "place", familyIds: [i + 1], account: "me" }));
        await post(`/plans/${plan.id}/do`);
      },
    ],
    [
      "a new program",
      (i) => (i > 2 ? Promise.resolve() : post("/programs", { deviceId: 2, name: `New ${i}`, kind: "office", traits: officeTraits })),
    ],
  ];
  for (const [name, work] of changes) {
    const own: number[] = [];
    const after: number[] = [];
    for (let i = 0; i < CHANGES; i++) {
      const start = performance.now();
      await work(i);
      own.push(performance.now() - start);
      after.push(await took(lists[i % lists.length]!, i));
    }
    const loop = await server.loop();
    print(
      `  right after ${name}: any list p95 ${p95(after).toFixed(1)} ms, at most ${percentile(after, 1).toFixed(1)} ms; the change itself p95 ${p95(own).toFixed(0)} ms; event loop held up at most ${loop.maxMs.toFixed(0)} ms`,
    );
  }
  print(`  memory of the server: ${server.memoryMib().toFixed(0)} MiB`);
  await server.stop();
  rmSync(dataDir, { recursive: true });
}

const officeTraits = { reads: ["me", "everyone"], readsWhen: "start", lists: "four-style", fakesStyles: true };
