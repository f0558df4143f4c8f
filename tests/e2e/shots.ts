// `npm run shots`: one current picture of each main view, made from the demo's data, into docs/screenshots.
import { execFileSync } from "node:child_process";
import { mkdir, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { FamilyPage } from "../../contract/family.ts";
import { PlanView } from "../../contract/plan.ts";
import { StylePage } from "../../contract/bench.ts";
import { Board } from "../../contract/sighting.ts";
import { drawWords } from "../reference/lettering.ts";
import { Browser, PHONE, WIDE } from "./browser.ts";
import { ROOT, TestServer } from "./server.ts";
import { makeWorld, type World } from "./world.ts";

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

/** Some more families placed and looked for, so that the board shows many states. */
async function busyBoard(): Promise<void> {
  const api = async (path: string, body?: object): Promise<unknown> => {
    const init = body && { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(body) };
    return (await fetch(`${server.address}/api${path}`, init)).json();
  };
  const { families } = FamilyPage.parse(await api("/families"));
  const place = async (deviceId: number, account: "me" | "everyone", names: readonly string[], passcode?: string) => {
    const familyIds = families.filter((family) => names.includes(family.name)).map((family) => family.id);
    const plan = PlanView.parse(await api("/plans", { deviceId, account, action: "place", familyIds }));
    await api(`/plans/${plan.id}/do`, { passcode });
  };
  await place(1, "me", ["Almanac Field", "Seedbox Block", "Seedbox Block Shade", "Tendril Script"]);
  await place(2, "everyone", ["Almanac Field", "Seedbox Block", "Shvil Text"], "4711");
  for (const [row, column] of [
    [0, 0],
    [0, 1],
    [3, 1],
    [4, 1],
  ] as const) {
    const cell = Board.parse(await api("/board")).rows[row]!.cells[column]!;
    await api(`/cells/${cell.styleId}/${cell.programId}/look`, { saw: "there" });
  }
}

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
    if (shots === wide) await busyBoard();
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
}
