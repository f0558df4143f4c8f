// Every screen on a phone and wide, light and dark: nothing for axe-core to find, nothing too small for a thumb, nothing cut off.
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { axe, overflowing, smallTargets } from "./axe.ts";
import { Browser, PHONE, WIDE } from "./browser.ts";
import { SCREENS } from "./screens.ts";
import { TestServer } from "./server.ts";
import { startWorld, type World } from "./world.ts";

let server: TestServer;
let world: World;
beforeAll(async () => {
  ({ server, world } = await startWorld());
}, 240_000);
afterAll(() => server?.stop());

describe.each([
  ["phone, light", PHONE, false],
  ["phone, dark", PHONE, true],
  ["wide, light", WIDE, false],
])("%s", (_how, size, dark) => {
  let browser: Browser;
  beforeAll(async () => {
    browser = await Browser.start(size, dark);
  }, 240_000);
  afterAll(() => browser?.quit());

  test.each(SCREENS)(
    "%s",
    async (_name, path, ready) => {
      await browser.open(server.address + path(world));
      await browser.find(ready);
      expect(await axe(browser)).toEqual([]);
      expect(await smallTargets(browser)).toEqual([]);
      expect(await overflowing(browser)).toBe(false);
    },
    240_000,
  );
});

describe("wide", () => {
  let browser: Browser;
  beforeAll(async () => {
    browser = await Browser.start(WIDE);
  }, 240_000);
  afterAll(() => browser?.quit());

  const left = async (testId: string): Promise<number> => (await (await browser.find(testId)).getRect()).x;

  test("the rail is at the left, list and detail are side by side", async () => {
    await browser.open(`${server.address}/families`);
    await browser.find("family-card");
    expect(await left("tab-Today")).toBeLessThan(10);
    await browser.clickText("Trellis Fair");
    await browser.find("family");
    const list = await (await browser.find("families")).getRect();
    const detail = await (await browser.find("family")).getRect();
    expect(list.x + list.width).toBeLessThanOrEqual(detail.x + 1);
    expect(detail.width).toBeGreaterThan(500);
  });
  test("the board shows families against programs", async () => {
    await browser.open(`${server.address}/sightings`);
    await browser.find("board-row");
    expect((await browser.all("cell")).length).toBe((await browser.all("board-row")).length * 7);
    // Filtered by device and state it shows only what was asked for.
    const counts = async () => [(await browser.all("board-row")).length, (await browser.all("cell")).length];
    await browser.choose("board-device", "Office desktop");
    await browser.waitUntil("one device's programs are shown", async () => (await counts())[1] === (await counts())[0]! * 3);
    await browser.choose("board-device", "Every device");
    await browser.choose("board-state", "Seen");
    await browser.waitUntil("one family was seen", async () => (await counts())[0] === 1);
    const cell = await browser.driver.findElement({ css: '[aria-label="Trellis Fair in Letter Desk on Workshop laptop: Seen"]' });
    await cell.click();
    expect(await (await browser.find("cell-state")).getText()).toContain("Seen");
  });
  test("the keyboard alone reaches and opens a family", async () => {
    await browser.open(`${server.address}/`);
    await browser.find("tab-Families");
    const focused = async () =>
      (await browser.driver.executeScript("return document.activeElement.closest('[data-testid]')?.dataset.testid ?? ''")) as string;
    const press = async (key: string, wanted: string) => {
      for (let i = 0; i < 40 && (await focused()) !== wanted; i++) await browser.driver.actions().sendKeys(key).perform();
      expect(await focused()).toBe(wanted);
    };
    await press("\uE004", "tab-Families");
    await browser.driver.actions().sendKeys("\uE007").perform();
    await browser.find("family-card");
    await press("\uE004", "family-card");
    await browser.driver.actions().sendKeys("\uE007").perform();
    await browser.find("family");
  });
});

describe("bad input in the interface", () => {
  let browser: Browser;
  beforeAll(async () => {
    browser = await Browser.start(PHONE);
  }, 240_000);
  afterAll(() => browser?.quit());
  test("a file that is no archive: a sentence, and it can be removed", async () => {
    await browser.open(server.address);
    await browser.find("bring");
    await browser.give(`${process.cwd()}/package.json`);
    const problem = await (await browser.find("problem")).getText();
    expect(problem).toContain("This is not an archive that can be opened.");
    await browser.click("remove-parcel");
    await browser.find("bring");
    const rows = async () => (await Promise.all((await browser.all("parcel-row")).map((row) => row.getText()))).join();
    await browser.find("parcel-row");
    expect(await rows()).not.toContain("package.json");
    await browser.click("undo");
    await browser.waitUntil("it is back", async () => (await rows()).includes("package.json"));
  });
  test("no server: the sentence says so, and a pin that cannot be kept does not stand", async () => {
    await browser.open(`${server.address}/families`);
    await browser.click("family-card");
    await browser.find("pin");
    await server.kill();
    await browser.click("pin");
    expect(await (await browser.find("problem")).getText()).toContain("Buvano's server cannot be reached.");
    expect(await (await browser.find("pin")).getAttribute("aria-pressed")).toBe("false");
    await browser.click("tab-Devices");
    expect(await (await browser.find("problem")).getText()).toContain("Buvano's server cannot be reached.");
  });
});
