// Little room: a window of 320 pixels, text at 200 %, names of a hundred characters. Nothing is cut off at the window's edge, and nothing
// has to be scrolled sideways (WCAG 2.2, 1.4.4 Resize Text and 1.4.10 Reflow).
import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { zipSync } from "fflate";
import { FamilyPage } from "../../contract/families.ts";
import { PlanView } from "../../contract/placing.ts";
import { renamedTables } from "../../demo/writing/rename.ts";
import { overflowing } from "./axe.ts";
import { Browser } from "./browser.ts";
import { SCREENS } from "./screens.ts";
import { ROOT, TestServer } from "./server.ts";
import { startWorld, type World } from "./world.ts";

/** The narrowest window content must fit (1.4.10), and a window of 1280 by 800 at 200 %. */
const NARROW = { width: 320, height: 640 };
const DOUBLED = { width: 640, height: 400 };
const LONG = "Extraordinarily Elaborate Botanical Gardeners Companion Display Condensed Swash Alternates Handlettered".slice(0, 100);

let server: TestServer;
let world: World;
let browser: Browser;
let folder: string;
let longId: number;
let longPlan: number;
let longJob: number;

async function post(path: string, body: unknown = {}): Promise<unknown> {
  const response = await fetch(`${server.address}/api${path}`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify(body),
  });
  if (!response.ok) throw new Error(await response.text());
  return response.json();
}

beforeAll(async () => {
  ({ server, world } = await startWorld());
  folder = await mkdtemp(join(tmpdir(), "buvano-narrow-"));
  const base = await readFile(join(ROOT, "build", "demo", "built-in", "WrenSmall-Regular.ttf"));
  const font = renamedTables(base, { family: LONG, style: "Regular", version: "1.000" });
  const name = `${LONG.replaceAll(" ", "_")}.zip`;
  await writeFile(join(folder, name), zipSync({ [`${LONG}/${LONG}.ttf`]: font }));
  browser = await Browser.start(NARROW);
  await browser.open(server.address);
  await browser.give(join(folder, name));
  await browser.click("shelve");
  await browser.find("family");
  longId = FamilyPage.parse(await (await fetch(`${server.address}/api/families?search=extraordinarily`)).json()).families[0]!.id;
  longPlan = PlanView.parse(await post("/plans", { deviceId: 1, action: "place", familyIds: [longId] })).id;
  await post(`/plans/${longPlan}/do`);
  await post("/families/act", { act: "tag", ids: [longId], tag: LONG.replaceAll(" ", "").slice(0, 40), on: true });
  const job = { name: LONG, uses: ["sold"], languages: ["en", "he"], words: LONG, familyIds: [longId], deviceIds: [1] };
  longJob = ((await post("/jobs", job)) as { id: number }).id;
}, 240_000);
afterAll(async () => {
  await browser?.quit();
  await server?.stop();
  await rm(folder, { recursive: true, force: true });
}, 240_000);

/** Words that stand beyond the window's edge where nothing scrolls sideways to them. */
const cutOff = (page: Browser): Promise<string[]> =>
  page.driver.executeScript(`
    const scrolls = (element) => {
      for (let one = element; one; one = one.parentElement) {
        const { overflowX, position } = getComputedStyle(one);
        if ((overflowX === "auto" || overflowX === "scroll") && one.scrollWidth > one.clientWidth + 1) return true;
        if (one.matches('[aria-hidden="true"], .skip-link')) return true;
      }
      return false;
    };
    const found = [];
    for (const element of document.querySelectorAll("body *")) {
      if (element.childElementCount > 0 || !element.textContent.trim() || element.closest("svg")) continue;
      const { left, right, width, height } = element.getBoundingClientRect();
      if (width === 0 || height === 0) continue;
      if ((right > innerWidth + 1 || left < -1) && !scrolls(element)) found.push(element.textContent.trim().slice(0, 60) + " " + Math.round(left) + "–" + Math.round(right));
    }
    return found;
  `);

const fits = async (page: Browser, where: string): Promise<void> => {
  expect([where, await overflowing(page), await cutOff(page)]).toEqual([where, false, []]);
};

test.each(SCREENS)(
  "%s fits 320 pixels",
  async (name, path, ready) => {
    await browser.open(server.address + path(world));
    await browser.find(ready);
    await fits(browser, name);
  },
  240_000,
);

describe("a name of a hundred characters", () => {
  const PLACES: readonly (readonly [string, () => string, string])[] = [
    ["Today", () => "/", "parcel-row"],
    ["Families", () => "/families?search=extraordinarily", "family-card"],
    ["family", () => `/family/${longId}`, "style"],
    ["device", () => "/device/1", "placed-font"],
    ["plan", () => `/plan/${longPlan}`, "plan-step"],
    ["Sightings", () => "/sightings", "cell"],
    ["job", () => `/job/${longJob}`, "job-family"],
    ["jobs", () => "/jobs", "job-card"],
    ["job form", () => `/job/edit/${longJob}`, "chosen-family"],
    ["place", () => `/place?family=${longId}`, "draw-plan"],
    ["every style", () => "/bench/pick?search=extraordinarily", "style-row"],
  ];
  test.each(PLACES)(
    "fits %s",
    async (name, path, ready) => {
      await browser.open(server.address + path());
      await browser.find(ready);
      await fits(browser, name);
    },
    240_000,
  );
  test("fits the filters and what can be done", async () => {
    await browser.open(`${server.address}/families`);
    await browser.click("filters");
    await browser.find("filter-tags");
    await fits(browser, "filters");
    await browser.click("close-sheet");
    await browser.click("choose");
    await browser.click("choose-all-fitting");
    await browser.click("act-more");
    await browser.find("act-remove");
    await fits(browser, "more");
    await browser.click("close-sheet");
    await browser.click("act-tag");
    await fits(browser, "tag");
  }, 240_000);
});

test("main screens fit at 200 %", async () => {
  const doubled = await Browser.start(DOUBLED);
  try {
    for (const [name, path, ready] of SCREENS.filter(([one]) =>
      ["Today", "Families", "family", "device", "place", "plan", "Sightings", "job", "bench sheet"].includes(one),
    )) {
      await doubled.open(server.address + path(world));
      await doubled.find(ready);
      // Of what can be done one control stays in view; the others scroll.
      const fixed = "return document.querySelectorAll('[data-testid=actions] [role=button]').length";
      expect([name, Number(await doubled.driver.executeScript(fixed)) <= 1]).toEqual([name, true]);
      await fits(doubled, name);
    }
  } finally {
    await doubled.quit();
  }
}, 240_000);
