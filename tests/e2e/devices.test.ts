// Devices on a phone: a passcode, choosing otherwise, duplicates, looking again, a tablet's profiles, a program that loads by hand, one
// device made like another; and two browsers at once for pairing.
import { copyFileSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { unzipSync } from "fflate";
import { FamilyPage } from "../../contract/families.ts";
import { renamedTables } from "../../demo/writing/rename.ts";
import { axe, overflowing, smallTargets } from "./axe.ts";
import { Browser, PHONE, WIDE } from "./browser.ts";
import { ROOT, TestServer } from "./server.ts";
import { downloads, startFilled } from "./world.ts";

let server: TestServer;
let browser: Browser;
let families: Record<string, number>;
beforeAll(async () => {
  server = await startFilled();
  const page = FamilyPage.parse(await (await fetch(`${server.address}/api/families?limit=100`)).json());
  families = Object.fromEntries(page.families.map((family) => [family.name, family.id]));
  browser = await Browser.start(PHONE);
}, 240_000);
afterAll(async () => {
  await browser?.quit();
  await server?.stop();
});

const folder = (slug: string, account: string) => join(server.dataDir, "practice", slug, account);
const builtIn = (name: string) => join(ROOT, "build", "demo", "built-in", name);
const words = async (testId: string): Promise<string> => (await browser.find(testId)).getText();
const openPlace = async (family: string, device: string) => {
  await browser.open(`${server.address}/place?family=${families[family]}`);
  await browser.onDevice(device);
};
/** Carries the plan out and waits for its words. */
const doPlan = async (done: string) => {
  await browser.click("do-plan");
  await browser.text(done);
};
const usable = async (of: Browser) => {
  expect(await axe(of)).toEqual([]);
  expect(await smallTargets(of)).toEqual([]);
  expect(await overflowing(of)).toBe(false);
};

describe("on a phone", () => {
  test("for everyone: the passcode is asked for once, a wrong one changes nothing, and another answer can be chosen", async () => {
    await openPlace("Trellis Fair", "Office desktop");
    await browser.click("draw-plan");
    await browser.find("plan-step");
    await doPlan("Placed on Office desktop");
    await openPlace("Trellis Fair", "Office desktop");
    await browser.click("for-everyone");
    await browser.click("draw-plan");
    expect(await words("plan-item")).toContain("In another folder");
    await browser.choose("plan-choice", "Leave it out");
    await browser.waitUntil("nothing is left to do", async () => !(await (await browser.find("do-plan")).isEnabled()));
    await browser.choose("plan-choice", "Move it here (recommended)");
    await browser.waitUntil("both steps are shown", async () => (await browser.all("plan-step")).length === 2);
    await browser.type("passcode", "1111");
    await browser.click("do-plan");
    await browser.text("This is not the passcode. Nothing was changed; 2 tries are left.");
    expect(readdirSync(folder("office-desktop", "everyone"))).toEqual([]);
    await usable(browser);
    await browser.type("passcode", "4711");
    await doPlan("Placed on Office desktop");
    expect([readdirSync(folder("office-desktop", "me")).length, readdirSync(folder("office-desktop", "everyone")).length]).toEqual([0, 1]);
    expect(await browser.words()).toContain("1 placed font before, now 1.");
    await browser.type("passcode", "4711");
    await browser.click("undo-plan");
    await browser.text("Taken back");
    expect(readdirSync(folder("office-desktop", "me"))).toHaveLength(1);
  });

  test("duplicates: shown side by side with the reason, one is taken off, undo brings it back", async () => {
    copyFileSync(join(folder("office-desktop", "me"), "TrellisFair-Regular.ttf"), join(folder("office-desktop", "everyone"), "again.ttf"));
    await browser.open(`${server.address}/devices`);
    await browser.clickText("Office desktop");
    await browser.find("external-change");
    expect(await words("trouble")).toContain("1 duplicate");
    await browser.click("to-duplicates");
    const group = await words("duplicate-group");
    expect(group).toMatch(/The same file in several places[\s\S]*recommended[\s\S]*The very same file\./);
    await usable(browser);
    await browser.click("duplicate-off");
    await browser.find("plan-step");
    await browser.open(`${server.address}/duplicates?device=2`);
    await browser.click("duplicate-remove");
    await doPlan("Duplicates removed from Office desktop");
    expect([...readdirSync(folder("office-desktop", "me")), ...readdirSync(folder("office-desktop", "everyone"))]).toHaveLength(1);
    await browser.click("undo-plan");
    await browser.text("Taken back");
    rmSync(join(folder("office-desktop", "everyone"), "again.ttf"));
  });

  test("looking again: what appeared is named and taken into the library", async () => {
    copyFileSync(builtIn("WrenSmall-Regular.ttf"), join(folder("workshop-laptop", "me"), "wren.ttf"));
    await browser.open(`${server.address}/device/1`);
    await browser.click("rescan");
    expect(await words("looked")).toMatch(/placed fonts? before, now/);
    expect(await words("external-change")).toContain("Wren Small appeared");
    await browser.click("adopt");
    await browser.waitUntil("the external change is settled", async () => (await browser.all("external-changes")).length === 0);
    const page = FamilyPage.parse(await (await fetch(`${server.address}/api/families?search=wren`)).json());
    expect(page.families.map((family) => family.name)).toEqual(["Wren Small"]);
  });

  test("a device out of reach says so, keeps what was seen, and comes back", async () => {
    await browser.open(`${server.address}/device/1`);
    await browser.click("make-difficult");
    await browser.click("fault-away");
    await browser.text("Workshop laptop cannot be reached.");
    expect(await words("placed-font")).toContain("Wren Small");
    await usable(browser);
    await browser.click("fault-away");
    await browser.waitUntil("it is back", async () => (await browser.all("problem")).length === 0);
  });

  test("a tablet: the profile is handed over, allowed and installed with the passcode, found by its program, and removed", async () => {
    await openPlace("Garden Note", "Greenhouse tablet");
    await browser.click("draw-plan");
    expect(await words("by-hand")).toContain("Garden Note, 1 style");
    await browser.click("do-plan");
    await browser.click("to-tablet-room");
    await browser.click("profile-allow");
    await browser.click("profile-install");
    await browser.type("tablet-passcode", "0000");
    await browser.click("tablet-confirm");
    await browser.text("This is not the passcode.");
    await usable(browser);
    await browser.type("tablet-passcode", "1357");
    await browser.click("tablet-confirm");
    await browser.find("profile-remove");
    await browser.open(`${server.address}/device/3`);
    expect(await words("placed-font")).toContain("in a profile, on");
    await browser.click("open-Note Desk");
    await browser.click("start-program");
    expect(await words("font-list")).toContain("Garden Note");
    await browser.click("close-program");
    await browser.open(`${server.address}/tablet-room/3`);
    await browser.click("profile-remove");
    await browser.type("tablet-passcode", "1357");
    await browser.click("tablet-confirm");
    await browser.find("empty");
    await browser.open(`${server.address}/device/3`);
    await browser.click("open-Note Desk");
    await browser.click("start-program");
    expect(await words("font-list")).not.toContain("Garden Note");
  });

  test("a program that loads by hand forgets a font it was not told to keep", async () => {
    const shvil = join(server.dataDir, "shvil.ttf");
    const [name, bytes] = Object.entries(unzipSync(readFileSync(join(downloads, "trellis-fair.zip")))).find(([entry]) =>
      entry.endsWith(".ttf"),
    )!;
    writeFileSync(shvil, bytes);
    expect(name).toContain("Trellis");
    await browser.open(`${server.address}/device/2`);
    await browser.click("open-Browser Desk");
    await browser.click("start-program");
    expect(await words("font-list")).not.toContain("Trellis Fair");
    for (const kept of [false, true]) {
      if (!kept) await browser.click("load-keep");
      await browser.give(shvil);
      await browser.waitUntil("it is listed", async () => (await words("font-list")).includes("Trellis Fair"));
      await browser.click("close-program");
      await browser.click("start-program");
      await browser.waitUntil("only what was kept is there", async () => (await words("font-list")).includes("Trellis Fair") === kept);
    }
  });

  test("a device is made like another, the difference being shown first", async () => {
    await browser.open(`${server.address}/device/1`);
    await browser.click("to-like");
    await browser.click("like-Office desktop");
    await browser.waitUntil("the difference is shown", async () => (await words("comparison")).includes("Trellis Fair"));
    await browser.click("draw-like");
    await browser.text("Make Workshop laptop like Office desktop");
    await doPlan("Workshop laptop is like Office desktop now");
    expect(readdirSync(folder("workshop-laptop", "me"))).toContain("TrellisFair-Regular.ttf");
  });

  test("a family goes to several devices at once: a plan each, one after the other", async () => {
    await browser.open(`${server.address}/place?family=${families["Garden Note"]}`);
    const label = async () => (await browser.find("draw-plan")).getText();
    // No device is taken for granted.
    await browser.waitUntil("a device is asked for", async () => (await label()) === "Choose a device");
    expect(await (await browser.find("add-device")).isDisplayed()).toBe(true);
    for (const name of ["Workshop laptop", "Office desktop"]) await browser.click(`device-${name}`);
    expect(await label()).toBe("Show 2 plans");
    await usable(browser);
    await browser.click("draw-plan");
    await browser.text("Place Garden Note on Workshop laptop");
    await doPlan("Placed on Workshop laptop");
    await browser.click("next-plan");
    await browser.text("Place Garden Note on Office desktop");
    await doPlan("Placed on Office desktop");
    expect(await browser.all("next-plan")).toEqual([]);
    for (const slug of ["workshop-laptop", "office-desktop"])
      expect(readdirSync(folder(slug, "me")).some((file) => file.startsWith("GardenNote"))).toBe(true);
  });

  test("all fonts of a job are turned off together, and carried in a kit", async () => {
    await browser.open(`${server.address}/job/1`);
    await browser.choose("job-device", "Workshop laptop");
    await browser.click("job-switch-off");
    await doPlan("Turned off: ");
    await browser.open(`${server.address}/device/1`);
    await browser.text("turned off");
    await browser.open(`${server.address}/job/1`);
    await browser.click("job-kit");
    await browser.waitUntil("the kit is saved", async () => readdirSync(browser.downloads).some((name) => name.endsWith("-kit.zip")));
    const kit = readdirSync(browser.downloads).find((name) => name.endsWith("-kit.zip"))!;
    const names = Object.keys(unzipSync(readFileSync(join(browser.downloads, kit))));
    expect(names.filter((name) => name.includes("/Fonts/"))).toHaveLength(3);
  });
});

describe("two browsers", () => {
  test("pairing: by code, once; the device sees what is wanted on it, fetches it, and says what it really has", async () => {
    // The other device's account: one wanted font is installed there, another font goes by the name of a second one, a third is missing.
    const home = mkdtempSync(join(tmpdir(), "buvano-device-"));
    const fonts = join(home, ".local", "share", "fonts");
    mkdirSync(fonts, { recursive: true });
    const zipped = (zip: string, ending: string) =>
      Object.entries(unzipSync(readFileSync(join(downloads, zip)))).find(([name]) => name.endsWith(ending))![1];
    writeFileSync(join(fonts, "trellis.ttf"), zipped("trellis-fair.zip", ".ttf"));
    const alias = { family: "Tendril Script", style: "Regular", version: "1.000" };
    writeFileSync(join(fonts, "tendril.ttf"), renamedTables(new Uint8Array(readFileSync(builtIn("AsterPlain-Regular.ttf"))), alias));
    const device = await Browser.start(WIDE, false, home);
    try {
      await browser.open(`${server.address}/pairing`);
      await browser.click("open-network");
      await browser.click("invite");
      const code = await words("pair-code");
      const address = await words("pair-address");
      await usable(browser);

      await device.open(address);
      await device.type("pair-code-field", code === "123456" ? "654321" : "123456");
      await device.type("pair-name", "Shed laptop");
      await device.click("pair-kind-laptop");
      await device.click("pair-now");
      await device.text("This code is not valid, was used already, or is too old.");
      await usable(device);
      await device.type("pair-code-field", code);
      await device.click("pair-now");
      await device.text("Nothing to fetch yet");
      await browser.text("Shed laptop is paired now. A new device needs a new code.");

      for (const family of ["Trellis Fair", "Tendril Script", "Seedbox Block"]) {
        await openPlace(family, "Shed laptop");
        await browser.click("draw-plan");
        await doPlan("It is done once the device shows it.");
      }
      await device.waitUntil("three styles are wanted", async () => (await device.all("my-style")).length === 3);
      await device.click("save-file");
      // A browser holds what comes over plain HTTP until the person keeps it; what arrived is the file itself.
      const saved = () => readdirSync(device.downloads).map((name) => readFileSync(join(device.downloads, name)));
      const shipped = zipped("Seedbox-Layered.zip", "Seedbox Block.ttf");
      await device.waitUntil("the file is saved", async () => saved().some((bytes) => Buffer.compare(bytes, shipped) === 0));
      await device.click("check-here");
      const answers = async () =>
        Promise.all((await device.all("my-style")).map(async (style) => (await style.getText()).split("\n").slice(0, 2)));
      await device.waitUntil("all are answered", async () => (await answers()).every(([, words]) => words !== "Not checked yet"));
      expect(await answers()).toEqual([
        ["Seedbox Block", "Not here yet"],
        ["Tendril Script", "Not here yet"],
        ["Trellis Fair", "Here: drawn as its file draws it"],
      ]);
      await usable(device);
      await browser.click("tab-Devices");
      await browser.clickText("Shed laptop");
      await browser.find("placed-font");
      expect((await browser.all("placed-font")).length).toBe(1);
      expect(await words("placed-font")).toContain("Trellis Fair");

      // Sent away, it is asked for a code again and gets nothing.
      await browser.open(`${server.address}/pairing`);
      await browser.click("revoke");
      await device.find("pair");
      await browser.click("close-network");
      await browser.find("network-shut");
      await device.open(`${address}/mine`).catch(() => {});
      expect(await device.words()).not.toContain("Shed laptop");
    } finally {
      await device.quit();
      rmSync(home, { recursive: true, force: true });
    }
  }, 180_000);
});
