// Sightings on a phone: the rest of the six practice programs from placing to evidence, why a font is not there, looking by eye, and a
// program somebody names.
import { execFileSync } from "node:child_process";
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { FamilyDetail, FamilyPage } from "../../contract/families.ts";
import { DeviceDetail } from "../../contract/devices.ts";
import { PlanView } from "../../contract/placing.ts";
import { readEvidence } from "../../core/evidence/read.ts";
import { axe, overflowing, smallTargets } from "./axe.ts";
import { Browser, PHONE } from "./browser.ts";
import { TestServer } from "./server.ts";
import { startFilled } from "./world.ts";

let server: TestServer;
let browser: Browser;
let familyId: number;
let styleId: number;
beforeAll(async () => {
  server = await startFilled();
  const { families } = FamilyPage.parse(await get("/families?search=trellis"));
  familyId = families[0]!.id;
  styleId = FamilyDetail.parse(await get(`/families/${familyId}`)).styleList[0]!.id;
  browser = await Browser.start(PHONE);
}, 240_000);
afterAll(async () => {
  await browser?.quit();
  await server?.stop();
});

const get = async (path: string): Promise<unknown> => (await fetch(`${server.address}/api${path}`)).json();
async function post(path: string, body: object): Promise<unknown> {
  const init = { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(body) };
  const response = await fetch(`${server.address}/api${path}`, init);
  if (!response.ok) throw new Error(await response.text());
  return response.json();
}
async function plan(deviceId: number, action: "place" | "remove", account: "me" | "everyone" = "me", passcode?: string): Promise<void> {
  const drawn = PlanView.parse(await post("/plans", { deviceId, action, account, familyIds: [familyId] }));
  await post(`/plans/${drawn.id}/do`, { passcode });
}
const programId = async (deviceId: number, name: string): Promise<number> =>
  DeviceDetail.parse(await get(`/devices/${deviceId}`)).programs.find((program) => program.name === name)!.id;
const words = async (testId: string): Promise<string> => (await browser.find(testId)).getText();
const usable = async () => {
  expect(await axe(browser)).toEqual([]);
  expect(await smallTargets(browser)).toEqual([]);
  expect(await overflowing(browser)).toBe(false);
};
const openCell = (program: number) => browser.open(`${server.address}/cell/${styleId}/${program}`);

const STORIES: [name: string, deviceId: number, account: "me" | "everyone", passcode: string | undefined][] = [
  ["Poster Desk", 1, "me", undefined],
  ["Cutting Desk", 1, "me", undefined],
  ["Title Desk", 2, "everyone", "4711"],
];
describe.each(STORIES)("%s", (name, deviceId, account, passcode) => {
  test("from not there, through placing, to evidence", async () => {
    const program = await programId(deviceId, name);
    await openCell(program);
    expect(await words("cell-state")).toContain("Not here");
    await browser.click("not-there");
    expect(await words("reason")).toContain("It is not on");
    await plan(deviceId, "place", account, passcode);
    await browser.open(`${server.address}/practice/${program}?style=${styleId}`);
    await browser.click("start-program");
    expect(await words("font-list")).toContain(await words("expected").then((text) => text.split("\n").at(-1)!));
    await exportAsEvidence(program);
    await plan(deviceId, "remove", account, passcode);
  }, 240_000);
});

/** From an open practice program with the style listed: set on the page, exported, given as evidence, and seen. */
async function exportAsEvidence(program: number): Promise<void> {
  await browser.type("page-text", "Wild fennel");
  await browser.waitUntil("the page is drawn with it", async () => (await words("drawn-with")).includes("Drawn with Trellis Fair"));
  await browser.click("export-evidence");
  expect(await words("evidence-result")).toContain("Seen");
  await openCell(program);
  expect(await words("cell-state")).toContain("Seen");
}

test("Note Desk, whole: a profile is handed over, installed on the tablet with its passcode, read when the program starts, and seen", async () => {
  const program = await programId(3, "Note Desk");
  await openCell(program);
  expect(await words("cell-state")).toContain("Not here");
  await browser.click("not-there");
  await browser.click("act-place");
  await browser.click("do-plan");
  await browser.click("to-tablet-room");
  await browser.click("profile-allow");
  await browser.click("profile-install");
  await browser.type("tablet-passcode", "1357");
  await browser.click("tablet-confirm");
  await browser.find("profile-remove");
  await openCell(program);
  expect(await words("cell-state")).toContain("Reopen");
  await browser.open(`${server.address}/practice/${program}?style=${styleId}`);
  await browser.click("start-program");
  expect(await words("font-list")).toContain("Trellis Fair");
  await exportAsEvidence(program);
}, 240_000);

test("Browser Desk, whole: it reads no folder, is given the file by hand and keeps it, and is seen; after closing it still is there", async () => {
  const program = await programId(2, "Browser Desk");
  await openCell(program);
  expect(await words("cell-state")).toContain("Load by hand");
  await browser.click("open-program");
  await browser.click("start-program");
  expect(await words("font-list")).not.toContain("Trellis Fair");
  await browser.click("load-style");
  await browser.waitUntil("it is listed", async () => (await words("font-list")).includes("Trellis Fair"));
  await exportAsEvidence(program);
  await browser.click("open-program");
  await browser.click("close-program");
  await browser.click("start-program");
  expect(await words("font-list")).toContain("Trellis Fair");
  await openCell(program);
  expect(await words("cell-state")).toContain("Seen");
}, 240_000);

test("not there: the reason and its fix at one tap; looked at by eye; a page to try it with", async () => {
  const program = await programId(1, "Letter Desk");
  await post(`/practice/${program}/open`, {});
  await plan(1, "place");
  await openCell(program);
  await browser.type("look-who", "Mara");
  await browser.click("saw-not-there");
  expect(await words("evidence-result")).toContain("Mara looked, and it was not listed.");
  expect(await words("reason")).toContain("Letter Desk reads fonts only when it starts.");
  await usable();
  await browser.click("act-reopen");
  await browser.click("close-program");
  await browser.click("start-program");
  await openCell(program);
  expect(await words("cell-state")).toContain("somebody looked and did not find it");
  await browser.click("saw-there");
  await browser.waitUntil("it is seen", async () => (await words("cell-state")).includes("Seen"));
  await browser.waitUntil("what was seen before stays in view", async () =>
    /Seen[^]*listed and drawn as it should be\.[^]*Not there[^]*was not listed\./.test(await words("earlier")),
  );
  await browser.choose("probe-kind", "Subtitles (.ass)");
  await browser.click("save-probe");
  await browser.waitUntil("the page is saved", async () => readdirSync(browser.downloads).some((name) => name.endsWith(".ass")));
  const saved = readdirSync(browser.downloads).find((name) => name.endsWith(".ass"))!;
  expect(await readEvidence(saved, readFileSync(join(browser.downloads, saved)))).toMatchObject({
    ok: true,
    value: { fonts: [{ name: "Trellis Fair" }] },
  });
});

test("a picture of known words: the likeliest font is laid over it, and it counts as seen", async () => {
  const [style] = FamilyDetail.parse(await get(`/families/${familyId}`)).styleList;
  const picture = join(server.dataDir, "screen.png");
  const font = join(server.dataDir, "files", style!.sha256.slice(0, 2), style!.sha256);
  writeFileSync(picture, execFileSync("hb-view", ["--output-format=png", "--font-size=90", "--margin=24", font, "Wild fennel 4.50"]));
  await openCell(await programId(1, "Poster Desk"));
  await browser.type("picture-words", "Wild fennel 4.50");
  await browser.give(picture, "Choose a picture");
  expect(await words("picture-result")).toMatch(/The picture shows Trellis Fair: \d+ % alike\./);
  await usable();
  expect(await words("evidence-result")).toContain("Seen");
});

test("the board on a phone: one program, one family, its styles; narrowed down", async () => {
  await browser.open(`${server.address}/sightings`);
  await browser.find("cell");
  await browser.choose("board-program", "Poster Desk on Workshop laptop");
  const named = async () => Promise.all((await browser.all("cell")).map((cell) => cell.getText()));
  await browser.waitUntil("the family is seen there", async () => (await named()).some((text) => /Trellis Fair\s*Seen/.test(text)));
  await browser.choose("board-along", "One family");
  const lookAlong = async (name: string) => {
    await browser.type("board-row-search", name);
    await browser.click("board-row-found");
  };
  await lookAlong("Trellis Fair");
  await browser.waitUntil("its programs are listed", async () => (await named()).some((text) => /Title Desk\s*Office desktop/.test(text)));
  await usable();
  await browser.choose("board-by", "Styles");
  await lookAlong("Almanac Field");
  await browser.waitUntil("its styles' programs", async () => (await named()).some((text) => /Almanac Field Thin: Poster Desk/.test(text)));
  await browser.click("board-narrow");
  await browser.choose("board-device", "Workshop laptop");
  await browser.waitUntil("one device's programs", async () => (await named()).every((text) => /Workshop laptop/.test(text)));
  await browser.click("cell");
  await browser.waitUntil("the cell is open", async () => /Almanac Field .* in \w+ Desk/.test(await browser.words()));
});

test("a picture given where exports are asked for is read as a picture; a tiny one gets a sentence", async () => {
  const picture = join(server.dataDir, "tiny.png");
  const [style] = FamilyDetail.parse(await get(`/families/${familyId}`)).styleList;
  const font = join(server.dataDir, "files", style!.sha256.slice(0, 2), style!.sha256);
  writeFileSync(picture, execFileSync("hb-view", ["--output-format=png", "--font-size=16", font, "Wild fennel 4.50"]));
  await openCell(await programId(1, "Poster Desk"));
  await browser.find("give-evidence");
  await browser.give(picture, "Choose an exported file");
  await browser.text("The words are too small in this picture.");
});

test("what a document needs: read, what is missing placed by one tap, a job made of it, forgotten and brought back", async () => {
  const at = join(server.dataDir, "leaflet.html");
  const line = (family: string) => `<p style="font-family: '${family}'">Early peas</p>`;
  writeFileSync(at, `<!doctype html><body>${["Shvil Text", "Fernhollow Text", "Missing Meadow"].map(line).join("")}</body>`);
  await browser.open(`${server.address}/`);
  await browser.click("needs-link");
  await browser.find("needs-pick");
  await browser.give(at, "Choose documents");
  const rows = async () =>
    Promise.all((await browser.all("need")).map(async (row) => (await row.getText()).split("\n").slice(0, 2).join(": ")));
  await browser.waitUntil("its fonts are told apart", async () => (await rows()).length === 3);
  expect(await rows()).toEqual(["Missing Meadow: Nowhere", "Fernhollow Text: In a parcel", "Shvil Text: On the shelf"]);
  await usable();
  await browser.click("needs-plan");
  await browser.click("do-plan");
  await browser.find("undo-plan");
  await browser.open(`${server.address}/needs`);
  await browser.waitUntil("they are here", async () => (await rows()).filter((row) => row.endsWith(": Here")).length === 2);
  expect(await browser.all("needs-plan")).toEqual([]);
  await browser.click("needs-forget");
  await browser.waitUntil("it is gone", async () => (await rows()).length === 0);
  await browser.click("undo");
  await browser.waitUntil("it is back", async () => (await rows()).length === 3);
  await browser.click("needs-job");
  await browser.find("job-family");
  expect(await browser.words()).toContain("leaflet.html");
});

test("a quick check: everything that is due in a program is drawn and looked at by one tap", async () => {
  const note = FamilyPage.parse(await get("/families?search=garden")).families[0]!.id;
  const drawn = PlanView.parse(await post("/plans", { deviceId: 1, action: "place", familyIds: [note] }));
  await post(`/plans/${drawn.id}/do`, {});
  await browser.open(`${server.address}/sightings`);
  await browser.choose("board-program", "Letter Desk on Workshop laptop");
  await browser.click("check-link");
  expect(await words("check-due")).toContain("Garden Note");
  await usable();
  // The practice program that can open it is one tap away, and so is the way back.
  await browser.click("check-open-practice");
  await browser.text("Letter Desk");
  await browser.driver.navigate().back();
  await browser.click("check-practise");
  expect(await words("check-counts")).toMatch(/^\d+ seen$/);
  await browser.text("Everything in Letter Desk is checked.");
  await usable();
});

test("a program somebody names: predicted by its traits, and taught by looking", async () => {
  await browser.open(`${server.address}/device/1`);
  await browser.click("name-program");
  await browser.type("program-name", "Label maker");
  await browser.choose("program-kind", "cutting program");
  await browser.click("lists-full-names");
  await usable();
  await browser.click("keep-program");
  await browser.find("open-Label maker");
  const program = await programId(1, "Label maker");
  await openCell(program);
  expect(await words("cell-state")).toContain("Reopen");
  expect(await browser.words()).toContain("Choose “Trellis Fair”.");
  await browser.click("saw-there");
  expect(await words("look-doubt")).toContain("has not been reopened");
  await browser.click("look-sure");
  await browser.click("learn");
  await browser.waitUntil("it is remembered", async () => (await browser.all("learn")).length === 0);
  await browser.open(`${server.address}/program?id=${program}`);
  await browser.waitUntil(
    "the form shows it",
    async () => (await (await browser.find("when-always")).getAttribute("aria-checked")) === "true",
  );
  // The other way round: thought to notice by itself, and it did not.
  await plan(1, "remove");
  await plan(1, "place");
  await openCell(program);
  await browser.waitUntil("it is due", async () => (await words("cell-state")).includes("Not checked yet"));
  await browser.click("saw-not-there");
  await browser.click("learn");
  await browser.waitUntil("it has to be reopened", async () => (await words("cell-state")).includes("Reopen"));
  await browser.open(`${server.address}/program?id=${program}`);
  await browser.click("remove-program");
  await browser.click("undo");
  await browser.find("open-Label maker");
});
