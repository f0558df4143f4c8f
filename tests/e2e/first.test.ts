// The first minutes with an empty library, and the whole path by keyboard alone: from a download to what was seen in a program.
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { Key } from "selenium-webdriver";
import { DeviceSummary } from "../../contract/devices.ts";
import { FamilyPage } from "../../contract/families.ts";
import { axe, overflowing, smallTargets } from "./axe.ts";
import { Browser, PHONE, WIDE } from "./browser.ts";
import { TestServer } from "./server.ts";
import { downloads } from "./world.ts";

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start(false);
}, 240_000);
afterAll(() => server?.stop());

const get = async (path: string): Promise<unknown> => (await fetch(`${server.address}/api${path}`)).json();
const devices = async () => DeviceSummary.array().parse(await get("/devices"));

describe("an empty library on a phone", () => {
  let browser: Browser;
  beforeAll(async () => {
    browser = await Browser.start(PHONE);
  }, 240_000);
  afterAll(() => browser?.quit());

  test("the page says that it is opening before its code has come", async () => {
    expect(await (await fetch(`${server.address}/`)).text()).toContain("Buvano is opening");
  });
  test.each([
    ["/", "start"],
    ["/families", "empty"],
    ["/devices", "empty"],
    ["/sightings", "empty"],
    ["/jobs", "empty"],
    ["/bench", "bench"],
    ["/where", "where-practice"],
  ])("%s says what will be there, with a way on", async (path, ready) => {
    await browser.open(server.address + path);
    await browser.find(ready);
    expect(await axe(browser)).toEqual([]);
    expect(await smallTargets(browser)).toEqual([]);
    expect(await overflowing(browser)).toBe(false);
  });
  test("three steps lead to a placed family; practice devices come when they are asked for", async () => {
    expect(await devices()).toEqual([]);
    await browser.open(server.address);
    expect(await (await browser.find("start")).getText()).toContain("Bring in a download");
    await browser.give(join(downloads, "trellis-fair.zip"));
    await browser.click("shelve");
    await browser.find("family");
    await browser.click("tab-Today");
    await browser.click("start-where");
    await browser.click("where-practice");
    await browser.waitUntil("the practice devices are there", async () => (await devices()).length === 3);
    await browser.click("where-done");
    await browser.click("start-place");
    await browser.click("choose");
    await browser.click("choose-all-fitting");
    await browser.click("act-place");
    await browser.click("for-everyone");
    await browser.onDevice("Workshop laptop");
    await browser.click("draw-plan");
    // Nobody can know a practice device's passcode otherwise.
    expect(await (await browser.find("practice-passcode")).getText()).toContain("2580");
    await browser.type("passcode", "2580");
    await browser.click("do-plan");
    await browser.find("to-check");
    await browser.click("tab-Today");
    await browser.find("tasks");
    // What was shown before stands until the answer has come.
    await browser.waitUntil("nothing is left to begin with", async () => (await browser.all("start")).length === 0);
  }, 240_000);
  test("practice devices can be put away, and come back with what lay on them", async () => {
    await browser.open(`${server.address}/settings`);
    await browser.click("practice-on");
    await browser.waitUntil("they are away", async () => (await devices()).length === 0);
    await browser.click("practice-on");
    await browser.waitUntil("they are back", async () => (await devices()).some((device) => device.placedFonts > 0));
  });
  test("this computer and the programs used on it are named from a list", async () => {
    await browser.open(`${server.address}/where`);
    await browser.click("where-this-computer");
    await browser.click("where-office");
    await browser.type("where-name-office", "x".repeat(61));
    await browser.text("At most 60 characters.");
    // Nothing is sent that does not fit; what is wrong gets the focus.
    await browser.click("where-add");
    await browser.waitUntil("the name has the focus", async () => (await browser.focused()) === "where-name-office");
    expect((await devices()).find((device) => device.sort === "computer")!.programs).toEqual([]);
    await browser.type("where-name-office", "Letters");
    await browser.click("where-design");
    await browser.click("where-add");
    await browser.waitUntil("both are named", async () => {
      const own = (await devices()).find((device) => device.sort === "computer");
      return (
        own?.programs
          .map((program) => program.name)
          .toSorted()
          .join() === "Letters,My design program"
      );
    });
    // A name found to be another is learnt, and the way the program lists with it.
    const { families } = FamilyPage.parse(await get("/families"));
    const own = (await devices()).find((device) => device.sort === "computer")!;
    const letters = own.programs.find((program) => program.name === "Letters")!;
    const { styleList } = (await get(`/families/${families[0]!.id}`)) as { styleList: { id: number; postScriptName: string }[] };
    await browser.open(`${server.address}/cell/${styleList[0]!.id}/${letters.id}`);
    await browser.click("to-other-name");
    await browser.type("other-name", styleList[0]!.postScriptName);
    await browser.click("keep-name");
    await browser.waitUntil(
      "it is predicted so",
      async () => (await (await browser.find("menu-name")).getText()) === styleList[0]!.postScriptName,
    );
    await browser.click("learn-lists");
    await browser.waitUntil("the program is known to list so", async () => {
      const known = (await get(`/programs/${letters.id}`)) as { traits: { lists: string } };
      return known.traits.lists === "postscript-names";
    });
  }, 240_000);
});

describe("the keyboard alone", () => {
  let browser: Browser;
  beforeAll(async () => {
    browser = await Browser.start(WIDE);
  }, 240_000);
  afterAll(() => browser?.quit());

  const press = (...keys: string[]) =>
    browser.driver
      .actions()
      .sendKeys(...keys)
      .perform();
  const focused = () => browser.focused();
  /** Tabs on until something has the focus. */
  const reach = async (testId: string): Promise<void> => {
    await browser.find(testId);
    for (let i = 0; i < 90 && (await focused()) !== testId; i++) await press(Key.TAB);
    expect(await focused()).toBe(testId);
  };

  test("past the tabs by the first key, to the tabs by digits, to the list of keys by ?", async () => {
    await browser.open(server.address);
    await browser.find("bring");
    await press(Key.TAB);
    expect(await focused()).toBe("skip-link");
    await press(Key.ENTER);
    expect(await browser.driver.executeScript("return document.activeElement.id")).toBe("content");
    await press("2");
    await browser.find("family-card");
    await press("?");
    await browser.find("keys-sheet");
    expect(await axe(browser)).toEqual([]);
    await press(Key.ESCAPE);
    await browser.waitUntil("the list is closed", async () => (await browser.all("keys-sheet")).length === 0);
    await press("f");
    await browser.waitUntil("the search has the focus", async () => (await focused()) === "search");
    // Where somebody types, keys are letters.
    await press("3");
    expect(await (await browser.find("search")).getAttribute("value")).toBe("3");
    expect(await browser.driver.getCurrentUrl()).toContain("/families");
  }, 240_000);
  test("single keys can be turned off", async () => {
    await browser.open(`${server.address}/families`);
    await browser.find("family-card");
    await press("?");
    await browser.click("letters-on");
    await press(Key.ESCAPE);
    await browser.waitUntil("it is closed", async () => (await browser.all("keys-sheet")).length === 0);
    await press("3");
    expect(await browser.driver.getCurrentUrl()).toContain("/families");
    await browser.click("keys");
    await browser.click("letters-on");
    await press(Key.ESCAPE);
  }, 240_000);
  test("arrows move among answers, choosing as they go", async () => {
    const { families } = FamilyPage.parse(await get("/families"));
    await browser.open(`${server.address}/place?family=${families[0]!.id}`);
    const chosen = (answer: string) => async () => (await (await browser.find(answer)).getAttribute("aria-checked")) === "true";
    await reach("for-me");
    await press(Key.ARROW_DOWN);
    await browser.waitUntil("the next one is chosen", chosen("for-everyone"));
    await press(Key.ARROW_UP);
    await browser.waitUntil("and the one before", chosen("for-me"));
  }, 240_000);
  test("from a family to what was seen of it", async () => {
    await browser.open(`${server.address}/families`);
    await reach("family-card");
    await press(Key.ENTER);
    await browser.find("family");
    // The focus went where Enter led, beside the list too.
    expect(await browser.driver.executeScript("return document.activeElement.closest('[data-testid=family]') !== null")).toBe(true);
    await reach("place");
    await press(Key.ENTER);
    const own = (await devices()).find((device) => device.sort === "computer")!;
    await reach(`device-${own.name}`);
    await press(Key.SPACE);
    await reach("draw-plan");
    await press(Key.ENTER);
    // What is next has a key of its own.
    await browser.find("do-plan");
    await press("n");
    await browser.find("to-check");
    await press("n");
    await browser.find("cell-state");
    await reach("saw-there");
    await press(Key.ENTER);
    await browser.waitUntil("it counts as seen", async () => (await (await browser.find("cell-state")).getText()).includes("Seen"));
    await press("b");
    await browser.find("to-check");
  }, 240_000);
});
