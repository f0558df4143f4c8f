// Clearance as a person meets it: a personal-only font wanted for sold goods, a licence bought, a pack that lapses on day 181, the sheet for
// the client.
import { readFileSync, readdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { zipSync } from "fflate";
import { axe } from "./axe.ts";
import { Browser, PHONE } from "./browser.ts";
import { TestServer } from "./server.ts";
import { startFilled } from "./world.ts";
import { renamedTables } from "../../demo/writing/rename.ts";

let server: TestServer;
let browser: Browser;
beforeAll(async () => {
  server = await startFilled();
  browser = await Browser.start(PHONE);
}, 240_000);
afterAll(async () => {
  await browser?.quit();
  await server?.stop();
}, 240_000);

const textOf = async (testId: string): Promise<string> => (await browser.find(testId)).getText();
async function openFamily(name: string): Promise<void> {
  await browser.open(`${server.address}/families`);
  await browser.type("search", name);
  await browser.waitUntil("it is alone", async () => (await browser.all("family-card")).length === 1);
  await browser.click("family-card");
  await browser.find("clearance-table");
}
/** Draws the plan that places the family on Workshop laptop. */
async function planPlacing(name: string): Promise<void> {
  await openFamily(name);
  await browser.click("place");
  await browser.onDevice("Workshop laptop");
  await browser.click("draw-plan");
  await browser.find("plan-step");
}

test("what a licence allows is shown before shelving, with the sentence and its line", async () => {
  await browser.open(server.address);
  await browser.clickText("tendril_script_free.zip");
  await browser.click("toggle-clearance");
  await browser.click("use-sold");
  const evidence = await browser.driver.executeScript("return document.querySelector('[data-testid=use-sold]').innerText");
  expect(evidence).toContain("“This version is free for personal use only.”");
  expect(evidence).toContain("please read.txt, line 3");
  expect(await axe(browser)).toEqual([]);
}, 240_000);

test("a personal-only font wanted for sold goods warns on its job, in the plan, and no more once a licence is recorded", async () => {
  await browser.open(`${server.address}/jobs`);
  await browser.clickText("Plant markers for the shop");
  expect(await textOf("job-warning")).toContain("Tendril Script is not cleared for sold goods.");
  expect(await axe(browser)).toEqual([]);
  await planPlacing("Tendril");
  expect(await textOf("clearance-warning")).toContain("For “Plant markers for the shop”: Tendril Script is not cleared for sold goods.");

  await openFamily("Tendril");
  await browser.click("record-licence");
  await browser.type("licence-price", "18.00");
  await browser.type("licence-seats", "0");
  await browser.typeDay("licence-boughtOn", "2026-02-31");
  await browser.type("licence-orderNumber", "x".repeat(300));
  await browser.text("0 characters left.");
  await browser.type("licence-orderNumber", "x".repeat(301));
  await browser.click("save-licence");
  await browser.text("At most 300 characters.");
  await browser.text("At least 1.");
  await browser.text("Give a whole day that is in the calendar.");
  expect(await browser.focused()).toBe("licence-seats");
  expect(await axe(browser)).toEqual([]);
  await browser.type("licence-seats", "2");
  await browser.typeDay("licence-boughtOn", "2026-02-28");
  await browser.type("licence-orderNumber", "SEED-26");
  expect(await axe(browser)).toEqual([]);
  await browser.click("save-licence");
  expect(await textOf("licence")).toContain("2 seats · bought on 28 February 2026 · €18.00 · order SEED-26");
  const receipt = join(browser.downloads, "receipt.txt");
  writeFileSync(receipt, "Paid with thanks.");
  await browser.give(receipt);
  await browser.text("Receipt: receipt.txt");
  expect(await textOf("use-sold")).toContain("Yes");
  await browser.open(`${server.address}/jobs`);
  await browser.clickText("Plant markers for the shop");
  await browser.find("job-family");
  expect(await browser.all("job-warning")).toEqual([]);
}, 240_000);

test("a reading is set right by hand, with a note, and left to the papers again", async () => {
  await openFamily("Trellis Fair");
  await browser.clickText("Video");
  await browser.choose("correct-answer", "No");
  await browser.type("correct-note", "Its maker asks for a letter first");
  await browser.click("keep-correction");
  await browser.waitUntil("it counts", async () => (await textOf("use-video")).includes("Its maker asks for a letter first"));
  await browser.choose("correct-answer", "As its papers say");
  await browser.click("keep-correction");
  await browser.waitUntil("the papers count again", async () => !(await textOf("use-video")).includes("Its maker asks"));
}, 240_000);

/** A download made here: a renamed font with some papers. */
async function bring(family: string, papers: Record<string, string>): Promise<void> {
  const font = renamedTables(readFileSync(join(process.cwd(), "build", "demo", "built-in", "WrenSmall-Regular.ttf")), {
    family,
    style: "Regular",
    version: "1.000",
    licence: "",
    copyright: "© 2026 Fernhollow Seed Walk",
  });
  const entries = Object.entries(papers).map(([name, text]): [string, Uint8Array] => [name, new TextEncoder().encode(text)]);
  const zip = join(browser.downloads, `${family}.zip`);
  writeFileSync(zip, zipSync({ [`${family}.ttf`]: font, ...Object.fromEntries(entries) }, { level: 1 }));
  await browser.open(server.address);
  await browser.find("parcel-row");
  await browser.give(zip);
  await browser.find("toggle-clearance");
}

test("papers that contradict one another: said first; a sentence is left out for its paper, and counts again by undo", async () => {
  await bring("Hazel", {
    "OFL.txt": "Hazel\n\nThis font is licensed under the SIL Open Font License, Version 1.1.\n",
    "licence note.txt": "Thank you. Not for commercial use. Enjoy it.\n",
    "readme.txt": "I am not a professional. Not for video.\n",
  });
  // Its papers are read in the background; until then it says so.
  await browser.waitUntil("all papers are read", async () =>
    (await textOf("toggle-clearance")).includes("contradict one another about things you sell and work for clients"),
  );
  await browser.click("shelve");
  await browser.find("clearance-headline");
  await browser.clickText("Sold goods");
  expect(await textOf("use-sold")).toMatch(
    /contradict one another[^]*Thank you\. “Not for commercial use\.” Enjoy it\.[^]*No\. It stands in licence note\.txt, line 1/,
  );
  expect(await axe(browser)).toEqual([]);
  await browser.click("leave-out");
  await browser.waitUntil("the licence counts", async () => (await textOf("clearance-headline")).startsWith("Free for everything"));
  await browser.click("also-said");
  expect(await textOf("also")).toContain("It does not count: You left it out.");
  await browser.find("count-again");
  await browser.click("undo");
  await browser.waitUntil("it counts again", async () => (await textOf("clearance-headline")).includes("contradict one another"));

  // A readme never decides against a licence; what it says is shown beside it.
  await browser.clickText("Video");
  await browser.driver.executeScript("document.querySelector('[data-testid=use-video] [data-testid=also-said]').click()");
  await browser.waitUntil("it is shown", async () => (await textOf("use-video")).includes("“Not for video.”"));
  expect(await textOf("papers")).toMatch(/OFL\.txt\s+Licence[^]*licence note\.txt\s+Licence note[^]*readme\.txt\s+Readme/);
}, 240_000);

test("while long papers are being read nothing they allow counts, and the page says so", async () => {
  const long = (n: number) =>
    `Free for any use.\n\n${Array.from({ length: 12_000 }, (_, i) => `Bed ${n} row ${i} holds fennel, rye, or marigolds by the gate in spring and summer.`).join(" ")}\n`;
  await bring("Sorrel", Object.fromEntries(Array.from({ length: 24 }, (_, n) => [`list ${n}.txt`, long(n)])));
  expect(await textOf("toggle-clearance")).toMatch(/papers still being read\. What they allow counts once they are read\./);
  await browser.click("toggle-clearance");
  expect(await textOf("use-sold")).toContain("Being read");
  await browser.waitUntil("they are read", async () => (await textOf("use-sold")).includes("Yes"), 90_000);
  expect(await textOf("toggle-clearance")).toContain("Free for everything");
}, 240_000);

test("a pack of 180 days: recorded from its paper, running on day 180, lapsed on day 181, turned off, renewed", async () => {
  await openFamily("Frostbloom");
  await browser.click("record-term");
  await browser.text("180 days from the day it is placed");
  await planPlacing("Frostbloom");
  await browser.click("do-plan");
  await browser.find("undo-plan");

  await server.kill("SIGTERM");
  await server.run(179);
  await browser.open(server.address);
  expect(await textOf("term")).toContain("Ends today");
  expect(await browser.all("switch-off")).toEqual([]);

  await server.kill("SIGTERM");
  await server.run(180);
  await browser.open(server.address);
  expect(await textOf("term")).toContain("Lapsed. Ended on");
  expect(await axe(browser)).toEqual([]);
  await browser.click("switch-off");
  expect(await textOf("plan-step")).toContain("Turn off");
  await browser.click("do-plan");
  await browser.find("undo-plan");
  await browser.open(`${server.address}/sightings`);
  await browser.find("cell");
  expect(await browser.words()).toMatch(/Frostbloom\s+Lapsed/);
  await browser.open(server.address);
  await browser.find("parcel-row");
  expect(await browser.all("term")).toEqual([]);

  await openFamily("Frostbloom");
  await browser.click("record-licence");
  await browser.choose("licence-kind", "With an end");
  await browser.click("save-licence");
  await browser.waitUntil("it is renewed", async () => (await textOf("clearance")).includes("180 days"));
  await browser.waitUntil("nothing is lapsed", async () => (await textOf("use-own")).includes("Yes"));
  await server.kill("SIGTERM");
  await server.run();
}, 240_000);

test("a job is made; families are narrowed to those cleared for it; its permission sheet is read back", async () => {
  await browser.open(`${server.address}/job/new`);
  await browser.type("job-name", "Seed bags");
  await browser.click("job-use-own");
  await browser.click("job-use-sold");
  await browser.click("job-use-web");
  await browser.type("job-words", "Rye, 2.80");
  await browser.choose("add-language", "Hebrew");
  await browser.type("job-search", "Almanac");
  await browser.waitUntil("one is left", async () => (await browser.all("other-family")).length === 1);
  await browser.click("other-family");
  await browser.click("job-device-Workshop laptop");
  expect(await axe(browser)).toEqual([]);
  await browser.click("save-job");
  expect(await textOf("job-family")).toContain("Sets none of the job's languages (Hebrew)");
  expect(await textOf("credit-line")).toBe("Font: Almanac Field by Fernhollow Seed Walk");
  await browser.click("sheet-csv");
  const sheet = () => readdirSync(browser.downloads).find((name) => name === "Permission-sheet-Seed-bags.csv");
  await browser.waitUntil("the sheet is there", async () => sheet() !== undefined);
  const content = readFileSync(join(browser.downloads, sheet()!), "utf8");
  // The mark by which table programs know UTF-8; it counts as white space for `trim`.
  expect(content.startsWith("\ufeffFont family,Use,Allowed")).toBe(true);
  const lines = content.trim().split("\r\n");
  expect(lines[1]).toContain('Almanac Field,Sold goods,"Yes, with credit","You may use these fonts for personal and commercial work');
  await browser.click("sheet-html");
  await browser.waitUntil("the page is there", async () => readdirSync(browser.downloads).includes("Permission-sheet-Seed-bags.html"));

  await browser.open(`${server.address}/families`);
  await browser.find("family-card");
  await browser.click("filters");
  await browser.find("filter-jobs");
  await browser.clickText("Seed bags");
  await browser.click("show-filtered");
  await browser.waitUntil("they are narrowed", async () => !(await browser.words()).includes("Tendril Script"));
  await browser.open(`${server.address}/jobs`);
  await browser.clickText("Seed bags");
  await browser.click("remove-job");
  await browser.find("jobs");
  await browser.click("undo");
  await browser.text("Seed bags");
}, 240_000);
