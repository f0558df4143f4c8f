// Parcels as they come: many at once, locked, with an archive inside, in two formats, damaged, twice; and their papers.
import { execFileSync } from "node:child_process";
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { unzipSync, zipSync } from "fflate";
import { parse } from "plist";
import { By } from "selenium-webdriver";
import { renamedTables } from "../../demo/writing/rename.ts";
import { axe } from "./axe.ts";
import { Browser, PHONE } from "./browser.ts";
import { ROOT, TestServer } from "./server.ts";

let server: TestServer;
let browser: Browser;
const work = mkdtempSync(join(tmpdir(), "buvano-parcels-"));
const demo = (name: string): string => join(ROOT, "build", "demo", "downloads", name);
const builtIn = join(ROOT, "build", "demo", "built-in");

beforeAll(async () => {
  server = await TestServer.start();
  browser = await Browser.start(PHONE);
}, 240_000);
afterAll(async () => {
  await browser?.quit();
  await server?.stop();
  rmSync(work, { recursive: true });
}, 240_000);

async function drop(...paths: string[]): Promise<void> {
  await browser.open(server.address);
  await browser.find("bring");
  await browser.give(paths.join("\n"));
}
const textOf = async (testId: string): Promise<string> => (await browser.find(testId)).getText();

test("many archives dropped at once become a parcel each", async () => {
  const names = ["trellis-fair.zip", "seedmarks.zip", "shvil-hebrew.zip", "Seedbox-Layered.zip"];
  await drop(...names.map(demo));
  await browser.waitUntil("all four are unpacked", async () => {
    const rows = await Promise.all((await browser.all("parcel-row")).map((row) => row.getText()));
    return rows.length === names.length && rows.every((row) => row.includes("to shelve"));
  });
  expect(await browser.words()).toContain("In: Shelve what arrived");
}, 240_000);

test("a locked archive asks for its password; a wrong one is said, the right one opens it", async () => {
  const locked = join(work, "locked.zip");
  execFileSync("zip", ["-qjP", "fennel", locked, join(builtIn, "WrenSmall-Regular.ttf")]);
  await drop(locked);
  await browser.type("archive-password", "dill");
  await browser.click("unlock");
  await browser.text("This password does not open the archive.");
  expect(await axe(browser)).toEqual([]);
  await browser.type("archive-password", "fennel");
  await browser.click("unlock");
  expect(await textOf("parcel-drawer")).toContain("Wren Small");
}, 240_000);

test("of two formats one is taken, and the choice is kept", async () => {
  await drop(demo("garden-note.zip"));
  await browser.find("twins");
  const taken = async () => {
    const rows = await Promise.all((await browser.all("parcel-style")).map((row) => row.getText()));
    return rows.filter((row) => !row.includes("Stays in the parcel")).map((row) => (row.includes(".otf ·") ? "otf" : "ttf"));
  };
  expect(await taken()).toEqual(["otf"]);
  await browser.click("take-ttf");
  await browser.waitUntil("the .ttf is taken", async () => (await taken()).join() === "ttf");
  expect(await axe(browser)).toEqual([]);
  await browser.driver.navigate().refresh();
  await browser.find("twins");
  await browser.waitUntil("the choice is kept", async () => (await taken()).join() === "ttf");
  expect(await textOf("shelve")).toBe("Shelve 1 style");
}, 240_000);

test("an archive inside an archive; a damaged font beside a whole one", async () => {
  const outer = join(work, "outer.zip");
  execFileSync("zip", ["-qj", outer, demo("fernhollow-broken-download.zip")]);
  await drop(outer);
  expect(await textOf("entry-problem")).toContain("fernhollow-broken-download.zip/FernhollowText-Regular.ttf: The font file ends before");
  expect(await textOf("parcel-drawer")).toContain("Fernhollow Text");
  await browser.click("shelve");
  await browser.find("family");
}, 240_000);

test("a second copy of what is on the shelf says so", async () => {
  await drop(demo("fernhollow-broken-download.zip"));
  await browser.find("parcel-drawer");
  expect(await textOf("parcel-style")).toContain("On the shelf");
}, 240_000);

test("papers are read in place, beside the family they came with", async () => {
  await drop(demo("tendril_script_free.zip"));
  await browser.click("kind-paper");
  await browser.click("read-paper");
  expect(await textOf("paper-text")).toContain("This version is free for personal use only.");
  await browser.click("shelve");
  await browser.find("family");
  await browser.click("read-paper");
  expect(await textOf("paper-text")).toContain("18.00 EUR for one seat");
  expect(await axe(browser)).toEqual([]);
}, 240_000);

test("a face and its shade are known as a pair", async () => {
  await browser.open(server.address);
  await browser.find("parcel-row");
  const row = await browser.driver.findElement(By.xpath("//*[@data-testid='parcel-row'][contains(., 'Seedbox-Layered')]"));
  await row.click();
  expect(await textOf("drawer-notes")).toContain("Made to be laid over");
}, 240_000);

test("web fonts are unwrapped and shelved; a single style is taken; the archive is cleared, and had back", async () => {
  await drop(demo("hedgerow-web.zip"));
  await browser.click("unwrap");
  await browser.click("shelve");
  await browser.find("family");
  expect(await browser.words()).toContain("hedgerow-signal.ttf");

  await drop(demo("fernhollow-text-family.zip"));
  await browser.find("parcel-drawer");
  expect(await textOf("shelve")).toBe("Shelve 4 styles");
  await browser.click("shelve-one");
  await browser.waitUntil("one less is left", async () => (await textOf("shelve")) === "Shelve 3 styles");
  await browser.click("shelve");
  await browser.find("family-card");
  await browser.driver.navigate().back();
  await browser.click("clear-archive");
  expect(await textOf("undo-bar")).toMatch(/is deleted tomorrow and frees 1\d\d kB/);
  await browser.text("its archive is cleared");
  await browser.click("undo");
  await browser.find("clear-archive");
}, 240_000);

test("families are narrowed by script and kind, pinned, and found again by it", async () => {
  await drop(demo("shvil-hebrew.zip"));
  await browser.click("shelve");
  await browser.open(`${server.address}/families`);
  await browser.find("family-card");
  const names = async () => (await Promise.all((await browser.all("family-card")).map((card) => card.getText()))).join("\n");
  await browser.click("filters");
  await browser.click("filter-hebrew");
  await browser.click("show-filtered");
  await browser.waitUntil("only Hebrew ones", async () => /Shvil/.test(await names()) && !/Hedgerow/.test(await names()));
  await browser.clickText("Shvil Text");
  await browser.click("pin");
  await browser.waitUntil("it is pinned", async () => (await (await browser.find("pin")).getAttribute("aria-pressed")) === "true");
  await browser.open(`${server.address}/families`);
  await browser.click("filters");
  await browser.click("pinned");
  await browser.click("show-filtered");
  await browser.waitUntil("the pinned one is alone", async () => (await browser.all("family-card")).length === 1);
  expect(await names()).toContain("Shvil Text");
}, 240_000);

test("two spellings of one family are joined, and parted again", async () => {
  const renamedFont = (family: string, style: string): Uint8Array =>
    renamedTables(readFileSync(join(builtIn, "WrenSmall-Regular.ttf")), { family, style, version: "1.000" });
  const archive = join(work, "furrow.zip");
  writeFileSync(archive, zipSync({ "a.ttf": renamedFont("Furrow Garden", "Regular"), "b.ttf": renamedFont("FurrowGarden", "Bold") }));
  await drop(archive);
  expect(await textOf("drawer-notes")).toContain("they differ only in spaces and signs");
  await browser.click("shelve");
  await browser.find("family-card");
  await browser.type("search", "furrow garden");
  // Both spellings are found; the one that is written so comes first.
  await browser.waitUntil("two are left", async () => (await browser.all("family-card")).length === 2);
  await browser.click("family-card");
  await browser.click("join");
  await browser.find("part");
  expect(await textOf("about")).toContain("“FurrowGarden” is part of this family too.");
  expect(await axe(browser)).toEqual([]);
  await browser.click("undo");
  await browser.find("join");
}, 240_000);

test("a family is taken to a tablet by a profile, with the tablet's own steps", async () => {
  await browser.open(`${server.address}/families`);
  await browser.type("search", "Tendril Script");
  await browser.waitUntil("it is alone", async () => (await browser.all("family-card")).length === 1);
  await browser.click("family-card");
  await browser.click("place");
  await browser.click("to-tablet");
  expect(await textOf("profile-font")).toContain("Tendril Script");
  expect(await browser.words()).toContain("type the tablet's passcode, once for all styles");
  await browser.click("save-profile");
  const saved = join(browser.downloads, "Tendril-Script.mobileconfig");
  await browser.waitUntil("the profile is there", async () => existsSync(saved));
  const { PayloadDisplayName, PayloadContent } = parse(readFileSync(saved, "utf8")) as {
    PayloadDisplayName: string;
    PayloadContent: { Font: Uint8Array }[];
  };
  expect(PayloadDisplayName).toBe("Tendril Script, 1 style");
  const font = unzipSync(readFileSync(demo("tendril_script_free.zip")))["tendril.ttf"]!;
  expect(Buffer.compare(Buffer.from(PayloadContent[0]!.Font), Buffer.from(font))).toBe(0);
}, 240_000);

test("a hundred archives in one drop are sent, unpacked and listed, each with its result", async () => {
  const regular = readFileSync(join(builtIn, "WrenSmall-Regular.ttf"));
  const archives = Array.from({ length: 100 }, (_, i) => {
    const path = join(work, `seed-${String(i).padStart(3, "0")}.zip`);
    const whole = zipSync({ "a.ttf": renamedTables(regular, { family: `Seed ${i}`, style: "Regular", version: "1.000" }) }, { level: 1 });
    // Every tenth is cut off on its way.
    writeFileSync(path, i % 10 === 9 ? whole.subarray(0, whole.length / 2) : whole);
    return path;
  });
  await drop(...archives);
  const parcels = async () =>
    (
      (await (await fetch(`${server.address}/api/parcels?limit=200`)).json()) as {
        parcels: { name: string; state: string; styles: number }[];
      }
    ).parcels.filter((one) => one.name.startsWith("seed-"));
  for (const end = Date.now() + 90_000; ;) {
    const all = await parcels();
    if (all.length === 100 && all.every((one) => one.state === "ready" || one.state === "failed")) break;
    if (Date.now() > end) throw new Error("Some parcels were never unpacked.");
    await browser.driver.sleep(200);
  }
  const all = await parcels();
  expect([
    all.filter((one) => one.state === "ready" && one.styles === 1).length,
    all.filter((one) => one.state === "failed").length,
  ]).toEqual([90, 10]);
  await browser.waitUntil("nothing waits to be sent", async () => (await browser.all("sending")).length === 0);
  expect((await browser.all("parcel-row")).length).toBeLessThan(60);
  await browser.click("more-parcels");
  await browser.waitUntil("all are listed", async () => (await browser.all("parcel-row")).length >= 100);
}, 240_000);

test("a folder is watched: what arrives there becomes a parcel; a folder that is not there is refused", async () => {
  const folder = join(work, "Downloads");
  mkdirSync(folder);
  await browser.open(`${server.address}/settings`);
  await browser.type("watched-folder", join(work, "nowhere"));
  await browser.click("watch");
  await browser.text("There is no folder");
  await browser.type("watched-folder", folder);
  await browser.click("watch");
  await browser.find("unwatch");
  copyFileSync(demo("winter-pack.zip"), join(folder, "winter-pack.zip"));
  await browser.text("1 file taken in");
  await browser.open(server.address);
  await browser.text("winter-pack.zip");
}, 240_000);
