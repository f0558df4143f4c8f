// `npm run shots`: one current picture of each main view, made from the demo's data, into docs/screenshots.
import { mkdir } from "node:fs/promises";
import { join } from "node:path";
import { Browser, PHONE, WIDE } from "./browser.ts";
import { ROOT, TestServer } from "./server.ts";
import { makeWorld, type World } from "./world.ts";

type Shot = [name: string, path: (world: World) => string, ready: string];

const phone: Shot[] = [
  ["today", () => "/", "parcel-row"],
  ["parcel", ({ parcels }) => `/parcel/${parcels["fernhollow-text-family.zip"]}`, "parcel-drawer"],
  ["parcel-trouble", ({ parcels }) => `/parcel/${parcels["fernhollow-broken-download.zip"]}`, "entry-problem"],
  ["settings", () => "/settings", "limits"],
  ["families", () => "/families", "family-card"],
  ["family", ({ familyId }) => `/family/${familyId}`, "style"],
  ["plan", ({ planId }) => `/plan/${planId}`, "plan-step"],
  ["devices", () => "/devices", "device-trouble"],
  ["device", () => "/device/1", "to-duplicates"],
  ["duplicates", () => "/duplicates?device=1", "duplicate-group"],
  ["tablet", () => "/tablet-room/3", "profile"],
  ["pairing", () => "/pairing", "pair-code"],
  ["practice-program", ({ styleId }) => `/practice/1?style=${styleId}`, "page"],
  ["sighting", ({ styleId }) => `/cell/${styleId}/1`, "cell-state"],
];
const clearance: Shot[] = [
  ["job", ({ jobId }) => `/job/${jobId}`, "job-family"],
  ["clearance", ({ lapsingId }) => `/family/${lapsingId}`, "clearance-table"],
];
const wide: Shot[] = [
  ["families-wide", ({ familyId }) => `/family/${familyId}`, "style"],
  ["board-wide", () => "/sightings", "board-row"],
];
const dark: Shot[] = [["families-dark", () => "/families", "family-card"]];

const target = join(ROOT, "docs", "screenshots");
await mkdir(target, { recursive: true });
const server = await TestServer.start();
try {
  const world = await makeWorld(server);
  for (const path of ["network", "invite"]) {
    const body = JSON.stringify(path === "network" ? { open: true } : {});
    await fetch(`${server.address}/api/pairing/${path}`, { method: "POST", headers: { "content-type": "application/json" }, body });
  }
  for (const [shots, size, isDark] of [
    [[...phone, ...clearance], PHONE, false],
    [wide, WIDE, false],
    [dark, PHONE, true],
  ] as const) {
    const browser = await Browser.start(size, isDark);
    try {
      for (const [name, path, ready] of shots) {
        await browser.open(server.address + path(world));
        const found = await browser.find(ready);
        // Clearance lies further down its page.
        if (ready === "clearance-table") await browser.driver.executeScript("arguments[0].scrollIntoView({ block: 'center' })", found);
        await browser.shot(join(target, `${name}.png`));
        process.stderr.write(`docs/screenshots/${name}.png\n`);
      }
    } finally {
      await browser.quit();
    }
  }
} finally {
  await server.stop();
}
