// The whole path on a phone: a dropped archive to a font seen in a program, and off the device again. Once with a Debian
// package's fonts, which no one here made, and once with the demo's.
import { execFileSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { Browser, PHONE } from "./browser.ts";
import { ROOT, TestServer } from "./server.ts";

let server: TestServer;
let browser: Browser;
const work = mkdtempSync(join(tmpdir(), "buvano-story-"));

beforeAll(async () => {
  server = await TestServer.start();
  browser = await Browser.start(PHONE);
}, 240_000);
afterAll(async () => {
  await browser?.quit();
  await server?.stop();
}, 240_000);

interface Story {
  archive: string;
  styles: number;
  /** What the office program files it under. */
  menuName: string;
  before: string;
  after: string;
  /** As in the PDF. */
  postScriptName: string;
}

async function listed(): Promise<string[]> {
  const entries = await browser.all("font-entry");
  return Promise.all(entries.map(async (entry) => ((await entry.getAttribute("textContent")) ?? "").trim()));
}

async function pressInProgram(testId: "start-program" | "close-program", then: "program-closed" | "font-list"): Promise<void> {
  await browser.click(testId);
  await browser.find(then);
}

async function openLetterDesk(): Promise<void> {
  await browser.click("tab-Devices");
  await browser.clickText("Workshop laptop");
  await browser.click("open-Letter Desk");
  await browser.find("practice");
}

/** Exports the page by downloading it, and gives that file as evidence on the cell's screen. */
async function exportAndGive(pdfName: string): Promise<void> {
  await browser.click("export-pdf");
  const path = join(browser.downloads, pdfName);
  await browser.waitUntil(
    `${pdfName} is downloaded`,
    async () => readdirSync(browser.downloads).includes(pdfName) && readFileSync(path).length > 0,
  );
  await browser.click("tab-Families");
  await browser.click("family-card");
  await browser.click("program-entry");
  await browser.find("cell-state");
  await browser.give(path, "Choose an exported file");
}

async function walk(story: Story): Promise<void> {
  // Today: the archive is picked, unpacked and becomes a parcel.
  await browser.open(server.address);
  await browser.find("bring");
  await browser.give(story.archive);
  await browser.find("parcel");
  await browser.find("parcel-drawer");
  expect((await browser.all("parcel-style")).length).toBe(story.styles);

  // Shelve it; the family stands in Families, drawn in its own font.
  await browser.click("shelve");
  await browser.clickText("Families");
  await browser.type("words", "Seed 26");
  await browser.find("family-card");
  await browser.waitUntil("the specimen is drawn in the family's own font", async () => {
    const family = await (await browser.find("specimen")).getCssValue("font-family");
    const loaded = (await browser.driver.executeScript(
      "return [...document.fonts].filter((face) => face.status === 'loaded').map((face) => face.family)",
    )) as string[];
    return loaded.includes(family.replaceAll('"', "")) && /^"?specimen-/.test(family);
  });
  expect(await (await browser.find("specimen")).getText()).toBe("Seed 26");

  // Letter Desk is open before the family is placed.
  await openLetterDesk();
  await pressInProgram("start-program", "font-list");
  expect(await listed()).not.toContain(story.menuName);

  // Place it, through a plan that is shown first.
  await browser.click("tab-Families");
  await browser.click("family-card");
  await browser.click("place");
  await browser.onDevice("Workshop laptop");
  await browser.click("draw-plan");
  await browser.find("plan-step");
  expect((await browser.all("plan-step")).length).toBe(story.styles);
  expect(await browser.words()).toContain("Nothing has happened yet.");
  expect(readdirSync(join(server.dataDir, "practice", "workshop-laptop", "me"))).toEqual([]);
  await browser.click("do-plan");
  await browser.text("Placed on Workshop laptop");
  expect(readdirSync(join(server.dataDir, "practice", "workshop-laptop", "me")).length).toBe(story.styles);

  // It read the fonts when it started: not there yet. Reopened: there, where it was predicted.
  await openLetterDesk();
  await browser.find("font-list");
  expect(await listed()).not.toContain(story.menuName);
  await pressInProgram("close-program", "program-closed");
  await pressInProgram("start-program", "font-list");
  const menu = await listed();
  const at = menu.indexOf(story.menuName);
  expect(at).toBeGreaterThan(-1);
  expect([menu[at - 1], menu[at + 1]]).toEqual([story.before, story.after]);

  // The predicted name and neighbours are the same.
  await browser.click("tab-Families");
  await browser.click("family-card");
  await browser.click("program-entry");
  expect(await (await browser.find("menu-name")).getText()).toBe(story.menuName);
  const neighbours = await (await browser.find("neighbours")).getText();
  expect(neighbours.split("\n").slice(1)).toEqual(expect.arrayContaining([story.before, story.menuName, story.after]));

  // Choose it, type, see it drawn; a name that is not there is drawn with a stand-in, visibly.
  await browser.click("open-program");
  await browser.find("page");
  await browser.type("page-text", "Wild fennel");
  await browser.waitUntil("the page is drawn with the family", async () =>
    (await (await browser.find("drawn-with")).getText()).includes("Drawn with"),
  );
  expect(await (await browser.find("drawn-with")).getText()).not.toContain("stands in");
  await browser.type("font-box", "Nowhere Sans\uE007");
  await browser.waitUntil("the stand-in is said", async () =>
    /“Nowhere Sans” is not among.*Aster Plain stands in/s.test(await (await browser.find("drawn-with")).getText()),
  );
  await browser.type("font-box", `${story.menuName}\uE007`);
  await browser.waitUntil(
    "the family is drawn again",
    async () => !(await (await browser.find("drawn-with")).getText()).includes("stands in"),
  );

  // Its export is evidence: seen.
  const pdf = `Letter-Desk-${story.menuName.replace(/ /g, "-")}.pdf`;
  await exportAndGive(pdf);
  const judged = execFileSync("pdffonts", [join(browser.downloads, pdf)], { encoding: "utf8" });
  expect(judged).toContain(`+${story.postScriptName}`);
  expect(await (await browser.find("evidence-result")).getText()).toMatch(/Seen[\s\S]*letters, page 1[\s\S]*embedded in part/);
  await browser.waitUntil("the trail says Seen", async () => {
    await browser.click("tab-Families");
    await browser.click("family-card");
    return (await browser.words()).includes("Seen\nSeen");
  });

  // Off the device: after reopening the program has it no more, and a new export shows the stand-in.
  await browser.click("place");
  await browser.onDevice("Workshop laptop");
  await browser.click("draw-removal");
  await browser.click("do-plan");
  await browser.text("Taken off Workshop laptop");
  expect(readdirSync(join(server.dataDir, "practice", "workshop-laptop", "me"))).toEqual([]);
  await openLetterDesk();
  await pressInProgram("close-program", "program-closed");
  await pressInProgram("start-program", "font-list");
  expect(await listed()).not.toContain(story.menuName);
  await browser.type("font-box", `${story.menuName}\uE007`);
  await browser.waitUntil("the stand-in is said", async () =>
    (await (await browser.find("drawn-with")).getText()).includes("Aster Plain stands in"),
  );
  execFileSync("rm", [join(browser.downloads, pdf)]);
  await exportAndGive(pdf);
  // None of the family is in it: whether that is a swap or another file is asked first.
  expect(await (await browser.find("evidence-doubt")).getText()).toMatch(/Not in it[\s\S]*AsterPlain-Regular/);
  await browser.click("evidence-sure");
  expect(await (await browser.find("evidence-result")).getText()).toMatch(/Swapped[\s\S]*AsterPlain-Regular/);
}

test("the demo's connected script", async () => {
  await walk({
    archive: join(ROOT, "build", "demo", "downloads", "tendril_script_free.zip"),
    styles: 1,
    menuName: "Tendril Script",
    before: "Quarry Light",
    after: "Wren Small",
    postScriptName: "TendrilScript-Regular",
  });
}, 240_000);

test("a Debian package's fonts", async () => {
  await server.stop();
  server = await TestServer.start();
  const archive = join(work, "cabin.zip");
  execFileSync("zip", ["-qrj", archive, "/usr/share/fonts/opentype/cabin", "/usr/share/doc/fonts-cabin/copyright"]);
  await walk({
    archive,
    styles: execFileSync("unzip", ["-Z1", archive], { encoding: "utf8" })
      .split("\n")
      .filter((name) => name.endsWith(".otf")).length,
    menuName: "Cabin",
    before: "Bramble Wide",
    after: "Clay Narrow",
    postScriptName: "Cabin-Regular",
  });
}, 240_000);
