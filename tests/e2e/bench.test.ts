// The bench as a person uses it, on a phone and on a wide screen: one word in many styles, one letter with the right curl, two candidates for a client, a sign
// out of a symbol font, the forms a font hides, a face with its shade, Hebrew beside Latin; kept, undone, proved.
import { execFileSync } from "node:child_process";
import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { SheetSummary, StylePage } from "../../contract/bench.ts";
import { axe } from "./axe.ts";
import { Browser, PHONE, WIDE } from "./browser.ts";
import { TestServer } from "./server.ts";
import { startFilled } from "./world.ts";

const EB_GARAMOND = "/usr/share/fonts/opentype/ebgaramond/EBGaramond12-Regular.otf";
let server: TestServer;
let styles: StylePage["styles"];
beforeAll(async () => {
  server = await startFilled();
  const form = new FormData();
  form.append("file", new Blob([Uint8Array.from(readFileSync(EB_GARAMOND))]), "features.otf");
  const { id } = (await (await fetch(`${server.address}/api/parcels`, { method: "POST", body: form })).json()) as { id: number };
  for (let state = ""; state !== "ready";) {
    state = ((await (await fetch(`${server.address}/api/parcels/${id}`)).json()) as { state: string }).state;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  await fetch(`${server.address}/api/parcels/${id}/shelve`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: "{}",
  });
  styles = StylePage.parse(await (await fetch(`${server.address}/api/bench/styles?limit=200`)).json()).styles;
}, 240_000);
afterAll(() => server?.stop(), 30_000);

const styleId = (family: RegExp): number => styles.find((one) => family.test(one.family))!.styleId;
const sheets = async () => SheetSummary.array().parse(await (await fetch(`${server.address}/api/bench/sheets`)).json());
const sheetId = async (name: string): Promise<number> => (await sheets()).find((one) => one.name === name)!.id;

describe.each([
  ["a phone", PHONE],
  ["a wide screen", WIDE],
])("on %s", (where, size) => {
  let browser: Browser;
  beforeAll(async () => {
    browser = await Browser.start(size);
  }, 240_000);
  afterAll(() => browser?.quit(), 30_000);
  const textOf = async (testId: string): Promise<string> => (await browser.find(testId)).getText();
  const drawn = (testId: string) =>
    browser.driver.executeScript<number>(`return document.querySelectorAll('[data-testid=${testId}] svg path').length`);
  const lineLabel = async (): Promise<string> => (await (await browser.find("line-0")).getAttribute("aria-label")) ?? "";
  const saved = () => browser.waitUntil("it is saved", async () => (await textOf("sheet")).includes("Saved."));

  test("only the drawing worker may run WebAssembly; pages keep the strict policy", async () => {
    const policy = async (path: string) => (await fetch(`${server.address}${path}`)).headers.get("content-security-policy") ?? "";
    expect(await policy("/work/draw.js")).toContain("script-src 'self' 'wasm-unsafe-eval';");
    for (const path of ["/", "/bench", "/api/today"]) expect(await policy(path)).toContain("script-src 'self';");
  });

  test("one's own words in every style; those pinned become lines that are kept", async () => {
    await browser.open(`${server.address}/bench`);
    await browser.click("new-sheet");
    await browser.type("words", "Wild fennel");
    await browser.waitUntil("words are drawn", async () => (await drawn("style-row")) >= 3);
    expect(await axe(browser)).toEqual([]);
    await browser.type("search", "Trellis");
    await browser.waitUntil("one is left", async () => (await browser.all("style-row")).length === 1);
    await browser.click("style-row");
    await browser.type("search", "Tendril");
    await browser.waitUntil("another is left", async () => (await textOf("style-row")).includes("Tendril"));
    await browser.click("style-row");
    await browser.click("put-lines");
    await browser.waitUntil("both lines are drawn", async () => (await drawn("drawn-line")) >= 2);
    expect(await textOf("sheet")).toContain("Trellis Fair Regular");
    expect(await axe(browser)).toEqual([]);
    await browser.driver.navigate().refresh();
    await browser.waitUntil("both are there after a reload", async () => (await browser.all("line")).length === 2);
  }, 240_000);

  test("a line is edited, undone and done again; a face with hollow capitals is told of", async () => {
    await browser.click("line-0");
    expect(await textOf("capitals-note")).toContain("Capitals are outlines");
    await browser.type("line-text", "Seed Walk");
    await browser.waitUntil("the words are in the line", async () => (await lineLabel()).includes("Seed Walk"));
    await saved();
    await browser.choose("size-of", "Height of capitals");
    await saved();
    expect(await axe(browser)).toEqual([]);
    // What was typed slowly is more than one step.
    let steps = 0;
    for (; !(await lineLabel()).includes("Wild fennel"); steps++) {
      if (steps > 12) throw new Error("The words never came back.");
      await browser.click("step-back");
      await saved();
    }
    expect(steps).toBeGreaterThanOrEqual(2);
    for (; steps > 0; steps--) await browser.click("step-forward");
    await browser.waitUntil("and back again", async () => (await lineLabel()).includes("Seed Walk"));
    await browser.click("partners");
    await browser.text("The family has no bold to go with this style. A program may fake one:");
  }, 240_000);

  test("two candidates side by side, what differs in words, laid over one another, and the choice recorded in the job", async () => {
    await browser.open(`${server.address}/bench/sheet/${await sheetId("Poster title")}`);
    await browser.click("view-compare");
    await browser.waitUntil("three are drawn", async () => (await drawn("candidate")) >= 3);
    await browser.waitUntil("they are compared", async () => /Against A: \d+ % (wider|narrower)/.test(await textOf("compare")));
    await browser.click("overlay");
    await browser.waitUntil("two lie over one another", async () => (await drawn("overlay-view")) === 2);
    expect(await axe(browser)).toEqual([]);
    await browser.click("choose-B");
    await browser.text("Chosen for the job.");
    await browser.open(`${server.address}/jobs`);
    await browser.clickText("Opening poster");
    expect(await textOf("choices")).toMatch(/Chosen: Trellis Fair Regular\s+Considered: Almanac Field Bold, Frostbloom Regular/);
  }, 240_000);

  test("one letter in every style, arranged by likeness", async () => {
    await browser.open(`${server.address}/bench/pick?letter=1`);
    await browser.type("letter", "R");
    await browser.waitUntil("letters are drawn", async () => (await drawn("style-row")) >= 2);
    await browser.type("search", "Almanac");
    await browser.waitUntil("only they are listed", async () => (await textOf("pick")).includes("18 styles"));
    await (await browser.all("style-row"))[2]!.click();
    await browser.click("by-likeness");
    await browser.waitUntil("the pinned one is first", async () => {
      const [first] = await browser.all("style-row");
      return (await first!.getAttribute("aria-checked")) === "true";
    });
    expect(await axe(browser)).toEqual([]);
  }, 240_000);

  test("a watering can out of a symbol font: found by word, copied as what is needed, and who else draws it", async () => {
    await browser.open(`${server.address}/bench/glyphs/${styleId(/Seedmarks Two/)}`);
    await browser.type("find-glyph", "watering can");
    await browser.waitUntil("one is found", async () => (await textOf("glyphs")).includes("1 glyph found"));
    await browser.driver.executeScript("document.querySelector('[data-testid^=\"glyph-\"]').click()");
    await browser.waitUntil("it is named", async () => (await textOf("glyph-title")) === "watering can");
    expect(await textOf("glyph-card")).toContain("U+E204");
    expect(await axe(browser)).toEqual([]);
    await browser.click("save-svg");
    await browser.waitUntil("the drawing is saved", async () => existsSync(join(browser.downloads, "watering-can.svg")));
    await browser.open(`${server.address}/bench/draws`);
    await browser.type("draws-text", "watering");
    await browser.waitUntil("it is found in every style", async () => (await textOf("signs-found")).includes("Seedmarks Two"));
    await browser.click("sign-found");
    await browser.waitUntil("its font is opened at it", async () => (await textOf("glyphs")).includes("1 glyph found"));
    await browser.driver.executeScript("document.querySelector('[data-testid^=\"glyph-\"]').click()");
    await browser.click("who-else");
    await browser.waitUntil("it is told", async () => (await textOf("draws-character")).includes("Regular: draws it"));
    expect(await axe(browser)).toEqual([]);
  }, 240_000);

  test("forms a font hides: small capitals on one's own words, marked, and how to reach a glyph without a character", async () => {
    await browser.open(`${server.address}/bench/glyphs/${styleId(/Garamond/)}`);
    await browser.waitUntil(
      "glyphs are drawn",
      async () =>
        (await browser.driver.executeScript<number>("return document.querySelectorAll('[data-testid=glyphs] svg path').length")) > 20,
    );
    await browser.type("find-glyph", "1");
    const found = () => browser.driver.executeScript<number>("return document.querySelectorAll('[data-testid^=\"glyph-\"]').length");
    await browser.waitUntil("forms of it are found", async () => /\d+ glyphs found/.test(await textOf("glyphs")) && (await found()) > 1);
    await browser.driver.executeScript("document.querySelectorAll('[data-testid^=\"glyph-\"]')[1].click()");
    await browser.waitUntil("the way is told", async () => /Write 1, turn on .+\./.test(await textOf("glyph-card")));
    expect(await textOf("glyph-programs")).toBe("Poster Desk can turn it on and off.");
    await browser.open(`${server.address}/bench/pick`);
    await browser.type("words", "Walk 14");
    await browser.type("search", "Garamond");
    await browser.waitUntil("one is left", async () => (await browser.all("style-row")).length === 1);
    await browser.click("style-row");
    await browser.click("put-lines");
    await browser.click("line-0");
    await browser.find("feature-smcp");
    const before = await drawn("drawn-line");
    await browser.driver.executeScript("document.querySelector('[data-testid=feature-smcp] [role=switch]').click()");
    await browser.waitUntil("what changed is marked", async () => (await drawn("drawn-line")) > before);
    expect(await textOf("feature-smcp")).toContain("Poster Desk can turn it on and off.");
    await saved();
  }, 240_000);

  test("a face with its shade in two colours lines up; Hebrew stands beside Latin", async () => {
    await browser.open(`${server.address}/bench/sheet/${await sheetId("Shop sign, two colours")}`);
    await browser.waitUntil("it lines up", async () => (await textOf("sheet")).includes("Layer 2: every letter lines up."));
    await browser.waitUntil("all layers are drawn", async () => (await drawn("drawn-line")) > 2);
    await browser.open(`${server.address}/bench/sheet/${await sheetId("Leaflet in two languages")}`);
    await browser.click("line-0");
    await browser.type("line-text", "שביל Walk");
    await browser.waitUntil("what is missing is named", async () =>
      (await textOf("sheet")).includes("4 letters from another font: W a l k"),
    );
    for (let steps = 0; (await textOf("sheet")).includes("letters from another font"); steps++) {
      if (steps > 12) throw new Error("The words never came back.");
      await browser.click("step-back");
      await saved();
    }
  }, 240_000);

  test("a proof for the client", async () => {
    await browser.open(`${server.address}/bench/sheet/${await sheetId("Poster title")}`);
    await browser.click("proof");
    const path = join(browser.downloads, "Poster title.pdf");
    await browser.waitUntil("it is saved", async () => existsSync(path));
    expect(execFileSync("pdftotext", [path, "-"], { encoding: "utf8" })).toContain("Spring opening");
  }, 240_000);

  if (where === "a phone")
    test("the second tab's change is not lost: this one says so and shows it", async () => {
      const id = await sheetId("Leaflet in two languages");
      await browser.open(`${server.address}/bench/sheet/${id}`);
      await browser.find("line-0");
      // Told nothing of the change, as after a sleep.
      const known = (await (await fetch(`${server.address}/api/bench/sheets/${id}`)).json()) as { step: number; body: object };
      await browser.driver.executeScript("window.__lines = document.querySelectorAll('[data-testid=line]').length");
      await fetch(`${server.address}/api/bench/sheets/${id}`, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ from: known.step, body: { ...known.body, name: "Leaflet, changed elsewhere" } }),
      });
      await browser.waitUntil("the other change shows", async () => (await textOf("sheet")).includes("Leaflet, changed elsewhere"));
      await fetch(`${server.address}/api/bench/sheets/${id}`, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ from: known.step + 1, body: known.body }),
      });
    }, 240_000);
});
