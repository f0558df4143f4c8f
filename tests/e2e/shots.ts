// `npm run shots`: one current picture of each main view, made from the demo's data, into docs/screenshots.
import { execFileSync } from "node:child_process";
import { mkdir, rm, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { FamilyPage } from "../../contract/families.ts";
import { StylePage } from "../../contract/bench.ts";
import { liveIn } from "../../demo/live.ts";
import { drawWords } from "../reference/lettering.ts";
import { Browser, PHONE, WIDE } from "./browser.ts";
import { ROOT, TestServer } from "./server.ts";
import { downloads, makeWorld, type World } from "./world.ts";

type Shot = [name: string, path: (world: World) => string, ready: string];

const phone: Shot[] = [
  ["today", () => "/", "parcel-row"],
  ["parcel", ({ parcels }) => `/parcel/${parcels["fernhollow-text-family.zip"]}`, "parcel-drawer"],
  ["family", ({ familyId }) => `/family/${familyId}`, "style"],
  ["plan", ({ planId }) => `/plan/${planId}`, "plan-step"],
  ["device", () => "/device/1", "to-duplicates"],
  ["needs", () => "/needs", "need"],
  ["bench", () => "/bench/sheet/2", "drawn-line"],
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
/** The bench with somebody's hand: two candidates side by side, a sign found by word, a cut looked through. */
const benched: typeof handled = [
  [
    "characters",
    () => "/bench",
    async (browser) => {
      const { styles } = StylePage.parse(await (await fetch(`${server.address}/api/bench/styles?search=Seedmarks%20Two`)).json());
      await browser.open(`${server.address}/bench/glyphs/${styles[0]!.styleId}`);
      await browser.click("glyph-6");
      await browser.text("watering can");
    },
  ],
  [
    "cut",
    () => "/bench/cut/2?line=line-2",
    async (browser) => {
      await browser.click("show-overlap");
      for (let i = 0; i < 5; i++) await browser.click("next-finding");
      await browser.driver.executeScript("arguments[0].scrollIntoView({ block: 'start' })", await browser.find("cut-drawing"));
    },
  ],
];
/** Lettering seen from the side, matched. */
const matched: typeof handled = [
  [
    "match",
    () => "/bench/match",
    async (browser) => {
      execFileSync("unzip", ["-oq", join(ROOT, "build", "demo", "downloads", "trellis-fair.zip"), "-d", browser.downloads]);
      const [photo] = drawWords(browser.downloads, [
        { font: join(browser.downloads, "Trellis Fair.ttf"), words: "Garden path", photo: true },
      ]);
      await browser.find("give-match");
      await browser.give(photo!.path, "A picture of lettering");
      await browser.type("match-words", "Garden path");
      await browser.click("find-match");
      await browser.find("candidates");
      await browser.driver.executeScript("arguments[0].scrollIntoView({ block: 'start' })", await browser.find("match-answer"));
    },
  ],
];
const benchedWide: typeof handled = [
  [
    "side-by-side",
    () => "/bench/sheet/3",
    async (browser) => {
      await browser.click("view-compare");
      await browser.waitUntil("they are compared", async () => (await browser.words()).includes("Against A"));
    },
  ],
  [
    "cut-wide",
    () => "/bench/cut/2?line=line-1",
    async (browser) => {
      await browser.find("findings");
      await browser.waitUntil("it is checked", async () => !(await browser.words()).includes("Being checked"));
    },
  ],
];
/** Views that need somebody's hand first: a picture given as evidence, the reasons why a font is not there, a design program. */
const handled: [name: string, path: (world: World) => string, act: (browser: Browser, world: World) => Promise<void>][] = [
  [
    "evidence",
    ({ styleId }) => `/cell/${styleId}/2`,
    async (browser, { styleId }) => {
      const picture = join(browser.downloads, "screen.png");
      const file = await (await fetch(`${server.address}/api/styles/${styleId}/file`)).arrayBuffer();
      const font = join(browser.downloads, "font.ttf");
      await writeFile(font, new Uint8Array(file));
      const words = "Wild fennel 4.50";
      await writeFile(picture, execFileSync("hb-view", ["--output-format=png", "--font-size=90", "--margin=24", font, words]));
      await browser.type("picture-words", words);
      await browser.give(picture, "Choose a picture");
      await browser.driver.executeScript("arguments[0].scrollIntoView({ block: 'end' })", await browser.find("picture-result"));
    },
  ],
];
const dark: Shot[] = [["families-dark", () => "/families", "family-card"]];

/** Views of the demo as a visitor finds it, in the middle of the work. */
const LIVED = new Set(["today", "device", "job", "family", "board-wide", "families-wide", "families-dark"]);
const lived = await TestServer.start();
await lived.kill("SIGTERM");
await rm(lived.dataDir, { recursive: true });
await liveIn(lived.dataDir, downloads, async (clockDays) => {
  await lived.run(clockDays);
  return { address: lived.address, stop: () => lived.kill("SIGTERM") };
});
await lived.run();
const familyOf = async (name: string): Promise<number> =>
  FamilyPage.parse(await (await fetch(`${lived.address}/api/families?search=${encodeURIComponent(name)}`)).json()).families[0]!.id;
const livedWorld = { familyId: await familyOf("Trellis Fair"), lapsingId: await familyOf("Frostbloom"), jobId: 1 };

const target = join(ROOT, "docs", "screenshots");
await mkdir(target, { recursive: true });
const server = await TestServer.start();
try {
  const world = await makeWorld(server);
  for (const path of ["network", "invite"]) {
    const body = JSON.stringify(path === "network" ? { open: true } : {});
    await fetch(`${server.address}/api/pairing/${path}`, { method: "POST", headers: { "content-type": "application/json" }, body });
  }
  for (const [shots, more, size, isDark] of [
    [[...phone, ...clearance], [...handled, ...benched, ...matched], PHONE, false],
    [wide, benchedWide, WIDE, false],
    [dark, [], PHONE, true],
  ] as const) {
    const browser = await Browser.start(size, isDark);
    try {
      for (const [name, path, ready] of shots) {
        if (LIVED.has(name)) await browser.open(lived.address + path({ ...world, ...livedWorld }));
        else await browser.open(server.address + path(world));
        const found = await browser.find(ready);
        // Several families on their way to something.
        if (name === "families-dark") {
          await browser.click("choose");
          await browser.click("choose-all-fitting");
          await browser.driver.executeScript("window.scrollTo(0, 0)");
        }
        // Clearance lies further down its page.
        if (ready === "clearance-table") await browser.driver.executeScript("arguments[0].scrollIntoView({ block: 'center' })", found);
        await browser.shot(join(target, `${name}.png`));
        process.stderr.write(`docs/screenshots/${name}.png\n`);
      }
      for (const [name, path, act] of more) {
        await browser.open(server.address + path(world));
        await act(browser, world);
        await browser.shot(join(target, `${name}.png`));
        process.stderr.write(`docs/screenshots/${name}.png\n`);
      }
    } finally {
      await browser.quit();
    }
  }
} finally {
  await server.stop();
  await lived.stop();
}
