// Hands: what people do every day takes few taps, many at once are acted on as one, and all of it has a way back. Taps are counted; more
// than the table says fails.
import { readFile, writeFile, mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "@jest/globals";
import { zipSync } from "fflate";
import { By, Key } from "selenium-webdriver";
import { FamilyCounts, FamilyPage } from "../../contract/families.ts";
import { ParcelPage } from "../../contract/parcels.ts";
import { renamedTables } from "../../demo/writing/rename.ts";
import { axe } from "./axe.ts";
import { Browser, PHONE, WIDE } from "./browser.ts";
import { ROOT, TestServer } from "./server.ts";
import { downloads } from "./world.ts";

/** Eight parcels of four families each, and one in Hebrew. */
const PARCELS = 8;
const FAMILIES = 32;
const GREENS = ["Sorrel", "Chervil", "Borage", "Lovage", "Purslane", "Orache", "Rampion", "Skirret"];
const SORTS = ["Plain", "Narrow", "Garden", "Field"];

let server: TestServer;
let browser: Browser;
let wide: Browser;
let folder: string;
let taps = 0;

const tap = async (testId: string): Promise<void> => {
  taps++;
  await browser.click(testId);
};
const count = async (testId: string): Promise<number> => (await browser.all(testId)).length;
const get = async (path: string): Promise<unknown> => (await fetch(`${server.address}/api${path}`)).json();
const families = async (query = ""): Promise<FamilyPage> => FamilyPage.parse(await get(`/families?${query}`));
const until = (what: string, test: () => Promise<boolean>): Promise<void> => browser.waitUntil(what, test);

beforeAll(async () => {
  server = await TestServer.start();
  browser = await Browser.start(PHONE);
  wide = await Browser.start(WIDE);
  folder = await mkdtemp(join(tmpdir(), "buvano-hands-"));
  const base = await readFile(join(ROOT, "build", "demo", "built-in", "WrenSmall-Regular.ttf"));
  for (const green of GREENS) {
    const files = SORTS.map((sort) => {
      const family = `${green} ${sort}`;
      return [`${green}/${family.replace(" ", "")}.ttf`, renamedTables(base, { family, style: "Regular", version: "1.000" })] as const;
    });
    await writeFile(join(folder, `${green.toLowerCase()}.zip`), zipSync(Object.fromEntries(files)));
  }
  await browser.open(server.address);
  await browser.give(GREENS.map((green) => join(folder, `${green.toLowerCase()}.zip`)).join("\n"));
  await until("all parcels are unpacked", async () => {
    const { parcels } = ParcelPage.parse(await get("/parcels?limit=50"));
    return parcels.length === PARCELS && parcels.every((one) => one.state === "ready");
  });
}, 240_000);
afterAll(async () => {
  await browser?.quit();
  await wide?.quit();
  await server?.stop();
  await rm(folder, { recursive: true, force: true });
}, 240_000);
beforeEach(() => {
  taps = 0;
});

describe("in few taps", () => {
  test("eight parcels are shelved with one, and that is undone with another", async () => {
    await browser.open(server.address);
    await browser.find("shelve-all");
    await tap("shelve-all");
    await until("they are on the shelf", async () => (await families()).total === FAMILIES);
    await tap("undo");
    await until("they are not", async () => (await families()).total === 0);
    expect(taps).toBeLessThanOrEqual(2);
    await tap("shelve-all");
    await until("they are again", async () => (await families()).total === FAMILIES);
  }, 240_000);

  test("thirty families are placed with six from the list", async () => {
    await browser.open(`${server.address}/families`);
    await tap("choose");
    await tap("choose-all-fitting");
    await until("all are chosen", async () => (await (await browser.find("chosen-count")).getText()) === `${FAMILIES} families chosen`);
    await tap("act-place");
    await tap("device-Workshop laptop");
    await tap("draw-plan");
    await tap("do-plan");
    await browser.find("to-check");
    expect(taps).toBeLessThanOrEqual(6);
    const counts = FamilyCounts.parse(await get("/families/counts"));
    expect(counts.at.placed ?? 0).toBe(0);
    // What was chosen was acted on: nothing is chosen any more.
    await browser.click("tab-Families");
    await browser.find("family-card");
    expect(await count("choose-bar")).toBe(0);
  }, 240_000);

  test("what was placed is looked at with one tap on the plan's result", async () => {
    await browser.open(`${server.address}/device/1`);
    await browser.click("undo-past");
    await browser.find("to-check");
    taps = 0;
    await tap("to-check");
    await until("the page that checks all of them is there", async () => (await browser.words()).includes("Poster Desk"));
    expect(await browser.driver.getCurrentUrl()).toMatch(/\/check\?program=\d+$/);
    expect(taps).toBe(1);
  }, 240_000);

  test("thirty families are pinned, tagged and removed with five each, and each is undone", async () => {
    const choosing = async () => {
      await browser.open(`${server.address}/families`);
      taps = 0;
      await tap("choose");
      await tap("choose-all-fitting");
    };
    await choosing();
    await tap("act-more");
    await tap("act-pin");
    await until("all are pinned", async () => (await families("pinned=yes")).total === FAMILIES);
    expect(taps).toBeLessThanOrEqual(5);
    await tap("undo");
    await until("none is", async () => (await families("pinned=yes")).total === 0);

    await choosing();
    await tap("act-tag");
    await browser.type("new-tag", "Herb garden");
    await tap("add-tag");
    await until("all bear it", async () => (await families("search=herb+garden")).total === FAMILIES);
    expect(taps).toBeLessThanOrEqual(5);
    await tap("undo");
    await until("none does", async () => (await families("search=herb+garden")).total === 0);

    await choosing();
    await tap("act-more");
    await tap("act-remove");
    await until("the shelf is empty", async () => (await families()).total === 0);
    expect(taps).toBeLessThanOrEqual(5);
    // Leaving the page loses no way back: Today has it.
    await browser.open(server.address);
    await browser.click("undo-past");
    await until("all are back", async () => (await families()).total === FAMILIES);
  }, 240_000);

  test("thirty families are turned off with five, and undone where they are", async () => {
    await browser.open(`${server.address}/families`);
    await tap("choose");
    await tap("choose-all-fitting");
    await tap("act-more");
    await tap("turn-off-Workshop laptop");
    await tap("do-plan");
    await browser.find("undo-plan");
    expect(taps).toBeLessThanOrEqual(5);
    await browser.open(`${server.address}/device/1`);
    expect(await (await browser.find("device-history")).getText()).toContain("turned off");
    await browser.click("undo-past");
    await browser.click("undo-plan");
    await until("they are on again", async () => /32 files turned on|Taken back/.test(await browser.words()));
  }, 240_000);

  test("Hebrew families are found with two taps, or by typing", async () => {
    await browser.open(server.address);
    await browser.give(join(downloads, "shvil-hebrew.zip"));
    await browser.click("shelve");
    await until("it is on the shelf", async () => (await families()).total === FAMILIES + 2);
    await browser.open(`${server.address}/families`);
    taps = 0;
    await tap("filters");
    await tap("filter-hebrew");
    await until(
      "two are counted before the sheet is closed",
      async () => (await (await browser.find("show-filtered")).getText()) === "Show 2 families",
    );
    expect(taps).toBe(2);
    await browser.click("show-filtered");
    await until("two are left", async () => (await count("family-card")) === 2);
    // The filter stands as a chip, in the address, and goes by a tap.
    expect(await (await browser.find("filter-chip")).getText()).toBe("Hebrew");
    await until("the address says so", async () => (await browser.driver.getCurrentUrl()).includes("script=hebrew"));
    await browser.click("filter-chip");
    await until("all are back", async () => (await count("family-card")) > 2);
    await browser.type("search", "hebrew");
    await until("typing finds them", async () => (await count("family-card")) === 2);
    // Shown in words of that script once they are set.
    await browser.click("other-scripts");
    await browser.type("words-hebrew", "שביל הזרעים");
    await browser.click("close-sheet");
    await until("they are shown in them", async () =>
      (await Promise.all((await browser.all("specimen")).map((one) => one.getText()))).every((text) => text === "שביל הזרעים"),
    );
    expect(await browser.words()).toContain("Shown in your words in Hebrew.");
    await browser.type("search", "hebrwe");
    await browser.find("near");
    expect(await count("family-card")).toBe(2);
  }, 240_000);
});

test("the address brings search, filter and order into another tab", async () => {
  await browser.open(`${server.address}/families`);
  await browser.type("search", "sorrel");
  await browser.choose("sort", "Newest first");
  await until("the address says both", async () =>
    /search=sorrel.*sort=newest|sort=newest.*search=sorrel/.test(await browser.driver.getCurrentUrl()),
  );
  await wide.open(await browser.driver.getCurrentUrl());
  await wide.waitUntil("four are there", async () => (await wide.all("family-card")).length === 4);
  expect(await (await wide.find("search")).getAttribute("value")).toBe("sorrel");
}, 240_000);

describe("many at once by hand", () => {
  const keysChosen = async (page: Browser): Promise<string[]> =>
    page.driver.executeScript(
      "return [...document.querySelectorAll('[role=checkbox][aria-checked=true]')].map((one) => one.closest('[data-choose]').textContent)",
    );
  const cards = (page: Browser) => page.driver.findElements(By.css("[data-testid=family-card]"));

  test("a long press begins, a tap goes on, the cross ends", async () => {
    await browser.open(`${server.address}/families`);
    await browser.waitUntil("the list is there", async () => (await cards(browser)).length > 2);
    const [first, second] = (await cards(browser)) as [
      Awaited<ReturnType<typeof cards>>[number],
      Awaited<ReturnType<typeof cards>>[number],
    ];
    await browser.driver.executeScript("arguments[0].scrollIntoView({block: 'center'})", first);
    await browser.driver.actions().move({ origin: first }).press().pause(700).release().perform();
    await browser.find("choose-bar");
    expect(await keysChosen(browser)).toHaveLength(1);
    await second.click();
    expect(await keysChosen(browser)).toHaveLength(2);
    await first.click();
    expect(await keysChosen(browser)).toHaveLength(1);
    await browser.click("stop-choosing");
    await until("the bar is gone", async () => (await count("choose-bar")) === 0);
    // A tap leads to the family again.
    await (await browser.find("family-card")).click();
    await browser.find("family");
  }, 240_000);

  test("Ctrl-click begins, Shift takes all between, Ctrl+A all, Escape ends", async () => {
    await wide.open(`${server.address}/families`);
    await wide.waitUntil("the list is there", async () => (await cards(wide)).length > 3);
    const [a, , c] = await cards(wide);
    await wide.driver.actions().keyDown(Key.CONTROL).click(a).keyUp(Key.CONTROL).perform();
    await wide.find("choose-bar");
    await wide.driver.actions().keyDown(Key.SHIFT).click(c).keyUp(Key.SHIFT).perform();
    await wide.waitUntil("three are chosen", async () => (await keysChosen(wide)).length === 3);
    await wide.driver.actions().keyDown(Key.CONTROL).sendKeys("a").keyUp(Key.CONTROL).perform();
    await wide.waitUntil("all are", async () => (await (await wide.find("chosen-count")).getText()) === `${FAMILIES + 2} families chosen`);
    await wide.driver.actions().sendKeys(Key.ESCAPE).perform();
    await wide.waitUntil("none is", async () => (await wide.all("choose-bar")).length === 0);
  }, 240_000);

  test("on the keyboard alone: Space chooses, and what can be done is reached and done", async () => {
    await wide.open(`${server.address}/families`);
    await wide.find("family-card");
    const [card] = await cards(wide);
    await wide.driver.executeScript("arguments[0].focus()", card);
    await wide.driver.actions().sendKeys(Key.SPACE).perform();
    await wide.find("choose-bar");
    expect(await keysChosen(wide)).toHaveLength(1);
    // The bar follows the list: tabbing on reaches it.
    const focused = () => wide.focused();
    for (let i = 0; i < 80 && (await focused()) !== "act-more"; i++) await wide.driver.actions().sendKeys(Key.TAB).perform();
    expect(await focused()).toBe("act-more");
    await wide.driver.actions().sendKeys(Key.ENTER).perform();
    await wide.find("more-sheet");
    // Focus has moved into the sheet, and comes back when Escape closes it.
    await wide.waitUntil("focus is in the sheet", async () =>
      wide.driver.executeScript<boolean>("return document.querySelector('[data-testid=more-sheet]').contains(document.activeElement)"),
    );
    await wide.driver.actions().sendKeys(Key.ESCAPE).perform();
    await wide.waitUntil("the sheet is closed", async () => (await wide.all("more-sheet")).length === 0);
    await wide.waitUntil("focus is where it was", async () => (await focused()) === "act-more");
  }, 240_000);

  test("styles, fonts of a device and cells of the board are chosen too", async () => {
    await browser.open(`${server.address}/device/1`);
    await browser.click("choose-fonts");
    await browser.click("choose-all-fitting");
    await until("all fonts are chosen", async () => (await (await browser.find("chosen-count")).getText()) === `${FAMILIES} fonts chosen`);
    await browser.click("fonts-off");
    await browser.click("do-plan");
    await browser.click("undo-plan");
    await until("it is taken back", async () => (await browser.words()).includes("Taken back"));

    await browser.open(`${server.address}/sightings`);
    await browser.click("choose-cells");
    await browser.click("choose-all-fitting");
    // A program that was not reopened cannot have been seen with them: that is asked about.
    await browser.click("cells-seen");
    expect(await (await browser.find("cells-doubt")).getText()).toContain("has not been reopened");
    await fetch(`${server.address}/api/practice/1/open`, { method: "POST" });
    await browser.click("cells-seen");
    await browser.find("undo");
    const board = (await get("/board?limit=200")) as { rows: { cells: { state: string }[] }[] };
    expect(board.rows.filter((row) => row.cells[0]!.state === "seen")).toHaveLength(FAMILIES);
    await browser.click("undo");
    await until("none is seen", async () => {
      const now = (await get("/board?limit=200")) as { rows: { cells: { state: string }[] }[] };
      return now.rows.every((row) => row.cells[0]!.state !== "seen");
    });
  }, 240_000);

  test("chosen families are compared on a sheet with a line for each of the first twelve", async () => {
    await browser.open(`${server.address}/families`);
    await browser.click("choose");
    await browser.click("choose-all-fitting");
    await browser.click("act-more");
    await browser.click("act-compare");
    await browser.find("sheet-line");
    const sheets = (await get("/bench/sheets")) as { lines: number }[];
    expect(sheets.map(({ lines }) => lines)).toEqual([12]);
  });

  test("a quick check asks about the chosen families or cells alone, until everything is asked for", async () => {
    await browser.open(`${server.address}/families`);
    await browser.click("choose");
    for (const card of (await browser.all("family-card")).slice(0, 2)) await card.click();
    await browser.click("act-more");
    await browser.click("check-Workshop laptop");
    await browser.text("Only what you chose: 2 families.");
    await browser.text("2 styles not checked yet in ");
    expect(await axe(browser)).toEqual([]);
    // A second tab sees the same: the address holds it.
    await browser.open(await browser.driver.getCurrentUrl());
    await browser.text("Only what you chose: 2 families.");
    await browser.click("check-everything");
    await browser.text(`${FAMILIES} styles not checked yet in `);
    expect(await browser.driver.getCurrentUrl()).not.toContain("families=");

    await browser.open(`${server.address}/sightings`);
    await browser.click("choose-cells");
    await browser.click("choose-all-fitting");
    // On a phone the board shows one program, so all of its cells can be checked on one page.
    await until("all are chosen", async () => /^\d+ cells chosen$/.test(await (await browser.find("chosen-count")).getText()));
    const [cells] = (await (await browser.find("chosen-count")).getText()).split(" ");
    await browser.click("cells-check");
    await browser.text(`Only what you chose: ${cells} styles.`);
    await browser.open(`${server.address}/sightings`);
    await browser.click("choose-cells");
    await browser.find("choose-bar");
    // Whoever begins to choose families is done with cells.
    await browser.click("tab-Families");
    await browser.click("choose");
    await browser.click("tab-Sightings");
    await browser.find("choose-cells");
    expect(await count("choose-bar")).toBe(0);
  }, 240_000);

  test("thirty families go to a tablet in one profile, with one passcode", async () => {
    const tablet = ((await get("/devices")) as { id: number; name: string }[]).find(({ name }) => name === "Greenhouse tablet")!;
    await browser.open(`${server.address}/families`);
    await browser.click("choose");
    await browser.click("choose-all-fitting");
    await browser.click("act-place");
    await browser.onDevice("Greenhouse tablet");
    await browser.click("draw-plan");
    await browser.text("Greenhouse tablet itself will ask for the passcode once, instead of");
    await browser.click("do-plan");
    await browser.open(`${server.address}/tablet-room/${tablet.id}`);
    await browser.text("Fonts from Buvano, ");
    const { profiles } = (await get(`/devices/${tablet.id}/profiles`)) as { profiles: { fonts: string[] }[] };
    expect(profiles.map(({ fonts }) => fonts.length >= FAMILIES)).toEqual([true]);
  }, 240_000);
});

test.each(["filters", "act-place", "act-tag", "act-more"])(
  "the sheet of %s is accessible",
  async (opens) => {
    await browser.open(`${server.address}/families`);
    if (opens !== "filters") {
      await browser.click("choose");
      await browser.click("choose-all-fitting");
    }
    await browser.click(opens);
    await browser.find("close-sheet");
    expect(await axe(browser)).toEqual([]);
  },
  240_000,
);
